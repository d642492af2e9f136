import { placesUnsaid } from "../mass/placed";
import { type Constraint, lessEq, greaterEq, solve } from "yalps";
import { AXES, type Axis, type BallastSpot, type Design, type Item, type Point } from "../../design/schema";
import type { Patch } from "../../design/patch";
import { ballastItem, ballastSpots } from "../mass/ballast";
import { shiftFor } from "./lever";
import { type MassResult, rollUp } from "../mass/rollup";
import { attachedTo, moveItem, movingMass, slideOf, slideSteps } from "../mass/tree";

/** Where the CG shall be along one axis, m: a point has low = high. */
export interface CgGoal {
  low: number;
  high: number;
}

export interface BalanceQuestion {
  /** Parts that may slide; they do so inside their slide ranges. */
  sliders: readonly string[];
  /** Ids of the spots where ballast may be put. */
  spots: readonly string[];
  goals: Partial<Record<Axis, CgGoal>>;
}

export interface Move {
  itemId: string;
  axis: Axis;
  from: number;
  to: number;
}

export interface BalancePlan {
  moves: Move[];
  ballast: { spot: BallastSpot; mass: number }[];
  /** Ballast in all, kg. */
  added: number;
  cg: Point;
}

export type BalanceResult =
  | { status: "solved"; plan: BalancePlan }
  /** Out of reach. The plan comes nearest: the largest miss along any axis is as small as it can be. */
  | { status: "infeasible"; nearest: BalancePlan; miss: Partial<Record<Axis, number>> }
  | { status: "noMass" }
  /** Parts have no place along an axis that is asked about. */
  | { status: "noPlace"; open: string };

/**
 * One variable of the linear programme: what a unit of it (1 g, 1 mm) adds to the moments (g·mm) and to the mass (g).
 */
interface Lever {
  apply: (plan: BalancePlan, amount: number) => void;
  most: number;
  axis: Axis | null;
  place: Point | null;
  moment: number;
  cost: number;
}

const G = 1000;
const MM = 1000;
/**
 * Added mass counts so much more than movement that no gram is added to save movement, yet movement settles what mass
 * leaves open.
 */
const COST_PER_GRAM = 1000;
/** How much further than the nearest point a plan may end, m. */
const NEAR = 0.0005;

function levers(design: Design, question: BalanceQuestion): Lever[] {
  const out: Lever[] = [];
  const sliding = new Set(question.sliders);
  for (const item of design.items) {
    if (!sliding.has(item.id)) continue;
    // What hangs on a part that slides too moves with it and is not moved twice.
    if (design.items.some((i) => sliding.has(i.id) && attachedTo(design.items, i.id).includes(item))) continue;
    const mass = movingMass(design.items, item);
    if (!(mass > 0)) continue;
    for (const axis of AXES) {
      const range = slideOf(item, axis);
      if (!range) continue;
      const from = item.place[axis];
      for (const sign of [1, -1] as const) {
        const most = Math.max(0, sign === 1 ? range.to - from : from - range.from) * MM;
        if (most > 0)
          out.push({
            axis,
            place: null,
            most,
            moment: sign * mass * G,
            cost: 1,
            apply: (plan, amount) => plan.moves.push({ itemId: item.id, axis, from, to: from + (sign * amount) / MM }),
          });
      }
    }
  }
  for (const spot of ballastSpots(design))
    if (question.spots.includes(spot.id))
      out.push({
        axis: null,
        place: spot.place,
        most: spot.most * G,
        moment: 0,
        cost: COST_PER_GRAM,
        apply: (plan, amount) => plan.ballast.push({ spot, mass: amount / G }),
      });
  return out;
}

