import type { Battery, Design, Unit } from "../design/schema";
import { GRAVITY } from "../subjects/air/air";
import { CHEMISTRY } from "../subjects/energy/battery";
import { LAWS, usualPrices } from "../catalogue/catalogue";
import { usualPrice } from "../design/money";
import { type Price, expected } from "../design/price";
import {
  type SolvedAll,
  computable,
  enduranceOf,
  indices,
  solveAll,
  thrustOf,
  unitValuesOf,
} from "../subjects/propulsion/nominal";
import type { LevelDrag } from "../subjects/propulsion/levelDrag";
import { setUp } from "../subjects/propulsion/setup";
import {
  type Choice,
  type OwnParts,
  type SearchSpace,
  choices,
  drivenBy,
  massWith,
  partsOf,
  sizeOf,
} from "./searchSpace";

/** What a candidate must hold to. */
export interface SearchBounds {
  /** kg */
  maxMass: number | null;
  /** s */
  minEndurance: number | null;
  /** multiples of the weight */
  minThrustToWeight: number | null;
  /** tip Mach */
  maxTipMach: number;
  /** A from the pack at full throttle, beside what its own C rating allows */
  maxCurrent?: number | null;
  /** For what the search chooses, in the currency of the workshop: its dearest end must keep to it. */
  maxCost: number | null;
  /** Mass of structure and mounts that each added kg of drive and pack brings with it, kg/kg. */
  structure: number;
}

/** What a search is asked. */
export interface SearchTask {
  design: Design;
  /** Drive that is searched, with its pack; others stay. */
  unitId: string;
  space: SearchSpace;
  bounds: SearchBounds;
  own?: OwnParts;
  /** What holds it back on its wings, where the duty asks for a speed: carrying more costs more. */
  levelDrag?: LevelDrag | null;
}

export interface Candidate {
  choice: Choice;
  /** All-up mass with the loop closed, kg. */
  auw: number;
  /** s; Infinity when nothing is drawn */
  endurance: number;
  thrustToWeight: number;
  /** motor heat over what it stands, 0 to 1 and beyond */
  heat: number;
  /** What is chosen, from its least to its most; null where a usual price is needed and none can be told. */
  cost: Price | null;
  thrust: number;
  current: number;
}

/** Why candidates were knocked out, and how many each rule took. */
export type Knock =
  | "motor current"
  | "controller"
  | "tip speed"
  | "pack current"
  | "cells too low"
  | "thrust"
  | "mass"
  | "cost"
  | "endurance"
  | "no solution";

export interface SearchResult {
  tried: number;
  /** At most 200, thinned evenly over mass. */
  pareto: Candidate[];
  /** How many nothing beats, before thinning. */
  front: number;
  knocked: Partial<Record<Knock, number>>;
  /** The candidate that misses least when nothing holds. */
  nearest: { candidate: Candidate; misses: Knock } | null;
}

export interface SearchProgress {
  tried: number;
  of: number;
  found: number;
}

export interface Judged {
  candidate: Candidate;
  /** The first rule that it breaks; null when it holds to all. */
  knock: Knock | null;
}
type Judge = (choice: Choice, steps?: number) => Judged | null;

/**
 * What parts cost together: those with a price of their own exactly, the others by the usual one with its band. Ends
 * are summed as they are: usual prices are wrong together.
 */
function together(parts: readonly { price: number | null; law: number; pieces: number }[]): Price | null {
  let [least, most] = [0, 0];
  for (const { price, law, pieces } of parts) {
    const usual = price ?? usualPrice(law);
    if (usual === null) return null;
    const band = price === null ? LAWS.price.band : 0;
    least += pieces * usual * (1 - band);
    most += pieces * usual * (1 + band);
  }
  return { least, most };
}

