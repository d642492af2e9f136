import type { Version } from "../design/craftFile";

export interface Placed {
  label: string;
  parent: string | null;
  /** column, in the order in which versions were opened */
  column: number;
  /** 0 is the main line; branches stand above it, each in the lowest lane that is free */
  lane: number;
}

/**
 * The lineage as a tree to be drawn: versions in order of opening, each child in its parent's lane if it is the one
 * that goes on (the plain number, else the one with most descendants, else
 * the first), the others in lanes of their own. A lane is used again once its branch has ended.
 */
export function placeTree(versions: readonly Pick<Version, "label" | "parent">[]): Placed[] {
  const column = new Map(versions.map((v, i) => [v.label, i]));
  const children = (label: string | null) => versions.filter((v) => v.parent === label);
  const size = (label: string): number => children(label).reduce((s, c) => s + size(c.label), 1);
  const heir = (label: string | null): string | undefined => {
    const list = children(label);
    const plain = list.filter((v) => /^v\d+$/.test(v.label));
    return [...(plain.length > 0 ? plain : list)].sort((a, b) => size(b.label) - size(a.label))[0]?.label;
  };
  /** last column that the line going on from a version reaches */
  const ends = (label: string): number => {
    const next = heir(label);
    return next === undefined ? (column.get(label) ?? 0) : ends(next);
  };
  const lane = new Map<string, number>();
  const busy: { lane: number; from: number; to: number }[] = [];
  const free = (from: number, to: number, least: number): number => {
    for (let n = least; ; n++) if (!busy.some((b) => b.lane === n && b.from <= to && from <= b.to)) return n;
  };
  for (const v of versions) {
    const at = column.get(v.label) ?? 0;
    if (v.parent !== null && heir(v.parent) === v.label) {
      lane.set(v.label, lane.get(v.parent) ?? 0);
      continue;
    }
    const from = v.parent === null ? at : (column.get(v.parent) ?? at) + 1;
    const to = ends(v.label);
    const own = free(from, to, v.parent === null ? 0 : 1);
    busy.push({ lane: own, from, to });
    lane.set(v.label, own);
  }
  return versions.map((v) => ({
    label: v.label,
    parent: v.parent,
    column: column.get(v.label) ?? 0,
    lane: lane.get(v.label) ?? 0,
  }));
}
