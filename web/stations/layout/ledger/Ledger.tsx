import { toast } from "sonner";
import { type DragEvent, type RefObject, useEffect, useMemo, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import type { Item } from "../../../../core/design/schema";
import { useCalmDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { useNarrow } from "../../../app/useNarrow";
import { textOf } from "../../../fields/TableFile";
import { type GridHands, useGridKeys } from "../../../grid/useGridKeys";
import { useVirtualRows } from "../../../grid/useVirtualRows";
import { ImportDialog } from "./ImportDialog";
import { LedgerTable } from "./LedgerTable";
import { LedgerTools } from "./LedgerTools";
import { useColumns } from "./columns";
import { SHEETS, type SheetName } from "./numbers";
import { useDerived } from "./derived";
import { linesOf, useLedgerTable } from "./useLedgerTable";
import { useRowEdits } from "./useRowEdits";

/** What can be done with several rows at once. */
function ChosenRows({
  many,
  double,
  copy,
  remove,
  onNone,
}: {
  many: Item[];
  double: (ids: ReadonlySet<string>) => void;
  copy: (items: Item[]) => Promise<unknown>;
  remove: (ids: ReadonlySet<string>) => void;
  onNone: () => void;
}) {
  return (
    <p className="no-print flex flex-wrap items-center gap-3 bg-tint-accent px-2 py-1 text-[12px]" role="status">
      <b className="text-ink">{many.length} chosen</b>
      <button type="button" className="link" onClick={() => double(new Set(many.map((i) => i.id)))}>
        duplicate
      </button>
      <button type="button" className="link" onClick={() => void copy(many)}>
        copy
      </button>
      <button type="button" className="link" onClick={() => remove(new Set(many.map((i) => i.id)))}>
        remove
      </button>
      <button type="button" className="link" onClick={onNone}>
        none
      </button>
      <span className="text-pencil">Ctrl+D in a cell fills the first one’s value into all</span>
    </p>
  );
}

/** The part whose name takes the focus as soon as it is drawn. */
function useEntering(
  lines: ReturnType<typeof linesOf>,
  view: ReturnType<typeof useVirtualRows>,
  body: RefObject<HTMLTableSectionElement | null>,
) {
  const entering = useRef<string | null>(null);
  useEffect(() => {
    const id = entering.current;
    if (id === null) return;
    const at = lines.findIndex((l) => l.kind === "part" && l.item.id === id);
    if (at >= 0 && (at < view.from || at >= view.to)) view.show(at);
    const field = body.current?.querySelector<HTMLElement>(`[data-row="${CSS.escape(id)}"] [data-col="name"] input`);
    if (!field) return;
    entering.current = null;
    field.scrollIntoView({ block: "nearest" });
    field.focus();
  });
  return entering;
}

/**
 * The mass ledger, edited in place like a spreadsheet: keys from cell to cell, blocks pasted and copied, rows chosen,
 * filled, doubled, moved, sorted and looked for. A long one draws only what is in view.
 */
export function Ledger({ selected, onSelect }: { selected: string | null; onSelect: (id: string) => void }) {
  const { design, file, version, undo, redo } = useCalmDesk("sheet");
  const { keys } = usePreferences();
  const [sheet, setSheet] = useState<SheetName>(SHEETS[0]);
  const [importing, setImporting] = useState<string | null>(null);
  const columns = useColumns(sheet);
  const derived = useDerived(sheet);
  const { table, byId, sorting, wanted, setWanted, chosen, setChosen, shown } = useLedgerTable(design.items, columns);
  // What was planned is a column for those who plan: it stands there when a part has it, or when it is asked for.
  const plans = design.items.some((i) => i.planned !== null);
  const wantedColumns = useMemo(() => ({ planned: plans, ...shown }), [plans, shown]);
  const narrow = useNarrow();
  const visible = useMemo(() => {
    const all = columns.filter((c) => (wantedColumns as Record<string, boolean>)[c.id] !== false);
    // With a scale in one hand and a phone in the other the weighed mass stands beside the name.
    return narrow ? all.toSorted((a, b) => Number(b.id === "weighed") - Number(a.id === "weighed")) : all;
  }, [columns, wantedColumns, narrow]);
  const rows = table.getRowModel().rows.flatMap((r) => byId.get(r.original.id) ?? []);
  const plainly = sorting.length > 0 || wanted.trim() !== "";
  const lines = useMemo(() => linesOf(rows, plainly), [rows, plainly]);
  const ordered = lines.flatMap((l) => (l.kind === "part" ? [l.item] : []));
  const body = useRef<HTMLTableSectionElement>(null);
  const view = useVirtualRows(lines.length, body);

  const numberOf = useMemo(() => new Map(design.items.map((i, k) => [i.id, k + 1])), [design.items]);
  const entering = useEntering(lines, view, body);
  const order = useRef<string[]>([]);
  order.current = ordered.map((i) => i.id);
  const { add, chosenWith, remove, double, shift, copy, fill, pick, drop, paste } = useRowEdits({
    ordered,
    order,
    visible,
    plainly,
    entering,
    chosen,
    setChosen,
    setWanted,
    onSelect,
    setImporting,
  });
  useHotkeys("n", add, { enabled: keys, preventDefault: true });

  const hands = useRef<GridHands>({} as GridHands);
  hands.current = {
    addRow: add,
    fillDown: fill,
    undo: () => undo?.(),
    redo: () => redo?.(),
    removeRows: (id) => remove(chosenWith(id)),
    duplicateRows: (id) => double(chosenWith(id)),
    shiftRow: shift,
    copyRows: (id) => void copy(design.items.filter((i) => chosenWith(id).has(i.id))),
  };
  const onKeyDown = useGridKeys(hands);

  const dropped = (event: DragEvent) => {
    const [given] = event.dataTransfer.files;
    if (!given) return;
    event.preventDefault();
    if (/\.(svg|stl)$/i.test(given.name))
      return void toast.info(`${given.name} is a shape: drop it on the drawing in Stability.`);
    void textOf(given).then(setImporting);
  };
  const many = ordered.filter((i) => chosen[i.id]);
  return (
    <section
      aria-label="Parts"
      className="px-4 pb-6"
      onPaste={paste}
      onDragOver={(e) => e.dataTransfer.types.includes("Files") && e.preventDefault()}
      onDrop={dropped}
    >
      <LedgerTools
        sheet={sheet}
        setSheet={setSheet}
        wanted={wanted}
        setWanted={setWanted}
        columns={columns}
        wantedColumns={wantedColumns}
        table={table}
        setImporting={setImporting}
        copy={copy}
        design={design}
        file={file}
        version={version}
      />
      {many.length > 0 && <ChosenRows {...{ many, double, copy, remove }} onNone={() => setChosen({})} />}
      <div className="overflow-x-auto">
        <LedgerTable
          ordered={ordered}
          onKeyDown={onKeyDown}
          visible={visible}
          sorting={sorting}
          table={table}
          body={body}
          view={view}
          lines={lines}
          numberOf={numberOf}
          design={design}
          selected={selected}
          chosen={chosen}
          derived={derived}
          onSelect={onSelect}
          pick={pick}
          plainly={plainly}
          drop={drop}
          wanted={wanted}
        />
      </div>
      <p className="no-print mt-2 flex flex-wrap gap-3">
        <button type="button" className="act" onClick={add}>
          Add a part
        </button>
        <span className="self-center text-[11px] text-pencil">
          Any unit and simple sums may be typed: 7 oz, 11.5 in, 120+35 g. Arrows and Enter go from cell to cell, the
          last row adds another; cells of a spreadsheet can be pasted into these, a list or a file dropped here.
        </span>
      </p>
      {importing !== null && <ImportDialog start={importing} onClose={() => setImporting(null)} />}
    </section>
  );
}
