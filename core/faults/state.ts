import type { Fault, Run } from "../design/craftFile";

/**
 * Why a fault may not be given the state that it asks for; null when it may.
 * Closed needs a suspect ruled in by a test with a result. Proven needs that, and a run after the one in which the fault was seen.
 * "Cured, cause unknown" and "unresolved" are honest ends and need nothing.
 */
export function refusal(fault: Pick<Fault, "state" | "suspects" | "run" | "proofRun" | "cause">, runs: readonly Pick<Run, "number" | "date">[]): string | null {
  if (fault.state !== "closed" && fault.state !== "proven") return null;
  const shown = fault.suspects.some((s) => s.state === "ruled in" && s.result.trim() !== "");
  if (!shown) return "To close a fault, rule a suspect in and write down what its test showed. Or end it as “cured, cause unknown” or “unresolved”.";
  if (fault.state === "closed") return null;
  if (fault.proofRun === null) return "Proven needs a later run in which the fault did not come back.";
  const seen = runs.find((r) => r.number === fault.run);
  const proof = runs.find((r) => r.number === fault.proofRun);
  if (!seen || !proof || Date.parse(proof.date) <= Date.parse(seen.date) || proof.number === seen.number)
    return `Run ${fault.proofRun} is not later than run ${fault.run}, in which the fault was seen.`;
  return null;
}
