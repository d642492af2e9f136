import type { Axis, Item } from "../../design/schema";

/** Whether somebody said where a part is along an axis; without one: along all of them. */
export const isPlaced = (item: Pick<Item, "unplaced">, axis?: Axis): boolean =>
  item.unplaced.length === 0 || (axis !== undefined && !item.unplaced.includes(axis));

/** Says of a part that it is where it stands, along these axes. */
export function sayPlace(item: Item, ...axes: Axis[]): void {
  if (item.unplaced.some((a) => axes.includes(a))) item.unplaced = item.unplaced.filter((a) => !axes.includes(a));
}

/** Says of a part that nobody knows where it is along an axis: where it stands there is only where it is drawn. */
export function unsayPlace(item: Item, axis: Axis): void {
  if (isPlaced(item, axis)) item.unplaced = [...item.unplaced, axis];
}

/** The parts with a mass of which nobody said where they are along one of these axes. */
export const unplacedOf = (items: readonly Item[], ...axes: Axis[]): Item[] =>
  items.filter((i) => i.mass !== null && axes.some((a) => !isPlaced(i, a)));

/** What is not known for want of places along these axes, in words; empty when every part has one. */
export function placesUnsaid(items: readonly Item[], ...axes: Axis[]): string[] {
  const [first, ...others] = unplacedOf(items, ...axes);
  if (!first) return [];
  const missing = axes.filter((a) => [first, ...others].some((i) => !isPlaced(i, a)));
  return lacking([first, ...others], missing.length > 1 ? "a place" : `a place in ${missing[0]}`);
}

/** What some parts lack, in words, the first of them named; empty where there is none. */
export const lacking = ([first, ...others]: readonly { name: string }[], what: string): string[] =>
  first ? [`${first.name}${others.length > 0 ? ` and ${others.length} more` : ""} without ${what}`] : [];

/** The parts with a mass of which nobody said how large they are, in words. */
export const sizesUnsaid = (items: readonly Item[]): string[] =>
  lacking(
    items.filter((i) => i.mass !== null && i.unsized),
    "a size",
  );

/** Says how large a part is along an axis; along the others it keeps what it is drawn with once one is said. */
export function sizePart(item: Item, axis: Axis, size: number): void {
  item.size[axis] = size;
  item.unsized = false;
}
