import Papa from "papaparse";
import { TURNS, type Turn } from "../subjects/authority/allocate";
import type { AuthorityResult } from "../subjects/authority/node";

const digits = (v: number | null | undefined) => (v === null || v === undefined ? null : Number(v.toPrecision(6)));
/** Which way each axis is positive, as the whole application has it. */
export const POSITIVE: Record<Turn, string> = {
  roll: "starboard down",
  pitch: "nose up",
  yaw: "nose to starboard",
};

/** The allocation as rows: each unit with where it is, what it gives, and how it answers. Null: it has none. */
export function mixingRows({ units, holding, mixing }: Pick<AuthorityResult, "units" | "holding" | "mixing">) {
  if (!mixing) return null;
  return units.map((u, k) => {
    const mixed = mixing[k];
    return {
      unit: u.name,
      "x aft (m)": digits(u.at.x),
      "y to starboard (m)": digits(u.at.y),
      "z up (m)": digits(u.at.z),
      "turns, seen from behind": u.spin === 1 ? "clockwise" : u.spin === -1 ? "anticlockwise" : "",
      "thrust at full (N)": digits(u.most),
      "in level hover (share of thrust)": digits(holding.shares?.[k]),
      "for lift (share per N)": digits(mixed?.lift),
      ...Object.fromEntries(
        TURNS.map((t) => [`for ${t}, ${POSITIVE[t]} (share per N·m)`, digits(mixed?.turns[t] ?? null)]),
      ),
    };
  });
}

/** The allocation as CSV; empty where a number is not known, or nothing commands the axis. */
export const mixingCsv = (result: Parameters<typeof mixingRows>[0]): string | null => {
  const rows = mixingRows(result);
  return rows && Papa.unparse(rows, { newline: "\n", escapeFormulae: /^[=@]/ });
};

/** The allocation as JSON, with what it is in words. */
export const mixingJson = (craft: string, version: string, result: Parameters<typeof mixingRows>[0]): string | null => {
  const rows = mixingRows(result);
  return (
    rows &&
    JSON.stringify(
      {
        craft,
        version,
        says:
          "Share of its thrust that each unit adds for a newton of lift and a newton metre about the CG, " +
          "in the axes in which it hovers: least sum of squares, as long as no unit reaches nothing or " +
          "full. Thrust is taken as proportional to the share; a controller that commands speed takes the " +
          "square root.",
        units: rows,
      },
      null,
      2,
    )
  );
};
