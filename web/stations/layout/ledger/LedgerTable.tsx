import type { RowSelectionState, SortingState } from "@tanstack/react-table";
import type { KeyboardEvent, RefObject } from "react";
import type { Design, Item } from "../../../../core/design/schema";
import type { useVirtualRows } from "../../../grid/useVirtualRows";
import type { Derived } from "./derived";
import { Head } from "./Head";
import type { Column } from "./numbers";
import { GroupRow, Row } from "./Row";
import type { Line, useLedgerTable } from "./useLedgerTable";

/** The rows of the list, as a grid. */
export function LedgerTable({
  ordered,
  onKeyDown,
  visible,
  sorting,
  table,
  body,
  view,
  lines,
  numberOf,
  design,
  selected,
  chosen,
  derived,
  onSelect,
  pick,
  plainly,
  drop,
  wanted,
}: {
  ordered: Item[];
  onKeyDown: (event: KeyboardEvent<HTMLElement>) => void;
  visible: Column[];
  sorting: SortingState;
  table: ReturnType<typeof useLedgerTable>["table"];
  body: RefObject<HTMLTableSectionElement | null>;
  view: ReturnType<typeof useVirtualRows>;
  lines: Line[];
  numberOf: Map<string, number>;
  design: Design;
  selected: string | null;
  chosen: RowSelectionState;
  derived: (item: Item) => Derived;
  onSelect: (id: string) => void;
  pick: (id: string, how: "range" | "more" | "one") => void;
  plainly: boolean;
  drop: (id: string, before: string) => undefined;
  wanted: string;
}) {
  const last = ordered.at(-1)?.id;
  return (
    <table className="rows w-full min-w-[840px] table-fixed" onKeyDown={onKeyDown} data-grid="parts">
      <colgroup>
        <col className="w-[30px]" />
        <col />
        {visible.map((c) => (
          <col key={c.id} className={c.width} />
        ))}
      </colgroup>
      <thead>
        <tr>
          <th />
          <Head id="name" head="Part" sorting={sorting} onSort={() => table.getColumn("name")?.toggleSorting()} />
          {visible.map((c) => (
            <Head
              key={c.id}
              id={c.id}
              head={c.head}
              right={c.right}
              sorting={sorting}
              onSort={c.by && c.head ? () => table.getColumn(c.id)?.toggleSorting() : undefined}
            />
          ))}
        </tr>
      </thead>
      <tbody ref={body}>
        {view.above > 0 && <tr style={{ height: view.above }} />}
        {lines
          .slice(view.from, view.to)
          .map((line, k) =>
            line.kind === "group" ? (
              <GroupRow
                key={`group ${line.group}`}
                index={view.from + k}
                measure={view.measure}
                group={line.group}
                items={line.items}
                columns={visible}
              />
            ) : (
              <Row
                key={line.item.id}
                index={view.from + k}
                measure={view.measure}
                item={line.item}
                number={numberOf.get(line.item.id) ?? 0}
                host={
                  line.item.parentId === null
                    ? null
                    : (design.items.find((p) => p.id === line.item.parentId)?.name ?? null)
                }
                selected={line.item.id === selected}
                chosen={chosen[line.item.id] === true}
                last={line.item.id === last}
                derived={derived(line.item)}
                columns={visible}
                onSelect={onSelect}
                onPick={pick}
                onDropBefore={plainly ? null : drop}
              />
            ),
          )}
        {view.below > 0 && <tr style={{ height: view.below }} />}
        <tr data-total className="text-[12px]">
          <td />
          <td className="font-semibold text-ink">{wanted.trim() ? `${ordered.length} found` : "All parts"}</td>
          {visible.map((c) => (
            <td key={c.id} className={`num ${c.right ? "text-right" : ""}`}>
              {c.sum?.(ordered)}
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  );
}
