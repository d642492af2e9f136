import type { Design } from "../design/schema";
import type { Dimension } from "../design/units";

/** What part of the craft a change touches: faults and checklists read it. */
export const CHANGE_KINDS = ["part", "mass", "place", "propeller", "motor", "controller", "gear", "pack", "thrust line", "duty", "brief", "set-up", "other"] as const;
export type ChangeKind = (typeof CHANGE_KINDS)[number];

export type Leaf = string | number | boolean | null;

export interface Change {
  change: "added" | "removed" | "changed";
  kind: ChangeKind;
  /** Where in the design: keys, `#id` for elements of lists. */
  path: string[];
  /** Name of the part, drive, pack or target that the change is in. */
  subject: string;
  /** Words for the field; empty when a whole entry was added or removed. */
  field: string;
  dimension: Dimension | null;
  from: Leaf;
  to: Leaf;
}

/** Shown name, dimension and kind of a field, by the end of its path. The longest match counts. */
const FIELDS: [suffix: string, label: string, dimension: Dimension | null, kind: ChangeKind | null][] = [
  ["mass/value", "mass each", "mass", "mass"],
  ["mass/evidence", "mass known by", null, "mass"],
  ["mass/sd", "mass ±", "mass", "mass"],
  ["mass", "mass", "mass", "mass"],
  ["planned", "planned mass each", "mass", "mass"],
  ["predicted/value", "predicted mass each", "mass", "mass"],
  ["predicted/sd", "predicted mass ±", "mass", "mass"],
  ["predicted/evidence", "prediction known by", null, "mass"],
  ["makeMinutes", "minutes to make", null, "part"],
  ["parentId", "sits on", null, "place"],
  ["slideY/from", "slide y from", "length", "part"],
  ["slideY/to", "slide y to", "length", "part"],
  ["slideZ/from", "slide z from", "length", "part"],
  ["slideZ/to", "slide z to", "length", "part"],
  ["most", "ballast at most", "mass", "mass"],
  ["walkBack/stop", "walk-back stop line", "length", "brief"],
  ["quantity", "quantity", "count", "mass"],
  ["place/x", "x", "length", "place"],
  ["place/y", "y", "length", "place"],
  ["place/z", "z", "length", "place"],
  ["size/x", "length", "length", "part"],
  ["size/y", "width", "length", "part"],
  ["size/z", "height", "length", "part"],
  ["slide/from", "slide from", "length", "part"],
  ["slide/to", "slide to", "length", "part"],
  ["cost", "price", "money", "part"],
  ["kv/value", "Kv", "kv", "motor"],
  ["motor/resistance/value", "winding resistance", "resistance", "motor"],
  ["noLoadCurrent/value", "no-load current", "current", "motor"],
  ["motor/maxCurrent", "motor rating", "current", "motor"],
  ["controller/resistance/value", "controller resistance", "resistance", "controller"],
  ["controller/maxCurrent", "controller rating", "current", "controller"],
  ["controller/maxCells", "controller cells", "count", "controller"],
  ["gear/ratio", "gear ratio", "ratio", "gear"],
  ["gear/efficiency/value", "gear efficiency", "percent", "gear"],
  ["diameter/value", "propeller diameter", "length", "propeller"],
  ["pitch/value", "propeller pitch", "length", "propeller"],
  ["blades", "blades", "count", "propeller"],
  ["chord/value", "widest chord", "length", "propeller"],
  ["tilt", "thrust tilt", "angle", "thrust line"],
  ["direction", "direction", null, "thrust line"],
  ["throttleLimit", "throttle limit", "percent", "set-up"],
  ["capacity/value", "capacity", "capacity", "pack"],
  ["cellResistance/value", "cell resistance", "resistance", "pack"],
  ["series", "cells in series", "count", "pack"],
  ["startCharge", "charge at start", "percent", "pack"],
  ["usable", "usable share", "percent", "pack"],
  ["otherLoad", "other load", "power", "pack"],
  ["airTemperature", "air temperature", "temperature", "brief"],
  ["packTemperature", "pack temperature", "temperature", "brief"],
  ["altitude", "altitude", "distance", "brief"],
  ["wind", "wind", "speed", "brief"],
];

