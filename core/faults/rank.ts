import type { ChangeKind } from "../lineage/difference";
import type { FindingCode, Severity } from "../verdicts/types";
import type { Cause, Symptom } from "./catalogue";

/** Why a suspect was moved up or down. */
export type RankReason = { why: "finding"; code: FindingCode; effect: 1 | -1 } | { why: "changed"; kind: ChangeKind; effect: 1 };

export interface RankedCause {
  cause: Cause;
  score: number;
  reasons: RankReason[];
}

export interface RankContext {
  findings: { code: FindingCode; severity: Severity }[];
  /** What changed from the parent version. */
  changed: ReadonlySet<ChangeKind>;
}

/** Places that one piece of evidence moves a suspect: a standing verdict counts more than a recent change. */
const BY_FINDING = 3;
const BY_CLEAR = -2;
const BY_CHANGE = 1.5;

/** The catalogue's causes of a symptom, likeliest first for this craft: its order of likelihood, moved by verdicts and recent changes. */
export function rankCauses(symptom: Symptom, context: RankContext): RankedCause[] {
  const count = symptom.causes.length;
  return symptom.causes
    .map((cause, i) => {
      const reasons: RankReason[] = [];
      let score = count - i;
      for (const code of cause.raisedBy ?? [])
        if (context.findings.some((f) => f.code === code && f.severity !== "clear")) {
          score += BY_FINDING;
          reasons.push({ why: "finding", code, effect: 1 });
        }
      for (const code of cause.loweredBy ?? [])
        if (context.findings.some((f) => f.code === code && f.severity === "clear")) {
          score += BY_CLEAR;
          reasons.push({ why: "finding", code, effect: -1 });
        }
      for (const kind of cause.touchedBy ?? [])
        if (context.changed.has(kind)) {
          score += BY_CHANGE;
          reasons.push({ why: "changed", kind, effect: 1 });
        }
      return { cause, score, reasons };
    })
    .sort((a, b) => b.score - a.score);
}
