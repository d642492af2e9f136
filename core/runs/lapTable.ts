import Papa from "papaparse";
import type { Lap } from "../design/craftFile";

/** What a column of a lap list can hold. `metric`: a quantity, under a name of its own. */
export const LAP_ROLES = ["label", "version", "metric", "wind", "pack", "startVoltage", "pilot", "remark", "ignore"] as const;
export type LapRole = (typeof LAP_ROLES)[number];

export interface LapColumn {
  header: string;
  role: LapRole;
  /** Name of the quantity when it is one: a metric key, or one's own. */
  metric: string;
  /** SI value of one unit of the column. */
  factor: number;
}
export interface LapReading {
  delimiter: string;
  decimal: "." | ",";
  headerLine: number;
  columns: LapColumn[];
}
export interface LapReport {
  line: number;
  severity: "error" | "warning" | "info";
  text: string;
}
export interface LapTable {
  reading: LapReading;
  laps: (Lap & { version: string; line: number })[];
  /** names that the version column uses */
  versions: string[];
  reports: LapReport[];
}

/** Quantities that a header names, with their metric and the SI value of one unit; common practice. */
const QUANTITIES: [RegExp, metric: string, factor: number][] = [
  [/\b(wh|watt.?hours?)\b/i, "energyUsed", 3600],
  [/\b(kj)\b/i, "energyUsed", 1000],
  [/\bmah\b/i, "charge", 1e-3],
  [/\b(lap|time|zeit|duration)\b.*\b(s|sec|seconds)\b|\blap s\b/i, "lapTime", 1],
  [/\bmin(utes)?\b/i, "lapTime", 60],
  [/\bkm\b/i, "distance", 1000],
  [/\b(distance|course)\b|\bm\b$/i, "distance", 1],
  [/\bkm\/?h\b/i, "speed", 1 / 3.6],
  [/\b(speed|m\/s)\b/i, "speed", 1],
];