/** What knocks a candidate out before its endurance is worked out; null when nothing does. */
function knockOf(
  candidate: Candidate,
  bounds: SearchBounds,
  { unit, battery }: { unit: Unit; battery: Battery },
  at: { tipMach: number; packCurrent: number; packVoltage: number },
): Knock | null {
  const { choice } = candidate;
  if (candidate.heat > 1) return "motor current";
  if (candidate.current > unit.controller.maxCurrent || choice.series > unit.controller.maxCells) return "controller";
  if (at.tipMach > bounds.maxTipMach) return "tip speed";
  if (at.packCurrent > Math.min(choice.capacity * battery.cRating, bounds.maxCurrent ?? Infinity))
    return "pack current";
  if (at.packVoltage / choice.series < CHEMISTRY[battery.chemistry].floor) return "cells too low";
  if (bounds.maxMass !== null && candidate.auw > bounds.maxMass) return "mass";
  if (bounds.minThrustToWeight !== null && candidate.thrustToWeight < bounds.minThrustToWeight) return "thrust";
  if (bounds.maxCost !== null && candidate.cost && candidate.cost.most > bounds.maxCost) return "cost";
  return null;
}

/**
 * Judges choices by the numbers that the design made of each would give (tested), without making it: the masses of
 * the choice on top of what stays, its drive and pack among the others.
 * Each is solved from the state of the one before where that is near enough. Null: its drive has no solution.
 */
export function judging({
  design,
  unitId,
  bounds,
  levelDrag,
}: Pick<SearchTask, "design" | "unitId" | "bounds" | "levelDrag">): Judge {
  const k = design.units.findIndex((u) => u.id === unitId);
  const was = design.units[k];
  const p = design.batteries.findIndex((b) => b.id === was?.batteryId);
  const pack = design.batteries[p];
  if (!was || !pack || !computable(design)) return () => null;
  const massOf = massWith(design, was, bounds.structure);
  const all = indices(design);
  let near: SolvedAll | null = null;
  return (choice, steps) => {
    const parts = partsOf(choice, pack.chemistry);
    const fitted = drivenBy(was, pack, choice, parts);
    const auw = massOf(choice, parts);
    if (!(auw > 0)) return null;
    const setup = setUp(
      {
        ...design,
        levelDrag,
        units: design.units.with(k, fitted.unit),
        batteries: design.batteries.with(p, fitted.battery),
      },
      new Map([["/mass", auw]]),
    );
    const everything = solveAll(setup, 1, 0, all, near?.status === "converged" ? near.states : null);
    if (everything.status !== "converged") return null;
    near = everything;
    const alone = setup.main.length === all.length ? everything : solveAll(setup, 1, 0, setup.main);
    const here = everything.points[k];
    if (alone.status !== "converged" || !here) return null;
    const { motor, controller, propeller } = parts;
    const law = usualPrices(motor.mass.value, fitted.unit.controller.maxCurrent, parts.pack.energy, choice.diameter);
    const thrust = thrustOf(setup, alone.points, setup.main);
    const candidate: Candidate = {
      choice,
      auw,
      endurance: Number.NaN,
      thrustToWeight: thrust / (auw * GRAVITY),
      heat: here.current / fitted.unit.motor.maxCurrent,
      cost: together([
        { price: motor.price, law: law.motor, pieces: choice.count },
        { price: controller.price, law: law.controller, pieces: choice.count },
        { price: propeller.price, law: law.propeller, pieces: choice.count },
        { price: parts.pack.price, law: law.pack, pieces: 1 },
      ]),
      thrust,
      current: here.current,
    };
    const { tipMach } = unitValuesOf(setup, everything.points, k);
    const knock = knockOf(candidate, bounds, fitted, {
      tipMach,
      packCurrent: here.packCurrent,
      packVoltage: here.packVoltage,
    });
    if (knock) return { candidate, knock };
    const lasting = setup.packs.flatMap((x) => enduranceOf(setup, x, steps)?.seconds ?? []);
    candidate.endurance = lasting.length > 0 ? Math.min(...lasting) : Number.NaN;
    return {
      candidate,
      knock: bounds.minEndurance !== null && !(candidate.endurance >= bounds.minEndurance) ? "endurance" : null,
    };
  };
}

