import { parseQuantity } from "../../../design/readQuantity";
import type { Dimension, UnitHabit } from "../../../design/units";
import { type CurveReading, type MeasuredPropulsor, type PushedOn, measuredSchema } from "./declares";

/** Columns of a measured curve as it is typed or pasted, in this order. Only the first two must be there. */
export const CURVE_COLUMNS = [
  { key: "command", label: "Command", dimension: "percent" },
  { key: "force", label: "Force", dimension: "force" },
  { key: "current", label: "Current", dimension: "current" },
  { key: "voltage", label: "Volts under load", dimension: "voltage" },
  { key: "rpm", label: "Speed", dimension: "rotation" },
  { key: "temperature", label: "Hottest", dimension: "temperature" },
] as const satisfies readonly { key: keyof CurveReading; label: string; dimension: Dimension }[];

/** Units that a scale's bare number may be in. */
export const SCALE_UNITS = ["g", "kg", "N", "ozf"] as const;
export type ScaleUnit = (typeof SCALE_UNITS)[number];

/** What is wrong, at its row (from 0) and column; at -1 where it is the curve as a whole. */
export interface RowProblem {
  row: number;
  column: (typeof CURVE_COLUMNS)[number]["key"];
  message: string;
}

/** What is said of a curve beside its readings; null: not said yet. */
export type AboutCurve = Omit<MeasuredPropulsor, "readings" | "on" | "together"> & {
  on: PushedOn | null;
  together: number | null;
};

const BARE = /^[+\-−]?\d+(?:[.,]\d+)?$/;

/**
 * Reads the rows of a measured curve. Empty rows are passed over, a bare force is in the scale's unit, a bare command
 * in percent; other cells take any unit of their kind.
 *
 * @returns the curve when everything can be read and shows one; else what stands against it, each at its cell
 */
export function readCurveRows(
  rows: readonly (readonly string[])[],
  about: AboutCurve,
  scale: ScaleUnit,
  habit: UnitHabit = "metric",
): { ok: true; measured: MeasuredPropulsor } | { ok: false; problems: RowProblem[] } {
  const whole = (message: string): RowProblem => ({ row: -1, column: "command", message });
  const problems: RowProblem[] = [
    ...(about.on === null ? [whole("Say what it pushed on: air, water or the ground.")] : []),
    ...(about.together === null
      ? [whole("Say how many units were on the scale at once: the force is shared among them.")]
      : []),
  ];
  const readings: CurveReading[] = [];
  const at: number[] = [];
  for (const [row, cells] of rows.entries()) {
    if (cells.every((c) => c.trim() === "")) continue;
    const reading = {
      command: 0,
      force: 0,
      current: null,
      voltage: null,
      rpm: null,
      temperature: null,
    } as CurveReading;
    for (const [k, { key, dimension }] of CURVE_COLUMNS.entries()) {
      const text = (cells[k] ?? "").trim();
      if (text === "" || /^[-–—]+$/.test(text)) {
        if (key === "command" || key === "force")
          problems.push({ row, column: key, message: key === "force" ? "how much did it push?" : "at which command?" });
        continue;
      }
      const read = parseQuantity(key === "force" && BARE.test(text) ? `${text} ${scale}` : text, dimension, habit);
      if (read.ok) reading[key] = read.value;
      else problems.push({ row, column: key, message: read.message });
    }
    readings.push(reading);
    at.push(row);
  }
  if (problems.length > 0) return { ok: false, problems };
  const checked = measuredSchema.safeParse({ ...about, readings });
  if (checked.success) return { ok: true, measured: checked.data };
  return {
    ok: false,
    problems: checked.error.issues.map((issue) => {
      const [list, index, key] = issue.path;
      const inRow = list === "readings" && typeof index === "number";
      return {
        row: inRow ? (at[index] ?? Math.max(0, rows.length - 1)) : -1,
        column: CURVE_COLUMNS.find((c) => c.key === key)?.key ?? "command",
        message: issue.message,
      };
    }),
  };
}

/**
 * A pasted block as rows of cells: separated by tabs, semicolons, bars or, where no decimal comma can be meant,
 * commas.
 */
export function blockOf(text: string): string[][] {
  const lines = text
    .replace(/\r\n?/g, "\n")
    .split("\n")
    .filter((l) => l.trim() !== "");
  const separator = ["\t", ";", "|"].find((s) => lines.some((l) => l.includes(s)));
  return lines.map((l) =>
    (separator
      ? l.split(separator)
      : l.includes(", ") || /,[^,]*,/.test(l)
        ? l.split(/,\s*/)
        : l.trim().split(/\s+/)
    ).map((c) => c.trim()),
  );
}
