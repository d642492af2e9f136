import { inEuros } from "../design/money";
import type { ChangeKind } from "../design/fields";
import type { Odd } from "../runs/eachDrive";
import type { Severity } from "../subject";
import type { Cause, Symptom } from "./catalogue";
import { stemsOf } from "./find";

/** What the pack's readings say: it began low or cold, sagged or ended flat; or it was full and held. */
export type PackState = "began low" | "cold" | "sagged" | "ended flat" | "held";

/** Why a suspect was moved up or down. */
export type RankReason =
  | { why: "finding"; code: string; effect: 1 | -1 }
  | { why: "changed"; kind: ChangeKind; effect: 1 }
  | { why: "repaired"; fault: number; effect: 1 }
  | { why: "unverified"; part: string; effect: 1 }
  | { why: "pack"; state: PackState; effect: 1 | -1 }
  | { why: "read"; drive: string; odd: Odd; effect: 1 }
  | { why: "before"; fault: number; effect: 1 };

export interface RankedCause {
  cause: Cause;
  score: number;
  reasons: RankReason[];
}

export interface RankContext {
  findings: readonly { code: string; severity: Severity }[];
  /** What changed from the parent version. */
  changed: ReadonlySet<ChangeKind>;
  /** Repairs aboard that no later run has proven, with the words of part, fix and damage. */
  repaired?: readonly { fault: number; words: string }[];
  /** Parts new or changed since the craft last ran in the open. */
  unverified?: readonly string[];
  pack?: PackState | null;
  /** Drives that read otherwise than their like ones in that run. */
  odd?: readonly { name: string; odd: Odd }[];
  /** Causes that earlier faults of this symptom ended in, by id. */
  before?: readonly { fault: number; cause: string }[];
}

/**
 * Places that one piece of evidence moves a suspect: a standing verdict counts most, then what it was before, the
 * pack's state, a recent change or repair (judgement).
 */
const BY_FINDING = 3;
/**
 * Places from the likeliest of a symptom to its least likely, before anything is known of the craft: however many there
 * are (judgement).
 */
const SPAN = 3;
const BY_CLEAR = -2;
const BY_BEFORE = 2;
const BY_PACK = 2;
/** What was read of the drives in that very run counts most (judgement). */
const BY_READ = 4;
const BY_CHANGE = 1.5;
const BY_REPAIR = 1.5;
const BY_UNVERIFIED = 1;

const shares = (a: readonly string[], b: readonly string[]) => a.some((w) => b.includes(w));
/** Whether a cause is one of the pack, by what it is linked to. */
const ofPack = (c: Cause) =>
  (c.touchedBy?.includes("pack") ?? false) || (c.raisedBy ?? []).some((r) => r === "pack-floor" || r === "cold-pack");

/**
 * The catalogue's causes of a symptom, likeliest first for this craft: its order of likelihood, moved by verdicts,
 * changes, repairs, unproven parts, the pack and what it was before.
 */
export function rankCauses(symptom: Symptom, context: RankContext): RankedCause[] {
  const count = symptom.causes.length;
  return symptom.causes
    .map((cause, i) => {
      const reasons: RankReason[] = [];
      let score = (SPAN * (count - i)) / count;
      const move = (by: number, reason: RankReason) => {
        score += by;
        reasons.push(reason);
      };
      for (const code of cause.raisedBy ?? [])
        if (context.findings.some((f) => f.code === code && f.severity !== "clear"))
          move(BY_FINDING, { why: "finding", code, effect: 1 });
      for (const code of cause.loweredBy ?? [])
        if (context.findings.some((f) => f.code === code && f.severity === "clear"))
          move(BY_CLEAR, { why: "finding", code, effect: -1 });
      for (const kind of cause.touchedBy ?? [])
        if (context.changed.has(kind)) move(BY_CHANGE, { why: "changed", kind, effect: 1 });
      const words = stemsOf(`${cause.text} ${cause.fix}`);
      for (const r of context.repaired ?? [])
        if (shares(words, stemsOf(r.words))) move(BY_REPAIR, { why: "repaired", fault: r.fault, effect: 1 });
      const part = (context.unverified ?? []).find((p) => shares(words, stemsOf(p)));
      if (part !== undefined) move(BY_UNVERIFIED, { why: "unverified", part, effect: 1 });
      if (context.pack && ofPack(cause))
        move(context.pack === "held" ? -BY_PACK / 2 : BY_PACK, {
          why: "pack",
          state: context.pack,
          effect: context.pack === "held" ? -1 : 1,
        });
      const read = (context.odd ?? []).find((o) => cause.readBy?.includes(o.odd));
      if (read) move(BY_READ, { why: "read", drive: read.name, odd: read.odd, effect: 1 });
      for (const b of context.before ?? [])
        if (b.cause === cause.id) move(BY_BEFORE, { why: "before", fault: b.fault, effect: 1 });
      return { cause, score, reasons };
    })
    .sort((a, b) => b.score - a.score);
}

/** Minutes that a euro is worth when tests are compared (judgement). */
const MINUTES_PER_EURO = 2;
const RISKS: Record<Cause["risk"], number> = { none: 0, "a part": 1, "a person": 2 };

/** Minutes of a test and of what it costs; where nobody said what a euro is worth its minutes alone. */
const effort = (t: Pick<Cause, "minutes" | "cost">) => t.minutes + MINUTES_PER_EURO * (inEuros(t.cost) ?? 0);

/**
 * The test to make first of several: the one that risks least, a person before a part before nothing; of those one
 * with the pack out; then the one that takes least time and money.
 * A risk to a person is never bought off with minutes.
 */
export const cheapestTest = <T extends Pick<Cause, "minutes" | "cost" | "risk"> & { powered?: boolean | null }>(
  list: readonly T[],
): T | undefined =>
  list.toSorted(
    (a, b) =>
      RISKS[a.risk] - RISKS[b.risk] || Number(a.powered ?? true) - Number(b.powered ?? true) || effort(a) - effort(b),
  )[0];
