import Papa from "papaparse";
import type { Dimension } from "../design/units";
import { moneyHere } from "../design/money";
import { parseQuantity } from "../design/readQuantity";

/**
 * A column of a list of parts: what it is called in a header, how else people call it, and the unit of a bare number
 * in it.
 */
export interface ListColumn<Role extends string = string> {
  role: Role;
  title: string;
  named: RegExp;
  dimension?: Dimension;
  /** Unit of a bare number when the header names none; also the unit written. */
  unit?: string;
}

/** The price of a part: its heading names the currency, and a price in another one is refused. */
export const PRICE_COLUMN = {
  role: "price",
  get title() {
    return `Price (${moneyHere().currency})`;
  },
  named: /^(price|cost)$/i,
  dimension: "money",
} as const;

export interface Refused {
  /** line of the text */
  line: number;
  reason: string;
}

/** A row as read: the text of every cell that is not empty, and the value in stored units of those with a dimension. */
export interface ListRow<Role extends string> {
  line: number;
  text: Partial<Record<Role, string>>;
  number: Partial<Record<Role, number>>;
  /** What is wrong with it, in words; null when all could be read. */
  wrong: string | null;
}

/**
 * Rows of a CSV list with a header: comma, semicolon or tab; a unit in the header in brackets, or in the cell;
 * decimal point or comma. Columns that are not known are passed over.
 *
 * @returns `refused` with one entry when a needed column is missing
 */
export function readList<Role extends string>(
  text: string,
  columns: readonly ListColumn<Role>[],
  needed: readonly Role[],
): { rows: ListRow<Role>[]; refused: Refused[] } {
  const table = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), {
    skipEmptyLines: false,
    delimitersToGuess: [",", ";", "\t"],
  }).data;
  const start = table.findIndex((r) => r.some((c) => c.trim() !== ""));
  const header = table[start] ?? [];
  const found = header.map((h) => {
    const [, name = "", unit] = /^\s*([^([]*?)\s*(?:[([]([^)\]]*)[)\]])?\s*$/.exec(h) ?? [];
    const column = columns.find((c) => c.named.test(name));
    return column && { ...column, unit: unit ?? column.unit };
  });
  const missing = needed.find((need) => !found.some((r) => r?.role === need));
  if (missing !== undefined) {
    const title = columns.find((c) => c.role === missing)?.title ?? missing;
    return {
      rows: [],
      refused: [
        {
          line: start + 1,
          reason: `There is no column “${title}” in the header. A list saved here has all that are read.`,
        },
      ],
    };
  }
  const rows = table.slice(start + 1).flatMap((cells, k): ListRow<Role>[] => {
    if (cells.every((c) => c.trim() === "")) return [];
    const row: ListRow<Role> = { line: start + k + 2, text: {}, number: {}, wrong: null };
    found.forEach((column, i) => {
      const raw = (cells[i] ?? "").trim();
      if (!column || raw === "") return;
      row.text[column.role] = raw;
      if (!column.dimension) return;
      const bare = /^[\d\s.,+-]+$/.test(raw);
      const read = parseQuantity(bare ? `${raw} ${column.unit ?? ""}` : raw, column.dimension, "metric");
      if (read.ok) row.number[column.role] = read.value;
      else row.wrong ??= `${column.title}: ${read.message}`;
    });
    return [row];
  });
  return { rows, refused: [] };
}

/** A bare number in a cell, with a decimal point or comma; null for an empty cell, NaN for what is none. */
export const numberIn = (text: string | undefined): number | null =>
  text === undefined ? null : Number(text.replace(",", "."));

/** A number without the dust of conversions. */
export const clean = (v: number): number => Number(v.toPrecision(9));

/** CSV of these columns; what a spreadsheet would run as a formula goes out marked as text. */
export const listText = (columns: readonly ListColumn[], data: (string | number | null)[][]): string =>
  Papa.unparse({ fields: columns.map((c) => c.title), data }, { newline: "\n", escapeFormulae: /^[=@]/ });

/** What the first complaint of a schema says, with the field that it is about. */
export const complaint = (issue: { path: PropertyKey[]; message: string } | undefined): string =>
  `${String(issue?.path[0] ?? "row")}: ${issue?.message ?? "cannot be read"}`;