/** The least-cost plan that brings the CG within `slack` (m) of its goals, or null. */
function attempt(mass: MassResult, list: Lever[], goals: BalanceQuestion["goals"], slack: number): BalancePlan | null {
  const constraints = new Map<string, Constraint>();
  const variables = new Map<string, Map<string, number>>();
  list.forEach((lever, k) => {
    constraints.set(`most${k}`, lessEq(lever.most));
    variables.set(
      `v${k}`,
      new Map([
        ["cost", lever.cost],
        [`most${k}`, 1],
      ]),
    );
  });
  const total = mass.mass * G;
  for (const axis of AXES) {
    const goal = goals[axis];
    if (!goal) continue;
    const edges = { low: (goal.low - slack) * MM, high: (goal.high + slack) * MM };
    const here = mass.cg[axis] * MM;
    for (const edge of ["low", "high"] as const) {
      // Scaled to the total, so that the solver's tolerance is one of length.
      const need = edges[edge] - here;
      constraints.set(`${axis}-${edge}`, edge === "low" ? greaterEq(need - 1e-7) : lessEq(need + 1e-7));
      list.forEach((lever, k) => {
        const effect = lever.place ? lever.place[axis] * MM - edges[edge] : lever.axis === axis ? lever.moment : 0;
        variables.get(`v${k}`)?.set(`${axis}-${edge}`, effect / total);
      });
    }
  }
  const found = solve({ direction: "minimize", objective: "cost", constraints, variables });
  if (found.status !== "optimal") return null;
  const plan: BalancePlan = { moves: [], ballast: [], added: 0, cg: mass.cg };
  for (const [name, amount] of found.variables) {
    const lever = list[Number(name.slice(1))];
    if (lever && amount > 1e-6) lever.apply(plan, amount);
  }
  plan.added = plan.ballast.reduce((s, b) => s + b.mass, 0);
  return plan;
}

/** Where a plan brings the CG. */
function reached(design: Design, mass: MassResult, plan: BalancePlan): Point {
  const total = mass.mass + plan.added;
  const at = (axis: Axis) => {
    let moment = mass.cg[axis] * mass.mass;
    for (const move of plan.moves) {
      const item = design.items.find((i) => i.id === move.itemId);
      if (item && move.axis === axis) moment += movingMass(design.items, item) * (move.to - move.from);
    }
    for (const { spot, mass: m } of plan.ballast) moment += m * spot.place[axis];
    return moment / total;
  };
  return { x: at("x"), y: at("y"), z: at("z") };
}

/**
 * Brings the CG to its goals along one, two or three axes at once with the least added mass; among equals, with the
 * least movement.
 * A linear programme: moments are linear in every slide and every ballast mass once the goal is multiplied by the
 * total mass.
 * Out of reach, the smallest widening of the goals that can be met is found by bisection, so the point named is the
 * nearest to half a millimetre.
 *
 * @param design places in m, masses in kg; parts without a mass are left out
 * Source: first moments of mass (FAA-H-8083-1); simplex method of the yalps package.
 * @param mass the design's roll-up, when it is at hand already
 */
export function balance(design: Design, question: BalanceQuestion, mass = rollUp(design)): BalanceResult {
  if (!mass) return { status: "noMass" };
  const [open] = placesUnsaid(design.items, ...AXES.filter((a) => question.goals[a]));
  if (open !== undefined) return { status: "noPlace", open };
  const list = levers(design, question);
  const direct = attempt(mass, list, question.goals, 0);
  if (direct) {
    direct.cg = reached(design, mass, direct);
    return { status: "solved", plan: direct };
  }
  let low = 0;
  let high = Math.max(...AXES.map((a) => distance(mass.cg[a], question.goals[a])));
  let nearest: BalancePlan = { moves: [], ballast: [], added: 0, cg: mass.cg };
  for (let n = 0; n < 60 && high - low > 1e-5; n++) {
    const middle = (low + high) / 2;
    const plan = attempt(mass, list, question.goals, middle);
    if (plan) {
      nearest = plan;
      high = middle;
    } else low = middle;
  }
  // Half a millimetre short of the very nearest point is often had for a fraction of the mass.
  nearest = attempt(mass, list, question.goals, high + NEAR) ?? nearest;
  nearest.cg = reached(design, mass, nearest);
  const miss: Partial<Record<Axis, number>> = {};
  for (const axis of AXES) {
    const d = distance(nearest.cg[axis], question.goals[axis]);
    if (d > 1e-4) miss[axis] = d;
  }
  return { status: "infeasible", nearest, miss };
}

const distance = (at: number, goal: CgGoal | undefined): number =>
  goal ? Math.max(0, goal.low - at, at - goal.high) : 0;

export interface Alternative {
  kind: "least mass" | "slide only" | "ballast only" | "half slide, rest ballast";
  plan: BalancePlan;
}

/**
 * Different ways to the same goals: the least added mass; the one part whose slide alone does it with the shortest
 * way; ballast alone; and half of
 * that slide with ballast for the rest. Those that cannot do it, or repeat an earlier one, are left out.
 */
