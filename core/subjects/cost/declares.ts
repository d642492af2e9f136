import { numbers } from "../../design/numbers";

const PRICES = { source: "Prices as entered in the ledger.", range: "Parts with a price; the others are left out." };

/** The numbers of money. */
export const quantities = numbers({
  cost: { label: "Cost of all parts", dimension: "money", page: "layout", formula: "Σ n·price", ...PRICES },
  costToBuy: {
    label: "Cost of parts still to buy",
    dimension: "money",
    page: "layout",
    formula: "Σ n·price of parts to buy",
    ...PRICES,
  },
});
