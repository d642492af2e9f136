import { probabilityWithin } from "../numeric/normal";
import type { MetricKey } from "./metrics";
import type { Quantity } from "./quantity";
import type { Target } from "./schema";

export interface TargetResult {
  target: Target;
  status: "met" | "missed" | "unknown";
  predicted: Quantity | null;
  /** Distance inside (positive) or outside (negative) the nearest limit, in the metric's SI unit. */
  margin: number | null;
  /** Probability that the target is met, given the stated uncertainty (normal), 0 to 1. */
  odds: number | null;
}

/** The range of values that a target accepts. */
export function acceptedRange(target: Target): { low: number; high: number } {
  if (target.comparison === "atMost") return { low: -Infinity, high: target.value };
  if (target.comparison === "atLeast") return { low: target.value, high: Infinity };
  return { low: target.value, high: target.upper ?? Infinity };
}

/** Holds each target against what is predicted. A target whose metric is not predicted stays unknown. */
export function judgeTargets(targets: readonly Target[], metrics: Partial<Record<MetricKey, Quantity>>): TargetResult[] {
  return targets.map((target) => {
    const predicted = metrics[target.metric] ?? null;
    if (!predicted) return { target, status: "unknown", predicted, margin: null, odds: null };
    const { low, high } = acceptedRange(target);
    const margin = Math.min(predicted.value - low, high - predicted.value);
    return { target, status: margin >= 0 ? "met" : "missed", predicted, margin, odds: probabilityWithin(predicted.value, predicted.sd, low, high) };
  });
}
