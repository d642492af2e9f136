import { BOUNDS } from "../../../../core/design/bounds";
import type { Unit } from "../../../../core/design/schema";
import type { Dimension } from "../../../../core/design/units";
import { shapedOf } from "../../../../core/sizing/otherSize";
import type { OwnParts, SearchKey } from "../../../../core/sizing/searchParts";

/**
 * What is varied, in words, and least and most of it: a craft's own bounds, narrower where a search has no use for
 * more.
 */
export type Varied = [key: SearchKey, label: string, dimension: Dimension, accepted: readonly [number, number]];
const MOST_BLADES = 16;
const MOST_LIKE = 24;

const PACK: Varied[] = [
  ["series", "Cells in series", "count", [1, MOST_LIKE]],
  ["capacity", "Capacity", "capacity", [BOUNDS.capacity[0], BOUNDS.capacity[1]]],
];
const MOTOR: Varied[] = [
  ["kv", "Kv", "kv", [BOUNDS.kv[0], BOUNDS.kv[1]]],
  ["motorMass", "Motor mass", "mass", [BOUNDS.mass[0], BOUNDS.mass[1]]],
  ["ratio", "Reduction", "ratio", [1e-3, 1e3]],
];

/** What of these drives a search varies, in the words of their kind: several keep their numbers. */
export function variedOf(units: readonly Unit[]): Varied[] {
  const [unit] = units;
  const shaped = unit ? shapedOf(unit) : null;
  if (!shaped) return PACK;
  return [
    ["diameter", shaped.size.label, "length", [1e-3, BOUNDS.length[1]]],
    ...(shaped.ratio ? [["pitchRatio", shaped.ratio.label, "ratio", [0.05, 6]] as Varied] : []),
    ...(shaped.blades === null ? [] : [["blades", "Blades", "count", [1, MOST_BLADES]] as Varied]),
    ...MOTOR,
    ...PACK,
    ...(units.length === 1 ? [["count", "Identical drives", "count", [1, MOST_LIKE]] as Varied] : []),
  ];
}

/** Kinds of one's own parts that a search can be held to, and what of the space they settle. */
export const OWN_KINDS: [kind: keyof OwnParts, title: string, settles: SearchKey[]][] = [
  ["motor", "motors", ["kv", "motorMass"]],
  ["controller", "controllers", []],
  ["propeller", "propellers", ["diameter", "pitchRatio", "blades"]],
  ["pack", "packs", ["series", "capacity"]],
];

/** Those that these drives can take. */
export function ownKindsOf(unit: Unit | undefined): typeof OWN_KINDS {
  if (unit?.measured) return OWN_KINDS.filter(([kind]) => kind === "pack");
  return unit?.propulsor ? OWN_KINDS.filter(([kind]) => kind !== "propeller") : OWN_KINDS;
}