export function alternatives(design: Design, question: BalanceQuestion, mass = rollUp(design)): Alternative[] {
  const out: Alternative[] = [];
  const add = (kind: Alternative["kind"], result: BalanceResult) => {
    if (result.status === "solved" && !out.some((a) => same(a.plan, result.plan)))
      out.push({ kind, plan: result.plan });
  };
  const single = question.sliders
    .flatMap((id) => {
      const result = balance(design, { ...question, sliders: [id], spots: [] }, mass);
      return result.status === "solved" && result.plan.moves.length > 0
        ? [{ result, way: result.plan.moves.reduce((s, m) => s + Math.abs(m.to - m.from), 0) }]
        : [];
    })
    .sort((a, b) => a.way - b.way)[0];
  if (single) add("slide only", single.result);
  add("least mass", balance(design, question, mass));
  add("ballast only", balance(design, { ...question, sliders: [] }, mass));
  const move = single?.result.plan.moves[0];
  if (move && question.spots.length > 0 && single.result.plan.moves.length === 1) {
    const half = structuredClone(design);
    const item = half.items.find((i) => i.id === move.itemId);
    if (item) {
      const to = (move.from + move.to) / 2;
      moveItem(half, item.id, { [move.axis]: to - move.from });
      const rest = balance(half, { ...question, sliders: [] });
      if (rest.status === "solved" && rest.plan.added > 0)
        add("half slide, rest ballast", { status: "solved", plan: { ...rest.plan, moves: [{ ...move, to }] } });
    }
  }
  return out;
}

const same = (a: BalancePlan, b: BalancePlan) =>
  a.moves.length === b.moves.length &&
  Math.abs(a.added - b.added) < 1e-4 &&
  a.moves.every((m) => b.moves.some((n) => n.itemId === m.itemId && n.axis === m.axis && Math.abs(n.to - m.to) < 5e-4));

/** The plan as a change of the design: parts moved with what hangs on them, ballast added to the ledger. */
export function planPatch(design: Design, plan: BalancePlan): Patch {
  const set = plan.moves.flatMap((move) => {
    const item = design.items.find((i) => i.id === move.itemId);
    return item ? slideSteps(design.items, item, move.axis, move.to - move.from) : [];
  });
  const addItems: Patch["addItems"] = [];
  for (const { spot, mass } of plan.ballast)
    addItems.push(ballastItem(design, mass, spot.place, spot.name, addItems.length));
  return { set, addItems };
}

/** How far the pack's mass may be changed to balance with it: from 60 % to 160 % of what it is. */
const PACK_RANGE = { least: 0.6, most: 1.6 };

/**
 * The mass that the pack would need for the CG to come to `target` along x, kg (all of its ledger entry): m' = m +
 * M·(target − cg)/(x − target).
 * @returns null when no pack between 60 % and 160 % of its mass does it, or there is no pack in the ledger
 */
export function packMassFor(design: Design, target: number): { itemId: string; mass: number; factor: number } | null {
  const mass = rollUp(design);
  const item = design.items.find((i) => design.batteries.some((b) => b.itemId === i.id));
  if (!mass || !item?.mass || placesUnsaid(design.items, "x").length > 0) return null;
  const now = item.mass.value * item.quantity;
  const then = now + (mass.mass * (target - mass.cg.x)) / (item.place.x - target);
  const factor = then / now;
  return factor >= PACK_RANGE.least && factor <= PACK_RANGE.most ? { itemId: item.id, mass: then, factor } : null;
}

/** Range of CG along x (m) that sliding one part over its whole range reaches; null when it is fixed or has no mass. */
export function reachOf(design: Design, mass: MassResult, item: Item): { low: number; high: number } | null {
  if (!item.slide) return null;
  const own = movingMass(design.items, item);
  if (!(own > 0)) return null;
  const at = (x: number) => mass.cg.x + (own * (x - item.place.x)) / mass.mass;
  return { low: at(item.slide.from), high: at(item.slide.to) };
}

/** The single slide along x that brings the CG to `target` with the shortest way, among parts whose range allows it. */
export function shortestSlide(design: Design, mass: MassResult, target: number): { itemId: string; to: number } | null {
  const found = design.items
    .flatMap((item) => {
      if (!item.slide) return [];
      const own = movingMass(design.items, item);
      if (!(own > 0)) return [];
      const shift = shiftFor(mass.mass, mass.cg.x, target, { mass: own, at: item.place.x, range: item.slide });
      return shift.inRange ? [{ itemId: item.id, to: shift.to, way: Math.abs(shift.to - item.place.x) }] : [];
    })
    .sort((a, b) => a.way - b.way)[0];
  return found ?? null;
}
