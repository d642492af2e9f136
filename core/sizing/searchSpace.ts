import { type Known, magnitudeSd, weakest } from "../design/evidence";
import { freeId } from "../design/ids";
import { AXES, type Battery, type Design, type Unit, newItem } from "../design/schema";
import type { ShelfOf, ShelfPack } from "../design/shelf";
import { extent, rollUp } from "../subjects/mass/rollup";
import type { Chemistry } from "../subjects/energy/battery";
import {
  genericController,
  genericMotor,
  genericPack,
  genericPropeller,
  motorMassFor,
  propellerMass,
} from "../catalogue/catalogue";
import { entryOf } from "../catalogue/ledgerEntry";
import { withPack } from "../catalogue/packShelf";
import { controllerOf, motorOf, propellerOf } from "../catalogue/partShelf";

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

/** Parts of one's own that a search is held to, by kind; a kind that is not named is generic. */
export interface OwnParts {
  motor?: ShelfOf<"motor">[];
  propeller?: ShelfOf<"propeller">[];
  pack?: ShelfPack[];
  controller?: ShelfOf<"controller">[];
}
/** The parts of one's own in one choice; its numbers are theirs. */
export type OwnChoice = { [K in keyof OwnParts]: NonNullable<OwnParts[K]>[number] };

export type Choice = Record<SearchKey, number> & { own?: OwnChoice };

const DRIVE_GROUP = "Drive, searched";
const STRUCTURE_ID = "searched-structure";

/** Number of combinations of a space; a kind held to one's own parts counts as many as there are. */
export const sizeOf = (space: SearchSpace, own: OwnParts = {}): number =>
  DIMENSIONS.reduce(
    (n, d) =>
      n *
      (d.own && own[d.own] ? (own[d.own]?.length ?? 0) : d.keys.reduce((m, k) => m * Math.max(1, space[k].length), 1)),
    1,
  );

/**
 * Ledger entries that are motor, controller, propeller or pack of this drive now: the search replaces them. An entry
 * that is motor and controller at once counts when there is one drive only.
 */
function replaced(design: Design, unit: Unit): Set<string> {
  const kinds = ["motor", "controller", "propeller", "pack"] as const;
  const ids = new Set(kinds.flatMap((k) => entryOf(design, unit, k) ?? []));
  if (design.units.length === 1)
    for (const i of design.items) if (i.role === "motor" || i.role === "controller") ids.add(i.id);
  return ids;
}

/** What varies together, the propeller outermost, so that its precomputed map is used while it is fresh. */
const DIMENSIONS: { keys: SearchKey[]; own?: "motor" | "propeller" | "pack" }[] = [
  { keys: ["diameter", "pitchRatio", "blades"], own: "propeller" },
  { keys: ["kv", "motorMass"], own: "motor" },
  { keys: ["ratio"] },
  { keys: ["count"] },
  { keys: ["series", "capacity"], own: "pack" },
];

/** Three cells at rest, V: by it the rated current of a motor nobody weighed stands for its rated power (judgement). */
const RATED_VOLTAGE = 11;

/** Numbers of a part of one's own as a choice has them; a mass that nobody weighed is that of a generic part. */
const numbersOf = (part: ShelfOf<"motor" | "propeller" | "pack">): Partial<Choice> =>
  part.kind === "motor"
    ? { kv: part.kv.value, motorMass: part.mass?.value ?? motorMassFor(part.maxCurrent * RATED_VOLTAGE) }
    : part.kind === "propeller"
      ? { diameter: part.diameter.value, pitchRatio: part.pitch.value / part.diameter.value, blades: part.blades }
      : { series: part.series, capacity: part.capacity.value };

/**
 * The lightest controller of one's own that carries the motor's rated current on these cells; the strongest when none
 * does.
 */
function controllerFor(
  list: readonly ShelfOf<"controller">[],
  current: number,
  cells: number,
): ShelfOf<"controller"> | undefined {
  const fits = list.filter((c) => c.maxCurrent >= current && c.maxCells >= cells);
  if (fits.length > 0) return fits.toSorted((a, b) => (a.mass?.value ?? 0) - (b.mass?.value ?? 0))[0];
  return list.toSorted((a, b) => b.maxCurrent - a.maxCurrent)[0];
}

export type Parts = ReturnType<typeof partsOf>;

/**
 * Motor, controller, propeller and pack of a choice, with mass (kg, each) and price (€, each; null: by the generic
 * law).
 */
