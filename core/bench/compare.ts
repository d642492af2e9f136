import type { Uncertain } from "../numeric/propagate";
import type { Level, SweepResult } from "./sweep";

/**
 * What two propulsors are held equal in, and what is then compared: thrust at a throttle, power at a thrust, thrust
 * at a power.
 */
export type EqualIn = "throttle" | "thrust" | "power";

type Read = (l: Level) => number | null;
const READ: Record<EqualIn, [along: Read, what: Read]> = {
  throttle: [(l) => l.throttle, (l) => l.thrust],
  thrust: [(l) => l.thrust, (l) => l.power],
  power: [(l) => l.power, (l) => l.thrust],
};

/** Share by which a power may be off besides what the levels show: the meters' own errors (judgement, two of 1.5 %). */
const METERS = 0.02;

/** Value with its uncertainty where a rising curve passes `at`; null outside what was measured. */
function read(levels: readonly Level[], equal: EqualIn, at: number): Uncertain | null {
  const [along, what] = READ[equal];
  const list = levels.flatMap((l) => {
    const [x, y] = [along(l), what(l)];
    return x === null || y === null
      ? []
      : [
          {
            x,
            y,
            sd: equal === "thrust" ? METERS * y : l.thrustSd,
            own: equal === "thrust" ? l.thrustSd : equal === "power" ? METERS * x : 0,
          },
        ];
  });
  for (let k = 1; k < list.length; k++) {
    const [a, b] = [list[k - 1], list[k]];
    if (!a || !b || !(a.x <= at && b.x >= at && b.x > a.x)) continue;
    const t = (at - a.x) / (b.x - a.x);
    const slope = (b.y - a.y) / (b.x - a.x);
    // What blurs the place along the curve blurs the value by its slope.
    return {
      value: a.y + t * (b.y - a.y),
      sd: Math.hypot(a.sd + t * (b.sd - a.sd), slope * (a.own + t * (b.own - a.own))),
    };
  }
  return null;
}

export interface Comparison {
  equal: EqualIn;
  /** throttle 0 to 1, N or W */
  at: number;
  /** one for each propulsor; null outside what was measured of it */
  values: (Uncertain | null)[];
  /** Against the first: share by which the others give more, with its sd. */
  against: (Uncertain | null)[];
}

/**
 * Compares sweeps at one throttle, thrust (N) or power (W). Differences hold the ± of both; nothing is said outside
 * what was measured.
 */
export function compareAt(sweeps: readonly Pick<SweepResult, "levels">[], equal: EqualIn, at: number): Comparison {
  const values = sweeps.map((s) => read(s.levels, equal, at));
  const [first] = values;
  const against = values.map((v, i) => {
    if (i === 0 || !first || !v || !(Math.abs(first.value) > 0)) return null;
    const share = v.value / first.value - 1;
    return { value: share, sd: Math.abs(v.value / first.value) * Math.hypot(v.sd / v.value, first.sd / first.value) };
  });
  return { equal, at, values, against };
}

/**
 * Where all were measured: a place to compare them at, two thirds up the range they share. Null when they share none.
 */
export function commonPlace(sweeps: readonly Pick<SweepResult, "levels">[], equal: EqualIn): number | null {
  const [along] = READ[equal];
  const ranges = sweeps.map((s) => s.levels.flatMap((l) => along(l) ?? []));
  if (ranges.some((r) => r.length < 2)) return null;
  const low = Math.max(...ranges.map((r) => Math.min(...r)), 0);
  const high = Math.min(...ranges.map((r) => Math.max(...r)));
  return high > low ? Number((low + (high - low) * 0.66).toPrecision(2)) : null;
}
