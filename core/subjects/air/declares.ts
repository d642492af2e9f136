import { numbers } from "../../design/numbers";

/** The numbers of the air. */
export const quantities = numbers({
  airDensity: {
    label: "Air density",
    dimension: "density",
    page: "power",
    formula: "ρ = p(h) / (R·T),  p from the standard atmosphere",
    source: "ISO 2533 (standard atmosphere), dry air.",
    range: "−500 m to 11 000 m, −60 °C to 60 °C.",
  },
});