export function partsOf(choice: Choice, chemistry: Chemistry) {
  const { own } = choice;
  const motor = own?.motor ? motorOf(own.motor) : genericMotor(choice.kv, choice.motorMass);
  const generic = genericController(Math.ceil(motor.maxCurrent * 1.2), Math.max(choice.series, 4));
  const pack = genericPack(own?.pack?.chemistry ?? chemistry, choice.series, choice.capacity);
  const guess = (kg: number): Known => ({ value: kg, evidence: "guess" });
  return {
    motor: { part: motor, mass: own?.motor?.mass ?? guess(choice.motorMass), price: own?.motor?.price ?? null },
    controller: {
      part: own?.controller ? controllerOf(own.controller) : generic.controller,
      mass: own?.controller?.mass ?? guess(generic.mass),
      price: own?.controller?.price ?? null,
    },
    propeller: {
      part: own?.propeller
        ? propellerOf(own.propeller)
        : genericPropeller(choice.diameter, choice.pitchRatio * choice.diameter, choice.blades),
      mass: own?.propeller?.mass ?? guess(propellerMass(choice.diameter, choice.blades)),
      price: own?.propeller?.price ?? null,
    },
    pack: {
      fitted: (b: Battery): Battery => (own?.pack ? withPack(b, own.pack) : { ...b, ...pack.battery }),
      mass: own?.pack?.mass ?? guess(pack.mass),
      price: own?.pack?.price ?? null,
      energy: pack.energy,
    },
  };
}

const withChord = (made: Unit["propeller"], was: Unit["propeller"]): Unit["propeller"] => ({
  ...made,
  chord: { value: (was.chord.value / was.diameter.value) * made.diameter.value, evidence: "guess" },
});

/** Drive and pack of a choice in place of those given; the ledger is not touched. */
export function drivenBy(
  unit: Unit,
  battery: Battery,
  choice: Choice,
  parts: Parts = partsOf(choice, battery.chemistry),
): { unit: Unit; battery: Battery } {
  return {
    unit: {
      ...unit,
      count: choice.count,
      motor: parts.motor.part,
      controller: parts.controller.part,
      gear: choice.ratio === 1 ? DIRECT : { ratio: choice.ratio, efficiency: { value: 0.95, evidence: "guess" } },
      // Screws for water are wider than propellers of the law: another size keeps the width of the one that is there.
      propeller:
        unit.surroundings === "in water" && !choice.own?.propeller
          ? withChord(parts.propeller.part, unit.propeller)
          : parts.propeller.part,
    },
    battery: parts.pack.fitted(battery),
  };
}
const DIRECT: Unit["gear"] = { ratio: 1, efficiency: { value: 1, evidence: "measured", sd: 0 } };

/** Mass of drive and pack of a choice, kg. */
const massOf = (choice: Choice, { motor, controller, propeller, pack }: Parts): number =>
  choice.count * (motor.mass.value + controller.mass.value + propeller.mass.value) + pack.mass.value;

/** Least structure that gets an entry of its own, kg. */
const NOTHING = 1e-6;

/** What a search leaves as it is, and the masses that its choices come on top of. */
function leftOf(design: Design, unit: Unit) {
  const before = replaced(design, unit);
  const massIn = (wanted: (id: string) => boolean) =>
    design.items.filter((i) => wanted(i.id)).reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity, 0);
  const oldMass = massIn((id) => before.has(id));
  const structure = design.items.find((i) => i.id === STRUCTURE_ID)?.mass?.value ?? 0;
  return {
    before,
    rest: massIn((id) => !before.has(id) && id !== STRUCTURE_ID),
    /** kg of structure that goes with drive and pack of this mass, at so many kg a kg */
    structureFor: (mass: number, share: number) => {
      const grown = structure + share * (mass - oldMass);
      return grown > NOTHING ? grown : 0;
    },
  };
}

/** All-up mass (kg) of a design with a choice in it, in plain numbers. */
export function massWith(design: Design, unit: Unit, share: number): (choice: Choice, parts: Parts) => number {
  const { rest, structureFor } = leftOf(design, unit);
  return (choice, parts) => {
    const mass = massOf(choice, parts);
    return rest + mass + structureFor(mass, share);
  };
}

/**
 * The design with a candidate's drive in it: motor, controller, propeller and pack with their masses in the ledger,
 * and the structure that grows with them as an entry of its own.
 * What was there before keeps its place; a second motor or controller entry is emptied into the first.
 */
