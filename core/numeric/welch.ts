import jStat from "jstat";
import { probabilityWithin } from "./normal";

/**
 * Two-sided Student t quantile: the t beyond which lie (1 − confidence) of the distribution with these degrees of
 * freedom.
 */
export const tQuantile = (confidence: number, freedom: number): number =>
  jStat.studentt.inv(0.5 + confidence / 2, freedom);

/**
 * Probability (0 to 1) that a quantity known as a mean with this standard error and these degrees of freedom lies in
 * [low, high]; Infinity: normal.
 */
export function probabilityByT(mean: number, error: number, freedom: number, low: number, high: number): number {
  if (!(error > 0) || !Number.isFinite(freedom)) return probabilityWithin(mean, error, low, high);
  const below = (x: number) =>
    x === Infinity ? 1 : x === -Infinity ? 0 : jStat.studentt.cdf((x - mean) / error, freedom);
  return Math.max(0, below(high) - below(low));
}

export interface Sample {
  count: number;
  mean: number;
  /** sample standard deviation; NaN for fewer than two */
  sd: number;
}
export function sampleOf(values: readonly number[]): Sample {
  const mean = values.reduce((s, v) => s + v, 0) / values.length;
  return {
    count: values.length,
    mean,
    sd:
      values.length > 1 ? Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / (values.length - 1)) : Number.NaN,
  };
}

/** Half of the 95 % interval of a sample's own mean. */
export const meanReach = (s: Sample): number =>
  s.count > 1 ? (tQuantile(0.95, s.count - 1) * s.sd) / Math.sqrt(s.count) : Number.NaN;

export interface Welch {
  a: Sample;
  b: Sample;
  /** b minus a */
  difference: number;
  /** standard error of the difference */
  error: number;
  t: number;
  freedom: number;
  /** two-sided */
  p: number;
  /** 95 % interval of the difference */
  interval: [number, number];
}

/**
 * Difference of two means with unequal variances: t and its degrees of freedom after Welch and Satterthwaite.
 * @returns null with fewer than two values on a side, or no scatter at all
 * Source: B. L. Welch, Biometrika 34 (1947). Checked on Student's sleep data (1908).
 */
export function welch(before: readonly number[], after: readonly number[]): Welch | null {
  const [a, b] = [sampleOf(before), sampleOf(after)];
  if (a.count < 2 || b.count < 2) return null;
  const [va, vb] = [a.sd ** 2 / a.count, b.sd ** 2 / b.count];
  const error = Math.sqrt(va + vb);
  // Scatter below the rounding of the values themselves is none.
  if (!(error > 1e-12 * Math.max(Math.abs(a.mean), Math.abs(b.mean), 1e-9))) return null;
  const difference = b.mean - a.mean;
  const t = difference / error;
  const freedom = (va + vb) ** 2 / (va ** 2 / (a.count - 1) + vb ** 2 / (b.count - 1));
  const reach = tQuantile(0.95, freedom) * error;
  return {
    a,
    b,
    difference,
    error,
    t,
    freedom,
    p: 2 * (1 - jStat.studentt.cdf(Math.abs(t), freedom)),
    interval: [difference - reach, difference + reach],
  };
}

/** Repeats on each side beyond which nobody counts. */
const MOST = 500;

/**
 * Repeats on each side at which a difference of this size stands clear of zero (95 %); null when no number up to 500
 * does.
 *
 * @param variance of one repeat on the one side and one on the other, together
 */
export function repeatsFor(size: number, variance: number, from = 2): number | null {
  for (let n = Math.max(2, from); n <= MOST; n++)
    if (tQuantile(0.95, 2 * n - 2) * Math.sqrt(variance / n) < size) return n;
  return null;
}

/** The same of a difference that was found, were the scatter to stay; null when it stands clear already. */
export const repeatsNeeded = (w: Welch): number | null =>
  w.interval[0] > 0 || w.interval[1] < 0
    ? null
    : repeatsFor(Math.abs(w.difference), w.a.sd ** 2 + w.b.sd ** 2, Math.min(w.a.count, w.b.count));
