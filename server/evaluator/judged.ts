import type { Design } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import type { Glance } from "../../core/glance";
import type { Finding } from "../../core/subject";
import { fastestTip, propulsion } from "../../core/subjects/propulsion/node";

/** What of an evaluation a record needs: plain data. */
export interface Judged {
  metrics: Record<
    string,
    { value: number; sd: number; evidence: "guess" | "datasheet" | "calculated" | "measured" | "proven" }
  >;
  findings: Finding[];
  /** fastest blade tip at full throttle, m/s; 0: none, or not known */
  tip: number;
}
export type Task = { kind: "judge"; design: Design } | { kind: "glance"; design: Design };
export type Answer = { judged: Judged } | { glance: Glance } | { failed: string };

/** Judges a design as a run that is logged copies it in. A prediction that is not finite is none. */
export function judged(design: Design): Judged {
  const evaluation = evaluate(design);
  const { metrics, findings } = evaluation;
  return {
    tip: fastestTip(design, resultIn(evaluation, propulsion)),
    metrics: Object.fromEntries(
      Object.entries(metrics).flatMap(([key, q]) =>
        q && Number.isFinite(q.value) && Number.isFinite(q.sd)
          ? [[key, { value: q.value, sd: q.sd, evidence: q.evidence }]]
          : [],
      ),
    ),
    findings,
  };
}
