import { BOUNDS } from "../design/bounds";
import type { Battery, Design, Unit } from "../design/schema";
import { extent } from "../subjects/mass/rollup";
import { motorMassFor } from "../catalogue/catalogue";
import { openCircuit } from "../subjects/energy/battery";
import { alike, shapedOf } from "./otherSize";
import { askedOf } from "./searchLedger";
import {
  type Choice,
  type DriveChoice,
  type DriveKey,
  type OwnParts,
  type PackChoice,
  type PackKey,
  type Shroud,
  PACK_KEYS,
  motorEntryOf,
  motorNumbers,
  propellerNumbers,
  withController,
} from "./searchParts";

/** The values to try of each. A list of one holds it fixed. */
export type DriveSpace = Record<DriveKey, number[]> & { shrouds?: Shroud[] };
export type PackSpace = Record<PackKey, number[]>;

/** Drives that get the same parts, and what of them may vary. */
export interface DriveSet {
  unitIds: readonly string[];
  space: DriveSpace;
}
/** What a search may vary: of each set of drives, and of each set of packs as `askedOf` has them. */
export interface SearchSpace {
  sets: readonly DriveSet[];
  packs: readonly PackSpace[];
}

/** What varies together of a drive, the propeller outermost, so that its precomputed map is used while it is fresh. */
const DIMENSIONS: DriveKey[][] = [["diameter", "pitchRatio", "blades"], ["kv", "motorMass"], ["ratio"], ["count"]];

const product = (numbers: readonly number[]) => numbers.reduce((n, m) => n * m, 1);
const grid = <K extends string>(keys: readonly K[], space: Record<K, number[]>): Record<K, number>[] =>
  keys.reduce<Partial<Record<K, number>>[]>(
    (made, key) => made.flatMap((m) => space[key].map((value) => ({ ...m, [key]: value }))),
    [{}],
  ) as Record<K, number>[];

/** What a kind of one's own parts tells of the dimension that it stands for; null: that is not held to them. */
function ownDrives(keys: readonly DriveKey[], own: OwnParts): Partial<DriveChoice>[] | null {
  if (keys.includes("kv") && own.motor) return own.motor.map((motor) => ({ ...motorNumbers(motor), own: { motor } }));
  if (keys.includes("diameter") && own.propeller)
    return own.propeller.map((propeller) => ({ ...propellerNumbers(propeller), own: { propeller } }));
  return null;
}

/**
 * Which of one's own parts a drive can take: of one known by its curve nothing, propellers where one is on its shaft.
 */
const ownOf = (own: OwnParts, unit: Unit | undefined): OwnParts =>
  !unit || unit.measured ? {} : unit.propulsor ? { ...own, propeller: undefined } : own;

/** Number of combinations of a space; a kind held to one's own parts counts as many as there are. */
export function sizeOf(design: Design, { sets, packs }: SearchSpace, own: OwnParts = {}): number {
  const drives = sets.map(({ unitIds, space }) => {
    const mine = ownOf(
      own,
      design.units.find((u) => u.id === unitIds[0]),
    );
    return (
      Math.max(1, space.shrouds?.length ?? 1) *
      product(
        DIMENSIONS.map(
          (keys) => ownDrives(keys, mine)?.length ?? product(keys.map((k) => Math.max(1, space[k].length))),
        ),
      )
    );
  });
  const each = packs.map((p) => own.pack?.length ?? product(PACK_KEYS.map((k) => Math.max(1, p[k].length))));
  return product([...drives, ...each]);
}

/** Every choice of one set of drives. */
function driveChoices({ space }: DriveSet, own: OwnParts): DriveChoice[] {
  const lists: Partial<DriveChoice>[][] = [
    space.shrouds?.map((shroud) => (shroud === "open" ? {} : { shroud })) ?? [{}],
    ...DIMENSIONS.map((keys) => ownDrives(keys, own) ?? grid(keys, space)),
  ];
  return lists.reduce<Partial<DriveChoice>[]>(
    (made, list) =>
      made.flatMap((m) =>
        list.map((c) => ({ ...m, ...c, ...(m.own || c.own ? { own: { ...m.own, ...c.own } } : {}) })),
      ),
    [{}],
  ) as DriveChoice[];
}

/** Every choice of a space; kinds held to one's own parts go through those instead. */
export function* choices(design: Design, { sets, packs }: SearchSpace, own: OwnParts = {}): Generator<Choice> {
  const { searched } = askedOf(
    design,
    sets.map((s) => s.unitIds),
  );
  const first = sets.map((_, k) => searched.find((s) => s.set === k));
  const lists = sets.map((s, k) => driveChoices(s, ownOf(own, first[k]?.unit)));
  const fitted = packs.map((space) =>
    own.pack
      ? own.pack.map((p): PackChoice => ({ series: p.series, capacity: p.capacity.value, own: p }))
      : grid(PACK_KEYS, space),
  );
  const controllers = first.map((s) => (s && !s.unit.measured ? own.controller : undefined));
  const driven = (drives: readonly DriveChoice[], on: readonly PackChoice[]): Choice => ({
    drives: drives.map((d, k) => withController(d, on[first[k]?.pack ?? 0]?.series ?? 1, controllers[k])),
    packs: on,
  });
  function* packed(drives: readonly DriveChoice[], on: readonly PackChoice[]): Generator<Choice> {
    const list = fitted[on.length];
    if (list) for (const p of list) yield* packed(drives, [...on, p]);
    else yield driven(drives, on);
  }
  function* from(drives: readonly DriveChoice[]): Generator<Choice> {
    const list = lists[drives.length];
    if (list) for (const d of list) yield* from([...drives, d]);
    else yield* packed(drives, []);
  }
  yield* from([]);
}

