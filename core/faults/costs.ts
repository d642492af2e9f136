import type { Fault } from "../design/craftFile";

export interface CauseCost {
  cause: string;
  faults: number[];
  /** repairs and tests, min */
  minutes: number;
  /** of these, spent on suspects that were wrong, min */
  wrongMinutes: number;
  money: number;
  /** suspects that were tested and ruled out */
  wrongTurns: number;
  /** mass that the repairs added, kg */
  mass: number;
}

const UNKNOWN = "not found";

/** The cause that a fault ended in: the suspect ruled in, else what was written as its cause. */
export const causeOf = (f: Fault): string =>
  f.suspects.find((s) => s.state === "ruled in")?.cause ?? (f.cause.trim() || UNKNOWN);

/**
 * What faults have cost, by their cause, dearest in time first: repairs, tests of every suspect, and the wrong turns
 * among them.
 */
export function costsByCause(faults: readonly Fault[]): CauseCost[] {
  const by = new Map<string, CauseCost>();
  for (const f of faults) {
    const cause = causeOf(f);
    const key = cause.toLowerCase();
    const held = by.get(key) ?? { cause, faults: [], minutes: 0, wrongMinutes: 0, money: 0, wrongTurns: 0, mass: 0 };
    const wrong = f.suspects.filter((s) => s.state === "ruled out");
    held.faults.push(f.number);
    held.minutes += f.minutes + f.suspects.reduce((s, x) => s + x.spentMinutes, 0);
    held.wrongMinutes += wrong.reduce((s, x) => s + x.spentMinutes, 0);
    held.money += f.cost + f.suspects.reduce((s, x) => s + x.spentCost, 0);
    held.wrongTurns += wrong.length;
    held.mass += f.mass;
    by.set(key, held);
  }
  return [...by.values()].sort((a, b) => b.minutes - a.minutes || b.money - a.money);
}
