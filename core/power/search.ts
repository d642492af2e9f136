import { type Design, newItem } from "../design/schema";
import { extent, rollUp } from "../mass/rollup";
import { CHEMISTRY } from "./battery";
import { NAMED, genericController, genericMotor, genericPack, genericPropeller, priceOf, propellerMass } from "./catalogue";
import { nominalPower, nominalSetup } from "./nominal";

/** What a search may vary: the values to try of each. A list of one holds it fixed. */
export interface SearchSpace {
  diameter: number[];
  /** pitch over diameter */
  pitchRatio: number[];
  blades: number[];
  kv: number[];
  /** kg, one motor */
  motorMass: number[];
  ratio: number[];
  series: number[];
  /** A·h */
  capacity: number[];
  count: number[];
}
export type SearchKey = keyof SearchSpace;

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

export type Choice = Record<SearchKey, number>;

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
export type Knock = "motor current" | "tip speed" | "pack current" | "cells too low" | "thrust" | "mass" | "cost" | "endurance" | "no solution";

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

const DRIVE_GROUP = "Drive, searched";
const STRUCTURE_ID = "searched-structure";

/** Number of combinations of a space. */
export const sizeOf = (space: SearchSpace): number => Object.values(space).reduce((n, list) => n * Math.max(1, list.length), 1);

/** Ledger entries that are motor, controller, propeller or pack now: the search replaces them. */
function replaced(design: Design): Set<string> {
  const ids = new Set<string>();
  const unit = design.units[0];
  for (const b of design.batteries) if (b.itemId && b.id === unit?.batteryId) ids.add(b.itemId);
  if (unit?.propellerItemId) ids.add(unit.propellerItemId);
  for (const i of design.items) if (NAMED.motor.test(i.name) || NAMED.controller.test(i.name)) ids.add(i.id);
  return ids;
}

/**
 * The design with a candidate's drive in it: generic motor, controller, propeller and pack with their masses in the ledger, and the structure that grows with them as an entry of its
 * own. What was there before keeps its place; a second motor or controller entry is emptied into the first.
 */
export function withChoice(design: Design, choice: Choice, structure: number): Design {
  const next = structuredClone(design);
  const unit = next.units[0];
  const battery = next.batteries.find((b) => b.id === unit?.batteryId);
  if (!unit || !battery) return next;
  const before = replaced(design);
  const oldMass = design.items.filter((i) => before.has(i.id)).reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity, 0);
  const oldStructure = design.items.find((i) => i.id === STRUCTURE_ID)?.mass?.value ?? 0;
  const motor = genericMotor(choice.kv, choice.motorMass);
  const rating = Math.ceil(motor.maxCurrent * 1.2);
  const { controller, mass: controllerMass } = genericController(rating, Math.max(choice.series, 4));
  const pack = genericPack(battery.chemistry, choice.series, choice.capacity);
  unit.count = choice.count;
  unit.motor = motor;
  unit.controller = controller;
  unit.gear = choice.ratio === 1 ? { ratio: 1, efficiency: { value: 1, evidence: "measured", sd: 0 } } : { ratio: choice.ratio, efficiency: { value: 0.95, evidence: "guess" } };
  unit.propeller = genericPropeller(choice.diameter, choice.pitchRatio * choice.diameter, choice.blades);
  Object.assign(battery, pack.battery);

  const weight = (kg: number) => ({ value: kg, evidence: "guess" as const });
  const middle = rollUp(design)?.cg ?? { x: 0, y: 0, z: 0 };
  let rest = false;
  for (const item of next.items) {
    if (!before.has(item.id)) continue;
    item.predicted = null;
    if (item.id === battery.itemId) {
      item.quantity = 1;
      item.mass = weight(pack.mass);
    } else if (item.id === unit.propellerItemId) {
      item.quantity = choice.count;
      item.mass = weight(propellerMass(choice.diameter, choice.blades));
      item.size = { ...item.size, y: choice.diameter, z: choice.diameter };
    } else if (!rest) {
      // The first motor or controller entry carries both; the others are empty from now on.
      rest = true;
      item.quantity = choice.count;
      item.mass = weight(choice.motorMass + controllerMass);
    } else item.mass = null;
  }
  next.items = next.items.filter((i) => !(before.has(i.id) && i.mass === null));
  const add = (id: string, name: string, kg: number, quantity = 1) =>
    next.items.push(newItem({ id, name, group: DRIVE_GROUP, quantity, mass: weight(kg), place: { ...middle }, size: { x: 0.03, y: 0.03, z: 0.03 } }));
  if (!rest) add("searched-motor", "Motor and controller", choice.motorMass + controllerMass, choice.count);
  if (!before.has(battery.itemId ?? "")) {
    add("searched-pack", "Pack", pack.mass);
    battery.itemId = "searched-pack";
  }
  if (!before.has(unit.propellerItemId ?? "")) {
    add("searched-propeller", "Propeller", propellerMass(choice.diameter, choice.blades), choice.count);
    unit.propellerItemId = "searched-propeller";
  }
  const newMass = choice.count * (choice.motorMass + controllerMass + propellerMass(choice.diameter, choice.blades)) + pack.mass;
  const grown = Math.max(0, oldStructure + structure * (newMass - oldMass));
  next.items = next.items.filter((i) => i.id !== STRUCTURE_ID);
  if (grown > 1e-6) add(STRUCTURE_ID, "Structure that grows with it", grown);
  return next;
}

