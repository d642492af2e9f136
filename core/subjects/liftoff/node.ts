import { type Evidence, magnitudeSd } from "../../design/evidence";
import type { Quantity } from "../../design/quantity";
import { type Doubtful, alsoBy, sdOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, keysOf, solved, subject, whyNone } from "../../subject";
import { GRAVITY } from "../air/air";
import { balance } from "../balance/node";
import { type FlightInput, lattice, shapeWorking, evidenceIn } from "../flight/latticeNode";
import { flight } from "../flight/node";
import { mass } from "../mass/node";
import { lacksOf } from "../powered/fullThrust";
import type { PowerInput } from "../propulsion/inputs";
import { DRIVEN } from "../propulsion/node";
import { pushOf } from "../propulsion/placed";
import { spreadOf } from "../propulsion/vary";
import { inputsOf, knownBy, shapesOutside } from "../propulsion/words";
import { type StanceResult, stance } from "../stance/node";
import { type Touches, touchesFirst } from "../stance/touches";
import { quantities } from "./declares";
import { type Leaving, type OnTheRun, feetAhead, leavingOf, pivotOf } from "./noseUp";
import { type PullResult, type Pulling, pull, thrustAt } from "./pull";

type LiftoffKey = keyof typeof quantities;

export interface LiftoffResult {
  /** how it leaves the ground; null where that is not known, and then why */
  leaving: Leaving | null;
  why: string | null;
  values: Record<LiftoffKey, Doubtful | null>;
  /** the least speed at which it is let leave, m/s */
  least: number;
  /**
   * m that its hindmost feet must stand farther ahead for the nose to come up by then; null: no answer, or none
   * needed
   */
  feetAhead: number | null;
  /** what is behind and touches the ground first, and at how much more nose up, rad; null: nothing, or not known */
  touches: Touches | null;
  /**
   * with every doubtful number a step higher or not, its nose comes up at no speed and nothing carries it as it
   * stands
   */
  surelyNot: boolean;
  inputs: PowerInput[];
  shapes: FlightInput[];
}

/** Speed at which it leaves the ground at the least, over the stall speed, with its doubt (common practice). */
const LEAVES_AT = { value: 1.15, sd: 0.07 };
const RUN_STEPS = 24;

/**
 * m from rest to a speed (m/s): s = ∫ m·v/F(v) dv by the midpoint rule; infinite where nothing is left to push.
 *
 * @param push N that are left at a speed
 * @param mass kg
 */
export function groundRun(push: (speed: number) => number, mass: number, speed: number): number {
  const dv = speed / RUN_STEPS;
  let s = 0;
  for (let k = 0; k < RUN_STEPS; k++) {
    const v = (k + 0.5) * dv;
    const left = push(v);
    if (!(left > 0)) return Number.POSITIVE_INFINITY;
    s += (mass * v * dv) / left;
  }
  return s;
}
interface Doubts {
  cgSd: { x: number; z: number };
  footSd: number;
  massShare: number;
  thrustShare: number;
  densitySd: number;
  rollingSd: number;
  dragSd: number;
  stall: Doubtful;
}

/** The run with each doubtful input one standard uncertainty higher, by the input's name. */
function otherwise(base: OnTheRun, moved: Record<string, OnTheRun["model"]>, d: Doubts): Record<string, OnTheRun> {
  const out: Record<string, OnTheRun> = {};
  const change = (id: string, by: Partial<OnTheRun>) => {
    out[id] = { ...(out[id] ?? base), ...by };
  };
  for (const [id, model] of Object.entries(moved)) change(id, { model });
  for (const [id, by] of Object.entries(d.stall.by)) change(id, { stall: base.stall + by });
  change("/cg", { cg: { ...base.cg, x: base.cg.x + d.cgSd.x } });
  change("/cgUp", { cg: { ...base.cg, z: base.cg.z + d.cgSd.z } });
  const back = base.rest.touching.map((p) => ({ ...p, x: p.x + d.footSd }));
  change("/feet", { rest: { ...base.rest, touching: back } });
  change("/mass", { weight: base.weight * (1 + d.massShare) });
  change("/air", { density: base.density + d.densitySd });
  change("/thrust", { thrust: (v) => base.thrust(v) * (1 + d.thrustShare) });
  change("/rolling", { rolling: base.rolling + d.rollingSd });
  change("/drag", { drag: { ...base.drag, area: base.drag.area + d.dragSd } });
  change("/margin", { atLeast: base.atLeast + LEAVES_AT.sd });
  return out;
}

