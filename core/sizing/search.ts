import type { Battery, Design, Unit } from "../design/schema";
import { supportOf } from "../design/support";
import { GRAVITY } from "../subjects/air/air";
import { CHEMISTRY } from "../subjects/energy/battery";
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
import { type PowerSetup, setUp } from "../subjects/propulsion/setup";
import { rollUp } from "../subjects/mass/rollup";
import { drawRead } from "../subjects/propulsion/measured/curve";
import { outsideAt } from "../subjects/propulsion/outside";
import { shapesOutside } from "../subjects/propulsion/words";
import { onGroundByModel } from "../subjects/propulsion/kinds/which";
import { costOf } from "./searchCost";
import { type Asked, type Parts, askedOf, drivesOf, massWith, partsOf } from "./searchLedger";
import { type Choice, type OwnParts, type Searched, driveOf, motorEntryOf, replaced } from "./searchParts";
import { type SearchSpace, choices, sizeOf } from "./searchSpace";

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
  /** Which drives are searched, each set with the same parts, and what may vary of them and their packs. */
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
  /** s; Infinity when nothing is drawn; NaN where nobody can tell */
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
  | "too much for a drive that stays"
  | "thrust"
  | "mass"
  | "cost"
  | "endurance"
  | "outside the method"
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
  /** Why no time is told of any of them, as the end of a sentence; null where it is. */
  noTime: string | null;
  /** What is on a shaft and has no mass in the ledger: its mass stays out of all, whatever its size. */
  unweighed: string[];
  /** Drives whose motors have no entry of their own in the ledger: those that are chosen come on top of what it has. */
  unlisted: string[];
  /** Other parts without a mass: they stay out of every AUW. */
  massless: string[];
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

/** A drive of a candidate, the pack that it is on, and what its shaft and pack do at full throttle. */
interface Working {
  unit: Unit;
  battery: Battery;
  current: number;
  tipMach: number;
  packCurrent: number;
  packVoltage: number;
  rpm: number;
  /** asked of what all else leaves */
  outside: () => boolean;
}

/** What knocks a candidate out before its endurance is worked out; null when nothing does. */
function knockOf(candidate: Candidate, bounds: SearchBounds, drives: readonly Working[]): Knock | null {
  // Of a measured curve what its motor and controller stand is not known here: only its pack is chosen.
  const made = drives.filter((d) => !d.unit.measured);
  if (candidate.heat > 1) return "motor current";
  if (
    made.some(
      ({ unit, current, battery }) => current > unit.controller.maxCurrent || battery.series > unit.controller.maxCells,
    )
  )
    return "controller";
  if (drives.some((d) => d.tipMach > bounds.maxTipMach)) return "tip speed";
  if (
    drives.some(
      (d) => d.packCurrent > Math.min(d.battery.capacity.value * d.battery.cRating, bounds.maxCurrent ?? Infinity),
    )
  )
    return "pack current";
  if (drives.some((d) => d.packVoltage / d.battery.series < CHEMISTRY[d.battery.chemistry].floor))
    return "cells too low";
  if (bounds.maxMass !== null && candidate.auw > bounds.maxMass) return "mass";
  if (bounds.minThrustToWeight !== null && candidate.thrustToWeight < bounds.minThrustToWeight) return "thrust";
  if (bounds.maxCost !== null && candidate.cost && candidate.cost.most > bounds.maxCost) return "cost";
  if (drives.some((d) => d.outside())) return "outside the method";
  return null;
}

/** Share of today's current beyond which a drive that stays is asked for more: packs sag unlike (judgement). */
const LIKE_TODAY = 1.05;

/**
 * Whether another pack asks more of a drive that stays on it than its motor or controller stands, and more than the
 * pack of today does: judged by unit, pack and current at full throttle (A) of each drive.
 */
