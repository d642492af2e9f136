import type { Reaction } from "./lattice";

/** A control as the flight feels it: reactions per rad with the trailing edge down on both sides. */
export interface PitchControl {
  reaction: Reaction;
  /** lift coefficient of each strip per rad */
  cl: readonly number[];
  /** travel, rad */
  up: number;
  down: number;
}

/** A craft in level flight as plain numbers: everything over ½ρV², about the origin. */
export interface FlightModel {
  set: Reaction;
  alpha: Reaction;
  controls: readonly PitchControl[];
  strips: readonly {
    set: number;
    alpha: number;
    most: number;
    mostDown: number;
    surface: number;
    share: number;
    side: 1 | -1;
  }[];
  /** mean aerodynamic chord of the main wing, m */
  mac: number;
}

/**
 * Where the lift of a change in angle of attack acts, m aft of the datum: behind it the craft turns further, ahead of
 * it back. x = −M_α / L_α about the origin. Null where an angle of attack makes no lift.
 */
export const neutralPoint = ({ alpha }: Pick<FlightModel, "alpha">): number | null =>
  alpha.z > 1e-9 ? -alpha.my / alpha.z : null;

/** How angle of attack, command and each strip's lift go with the load: value = at0 + per · W/½ρV². */
export interface Line {
  at0: number;
  per: number;
}
export interface Trim {
  alpha: Line;
  /** deflection of the pitch controls, rad, positive for nose up, each its own way; null without one */
  command: Line | null;
  /** signs with which the controls follow the command, + trailing edge down */
  signs: readonly number[];
  /** most that the command can be, nose up and nose down (as a positive number), rad */
  travel: { up: number; down: number };
}

/**
 * Level flight with no moment left about a CG: two linear equations, lift = load and moment = 0, for angle of attack
 * and pitch command. Without a pitch control only the lift is balanced.
 *
 * @param cg m aft of the datum
 * @param couple moment of thrust over drag per unit of load, m: nose up positive, over the weight
 * @returns null where neither an angle of attack nor the controls can balance it
 */
export function trimmed(m: FlightModel, cg: number, couple = 0): Trim | null {
  const about = (r: Reaction) => r.my + cg * r.z;
  const signs = m.controls.map((c) => Math.sign(about(c.reaction)) || 0);
  const total = m.controls.reduce(
    (s, c, k) => {
      const sign = signs[k] ?? 0;
      return { z: s.z + sign * c.reaction.z, my: s.my + sign * about(c.reaction) };
    },
    { z: 0, my: 0 },
  );
  const travel = { up: Number.POSITIVE_INFINITY, down: Number.POSITIVE_INFINITY };
  for (const [k, c] of m.controls.entries()) {
    if (!signs[k]) continue;
    const [up, down] = (signs[k] ?? 0) > 0 ? [c.down, c.up] : [c.up, c.down];
    travel.up = Math.min(travel.up, up);
    travel.down = Math.min(travel.down, down);
  }
  const [la, ma] = [m.alpha.z, about(m.alpha)];
  const line = (at0: number, per: number): Line => ({ at0, per });
  if (!(total.my > 1e-12)) {
    if (!(la > 1e-9)) return null;
    const alpha = line(-m.set.z / la, 1 / la);
    return {
      alpha,
      command: null,
      signs,
      travel: { up: 0, down: 0 },
    };
  }
  const det = la * total.my - total.z * ma;
  if (Math.abs(det) < 1e-12) return null;
  // la·α + z·e = k − L₀ ;  ma·α + my·e = −M₀ − couple·k
  const solve = (lift: number, moment: number) => ({
    alpha: (lift * total.my - total.z * moment) / det,
    command: (la * moment - ma * lift) / det,
  });
  const rest = solve(-m.set.z, -about(m.set));
  const load = solve(1, -couple);
  return {
    alpha: line(rest.alpha, load.alpha),
    command: line(rest.command, load.command),
    signs,
    travel,
  };
}

/** Lift coefficient of a strip over the load, in a trim. */
export function stripLine(m: FlightModel, trim: Trim, i: number): Line {
  const s = m.strips[i];
  if (!s) return { at0: 0, per: 0 };
  let [at0, per] = [s.set + s.alpha * trim.alpha.at0, s.alpha * trim.alpha.per];
  if (trim.command)
    for (let k = 0; k < m.controls.length; k++) {
      const by = (trim.signs[k] ?? 0) * (m.controls[k]?.cl[i] ?? 0);
      at0 += by * trim.command.at0;
      per += by * trim.command.per;
    }
  return { at0, per };
}

/** What ends slow flight: the first strip at its greatest lift, or a pitch control at its stop. */
export interface Slowest {
  /** load over ½ρV², m²: the greatest that can be carried */
  load: number;
  by: "stall" | "control";
  /** strip that lets go first */
  strip: number;
}

/**
 * The slowest level flight: the greatest W/½ρV² at which every strip is below its section's greatest lift and the pitch
 * command within its travel (not looked at where `travels` is false). Null where nothing limits it, or nothing is
 * carried at all.
 */
export function slowest(m: FlightModel, trim: Trim, travels = true): Slowest | null {
  let load = Number.POSITIVE_INFINITY;
  let strip = -1;
  for (let i = 0; i < m.strips.length; i++) {
    const s = m.strips[i] as FlightModel["strips"][number];
    // What stands on edge carries nothing.
    if (s.most > 1e9) continue;
    const { at0, per } = stripLine(m, trim, i);
    const limit = per > 0 ? (s.most - at0) / per : per < 0 ? (-s.mostDown - at0) / per : Number.POSITIVE_INFINITY;
    if (limit < load) [load, strip] = [limit, i];
  }
  let by: Slowest["by"] = "stall";
  if (travels && trim.command && trim.command.per !== 0) {
    const { at0, per } = trim.command;
    const stop = per > 0 ? (trim.travel.up - at0) / per : (-trim.travel.down - at0) / per;
    if (stop < load) [load, by] = [stop, "control"];
  }
  return load > 0 && Number.isFinite(load) ? { load, by, strip } : null;
}

/**
 * Share of a control's travel that trim may take at the slowest flight: the rest is for holding it (common practice).
 */
export const TRIM_SHARE = 0.8;
/** Margins beyond which a craft is called sluggish where no control says so (judgement). */
const SLUGGISH = { withControl: 0.4, without: 0.25 };

export interface Forward {
  /** m aft of the datum */
  x: number;
  by: "control" | "judgement";
}
/**
 * The foremost CG: where the slowest flight takes four fifths of the pitch travel; without a control, or where it never
 * runs out, where the margin grows to what is called sluggish.
 */
export function forwardLimit(m: FlightModel): Forward | null {
  const np = neutralPoint(m);
  if (np === null) return null;
  const end = np - (m.controls.length > 0 ? SLUGGISH.withControl : SLUGGISH.without) * m.mac;
  const over = (x: number): number | null => {
    const trim = trimmed(m, x);
    if (!trim?.command) return null;
    const free = slowest(m, trim, false);
    if (!free) return null;
    const { at0, per } = trim.command;
    const e = at0 + per * free.load;
    return e - TRIM_SHARE * trim.travel.up;
  };
  const [first, last] = [over(np), over(end)];
  if (first === null || last === null || last <= 0) return { x: end, by: "judgement" };
  if (first > 0) return { x: np, by: "control" };
  let [low, high] = [end, np];
  for (let k = 0; k < 40; k++) {
    const middle = (low + high) / 2;
    if ((over(middle) ?? 1) > 0) low = middle;
    else high = middle;
  }
  return { x: (low + high) / 2, by: "control" };
}