/** A speed of leaving with what each doubt moves it by; where one takes it away altogether, that is not in it. */
function speedOf(key: keyof Leaving, here: Leaving, others: Record<string, Leaving | null>): Doubtful | null {
  const value = here[key];
  if (value === null) return null;
  const by: Record<string, number> = {};
  for (const [id, o] of Object.entries(others)) {
    const there = o?.[key];
    if (there != null && Math.abs(there - value) > 1e-9) by[id] = there - value;
  }
  return { value, by };
}

/** m at full throttle along the ground to a speed (m/s), without lift. */
function runTo({ thrust, weight, dragArea, density }: Pulling, speed: number, rolling: number, end: number): number {
  const at = thrustAt(thrust, end);
  const push = (v: number) => at(v) - (density / 2) * v * v * dragArea - rolling * weight;
  return groundRun(push, weight / GRAVITY, speed);
}

/** The same with what its doubts and those of the drives do to it; null where the speed is never reached. */
function runOf({ base, others, end }: PullResult, speed: Doubtful, rolling: { value: number; sd: number }) {
  const to = (p: Pulling, v: number, pull = rolling.value) => runTo(p, v, pull, end);
  const s = to(base, speed.value);
  if (!Number.isFinite(s)) return null;
  const step = 0.01;
  const perSpeed = (to(base, speed.value * (1 + step)) - s) / (step * speed.value);
  let run = spreadOf(
    { is: s },
    others.map((o) => ({ id: o.id, values: { is: to(o, speed.value) } })),
  ).is;
  for (const [id, d] of Object.entries(speed.by)) if (id !== "/rolling") run = alsoBy(run, id, perSpeed * d);
  const stiffer = to(base, speed.value, rolling.value + rolling.sd) - s;
  return alsoBy(run, "/rolling", stiffer + perSpeed * (speed.by["/rolling"] ?? 0));
}

/** What the speeds rest on beside wings, mass and CG. */
function besides(
  rolling: { value: number; sd: number; evidence: Evidence },
  rest: StanceResult | null,
  thrust: { value: number; sd: number },
): FlightInput[] {
  const input = (
    id: string,
    name: string,
    is: { value: number; sd: number },
    dimension: FlightInput["dimension"],
    evidence: Evidence,
  ): FlightInput => ({ id, name, value: is.value, sd: is.sd, dimension, evidence });
  const of = (key: string) => rest?.inputs.find((i) => i.key === key);
  const [feet, up] = [of("/feet"), of("/cgUp")];
  return [
    input("/rolling", "Pull on the ground over weight", rolling, "ratio", rolling.evidence),
    input("/margin", "Lift-off speed over stall speed", LEAVES_AT, "ratio", "guess"),
    input("/thrust", "Full thrust, standing", thrust, "force", "calculated"),
    ...(feet ? [input("/feet", feet.name, feet, "length", feet.evidence)] : []),
    ...(up ? [input("/cgUp", up.name, up, "length", up.evidence)] : []),
  ];
}

/** Why it is not known whether its nose comes up; null where it is. */
function unknownNose(stands: Outcome<StanceResult>, push: OnTheRun["push"] | null): string | null {
  if (stands.status === "missing") return `whether its nose comes up by then is not known; it ${whyNone(stands)}`;
  if (stands.status !== "solved") return `whether its nose comes up by then is not known: ${whyNone(stands)}`;
  if (stands.result.noseUp === null) return "whether it leaves the ground so is not computed: it stands on its tail";
  return push === null ? "whether its nose comes up by then is not known: a drive has no place" : null;
}