/** Mass of one motor of a drive as the ledger has it, or as one of its rating commonly is on its pack, kg. */
function motorOfDrive(design: Design, unit: Unit, battery: Battery | undefined): number {
  const entry = motorEntryOf(design, unit);
  const listed = design.items.find((i) => i.id === entry)?.mass?.value;
  const volts = battery ? battery.series * openCircuit(battery.chemistry, 0.5) : 0;
  return listed ?? Math.max(BOUNDS.mass[0], Number(motorMassFor(unit.motor.maxCurrent * volts).toPrecision(2)));
}

/** Shares of what there is that are tried (judgement); of several sets fewer of each, as all are tried with all. */
const SPREAD = {
  one: { size: [0.8, 0.9, 1, 1.1, 1.2], ratio: [0.8, 1, 1.2], kv: [0.65, 0.8, 1, 1.25], motor: [0.6, 1, 1.5] },
  several: { size: [0.85, 1, 1.15], ratio: [1], kv: [0.8, 1, 1.25], motor: [1] },
  capacity: { one: [0.5, 0.7, 1, 1.4, 2], several: [0.7, 1, 1.4] },
};
const spread = (value: number, factors: readonly number[], digits: number) => [
  ...new Set(factors.map((f) => Number((value * f).toPrecision(digits)))),
];

function spaceOf(
  design: Design,
  unit: Unit,
  battery: Battery | undefined,
  shares: (typeof SPREAD)["one"],
  several: boolean,
): DriveSpace {
  const box = extent(design);
  const largest = box ? Math.max(box.max.y - box.min.y, box.max.z - box.min.z, 0.05) * 1.2 : 1;
  const shaped = shapedOf(unit);
  const asItIs = {
    kv: [unit.motor.kv.value],
    motorMass: [motorOfDrive(design, unit, battery)],
    ratio: [unit.gear.ratio],
    count: [unit.count],
  };
  // What is known by its curve alone is what it is: only its pack is another.
  if (!shaped) return { diameter: [1], pitchRatio: [1], blades: [1], ...asItIs };
  const { size, ratio, blades } = shaped;
  const steepness = () =>
    unit.propulsor || several ? spread((ratio as { value: number }).value, shares.ratio, 3) : [0.45, 0.6, 0.75];
  return {
    diameter: spread(size.value, shares.size, 3).filter((d) => d <= Math.max(largest, size.value)),
    pitchRatio: ratio ? steepness() : [1],
    blades: [blades ?? 1],
    ...asItIs,
    kv: spread(unit.motor.kv.value, shares.kv, 2),
    motorMass: spread(motorOfDrive(design, unit, battery), shares.motor, 2),
  };
}

/**
 * Drives as sets that get the same parts: like ones together, others by themselves.
 *
 * @param apart each drive by itself
 */
export function setsOf(design: Design, unitIds: readonly string[], apart = false): string[][] {
  const sets: Unit[][] = [];
  for (const unit of design.units.filter((u) => unitIds.includes(u.id))) {
    const set = sets.find(([first]) => !apart && first && alike(first, unit));
    if (set) set.push(unit);
    else sets.push([unit]);
  }
  return sets.map((set) => set.map((u) => u.id));
}

/**
 * A space around the drives that a design has: sizes from half to a half more, coarse enough for some thousand tries.
 * Null where none of them is on a pack.
 */
export function spaceAround(design: Design, sets: readonly (readonly string[])[]): SearchSpace | null {
  const { searched, packs } = askedOf(design, sets);
  if (searched.length === 0 || searched.some((s) => s.pack < 0)) return null;
  const several = sets.length > 1;
  return {
    sets: sets.flatMap((unitIds, k) => {
      const unit = searched.find((s) => s.set === k)?.unit;
      const battery = design.batteries.find((b) => b.id === unit?.batteryId);
      return unit
        ? { unitIds, space: spaceOf(design, unit, battery, several ? SPREAD.several : SPREAD.one, several) }
        : [];
    }),
    packs: packs.flatMap(([battery]) => {
      if (!battery) return [];
      const { series, capacity } = battery;
      const cells = packs.length > 1 ? [series] : [series - 1, series, series + 1];
      return {
        series: [...new Set(cells.filter((s) => s >= 1))],
        capacity: spread(capacity.value, several ? SPREAD.capacity.several : SPREAD.capacity.one, 2),
      };
    }),
  };
}
