import type { Design } from "../../core/design/schema";
import { type SearchResult, type SearchTask, search } from "../../core/sizing/search";
import type { Choice, DriveChoice, PackChoice } from "../../core/sizing/searchParts";
import { type DriveSpace, type PackSpace, type SearchSpace, spaceAround } from "../../core/sizing/searchSpace";

/** One set of drives on one pack, in one list of numbers. */
export type FlatSpace = DriveSpace & PackSpace;
export type FlatChoice = DriveChoice & Omit<PackChoice, "own">;

export const spaceOf = (unitIds: readonly string[], { series, capacity, ...space }: FlatSpace): SearchSpace => ({
  sets: [{ unitIds, space }],
  packs: [{ series, capacity }],
});
export function flatSpace(space: SearchSpace | null): FlatSpace {
  const [set, pack] = [space?.sets[0], space?.packs[0]];
  if (!set || !pack) throw new Error("no space");
  return { ...set.space, ...pack };
}
/** The space around drives that get the same parts. */
export const flatAround = (design: Design, unitIds: readonly string[]): FlatSpace =>
  flatSpace(spaceAround(design, [unitIds]));

export const choiceOf = ({ series, capacity, ...drive }: FlatChoice): Choice => ({
  drives: [drive],
  packs: [{ series, capacity }],
});
export function flatChoice({ drives, packs }: Choice): FlatChoice {
  const [drive, pack] = [drives[0], packs[0]];
  if (!drive || !pack) throw new Error("no choice");
  return { ...drive, series: pack.series, capacity: pack.capacity };
}

/** Runs a search to its end. */
export function found(task: SearchTask): SearchResult {
  const steps = search(task);
  let next = steps.next();
  while (!next.done) next = steps.next();
  return next.value;
}
