import { acceptedUnits, toStored } from "../design/units";
import type { Cut } from "./mesh";
import { cellsOf, dataLines, guessDecimal, guessDelimiter, isComment, linesOf, readNumber } from "./textTable";

/** What a column of a table of offsets can hold. */
export const OFFSET_ROLES = ["station", "x", "half", "breadth", "z", "ignore"] as const;
export type OffsetRole = (typeof OFFSET_ROLES)[number];
export interface OffsetColumn {
  header: string;
  role: OffsetRole;
  /** of its cells; empty: nobody said */
  unit: string;
}
export interface OffsetReading {
  delimiter: string;
  decimal: "." | ",";
  /** 1-based line of the header; null: it has none */
  headerLine: number | null;
  columns: OffsetColumn[];
  /** which way x counts in the table */
  x: "aft" | "forward";
}
export interface OffsetReport {
  line: number;
  severity: "error" | "warning" | "info";
  text: string;
}
export interface OffsetTable {
  /** by x, from the nose; m, aft positive, in the table's own zero */
  cuts: Cut[];
  points: number;
  reports: OffsetReport[];
  /** why there is no shape, and what is asked first; null: there is one */
  missing: string | null;
}

const HEADERS: [RegExp, OffsetRole][] = [
  [/half|halb|demi|^y\b|offset/i, "half"],
  [/breadth|beam|width|breite|largeur/i, "breadth"],
  [/^x\b|^from\b|along|\baft\b|\bforward\b|distance|abstand/i, "x"],
  [/^z\b|height|above|water.?line|\bup\b|höhe|hauteur|wasserlinie/i, "z"],
  [/station|frame|section|rib|former|spant|couple|gabarit|^no\.?$|^nr\.?$|^#$/i, "station"],
];
/** Units that a table of offsets can be in. */
export const offsetUnits = (): string[] => acceptedUnits("length").filter(Boolean);
const unitIn = (text: string): string => {
  const words = text.split(/[\s,()[\]]+/);
  const units = offsetUnits();
  const named = words.flatMap((w) => units.find((u) => u === w) ?? units.find((u) => u === w.toLowerCase()) ?? []);
  // “in” is a word too: in “lengths in cm” it is no inch.
  return named.find((u) => u !== "in") ?? named[0] ?? "";
};
const FORWARD = /forward|fwd|ahead of|from (the )?(stern|transom|tail)/i;

/** Understands a table of offsets: stations of a hull or body, each with half-breadths by height. */
export function guessOffsets(text: string, delimiter?: string): OffsetReading {
  const lines = linesOf(text);
  const data = dataLines(lines);
  const chosen = delimiter ?? guessDelimiter(data.map((l) => l.text));
  const first = cellsOf(data[0]?.text ?? "", chosen);
  const decimal = guessDecimal(data.slice(1).flatMap((l) => cellsOf(l.text, chosen)));
  const worded = first.some((c) => c !== "" && Number.isNaN(readNumber(c, decimal) ?? 0));
  const comments = lines
    .filter(isComment)
    .map((l) => l.text)
    .join(" ");
  // A unit in words about all of it: “all in mm”, never the mm of a mark that a comment mentions.
  const all = /\b(?:all|lengths?|units?)\b[^.;]*/i.exec(comments)?.[0] ?? "";
  const columns = (worded ? first : first.map((_, k) => ["x", "y", "z"][k] ?? "")).map((header): OffsetColumn => {
    const role = HEADERS.find(([named]) => named.test(header.trim()))?.[1] ?? "ignore";
    return { header: worded ? header : `column ${header}`, role, unit: unitIn(header) || unitIn(all) };
  });
  columns.forEach((c, k) => {
    if (columns.slice(0, k).some((b) => b.role === c.role)) c.role = "ignore";
  });
  // A number of its own and nothing else that counts along: the station's place is what its name says.
  if (!columns.some((c) => c.role === "x"))
    for (const c of columns) if (c.role === "station" && c.unit !== "") c.role = "x";
  return {
    delimiter: chosen,
    decimal,
    headerLine: worded ? (data[0]?.line ?? 1) : null,
    columns,
    x: FORWARD.test(`${columns.find((c) => c.role === "x")?.header ?? ""} ${comments}`) ? "forward" : "aft",
  };
}

interface OffsetPoint {
  line: number;
  station: string;
  x: number;
  out: number;
  z: number;
}
/** Share of the length within which points of one station stand at one x. */
const SAME_X = 1e-3;

/**
 * Stations from a table of offsets as it was understood. A row with a text where a number belongs or a half-breadth
 * below zero is refused by its line, an exact repeat of the point before is dropped; a station that is left with one
 * point is left out. Nothing is filled in.
 */
export function readOffsets(text: string, reading: OffsetReading): OffsetTable {
  const reports: OffsetReport[] = [];
  const none = (missing: string): OffsetTable => ({ cuts: [], points: 0, reports, missing });
  const at = (role: OffsetRole) => reading.columns.findIndex((c) => c.role === role);
  const across = at("half") >= 0 ? at("half") : at("breadth");
  if (at("x") < 0) return none("which column says how far along a station stands (x)");
  if (across < 0) return none("which column holds the half-breadths");
  if (at("z") < 0) return none("which column holds the heights (z)");
  const used = [at("x"), across, at("z")];
  const unitless = used.find((k) => reading.columns[k]?.unit === "");
  if (unitless !== undefined) return none(`the unit of “${reading.columns[unitless]?.header}”: the table names none`);
  const points = readPoints(text, reading, used, reports);
  if (points.length > MOST_ROWS) return none(`at most ${MOST_ROWS.toLocaleString("en")} points: this has more`);
  const cuts = stationsOf(points, reports);
  reports.sort((a, b) => a.line - b.line);
  if (cuts.length < 2)
    return { cuts, points: points.length, reports, missing: "at least two stations with two points each" };
  return { cuts, points: cuts.reduce((s, c) => s + c.points.length, 0), reports, missing: null };
}
const MOST_ROWS = 20_000;

function readPoints(text: string, reading: OffsetReading, used: number[], reports: OffsetReport[]): OffsetPoint[] {
  const station = reading.columns.findIndex((c) => c.role === "station");
  const points: OffsetPoint[] = [];
  const refuse = (line: number, why: string) => void reports.push({ line, severity: "error", text: why });
  for (const l of dataLines(linesOf(text))) {
    if (reading.headerLine !== null && l.line <= reading.headerLine) continue;
    const row = cellsOf(l.text, reading.delimiter);
    if (row.length < reading.columns.length) {
      refuse(l.line, `${row.length} cells where ${reading.columns.length} belong`);
      continue;
    }
    const read = used.map((k) => {
      const value = readNumber(row[k] ?? "", reading.decimal);
      return value === null || Number.isNaN(value)
        ? Number.NaN
        : toStored(value, "length", reading.columns[k]?.unit ?? "");
    });
    const wrong = used[read.findIndex(Number.isNaN)];
    if (wrong !== undefined) {
      const { header } = reading.columns[wrong] ?? { header: "" };
      refuse(l.line, `“${row[wrong] ?? ""}” under “${header}” is not a number: point left out`);
      continue;
    }
    const [x = 0, across = 0, z = 0] = read;
    if (across < 0) {
      refuse(l.line, `a half-breadth below zero (${row[used[1] ?? 0]}): point left out; accepted is 0 or more`);
      continue;
    }
    if (Math.max(Math.abs(x), across, Math.abs(z)) > 100) {
      refuse(l.line, "farther than 100 m: point left out; is the unit right?");
      continue;
    }
    const half = reading.columns[used[1] ?? 0]?.role === "breadth" ? across / 2 : across;
    const along = reading.x === "forward" ? -x : x;
    const point = { line: l.line, station: station < 0 ? "" : (row[station] ?? ""), x: along, out: half, z };
    const before = points.at(-1);
    if (before && before.x === point.x && before.out === half && before.z === z && before.station === point.station) {
      reports.push({ line: l.line, severity: "warning", text: "exact repeat of the point before: dropped" });
      continue;
    }
    points.push(point);
  }
  return points;
}

/** Points of one station together, from the nose; each from its lowest point to its highest. */
function stationsOf(points: readonly OffsetPoint[], reports: OffsetReport[]): Cut[] {
  const xs = points.map((p) => p.x);
  const near = SAME_X * (Math.max(...xs, 0) - Math.min(...xs, 0)) + 1e-9;
  const byName = new Map<string, OffsetPoint[]>();
  for (const p of points) {
    const key = p.station === "" ? `at ${Math.round(p.x / near)}` : p.station;
    byName.set(key, [...(byName.get(key) ?? []), p]);
  }
  const cuts = [...byName].flatMap(([name, own]): (Cut & { line: number })[] => {
    const x = median(own.map((p) => p.x));
    const here = own.filter((p) => {
      if (Math.abs(p.x - x) <= near) return true;
      reports.push({
        line: p.line,
        severity: "error",
        text: `station ${name} stands elsewhere along: point left out`,
      });
      return false;
    });
    const called = name.startsWith("at ") ? `at this x` : name;
    const [first] = here;
    if (!first || here.length < 2) {
      if (first)
        reports.push({ line: first.line, severity: "warning", text: `station ${called} has one point: left out` });
      return [];
    }
    return [{ x, line: first.line, points: ordered(here, called, reports) }];
  });
  cuts.sort((a, b) => a.x - b.x);
  return cuts.flatMap((c, k): Cut[] => {
    const before = cuts[k - 1];
    if (before && c.x - before.x <= near) {
      reports.push({ line: c.line, severity: "error", text: "a station at the place of another: left out" });
      return [];
    }
    return [{ x: c.x, points: c.points }];
  });
}

/** From the lowest to the highest: as listed, or turned over; put in order of height where neither is so, and said. */
function ordered(points: readonly OffsetPoint[], name: string, reports: OffsetReport[]): Cut["points"] {
  const turns = points.slice(1).map((p, k) => Math.sign(p.z - (points[k]?.z ?? 0)));
  const plain = points.map(({ out, z }) => ({ out, z }));
  if (turns.every((t) => t >= 0)) return plain;
  if (turns.every((t) => t <= 0)) return plain.toReversed();
  reports.push({
    line: points[0]?.line ?? 1,
    severity: "warning",
    text: `heights of station ${name} go up and down: its points are taken in order of height`,
  });
  return plain.toSorted((a, b) => a.z - b.z || a.out - b.out);
}

const median = (list: readonly number[]): number => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
