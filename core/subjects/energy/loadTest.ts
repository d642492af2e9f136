import type { Known } from "../../design/evidence";
import type { Battery } from "../../design/schema";
import { CHEMISTRY, coldFactor } from "./battery";

/** What was read at a pack's plug, resting and then under a steady load a few seconds long. */
export interface LoadTest {
  /** V, whole pack, no load */
  resting: number;
  /** V, whole pack, under load */
  loaded: number;
  /** A */
  current: number;
  /** pack temperature, °C */
  temperature: number;
}
/**
 * Standard uncertainty of one reading of a hand-held meter, V, and of a clamp or a meter in line, as a share (common
 * practice).
 */
export const METER = { volt: 0.01, current: 0.03 };

export type LoadTestResult =
  | { ok: true; cellResistance: Known & { sd: number } /** Ω, whole pack as it was */; pack: number }
  | { ok: false; message: string };

/**
 * Resistance of a series cell (Ω, brought to 25 °C by the chemistry's cold growth) from the sag under a known load: R
 * = (V_rest − V_load)/(I·cells). Valid for one steady load of a few
 * seconds; longer ones add diffusion. Its ± follows from the meter. Ohm's law; the plug measured at is inside it,
 * leads beyond are not.
 */
export function cellResistanceFrom(test: LoadTest, battery: Pick<Battery, "chemistry" | "series">): LoadTestResult {
  const { openCircuit, label } = CHEMISTRY[battery.chemistry];
  const [low, high] = [(openCircuit[0] ?? 0) * battery.series, (openCircuit.at(-1) ?? 5) * battery.series];
  if (!(test.current > 0)) return { ok: false, message: "The current of the load must be above zero." };
  if (!(test.resting >= 0.9 * low && test.resting <= 1.05 * high))
    return {
      ok: false,
      message:
        `${battery.series} cells of ${label} rest between ${low.toFixed(1)} and ${high.toFixed(1)} V: ` +
        "check the cell count, or the reading.",
    };
  const sag = test.resting - test.loaded;
  if (!(test.loaded > 0 && sag > 0))
    return { ok: false, message: "The loaded voltage must lie below the resting one." };
  const doubt = Math.hypot((Math.SQRT2 * METER.volt) / sag, METER.current);
  if (doubt > 0.5)
    return {
      ok: false,
      message: `A sag of ${(sag * 1000).toFixed(0)} mV is too small for the meter: take a heavier load.`,
    };
  const pack = sag / test.current;
  const value = pack / battery.series / coldFactor(battery.chemistry, test.temperature);
  return {
    ok: true,
    pack,
    cellResistance: {
      value,
      sd: doubt * value,
      evidence: "measured",
      note: `sag of ${sag.toFixed(2)} V at ${test.current.toFixed(1)} A, ${test.temperature.toFixed(0)} °C`,
    },
  };
}
