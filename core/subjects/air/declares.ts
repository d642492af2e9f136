import { numbers } from "../../design/numbers";

/** The numbers of the air. */
export const quantities = numbers({
  airDensity: {
    label: "Air density",
    dimension: "density",
    page: "power",
    formula: "ρ = (p − e) / (R·T) + e / (R_v·T),  p from the standard atmosphere, e = humidity · saturation pressure",
    source: "ISO 2533 (standard atmosphere); saturation pressure after Buck (1981, 1996).",
    range: "−500 m to 11 000 m, −60 °C to 60 °C.",
  },
});
