import type { CraftFile, Version } from "../design/craftFile";
import { lineOf } from "../runs/ladder";

/** Rung from which on a craft is said to work: it ran short and low, and passed. */
const WORKS_FROM = 4;

/** Highest rung that a version passed up to a time, and whether it failed above that since. */
export function reachedBy(file: Pick<CraftFile, "runs">, label: string, until = Infinity): number {
  return Math.max(
    0,
    ...file.runs
      .filter((r) => r.version === label && r.outcome === "passed" && Date.parse(r.date) < until)
      .map((r) => r.stage),
  );
}

/**
 * The last working baseline of a version: of itself and all that it grew from, the newest that passed a short run or
 * more. Null when none did.
 */
export function baselineOf(
  file: Pick<CraftFile, "runs" | "versions">,
  label: string,
  until = Infinity,
): Version | null {
  for (const at of lineOf(file.versions, label)) {
    if (reachedBy(file, at, until) >= WORKS_FROM) return file.versions.find((v) => v.label === at) ?? null;
  }
  return null;
}
