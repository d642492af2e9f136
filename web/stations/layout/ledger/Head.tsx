import type { SortingState } from "@tanstack/react-table";

/** The head of a column; a click sorts by it, the other way round, and not at all. */
export function Head({
  id,
  head,
  right,
  sorting,
  onSort,
}: {
  id: string;
  head: string;
  right?: boolean;
  sorting: SortingState;
  onSort?: () => void;
}) {
  const by = sorting.find((s) => s.id === id);
  return (
    <th
      className={`align-bottom ${right ? "text-right!" : ""}`}
      aria-sort={by ? (by.desc ? "descending" : "ascending") : undefined}
      scope="col"
    >
      {onSort ? (
        <button
          type="button"
          className={`min-h-6 w-full font-[inherit] ${right ? "text-right" : "text-left"}`}
          onClick={onSort}
        >
          {head}
          {by ? (by.desc ? " ↓" : " ↑") : ""}
        </button>
      ) : (
        head
      )}
    </th>
  );
}
