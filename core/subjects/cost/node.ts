import type { Evidence } from "../../design/evidence";
import { costOfItems } from "../../design/price";
import { type Outcome, subject } from "../../subject";

export interface CostResult {
  /** What is expected, and its standard uncertainty, in the currency of the workshop. */
  all: { value: number; sd: number };
  toBuy: { value: number; sd: number };
  /** Whether every part has a price. */
  whole: boolean;
}

/** What the parts cost, and what is still to be bought. */
export const cost = subject({
  name: "cost",
  reads: ["items"],
  gives: ["cost", "costToBuy"],
  compute(view): Outcome<CostResult> {
    const priced = view.items.filter((i) => i.cost !== null);
    if (priced.length === 0) return { status: "missing", needs: ["prices"] };
    return {
      status: "solved",
      result: {
        all: costOfItems(priced),
        toBuy: costOfItems(priced.filter((i) => i.source === "buy")),
        whole: priced.length === view.items.length,
      },
    };
  },
  quantities({ all, toBuy, whole }, view) {
    const evidence: Evidence = whole ? "datasheet" : "guess";
    const without = (items: typeof view.items) => {
      const open = items.filter((i) => i.cost === null).length;
      return open > 0 ? { incomplete: [`${open} ${open === 1 ? "part has" : "parts have"} no price`] } : {};
    };
    return {
      cost: { ...all, dimension: "money", evidence, ...without(view.items) },
      costToBuy: {
        ...toBuy,
        dimension: "money",
        evidence,
        ...without(view.items.filter((i) => i.source === "buy")),
      },
    };
  },
  working(key, result, view) {
    const whole = key === "cost" ? result.all : result.toBuy;
    const counted = view.items.filter((i) => i.cost !== null && (key === "cost" || i.source === "buy"));
    return counted.map((i) => {
      // What goes with a part is its doubt: what the whole would be less sure by.
      const without = costOfItems(counted.filter((o) => o !== i));
      return {
        name: i.name,
        ...costOfItems([i]),
        dimension: "money" as const,
        evidence: "datasheet" as const,
        share: whole.sd > 0 ? 1 - (without.sd / whole.sd) ** 2 : 0,
        source: null,
      };
    });
  },
});