const isComment = (line: string) => /^\s*(#|\/\/)/.test(line);
const cells = (line: string, delimiter: string) => (Papa.parse<string[]>(line, { delimiter }).data[0] ?? []).map((c) => c.trim());

/** Understands a list of laps as people keep them: comments, any of the usual separators, a header in words. */
export function guessLaps(text: string, delimiter?: string): LapReading {
  const lines = text.replace(/^\uFEFF/, "").split(/\r\n|\n|\r/);
  const data = lines.map((line, k) => ({ line, k })).filter(({ line }) => line.trim() !== "" && !isComment(line));
  const chosen = delimiter ?? [",", ";", "\t", "|"].reduce((a, b) => (cells(data[0]?.line ?? "", b).length > cells(data[0]?.line ?? "", a).length ? b : a));
  const headers = cells(data[0]?.line ?? "", chosen);
  const taken = new Set<LapRole>();
  const columns = headers.map((header, k): LapColumn => {
    const once = (role: LapRole): LapRole => {
      if (taken.has(role)) return "ignore";
      taken.add(role);
      return role;
    };
    const plain = (role: LapRole): LapColumn => ({ header, role: once(role), metric: "", factor: 1 });
    if (/wind/i.test(header)) return { ...plain("wind"), factor: /km/i.test(header) ? 1 / 3.6 : 1 };
    if (/^(version|ver|variant|model)\b/i.test(header)) return plain("version");
    if (/pack|battery|akku/i.test(header) && !/volt|\bv\b/i.test(header)) return plain("pack");
    if (/start|rest/i.test(header) && /volt|\bv\b/i.test(header)) return plain("startVoltage");
    if (/pilot|driver/i.test(header)) return plain("pilot");
    if (/remark|note|comment/i.test(header)) return plain("remark");
    const quantity = QUANTITIES.find(([named]) => named.test(header));
    if (quantity) return { header, role: "metric", metric: quantity[1], factor: quantity[2] };
    if (k === 0 || /^(lap|no\.?|nr|run)$/i.test(header)) return plain("label");
    return { header, role: "ignore", metric: header, factor: 1 };
  });
  const sample = data.slice(1).flatMap(({ line }) => cells(line, chosen));
  const commas = sample.filter((c) => /^-?\d+,\d+$/.test(c)).length;
  return { delimiter: chosen, decimal: commas > sample.filter((c) => /^-?\d+\.\d+$/.test(c)).length ? "," : ".", headerLine: (data[0]?.k ?? 0) + 1, columns };
}

/** Reads laps as they were understood. A lap whose quantity is missing, no number or negative is refused by its line; a low pack is named, and left to the comparison. */
export function readLaps(text: string, reading: LapReading, lowest: number | null = null): LapTable {
  const reports: LapReport[] = [];
  const laps: LapTable["laps"] = [];
  const lines = text.replace(/^\uFEFF/, "").split(/\r\n|\n|\r/);
  const limit = lowest ?? lowPackIn(text);
  for (const [k, line] of lines.entries()) {
    const at = k + 1;
    if (at <= reading.headerLine || line.trim() === "" || isComment(line)) continue;
    const row = cells(line, reading.delimiter);
    const error = (why: string) => reports.push({ line: at, severity: "error", text: why });
    if (row.length !== reading.columns.length) {
      error(`${row.length} cells where ${reading.columns.length} belong`);
      continue;
    }
    const lap: LapTable["laps"][number] = {
      label: String(laps.length + 1),
      values: {},
      wind: null,
      pack: "",
      startVoltage: null,
      pilot: "",
      remark: "",
      out: "",
      version: "",
      line: at,
    };
    let wrong: string | null = null;
    const number = (cell: string, header: string): number | null => {
      if (/^(-|–|n\/?a|nan)?$/i.test(cell)) return null;
      const v = Number(reading.decimal === "," ? cell.replace(/\./g, "").replace(",", ".") : cell);
      if (Number.isFinite(v)) return v;
      wrong ??= `“${cell}” under “${header}” is not a number`;
      return null;
    };
    let missing: string | null = null;
    reading.columns.forEach(({ role, metric, factor, header }, c) => {
      const cell = row[c] ?? "";
      if (role === "ignore") return;
      if (role === "label" || role === "version" || role === "pack" || role === "pilot" || role === "remark") {
        if (cell !== "") lap[role] = cell.slice(0, role === "remark" ? 200 : 40);
        return;
      }
      const v = number(cell, header);
      if (role === "metric") {
        if (v === null) missing ??= header;
        else if (v < 0) wrong ??= `${header} is ${cell}: accepted is zero or more`;
        else lap.values[metric] = v * factor;
      } else lap[role] = v === null || v < 0 ? null : v * factor;
    });
    const firstMetric = reading.columns.find((c) => c.role === "metric");
    if (wrong === null && firstMetric && lap.values[firstMetric.metric] === undefined) wrong = `no ${firstMetric.header} in this lap${lap.remark ? ` (${lap.remark})` : ""}`;
    if (wrong !== null) {
      error(wrong);
      continue;
    }
    if (missing !== null) reports.push({ line: at, severity: "info", text: `no ${missing}` });
    if (limit !== null && lap.startVoltage !== null && lap.startVoltage < limit)
      reports.push({ line: at, severity: "warning", text: `lap ${lap.label}: pack low at the start (${lap.startVoltage.toFixed(2)} V): not comparable` });
    laps.push(lap);
  }
  return { reading, laps, versions: [...new Set(laps.map((l) => l.version))], reports };
}

/** Start voltage (V) below which the comments of a file call a pack low; null when they say nothing. */
export function lowPackIn(text: string): number | null {
  const said = /under ([\d.,]+) ?V/i.exec(
    text
      .split(/\r\n|\n|\r/)
      .filter(isComment)
      .join("\n"),
  )?.[1];
  return said ? Number(said.replace(",", ".")) : null;
}
