/** A pair of beating wings, in plain numbers. */
export interface Flapper {
  /** tip to tip, m */
  span: number;
  /** both wings, m² */
  area: number;
  /** top to bottom, rad */
  stroke: number;
}

/**
 * Mean coefficients of force and of drag over a beat of a wing that twists by itself, standing still (hovering birds,
 * insects and models 1.2 to 1.8, and 0.7 to 1.5; from memory).
 */
export const BEAT = { force: 1.5, drag: 1.1 };

/** Power that a beating wing's stream takes over that of an even one (Ellington 1.1 to 1.4). */
const INDUCED = 1.25;

/** Largest over mean torque at the crank of a beat whose load goes with the square of its rate: 3π/4. */
export const PEAK = (3 * Math.PI) / 4;

/**
 * Mean push (N) and mean torque at the crank (N·m) of a pair of wings that beat once a turn, standing still: strips of
 * one chord, quasi-steady, φ(t) = ½Φ cos 2πft. F = ½ρC_F·S·(b²/12)·½(πfΦ)²; P = ½ρC_D·S·(b³/32)·(πfΦ)³·4/(3π). No less
 * than 1.25 times what the stream of the swept area takes. The wing's own inertia is not in it: springs and the air of
 * the other half give it back in part.
 *
 * Valid: standing or hovering, stroke 20° to 180°, Reynolds number above 5000.
 * Source: quasi-steady strips after C. P. Ellington (1984) and T. Weis-Fogh (1973).
 */
export function flapperLoad(wing: Flapper, density: number, rpm: number): { thrust: number; torque: number } {
  const f = rpm / 60;
  if (!(f > 0)) return { thrust: 0, torque: 0 };
  const rate = Math.PI * f * wing.stroke;
  const half = 0.5 * density * wing.area;
  const thrust = half * BEAT.force * (wing.span ** 2 / 12) * 0.5 * rate ** 2;
  const strips = half * BEAT.drag * (wing.span ** 3 / 32) * rate ** 3 * (4 / (3 * Math.PI));
  const stream = (INDUCED * thrust ** 1.5) / Math.sqrt(2 * density * sweptBy(wing));
  return { thrust, torque: Math.max(strips, stream) / (2 * Math.PI * f) };
}

/** Area that a pair of wings sweeps, m². */
export const sweptBy = (wing: Pick<Flapper, "span" | "stroke">): number => (wing.stroke * wing.span ** 2) / 4;
