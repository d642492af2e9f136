import type { Bench } from "../design/bench";
import type { MeasuredPropulsor } from "../subjects/propulsion/measured/declares";
import { LEAST_COMMANDS } from "../subjects/propulsion/measured/declares";
import { correctionsFor, sharedThrustError } from "./rig";
import { readSweep } from "./sweep";

/**
 * A sweep on the stand as a measured curve, whatever the principle of what was on it: the means at each throttle,
 * corrected for the stand, of one unit. Null where it has no thrust at three throttles.
 *
 * @param bench all sessions of the craft: calibrations correct the instruments
 */
export function curveFromSweep(session: Bench, bench: readonly Bench[]): MeasuredPropulsor | null {
  const test = session.thrust;
  if (!test) return null;
  const corrections = correctionsFor(test.rig, [...bench]);
  const { levels, density } = readSweep(test, corrections, null);
  const readings = levels
    .filter((l) => l.throttle > 0)
    .toSorted((a, b) => a.throttle - b.throttle)
    .map((l) => ({
      command: l.throttle,
      force: l.thrust,
      current: l.current,
      voltage: l.voltage,
      rpm: l.rpm,
      temperature: null,
    }));
  if (readings.length < LEAST_COMMANDS || !(Math.max(...readings.map((r) => r.force)) > 0)) return null;
  return {
    principle: "",
    on: "air",
    asBuilt: false,
    together: 1,
    restVoltage: null,
    scale: Math.min(0.5, sharedThrustError(test.rig, corrections.scale)),
    density,
    session: session.number,
    readings,
  };
}
