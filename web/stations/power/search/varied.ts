import type { Unit } from "../../../../core/design/schema";
import type { Dimension } from "../../../../core/design/units";
import { shapedOf } from "../../../../core/sizing/otherSize";
import type { OwnParts, SearchKey } from "../../../../core/sizing/searchParts";

export type Varied = [key: SearchKey, label: string, dimension: Dimension];

const PACK: Varied[] = [
  ["series", "Cells in series", "count"],
  ["capacity", "Capacity", "capacity"],
];
const MOTOR: Varied[] = [
  ["kv", "Kv", "kv"],
  ["motorMass", "Motor mass", "mass"],
  ["ratio", "Reduction", "ratio"],
];

/** What of these drives a search varies, in the words of their kind: several keep their numbers. */
export function variedOf(units: readonly Unit[]): Varied[] {
  const [unit] = units;
  const shaped = unit ? shapedOf(unit) : null;
  if (!shaped) return PACK;
  return [
    ["diameter", shaped.size.label, "length"],
    ...(shaped.ratio ? [["pitchRatio", shaped.ratio.label, "ratio"] as Varied] : []),
    ...(shaped.blades === null ? [] : [["blades", "Blades", "count"] as Varied]),
    ...MOTOR,
    ...PACK,
    ...(units.length === 1 ? [["count", "Identical drives", "count"] as Varied] : []),
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
