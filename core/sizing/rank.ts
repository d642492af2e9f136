import { expected } from "../design/price";
import type { Candidate } from "./search";

/** What may matter to whoever searches, best first by one or by several of them. */
export const AIMS = ["lighter", "longer", "stronger", "cooler", "cheaper"] as const;
export type Aim = (typeof AIMS)[number];

/** How far from good a candidate is, the less the better; null where it does not tell. */
const COST: Record<Aim, (c: Candidate) => number | null> = {
  lighter: (c) => c.auw,
  longer: (c) => (Number.isNaN(c.endurance) ? null : -Math.min(c.endurance, 1e9)),
  stronger: (c) => -c.thrustToWeight,
  cooler: (c) => c.heat,
  cheaper: (c) => c.cost && expected(c.cost),
};

/**
 * The candidates that come nearest to the best of all in what matters, nearest first: of each aim the share of the way
 * from the best to the worst of the list (nothing told: the worst), taken together as a distance. With one aim that is
 * its plain order. Without any all five matter alike.
 *
 * @param most how many are named
 */
export function bestOf(list: readonly Candidate[], aims: readonly Aim[], most: number): Candidate[] {
  const wanted = aims.length > 0 ? aims : AIMS;
  const distance = new Map(list.map((c) => [c, 0]));
  for (const aim of wanted) {
    const costs = list.map(COST[aim]);
    const told = costs.filter((v) => v !== null);
    const [least, worst] = [Math.min(...told), Math.max(...told)];
    for (const [k, c] of list.entries()) {
      const v = costs[k] ?? null;
      const share = v === null ? 1 : worst > least ? (v - least) / (worst - least) : 0;
      distance.set(c, (distance.get(c) ?? 0) + share ** 2);
    }
  }
  return list.toSorted((a, b) => (distance.get(a) ?? 0) - (distance.get(b) ?? 0)).slice(0, most);
}
