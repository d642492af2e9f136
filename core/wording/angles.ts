import type { Angle } from "../design/run";
import type { Uneven } from "../runs/angles";

const degrees = (rad: number) => {
  const d = (rad * 180) / Math.PI;
  return `${d < -0.05 ? "−" : ""}${Math.abs(d).toFixed(1)}°`;
};

/** Whose angle it is: the thing, its side where it has one, and what of it. */
export const angleName = ({ what, side, of }: Pick<Angle, "what" | "side" | "of">): string =>
  `${what}${side === "middle" ? "" : `, ${side}`}: ${of}`;

/** Which way an angle is positive, of what lies flat and of what stands upright. */
export const ANGLE_SIGN = "positive: trailing edge or nose up; of what stands upright, to starboard";

/** An angle with its sign and its doubt. What it is of tells which way that is (`ANGLE_SIGN`). */
export const angleText = (a: Pick<Angle, "value" | "sd">): string =>
  `${a.value > 0.0009 ? "+" : ""}${degrees(a.value)} ± ${degrees(a.sd)}`;

/** Two sides that stand otherwise. */
export const unevenText = (u: Uneven): string =>
  `${u.what}, ${u.of}: port stands ${degrees(Math.abs(u.by))} ± ${degrees(u.sd)} ` +
  `${u.by > 0 ? "above" : "below"} starboard`;