const spend = ({ cost }: Candidate) => (cost ? expected(cost) : 0);

/**
 * Whether a is at least as good as b in everything and better in something: less mass, cost and heat, more endurance
 * and thrust.
 */
export function dominates(a: Candidate, b: Candidate): boolean {
  const e = (x: Candidate) => (Number.isNaN(x.endurance) ? 0 : x.endurance);
  const noWorse =
    a.auw <= b.auw && e(a) >= e(b) && a.thrustToWeight >= b.thrustToWeight && spend(a) <= spend(b) && a.heat <= b.heat;
  return (
    noWorse &&
    (a.auw < b.auw || e(a) > e(b) || a.thrustToWeight > b.thrustToWeight || spend(a) < spend(b) || a.heat < b.heat)
  );
}

/** The candidates that no other beats in everything. */
export function paretoOf(list: readonly Candidate[]): Candidate[] {
  const front: Candidate[] = [];
  for (const c of list.toSorted((a, b) => a.auw - b.auw)) if (!front.some((f) => dominates(f, c))) front.push(c);
  return front.filter((c) => !front.some((f) => f !== c && dominates(f, c)));
}

/** Steps of the discharge while searching; what is shown is worked out again with all. */
const COARSE = 6;
const REPORT_EVERY = 60;
/** Candidates shown at most; the Pareto set of five aims can be long. */
const SHOWN = 200;

/**
 * Tries every combination of a space with the weight loop closed for each: motor, controller, propeller, pack and the
 * structure that grows with them change the mass, which changes
 * what the duty asks of the drive. Yields its progress; returns the Pareto set over mass, endurance, thrust margin,
 * cost and heat, and what knocked out the rest.
 * Exhaustive, so that it misses nothing on its grid; the grid is the reader's to choose.
 */
export function* search(task: SearchTask): Generator<SearchProgress, SearchResult> {
  const { space, own, bounds } = task;
  const of = sizeOf(space, own);
  const held: Candidate[] = [];
  const knocked: Partial<Record<Knock, number>> = {};
  let nearest: SearchResult["nearest"] = null;
  let tried = 0;
  const judge = judging(task);
  for (const choice of choices(space, own)) {
    const judged = judge(choice, COARSE);
    tried++;
    if (judged === null) knocked["no solution"] = (knocked["no solution"] ?? 0) + 1;
    else if (judged.knock === null) held.push(judged.candidate);
    else {
      knocked[judged.knock] = (knocked[judged.knock] ?? 0) + 1;
      // Past all limits and short of the time only: that is as near as it gets; else the most thrust for its weight.
      const score = (n: NonNullable<typeof nearest>) =>
        n.misses === "endurance"
          ? 1000 + n.candidate.endurance
          : n.candidate.thrustToWeight / Math.max(1, n.candidate.heat);
      const here = { candidate: judged.candidate, misses: judged.knock };
      if (nearest === null || score(here) > score(nearest)) nearest = here;
    }
    if (tried % REPORT_EVERY === 0) yield { tried, of, found: held.length };
  }
  const front = paretoOf(held).toSorted((a, b) => a.auw - b.auw);
  // A long front is thinned evenly over mass: its ends stay.
  const thin =
    front.length <= SHOWN
      ? front
      : Array.from({ length: SHOWN }, (_, i) => front[Math.round((i * (front.length - 1)) / (SHOWN - 1))] as Candidate);
  const shown = judging({ ...task, bounds: { ...bounds, minEndurance: null } });
  const pareto = thin.flatMap((c) => shown(c.choice)?.candidate ?? []);
  return { tried, pareto, front: front.length, knocked, nearest: held.length > 0 ? null : nearest };
}
