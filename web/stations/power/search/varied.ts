import { BOUNDS } from "../../../../core/design/bounds";
import type { Battery, Design, Unit } from "../../../../core/design/schema";
import type { Dimension } from "../../../../core/design/units";
import { shapedOf } from "../../../../core/sizing/otherSize";
import { askedOf } from "../../../../core/sizing/searchLedger";
import type { DriveKey, OwnParts, PackKey } from "../../../../core/sizing/searchParts";

/**
 * What is varied, in words, and least and most of it: a craft's own bounds, narrower where a search has no use for
 * more.
 */
export type Varied<K> = [key: K, label: string, dimension: Dimension, accepted: readonly [number, number]];
const MOST_BLADES = 16;
const MOST_LIKE = 24;

export const PACK_VARIED: Varied<PackKey>[] = [
  ["series", "Cells in series", "count", [1, MOST_LIKE]],
  ["capacity", "Capacity", "capacity", [BOUNDS.capacity[0], BOUNDS.capacity[1]]],
];
const MOTOR: Varied<DriveKey>[] = [
  ["kv", "Kv", "kv", [BOUNDS.kv[0], BOUNDS.kv[1]]],
  ["motorMass", "Motor mass", "mass", [BOUNDS.mass[0], BOUNDS.mass[1]]],
  ["ratio", "Reduction", "ratio", [1e-3, 1e3]],
];

/** What of drives that get the same parts is varied, in the words of their kind: several keep their numbers. */
export function variedOf(units: readonly Unit[]): Varied<DriveKey>[] {
  const [unit] = units;
  const shaped = unit ? shapedOf(unit) : null;
  if (!shaped) return [];
  return [
    ["diameter", shaped.size.label, "length", [1e-3, BOUNDS.length[1]]],
    ...(shaped.ratio ? [["pitchRatio", shaped.ratio.label, "ratio", [0.05, 6]] as Varied<DriveKey>] : []),
    ...(shaped.blades === null ? [] : [["blades", "Blades", "count", [1, MOST_BLADES]] as Varied<DriveKey>]),
    ...MOTOR,
    ...(units.length === 1 ? [["count", "Identical drives", "count", [1, MOST_LIKE]] as Varied<DriveKey>] : []),
  ];
}

/** What a search is about: sets of drives that get the same parts, and sets of packs that do. */
export interface Sets {
  drives: Unit[][];
  packs: Battery[][];
}
export function setsOn(design: Design, ids: readonly (readonly string[])[]): Sets {
  const { packs } = askedOf(design, ids);
  return { packs, drives: ids.map((set) => design.units.filter((u) => set.includes(u.id))) };
}
/** Names in a row: "a, b and c". */
export const namesOf = (list: readonly { name: string }[]): string =>
  list
    .map((x) => x.name)
    .reduce((said, name, k) => (k === 0 ? name : `${said}${k === list.length - 1 ? " and" : ","} ${name}`), "");

/** Kinds of one's own parts that a search can be held to, and what of the space they settle. */
export const OWN_KINDS: [kind: keyof OwnParts, title: string, settles: (DriveKey | PackKey)[]][] = [
  ["motor", "motors", ["kv", "motorMass"]],
  ["controller", "controllers", []],
  ["propeller", "propellers", ["diameter", "pitchRatio", "blades"]],
  ["pack", "packs", ["series", "capacity"]],
];

/** Those that any of these drives can take. */
export const ownKindsOf = (units: readonly Unit[]): typeof OWN_KINDS =>
  OWN_KINDS.filter(
    ([kind]) => kind === "pack" || units.some((u) => !u.measured && (kind !== "propeller" || !u.propulsor)),
  );
