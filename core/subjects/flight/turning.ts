import { type Doubtful, through } from "../../numeric/doubt";
import { GRAVITY } from "../air/air";
import type { Surface } from "../surfaces/declares";
import { outlineOf } from "../surfaces/planform";

/** A steady level turn. */
export interface TurnAt {
  /** rad */
  bank: number;
  /** lift over weight */
  load: number;
  /** m/s at which it stalls in this turn, and at which it is flown */
  stall: number;
  speed: number;
  /** m */
  radius: number;
  /** s for a whole circle */
  circle: number;
  /** N that holding the height takes */
  drag: number;
}

/** Banks that are told, rad. */
const BANKS = [30, 45, 60].map((d) => (d * Math.PI) / 180);
/** The one whose radius is told as a number. */
const TOLD = Math.PI / 4;

const loadIn = (bank: number) => 1 / Math.cos(bank);

/**
 * A turn as far above its own stall as level flight at a multiple of the stall speed: the wing stands at the same
 * angle, so that all forces grow with the load. n = 1/cos φ, v = m·v_s·√n, R = v²/(g·tan φ), D = n·D(level).
 *
 * @param stall m/s, level
 * @param margin speed over the stall speed, > 1
 * @param drag N, in level flight at that margin
 * @param bank rad, above 0, below π/2
 */
export function turnAt(stall: number, margin: number, drag: number, bank: number): TurnAt {
  const load = loadIn(bank);
  const speed = margin * stall * Math.sqrt(load);
  const radius = speed ** 2 / (GRAVITY * Math.tan(bank));
  return {
    bank,
    load,
    stall: stall * Math.sqrt(load),
    speed,
    radius,
    circle: (2 * Math.PI * radius) / speed,
    drag: load * drag,
  };
}

/**
 * Radius of the smallest circle that is kept around a point on the ground in a steady wind, m: with the wind behind it
 * is fastest over the ground, and there it banks as far as it may: R = (v + w)²/(g·tan φ). Null where the wind is no
 * slower than it flies: it is carried off.
 *
 * @param speed through the air, m/s, held all round
 * @param wind m/s, ≥ 0
 * Source: turns around a point, handbooks of flight training (steepest where the ground speed is highest).
 */
export const aroundPoint = ({ speed, bank }: Pick<TurnAt, "speed" | "bank">, wind: number): number | null =>
  wind < speed ? (speed + wind) ** 2 / (GRAVITY * Math.tan(bank)) : null;

/** Radius of the turn at 45°, m: it goes with the square of the stall speed. */
export function radiusOf(stall: Doubtful, margin: number): Doubtful {
  const { radius } = turnAt(stall.value, margin, 0, TOLD);
  return through(stall, radius, (2 * radius) / stall.value);
}

const DEGREE = Math.PI / 180;
/**
 * Bank up to which no corner of a surface touches ground or water, rad, in whole degrees; a right angle far above it.
 *
 * @param height of the baseline over the ground, m; null: far above
 */
export function mostBank(surfaces: readonly Surface[], height: { value: number } | null): number {
  if (height === null) return Math.PI / 2;
  const corners = surfaces.flatMap((s) => outlineOf(s, 1)).map((p) => ({ y: Math.abs(p.y), z: p.z }));
  const clears = (bank: number) => corners.every((p) => height.value + p.z * Math.cos(bank) - p.y * Math.sin(bank) > 0);
  let degrees = 0;
  while (degrees < 90 && clears((degrees + 1) * DEGREE)) degrees++;
  return degrees * DEGREE;
}

/** The banks that are told of a craft: the usual ones, and near the ground the most that it can have. */
export const banksOf = (most: number): number[] =>
  most >= (BANKS[0] ?? 0) ? BANKS.filter((b) => b <= most) : most > 0 ? [most] : [];

/** Whether the turn whose radius is told can be flown so near the ground. */
export const canBank = (surfaces: readonly Surface[], height: { value: number } | null): boolean =>
  mostBank(surfaces, height) >= TOLD;
