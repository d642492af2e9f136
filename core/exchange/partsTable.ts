import type { Dimension } from "../design/units";
import { moneyHere } from "../design/money";
import { parseQuantity } from "../design/readQuantity";
import { type Row, type TableReading, guessReading, isEmpty, pointIsOpen, rowsOf } from "./partsColumns";
import { type PartRole, isTotal } from "./partsHeads";
import { amountsIn, currencyIn, normal } from "./priceCell";

/** One part as read: SI, null where the cell is empty or could not be read. */
export interface ReadPart {
  line: number;
  name: string;
  quantity: number;
  /** Whether the row says its quantity; else it is taken as one. */
  counted: boolean;
  /** kg each */
  mass: number | null;
  /** Marked as rough in the table ("~64 g"). */
  rough: boolean;
  x: number | null;
  y: number | null;
  z: number | null;
  /** Given as ±y: a pair, half on each side. */
  pair: boolean;
  group: string;
  source: string;
  price: number | null;
  /** The most of a range; null: `price` is the price. */
  priceMost: number | null;
  currency: string | null;
}

/**
 * What the reader noticed about a line. error: the row is refused; warning: imported, and the user told; info: left
 * out as meant.
 */
export interface LineReport {
  line: number;
  severity: "error" | "warning" | "info";
  code:
    | "blank"
    | "comment"
    | "title"
    | "subtotal"
    | "duplicate"
    | "negative-mass"
    | "no-mass"
    | "two-ways"
    | "no-place"
    | "unreadable"
    | "quantity"
    | "nameless"
    | "currency"
    | "far-out"
    | "too-many";
  text: string;
}

const MAX_ROWS = 1000;
/** How many times further out than the typical part one stands before it is doubted. */
const FAR = 8;

export interface PartsTable {
  reading: TableReading;
  parts: ReadPart[];
  reports: LineReport[];
}