function spoilingOf(design: Design, { searched, packs }: Asked) {
  const staying = design.units.flatMap((u, k) =>
    !u.measured &&
    !searched.some((s) => s.unit.id === u.id) &&
    packs.some((group) => group.some((b) => b.id === u.batteryId))
      ? k
      : [],
  );
  if (staying.length === 0) return () => false;
  const today = solveAll(setUp(design, new Map()), 1, 0, indices(design));
  const cells = (b: readonly Battery[], u: Unit) => b.find((x) => x.id === u.batteryId)?.series ?? 0;
  return (batteries: readonly Battery[], points: readonly { current: number }[]) =>
    staying.some((k) => {
      const unit = design.units[k] as Unit;
      const now = today.status === "converged" ? (today.points[k]?.current ?? 0) : 0;
      const limit = Math.max(Math.min(unit.motor.maxCurrent, unit.controller.maxCurrent), now * LIKE_TODAY);
      return (
        (points[k]?.current ?? 0) > limit ||
        cells(batteries, unit) > Math.max(unit.controller.maxCells, cells(design.batteries, unit))
      );
    });
}

/** Whether what is on a shaft leaves the range of its method, by its shape or standing at this rpm. */
const leavesMethod = (u: PowerSetup["units"][number], rpm: number): boolean =>
  shapesOutside([u.unit]).length > 0 || outsideAt(u, rpm).length > 0;

/**
 * Judges choices by the numbers that the design made of each would give (tested), without making it: the masses of
 * the choice on top of what stays, its drives and packs among the others.
 * Each is solved from the state of the one before where that is near enough. Null: a drive has no solution.
 */
export function judging({
  design,
  sets,
  bounds,
  levelDrag,
}: Pick<SearchTask, "design" | "bounds" | "levelDrag"> & { sets: readonly (readonly string[])[] }): Judge {
  const asked = askedOf(design, sets);
  const { searched, packs } = asked;
  if (searched.length === 0 || searched.some((s) => s.pack < 0) || !computable(design)) return () => null;
  const massOf = massWith(design, asked, bounds.structure);
  const today = rollUp(design)?.mass ?? null;
  const all = indices(design);
  const places = searched.map((s) => design.units.findIndex((u) => u.id === s.unit.id));
  // Which of a choice's packs each battery is; −1: it stays.
  const groups = design.batteries.map((b) => packs.findIndex((group) => group.includes(b)));
  const spoils = spoilingOf(design, asked);
  let near: SolvedAll | null = null;
  return (choice, steps) => {
    const parts = partsOf(choice, asked);
    const auw = massOf(choice, parts);
    if (!(auw > 0)) return null;
    const weight = auw / (today ?? auw);
    const made = searched.map((s, k) =>
      driveOf(s, drivesOf(choice, s), parts.drives[k] as Parts["drives"][number], weight),
    );
    const units = [...design.units];
    for (const [k, at] of places.entries()) units[at] = made[k] as Unit;
    const batteries = design.batteries.map((b, k) => parts.packs[groups[k] as number]?.fitted(b) ?? b);
    const setup = setUp({ ...design, levelDrag, units, batteries }, new Map([["/mass", auw]]));
    const everything = solveAll(setup, 1, 0, all, near?.status === "converged" ? near.states : null);
    if (everything.status !== "converged") return null;
    near = everything;
    const main = setup.main.length === all.length ? everything : solveAll(setup, 1, 0, setup.main);
    if (main.status !== "converged") return null;
    const drives = places.map((at): Working => {
      const p = everything.points[at] as (typeof everything.points)[number];
      const unit = units[at] as Unit;
      const { tipMach } = unitValuesOf(setup, everything.points, at);
      return {
        ...{ unit, tipMach, current: p.current, rpm: p.rpm, packCurrent: p.packCurrent, packVoltage: p.packVoltage },
        battery: batteries.find((b) => b.id === unit.batteryId) as Battery,
        outside: () => leavesMethod(setup.units[at] as (typeof setup.units)[number], p.rpm),
      };
    });
    const thrust = thrustOf(setup, main.points, setup.main);
    const warm = drives.map((d) => (d.unit.measured ? 0 : d.current / d.unit.motor.maxCurrent));
    const candidate: Candidate = {
      choice,
      auw,
      endurance: Number.NaN,
      thrustToWeight: thrust / (auw * GRAVITY),
      heat: Math.max(...warm),
      cost: costOf(choice, asked, parts, made),
      thrust,
      current: Math.max(...drives.map((d) => d.current)),
    };
    const knock =
      knockOf(candidate, bounds, drives) ??
      (spoils(batteries, everything.points) ? "too much for a drive that stays" : null);
    if (knock) return { candidate, knock };
    const lasting = setup.packs.map((x) => enduranceOf(setup, x, steps)?.seconds ?? null);
    // One pack of which nobody can tell how long it lasts leaves all of it open.
    const open = setup.packs.some((x, k) => x.phases.length > 0 && lasting[k] === null);
    const told = lasting.filter((s) => s !== null);
    candidate.endurance = told.length > 0 && !open ? Math.min(...told) : Number.NaN;
    // Where no time can be told, none is short of it.
    const known = !Number.isNaN(candidate.endurance);
    const short = known && bounds.minEndurance !== null && candidate.endurance < bounds.minEndurance;
    return { candidate, knock: short ? "endurance" : null };
  };
}

