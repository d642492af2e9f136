import type { CraftFile } from "../design/craftFile";

/** A limit that the log speaks for. */
export interface Learnt {
  which: "wind" | "coldest";
  /** m/s, or °C */
  limit: number;
  /** runs that failed beyond it, and none passed there */
  failed: number[];
}

/** Runs that must have failed beyond a limit, with none passed there, before it is proposed (judgement). */
const ENOUGH = 3;
/** Rungs on which wind and cold count: from the first powered run in the open. */
const IN_THE_OPEN = 3;
const STEP = { wind: 0.5, coldest: 1 };

/**
 * Limits of wind and cold that the log of a line of versions speaks for: beyond them at least three runs failed or
 * were broken off, and none passed. The limit is the step just inside the
 * mildest of those, never inside a run that passed.
 */
export function limitsLearnt(file: Pick<CraftFile, "runs">, line: readonly string[]): Learnt[] {
  const own = file.runs.filter((r) => r.stage >= IN_THE_OPEN && line.includes(r.version));
  const learn = (which: Learnt["which"], read: (r: (typeof own)[number]) => number | null, sign: 1 | -1): Learnt[] => {
    // Counted upwards for wind, downwards for cold: larger is harder.
    const hard = own.flatMap((r) => {
      const at = read(r);
      return at === null ? [] : [{ number: r.number, at: sign * at, passed: r.outcome === "passed" }];
    });
    const passed = Math.max(-Infinity, ...hard.filter((r) => r.passed).map((r) => r.at));
    const failed = hard.filter((r) => !r.passed && r.at > passed);
    if (failed.length < ENOUGH) return [];
    const step = STEP[which];
    const inside = Math.ceil(Math.min(...failed.map((r) => r.at)) / step - 1) * step;
    const limit = sign * Math.max(inside, passed);
    return which === "wind" && limit <= 0 ? [] : [{ which, limit, failed: failed.map((r) => r.number) }];
  };
  return [...learn("wind", (r) => r.conditions.wind, 1), ...learn("coldest", (r) => r.conditions.airTemperature, -1)];
}
