import type { Angle } from "../design/run";
import type { Uneven } from "../runs/angles";

const degrees = (rad: number) => {
  const d = (rad * 180) / Math.PI;
  return `${d < -0.05 ? "−" : ""}${Math.abs(d).toFixed(1)}°`;
};

/** Whose angle it is: the thing, its side where it has one, and what of it. */
export const angleName = ({ what, side, of }: Pick<Angle, "what" | "side" | "of">): string =>
  `${what}${side === "middle" ? "" : `, ${side}`}: ${of}`;

/** An angle with its doubt; up is positive. */
export const angleText = (a: Pick<Angle, "value" | "sd">): string =>
  `${degrees(a.value)} ± ${degrees(a.sd)}${a.value > 0.0009 ? " up" : a.value < -0.0009 ? " (down)" : ""}`;

/** Two sides that stand otherwise. */
export const unevenText = (u: Uneven): string =>
  `${u.what}, ${u.of}: port stands ${degrees(Math.abs(u.by))} ± ${degrees(u.sd)} ${u.by > 0 ? "above" : "below"} starboard`;
