import { isPlaced } from "../mass/placed";
import type { Axis, Design, Item, Point } from "../../design/schema";
import { isBallast } from "../mass/ballast";
import type { MassResult } from "../mass/rollup";
import { attachedTo, movingMass } from "../mass/tree";

/**
 * The entry of ballast that brings the CG along one axis to `goal` by coming off, wholly or in part: r = M·(cg −
 * goal)/(x − goal).
 *
 * @returns the entry, what comes off and what is left of it (kg, all pieces); null when none can do it
 * Source: first moment of mass (FAA-H-8083-1, removal of weight).
 */
export function lighterBallast(
  design: Design,
  all: MassResult,
  axis: Axis,
  goal: number,
): { item: Item; by: number; left: number } | null {
  const able = design.items.flatMap((item) => {
    if (!isBallast(item) || !item.mass || (axis === "y" && item.mirrored)) return [];
    const has = item.mass.value * item.quantity;
    const by = (all.mass * (all.cg[axis] - goal)) / (item.place[axis] - goal);
    // Half a gram is nothing, and all but half a gram is all.
    return by > SPARE && by <= has + SPARE
      ? [{ item, by: Math.min(by, has), left: has - by < SPARE ? 0 : has - by }]
      : [];
  });
  return able.toSorted((a, b) => b.by - a.by)[0] ?? null;
}
const SPARE = 0.0005;

/**
 * How much larger a part may be than the place that it goes to, and the share of the craft that a part may be to be
 * moved about.
 */
const LARGER = 1.25;
const SMALL = 0.35;

/** Parts that a drive holds where they are. */
const driven = (design: Design): Set<string | null> =>
  new Set(design.units.flatMap((u) => [u.motorItemId, u.propellerItemId]));

/**
 * Two parts that bring the CG between two limits by changing places, the one nearest to `goal`: small, single parts
 * whose places are known, that fit each other's place and that no drive holds where they are.
 * The change is (a − b)·(xb − xa)/M along each axis, so one that moves the CG off the centreline by more than it
 * helps is left out.
 */
export function swapTo(
  design: Design,
  all: MassResult,
  axis: Axis,
  goal: number,
  { low, high }: { low: number; high: number },
): { a: Item; b: Item } | null {
  if (!(high >= low)) return null;
  const held = driven(design);
  const longest = Math.max(...design.items.map((i) => Math.max(i.size.x, i.size.y, i.size.z)), 0);
  const free = design.items.filter(
    (i) =>
      i.mass &&
      !i.mirrored &&
      !isBallast(i) &&
      !held.has(i.id) &&
      i.parentId === null &&
      attachedTo(design.items, i.id).length === 0 &&
      Math.max(i.size.x, i.size.y, i.size.z) <= SMALL * longest,
  );
  let best: { a: Item; b: Item; off: number } | null = null;
  for (const [k, a] of free.entries())
    for (const b of free.slice(k + 1)) {
      if (a.unsized || b.unsized || !isPlaced(a) || !isPlaced(b)) continue;
      if (!fits(a.size, b.size) || !fits(b.size, a.size)) continue;
      const differ = movingMass(design.items, a) - movingMass(design.items, b);
      const by = (along: Axis) => (differ * (b.place[along] - a.place[along])) / all.mass;
      const at = all.cg[axis] + by(axis);
      if (at < low || at > high) continue;
      if (axis !== "y" && Math.abs(by("y")) > Math.abs(by(axis)) / 4) continue;
      const off = Math.abs(at - goal);
      if (best === null || off < best.off) best = { a, b, off };
    }
  return best;
}
const fits = (part: Point, place: Point) =>
  part.x <= LARGER * place.x && part.y <= LARGER * place.y && part.z <= LARGER * place.z;
