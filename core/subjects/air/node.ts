import { type Outcome, subject } from "../../subject";
import { type Air, air as airAt } from "./air";

/** The air that the craft works in. */
export const air = subject({
  name: "air",
  reads: ["brief.environment"],
  gives: ["airDensity"],
  compute: (view): Outcome<Air> => ({ status: "solved", result: airAt(view.brief.environment.altitude, view.brief.environment.airTemperature) }),
  quantities: (result) => ({ airDensity: { value: result.density, sd: 0, dimension: "density", evidence: "calculated" } }),
  working: (_key, _result, { brief: { environment } }) => [
    { name: "Height above sea level", value: environment.altitude, sd: 0, dimension: "distance", evidence: "datasheet", share: 0.5, source: null },
    { name: "Air temperature", value: environment.airTemperature, sd: 0, dimension: "temperature", evidence: "datasheet", share: 0.5, source: null },
  ],
});
