import Papa from "papaparse";
import { moneyHere } from "../design/money";
import { PART_ROLES, type PartRole, countsToPort, isOfRow, rolesNamed } from "./partsHeads";
import { currencyIn, currencyOfCells } from "./priceCell";
import { guessDelimiter, linesOf } from "./textTable";

export interface PartColumn {
  header: string;
  role: PartRole;
  /** Unit of cells that name none. */
  unit: string;
  /** The column counts to port where the craft counts to starboard. */
  toPort?: true;
}

/** How a table was understood, and what a person may correct. */
export interface TableReading {
  delimiter: string;
  decimal: "." | ",";
  /** 1-based physical line of the header; null when there is none. */
  headerLine: number | null;
  columns: PartColumn[];
  /** Whether the mass column gives the mass of one piece, or of the whole row. */
  massIs: "each" | "row";
}

export interface Row {
  /** 1-based physical line on which it begins: a quoted cell may hold line breaks */
  line: number;
  cells: string[];
}

/** Rows of a table; the lines that draw a table in a text (|---|---:|) are none. */
export function rowsOf(text: string, delimiter: string): Row[] {
  const rows: Row[] = [];
  let line = 1;
  let at = 0;
  Papa.parse<string[]>(text, {
    delimiter,
    step: ({ data, meta }) => {
      const cells = data.map((c) => c.trim());
      const drawn = cells.filter((c) => c !== "");
      if (drawn.length < 2 || !drawn.every((c) => /^:?-{2,}:?$/.test(c))) rows.push({ line, cells });
      const taken = text.slice(at, meta.cursor);
      line += (taken.match(/\r\n|\n|\r/g) ?? []).length;
      at = meta.cursor;
    },
  });
  return rows;
}

