import { nameItem } from "../../../../core/design/byWords";
import type { Design, Item } from "../../../../core/design/schema";
import { blankPart } from "../../../../core/subjects/mass/ledger";
import type { Column } from "./numbers";

export interface PasteInto {
  /** Ids of the rows in the order shown. */
  rows: readonly string[];
  /** Columns shown after the name. */
  columns: readonly Column[];
  /** Row and column of the cell that the block's first cell goes into. */
  row: string;
  column: string;
}

/** Most parts that one paste may add. */
const MOST = 1000;

/**
 * Puts a block of texts into the cells of a draft from one cell on to the right and down; rows beyond the last become
 * new parts. Cells under a column that is computed are passed over.
 *
 * @returns what was refused, each with its row and column; then nothing of the draft may be kept
 */
export function pasteBlock(
  design: Design,
  block: readonly (readonly string[])[],
  { rows, columns, row, column }: PasteInto,
): { cells: number; added: number; refused: string[] } {
  const from = rows.indexOf(row);
  const ids = ["name", ...columns.map((c) => c.id)];
  const start = Math.max(0, ids.indexOf(column));
  const refused: string[] = [];
  let [cells, added] = [0, 0];
  for (const [k, texts] of block.entries()) {
    const at = rows[from + k];
    let item = design.items.find((i) => i.id === at);
    if (!item) {
      if (added >= MOST) {
        refused.push(`more than ${MOST} parts at once.`);
        break;
      }
      item = blankPart(design);
      design.items.push(item);
      // What was pushed into a draft is reached through it.
      item = design.items.at(-1) ?? item;
      added++;
    }
    for (const [j, text] of texts.entries()) {
      const id = ids[start + j];
      if (id === undefined) continue;
      const problem =
        id === "name" ? named(item, text, design.items) : columns.find((c) => c.id === id)?.write?.(design, item, text);
      if (problem === undefined) continue;
      if (problem !== null) {
        const head = id === "name" ? "name" : columns.find((c) => c.id === id)?.head;
        refused.push(`row ${k + 1}, ${head}: ${problem}`);
      } else cells++;
    }
  }
  return { cells, added, refused };
}

function named(item: Item, text: string, items: readonly Item[]): string | null {
  if (text.trim() === "") return "a name is needed.";
  if (text.length > 120) return "a name has at most 120 characters.";
  nameItem(item, { name: text.trim() }, items);
  return null;
}
