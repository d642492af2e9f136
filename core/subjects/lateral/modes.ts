import { EigenvalueDecomposition, Matrix } from "ml-matrix";
import { GRAVITY } from "../air/air";
import type { Derivatives } from "./derivatives";

/** A motion that a craft left to itself goes into, or out of: e^(λt). */
export interface Modes {
  /** 1/s of what dies down least of all that goes straight; positive: it leans further and further; null: all swings */
  spiral: number | null;
  /** 1/s of the quickest motion without a swing: how fast rolling dies down */
  roll: number | null;
  /** its swing from side to side: share of the critical damping, and rad/s; null where it does not swing */
  swing: { damping: number; rate: number } | null;
}

/** Mass and inertia about the CG, kg and kg·m². */
export interface Inert {
  mass: number;
  roll: number;
  yaw: number;
}

/**
 * The equations of a craft in level flight sideways, for side wind (rad), rolling, yawing (rad/s) and bank (rad).
 *
 * @param q ½ρV², Pa
 * @param speed m/s, above 0
 * Source: linear equations of motion about level flight (Etkin; Nelson, Flight Stability and Automatic Control). Axes
 * of inertia along the craft's; small angles.
 */
export function equations(
  { beta, p, r }: Derivatives,
  { mass, roll, yaw }: Inert,
  q: number,
  speed: number,
): number[][] {
  return [
    [
      (q * beta.y) / (mass * speed),
      (q * p.y) / (mass * speed ** 2),
      -1 + (q * r.y) / (mass * speed ** 2),
      GRAVITY / speed,
    ],
    [(q * beta.l) / roll, (q * p.l) / (speed * roll), (q * r.l) / (speed * roll), 0],
    [(q * beta.n) / yaw, (q * p.n) / (speed * yaw), (q * r.n) / (speed * yaw), 0],
    [0, 1, 0, 0],
  ];
}

/** Imaginary part over the whole below which a root counts as without a swing. */
const STRAIGHT = 1e-6;

/** The motions of such equations by their roots. */
export function modesOf(a: number[][]): Modes {
  const { realEigenvalues: re, imaginaryEigenvalues: im } = new EigenvalueDecomposition(new Matrix(a));
  const roots = re.map((x, k) => ({ x, y: im[k] ?? 0 }));
  const straight = roots.filter((o) => Math.abs(o.y) <= STRAIGHT * Math.hypot(o.x, o.y)).map((o) => o.x);
  const swings = roots.filter((o) => o.y > STRAIGHT * Math.hypot(o.x, o.y));
  // Where two pairs swing, the one that dies down least; of what goes straight, what grows most.
  const of = (o: { x: number; y: number }) => -o.x / Math.hypot(o.x, o.y);
  const [quick] = swings.toSorted((s, t) => of(s) - of(t));
  const apart = straight.toSorted((s, t) => t - s);
  const rate = quick ? Math.hypot(quick.x, quick.y) : 0;
  return {
    spiral: apart[0] ?? null,
    roll: apart.length > 1 ? (apart.at(-1) ?? null) : null,
    swing: quick ? { damping: -quick.x / rate, rate } : null,
  };
}
