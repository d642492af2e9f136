import { nameItem } from "../../design/byWords";
import { current, isDraft } from "immer";
import { freeId } from "../../design/ids";
import { AXES, type Design, type Item, type Point, newItem } from "../../design/schema";
import { bodies, extent } from "./rollup";

/** Size of a part that nobody has given one yet, m. */
const NEW_SIZE: Point = { x: 0.05, y: 0.03, z: 0.02 };
/** Places that are tried along each axis for a part that has to stand somewhere. */
const TRIED = 9;

/** Whether a box of some size at a place shares space with none of the parts. */
const isFree = (items: readonly Item[], place: Point, size: Point): boolean =>
  !items.some((i) =>
    bodies(i).some((b) => AXES.every((a) => Math.abs(b.place[a] - place[a]) < (i.size[a] + size[a]) / 2)),
  );

/**
 * A place for a new part beside those that are there: the free one inside their box that is nearest to its middle, so
 * that the craft becomes no longer by a part of which nothing is known; behind it where nothing is free.
 */
export function freePlace(design: Pick<Design, "items">, size: Point = NEW_SIZE): Point {
  const solid = design.items.filter((i) => !i.hollow);
  const box = extent(design, true);
  if (!box) return { x: 0.1, y: 0, z: 0.05 };
  const steps = (axis: keyof Point) => {
    const [low, high] = [box.min[axis] + size[axis] / 2, box.max[axis] - size[axis] / 2];
    return Array.from({ length: TRIED }, (_, k) =>
      high > low ? low + ((high - low) * k) / (TRIED - 1) : (low + high) / 2,
    );
  };
  const middle = { x: (box.min.x + box.max.x) / 2, y: 0, z: (box.min.z + box.max.z) / 2 };
  const places = steps("x").flatMap((x) => steps("y").flatMap((y) => steps("z").map((z) => ({ x, y, z }))));
  const far = (p: Point) => Math.hypot(p.x - middle.x, 2 * (p.y - middle.y), p.z - middle.z);
  const free = places.sort((a, b) => far(a) - far(b)).find((p) => isFree(solid, p, size));
  const rounded = (v: number) => Math.round(v * 1000) / 1000;
  const at = free ?? { x: box.max.x + size.x, y: 0, z: middle.z };
  return { x: rounded(at.x), y: rounded(at.y), z: rounded(at.z) };
}

/** A part of which nothing is known yet but that it is there. */
export const blankPart = (design: Design): Item =>
  newItem({
    id: freeId(design.items, "part-"),
    name: `Part ${design.items.length + 1}`,
    place: freePlace(design),
    size: { ...NEW_SIZE },
    unplaced: [...AXES],
    unsized: true,
  });

/** Takes parts out; what hung on one hangs on what that hung on. */
export function removeItems(design: Design, ids: ReadonlySet<string>): void {
  const upward = (id: string | null): string | null =>
    id !== null && ids.has(id) ? upward(design.items.find((i) => i.id === id)?.parentId ?? null) : id;
  const parents = new Map(design.items.map((i) => [i.id, upward(i.parentId)]));
  design.items = design.items.filter((i) => !ids.has(i.id));
  for (const i of design.items) i.parentId = parents.get(i.id) ?? null;
}

/**
 * Copies of parts, each after its original and beside all others; returns the ids of the copies. Nobody has weighed or
 * placed a copy: its mass is an estimate after the original, its place a guess, and it slides nowhere.
 */
export function duplicateItems(design: Design, ids: ReadonlySet<string>): string[] {
  const made: string[] = [];
  for (const item of design.items.filter((i) => ids.has(i.id))) {
    const copy: Item = {
      // Of a draft nothing may be shared with the original.
      ...structuredClone(isDraft(item) ? current(item) : item),
      id: freeId(design.items, "part-"),
      name: `${item.name.slice(0, 110)} copy`,
      twinId: null,
      mass: item.mass && { value: item.mass.value, evidence: "guess" },
      predicted: null,
      // A pair stays out on its sides: its copy stands behind it.
      place: item.mirrored ? { ...item.place, x: item.place.x + item.size.x } : freePlace(design, item.size),
      placeEvidence: "guess",
      unplaced: [...AXES],
      placeSd: undefined,
      slide: null,
      slideY: null,
      slideZ: null,
    };
    design.items.splice(design.items.indexOf(item) + 1, 0, copy);
    made.push(copy.id);
  }
  return made;
}

/** Moves a row of the list, with what hangs on its part left where it is, to before another row; null: to the end. */
export function moveRow(design: Design, id: string, before: string | null): void {
  const from = design.items.findIndex((i) => i.id === id);
  const [item] = from < 0 ? [] : design.items.splice(from, 1);
  if (!item) return;
  const to = before === null ? -1 : design.items.findIndex((i) => i.id === before);
  const next = design.items[to];
  if (next) nameItem(item, { group: next.group }, design.items);
  design.items.splice(to < 0 ? design.items.length : to, 0, item);
}