function readQuantity(cell: string, dimension: Dimension, unit: string, decimal: "." | ","): number | null {
  const text = normal(cell, decimal);
  if (text === null || !/\d/.test(text)) return null;
  const read = parseQuantity(/[a-z"″'µ]/i.test(text) ? text : `${text} ${unit}`, dimension);
  return read.ok ? read.value : null;
}

/** A number in which a point may group thousands. */
const GROUPED = /^[^\d.,]*[1-9]\d{0,2}\.\d{3}(?!\d)/;
/** A number in grams or millimetres, or in nothing that it says. */
const SMALL = /^[^a-z"″]*(?:g|mm)?\.?\s*$/i;
/** Share of a column with three decimals beyond which that is how precisely it was written down. */
const PRECISE = 0.5;

/**
 * Whether a number could be read two ways: with the sign that is not the table's decimal one; or in grams or
 * millimetres with a point before three digits, where nothing in the table shows that a point is its decimal sign.
 */
function twoWaysIn(rows: readonly Row[], { decimal, columns }: TableReading) {
  const open = decimal === "." && pointIsOpen(rows);
  const thousands = new Map(
    (["mass", "x", "y", "z"] as const).map((role) => {
      const k = columns.findIndex((c) => c.role === role);
      const cells = rows.map((r) => r.cells[k] ?? "").filter((c) => /^\W*\d/.test(c));
      const precise = cells.filter((c) => /\.\d{3}(?!\d)/.test(c)).length > PRECISE * cells.length;
      return [role, open && !precise && ["g", "mm"].includes(columns[k]?.unit ?? "")] as const;
    }),
  );
  return (cell: string, role: "mass" | "x" | "y" | "z"): boolean =>
    normal(cell, decimal) === null || (thousands.get(role) === true && GROUPED.test(cell) && SMALL.test(cell));
}

/** How near a mass must come to a sum to be one. */
const AS_SUM = 0.002;
/** Whether a mass is that of the rows before it together, or since the last sum, where those are placed or counted. */
function isSum(mass: number, parts: readonly ReadPart[], since: number): boolean {
  if (parts.length < 2 || parts.filter((p) => p.x !== null || p.counted).length < 0.8 * parts.length) return false;
  const all = parts.reduce((s, p) => s + (p.mass ?? 0) * p.quantity, 0);
  return [all, since].some((sum) => sum > 0 && Math.abs(mass - sum) <= AS_SUM * sum);
}

/**
 * The words between dashes of a heading such as "-- tail --"; empty when it is none. Walked from both ends: a pattern
 * would take the square of a long line.
 */
function headingOf(cell: string): string {
  let [from, to] = [0, cell.length];
  while (cell[from] === "-") from++;
  while (to > from && cell[to - 1] === "-") to--;
  return from >= 2 && cell.length - to >= 2 ? cell.slice(from, to).trim() : "";
}

const COMMENT = /^(#|\/\/|--|\*|;|%)/;

/**
 * Reads a parts list as it was understood. Nothing is imported silently wrong: subtotals are left out and said, rows
 * with a negative mass are refused, numbers that could be
 * read two ways are dropped and said, duplicates are kept and said.
 */
export function readParts(text: string, reading: TableReading = guessReading(text)): PartsTable {
  const rows = rowsOf(text.replace(/^\uFEFF/, ""), reading.delimiter);
  const parts: ReadPart[] = [];
  const reports: LineReport[] = [];
  const column = (role: PartRole) => reading.columns.findIndex((c) => c.role === role);
  const unit = (role: PartRole) => reading.columns[column(role)]?.unit ?? "";
  const seen = new Map<string, number>();
  let group = "";
  /** kg of the rows since the last sum */
  let since = 0;
  const canBeTwo = twoWaysIn(rows, reading);
  rows.forEach(({ line, cells }, index) => {
    const report = (severity: LineReport["severity"], code: LineReport["code"], said: string) =>
      reports.push({ line, severity, code, text: said });
    const filled = cells.filter((c) => c !== "");
    if (filled.length === 0) {
      if (index < rows.length - 1) report("info", "blank", "");
      return;
    }
    if (reading.headerLine !== null && line <= reading.headerLine) {
      if (line < reading.headerLine) report("info", "title", filled.join(" "));
      return;
    }
    if (filled.length <= 2 && COMMENT.test(filled[0] ?? "")) {
      report("info", "comment", filled.join(" "));
      const heading = headingOf(filled[0] ?? "");
      if (heading) group = heading;
      return;
    }
    const cell = (role: PartRole) => cells[column(role)] ?? "";
    const name = cell("name");
    const massCell = cell("mass");
    const quantityCell = cell("quantity");
    if (isTotal(name) && cell("x") === "") {
      report("warning", "subtotal", name);
      since = 0;
      return;
    }
    const quantity = quantityCell === "" ? 1 : Number(quantityCell.replace(/[x×]/i, "").replace(",", ".").trim());
    if (!Number.isInteger(quantity) || quantity < 1 || quantity > 999) {
      report("error", "quantity", quantityCell);
      return;
    }
    const twoWays = (role: "mass" | "x" | "y" | "z") => canBeTwo(cell(role), role);
    let mass =
      isEmpty(massCell) || twoWays("mass") ? null : readQuantity(massCell, "mass", unit("mass"), reading.decimal);
    if (mass !== null && mass < 0) {
      report("error", "negative-mass", massCell);
      return;
    }
    if (name === "" && mass === null) {
      report("error", "nameless", filled.join(" "));
      return;
    }
    // In whatever language it is called: what stands nowhere, is not counted, and weighs what the others weigh
    // together.
    const nowhere = quantityCell === "" && (["x", "y", "z"] as const).every((r) => isEmpty(cell(r)));
    if (mass !== null && nowhere && isSum(mass, parts, since)) {
      report("warning", "subtotal", name === "" ? massCell : name);
      since = 0;
      return;
    }
    if (parts.length >= MAX_ROWS) {
      report("error", "too-many", name);
      return;
    }
    if (name === "") report("warning", "nameless", massCell);
    if (mass === 0) mass = null;
    if (mass === null) report("warning", twoWays("mass") ? "two-ways" : "no-mass", massCell);
    else if (reading.massIs === "row") mass /= quantity;
    since += (mass ?? 0) * quantity;
    const place = (role: "x" | "y" | "z") => {
      const raw = cell(role);
      if (isEmpty(raw)) return null;
      if (twoWays(role)) {
        report("warning", "two-ways", raw);
        return null;
      }
      const value = readQuantity(raw.replace(/^±|^\+\/?-\s*/, ""), "length", unit(role), reading.decimal);
      if (value === null) report("warning", "unreadable", raw);
      return value !== null && reading.columns[column(role)]?.toPort ? -value : value;
    };
    const pair = /^(±|\+\/?-)/.test(cell("y"));
    const [x, y, z] = [place("x"), place("y"), place("z")];
    if (x === null && column("x") >= 0 && mass !== null) report("warning", "no-place", name);
    const priceCell = cell("price");
    const currency = currencyIn(priceCell) ?? (unit("price") || null);
    const [price = null, priceMost = null] = amountsIn(priceCell, reading.decimal);
    if (price !== null && currency !== moneyHere().currency) report("warning", "currency", priceCell);
    const key = name.toLowerCase();
    const earlier = seen.get(key);
    if (name !== "" && earlier !== undefined) report("warning", "duplicate", `${name}, also on line ${earlier}`);
    else seen.set(key, line);
    parts.push({
      line,
      name: name === "" ? `Unnamed, line ${line}` : name,
      quantity,
      counted: quantityCell !== "",
      mass,
      rough: /^(~|ca\.?|approx|about)/i.test(massCell),
      x,
      y,
      z,
      pair,
      group: cell("group") === "" ? group : cell("group"),
      source: cell("source"),
      price,
      priceMost,
      currency: price === null ? null : currency,
    });
  });
  reports.push(...farOut(parts));
  return { reading, parts, reports: reports.sort((a, b) => a.line - b.line) };
}

/** A place a long way from all others is more often a slip of unit than a long craft. */
function farOut(parts: readonly ReadPart[]): LineReport[] {
  const reports: LineReport[] = [];
  const longest = parts.map((p) => Math.abs(p.x ?? 0)).sort((a, b) => b - a);
  for (const axis of ["x", "y", "z"] as const) {
    const sizes = parts.flatMap((p) => (p[axis] ? [Math.abs(p[axis])] : [])).sort((a, b) => a - b);
    const typical = sizes[Math.floor(sizes.length / 2)] ?? 0;
    const limit = axis === "x" ? FAR * typical : Math.max(FAR * 0.5 * typical, 1.5 * (longest[0] ?? 0));
    for (const p of parts)
      if (sizes.length >= 4 && Math.abs(p[axis] ?? 0) > limit)
        reports.push({ line: p.line, severity: "warning", code: "far-out", text: `${p.name}, ${axis}` });
  }
  return reports;
}

/**
 * Sums of what was read, to hold against the list it came from. SI; CG only of parts with an x, other empty places as
 * 0.
 */
export function tableSums(parts: readonly ReadPart[]): {
  rows: number;
  pieces: number;
  mass: number;
  withMass: number;
  placedMass: number;
  cg: { x: number; y: number; z: number } | null;
  prices: Record<string, number>;
} {
  const placed = parts.filter((p) => p.mass !== null && p.x !== null);
  const of = (p: ReadPart) => (p.mass ?? 0) * p.quantity;
  const placedMass = placed.reduce((s, p) => s + of(p), 0);
  const at = (f: (p: ReadPart) => number) => placed.reduce((s, p) => s + of(p) * f(p), 0) / placedMass;
  const prices: Record<string, number> = {};
  for (const p of parts)
    if (p.price !== null && p.currency !== null) prices[p.currency] = (prices[p.currency] ?? 0) + p.price * p.quantity;
  return {
    rows: parts.length,
    pieces: parts.reduce((s, p) => s + p.quantity, 0),
    mass: parts.reduce((s, p) => s + of(p), 0),
    withMass: parts.filter((p) => p.mass !== null).length,
    placedMass,
    cg:
      placedMass > 0
        ? { x: at((p) => p.x ?? 0), y: at((p) => (p.pair ? 0 : (p.y ?? 0))), z: at((p) => p.z ?? 0) }
        : null,
    prices,
  };
}