/** Why of no candidate a time can be told. */
function noTimeOf({ design, levelDrag }: Pick<SearchTask, "design" | "levelDrag">): string {
  if (design.duty.length === 0) return "there is no mission profile";
  const known = levelDrag ?? (supportOf(design).waterDrag ? design.waterDragArea : design.dragArea);
  if (design.duty.some((p) => p.by === "speed") && !known)
    return "it is to go at a speed, and its drag area is not known";
  if (design.units.some(onGroundByModel)) return "what a drive on the ground draws as it goes is not computed";
  if (design.units.some((u) => u.measured !== null && !drawRead(u.measured)))
    return "a drive was never measured with its current";
  return "the mission profile was not solved with any of them";
}

/** What is on a shaft and is not listed with its mass. */
const unweighedIn = (searched: readonly Searched[]): string[] =>
  searched.flatMap(({ unit, propulsorMass }) => (unit.propulsor && !propulsorMass ? [unit.name] : []));

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
  const sets = space.sets.map((x) => x.unitIds);
  const of = sizeOf(task.design, space, own);
  const held: Candidate[] = [];
  const knocked: Partial<Record<Knock, number>> = {};
  let nearest: SearchResult["nearest"] = null;
  let tried = 0;
  const judge = judging({ ...task, sets });
  for (const choice of choices(task.design, space, own)) {
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
  const { searched } = askedOf(task.design, sets);
  const front = paretoOf(held).toSorted((a, b) => a.auw - b.auw);
  // A long front is thinned evenly over mass: its ends stay.
  const thin =
    front.length <= SHOWN
      ? front
      : Array.from({ length: SHOWN }, (_, i) => front[Math.round((i * (front.length - 1)) / (SHOWN - 1))] as Candidate);
  const shown = judging({ ...task, sets, bounds: { ...bounds, minEndurance: null } });
  const pareto = thin.flatMap((c) => shown(c.choice)?.candidate ?? []);
  return {
    ...{ tried, pareto, front: front.length, knocked },
    nearest: held.length > 0 ? null : nearest,
    noTime: pareto.length > 0 && pareto.every((c) => Number.isNaN(c.endurance)) ? noTimeOf(task) : null,
    unweighed: unweighedIn(searched),
    unlisted: searched.flatMap(({ unit }) => (unit.measured || motorEntryOf(task.design, unit) ? [] : unit.name)),
    massless: task.design.items.flatMap((i) =>
      i.mass === null && !replaced(task.design, searched).has(i.id) ? i.name : [],
    ),
  };
}