/** Everything that a candidate is judged by, from the very design that applying it makes; null when its drive has no solution. */
export function judgeChoice(design: Design, choice: Choice, bounds: SearchBounds, steps?: number): { candidate: Candidate; knock: Knock | null } | null {
  const made = withChoice(design, choice, bounds.structure);
  const mass = rollUp(made);
  const setup = mass && nominalSetup(made, mass.mass);
  const unit = made.units[0];
  const battery = made.batteries.find((b) => b.id === unit?.batteryId);
  if (!mass || !setup || !unit || !battery) return null;
  // What the limits knock out needs no endurance: it is worked out only for what is left.
  const quick = nominalPower({ ...setup, packs: setup.packs.map((p) => ({ ...p, phases: [] })) });
  if (!quick) return null;
  const candidate: Candidate = {
    choice,
    auw: mass.mass,
    endurance: Number.NaN,
    thrustToWeight: quick.craft.thrustToWeight,
    heat: (quick.units[0]?.current ?? 0) / unit.motor.maxCurrent,
    cost: priceOf(choice.motorMass, unit.controller.maxCurrent, genericPack(battery.chemistry, choice.series, choice.capacity).energy, choice.diameter, choice.count),
    thrust: quick.craft.thrust,
    current: quick.units[0]?.current ?? 0,
  };
  const index = made.batteries.indexOf(battery);
  const pack = quick.packs[index];
  const knock: Knock | null =
    candidate.heat > 1
      ? "motor current"
      : quick.craft.tipMach > bounds.maxTipMach
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

/** Every choice of a space, the propeller outermost, so that its precomputed map is used while it is fresh. */
export function* choices(space: SearchSpace): Generator<Choice> {
  const keys: SearchKey[] = ["diameter", "pitchRatio", "blades", "kv", "motorMass", "ratio", "series", "count", "capacity"];
  function* from(k: number, choice: Partial<Choice>): Generator<Choice> {
    const key = keys[k];
    if (key === undefined) yield choice as Choice;
    else for (const value of space[key]) yield* from(k + 1, { ...choice, [key]: value });
  }
  yield* from(0, {});
}

/**
 * Tries every combination of a space with the weight loop closed for each: motor, controller, propeller, pack and the structure that grows with them change the mass, which changes
 * what the duty asks of the drive. Yields its progress; returns the Pareto set over mass, endurance, thrust margin, cost and heat, and what knocked out the rest.
 * Exhaustive, so that it misses nothing on its grid; the grid is the reader's to choose. The first drive and its pack are searched, others stay.
 */
export function* search(design: Design, space: SearchSpace, bounds: SearchBounds): Generator<SearchProgress, SearchResult> {
  const of = sizeOf(space);
  const held: Candidate[] = [];
  const knocked: Partial<Record<Knock, number>> = {};
  let nearest: SearchResult["nearest"] = null;
  let tried = 0;
  for (const choice of choices(space)) {
    const judged = judgeChoice(design, choice, bounds, COARSE);
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
  const pareto = thin.flatMap((c) => judgeChoice(design, c.choice, { ...bounds, minEndurance: null })?.candidate ?? []);
  return { tried, pareto, front: front.length, knocked, nearest: held.length > 0 ? null : nearest };
}

/** A space around the drive that a design has: sizes from half to a half more, coarse enough for some thousand tries. */
export function spaceAround(design: Design): SearchSpace | null {
  const unit = design.units[0];
  const battery = design.batteries.find((b) => b.id === unit?.batteryId);
  if (!unit || !battery) return null;
  const box = extent(design);
  const largest = box ? Math.max(box.max.y - box.min.y, box.max.z - box.min.z, 0.05) * 1.2 : 1;
  const spread = (value: number, factors: number[], digits: number) => [...new Set(factors.map((f) => Number((value * f).toPrecision(digits))))];
  const motorItem = design.items.find((i) => NAMED.motor.test(i.name))?.mass?.value ?? 0.08;
  return {
    diameter: spread(unit.propeller.diameter.value, [0.8, 0.9, 1, 1.1, 1.2], 3).filter((d) => d <= Math.max(largest, unit.propeller.diameter.value)),
    pitchRatio: [0.45, 0.6, 0.75],
    blades: [unit.propeller.blades],
    kv: spread(unit.motor.kv.value, [0.65, 0.8, 1, 1.25], 2),
    motorMass: spread(motorItem, [0.6, 1, 1.5], 2),
    ratio: [unit.gear.ratio],
    series: [...new Set([battery.series - 1, battery.series, battery.series + 1].filter((s) => s >= 1))],
    capacity: spread(battery.capacity.value, [0.5, 0.7, 1, 1.4, 2], 2),
    count: [unit.count],
  };
}
