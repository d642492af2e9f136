import { type Outcome, subject } from "../../subject";
import { type Air, USUAL_HUMIDITY, air as airAt } from "./air";

interface AirResult extends Air {
  /** standard uncertainty of the density, kg/m³ */
  densitySd: number;
}

/**
 * How far off a stated temperature (K) and weather's pressure (share) commonly are, and a humidity that nobody read
 * (judgement).
 */
const OFF = { temperature: 2, pressure: 0.01, humidity: 0.25 };

/** The air that the craft works in. */
export const air = subject({
  name: "air",
  reads: ["brief.environment"],
  gives: ["airDensity"],
  compute(view): Outcome<AirResult> {
    const { altitude, airTemperature, humidity } = view.brief.environment;
    const wet = humidity ?? USUAL_HUMIDITY;
    const here = airAt(altitude, airTemperature, wet);
    const by = [
      airAt(altitude, airTemperature + OFF.temperature, wet).density - here.density,
      OFF.pressure * here.density,
      humidity === undefined ? airAt(altitude, airTemperature, wet + OFF.humidity).density - here.density : 0,
    ];
    return { status: "solved", result: { ...here, densitySd: Math.hypot(...by) } };
  },
  quantities: (result) => ({
    airDensity: { value: result.density, sd: result.densitySd, dimension: "density", evidence: "calculated" },
  }),
  working(_key, result, { brief: { environment } }) {
    const { altitude, airTemperature, humidity } = environment;
    const wet = humidity ?? USUAL_HUMIDITY;
    const shareOf = (change: number) => (change / result.densitySd) ** 2;
    return [
      {
        name: "Height above sea level, and the weather's pressure",
        value: altitude,
        sd: 85,
        dimension: "distance",
        evidence: "datasheet",
        share: shareOf(OFF.pressure * result.density),
        source: null,
      },
      {
        name: "Air temperature",
        value: airTemperature,
        sd: OFF.temperature,
        dimension: "temperature",
        evidence: "datasheet",
        share: shareOf(airAt(altitude, airTemperature + OFF.temperature, wet).density - result.density),
        source: null,
      },
      {
        name: "Humidity",
        value: wet,
        sd: humidity === undefined ? OFF.humidity : 0,
        dimension: "percent",
        evidence: humidity === undefined ? "guess" : "datasheet",
        share:
          humidity === undefined
            ? shareOf(airAt(altitude, airTemperature, wet + OFF.humidity).density - result.density)
            : 0,
        source: null,
      },
    ];
  },
});
