import {
  type RowSelectionState,
  type SortingState,
  columnFilteringFeature,
  columnVisibilityFeature,
  createFilteredRowModel,
  createSortedRowModel,
  globalFilteringFeature,
  rowSelectionFeature,
  rowSortingFeature,
  tableFeatures,
  useTable,
} from "@tanstack/react-table";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Item } from "../../../../core/design/schema";
import type { Column } from "./numbers";

const features = tableFeatures({
  rowSortingFeature,
  columnFilteringFeature,
  globalFilteringFeature,
  rowSelectionFeature,
  columnVisibilityFeature,
  sortedRowModel: createSortedRowModel(),
  filteredRowModel: createFilteredRowModel(),
});

/** Whether every word of what is looked for is in the part's name or group. */
const holds = (item: Item, wanted: string) => {
  const text = `${item.name} ${item.group}`.toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((w) => text.includes(w));
};
const SHOWN = "ledger/columns";
const heldShown = (): Record<string, boolean> => {
  try {
    return JSON.parse(localStorage.getItem(SHOWN) ?? "{}") as Record<string, boolean>;
  } catch {
    return {};
  }
};

interface Listed {
  id: string;
}

/** The models of the list: what is sorted, looked for, chosen and shown. */
export function useLedgerTable(items: Item[], columns: Column[]) {
  const byId = useRef(new Map<string, Item>());
  byId.current = new Map(items.map((i) => [i.id, i]));
  const [sorting, setSorting] = useState<SortingState>([]);
  const [wanted, setWanted] = useState("");
  const [chosen, setChosen] = useState<RowSelectionState>({});
  const [shown, setShown] = useState(heldShown);
  // The list is one of ids, made anew when it is sorted or looked for: a part that moves sorts nothing, and no row
  // jumps while it is typed in.
  const names = items.map((i) => i.id).join("\n");
  // biome-ignore lint/correctness/useExhaustiveDependencies: values are read once for each sorting and each search
  const ids = useMemo(() => (names === "" ? [] : names.split("\n").map((id) => ({ id }))), [names, sorting, wanted]);
  const defs = useMemo(
    () => [
      {
        id: "name",
        accessorFn: ({ id }: Listed) => byId.current.get(id)?.name,
        enableHiding: false,
        sortUndefined: "last" as const,
      },
      ...columns.map((c) => ({
        id: c.id,
        accessorFn: ({ id }: Listed) => {
          const item = byId.current.get(id);
          return (item && c.by?.(item)) ?? undefined;
        },
        enableSorting: c.by !== undefined,
        // Of numbers the largest first.
        sortDescFirst: c.right === true,
        sortUndefined: "last" as const,
      })),
    ],
    [columns],
  );
  useEffect(() => {
    localStorage.setItem(SHOWN, JSON.stringify(shown));
  }, [shown]);
  const table = useTable({
    features,
    data: ids,
    columns: defs,
    getRowId: ({ id }: Listed) => id,
    state: { sorting, globalFilter: wanted, rowSelection: chosen, columnVisibility: shown },
    onSortingChange: setSorting,
    onGlobalFilterChange: setWanted,
    onRowSelectionChange: setChosen,
    onColumnVisibilityChange: setShown,
    globalFilterFn: (row: { original: Listed }, _column: string, value: string) => {
      const item = byId.current.get(row.original.id);
      return item !== undefined && holds(item, value);
    },
    getColumnCanGlobalFilter: (column: { id: string }) => column.id === "name",
  });
  return { table, byId: byId.current, sorting, wanted, setWanted, chosen, setChosen, shown };
}

export type Line = { kind: "group"; group: string; items: Item[] } | { kind: "part"; item: Item };

/** Groups with their parts where there are several and nothing is sorted or looked for; else the parts alone. */
export function linesOf(rows: Item[], plainly: boolean): Line[] {
  const groups = [...new Set(rows.map((i) => i.group))];
  if (plainly || groups.length < 2) return rows.map((item) => ({ kind: "part", item }));
  return groups.flatMap((group): Line[] => {
    const items = rows.filter((i) => i.group === group);
    return [{ kind: "group", group, items }, ...items.map((item): Line => ({ kind: "part", item }))];
  });
}
