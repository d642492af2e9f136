import type { Patch } from "../../design/patch";
import { AXES, type Axis, type Design, type Item, type Point } from "../../design/schema";
import { sayPlace } from "./placed";

/** Everything that hangs on a part, directly or not, without the part itself. */
export function attachedTo(items: readonly Item[], id: string): Item[] {
  const out: Item[] = [];
  const look = (parent: string) => {
    for (const item of items)
      if (item.parentId === parent && !out.includes(item)) {
        out.push(item);
        look(item.id);
      }
  };
  look(id);
  return out;
}

/** Mass in force of a part with everything attached to it, all pieces, kg; parts without a mass count as nothing. */
export const movingMass = (items: readonly Item[], item: Item): number =>
  [item, ...attachedTo(items, item.id)].reduce((sum, i) => sum + (i.mass?.value ?? 0) * i.quantity, 0);

/**
 * The range that a part may slide in along an axis; null when it is fixed there. A mirrored pair never slides across.
 */
export function slideOf(item: Item, axis: Axis): { from: number; to: number } | null {
  if (axis === "x") return item.slide;
  if (axis === "y") return item.mirrored ? null : item.slideY;
  return item.slideZ;
}

/**
 * The changes that move a part along an axis by some metres, with what hangs on it: pairs are not moved across by
 * what they hang on.
 */
export const slideSteps = (items: readonly Item[], item: Item, axis: Axis, by: number): Patch["set"] =>
  [item, ...attachedTo(items, item.id)]
    .filter((part) => axis !== "y" || !part.mirrored)
    .map((part) => ({ path: ["items", `#${part.id}`, "place", axis], value: part.place[axis] + by }));

/** Puts a part, with what is attached to it, where somebody says that it is along these axes, m. */
export function placeItem(design: Design, id: string, at: Partial<Point>): void {
  const item = design.items.find((i) => i.id === id);
  if (!item) return;
  const axes = AXES.filter((a) => at[a] !== undefined);
  moveItem(design, id, Object.fromEntries(axes.map((a) => [a, (at[a] ?? 0) - item.place[a]])));
  for (const a of axes) item.place[a] = Number(item.place[a].toFixed(9));
  sayPlace(item, ...axes);
}

/** Moves a part of this design, in place, and all that is attached to it by the same amount, m. */
export function moveItem(design: Design, id: string, by: Partial<Point>): void {
  const item = design.items.find((i) => i.id === id);
  if (!item) return;
  for (const moved of [item, ...attachedTo(design.items, id)]) {
    moved.place.x += by.x ?? 0;
    moved.place.z += by.z ?? 0;
    if (!moved.mirrored) moved.place.y += by.y ?? 0;
  }
  // A pair is entered once: its half distance from the centreline changes, nothing hangs on one side of it.
  if (item.mirrored) item.place.y += by.y ?? 0;
}
