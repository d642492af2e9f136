import { CHEMISTRY, type Chemistry, openCircuit } from "./battery";
import { type Drive, solveChain, throttleForThrust } from "./chain";

export interface Pack {
  chemistry: Chemistry;
  series: number;
  /** A·h */
  capacity: number;
  /** Ω, whole pack, at its temperature */
  resistance: number;
  usable: number;
  startCharge: number;
  otherLoad: number;
}

/** A share of the time at a throttle (0 to 1) or at a total thrust (N). */
export type DutyPhase = { share: number } & ({ throttle: number } | { thrust: number });

export interface EnduranceResult {
  /** s until the usable charge is spent, a phase can no longer be held, or the cells reach their floor */
  seconds: number;
  endedBy: "charge" | "floor" | "thrust" | "notSolved";
  /** pack voltage under the heaviest phase (V) against seconds */
  trace: { seconds: number; voltage: number; charge: number }[];
}

const STEPS = 24;

/**
 * Endurance by integrating the discharge: in each of 24 equal steps of charge the phases are solved at the pack's open-circuit voltage of
 * that moment, and the step lasts as long as the mean current takes to draw it (midpoint rule; error below 0.5 %, tested against a finer integration).
 * A phase that asks for a thrust raises its throttle as the pack empties; the run ends when it can no longer be held.
 *
 * @param phases shares of the time that add up to 1
 */
export function endurance(drive: Drive | null, pack: Pack, phases: readonly DutyPhase[], throttleLimit = 1, steps = STEPS): EnduranceResult {
  const floor = CHEMISTRY[pack.chemistry].floor * pack.series;
  const lowest = Math.max(0, pack.startCharge - pack.usable);
  const width = (pack.startCharge - lowest) / steps;
  const trace: EnduranceResult["trace"] = [];
  let seconds = 0;
  for (let k = 0; k < steps; k++) {
    const charge = pack.startCharge - (k + 0.5) * width;
    const source = {
      openCircuit: openCircuit(pack.chemistry, charge) * pack.series,
      resistance: pack.resistance,
      otherLoad: pack.otherLoad,
    };
    let mean = 0;
    let voltage = Infinity;
    for (const phase of phases) {
      if (drive === null) break;
      const throttle = "throttle" in phase ? Math.min(phase.throttle, throttleLimit) : throttleForThrust(drive, source, phase.thrust, throttleLimit);
      if (throttle === null) return { seconds, endedBy: "thrust", trace };
      const result = solveChain(drive, source, throttle);
      if (result.status !== "converged") return { seconds, endedBy: "notSolved", trace };
      mean += phase.share * result.point.packCurrent;
      voltage = Math.min(voltage, result.point.packVoltage);
    }
    if (voltage < floor) return { seconds, endedBy: "floor", trace };
    trace.push({ seconds, voltage, charge });
    if (!(mean > 0)) return { seconds: Infinity, endedBy: "charge", trace };
    seconds += (width * pack.capacity * 3600) / mean;
  }
  return { seconds, endedBy: "charge", trace };
}
