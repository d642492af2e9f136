import type { Fault, Run, Suspect } from "../design/craftFile";

/** The suspect at the sticks, by its id in the catalogue. */
export const PILOT = "pilot";
/** Whether a suspect is the one at the sticks. */
export const blamesPilot = (s: Pick<Suspect, "id">): boolean => s.id === PILOT;

/**
 * Why a fault may not be given the state that it asks for; null when it may.
 * Closed needs a suspect ruled in by a test with a result. Proven needs that, and a run after the one in which the
 * fault was seen.
 * The pilot may be the cause only when the pilot was swapped, or the craft.
 * "Cured, cause unknown" and "unresolved" are honest ends and need nothing.
 */
export function refusal(
  fault: Pick<Fault, "state" | "suspects" | "run" | "proofRun"> & Partial<Pick<Fault, "pilotSwap" | "pilotBlamed">>,
  runs: readonly Pick<Run, "number" | "date">[],
): string | null {
  if (fault.state !== "closed" && fault.state !== "proven") return null;
  const shown = fault.suspects.some((s) => s.state === "ruled in" && s.result.trim() !== "");
  if (!shown)
    return (
      "To close a fault, rule a suspect in and write down what its test showed. Or end it as “cured, " +
      "cause unknown” or “unresolved”."
    );
  if (!fault.pilotSwap && (fault.pilotBlamed || fault.suspects.some((s) => s.state === "ruled in" && blamesPilot(s))))
    return (
      "“Pilot error” needs the same pilot on another craft, or another pilot on this one: write down " +
      "which, and what it showed."
    );
  if (fault.state === "closed") return null;
  if (fault.proofRun === null) return "Proven needs a later run in which the fault did not come back.";
  const seen = runs.find((r) => r.number === fault.run);
  const proof = runs.find((r) => r.number === fault.proofRun);
  if (!seen || !proof || Date.parse(proof.date) <= Date.parse(seen.date) || proof.number === seen.number)
    return `Run ${fault.proofRun} is not later than run ${fault.run}, in which the fault was seen.`;
  return null;
}
