/** Share of a blade beyond its stall angle (0 to 1) from which on its thrust is outside the method, as a sentence. */
export const stallOutside = (share: number): string[] =>
  share > 0.55 ? [`${Math.round(share * 100)} % of the blade is stalled standing still: thrust is uncertain`] : [];

/** Angle of attack (rad) at which the generic section lifts nothing. */
export const ZERO_LIFT = (-2.75 * Math.PI) / 180;
export const LIFT_SLOPE = 0.9 * 2 * Math.PI;
const REFERENCE_RE = 1e5;

/**
 * Highest section lift coefficient against Reynolds number: +0.2 a decade about 1.15 at 1e5, from 0.75 to 1.5 (common
 * practice).
 */
function maximumLift(reynolds: number): number {
  return Math.min(1.5, Math.max(0.75, 1.15 + 0.2 * Math.log10(reynolds / REFERENCE_RE)));
}

/**
 * Lift and drag coefficient of the generic section (about 2.75 % camber, thin).
 * Attached: slope 0.9·2π with the Prandtl–Glauert factor up to Mach 0.75, profile drag 0.027 at Re 1e5 falling as
 * Re^-0.4 and growing with lift.
 * Separated: flat plate, c_l = 1.1 sin 2α, c_d = 1.7 sin² α + profile. The two are blended about the stall angle.
 * Rotation delays the stall near the hub: c_l += 3 (c/r)² (c_l,potential − c_l), H. Snel et al. (1994), here capped at
 * the potential value and faded out above 0.6 rad. Source: thin-aerofoil theory; flat-plate and low-Reynolds trends
 * common practice. Its error is carried as the lift and drag factors.
 */
export function section(
  alpha: number,
  reynolds: number,
  mach: number,
  chordToRadius: number,
  lift: number,
  drag: number,
) {
  const re = Math.max(reynolds, 3000);
  const slope = (LIFT_SLOPE * lift) / Math.sqrt(1 - Math.min(mach, 0.75) ** 2);
  const stall = maximumLift(re) / LIFT_SLOPE;
  const a = alpha - ZERO_LIFT;
  const blend = 1 / (1 + Math.exp(-(Math.abs(a) - stall * 1.15) / 0.035));
  const attached = slope * a;
  const plate = 1.1 * lift * Math.sin(2 * a);
  const profile = 0.027 * (re / REFERENCE_RE) ** -0.4 * drag;
  const flat = attached * (1 - blend) + plate * blend;
  const delay = Math.min(1, 3 * chordToRadius ** 2) * Math.min(1, 0.6 / Math.max(Math.abs(a), 1e-3));
  const cl = flat + delay * (attached - flat);
  const cd =
    profile +
    (1 - blend) * 0.03 * drag * (Math.min(Math.abs(attached), 2) - 0.4) ** 2 +
    blend * 1.7 * drag * Math.sin(a) ** 2;
  return { cl, cd, stalled: Math.abs(a) > stall * 1.15 };
}