const numberLike = (cell: string) => /^[~±+\-−£€$(]*\s*\d/.test(cell);
const tellsRole = (cell: string) => cell !== "" && rolesNamed(cell.slice(0, MOST_LETTERS)).size > 0;
const bareNumber = (cell: string) => /^\s*[\d.,]+\s*$/.test(cell);
/** What stands in a cell for nothing. */
export const isEmpty = (cell: string): boolean =>
  /^(|-|–|—|\?+|tbd|tba|n\/?a|none|unknown|unbekannt|later|offen)$/i.test(cell);
/** Share of the cells of a column that must be of a kind for the column to be. */
const MOST = 0.6;
/** Columns beyond which nothing is looked for, and letters of a head or a cell that are looked at. */
const MOST_COLUMNS = 60;
const MOST_LETTERS = 120;
/** Rows at the top among which a head is looked for. */
const TOP = 12;

/** Whether a row of words stands over columns of numbers: a head in words that nobody here knows. */
function standsOver(rows: readonly Row[], k: number): boolean {
  const cells = (rows[k]?.cells ?? []).slice(0, MOST_COLUMNS).map((c) => c.slice(0, MOST_LETTERS));
  if (cells.some((c) => numberLike(c) || /\d/.test(c))) return false;
  const below = rows.slice(k + 1).filter((r) => r.cells.filter(Boolean).length >= 2);
  const over = cells.filter((c, n) => {
    const column = below.map((r) => r.cells[n] ?? "").filter((x) => !isEmpty(x));
    return !isEmpty(c) && column.length > 0 && column.filter(numberLike).length >= 0.8 * column.length;
  });
  return below.length >= 2 && over.length >= (cells.filter(Boolean).length > 2 ? 2 : 1);
}

/**
 * The first row, among the first dozen, with at least two known column words and no bare numbers; else the first that
 * stands in words over columns of numbers.
 */
function findHeader(rows: readonly Row[]): number | null {
  const top = rows.slice(0, TOP);
  const known = top.findIndex(
    ({ cells }) => !cells.some(bareNumber) && cells.slice(0, MOST_COLUMNS).filter(tellsRole).length >= 2,
  );
  if (known >= 0) return known;
  const first = top.findIndex((r) => r.cells.filter(Boolean).length >= 2);
  return first >= 0 && standsOver(rows, first) ? first : null;
}

const LENGTH_UNIT = /(?:\[|\(|\b)(mm|cm|in|inch(?:es)?|ft|m)(?=\]|\)|\b|\.)/i;
const MASS_UNIT = /(?:\[|\(|\b)(kg|g|grams?|oz|lbs?)(?=\]|\)|\b|\.)/gi;
const LENGTH_AT_END = /\d\s*(mm|cm|in|ft|m|["″])\.?\s*$/i;
const MASS_AT_END = /\d\s*(kg|g|oz|lbs?)\.?\s*$/i;

/** Commonest unit among the cells that name one. */
function unitOfCells(cells: readonly string[], pattern: RegExp): string | null {
  const counts = new Map<string, number>();
  for (const cell of cells) {
    const unit = pattern.exec(cell)?.[1]?.toLowerCase().replace(/["″]/, "in");
    if (unit) counts.set(unit, (counts.get(unit) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

/** How many cells can only have a comma, and how many only a point, for their decimal sign. */
function signsIn(rows: readonly Row[]): Record<"," | ".", number> {
  const counts = { ",": 0, ".": 0 };
  for (const { cells } of rows)
    for (const cell of cells) {
      if (!numberLike(cell)) continue;
      if (/\d,\d{1,2}(?!\d)/.test(cell)) counts[","]++;
      if (/\d\.\d{1,2}(?!\d)/.test(cell)) counts["."]++;
    }
  return counts;
}
/** Decimal sign of a table: the one that stands between digits where it cannot group thousands. */
function guessDecimal(rows: readonly Row[], delimiter: string): "." | "," {
  const { ",": comma, ".": point } = signsIn(rows);
  return comma > point || (comma === point && comma > 0 && delimiter === ";") ? "," : ".";
}
/** Whether no cell of a table shows that a point is its decimal sign: "1.250" may be 1250 there. */
export const pointIsOpen = (rows: readonly Row[]): boolean => signsIn(rows)["."] === 0;

interface Column {
  head: string;
  cells: string[];
}
const share = (cells: readonly string[], is: (cell: string) => boolean): number =>
  cells.length === 0 ? 0 : cells.filter(is).length / cells.length;
const isWords = ({ cells }: Column): number => cells.filter((c) => !numberLike(c)).length;
const wholes = ({ cells }: Column): number[] | null => {
  const all = cells.map((c) => Number(c.replace(/[x×]/i, "").trim()));
  return all.length >= 2 && all.every((n) => Number.isInteger(n) && n >= 1 && n <= 999) ? all : null;
};
/** A column that only counts its rows. */
const isIndex = (c: Column): boolean =>
  wholes(c)?.every((n, k, all) => k === 0 || n === (all[k - 1] ?? 0) + 1) ?? false;
/** Small whole numbers, mostly ones: how many of each. */
const isCount = (c: Column): boolean => {
  const all = wholes(c);
  return (
    all !== null && !isIndex(c) && all.every((n) => n <= 50) && all.filter((n) => n === 1).length >= all.length / 2
  );
};

/** What is told by numbers alone. */
const NUMBERS: readonly PartRole[] = ["quantity", "mass", "x", "y", "z"];
/** Whether a column is not plainly one of words: half of what stands in it has a digit. */
const mayBeNumbers = ({ cells }: Column): boolean => cells.length === 0 || share(cells, (c) => /\d/.test(c)) >= 0.5;

/** What each column holds: by its head, else by the units in it, else by what its numbers look like. */
function rolesOf(columns: readonly Column[], headed: boolean): PartRole[] {
  const roles: PartRole[] = columns.map(() => "ignore");
  const free = (k: number) => roles[k] === "ignore";
  const give = (role: PartRole, k: number) => {
    if (k >= 0 && free(k) && !roles.includes(role)) roles[k] = role;
  };
  const named = columns.map(({ head }) => rolesNamed(head));
  const ranked = named
    .flatMap((roles, k) => [...roles].map(([role, points]) => ({ k, role, points })))
    .filter(({ role, k }) => !NUMBERS.includes(role) || mayBeNumbers(columns[k] as Column))
    .sort((a, b) => b.points - a.points || PART_ROLES.indexOf(a.role) - PART_ROLES.indexOf(b.role) || a.k - b.k);
  for (const { k, role } of ranked) give(role, k);
  const find = (is: (c: Column) => boolean) => columns.findIndex((c, k) => free(k) && is(c));
  const inUnits = (unit: RegExp) => find((c) => share(c.cells, (x) => unit.test(x)) >= MOST);
  // Units say what a number is, in whatever language its head is.
  give("mass", inUnits(MASS_AT_END));
  // Where the heads are in words that are known here, a length under another of them is no place, and a few whole
  // numbers are no quantity: a diameter, a channel.
  if (named.filter((roles) => roles.size > 0).length < 2) {
    for (const axis of ["x", "y", "z"] as const) give(axis, inUnits(LENGTH_AT_END));
    give("quantity", find(isCount));
  }
  if (!roles.includes("name")) {
    const words = columns.map((c, k) => (free(k) ? isWords(c) : -1));
    const most = Math.max(...words);
    if (!headed || most > 0) give("name", words.indexOf(most));
  }
  if (!headed) {
    // Without a head what is left is mass and places, in that order.
    const rest: PartRole[] = ["mass", "x", "y", "z"];
    for (const [k, c] of columns.entries()) {
      if (!free(k) || isIndex(c) || share(c.cells, numberLike) < MOST) continue;
      const next = rest.find((r) => !roles.includes(r));
      if (next) give(next, k);
    }
  }
  return roles;
}

/** The unit of bare numbers in a column of masses. */
function massUnit({ head, cells }: Column): string {
  const named = [...head.matchAll(MASS_UNIT)].map((m) => (m[1] ?? "").toLowerCase());
  const unit = named.includes("oz") ? "oz" : (named[0] ?? unitOfCells(cells, MASS_AT_END) ?? "g");
  // A bare number beside cells in kilograms is in grams when it could not be kilograms: 101 kg is no part of a model.
  const bare = cells.map((c) => Number(c.replace(",", "."))).filter(Number.isFinite);
  return (unit === "kg" && named.length === 0 && bare.some((b) => b > 20)) || unit.startsWith("gram") ? "g" : unit;
}

/**
 * Guesses separator, decimal sign, header, columns and units of a parts list. Every guess can be corrected before
 * anything is imported. @param separator given by a person
 */
export function guessReading(text: string, separator?: string): TableReading {
  const clean = text.replace(/^\uFEFF/, "");
  const delimiter = separator ?? guessDelimiter(linesOf(clean).map((l) => l.text));
  const rows = rowsOf(clean, delimiter);
  const header = findHeader(rows);
  const heads = header === null ? [] : (rows[header]?.cells ?? []);
  const body = rows.slice(header === null ? 0 : header + 1);
  const width = Math.min(MOST_COLUMNS, Math.max(heads.length, ...body.slice(0, 50).map((r) => r.cells.length), 1));
  // A row with one cell is a heading between the parts, or a remark.
  const several = body.filter((r) => r.cells.slice(0, MOST_COLUMNS).filter(Boolean).length > 1);
  const all = Array.from({ length: width }, (_, k): Column => {
    const cells = several.map((r) => (r.cells[k] ?? "").slice(0, MOST_LETTERS));
    return { head: (heads[k] ?? "").slice(0, MOST_LETTERS), cells: cells.filter((c) => !isEmpty(c)) };
  });
  const roles = rolesOf(all, header !== null);
  const x = all[roles.indexOf("x")];
  const xUnit = x ? (LENGTH_UNIT.exec(x.head)?.[1]?.toLowerCase() ?? null) : null;
  const columns = roles.map((role, k): PartColumn => {
    const column = all[k] as Column;
    const { head, cells } = column;
    if (role === "mass") return { header: head, role, unit: massUnit(column) };
    if (role === "x" || role === "y" || role === "z") {
      const own = LENGTH_UNIT.exec(head)?.[1]?.toLowerCase() ?? xUnit ?? unitOfCells(cells, LENGTH_AT_END) ?? "mm";
      const side = role === "y" && countsToPort(head) ? { toPort: true as const } : {};
      return { header: head, role, unit: own.startsWith("inch") ? "in" : own, ...side };
    }
    if (role === "price")
      return { header: head, role, unit: currencyIn(head) ?? currencyOfCells(cells) ?? moneyHere().currency };
    return { header: head, role, unit: "" };
  });
  const massColumn = columns.find((c) => c.role === "mass");
  return {
    delimiter,
    decimal: guessDecimal(body, delimiter),
    headerLine: header === null ? null : (rows[header]?.line ?? null),
    columns,
    massIs: massColumn && isOfRow(massColumn.header) ? "row" : "each",
  };
}
