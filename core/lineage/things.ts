import type { Design } from "../design/schema";
import { type MassResult, rollUp } from "../subjects/mass/rollup";
import { type Change, difference } from "./difference";

/** Everything that changed about one thing from parent to child: a part, a drive, a pack, a setting. */
export interface Thing {
  /** its place in the design: what reasons and claims refer to */
  key: string;
  subject: string;
  changes: Change[];
  /**
   * what this alone does to the mass (kg) and the CG (m aft), with everything else as in the parent; the CG null while
   * it is open on either side
   */
  mass: number;
  cg: number | null;
}

/** The entry of a list that a change is in, else its first two steps: one thing that a builder would name. */
export const thingKey = (path: readonly string[]): string => {
  const at = path.findIndex((p) => p.startsWith("#"));
  return (at >= 0 ? path.slice(0, at + 1) : path.slice(0, 2)).join("/");
};

/** What lies between two ledgers: nobody knows how the CG moved where a part has no place. */
const between = (a: MassResult, b: MassResult): { mass: number; cg: number | null } => ({
  mass: b.mass - a.mass,
  cg: a.placed.x && b.placed.x ? b.cg.x - a.cg.x : null,
});

/**
 * Differences from one design to another, thing by thing, each with the grams and millimetres that it brings by
 * itself. The thing-by-thing sums need not add up to the whole when two
 * act on one another; the whole is `total`.
 */
export function thingsChanged(
  from: Design,
  to: Design,
): { things: Thing[]; total: { mass: number; cg: number | null } } {
  const by = new Map<string, Change[]>();
  for (const c of difference(from, to)) {
    if (c.knowing) continue;
    const key = thingKey(c.path);
    by.set(key, [...(by.get(key) ?? []), c]);
  }
  const before = rollUp(from);
  const after = rollUp(to);
  const effect = (key: string) => {
    const [list, entry] = key.split("/#");
    const id = list === "items" ? entry : undefined;
    if (id === undefined || !before) return { mass: 0, cg: 0 };
    const replaced = to.items.find((i) => i.id === id);
    const had = from.items.some((i) => i.id === id);
    const items = had
      ? from.items.flatMap((i) => (i.id === id ? (replaced ? [replaced] : []) : [i]))
      : replaced
        ? [...from.items, replaced]
        : from.items;
    const alone = rollUp({ ...from, items });
    return alone ? between(before, alone) : { mass: 0, cg: 0 };
  };
  return {
    things: [...by].map(([key, changes]) => ({ key, subject: changes[0]?.subject ?? key, changes, ...effect(key) })),
    total: before && after ? between(before, after) : { mass: 0, cg: 0 },
  };
}
