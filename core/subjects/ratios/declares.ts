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
  grade: {
    label: "Steepest ground",
    dimension: "angle",
    page: "power",
    formula: "at least atan(F/(M·g)) with the push F of its wheels or drums on level ground",
    source: "Push along a slope equals M·g·sin θ; grip falls with cos θ, so the arctangent holds for both.",
    range:
      "Drives that push on the ground, crawling up straight, none lifted or sliding sideways; other " +
      "wheels roll freely.",
  },
});
