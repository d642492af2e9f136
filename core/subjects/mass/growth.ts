import type { Evidence } from "../../design/evidence";
import type { Design, Item } from "../../design/schema";

/**
 * Growth still to be expected of a mass known in this way, as a share of it. The idea and the order of magnitude
 * follow mass-properties practice
 * (AIAA S-120: the less mature a mass, the larger its allowance); the figures are common practice for small craft,
 * from memory.
 */
export const ALLOWANCE: Record<Evidence, number> = {
  guess: 0.15,
  calculated: 0.08,
  datasheet: 0.03,
  measured: 0,
  proven: 0,
};

const pieces = (item: Item, kg: number | null | undefined) => (kg ?? 0) * item.quantity;

export interface Growth {
  /** Mass still to come at this evidence, kg. */
  expected: number;
  /** What the plan allows for the parts that it names, kg; null when it names none. */
  planned: number | null;
  /** What those same parts weigh or are predicted to weigh, with what was added since, kg. */
  actual: number;
  /** actual / planned − 1; null without a plan. */
  share: number | null;
  /** Parts that exceed what was planned or predicted for them, worst first, kg in all. */
  surprises: { id: string; by: number; against: "planned" | "predicted" }[];
}

/**
 * Planned against actual mass, and the growth that the ledger's evidence still lets expect. Parts without a mass are
 * left out.
 */
export function growthOf(design: Pick<Design, "items">): Growth {
  let expected = 0;
  let planned = 0;
  let actual = 0;
  const surprises: Growth["surprises"] = [];
  for (const item of design.items) {
    actual += pieces(item, item.mass?.value);
    planned += pieces(item, item.planned);
    if (!item.mass) continue;
    expected += pieces(item, item.mass.value) * ALLOWANCE[item.mass.evidence];
    const against = item.planned !== null ? "planned" : "predicted";
    const reference = item.planned ?? item.predicted?.value;
    if (reference !== undefined && item.mass.value > reference)
      surprises.push({ id: item.id, by: pieces(item, item.mass.value - reference), against });
  }
  return {
    expected,
    planned: planned > 0 ? planned : null,
    actual,
    share: planned > 0 ? actual / planned - 1 : null,
    surprises: surprises.sort((a, b) => b.by - a.by),
  };
}
