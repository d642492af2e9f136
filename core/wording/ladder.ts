import { type Gate, type GateResult, type Lock, isMetricKey } from "../design/craftFile";
import { METRICS } from "../design/metrics";
import type { UnitHabit } from "../design/units";
import type { RungState } from "../runs/ladder";
import { markOf } from "../runs/marks";
import { plain } from "./format";

const COMPARED: Record<Gate["comparison"], string> = { atMost: "at most", atLeast: "at least", between: "between" };

/** A gate as a sentence: "Nose angle at most 8.0°, never above". */
export function gateText(gate: Gate, habit: UnitHabit = "metric"): string {
  if (gate.metric === "") return gate.text;
  const name = isMetricKey(gate.metric) ? METRICS[gate.metric].label : gate.metric;
  const limit =
    gate.comparison === "between"
      ? `${plain(gate.value, gate.dimension, habit)} and ${plain(gate.upper ?? gate.value, gate.dimension, habit)}`
      : plain(gate.value, gate.dimension, habit);
  return `${name} ${COMPARED[gate.comparison]} ${limit}${gate.text ? `, ${gate.text}` : ""}`;
}

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
      return `“${markOf(lock.mark)?.word ?? lock.mark}” in run ${lock.run} is not answered: its fault needs a suspect tested, or an end`;
    case "crash":
      return lock.why === "evidence"
        ? `evidence of the crash in run ${lock.run} is not secured`
        : `no suspect of the crash in run ${lock.run} has been tested: not near people`;
  }
}

export const locksText = (locks: readonly Lock[]): string => locks.map((l) => lockText(l)).join("; ");
