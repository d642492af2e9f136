import type { Evidence } from "../../design/evidence";
import { type Outcome, subject } from "../../subject";

export interface CostResult {
  /** € */
  all: number;
  toBuy: number;
  /** Whether every part has a price. */
  whole: boolean;
}

/** Doubt of entered prices, as a share (judgement). */
const DOUBT = 0.05;

/** What the parts cost, and what is still to be bought. */
export const cost = subject({
  name: "cost",
  reads: ["items"],
  gives: ["cost", "costToBuy"],
  compute(view): Outcome<CostResult> {
    const priced = view.items.filter((i) => i.cost !== null);
    if (priced.length === 0) return { status: "missing", needs: ["prices"] };
    const sum = (items: typeof priced) => items.reduce((s, i) => s + (i.cost ?? 0) * i.quantity, 0);
    return {
      status: "solved",
      result: {
        all: sum(priced),
        toBuy: sum(priced.filter((i) => i.source === "buy")),
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
      cost: { value: all, sd: DOUBT * all, dimension: "money", evidence, ...without(view.items) },
      costToBuy: {
        value: toBuy,
        sd: DOUBT * toBuy,
        dimension: "money",
        evidence,
        ...without(view.items.filter((i) => i.source === "buy")),
      },
    };
  },
  working: (key, { all }, view) =>
    view.items
      .filter((i) => i.cost !== null && (key === "cost" || i.source === "buy"))
      .map((i) => {
        const value = (i.cost ?? 0) * i.quantity;
        return {
          name: i.name,
          value,
          sd: DOUBT * value,
          dimension: "money" as const,
          evidence: "datasheet" as const,
          share: all > 0 ? value / all : 0,
          source: null,
        };
      }),
});