const KIND_OF_LIST: Record<string, ChangeKind> = {
  items: "part",
  batteries: "pack",
  units: "motor",
  duty: "duty",
  brief: "brief",
  setup: "set-up",
  schools: "brief",
  ballastSpots: "brief",
  envelope: "brief",
  outlines: "other",
  walkBack: "brief",
};

type Leaves = Map<string, Leaf>;

function flatten(value: unknown, path: string[], into: Leaves): Leaves {
  if (Array.isArray(value)) {
    for (const [i, element] of value.entries()) {
      const id = typeof element === "object" && element !== null && "id" in element ? `#${String(element.id)}` : String(i);
      flatten(element, [...path, id], into);
    }
  } else if (typeof value === "object" && value !== null) {
    for (const [key, inner] of Object.entries(value)) flatten(inner, [...path, key], into);
  } else into.set(path.join("/"), (value ?? null) as Leaf);
  return into;
}

function entryName(design: Design, path: string[]): string {
  const id = path.find((p) => p.startsWith("#"))?.slice(1);
  if (!id) return path[0] === "brief" ? "Brief" : (path[0] ?? "");
  const all: { id: string; name?: string; metric?: string }[] = [
    ...design.items,
    ...design.batteries,
    ...design.units,
    ...design.duty,
    ...design.setup,
    ...design.brief.targets,
    ...design.ballastSpots,
    ...design.outlines,
  ];
  const found = all.find((e) => e.id === id);
  return found?.name ?? (found?.metric ? `target ${found.metric}` : id);
}

/** The path of the list entry that a leaf is in: up to and including its `#id`. */
const entryOf = (key: string): string | null => /^(.*?#[^/]+)/.exec(key)?.[1] ?? null;

/**
 * All differences from one design to another: entries added and removed as wholes, and every changed field of the entries that both have.
 * Entries are told apart by id, so that a renamed part is a change and not a removal.
 */
export function difference(from: Design, to: Design): Change[] {
  const a = flatten(from, [], new Map());
  const b = flatten(to, [], new Map());
  const entries = (leaves: Leaves) => new Set([...leaves.keys()].flatMap((k) => entryOf(k) ?? []));
  const inA = entries(a);
  const inB = entries(b);
  const out: Change[] = [];
  const whole = (change: "added" | "removed", entry: string, design: Design) => {
    const path = entry.split("/");
    out.push({ change, kind: KIND_OF_LIST[path[0] ?? ""] ?? "other", path, subject: entryName(design, path), field: "", dimension: null, from: null, to: null });
  };
  for (const entry of inA) if (!inB.has(entry)) whole("removed", entry, from);
  for (const entry of inB) if (!inA.has(entry)) whole("added", entry, to);
  for (const key of new Set([...a.keys(), ...b.keys()])) {
    const entry = entryOf(key);
    if (entry !== null && !(inA.has(entry) && inB.has(entry))) continue;
    const before = a.get(key) ?? null;
    const after = b.get(key) ?? null;
    if (before === after || key.endsWith("/id")) continue;
    const path = key.split("/");
    const known = FIELDS.filter(([suffix]) => key.endsWith(`/${suffix}`)).sort((p, q) => q[0].length - p[0].length)[0];
    const tail = path.slice(path.findLastIndex((p) => p.startsWith("#")) + 1).join(" ");
    out.push({
      change: "changed",
      kind: known?.[3] ?? KIND_OF_LIST[path[0] ?? ""] ?? "other",
      path,
      subject: entryName(to, path),
      field: known?.[1] ?? tail.replace(/([A-Z])/g, " $1").toLowerCase(),
      dimension: known?.[2] ?? null,
      from: before,
      to: after,
    });
  }
  return out;
}

/** What kinds of thing a list of changes touches. */
export const kindsOf = (changes: readonly Change[]): Set<ChangeKind> => new Set(changes.map((c) => c.kind));
