import { magnitudeSd, type Known } from "../design/evidence";
import { freeId } from "../design/ids";
import { AXES, type Battery, type Design, type Unit, newItem } from "../design/schema";
import { extent, rollUp } from "../subjects/mass/rollup";
import { entryOf } from "../catalogue/ledgerEntry";
import { shapedOf } from "./otherSize";
import {
  type Choice,
  type OwnParts,
  type Parts,
  type SearchKey,
  type Searched,
  type Shroud,
  bothOf,
  driveOf,
  numbersOf,
  partsOf,
  replaced,
  searchedOf,
  withController,
} from "./searchParts";

/** What a search may vary: the values to try of each. A list of one holds it fixed. */
export type SearchSpace = Record<SearchKey, number[]> & { shrouds?: Shroud[] };

const DRIVE_GROUP = "Drive, searched";
const STRUCTURE_ID = "searched-structure";

/** What varies together, the propeller outermost, so that its precomputed map is used while it is fresh. */
const DIMENSIONS: { keys: SearchKey[]; own?: "motor" | "propeller" | "pack" }[] = [
  { keys: ["diameter", "pitchRatio", "blades"], own: "propeller" },
  { keys: ["kv", "motorMass"], own: "motor" },
  { keys: ["ratio"] },
  { keys: ["count"] },
  { keys: ["series", "capacity"], own: "pack" },
];

/** Number of combinations of a space; a kind held to one's own parts counts as many as there are. */
export const sizeOf = (space: SearchSpace, own: OwnParts = {}): number =>
  DIMENSIONS.reduce(
    (n, d) =>
      n *
      (d.own && own[d.own] ? (own[d.own]?.length ?? 0) : d.keys.reduce((m, k) => m * Math.max(1, space[k].length), 1)),
    Math.max(1, space.shrouds?.length ?? 1),
  );

/** The drives that a search is about, in the order in which they are named; those that are not there are left out. */
export const drivesIn = (design: Design, unitIds: readonly string[]): Searched[] =>
  unitIds.flatMap((id) => {
    const unit = design.units.find((u) => u.id === id);
    return unit ? [searchedOf(design, unit)] : [];
  });

/** The packs that these drives are on. */
export const packsOf = (design: Design, searched: readonly Searched[]): Battery[] =>
  design.batteries.filter((b) => searched.some((s) => s.unit.batteryId === b.id));

/** How many of each drive a choice fits: of one searched by itself as many as it says, of several as there are. */
export const countOf = ({ unit }: Searched, choice: Choice, alone: boolean): number =>
  alone && !unit.measured ? choice.count : unit.count;

/** Least structure that gets an entry of its own, kg. */
const NOTHING = 1e-6;

