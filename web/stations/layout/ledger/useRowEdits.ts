import { type ClipboardEvent, type RefObject, useCallback, useRef } from "react";
import { toast } from "sonner";
import type { Item } from "../../../../core/design/schema";
import { partsText } from "../../../../core/exchange/partsExchange";
import { guessReading } from "../../../../core/exchange/partsColumns";
import { rowsOfSentence } from "../../../../core/exchange/sentence";
import { blankPart, duplicateItems, moveRow, removeItems } from "../../../../core/subjects/mass/ledger";
import { useCalmDesk } from "../../../app/desk";
import { blockOf } from "../../../grid/block";
import type { Column } from "./numbers";
import { pasteBlock } from "./pasteBlock";
import type { useLedgerTable } from "./useLedgerTable";

/** The list as it is shown, and what else an edit of its rows touches. */
interface Shown extends Pick<ReturnType<typeof useLedgerTable>, "chosen" | "setChosen" | "setWanted"> {
  /** The parts in the order in which they stand. */
  ordered: Item[];
  order: RefObject<string[]>;
  visible: Column[];
  /** Sorted, or looked for: the order is not the list's own. */
  plainly: boolean;
  /** The part whose name takes the focus as soon as it is drawn. */
  entering: RefObject<string | null>;
  onSelect: (id: string) => void;
  setImporting: (text: string) => void;
}

/** What is done to rows of the ledger: added, removed, doubled, moved, filled, copied, pasted, chosen. */
export function useRowEdits({
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
}: Shown) {
  const { design, edit, frozen, undo } = useCalmDesk("sheet");
  // What a message offers to undo is undone as things stand when it is pressed.
  const latest = useRef(undo);
  latest.current = undo;
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
  }, [edit, onSelect, setWanted, entering]);
  const chosenWith = (id: string): Set<string> =>
    new Set(chosen[id] ? design.items.flatMap((i) => (chosen[i.id] ? [i.id] : [])) : [id]);
  // On a frozen version a change waits for its child draft, which asks by itself: nothing has been done yet.
  const say = (text: string) => {
    if (!frozen) toast.success(text, { action: { label: "Undo", onClick: () => latest.current?.() } });
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
    [onSelect, setChosen, order],
  );
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
        `${cells} ${cells === 1 ? "cell" : "cells"} ` +
          `pasted${added > 0 ? `, ${added} ${added === 1 ? "part" : "parts"} added` : ""}. Ctrl+Z takes ` +
          "it back.",
      );
  };
  return { add, chosenWith, remove, double, shift, copy, fill, pick, drop, paste };
}
