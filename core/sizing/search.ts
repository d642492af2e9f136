import type { Design } from "../design/schema";
import { rollUp } from "../subjects/mass/rollup";
import { CHEMISTRY } from "../subjects/energy/battery";
import { priceOf } from "../catalogue/catalogue";
import { nominalPower, nominalSetup } from "../subjects/propulsion/nominal";
import { type Choice, type OwnParts, type SearchSpace, choices, partsOf, sizeOf, withChoice } from "./searchSpace";

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
  /** € for what the search chooses */
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
  /** € */
  cost: number;
  thrust: number;
  current: number;
}

/** Why candidates were knocked out, and how many each rule took. */
export type Knock = "motor current" | "controller" | "tip speed" | "pack current" | "cells too low" | "thrust" | "mass" | "cost" | "endurance" | "no solution";

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

/** Everything that a candidate is judged by, from the very design that applying it makes; null when its drive has no solution. */
export function judgeChoice(
  { design, unitId, bounds }: Pick<SearchTask, "design" | "unitId" | "bounds">,
  choice: Choice,
  steps?: number,
): { candidate: Candidate; knock: Knock | null } | null {
  const made = withChoice(design, unitId, choice, bounds.structure);
  const mass = rollUp(made);
  const setup = mass && nominalSetup(made, mass.mass);
  const k = made.units.findIndex((u) => u.id === unitId);
  const unit = made.units[k];
  const battery = made.batteries.find((b) => b.id === unit?.batteryId);
  if (!mass || !setup || !unit || !battery) return null;
  // What the limits knock out needs no endurance: it is worked out only for what is left.
  const quick = nominalPower({ ...setup, packs: setup.packs.map((p) => ({ ...p, phases: [] })) });
  if (!quick) return null;
  const { motor, controller, propeller, pack: chosen } = partsOf(choice, battery.chemistry);
  const law = priceOf(motor.mass.value, unit.controller.maxCurrent, chosen.energy, choice.diameter);
  const candidate: Candidate = {
    choice,
    auw: mass.mass,
    endurance: Number.NaN,
    thrustToWeight: quick.craft.thrustToWeight,
    heat: (quick.units[k]?.current ?? 0) / unit.motor.maxCurrent,
    cost: choice.count * ((motor.price ?? law.motor) + (controller.price ?? law.controller) + (propeller.price ?? law.propeller)) + (chosen.price ?? law.pack),
    thrust: quick.craft.thrust,
    current: quick.units[k]?.current ?? 0,
  };
  const index = made.batteries.indexOf(battery);
  const pack = quick.packs[index];
  const knock: Knock | null =
    candidate.heat > 1
      ? "motor current"
      : (quick.units[k]?.current ?? 0) > unit.controller.maxCurrent || choice.series > unit.controller.maxCells
        ? "controller"
        : (quick.units[k]?.tipMach ?? 0) > bounds.maxTipMach
          ? "tip speed"
          : (pack?.current ?? 0) > Math.min(choice.capacity * battery.cRating, bounds.maxCurrent ?? Infinity)
            ? "pack current"
            : (pack?.voltage ?? 0) / choice.series < CHEMISTRY[battery.chemistry].floor
              ? "cells too low"
              : bounds.maxMass !== null && candidate.auw > bounds.maxMass
                ? "mass"
                : bounds.minThrustToWeight !== null && candidate.thrustToWeight < bounds.minThrustToWeight
                  ? "thrust"
                  : bounds.maxCost !== null && candidate.cost > bounds.maxCost
                    ? "cost"
                    : null;
  if (knock) return { candidate, knock };
  candidate.endurance = nominalPower(setup, steps)?.craft.endurance ?? Number.NaN;
  if (bounds.minEndurance !== null && !(candidate.endurance >= bounds.minEndurance)) return { candidate, knock: "endurance" };
  return { candidate, knock: null };
}

/** Whether a is at least as good as b in everything and better in something: less mass, cost and heat, more endurance and thrust. */
export function dominates(a: Candidate, b: Candidate): boolean {
  const e = (x: Candidate) => (Number.isNaN(x.endurance) ? 0 : x.endurance);
  const noWorse = a.auw <= b.auw && e(a) >= e(b) && a.thrustToWeight >= b.thrustToWeight && a.cost <= b.cost && a.heat <= b.heat;
  return noWorse && (a.auw < b.auw || e(a) > e(b) || a.thrustToWeight > b.thrustToWeight || a.cost < b.cost || a.heat < b.heat);
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
 * Tries every combination of a space with the weight loop closed for each: motor, controller, propeller, pack and the structure that grows with them change the mass, which changes
 * what the duty asks of the drive. Yields its progress; returns the Pareto set over mass, endurance, thrust margin, cost and heat, and what knocked out the rest.
 * Exhaustive, so that it misses nothing on its grid; the grid is the reader's to choose.
 */
export function* search(task: SearchTask): Generator<SearchProgress, SearchResult> {
  const { space, own, bounds } = task;
  const of = sizeOf(space, own);
  const held: Candidate[] = [];
  const knocked: Partial<Record<Knock, number>> = {};
  let nearest: SearchResult["nearest"] = null;
  let tried = 0;
  for (const choice of choices(space, own)) {
    const judged = judgeChoice(task, choice, COARSE);
    tried++;
    if (judged === null) knocked["no solution"] = (knocked["no solution"] ?? 0) + 1;
    else if (judged.knock === null) held.push(judged.candidate);
    else {
      knocked[judged.knock] = (knocked[judged.knock] ?? 0) + 1;
      // Past all limits and short of the time only: that is as near as it gets; else the most thrust for its weight.
      const score = (n: NonNullable<typeof nearest>) => (n.misses === "endurance" ? 1000 + n.candidate.endurance : n.candidate.thrustToWeight / Math.max(1, n.candidate.heat));
      const here = { candidate: judged.candidate, misses: judged.knock };
      if (nearest === null || score(here) > score(nearest)) nearest = here;
    }
    if (tried % REPORT_EVERY === 0) yield { tried, of, found: held.length };
  }
  const front = paretoOf(held).toSorted((a, b) => a.auw - b.auw);
  // A long front is thinned evenly over mass: its ends stay.
  const thin = front.length <= SHOWN ? front : Array.from({ length: SHOWN }, (_, i) => front[Math.round((i * (front.length - 1)) / (SHOWN - 1))] as Candidate);
  const pareto = thin.flatMap((c) => judgeChoice({ ...task, bounds: { ...bounds, minEndurance: null } }, c.choice)?.candidate ?? []);
  return { tried, pareto, front: front.length, knocked, nearest: held.length > 0 ? null : nearest };
}
