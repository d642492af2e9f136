import { type Gate, type GateResult, type Lock, isMetricKey } from "../design/craftFile";
import { METRICS } from "../design/metrics";
import type { UnitHabit } from "../design/units";
import type { RungState } from "../runs/ladder";
import { markOf } from "../runs/marks";
import { gateLine } from "./gate";

/** A gate as a sentence: "Nose angle at most 8.0°, never above". */
export const gateText = (gate: Gate, habit: UnitHabit): string => gateLine(gate, metricName(gate.metric), habit);

/** How a number of a gate or a run is called: by what it is, or by a name of one's own. */
export const metricName = (metric: string): string => (isMetricKey(metric) ? METRICS[metric].label : metric);

export const GATE_WORD: Record<GateResult["result"], string> = {
  passed: "passed",
  failed: "failed",
  unclear: "unclear: too near the limit for its ±",
  "not judged": "not judged",
};
export const RUNG_WORD: Record<RungState["state"], string> = {
  passed: "passed",
  failed: "failed",
  unclear: "unclear",
  untried: "not tried",
  "left out": "left out",
};

const faultWord = (code: string) => code.replaceAll("-", " ");

/**
 * What stands against going on, in words. A verdict is named by the sentence that is given for it, else by its code.
 */
export function lockText(lock: Lock, verdict?: (code: string, subject: string) => string | undefined): string {
  switch (lock.kind) {
    case "verdict":
      return (
        verdict?.(lock.code, lock.subject) ??
        `stop verdict: ${faultWord(lock.code)}${lock.subject ? ` (${lock.subject})` : ""}`
      );
    case "gate":
      return `rung ${lock.stage} not passed in run ${lock.run}: ${lock.gate}`;
    case "failed":
      return `rung ${lock.stage} failed in run ${lock.run}`;
    case "untried":
      return `rung ${lock.stage} not tried yet`;
    case "danger":
      return (
        `“${markOf(lock.mark)?.word ?? lock.mark}” in run ${lock.run} is not answered: its fault needs a ` +
        "suspect tested, or an end"
      );
    case "crash":
      return lock.why === "evidence"
        ? `evidence of the crash in run ${lock.run} is not secured`
        : `no suspect of the crash in run ${lock.run} has been tested: not near people`;
  }
}

export const locksText = (locks: readonly Lock[]): string => locks.map((l) => lockText(l)).join("; ");
