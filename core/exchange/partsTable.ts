import Papa from "papaparse";
import type { Dimension } from "../design/units";
import { parseQuantity } from "../design/readQuantity";
import { moneyHere, moneySign } from "../design/money";
import { guessDelimiter, linesOf } from "./textTable";

/** What a column of a parts list can hold. */
export const PART_ROLES = ["name", "quantity", "mass", "x", "y", "z", "group", "source", "price", "ignore"] as const;
export type PartRole = (typeof PART_ROLES)[number];

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
    | "no-place"
    | "unreadable"
    | "quantity"
    | "nameless"
    | "currency"
    | "far-out"
    | "too-many";
  text: string;
}

export interface PartsTable {
  reading: TableReading;
  parts: ReadPart[];
  reports: LineReport[];
}

interface Row {
  line: number;
  cells: string[];
}

const MAX_ROWS = 1000;
/** How many times further out than the typical part one stands before it is doubted. */
const FAR = 8;

/** Rows with the physical line on which each begins (a quoted cell may hold line breaks). */
function rowsOf(text: string, delimiter: string): Row[] {
  const rows: Row[] = [];
  let line = 1;
  let at = 0;
  Papa.parse<string[]>(text, {
    delimiter,
    step: ({ data, meta }) => {
      rows.push({ line, cells: data.map((c) => c.trim()) });
      const taken = text.slice(at, meta.cursor);
      line += (taken.match(/\r\n|\n|\r/g) ?? []).length;
      at = meta.cursor;
    },
  });
  return rows;
}

/**
 * Words by which a header tells what its column holds: English, German, French; common practice. Earlier roles win a
 * tie.
 */