/** What a search leaves as it is, and the masses that its choices come on top of. */
function leftOf(design: Design, searched: readonly Searched[]) {
  const before = replaced(design, searched);
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
export function massWith(
  design: Design,
  searched: readonly Searched[],
  share: number,
): (choice: Choice, parts: readonly Parts[]) => number {
  const { rest, structureFor } = leftOf(design, searched);
  const packs = packsOf(design, searched).length;
  return (choice, parts) => {
    const mass = chosenMass(choice, searched, parts, packs);
    return rest + mass + structureFor(mass, share);
  };
}

/** Mass of drives and packs of a choice, kg. */
const chosenMass = (choice: Choice, searched: readonly Searched[], parts: readonly Parts[], packs: number): number =>
  packs * (parts[0]?.pack.mass.value ?? 0) +
  searched.reduce((s, d, k) => {
    const { motor, controller, propeller } = parts[k] ?? {};
    const one = (motor?.mass?.value ?? 0) + (controller?.mass?.value ?? 0) + (propeller?.mass?.value ?? 0);
    return s + countOf(d, choice, searched.length === 1) * one;
  }, 0);

/** Puts one drive of a choice into a design that is changed, with its masses in the ledger. */
function putIn(
  next: Design,
  was: Searched,
  choice: Choice,
  {
    alone,
    weight,
    before,
    filled,
  }: { alone: boolean; weight: number; before: ReadonlySet<string>; filled: Set<string> },
): void {
  const k = next.units.findIndex((u) => u.id === was.unit.id);
  const at = next.batteries.findIndex((b) => b.id === was.unit.batteryId);
  const battery = next.batteries[at];
  if (k < 0 || !battery) return;
  const parts = partsOf(choice, battery.chemistry, was);
  const { propeller, pack } = parts;
  const unit = structuredClone(driveOf(was, choice, parts, alone, weight));
  const fitted = structuredClone(parts.pack.fitted(battery));
  const mine = new Set([...replaced(next, [was])].filter((id) => before.has(id)));
  next.units[k] = unit;
  next.batteries[at] = fitted;
  const count = countOf(was, choice, alone);
  const both = bothOf(parts, magnitudeSd);
  const size = propeller.mass && { y: choice.diameter, z: choice.diameter };
  let rest = both === null;
  for (const item of next.items) {
    if (!mine.has(item.id)) continue;
    item.predicted = null;
    // An entry that two drives share holds the parts of both.
    const so = filled.has(item.id) ? item.quantity : 0;
    filled.add(item.id);
    if (item.id === fitted.itemId) {
      item.quantity = 1;
      item.mass = pack.mass;
    } else if (item.id === unit.propellerItemId) {
      item.quantity = so + count;
      item.mass = propeller.mass;
      item.size = { ...item.size, ...(unit.propulsor ? {} : size) };
    } else if (!rest) {
      // The first motor or controller entry carries both; the others are empty from now on.
      rest = true;
      item.quantity = so + count;
      item.mass = both;
      unit.motorItemId = item.id;
      unit.controllerItemId = null;
    } else item.mass = null;
  }
  next.items = next.items.filter((i) => !(mine.has(i.id) && i.mass === null));
  const add = (id: string, name: string, mass: Known, quantity = 1) => addPart(next, id, name, mass, quantity);
  if (!rest && both) unit.motorItemId = add("searched-motor", "Motor and controller", both, count);
  const listed = (id: string | null) => next.items.some((i) => i.id === id);
  if (!listed(fitted.itemId)) fitted.itemId = add("searched-pack", "Pack", pack.mass);
  if (propeller.mass && !listed(unit.propellerItemId))
    unit.propellerItemId = add("searched-propeller", "Propeller", propeller.mass, count);
}

/** A part that a search brings, at the CG until somebody places it; its id. */
function addPart(next: Design, id: string, name: string, mass: Known, quantity: number): string {
  const free = freeId(next.items, id);
  next.items.push(
    newItem({
      id: free,
      name,
      group: DRIVE_GROUP,
      quantity,
      mass,
      place: { ...(rollUp(next)?.cg ?? { x: 0, y: 0, z: 0 }) },
      unplaced: [...AXES],
      unsized: true,
      size: { x: 0.03, y: 0.03, z: 0.03 },
    }),
  );
  return free;
}

/**
 * The design with a candidate's drives in it: motor, controller, propulsor and pack with their masses in the ledger,
 * and the structure that grows with them as an entry of its own.
 * What was there before keeps its place; a second motor or controller entry is emptied into the first.
 */
export function withChoice(design: Design, unitIds: readonly string[], choice: Choice, structure: number): Design {
  const searched = drivesIn(design, unitIds);
  const packs = packsOf(design, searched);
  const [first] = packs;
  const next = structuredClone(design);
  if (!first) return next;
  const { before, structureFor } = leftOf(design, searched);
  const parts = searched.map((s) => partsOf(choice, first.chemistry, s));
  const heavy = massWith(design, searched, structure)(choice, parts);
  const weight = heavy / (rollUp(design)?.mass ?? heavy);
  const filled = new Set<string>();
  for (const was of searched) putIn(next, was, choice, { alone: searched.length === 1, weight, before, filled });
  const grown = structureFor(chosenMass(choice, searched, parts, packs.length), structure);
  next.items = next.items.filter((i) => i.id !== STRUCTURE_ID);
  if (grown > 0) {
    addPart(next, STRUCTURE_ID, "Structure that grows with it", { value: grown, evidence: "guess" }, 1);
  }
  return next;
}

/** Every choice of a space; kinds held to one's own parts go through those instead. */
export function* choices(space: SearchSpace, own: OwnParts = {}): Generator<Choice> {
  const grid = (keys: readonly SearchKey[]): Partial<Choice>[] =>
    keys.reduce<Partial<Choice>[]>(
      (made, key) => made.flatMap((m) => space[key].map((value) => ({ ...m, [key]: value }))),
      [{}],
    );
  const lists: Partial<Choice>[][] = [
    space.shrouds?.map((shroud) => (shroud === "open" ? {} : { shroud })) ?? [{}],
    ...DIMENSIONS.map((d) =>
      d.own && own[d.own]
        ? (own[d.own] ?? []).map((part) => ({ ...numbersOf(part), own: { [part.kind]: part } }))
        : grid(d.keys),
    ),
  ];
  function* from(k: number, choice: Partial<Choice>): Generator<Choice> {
    const list = lists[k];
    if (list)
      for (const c of list)
        yield* from(k + 1, { ...choice, ...c, ...(choice.own || c.own ? { own: { ...choice.own, ...c.own } } : {}) });
    else yield withController(choice as Choice, own.controller);
  }
  yield* from(0, {});
}

/** Mass of one motor of a drive as the ledger has it, or as a usual one is, kg. */
const USUAL_MOTOR = 0.08;
function motorOfDrive(design: Design, unit: Unit): number {
  const entry = entryOf(design, unit, "motor");
  const item = design.items.find((i) => i.id === entry) ?? design.items.find((i) => i.role === "motor");
  return item?.mass?.value ?? USUAL_MOTOR;
}

/**
 * A space around the drives that a design has: sizes from half to a half more, coarse enough for some thousand tries.
 */
export function spaceAround(design: Design, unitIds: readonly string[]): SearchSpace | null {
  const [unit] = drivesIn(design, unitIds).map((s) => s.unit);
  const battery = design.batteries.find((b) => b.id === unit?.batteryId);
  if (!unit || !battery) return null;
  const box = extent(design);
  const largest = box ? Math.max(box.max.y - box.min.y, box.max.z - box.min.z, 0.05) * 1.2 : 1;
  const spread = (value: number, factors: number[], digits: number) => [
    ...new Set(factors.map((f) => Number((value * f).toPrecision(digits)))),
  ];
  const pack = {
    series: [...new Set([battery.series - 1, battery.series, battery.series + 1].filter((s) => s >= 1))],
    capacity: spread(battery.capacity.value, [0.5, 0.7, 1, 1.4, 2], 2),
  };
  const shaped = shapedOf(unit);
  const asItIs = {
    kv: [unit.motor.kv.value],
    motorMass: [motorOfDrive(design, unit)],
    ratio: [unit.gear.ratio],
    count: [unit.count],
  };
  // What is known by its curve alone is what it is: only its pack is another.
  if (!shaped) return { diameter: [1], pitchRatio: [1], blades: [1], ...asItIs, ...pack };
  const { size, ratio, blades } = shaped;
  return {
    diameter: spread(size.value, [0.8, 0.9, 1, 1.1, 1.2], 3).filter((d) => d <= Math.max(largest, size.value)),
    pitchRatio: !ratio ? [1] : unit.propulsor ? spread(ratio.value, [0.8, 1, 1.2], 3) : [0.45, 0.6, 0.75],
    blades: [blades ?? 1],
    ...asItIs,
    kv: spread(unit.motor.kv.value, [0.65, 0.8, 1, 1.25], 2),
    motorMass: spread(motorOfDrive(design, unit), [0.6, 1, 1.5], 2),
    ...pack,
  };
}
