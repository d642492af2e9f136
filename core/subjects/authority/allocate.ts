import { type Constraint, equalTo, lessEq, solve } from "yalps";
import type { Point } from "../../design/schema";

/** One unit that pushes: where, which way, how hard at most, and how its rotor turns. */
export interface Thruster {
  at: Point;
  /** unit vector */
  toward: Point;
  /** N at full throttle */
  most: number;
  /** reaction torque at full throttle over the thrust, m; the body is turned against the rotor */
  torque: number;
  /** clockwise seen from behind +1, anticlockwise −1 */
  spin: 1 | -1 | 0;
  reversible: boolean;
}

export const TURNS = ["roll", "pitch", "yaw"] as const;
export type Turn = (typeof TURNS)[number];
export type Effect = Record<Turn | "x" | "y" | "z", number>;

/**
 * Force (N, body axes) and moment (N·m) about a point of a unit at full throttle: r × F, and the reaction of its rotor
 * along the way it pushes. Roll positive starboard down (−x), pitch nose up (+y), yaw nose to starboard (−z).
 */
export function effectOf(t: Thruster, about: Point): Effect {
  const f = { x: t.most * t.toward.x, y: t.most * t.toward.y, z: t.most * t.toward.z };
  const r = { x: t.at.x - about.x, y: t.at.y - about.y, z: t.at.z - about.z };
  // Clockwise seen from behind the rotor turns along the way it pushes; the body is turned the other way.
  const q = -t.spin * t.torque * t.most;
  const m = {
    x: r.y * f.z - r.z * f.y + q * t.toward.x,
    y: r.z * f.x - r.x * f.z + q * t.toward.y,
    z: r.x * f.y - r.y * f.x + q * t.toward.z,
  };
  return { ...f, roll: -m.x, pitch: m.y, yaw: -m.z };
}

/** What a set of units can do about a CG. */
export interface Holding {
  /** throttle of each unit as a share of its thrust, with the hardest one as low as can be; null where none holds it */
  shares: number[] | null;
  /** axes that no throttle commands: something else must answer there */
  never: Turn[];
  /** moment (N·m) each way about each axis that is left while it hovers level; 0 where never had */
  reach: Record<Turn, { plus: number; minus: number }>;
}

/** Share of weight times size below which a moment is none. */
const NONE = 1e-4;

interface Problem {
  effects: readonly Effect[];
  low: readonly number[];
  dead: number | null;
  weight: number;
  size: number;
}

/** The linear programme of hover: lift equals the weight and the named moments are nought. Null: not feasible. */
function programme(
  p: Problem,
  held: readonly Turn[],
  goal: { most: Turn; sign: 1 | -1 } | "least throttle",
): { value: number; shares: number[] } | null {
  const variables = new Map<string, Map<string, number>>();
  const constraints = new Map<string, Constraint>();
  const scale = p.weight * p.size;
  // Each throttle is counted from its lowest, so that none is below nothing.
  const offset = (pick: (e: Effect) => number) =>
    p.effects.reduce((s, e, k) => s + (k === p.dead ? 0 : (p.low[k] as number) * pick(e)), 0);
  constraints.set("lift", equalTo((p.weight - offset((e) => e.z)) / p.weight));
  for (const turn of held) constraints.set(turn, equalTo(-offset((e) => e[turn]) / scale));
  for (const [k, e] of p.effects.entries()) {
    if (k === p.dead) continue;
    const row = new Map<string, number>([["lift", e.z / p.weight]]);
    for (const turn of held) row.set(turn, e[turn] / scale);
    row.set(`top ${k}`, 1);
    constraints.set(`top ${k}`, lessEq(1 - (p.low[k] as number)));
    if (goal === "least throttle") {
      row.set(`under ${k}`, 1);
      constraints.set(`under ${k}`, lessEq(-(p.low[k] as number)));
    } else row.set("goal", (goal.sign * e[goal.most]) / scale);
    variables.set(`u${k}`, row);
  }
  if (goal === "least throttle") {
    const top = new Map<string, number>([["goal", 1]]);
    for (const k of p.effects.keys()) if (k !== p.dead) top.set(`under ${k}`, -1);
    variables.set("top", top);
  }
  const found = solve({
    direction: goal === "least throttle" ? "minimize" : "maximize",
    objective: "goal",
    constraints,
    variables,
  });
  if (found.status !== "optimal") return null;
  const shares = p.effects.map((_, k) => (k === p.dead ? 0 : (p.low[k] as number)));
  for (const [name, amount] of found.variables)
    if (name.startsWith("u")) {
      const k = Number(name.slice(1));
      shares[k] = (shares[k] as number) + amount;
    }
  const extra = goal === "least throttle" ? 0 : goal.sign * offset((e) => e[goal.most]);
  return { value: found.result * (goal === "least throttle" ? 1 : scale) + extra, shares };
}

