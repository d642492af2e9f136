/**
 * Closed forms of what is around a disc, in plain numbers: thrust at equal power over that of the disc by itself,
 * unless said otherwise.
 */

/** From T^1.5·κ = constant at one power: what an induced-power factor κ leaves of the thrust. */
export const leftBy = (kappa: number): number => kappa ** (-2 / 3);

/** Thrust at equal power with a loss K in the stream, on the disc's own area: (1 + K/4)^(−2/3) (momentum theory). */
export const throughLoss = (k: number): number => (1 + k / 4) ** (-2 / 3);

/**
 * Thrust at equal power of a disc whose flow must pass openings: (1 + K/4)^(−2/3) with K = Σ ζ·(A_disc/A_open)². An
 * actuator with a loss in its stream (momentum theory); 1 where nothing is in its way.
 *
 * @param areas open areas in line, m²
 */
export const throughOpenings = (disc: number, areas: readonly number[], zeta: number): number =>
  throughLoss(areas.reduce((k, a) => k + zeta * (disc / a) ** 2, 0));

/**
 * Loss coefficient of a grille or net of round wires across a stream, on the area that it spans: 1.3·(1 − f) +
 * (1/f − 1)² at an open share f, 0 < f ≤ 1 (Idelchik, Handbook of Hydraulic Resistance, from memory).
 */
export const grilleLoss = (open: number): number => 1.3 * (1 - open) + (1 / open - 1) ** 2;

/** Share of a disc's area that another of its size overlaps, their axes a spacing apart (both in the same unit). */
export function overlapShare(spacing: number, diameter: number): number {
  const x = Math.min(1, Math.max(0, spacing / diameter));
  return (2 / Math.PI) * (Math.acos(x) - x * Math.sqrt(1 - x * x));
}

/** Induced-power factor of overlapping discs: 1 + (√2 − 1)·m (Leishman, Principles of Helicopter Aerodynamics). */
export const overlapFactor = (share: number): number => 1 + (Math.SQRT2 - 1) * Math.min(1, share);

/**
 * How far the stream of a disc has grown from it, −1 far before to 1 far behind: z/√(R² + z²), the axial velocity over
 * that at the disc less one (a cylinder of vortex rings; McCormick, Aerodynamics of V/STOL Flight).
 *
 * @param z m behind the disc; negative before it
 */
export const grown = (z: number, radius: number): number => z / Math.hypot(radius, z);

/**
 * Induced-power factor of a coaxial pair: 1.2808 with the lower disc in the contracted wake of the upper, √2 at worst
 * (Leishman).
 */
export const COAXIAL = { from: 1.2808, to: Math.SQRT2 };

/** The same by their spacing: as far between the two as the stream has contracted over it (an interpolation). */
export const coaxialFactor = (spacing: number, radius: number): number =>
  COAXIAL.to + (COAXIAL.from - COAXIAL.to) * grown(spacing, radius);

/**
 * Share of its thrust that a disc loses to the drag of a body in its stream, for what the stream adds to the flow past
 * it: C·S/(4A)·(1 + k)·(2V + (1 + k)·v)/(V + v), with the induced speed v at the disc and the stream grown by k where
 * the body is. Standing C·(S/A)·(1 + k)²/4: a quarter of C·S/A at the disc, all of it far behind.
 *
 * @param cover C·S/A, drag area of the body over that of the disc
 * @param ahead V/v, speed of advance over the induced one; 0 standing
 */
export const dragShare = (cover: number, k: number, ahead = 0): number =>
  ((cover / 4) * (1 + k) * (2 * ahead + 1 + k)) / (ahead + 1);

/** Induced speed at a disc, m/s: the root of T = 2ρA·v·(V + v); 0 without thrust. */
export const inducedAt = (thrust: number, speed: number, density: number, area: number): number =>
  thrust > 0 ? (Math.hypot(speed, Math.sqrt((2 * thrust) / (density * area))) - speed) / 2 : 0;

/**
 * Thrust near the ground over that far from it, at equal power: 1/(1 − (R/4z)²), for z ≥ R/2 (Cheeseman and Bennett,
 * ARC R&M 3021, 1957); it diverges at a quarter of the radius.
 */
export const groundFactor = (height: number, radius: number): number => 1 / (1 - (radius / (4 * height)) ** 2);
