import type { MomentTest } from "../design/bench";
import type { Known } from "../design/evidence";
import { GRAVITY } from "../subjects/air/air";
import { type Mean, meanOf } from "./mean";

type Way = MomentTest["way"];
type TwoLines = Extract<Way, { by: "two lines" }>;
/** Two lines as they hang, m. */
interface Lines {
  spacing: number;
  length: number;
}

export interface MomentResult {
  /** N·m about the axis */
  moment: Mean | null;
  /** kg·m² about the axis, from free swings */
  inertia: Mean | null;
  /** rad/s */
  rate: Mean | null;
  /** m, of the circle that it turns on */
  radius: Mean | null;
  /** a twist so large that the lines all but cross, or lie flat: left out */
  left: number;
}
const NOTHING: MomentResult = { moment: null, inertia: null, rate: null, radius: null, left: 0 };

/** How well a single reading is known, share, and what no repeat takes away (common practice). */
const PULL = { one: 0.08, floor: 0.03 };
const TIMED = { one: 0.1, floor: 0.03 };
const SWING = { one: 0.03, floor: 0.02 };
/** rad: a protractor held under it by hand (common practice). */
const PROTRACTOR = (2 * Math.PI) / 180;
/** Share by which mass, spacing and length of two lines leave a moment in doubt together. */
const LINES = 0.03;

/**
 * Moment (N·m) that holds a craft hung by two equal, upright lines turned by an angle: W·d²·sin θ / 4h with h = √(L² −
 * d²·sin²(θ/2)), d between the lines above and below, L their length. Statics of two lines, exact while both stay taut.
 *
 * @returns NaN where the lines cannot reach
 */
export function momentOfTwist(weight: number, { spacing: d, length }: Lines, twist: number): number {
  const h2 = length ** 2 - (d * Math.sin(twist / 2)) ** 2;
  return h2 > 0 ? (weight * d ** 2 * Math.sin(twist)) / (4 * Math.sqrt(h2)) : Number.NaN;
}

/**
 * Moment of inertia (kg·m²) about the upright through the CG, from the time of one free swing there and back (s):
 * I = W·d²·T² / (16π²·L) (two-line pendulum, NACA TR 467). Range: swings of a few degrees, the CG midway between the
 * lines; the air that swings along is in it.
 */
export const inertiaOfSwing = (weight: number, { spacing, length }: Lines, period: number): number =>
  (weight * spacing ** 2 * period ** 2) / (16 * Math.PI ** 2 * length);

/** What swings of that period make of it: the period counts twice. */
const swung = (value: number, period: Mean): Mean => ({
  value,
  sd: value * Math.hypot((2 * period.sd) / period.value, LINES),
  n: period.n,
});

function hung(way: TwoLines, mass: number | null, pushed: boolean): MomentResult {
  const { spacing, length } = way;
  if (spacing === null || length === null) return NOTHING;
  const lines = { spacing, length };
  // Swings are read with the drives off; while they push along the lines these do not carry the whole craft.
  const [still, running] = [way.mass ?? mass, way.mass ?? (pushed ? null : mass)];
  const weight = (running ?? Number.NaN) * GRAVITY;
  const moments = running === null ? [] : way.twists.map((t) => momentOfTwist(weight, lines, Math.abs(t)));
  const held = moments.filter(Number.isFinite);
  const mean = meanOf(held, 0, 0);
  // What an angle misread by hand makes of it, at the mean twist.
  const at = way.twists.reduce((s, t) => s + Math.abs(t), 0) / Math.max(1, way.twists.length);
  const slope = (momentOfTwist(weight, lines, at + 1e-4) - momentOfTwist(weight, lines, at)) / 1e-4;
  const periods = way.swings.map((s) => s.seconds / s.count);
  const period = meanOf(periods, SWING.one, SWING.floor);
  return {
    ...NOTHING,
    moment: mean && {
      ...mean,
      sd: Math.hypot(mean.sd, (slope * PROTRACTOR) / Math.sqrt(mean.n), LINES * mean.value),
    },
    inertia: period && still !== null ? swung(inertiaOfSwing(still * GRAVITY, lines, period.value), period) : null,
    left: moments.length - held.length,
  };
}

/** The circle of a turn; its speed is paced or read off a clip as well as the turn is. */
const circle = (speed: number, rate: Mean): Mean => ({
  value: speed / rate.value,
  sd: (speed / rate.value) * Math.hypot(rate.sd / rate.value, TIMED.one / 2),
  n: rate.n,
});

/**
 * What was found of what turns a craft about one axis: the moment that a twist or a pull stands for, the inertia that
 * swings stand for, the rate of turning and its circle.
 *
 * @param mass of the craft as the ledger has it, kg; null: not known
 * @param pushed whether drives may push along the lines while it hangs: then only what was read of their pull counts
 */
export function momentOf({ way }: Pick<MomentTest, "way">, mass: number | null, pushed = false): MomentResult {
  if (way.by === "two lines") return hung(way, mass, pushed);
  if (way.by === "scale at an arm") {
    const { arm } = way;
    if (arm === null) return NOTHING;
    return {
      ...NOTHING,
      moment: meanOf(
        way.pulls.map((p) => p * arm),
        PULL.one,
        PULL.floor,
      ),
    };
  }
  const rate = meanOf(
    way.turns.map((t) => t.angle / t.seconds),
    TIMED.one,
    TIMED.floor,
  );
  return {
    ...NOTHING,
    rate,
    radius: rate && way.speed !== null ? circle(way.speed, rate) : null,
  };
}

/** Full throttle, as far as anybody sets it by hand. */
const FULL = 0.99;

/** Where a weighed moment belongs in the design; null: it is kept with the session, and nothing reckons with it. */
export function takenAs({ axis, role, throttle }: MomentTest): "torque" | "steering" | null {
  if (throttle === null || throttle < FULL) return null;
  if (axis === "roll" && role === "turns it") return "torque";
  return axis === "yaw" && role === "answers" ? "steering" : null;
}

const BY = { "two lines": "twist on two lines", "scale at an arm": "pull at an arm", "timed turn": "turn" };

/** A weighed moment as evidence of the design. */
export const momentKnown = (mean: Mean, by: Way["by"], number: number | null): Known => ({
  value: mean.value,
  sd: mean.sd,
  evidence: "measured",
  note: `${mean.n} × ${BY[by]}${number === null ? "" : `, B-${String(number).padStart(2, "0")}`}`,
});

/** What of the set-up nobody has said, in words; null: all of it is. */
export const unsaidOf = (way: Way): string | null =>
  way.by === "scale at an arm"
    ? way.arm === null
      ? "the arm of the pull"
      : null
    : way.by === "two lines" && way.spacing === null
      ? "how far the lines are apart"
      : way.by === "two lines" && way.length === null
        ? "how long the lines are"
        : null;
