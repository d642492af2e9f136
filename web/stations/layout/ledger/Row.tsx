import { useDrag } from "@use-gesture/react";
import { type MouseEvent, memo, useState } from "react";
import { nameItem } from "../../../../core/design/byWords";
import type { Item } from "../../../../core/design/schema";
import { useDeskActions } from "../../../app/desk";
import { TextField } from "../../../fields/TextField";
import type { Derived } from "./derived";
import type { Column } from "./numbers";

type Measure = ((element: HTMLTableRowElement | null) => void) | undefined;

interface RowProps {
  item: Item;
  index: number;
  measure: Measure;
  number: number;
  host: string | null;
  selected: boolean;
  chosen: boolean;
  last: boolean;
  derived: Derived;
  columns: Column[];
  onSelect: (id: string) => void;
  onPick: (id: string, how: "one" | "more" | "range") => void;
  /** Moves a row to before another; null where the order is not the list's own. */
  onDropBefore: ((id: string, before: string) => void) | null;
}

const howOf = (e: MouseEvent) => (e.shiftKey ? "range" : e.ctrlKey || e.metaKey ? "more" : "one");

/** The row under a point of the page. */
const rowAt = (x: number, y: number): string | null =>
  document.elementFromPoint(x, y)?.closest<HTMLElement>("[data-row]")?.dataset.row ?? null;

/** Number of a row: chooses it, with Ctrl or Shift several; dragged, it moves the row. */
function RowNumber({
  item,
  number,
  onPick,
  onDropBefore,
}: Pick<RowProps, "item" | "number" | "onPick" | "onDropBefore">) {
  const [dragging, setDragging] = useState(false);
  const bind = useDrag(
    ({ xy: [x, y], last, canceled }) => {
      setDragging(!last);
      if (!last || canceled || !onDropBefore) return;
      const before = rowAt(x, y);
      if (before !== null && before !== item.id) onDropBefore(item.id, before);
    },
    { filterTaps: true, enabled: onDropBefore !== null, pointer: { keys: false } },
  );
  return (
    <button
      type="button"
      {...bind()}
      // Tab goes from cell to cell; the number is reached by the left arrow.
      tabIndex={-1}
      data-number
      className={
        "min-h-6 w-full touch-none text-right select-none " +
        `${dragging ? "cursor-grabbing font-semibold text-accent" : ""}`
      }
      aria-label={`${number}, select ${item.name}`}
      title="Ctrl or Shift chooses several; drag moves the row"
      onClick={(e) => onPick(item.id, howOf(e))}
    >
      {number}
    </button>
  );
}

export const Row = memo(
  function Row(props: RowProps) {
    const { item, index, measure, host, selected, chosen, last, derived, columns, onSelect } = props;
    const { edit } = useDeskActions();
    return (
      <tr
        ref={measure}
        data-index={index}
        data-row={item.id}
        data-last={last ? "" : undefined}
        className={
          chosen ? "bg-tint-accent outline-1 -outline-offset-1 outline-accent" : selected ? "bg-tint-accent" : ""
        }
        onFocus={() => onSelect(item.id)}
      >
        <td className="num text-right" data-col="number">
          <RowNumber {...props} />
        </td>
        <td data-col="name">
          <span className="flex items-baseline">
            {host !== null && (
              <span className="text-pencil" title={`on ${host}`}>
                └
              </span>
            )}
            <TextField
              required
              label={`${item.name}, name`}
              value={item.name}
              className="text-ink"
              onCommit={(v) =>
                edit((d) => {
                  const p = d.items.find((x) => x.id === item.id);
                  if (p) nameItem(p, { name: v }, d.items);
                })
              }
            />
          </span>
        </td>
        {columns.map((c) => (
          <td key={c.id} data-col={c.id} className={c.right ? "text-right" : ""}>
            {c.cell(item, derived)}
          </td>
        ))}
      </tr>
    );
  },
  (a, b) =>
    (Object.keys(a) as (keyof RowProps)[]).every((k) => k === "derived" || a[k] === b[k]) &&
    (Object.keys({ ...a.derived, ...b.derived }) as (keyof Derived)[]).every((k) => a.derived[k] === b.derived[k]),
);

/** Name and sums of a group of parts. */
export function GroupRow({
  index,
  measure,
  group,
  items,
  columns,
}: {
  index: number;
  measure: Measure;
  group: string;
  items: Item[];
  columns: Column[];
}) {
  return (
    <tr ref={measure} data-index={index} className="bg-well text-[12px]" data-group={group}>
      <td />
      <td className="font-semibold text-ink">
        {group || "no group"} <span className="num font-normal text-pencil">{items.length}</span>
      </td>
      {columns.map((c) => (
        <td key={c.id} className={`num ${c.right ? "text-right" : ""}`}>
          {c.sum?.(items)}
        </td>
      ))}
    </tr>
  );
}
