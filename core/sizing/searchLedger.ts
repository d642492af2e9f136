import { magnitudeSd, type Known } from "../design/evidence";
import { freeId } from "../design/ids";
import { AXES, type Battery, type Design, newItem } from "../design/schema";
import { rollUp } from "../subjects/mass/rollup";
import {
  type Choice,
  type DriveChoice,
  type DriveParts,
  type PackChoice,
  type PackParts,
  type Searched,
  bothOf,
  driveOf,
  driveParts,
  packParts,
  replaced,
  searchedOf,
} from "./searchParts";

const DRIVE_GROUP = "Drive, searched";
const STRUCTURE_ID = "searched-structure";

/** What a search is about: its drives with what each gets, and its packs; those that serve the same sets are alike. */
export interface Asked {
  searched: Searched[];
  packs: Battery[][];
}
/** Of sets of drives, those that are not there left out. */
export function askedOf(design: Design, sets: readonly (readonly string[])[]): Asked {
  const units = sets.map((ids) => ids.flatMap((id) => design.units.find((u) => u.id === id) ?? []));
  const served = (b: Battery) => units.flatMap((set, k) => (set.some((u) => u.batteryId === b.id) ? k : [])).join();
  const used = design.batteries.filter((b) => served(b) !== "");
  const packs = [...new Set(used.map(served))].map((by) => used.filter((b) => served(b) === by));
  return {
    packs,
    searched: units.flatMap((set, k) =>
      set.map((unit) =>
        searchedOf(design, unit, {
          set: k,
          pack: packs.findIndex((p) => p.some((b) => b.id === unit.batteryId)),
          alone: set.length === 1,
        }),
      ),
    ),
  };
}

/** How many of a drive a choice fits: of one searched by itself as many as it says, of several as there are. */
export const countOf = ({ unit, alone }: Searched, choice: DriveChoice): number =>
  alone && !unit.measured ? choice.count : unit.count;

/** The parts of a choice: of each drive that is asked, and of each set of packs. */
export interface Parts {
  drives: DriveParts[];
  packs: PackParts[];
}
export const partsOf = (choice: Choice, { searched, packs }: Asked): Parts => ({
  drives: searched.map((s) => driveParts(drivesOf(choice, s), choice.packs[s.pack]?.series ?? 1, s)),
  packs: packs.map((group, k) => packParts(choice.packs[k] as PackChoice, group[0]?.chemistry ?? "lipo")),
});
/** What a drive gets of a choice. */
export const drivesOf = (choice: Choice, { set }: Searched): DriveChoice => choice.drives[set] as DriveChoice;

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
export function massWith(design: Design, asked: Asked, share: number): (choice: Choice, parts: Parts) => number {
  const { rest, structureFor } = leftOf(design, asked.searched);
  return (choice, parts) => {
    const mass = chosenMass(choice, asked, parts);
    return rest + mass + structureFor(mass, share);
  };
}

/** Mass of drives and packs of a choice, kg. */
function chosenMass(choice: Choice, { searched, packs }: Asked, parts: Parts): number {
  let mass = 0;
  for (const [k, group] of packs.entries()) mass += group.length * (parts.packs[k]?.mass.value ?? 0);
  for (const [k, d] of searched.entries()) {
    const { motor, controller, propeller } = parts.drives[k] ?? {};
    const one = (motor?.mass?.value ?? 0) + (controller?.mass?.value ?? 0) + (propeller?.mass?.value ?? 0);
    mass += countOf(d, drivesOf(choice, d)) * one;
  }
  return mass;
}

/** Entries that stood for the drives before, and which of them, or of new ones, which drives or packs have filled. */
interface Filling {
  before: ReadonlySet<string>;
  filled: Map<string, string>;
}

/** Puts one drive of a choice into a design that is changed, with its masses in the ledger. */
function putDrive(
  next: Design,
  was: Searched,
  choice: DriveChoice,
  parts: DriveParts,
  weight: number,
  { before, filled }: Filling,
): void {
  const k = next.units.findIndex((u) => u.id === was.unit.id);
  const { propeller } = parts;
  const unit = structuredClone(driveOf(was, choice, parts, weight));
  const mine = new Set([...replaced(next, [was])].filter((id) => before.has(id)));
  const packs = new Set(next.batteries.map((b) => b.itemId));
  const me = `drives ${was.set}`;
  next.units[k] = unit;
  const count = countOf(was, choice);
  const both = bothOf(parts, magnitudeSd);
  const size = propeller.mass && { y: choice.diameter, z: choice.diameter };
  let rest = both === null;
  for (const item of next.items) {
    if (!mine.has(item.id) || packs.has(item.id)) continue;
    const by = filled.get(item.id);
    // An entry that other drives filled with other parts is theirs.
    if (by !== undefined && by !== me) continue;
    item.predicted = null;
    // An entry that two like drives share holds the parts of both.
    const so = by === undefined ? 0 : item.quantity;
    filled.set(item.id, me);
    if (item.id === unit.propellerItemId) {
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
  next.items = next.items.filter((i) => !(filled.get(i.id) === me && mine.has(i.id) && i.mass === null));
  const add = (id: string, name: string, mass: Known) => {
    const added = addPart(next, id, name, mass, count);
    filled.set(added, me);
    return added;
  };
  if (!rest && both) unit.motorItemId = add("searched-motor", "Motor and controller", both);
  const own = unit.propellerItemId;
  if (propeller.mass && (own === null || filled.get(own) !== me))
    unit.propellerItemId = add("searched-propeller", "Propeller", propeller.mass);
}

/** Puts the pack of a choice in place of one, with its mass in the ledger. */
function putPack(next: Design, was: Battery, parts: PackParts, me: string, filled: Filling["filled"]): void {
  const fitted = structuredClone(parts.fitted(was));
  const item = next.items.find((i) => i.id === was.itemId);
  const by = item && filled.get(item.id);
  if (item && (by === undefined || by === me)) {
    item.predicted = null;
    item.quantity = by === undefined ? 1 : item.quantity + 1;
    item.mass = parts.mass;
    filled.set(item.id, me);
  } else fitted.itemId = addPart(next, "searched-pack", "Pack", parts.mass, 1);
  next.batteries[next.batteries.findIndex((b) => b.id === was.id)] = fitted;
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
 *
 * @param sets the drives that the choice is for, each set with those that get the same parts
 */
export function withChoice(
  design: Design,
  sets: readonly (readonly string[])[],
  choice: Choice,
  structure: number,
): Design {
  const asked = askedOf(design, sets);
  const next = structuredClone(design);
  if (asked.packs.length === 0) return next;
  const { before, structureFor } = leftOf(design, asked.searched);
  const parts = partsOf(choice, asked);
  const heavy = massWith(design, asked, structure)(choice, parts);
  const weight = heavy / (rollUp(design)?.mass ?? heavy);
  const filling: Filling = { before, filled: new Map() };
  for (const [k, was] of asked.searched.entries())
    putDrive(next, was, drivesOf(choice, was), parts.drives[k] as DriveParts, weight, filling);
  for (const [k, group] of asked.packs.entries())
    for (const was of group) putPack(next, was, parts.packs[k] as PackParts, `packs ${k}`, filling.filled);
  const grown = structureFor(chosenMass(choice, asked, parts), structure);
  next.items = next.items.filter((i) => i.id !== STRUCTURE_ID);
  if (grown > 0) {
    addPart(next, STRUCTURE_ID, "Structure that grows with it", { value: grown, evidence: "guess" }, 1);
  }
  return next;
}
