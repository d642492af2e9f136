import { isPlaced } from "./subjects/mass/placed";
import type { Design } from "./design/schema";
import type { UnitHabit } from "./design/units";
import { evaluate, findingText } from "./evaluate";
import { extent } from "./subjects/mass/rollup";
import { everyState } from "./design/inState";
import { type Severity, bySeverity, findingKey, tallyOf } from "./subject";

/**
 * What the workshop's list shows of a version: its outline from the side, how many verdicts of each kind, and the
 * worst one. Small: a list of sixty must stay light.
 */
export interface Glance {
  /** Extent along x and z, m; null: no parts yet. */
  size: { length: number; height: number } | null;
  /**
   * The largest parts from the side: x, z, length and height in thousandths of the craft's length, x from its front,
   * z from its top.
   */
  boxes: [number, number, number, number][];
  tally: Record<Severity, number>;
  /** In words: whoever shows a list of crafts need not know every verdict that there is. */
  worst: { severity: Severity; says: Record<UnitHabit, string> } | null;
}

/** Parts that are drawn: the largest of those that have a place and a size. */
const MOST = 14;

/** Works a glance out of a design; costs as much as one evaluation. */
export function glanceAt(design: Design): Glance {
  const box = extent(design);
  const several = design.states.length > 1;
  const every = everyState(design).flatMap(({ state, design: own }) =>
    evaluate(own).findings.map((finding) => ({ finding, state: several ? `${state.name}: ` : "" })),
  );
  // What is found in several states is one thing.
  const found = every.filter(
    ({ finding }, k) => every.findIndex((o) => findingKey(o.finding) === findingKey(finding)) === k,
  );
  const [worst] = found
    .filter(({ finding }) => finding.severity !== "clear")
    .toSorted((a, b) => bySeverity(a.finding, b.finding));
  const length = box ? box.max.x - box.min.x : 0;
  const thousandths = (m: number) => (length > 0 ? Math.round((1000 * m) / length) : 0);
  return {
    size: box && { length, height: box.max.z - box.min.z },
    boxes: box
      ? design.items
          .filter((i) => !i.unsized && isPlaced(i, "x") && isPlaced(i, "z"))
          .toSorted((a, b) => b.size.x * b.size.z - a.size.x * a.size.z)
          .slice(0, MOST)
          .map((i) => [
            thousandths(i.place.x - i.size.x / 2 - box.min.x),
            thousandths(box.max.z - i.place.z - i.size.z / 2),
            thousandths(i.size.x),
            thousandths(i.size.z),
          ])
      : [],
    tally: tallyOf(found.map((f) => f.finding)),
    worst: worst
      ? {
          severity: worst.finding.severity,
          says: {
            metric: worst.state + findingText(worst.finding, "metric"),
            imperial: worst.state + findingText(worst.finding, "imperial"),
          },
        }
      : null,
  };
}