const WORDS: [PartRole, RegExp, number][] = [
  ["quantity", /^(#|n|no\.?|nr\.?|qty\.?|quantity|pcs\.?|pieces|count|stk\.?|stück|anzahl|qté|nombre|pièces)$/i, 3],
  ["quantity", /\b(qty|quantity|pcs|count|stk|stück|anzahl|how many)\b/i, 2],
  ["price", /(price|cost|preis|prix|€|£|\$|\beur\b|\bgbp\b|\busd\b)/i, 3],
  ["source", /(source|quelle|where from|origin|supplier|bought|shop|herkunft|fournisseur)/i, 3],
  ["source", /^(note|notes|remark|remarks|bemerkung|comment)$/i, 1],
  ["mass", /(mass|weight|weigh|masse|gewicht|poids|\bwt\b)/i, 3],
  ["mass", /\b(g|grams?|kg|oz|lbs?)\b/i, 1],
  ["x", /(^x\b|\bx\b|\baft\b|\bbehind\b|from nose|from bow|ab bug|ab nase|\bstation\b|\barm\b|fuselage station)/i, 3],
  [
    "y",
    /(^y\b|\by\b|starboard|stbd|lateral|butt line|seitlich|\b(right|left|port|rechts|links|droite|gauche|steuerbord|backbord|tribord|bâbord)\b)/i,
    3,
  ],
  ["z", /(^z\b|\bz\b|height|höhe|hoehe|above|over|über|hauteur|water line|waterline|\bup\b)/i, 2],
  ["group", /^(group|gruppe|groupe|system|assembly|baugruppe|section)$/i, 3],
  ["name", /(\bparts?\b|\bitem\b|\bthing\b|\bname\b|component|\bteil\b|bezeichnung|désignation|pièce|what)/i, 2],
];

/** Sides by which a header tells which way it counts. */
const TO_PORT = /\b(left|port|links|gauche|backbord|bâbord)\b/i;
const TO_STARBOARD = /starboard|stbd|\b(right|rechts|droite|steuerbord|tribord)\b/i;

function scoreHeader(header: string): Map<PartRole, number> {
  const scores = new Map<PartRole, number>();
  for (const [role, pattern, points] of WORDS)
    if (pattern.test(header)) scores.set(role, Math.max(scores.get(role) ?? 0, points));
  return scores;
}

const numberLike = (cell: string) => /^[~±+\-−£€$]*\s*\d/.test(cell);

/** The first row, among the first dozen, with at least two known column words and no numbers. */
function findHeader(rows: Row[]): number | null {
  const found = rows
    .slice(0, 12)
    .findIndex(
      (r) =>
        r.cells.filter((c) => c !== "" && scoreHeader(c).size > 0).length >= 2 &&
        !r.cells.some((c) => /^\s*[\d.,]+\s*$/.test(c)),
    );
  return found < 0 ? null : found;
}

const LENGTH_UNIT = /(?:\[|\(|\b)(mm|cm|in|inch(?:es)?|ft|m)(?=\]|\)|\b|\.)/i;
const MASS_UNIT = /(?:\[|\(|\b)(kg|g|grams?|oz|lbs?)(?=\]|\)|\b|\.)/gi;

/** Commonest unit among the cells that name one. */
function unitOfCells(cells: string[], pattern: RegExp): string | null {
  const counts = new Map<string, number>();
  for (const cell of cells) {
    const unit = pattern.exec(cell)?.[1]?.toLowerCase();
    if (unit) counts.set(unit, (counts.get(unit) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

/** Decimal sign of a table: the one that stands between digits where it cannot group thousands. */
function guessDecimal(rows: Row[], delimiter: string): "." | "," {
  let comma = 0;
  let point = 0;
  for (const { cells } of rows)
    for (const cell of cells) {
      if (!numberLike(cell)) continue;
      if (/\d,\d{1,2}(?!\d)/.test(cell)) comma++;
      if (/\d\.\d{1,2}(?!\d)/.test(cell)) point++;
    }
  return comma > point || (comma === point && comma > 0 && delimiter === ";") ? "," : ".";
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
  const headers = header === null ? [] : (rows[header]?.cells ?? []);
  const body = rows.slice(header === null ? 0 : header + 1);
  const width = Math.max(headers.length, ...body.slice(0, 50).map((r) => r.cells.length), 1);
  const cellsOf = (k: number) => body.map((r) => r.cells[k] ?? "").filter(Boolean);

  const scores = Array.from({ length: width }, (_, k) => scoreHeader(headers[k] ?? ""));
  const roles: PartRole[] = Array.from({ length: width }, () => "ignore");
  const ranked = scores
    .flatMap((s, k) => [...s].map(([role, points]) => ({ k, role, points })))
    .sort((a, b) => b.points - a.points || a.k - b.k);
  for (const { k, role } of ranked) if (roles[k] === "ignore" && !roles.includes(role)) roles[k] = role;
  if (header === null) {
    // No header: the column of words is the name, then come quantity-like, mass-like and place-like numbers in that
    // order.
    const words = Array.from({ length: width }, (_, k) => cellsOf(k).filter((c) => !numberLike(c)).length);
    const name = words.indexOf(Math.max(...words));
    const rest: PartRole[] = ["mass", "x", "y", "z"];
    for (let k = 0; k < width; k++) roles[k] = k === name ? "name" : (rest.shift() ?? "ignore");
  } else if (!roles.includes("name")) {
    const words = Array.from({ length: width }, (_, k) =>
      roles[k] === "ignore" ? cellsOf(k).filter((c) => !numberLike(c)).length : -1,
    );
    const k = words.indexOf(Math.max(...words));
    if (k >= 0) roles[k] = "name";
  }

  const xUnit = (() => {
    const k = roles.indexOf("x");
    return k < 0 ? null : (LENGTH_UNIT.exec(headers[k] ?? "")?.[1]?.toLowerCase() ?? null);
  })();
  const columns = roles.map((role, k): PartColumn => {
    const title = headers[k] ?? "";
    if (role === "mass") {
      const named = [...title.matchAll(MASS_UNIT)].map((m) => (m[1] ?? "").toLowerCase());
      const unit = named.includes("oz")
        ? "oz"
        : (named[0] ?? unitOfCells(cellsOf(k), /\d\s*(kg|g|oz|lbs?)\s*$/i) ?? "g");
      // A bare number beside cells in kilograms is in grams when it could not be kilograms: 101 kg is no part of a
      // model.
      const bare = cellsOf(k)
        .map((c) => Number(c.replace(",", ".")))
        .filter(Number.isFinite);
      return {
        header: title,
        role,
        unit:
          unit === "kg" && named.length === 0 && bare.some((b) => b > 20) ? "g" : unit.startsWith("gram") ? "g" : unit,
      };
    }
    if (role === "x" || role === "y" || role === "z") {
      const own =
        LENGTH_UNIT.exec(title)?.[1]?.toLowerCase() ??
        xUnit ??
        unitOfCells(cellsOf(k), /\d\s*(mm|cm|in|ft|m)\s*$/i) ??
        "mm";
      const side = role === "y" && TO_PORT.test(title) && !TO_STARBOARD.test(title) ? { toPort: true as const } : {};
      return { header: title, role, unit: own.startsWith("inch") ? "in" : own, ...side };
    }
    if (role === "price")
      return { header: title, role, unit: currencyIn(title) ?? unitOfPrices(cellsOf(k)) ?? moneyHere().currency };
    return { header: title, role, unit: "" };
  });
  const massColumn = columns.find((c) => c.role === "mass");
  return {
    delimiter,
    decimal: guessDecimal(body, delimiter),
    headerLine: header === null ? null : (rows[header]?.line ?? null),
    columns,
    massIs: massColumn && /\b(all|total|row|sum|gesamt|zusammen|together)\b/i.test(massColumn.header) ? "row" : "each",
  };
}

/** How amounts say what they are in; a sign that several currencies share is that of the one named here. */
const CURRENCIES: [RegExp, string][] = [
  [/€|\beur\b/i, "EUR"],
  [/£|\bgbp\b/i, "GBP"],
  [/\bchf\b/i, "CHF"],
  [/\bsek\b/i, "SEK"],
  [/\bnok\b/i, "NOK"],
  [/\bdkk\b/i, "DKK"],
  [/zł|\bpln\b/i, "PLN"],
  [/kč|\bczk\b/i, "CZK"],
  [/₹|\binr\b/i, "INR"],
  [/\bcny\b/i, "CNY"],
  [/¥|\bjpy\b/i, "JPY"],
  [/\b(?:aud|cad|nzd|brl|zar|huf|ron|krw|sgd|hkd|mxn)\b/i, ""],
  [/\$|\busd\b/i, "USD"],
];
/** The workshop's own currency goes first: "12 $" is Canadian where everything is. */
function currencyIn(text: string): string | null {
  const own = moneyHere().currency;
  if (text.toUpperCase().includes(own) || (/[^\p{L}\d\s.,]/u.test(moneySign()) && text.includes(moneySign())))
    return own;
  for (const [pattern, name] of CURRENCIES) {
    const found = pattern.exec(text);
    if (found) return name || found[0].toUpperCase();
  }
  return null;
}
function unitOfPrices(cells: string[]): string | null {
  const found = cells.flatMap((c) => currencyIn(c) ?? []);
  const count = (name: string) => found.filter((f) => f === name).length;
  return [...new Set(found)].sort((a, b) => count(b) - count(a))[0] ?? null;
}

/** One amount, or the two of a range such as "20–30 €"; none where the cell says something else. */
function amountsIn(cell: string, decimal: "." | ","): number[] {
  const bare = cell
    .replace(
      /\p{Sc}|\b(?:eur|gbp|usd|chf|sek|nok|dkk|pln|czk|inr|cny|jpy|aud|cad|nzd|brl|zar|huf|ron|krw|sgd|hkd|mxn)\b|zł|kč|\bkr\.?(?!\p{L})|\bfr\.?(?!\p{L})/giu,
      " ",
    )
    .trim();
  const found = bare.split(/\s*(?:[–—-]|\.\.|\bto\b|\bbis\b)\s*/i).map((part) => {
    const amount = normal(part.trim(), decimal);
    return amount !== null && /^\d+(\.\d+)?$/.test(amount) ? Number(amount) : Number.NaN;
  });
  const fits = found.length <= 2 && found.every((n, i) => n >= (found[i - 1] ?? 0));
  return fits ? found : [];
}

/** A cell with the table's decimal sign turned into a point; null for a number that could be read two ways. */
function normal(cell: string, decimal: "." | ","): string | null {
  const other = decimal === "." ? "," : ".";
  let text = cell.replace(/−/g, "-").replace(/^(?:~|ca\.?|approx\.?|about)\s*/i, "");
  // "1,250" in a table of decimal points may be 1.25 or 1250; "0,412" can only be 0.412.
  if (new RegExp(`(?<![\\d.,])[1-9]\\d{0,2}\\${other}\\d{3}(?!\\d)`).test(text)) return null;
  text = decimal === "," ? text.replace(/,/g, ".") : text.replace(/(\d),(\d)/g, "$1.$2");
  return text;
}

function readQuantity(cell: string, dimension: Dimension, unit: string, decimal: "." | ","): number | null {
  const text = normal(cell, decimal);
  if (text === null || !/\d/.test(text)) return null;
  const read = parseQuantity(/[a-z"″'µ]/i.test(text) ? text : `${text} ${unit}`, dimension);
  return read.ok ? read.value : null;
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

const EMPTY = /^(|-|–|—|\?+|tbd|tba|n\/?a|none|unknown|unbekannt|later|offen)$/i;
const SUBTOTAL = /^\s*(sub-?\s?totals?|totals?|grand total|zwischensumme|summe|gesamt|somme|sous-total|sum)\b/i;
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
    if (SUBTOTAL.test(name) && cell("x") === "") {
      report("warning", "subtotal", name);
      return;
    }
    const massCell = cell("mass");
    const quantityCell = cell("quantity");
    const quantity = quantityCell === "" ? 1 : Number(quantityCell.replace(/[x×]/i, "").replace(",", ".").trim());
    if (!Number.isInteger(quantity) || quantity < 1 || quantity > 999) {
      report("error", "quantity", quantityCell);
      return;
    }
    let mass = EMPTY.test(massCell) ? null : readQuantity(massCell, "mass", unit("mass"), reading.decimal);
    if (mass !== null && mass < 0) {
      report("error", "negative-mass", massCell);
      return;
    }
    if (name === "" && mass === null) {
      report("error", "nameless", filled.join(" "));
      return;
    }
    if (parts.length >= MAX_ROWS) {
      report("error", "too-many", name);
      return;
    }
    if (name === "") report("warning", "nameless", massCell);
    if (mass === 0) mass = null;
    if (mass === null) report("warning", "no-mass", massCell);
    else if (reading.massIs === "row") mass /= quantity;
    const place = (role: "x" | "y" | "z") => {
      const raw = cell(role);
      if (EMPTY.test(raw)) return null;
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
  // A place a long way from all others is more often a slip of unit than a long craft.
  const longest = parts.map((p) => Math.abs(p.x ?? 0)).sort((a, b) => b - a);
  for (const axis of ["x", "y", "z"] as const) {
    const sizes = parts.flatMap((p) => (p[axis] ? [Math.abs(p[axis])] : [])).sort((a, b) => a - b);
    const typical = sizes[Math.floor(sizes.length / 2)] ?? 0;
    const limit = axis === "x" ? FAR * typical : Math.max(FAR * 0.5 * typical, 1.5 * (longest[0] ?? 0));
    for (const p of parts)
      if (sizes.length >= 4 && Math.abs(p[axis] ?? 0) > limit)
        reports.push({ line: p.line, severity: "warning", code: "far-out", text: `${p.name}, ${axis}` });
  }
  return { reading, parts, reports: reports.sort((a, b) => a.line - b.line) };
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
