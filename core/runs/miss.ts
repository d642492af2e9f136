/** Measured minus predicted in steps of the combined standard uncertainty. */
export interface Miss {
  steps: number;
  verdict: "agrees" | "doubtful" | "disagrees";
}

/**
 * Compares a measured with a predicted value. Agrees up to 1 step of √(sd_p² + sd_m²), doubtful up to 2, disagrees
 * beyond.
 * @returns null when both uncertainties are zero (nothing to measure the difference by)
 */
export function miss(predicted: { value: number; sd: number }, measured: { value: number; sd: number }): Miss | null {
  const combined = Math.hypot(predicted.sd, measured.sd);
  if (!(combined > 0)) return null;
  const steps = (measured.value - predicted.value) / combined;
  const size = Math.abs(steps);
  return { steps, verdict: size <= 1 ? "agrees" : size <= 2 ? "doubtful" : "disagrees" };
}