/** The run along the ground of a craft on its wings: when its nose comes up, when it leaves, and how far that is. */
export const liftoff = subject({
  name: "liftoff",
  cost: "slow",
  reads: [...DRIVEN, "items", "surfaces", "bodies", "flight"],
  needs: [lattice, flight, mass, balance, stance, pull],
  gives: keysOf(quantities),
  compute(view, of): Outcome<LiftoffResult> {
    const [wings, flown, ledger, at] = [of(lattice), of(flight), of(mass), of(balance)];
    const [stands, pulled] = [of(stance), of(pull)];
    if (pulled.status !== "solved") return pulled;
    const { rolling } = view.flight;
    if (wings.status !== "solved" || flown.status !== "solved" || ledger.status !== "solved" || !rolling)
      return { status: "missing", needs: ["a trim that flies level"] };
    const { at: level, resistance, values } = flown.result;
    const { stallSpeed: stall } = values;
    if (!level || !stall) return { status: "missing", needs: ["mass and CG"] };
    const { base, others, end, shares, inputs } = pulled.result;
    const roll = { value: rolling.value, sd: magnitudeSd(rolling), evidence: rolling.evidence };
    const push = pushOf(view, shares, { x: 0, y: 0, z: 0 });
    const why = unknownNose(stands, push);
    const rest = solved(stands);
    const standing = base.thrust[0] ?? 0;
    const thrustSd = Math.hypot(...others.map((o) => (o.thrust[0] ?? 0) - standing));
    const done = (
      is: Pick<LiftoffResult, "leaving" | "feetAhead" | "surelyNot" | "touches">,
      nose: Doubtful | null,
      leaves: Doubtful | null,
    ): Outcome<LiftoffResult> => ({
      status: "solved",
      result: {
        ...is,
        why,
        least: LEAVES_AT.value * stall.value,
        values: {
          noseUpSpeed: nose,
          liftOffSpeed: leaves,
          liftOffRun: leaves && runOf(pulled.result, leaves, roll),
        },
        inputs,
        shapes: [...flown.result.inputs, ...besides(roll, rest, { value: standing, sd: thrustSd })],
      },
    });
    if (why !== null || !rest || rest.noseUp === null || !push || at.status !== "solved") {
      const by = Object.fromEntries(Object.entries(stall.by).map(([id, d]) => [id, d * LEAVES_AT.value]));
      const leaves = { value: LEAVES_AT.value * stall.value, by: { ...by, "/margin": LEAVES_AT.sd * stall.value } };
      return done({ leaving: null, feetAhead: null, surelyNot: false, touches: null }, null, leaves);
    }
    const pivot = pivotOf(rest.rest);
    const touches = pivot && touchesFirst(view, pivot.from, rest.rest);
    const c: OnTheRun = {
      ...{ model: wings.result.model, rest: rest.rest, noseUp: rest.noseUp, cg: at.result.cg, push },
      ...{ weight: level.weight, density: level.density, drag: resistance, rolling: roll.value },
      ...{ thrust: thrustAt(base.thrust, end), stall: stall.value, atLeast: LEAVES_AT.value },
      clear: touches?.clear ?? Number.POSITIVE_INFINITY,
    };
    const here = leavingOf(c);
    if (!here) return { status: "missing", needs: ["where it touches the ground"] };
    const runs = otherwise(c, wings.result.moved, {
      ...{ cgSd: at.result.cgSd, stall, rollingSd: roll.sd, dragSd: resistance.sd },
      footSd: rest.inputs.find((i) => i.key === "/feet")?.sd ?? 0,
      massShare: ledger.result.massSd / ledger.result.mass,
      thrustShare: thrustSd / Math.max(standing, 1e-9),
      densitySd: flown.result.inputs.find((i) => i.id === "/air")?.sd ?? 0,
    });
    const all = Object.fromEntries(Object.entries(runs).map(([id, r]) => [id, leavingOf(r)]));
    const surelyNot = [here, ...Object.values(all)].every((o) => o?.leaves == null);
    return done(
      { leaving: here, feetAhead: feetAhead(c), surelyNot, touches },
      speedOf("nose", here, all),
      speedOf("leaves", here, all),
    );
  },
  quantities(result, view, of) {
    const lacks = lacksOf(view, of(flight), of(mass));
    const out: Partial<Record<LiftoffKey, Quantity>> = {};
    for (const key of keysOf(quantities)) {
      const d = result.values[key];
      if (!d) continue;
      out[key] = {
        value: d.value,
        sd: sdOf(d),
        dimension: quantities[key].dimension,
        evidence: key === "liftOffRun" ? knownBy(result.inputs, d) : evidenceIn(result.shapes, d),
        ...doubtsOf(key === "liftOffRun" ? shapesOutside(view.units) : [], [
          ...lacks,
          ...(result.why === null ? [] : [result.why]),
        ]),
      };
    }
    return out;
  },
  lacks: (key, result) => whyNot(key as LiftoffKey, result),
  working(key, result, view) {
    const d = result.values[key as LiftoffKey];
    if (!d) return [];
    const own = result.shapes.filter((i) => d.by[i.id] !== undefined);
    if (key !== "liftOffRun") return shapeWorking(own, d);
    return [
      ...inputsOf(result.inputs, d, view.units.length > 1),
      ...shapeWorking(
        own.filter((i) => i.id !== "/mass"),
        d,
      ),
    ].sort((a, b) => b.share - a.share);
  },
});

function whyNot(key: LiftoffKey, { values, leaving, why }: LiftoffResult): string | null {
  if (values[key]) return null;
  if (key === "noseUpSpeed") return why ?? "full nose up lifts it at no speed that was looked at";
  if (leaving && leaving.leaves === null)
    return "its nose does not come up far enough, and it is not carried as it stands";
  return "full throttle does not bring it to the speed at which it leaves the ground";
}
