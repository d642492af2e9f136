import { probabilityWithin } from "../numeric/normal";
import type { MetricKey } from "./metrics";
import type { Quantity } from "./quantity";
import type { Target } from "./schema";

export interface TargetResult {
  target: Target;
  /** open: nothing predicts it, or something that bears on it is not there yet. Only what is predicted whole is met. */
  status: "met" | "missed" | "open";
  predicted: Quantity | null;
  /** Distance inside (positive) or outside (negative) the nearest limit, in the metric's SI unit. */
  margin: number | null;
  /** Probability that the target is met, given the stated uncertainty (normal), 0 to 1. */
  odds: number | null;
  /** Why it is open, as a sentence; null otherwise. */
  because: string | null;
}

/** The range of values that a target accepts. */
export function acceptedRange(target: Target): { low: number; high: number } {
  if (target.comparison === "atMost") return { low: -Infinity, high: target.value };
  if (target.comparison === "atLeast") return { low: target.value, high: Infinity };
  return { low: target.value, high: target.upper ?? Infinity };
}

/** Odds from which something counts as sure, and below which as lost (judgement). Between them it is measured first. */
export const SURE = 0.9;
export const LOST = 1 - SURE;
/** Whether odds leave it open which way it goes. */
export const undecided = (odds: number | null): boolean => odds !== null && odds > LOST && odds < SURE;

/** Share of a limit that is lost in writing it down. */
const ROUNDING = 5e-4;

/**
 * Holds each target against what is predicted. Open is a target that nothing predicts, one whose number leaves
 * something out or is outside its method and does not already miss, and one on a number that rests on what nobody
 * knows, whichever way it looks.
 */
export function judgeTargets(
  targets: readonly Target[],
  metrics: Partial<Record<MetricKey, Quantity>>,
  why: (key: MetricKey) => string | null = () => null,
): TargetResult[] {
  return targets.map((target) => {
    const predicted = metrics[target.metric] ?? null;
    if (!predicted)
      return {
        target,
        status: "open",
        predicted,
        margin: null,
        odds: null,
        because: why(target.metric) ?? "nothing here predicts it yet",
      };
    const { low, high } = acceptedRange(target);
    const exact = Math.min(predicted.value - low, high - predicted.value);
    // Within what a limit is rounded to is on it.
    const margin = exact < 0 && -exact <= ROUNDING * Math.abs(exact === predicted.value - low ? low : high) ? 0 : exact;
    const lacks =
      predicted.unknown?.[0] ??
      predicted.incomplete?.[0] ??
      (predicted.outside ? `outside its method: ${predicted.outside[0]}` : undefined);
    if (lacks !== undefined && (margin >= 0 || predicted.unknown !== undefined))
      return { target, status: "open", predicted, margin, odds: null, because: lacks };
    return {
      target,
      status: margin >= 0 ? "met" : "missed",
      predicted,
      margin,
      odds: probabilityWithin(predicted.value, predicted.sd, low, high),
      because: null,
    };
  });
}
