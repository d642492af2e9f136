import type { Run } from "../design/craftFile";
import type { Evidence } from "../design/evidence";
import type { WorkingInput } from "../design/quantity";
import { miss } from "./miss";
import { BEYOND } from "./patterns";

export interface Mend {
  metric: string;
  /** measured minus predicted, in steps of the combined ± */
  steps: number;
  /** further off than any input can explain: none is named */
  beyond: boolean;
  /** what the prediction rests on and is worst known, with its ± as a share of its value */
  inputs: { name: string; share: number; evidence: Evidence }[];
}

const WEAK: readonly Evidence[] = ["guess", "datasheet"];

/**
 * What a run shows to be predicted badly, worst first, and which weakly known inputs its prediction rests on. What
 * agrees is left out.
 *
 * @param workingOf what a computed number came from
 */
export function worthMending(
  run: Pick<Run, "metrics">,
  workingOf: (metric: string) => readonly WorkingInput[],
): Mend[] {
  return run.metrics
    .flatMap((m): Mend[] => {
      const missed = m.predicted && m.measured ? miss(m.predicted, m.measured) : null;
      if (!missed || missed.verdict === "agrees") return [];
      const beyond = Math.abs(missed.steps) > BEYOND;
      const inputs = (beyond ? [] : workingOf(m.metric))
        .filter((i) => WEAK.includes(i.evidence) && i.value !== 0)
        .map((i) => ({ name: i.name, share: i.sd / Math.abs(i.value), evidence: i.evidence }))
        .sort((a, b) => b.share - a.share)
        .slice(0, 3);
      return [{ metric: m.metric, steps: missed.steps, beyond, inputs }];
    })
    .sort((a, b) => Math.abs(b.steps) - Math.abs(a.steps));
}
