import type { Calibration } from "../design/bench";
import { fitLinear } from "../numeric/leastSquares";

/** true = gain·(shown − zero). */
export interface Correction {
  gain: number;
  gainSd: number;
  /** what the instrument shows when nothing is there, in its unit */
  zero: number;
  zeroSd: number;
}
/** An instrument that is taken at its word. */
export const PLAIN: Correction = { gain: 1, gainSd: 0, zero: 0, zeroSd: 0 };

export const corrected = (shown: number, c: Correction): number => c.gain * (shown - c.zero);

/** What a charger puts back beyond what was taken out (lithium: 1 to 2 %; common practice), with its doubt. */
const CHARGE_EFFICIENCY = { value: 0.985, sd: 0.01 };

export type CalibrationResult =
  | { ok: true; correction: Correction; doubts: ("few" | "zero" | "far-off")[] }
  | { ok: false; message: string };

/**
 * Correction of an instrument from readings beside known values: a straight line by least squares with two or more
 * distinct ones, a gain alone with one (the zero is then taken as it
 * shows: none). By charge: the counted ampere-hours against what the charger put back, times the charging efficiency
 * 0.985 ± 0.01.
 */
export function correctionOf(c: Calibration): CalibrationResult {
  const pairs = c.pairs.filter((p) => Number.isFinite(p.shown) && Number.isFinite(p.known));
  if (pairs.length === 0) return { ok: false, message: "no reading yet" };
  const doubts: ("few" | "zero" | "far-off")[] = [];
  const efficiency = c.by === "charge returned" ? CHARGE_EFFICIENCY : { value: 1, sd: 0 };
  const known = pairs.map((p) => p.known * efficiency.value);
  const shown = pairs.map((p) => p.shown);
  const distinct = new Set(shown).size;
  if (distinct < 2 || c.by === "charge returned") {
    const gains = pairs.map((p, i) => (known[i] ?? 0) / p.shown);
    const gain = gains.reduce((s, g) => s + g, 0) / gains.length;
    if (!Number.isFinite(gain) || gain <= 0)
      return { ok: false, message: "the instrument showed nothing, or the wrong way round: no factor corrects that" };
    const spread =
      gains.length > 1
        ? Math.sqrt(gains.reduce((s, g) => s + (g - gain) ** 2, 0) / (gains.length - 1) / gains.length)
        : 0;
    const own = Math.hypot(...pairs.map((p) => p.knownSd / Math.max(Math.abs(p.known), 1e-12))) / pairs.length;
    if (pairs.length < 2) doubts.push("few");
    const gainSd = gain * Math.hypot(spread / gain, own, efficiency.sd);
    if (Math.abs(gain - 1) > 0.3) doubts.push("far-off");
    return { ok: true, correction: { gain, gainSd, zero: 0, zeroSd: 0 }, doubts };
  }
  // Shown = zero + known / gain: the known values are the better ones, so they stand on the right.
  const own = Math.sqrt(pairs.reduce((s, p) => s + p.knownSd ** 2, 0) / pairs.length);
  if (pairs.length === 2) {
    const [[k0 = 0, k1 = 0], [s0 = 0, s1 = 0]] = [known, shown];
    const gain = (k1 - k0) / (s1 - s0);
    if (!Number.isFinite(gain) || gain <= 0) return { ok: false, message: "the two readings run the wrong way round" };
    doubts.push("few");
    if (Math.abs(gain - 1) > 0.3) doubts.push("far-off");
    return {
      ok: true,
      correction: { gain, gainSd: (own * Math.SQRT2) / Math.abs(s1 - s0), zero: s0 - k0 / gain, zeroSd: own },
      doubts,
    };
  }
  const fit = fitLinear(
    known.map((k) => [1, k]),
    shown,
  );
  const [zero = 0, slope = 0] = fit.parameters;
  if (fit.status !== "converged" || slope <= 0)
    return { ok: false, message: "the readings do not follow the known values" };
  const gain = 1 / slope;
  const gainSd = Math.hypot((fit.sd[1] ?? 0) / slope ** 2, (gain * own) / Math.max(...known.map(Math.abs), 1e-12));
  const zeroSd = fit.sd[0] ?? 0;
  if (Math.abs(zero) > 3 * Math.max(zeroSd, own)) doubts.push("zero");
  if (Math.abs(gain - 1) > 0.3) doubts.push("far-off");
  return { ok: true, correction: { gain, gainSd, zero, zeroSd }, doubts };
}
