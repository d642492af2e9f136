import { numbers } from "../../design/numbers";
import { CHAIN } from "../propulsion/declares";

/** The numbers of thrust against weight. */
export const quantities = numbers({
  thrustToWeight: {
    label: "Thrust to weight, standing",
    dimension: "ratio",
    page: "power",
    formula: "T / (M·g), g = 9.80665 m/s²",
    ...CHAIN,
  },
  thrustThrottle: {
    label: "Throttle to lift the weight",
    dimension: "percent",
    page: "power",
    formula: "throttle at which T = M·g, read off the thrust curve",
    ...CHAIN,
  },
});
