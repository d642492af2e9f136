import { useEffect } from "react";
import { toast } from "sonner";
import { asOneStep } from "../app/oneStep";
import { blockOf } from "./block";

type Field = HTMLInputElement | HTMLSelectElement;
const FIELDS = "input:not([type=checkbox]):not([type=radio]):not([type=file]):not([disabled]), select:not([disabled])";
const fieldOf = (cell: Element | undefined): Field | null => cell?.querySelector<Field>(FIELDS) ?? null;

/** Rows of a list from one on that have fields, and the columns of it from one on that have. */
function placesFrom(cell: HTMLTableCellElement): { rows: HTMLTableRowElement[]; columns: number[] } | null {
  const row = cell.closest("tr");
  const body = row?.parentElement;
  if (!row || !body) return null;
  const all = [...body.children].filter((r): r is HTMLTableRowElement => r.querySelector(`td ${FIELDS}`) !== null);
  const columns = [...row.children].flatMap((c, k) => (k >= cell.cellIndex && fieldOf(c) ? [k] : []));
  return { rows: all.slice(all.indexOf(row)), columns };
}

/** The next turn of the page, when what was typed has been drawn. */
const turn = () => new Promise<void>((done) => setTimeout(done));

/** Types a text into a field and leaves it, as hands would. @returns whether it could be put there at all */
async function put(field: Field, text: string): Promise<boolean> {
  field.focus();
  await turn();
  const select = field instanceof HTMLSelectElement;
  const wanted = text.trim();
  const value = select ? [...field.options].find((o) => o.text === wanted || o.value === wanted)?.value : wanted;
  if (value === undefined) return false;
  const kind = select ? HTMLSelectElement : HTMLInputElement;
  Object.getOwnPropertyDescriptor(kind.prototype, "value")?.set?.call(field, value);
  field.dispatchEvent(new Event(select ? "change" : "input", { bubbles: true }));
  await turn();
  field.blur();
  await turn();
  return true;
}
const wrong = (field: Field | null) => field?.getAttribute("aria-invalid") === "true";

async function fill(cell: HTMLTableCellElement, block: string[][]): Promise<void> {
  const places = placesFrom(cell);
  if (!places) return;
  const cells = block.flatMap((texts, k) =>
    texts.flatMap((text, j) => {
      const [row, column] = [places.rows[k], places.columns[j]];
      return row && column !== undefined ? [{ text, at: () => fieldOf(row.children[column]) }] : [];
    }),
  );
  let passed = 0;
  for (const { text, at } of cells) {
    const field = at();
    if (!field || !(await put(field, text))) passed++;
  }
  // What one cell was refused for may be right once those after it stand: rows in order of place, for example.
  for (let again = 0; again < 3 && cells.some((c) => wrong(c.at())); again++)
    for (const { text, at } of cells) {
      const field = at();
      if (field && wrong(field)) await put(field, text);
    }
  const marked = cells.filter((c) => wrong(c.at())).length;
  const done = cells.length - marked - passed;
  const lost = block.length - places.rows.length;
  const said = [
    `${done} ${done === 1 ? "cell" : "cells"} pasted`,
    ...(passed > 0
      ? [`${passed} left as ${passed === 1 ? "it was: its list has" : "they were: their lists have"} no such word`]
      : []),
    ...(marked > 0 ? [`${marked} cannot be read: ${marked === 1 ? "it stands" : "they stand"} marked as pasted`] : []),
    ...(lost > 0 ? [`${lost} ${lost === 1 ? "row" : "rows"} found no place: add rows first`] : []),
  ].join("; ");
  (marked + lost + passed > 0 ? toast.warning : toast.success)(`${said}. Ctrl+Z takes it back.`);
}

/**
 * A block of a spreadsheet that is pasted into a field of any list goes to the fields below it and to the right, and
 * is undone as one. Lists with a paste of their own are left to it.
 */
export function useListPaste(): void {
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const field = event.target as Element | null;
      const cell = field?.closest<HTMLTableCellElement>("table.rows td");
      if (event.defaultPrevented || !cell || !field?.matches(FIELDS) || cell.closest("[data-grid]")) return;
      const block = blockOf(event.clipboardData?.getData("text") ?? "");
      if (!block) return;
      event.preventDefault();
      void asOneStep(() => fill(cell, block));
    };
    document.addEventListener("paste", paste);
    return () => document.removeEventListener("paste", paste);
  }, []);
}