/**
 * Whether one-way units can hover level with all or all but one of them: lift = weight and no moment about the CG, each
 * between nothing (full astern where it is reversible) and full. A matrix of full rank is not enough for units that
 * cannot pull: the linear programme decides. Sideways forces are left to a tilt of the craft.
 *
 * @param weight N
 * @param dead index of a unit that gives nothing; null: all work
 */
export function holds(units: readonly Thruster[], cg: Point, weight: number, dead: number | null = null): Holding {
  const effects = units.map((t) => effectOf(t, cg));
  const low = units.map((t) => (t.reversible ? -1 : 0));
  const size = Math.max(...units.map((t) => Math.hypot(t.at.x - cg.x, t.at.y - cg.y, t.at.z - cg.z)), 1e-3);
  const p: Problem = { effects, low, dead, weight, size };
  // An axis is commanded when throttles alone, lifting the weight, can turn it both ways from where it would rest.
  const never = TURNS.filter((turn) => {
    const [a, b] = [programme(p, [], { most: turn, sign: 1 }), programme(p, [], { most: turn, sign: -1 })];
    return !a || !b || a.value + b.value < NONE * weight * size;
  });
  const held = TURNS.filter((t) => !never.includes(t));
  const hover = programme(p, held, "least throttle");
  return { shares: hover?.shares ?? null, never, reach: hover ? reachOf(p, held) : reachOf(p, []) };
}

/** Moments left each way about each held axis while it hovers and nothing turns it about the others. */
function reachOf(p: Problem, held: readonly Turn[]): Holding["reach"] {
  const out: Holding["reach"] = {
    roll: { plus: 0, minus: 0 },
    pitch: { plus: 0, minus: 0 },
    yaw: { plus: 0, minus: 0 },
  };
  for (const turn of held) {
    const others = held.filter((t) => t !== turn);
    for (const [key, sign] of [
      ["plus", 1],
      ["minus", -1],
    ] as const)
      out[turn][key] = Math.max(0, programme(p, others, { most: turn, sign })?.value ?? 0);
  }
  return out;
}

/**
 * Whether it can be held about these axes: a moment each way about each of them. Where it just hovers and one way has
 * nothing left, the next gust that way is not answered. Some each way about every axis is enough for any mixture of
 * them.
 */
const commands = (p: Problem, held: readonly Turn[]): boolean =>
  Object.entries(reachOf(p, held)).every(
    ([turn, { plus, minus }]) => !held.includes(turn as Turn) || Math.min(plus, minus) > THIN * p.weight * p.size,
  );
/** Share of weight times size below which an answer is none (judgement). */
const THIN = 2e-3;

/** What is left with one unit dead. */
export interface Loss {
  unit: number;
  /** holds: level, yaw too; spins: level, but turns about the vertical; lost: falls over or sinks */
  left: "holds" | "spins" | "lost";
  /** throttle of the hardest unit then, share */
  hardest: number | null;
}

/** Every single loss: what is left to hover with. */
export function losses(units: readonly Thruster[], cg: Point, weight: number, whole: Holding): Loss[] {
  const effects = units.map((t) => effectOf(t, cg));
  const low = units.map((t) => (t.reversible ? -1 : 0));
  const size = Math.max(...units.map((t) => Math.hypot(t.at.x - cg.x, t.at.y - cg.y, t.at.z - cg.z)), 1e-3);
  const held = TURNS.filter((t) => !whole.never.includes(t));
  return units.map((_, unit): Loss => {
    const p: Problem = { effects, low, dead: unit, weight, size };
    const all = programme(p, held, "least throttle");
    if (all && commands(p, held)) return { unit, left: "holds", hardest: Math.max(...all.shares) };
    const upright = held.filter((t) => t !== "yaw");
    const level = programme(p, upright, "least throttle");
    return level && commands(p, upright) && held.includes("yaw")
      ? { unit, left: "spins", hardest: Math.max(...level.shares) }
      : { unit, left: "lost", hardest: null };
  });
}
