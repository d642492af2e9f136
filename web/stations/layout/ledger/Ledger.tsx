import { type ClipboardEvent, type DragEvent, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { toast } from "sonner";
import type { Item } from "../../../../core/design/schema";
import { partsText } from "../../../../core/exchange/partsExchange";
import { guessReading } from "../../../../core/exchange/partsTable";
import { rowsOfSentence } from "../../../../core/exchange/sentence";
import { blankPart, duplicateItems, moveRow, removeItems } from "../../../../core/subjects/mass/ledger";
import { useCalmDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { useNarrow } from "../../../app/useNarrow";
import { textOf } from "../../../fields/TableFile";
import { blockOf } from "../../../grid/block";
import { type GridHands, useGridKeys } from "../../../grid/useGridKeys";
import { useVirtualRows } from "../../../grid/useVirtualRows";
import { ImportDialog } from "./ImportDialog";
import { LedgerTable } from "./LedgerTable";
import { LedgerTools } from "./LedgerTools";
import { SHEETS, type SheetName, useColumns } from "./columns";
import { useDerived } from "./derived";
import { pasteBlock } from "./pasteBlock";
import { linesOf, useLedgerTable } from "./useLedgerTable";

/**
 * The mass ledger, edited in place like a spreadsheet: keys from cell to cell, blocks pasted and copied, rows chosen,
 * filled, doubled, moved, sorted and looked for. A long one draws only what is in view.
 */
export function Ledger({ selected, onSelect }: { selected: string | null; onSelect: (id: string) => void }) {
  const { design, edit, file, version, undo, redo, frozen } = useCalmDesk("sheet");
  const { keys } = usePreferences();
  const [sheet, setSheet] = useState<SheetName>(SHEETS[0]);
  const [importing, setImporting] = useState<string | null>(null);
  const columns = useColumns(sheet);
  const derived = useDerived();
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

  /** The part whose name takes the focus as soon as it is drawn. */
  const entering = useRef<string | null>(null);
  const numberOf = useMemo(() => new Map(design.items.map((i, k) => [i.id, k + 1])), [design.items]);
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
  const add = useCallback(() => {
    let made: string | null = null;
    edit((d) => {
      const part = blankPart(d);
      made = part.id;
      d.items.push(part);
    });
    if (made === null) return;
    setWanted("");
    entering.current = made;
    onSelect(made);
  }, [edit, onSelect, setWanted]);
  useHotkeys("n", add, { enabled: keys, preventDefault: true });

  const chosenWith = (id: string): Set<string> =>
    new Set(chosen[id] ? design.items.flatMap((i) => (chosen[i.id] ? [i.id] : [])) : [id]);
  // On a frozen version a change waits for its child draft, which asks by itself: nothing has been done yet.
  const say = (text: string) => {
    if (!frozen) toast.success(text, { action: { label: "Undo", onClick: () => hands.current.undo() } });
  };
  const remove = (ids: ReadonlySet<string>) => {
    if (edit((d) => removeItems(d, ids)) !== null) return;
    setChosen({});
    say(
      `${ids.size} ${ids.size === 1 ? "part" : "parts"} removed. Ctrl+Z brings ${ids.size === 1 ? "it" : "them"} back.`,
    );
  };
  const double = (ids: ReadonlySet<string>) => {
    let made: string[] = [];
    if (edit((d) => void (made = duplicateItems(d, ids))) !== null) return;
    entering.current = made[0] ?? null;
    setChosen({});
  };
  const shift = (id: string, by: 1 | -1) => {
    if (plainly) return void toast("Sorted, or looked for: the order is the list's own only without.");
    const at = design.items.findIndex((i) => i.id === id);
    const next = design.items[by === 1 ? at + 2 : at - 1];
    if ((by === -1 && at <= 0) || (by === 1 && at === design.items.length - 1)) return;
    edit((d) => moveRow(d, id, next?.id ?? null));
  };
  const copy = (items: readonly Item[]) =>
    navigator.clipboard
      .writeText(partsText(items, "\t"))
      .then(() => toast.success(`${items.length} rows copied: paste them into a spreadsheet.`))
      .catch(() => toast.error("The browser does not allow copying here: save the CSV instead."));
  const fill = (id: string, columnId: string) => {
    const column = visible.find((c) => c.id === columnId);
    const many = chosen[id] ? ordered.filter((i) => chosen[i.id]) : [];
    const [from, ...into] =
      many.length > 1 ? many : ordered.slice(Math.max(0, ordered.findIndex((i) => i.id === id) - 1)).slice(0, 2);
    if (!column?.text || !column.write || !from || into.length === 0) return;
    const text = column.text(from);
    (document.activeElement as HTMLElement | null)?.blur();
    let refused: string | null = null;
    edit((d) => {
      for (const { id: to } of into) {
        const item = d.items.find((i) => i.id === to);
        if (item) refused ??= column.write?.(d, item, text) ?? null;
      }
    });
    if (refused !== null) toast.error(refused);
  };
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

  const pick = useCallback(
    (id: string, how: "one" | "more" | "range") => {
      onSelect(id);
      setChosen((was) => {
        if (how === "one") return {};
        if (how === "more") {
          const { [id]: held, ...others } = was;
          return held ? others : { ...was, [id]: true };
        }
        const ids = order.current;
        const [a, b] = [ids.findIndex((x) => was[x]), ids.indexOf(id)].sort((x, y) => x - y);
        return Object.fromEntries(ids.slice(Math.max(0, a ?? 0), (b ?? 0) + 1).map((x) => [x, true]));
      });
    },
    [onSelect, setChosen],
  );
  const order = useRef<string[]>([]);
  order.current = ordered.map((i) => i.id);
  const drop = useCallback((id: string, before: string) => void edit((d) => moveRow(d, id, before)), [edit]);

  const paste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData("text/plain");
    // Several parts said in one sentence are looked at before they become rows.
    if ((rowsOfSentence(text)?.split("\n").length ?? 0) > 2) {
      event.preventDefault();
      return setImporting(text);
    }
    const block = blockOf(text);
    if (block === null) return;
    event.preventDefault();
    const cell = (event.target as Element).closest<HTMLElement>("[data-col]");
    const row = cell?.closest<HTMLElement>("[data-row]");
    if (!cell || !row || guessReading(text).headerLine !== null) return setImporting(text);
    (document.activeElement as HTMLElement | null)?.blur();
    const into = { rows: order.current, columns: visible, row: row.dataset.row ?? "", column: cell.dataset.col ?? "" };
    const refused: string[] = [];
    let [cells, added] = [0, 0];
    const wrong = edit((d) => {
      const done = pasteBlock(d, block, into);
      [cells, added] = [done.cells, done.added];
      refused.push(...done.refused);
      if (refused.length > 0) d.items = design.items;
    });
    if (refused.length > 0)
      toast.error(`Nothing was pasted: ${refused[0]}${refused.length > 1 ? ` And ${refused.length - 1} more.` : ""}`);
    else if (wrong === null)
      say(
        `${cells} ${cells === 1 ? "cell" : "cells"} pasted${added > 0 ? `, ${added} ${added === 1 ? "part" : "parts"} added` : ""}. Ctrl+Z takes it back.`,
      );
  };
  const dropped = (event: DragEvent) => {
    const [given] = event.dataTransfer.files;
    if (!given) return;
    event.preventDefault();
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
      {many.length > 0 && (
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
          <button type="button" className="link" onClick={() => setChosen({})}>
            none
          </button>
          <span className="text-pencil">Ctrl+D in a cell fills the first one’s value into all</span>
        </p>
      )}
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
