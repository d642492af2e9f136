import { type Constraint, equalTo, lessEq, solve } from "yalps";
import type { Point } from "../../design/schema";
import { type Thruster, effectOf } from "../authority/allocate";

/** The six ways in which a craft moves: ahead, to starboard, up; starboard down, nose up, nose to starboard. */
export const SIX = ["surge", "sway", "heave", "roll", "pitch", "yaw"] as const;
export type SixAxis = (typeof SIX)[number];
/** Force (N) for the first three, moment (N·m) about the CG for the others; each positive as its axis is. */
export type SixEffect = Record<SixAxis, number>;

/** A unit as it acts on a craft that does not hang on it. */
export interface Driver extends Thruster {
  /** Share of its thrust that it gives astern; 0 where it turns one way only. */
  astern: number;
}

/** What a unit at full throttle does about a point, on the six axes. */
export function sixOf(t: Thruster, about: Point): SixEffect {
  const e = effectOf(t, about);
  return { surge: -e.x, sway: e.y, heave: e.z, roll: e.roll, pitch: e.pitch, yaw: e.yaw };
}

/** What all units together can do on one axis, each way: N or N·m. */
export interface Reach {
  plus: number;
  minus: number;
}
export interface Command {
  /** with nothing done on the other axes that matter */
  alone: Reach;
  /** whatever it does on the others */
  coupled: Reach;
}

/** Share of what there is below which an effect is none. */
const NONE = 1e-6;
/** Share of all thrust (at an arm of 1 m for moments) below which an effect of one unit is rounding, and none. */
const ROUNDING = 1e-9;

/**
 * The most of one axis that units can do while they do nothing on the axes held, by linear programme: each unit ahead,
 * or astern where it turns both ways. A matrix of full rank does not tell this of units that only push. Ahead and
 * astern are told apart, so that doing nothing is always among what can be done.
 */
function most(
  effects: readonly SixEffect[],
  astern: readonly number[],
  axis: SixAxis,
  sign: 1 | -1,
  held: readonly SixAxis[],
): number {
  const sizeOf = (a: SixAxis) => effects.reduce((s, e) => s + Math.abs(e[a]), 0);
  const size = sizeOf(axis);
  if (size === 0) return 0;
  const matter = held.flatMap((a) => (sizeOf(a) > 0 ? [[a, sizeOf(a)] as const] : []));
  const constraints = new Map<string, Constraint>(matter.map(([a]) => [a, equalTo(0)]));
  const variables = new Map<string, Map<string, number>>();
  const put = (name: string, e: SixEffect, way: 1 | -1, top: number) => {
    const row = new Map<string, number>([
      ["goal", (way * sign * e[axis]) / size],
      [name, 1],
    ]);
    for (const [a, s] of matter) row.set(a, (way * e[a]) / s);
    constraints.set(name, lessEq(top));
    variables.set(name, row);
  };
  for (const [k, e] of effects.entries()) {
    put(`ahead ${k}`, e, 1, 1);
    if ((astern[k] ?? 0) > 0) put(`astern ${k}`, e, -1, astern[k] ?? 0);
  }
  const found = solve({ direction: "maximize", objective: "goal", constraints, variables });
  return found.status === "optimal" && found.result > NONE ? found.result * size : 0;
}

/**
 * What units command on each axis, by itself and with whatever comes along.
 * @param free axes that something else holds, so that what is done there does not matter
 * @param dead index of a unit that gives nothing; null: all work
 */
export function commands(
  drivers: readonly Driver[],
  about: Point,
  free: readonly SixAxis[],
  dead: number | null = null,
): Record<SixAxis, Command> {
  const alive = drivers.filter((_, k) => k !== dead);
  const all = alive.reduce((s, d) => s + Math.abs(d.most), 0);
  const effects = alive.map((d) => {
    const e = sixOf(d, about);
    // An arm of a rounding error would hold a unit back that nothing disturbs.
    for (const a of SIX) if (Math.abs(e[a]) < ROUNDING * all) e[a] = 0;
    return e;
  });
  const astern = alive.map((d) => d.astern);
  const out = {} as Record<SixAxis, Command>;
  for (const axis of SIX) {
    const held = SIX.filter((a) => a !== axis && !free.includes(a));
    const coupled = (sign: 1 | -1) =>
      effects.reduce((s, e, k) => s + Math.max(sign * e[axis], -sign * e[axis] * (astern[k] ?? 0), 0), 0);
    out[axis] = {
      alone: { plus: most(effects, astern, axis, 1, held), minus: most(effects, astern, axis, -1, held) },
      coupled: { plus: coupled(1), minus: coupled(-1) },
    };
  }
  return out;
}

/** How an axis is commanded. */
export type Commanded = "both ways" | "one way" | "with others" | "never had";

/**
 * @param least what counts as something: N for a force, N·m for a moment
 */
export function wordOf({ alone, coupled }: Command, least: number): Commanded {
  const some = (v: number) => v > least;
  if (some(alone.plus) && some(alone.minus)) return "both ways";
  if (some(alone.plus) || some(alone.minus)) return "one way";
  return some(coupled.plus) || some(coupled.minus) ? "with others" : "never had";
}