export function withChoice(design: Design, unitId: string, choice: Choice, structure: number): Design {
  const next = structuredClone(design);
  const k = next.units.findIndex((u) => u.id === unitId);
  const found = next.units[k];
  const at = next.batteries.findIndex((b) => b.id === found?.batteryId);
  const was = next.batteries[at];
  if (!found || !was) return next;
  const { before, structureFor } = leftOf(design, found);
  const parts = partsOf(choice, was.chemistry);
  const { motor, controller, propeller, pack } = parts;
  const made = structuredClone(drivenBy(found, was, choice, parts));
  const { unit, battery: fitted } = made;
  next.units[k] = unit;
  next.batteries[at] = fitted;

  // Motor and controller share an entry: known as well as the worse of them.
  const both: Known = {
    value: motor.mass.value + controller.mass.value,
    evidence: weakest([motor.mass.evidence, controller.mass.evidence]),
    sd: Math.hypot(magnitudeSd(motor.mass), magnitudeSd(controller.mass)),
  };
  const middle = rollUp(design)?.cg ?? { x: 0, y: 0, z: 0 };
  let rest = false;
  for (const item of next.items) {
    if (!before.has(item.id)) continue;
    item.predicted = null;
    if (item.id === fitted.itemId) {
      item.quantity = 1;
      item.mass = pack.mass;
    } else if (item.id === unit.propellerItemId) {
      item.quantity = choice.count;
      item.mass = propeller.mass;
      item.size = { ...item.size, y: choice.diameter, z: choice.diameter };
    } else if (!rest) {
      // The first motor or controller entry carries both; the others are empty from now on.
      rest = true;
      item.quantity = choice.count;
      item.mass = both;
      unit.motorItemId = item.id;
      unit.controllerItemId = null;
    } else item.mass = null;
  }
  next.items = next.items.filter((i) => !(before.has(i.id) && i.mass === null));
  const add = (id: string, name: string, mass: Known, quantity = 1) => {
    const free = freeId(next.items, id);
    next.items.push(
      newItem({
        id: free,
        name,
        group: DRIVE_GROUP,
        quantity,
        mass,
        place: { ...middle },
        unplaced: [...AXES],
        unsized: true,
        size: { x: 0.03, y: 0.03, z: 0.03 },
      }),
    );
    return free;
  };
  if (!rest) unit.motorItemId = add("searched-motor", "Motor and controller", both, choice.count);
  if (!before.has(fitted.itemId ?? "")) fitted.itemId = add("searched-pack", "Pack", pack.mass);
  if (!before.has(unit.propellerItemId ?? ""))
    unit.propellerItemId = add("searched-propeller", "Propeller", propeller.mass, choice.count);
  const grown = structureFor(massOf(choice, parts), structure);
  next.items = next.items.filter((i) => i.id !== STRUCTURE_ID);
  if (grown > 0)
    next.items.push(
      newItem({
        id: STRUCTURE_ID,
        name: "Structure that grows with it",
        group: DRIVE_GROUP,
        mass: { value: grown, evidence: "guess" },
        place: { ...middle },
        unplaced: [...AXES],
        unsized: true,
        size: { x: 0.03, y: 0.03, z: 0.03 },
      }),
    );
  return next;
}

/** Every choice of a space; kinds held to one's own parts go through those instead. */
export function* choices(space: SearchSpace, own: OwnParts = {}): Generator<Choice> {
  const grid = (keys: readonly SearchKey[]): Partial<Choice>[] =>
    keys.reduce<Partial<Choice>[]>(
      (made, key) => made.flatMap((m) => space[key].map((value) => ({ ...m, [key]: value }))),
      [{}],
    );
  const lists = DIMENSIONS.map((d) =>
    d.own && own[d.own]
      ? (own[d.own] ?? []).map((part) => ({ ...numbersOf(part), own: { [part.kind]: part } }))
      : grid(d.keys),
  );
  function* from(k: number, choice: Partial<Choice>): Generator<Choice> {
    const list = lists[k];
    if (list)
      for (const c of list)
        yield* from(k + 1, { ...choice, ...c, ...(choice.own || c.own ? { own: { ...choice.own, ...c.own } } : {}) });
    else yield withController(choice as Choice, own.controller);
  }
  yield* from(0, {});
}

/** The choice with the controller of one's own that suits its motor and cells. */
function withController(choice: Choice, list: OwnParts["controller"]): Choice {
  if (!list) return choice;
  const motor = choice.own?.motor ?? genericMotor(choice.kv, choice.motorMass);
  return { ...choice, own: { ...choice.own, controller: controllerFor(list, motor.maxCurrent, choice.series) } };
}

/**
 * A space around the drive that a design has: sizes from half to a half more, coarse enough for some thousand tries.
 */
export function spaceAround(design: Design, unitId: string): SearchSpace | null {
  const unit = design.units.find((u) => u.id === unitId);
  const battery = design.batteries.find((b) => b.id === unit?.batteryId);
  if (!unit || !battery) return null;
  const box = extent(design);
  const largest = box ? Math.max(box.max.y - box.min.y, box.max.z - box.min.z, 0.05) * 1.2 : 1;
  const spread = (value: number, factors: number[], digits: number) => [
    ...new Set(factors.map((f) => Number((value * f).toPrecision(digits)))),
  ];
  const entry = entryOf(design, unit, "motor");
  const motorItem =
    (design.items.find((i) => i.id === entry) ?? design.items.find((i) => i.role === "motor"))?.mass?.value ?? 0.08;
  return {
    diameter: spread(unit.propeller.diameter.value, [0.8, 0.9, 1, 1.1, 1.2], 3).filter(
      (d) => d <= Math.max(largest, unit.propeller.diameter.value),
    ),
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
