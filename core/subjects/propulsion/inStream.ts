import type { Design, Item, Point } from "../../design/schema";
import { dot, minus, scaled } from "../../numeric/vector";
import { isPlaced } from "../mass/placed";
import { bodies as halvesOf } from "../mass/rollup";
import { discOf } from "./around/models";
import { type PlacedUnit, placedUnits } from "./placed";

/** Parts of the mass list that stand before or behind a disc, where its stream goes. */
export interface InStream {
  side: "behind" | "before";
  /** share of the disc, hub left out, that they cover */
  share: number;
  /** m from the disc to the nearest of them */
  gap: number;
  names: string[];
}

/** Share of the radius around the axis where blades hardly push: what stands there is the motor (judgement). */
const HUB = 0.3;
/** How far before and behind the disc a part still counts, in diameters. */
const REACH = { behind: 1.5, before: 0.5 };
/** Points across a disc at which it is looked whether something stands before it. */
const ACROSS = 21;
const AXES = ["x", "y", "z"] as const;

/**
 * What of the mass list stands in the streams of a drive's units, each side of each apart. Boxes for parts; nothing of
 * a unit that pushes along none of the craft's axes, and of parts without a place or a size, or that reach through the
 * disc.
 */
export const inStreamOf = (design: Pick<Design, "units" | "items">, drive: number): InStream[] =>
  placedUnits(design, drive).flatMap((placed) => inOne(design, drive, placed));

function inOne(design: Pick<Design, "units" | "items">, drive: number, placed: PlacedUnit): InStream[] {
  const unit = design.units[drive];
  const disc = unit && discOf(unit);
  if (!unit || !disc?.diameter) return [];
  const axis = AXES.find((a) => Math.abs(placed.toward[a]) > 0.95);
  if (!axis) return [];
  const [u, v] = AXES.filter((a) => a !== axis) as ["x" | "y" | "z", "x" | "y" | "z"];
  const radius = disc.diameter / 2;
  const downstream = scaled(placed.toward, -1);
  const own = [unit.propellerItemId, unit.motorItemId, unit.controllerItemId];
  const boxes = (["behind", "before"] as const).map((side) => ({
    side,
    list: [] as { box: Box; item: Item; gap: number }[],
  }));
  for (const item of design.items) {
    if (!isPlaced(item) || item.unsized || own.includes(item.id)) continue;
    for (const { place } of halvesOf(item)) {
      const along = dot(minus(place, placed.at), downstream);
      const gap = Math.abs(along) - item.size[axis] / 2;
      const side = along > 0 ? "behind" : "before";
      // What reaches through the disc is no part beside it: the propeller itself, or a box drawn too large.
      if (gap < 0 || gap > REACH[side] * disc.diameter) continue;
      const box = boxOf(place, item, u, v, placed.at);
      if (box.near < radius) boxes[along > 0 ? 0 : 1]?.list.push({ box, item, gap });
    }
  }
  return boxes.flatMap(({ side, list }): InStream[] => {
    const covered = new Uint8Array(ACROSS * ACROSS);
    const names = new Set<string>();
    for (const { box, item } of list) if (cover(box, radius, covered)) names.add(item.name);
    const share = covered.reduce((n, c) => n + c, 0) / POINTS.length;
    return share === 0 ? [] : [{ side, share, gap: Math.min(...list.map((b) => b.gap)), names: [...names] }];
  });
}

/** Points across a disc of radius 1, hub left out. */
const POINTS = Array.from({ length: ACROSS ** 2 }, (_, at) => {
  const [a, b] = [Math.floor(at / ACROSS), at % ACROSS].map((k) => (2 * (k + 0.5)) / ACROSS - 1) as [number, number];
  return { at, a, b, out: Math.hypot(a, b) };
}).filter((p) => p.out <= 1 && p.out >= HUB);

/** Marks the points of a disc that a box covers; whether there are any. */
function cover({ left, right, low, high }: Box, radius: number, covered: Uint8Array): boolean {
  let any = false;
  for (const { at, a, b } of POINTS) {
    if (a * radius <= left || a * radius >= right || b * radius <= low || b * radius >= high) continue;
    covered[at] = 1;
    any = true;
  }
  return any;
}

interface Box {
  left: number;
  right: number;
  low: number;
  high: number;
  /** from the axis to its nearest point */
  near: number;
}
function boxOf(place: Point, { size }: Item, u: "x" | "y" | "z", v: "x" | "y" | "z", at: Point): Box {
  const [a, b] = [place[u] - at[u], place[v] - at[v]];
  const near = Math.hypot(Math.max(0, Math.abs(a) - size[u] / 2), Math.max(0, Math.abs(b) - size[v] / 2));
  return { left: a - size[u] / 2, right: a + size[u] / 2, low: b - size[v] / 2, high: b + size[v] / 2, near };
}
