import { openCircuit } from "../core/subjects/energy/battery";
import type { DutyPhase, Pack } from "../core/subjects/energy/endurance";
import type { Drive, Source } from "../core/subjects/propulsion/state";

/**
 * The drive at full throttle, written plainly and apart from the product: on the same tables of the propeller,
 * halving the bracket of the motor's speed until the voltages balance. It is what the
 * product's solver is held against, in its answer and in its time.
 */
export function plainFullThrottle(
  drive: Drive,
  source: Source,
): { rpm: number; current: number; thrust: number } | null {
  const kt = 60 / (2 * Math.PI * drive.motor.kv);
  const currentAt = (motorRpm: number) =>
    drive.propeller.at(motorRpm / drive.ratio).torque / (drive.ratio * drive.gearEfficiency) / kt +
    drive.motor.noLoadCurrent * (0.5 + (0.05 * motorRpm) / drive.motor.kv);
  const surplus = (motorRpm: number): number => {
    const current = currentAt(motorRpm);
    // What else hangs on the pack draws its watts at the voltage that is left: a few turns settle it.
    let rail = source.openCircuit;
    for (let k = 0; k < 12; k++)
      rail = source.openCircuit - source.resistance * (drive.count * current + source.otherLoad / Math.max(rail, 0.1));
    return (
      rail -
      current * (drive.pathResistance + drive.controllerResistance + drive.motor.resistance) -
      motorRpm / drive.motor.kv
    );
  };
  let low = 1;
  let high = drive.motor.kv * source.openCircuit;
  if (surplus(low) < 0) return null;
  for (let k = 0; k < 50; k++) {
    const middle = (low + high) / 2;
    if (surplus(middle) > 0) low = middle;
    else high = middle;
  }
  return { rpm: low / drive.ratio, current: currentAt(low), thrust: drive.propeller.at(low / drive.ratio).thrust };
}

/**
 * The same at part throttle: the controller passes a share of the rail on, and draws that share of the motor's
 * current.
 */
function plainAt(
  drive: Drive,
  source: Source,
  u: number,
): { thrust: number; packCurrent: number; rail: number } | null {
  const kt = 60 / (2 * Math.PI * drive.motor.kv);
  const currentAt = (motorRpm: number) =>
    drive.propeller.at(motorRpm / drive.ratio).torque / (drive.ratio * drive.gearEfficiency) / kt +
    drive.motor.noLoadCurrent * (0.5 + (0.05 * motorRpm) / drive.motor.kv);
  const railAt = (current: number) => {
    let rail = source.openCircuit;
    for (let k = 0; k < 12; k++)
      rail =
        source.openCircuit - source.resistance * (drive.count * u * current + source.otherLoad / Math.max(rail, 0.1));
    return rail;
  };
  const surplus = (motorRpm: number): number => {
    const current = currentAt(motorRpm);
    const lost = drive.controllerResistance + u * u * drive.pathResistance + drive.motor.resistance;
    return u * railAt(current) - current * lost - motorRpm / drive.motor.kv;
  };
  let low = 1;
  let high = drive.motor.kv * source.openCircuit;
  if (surplus(low) < 0) return null;
  for (let k = 0; k < 50; k++) {
    const middle = (low + high) / 2;
    if (surplus(middle) > 0) low = middle;
    else high = middle;
  }
  const current = currentAt(low);
  const rail = railAt(current);
  return {
    thrust: drive.count * drive.propeller.at(low / drive.ratio).thrust,
    packCurrent: drive.count * u * current + source.otherLoad / rail,
    rail,
  };
}

/**
 * Seconds that one drive on one pack lasts at a duty of throttles and thrusts, standing: a loop over equal steps of
 * charge and the phases, each by halving; NaN where it cannot be held from the start. What the product's endurance is
 * held against.
 */
export function plainEndurance(drive: Drive, pack: Pack, phases: readonly DutyPhase[], steps: number): number {
  const lowest = Math.max(0, pack.startCharge - pack.usable);
  const width = (pack.startCharge - lowest) / steps;
  let seconds = 0;
  for (let k = 0; k < steps; k++) {
    const charge = pack.startCharge - (k + 0.5) * width;
    const source: Source = {
      openCircuit: openCircuit(pack.chemistry, charge) * pack.series,
      resistance: pack.resistance,
      otherLoad: pack.otherLoad,
    };
    let mean = 0;
    for (const phase of phases) {
      let u = "throttle" in phase.by ? phase.by.throttle : 1;
      if ("thrust" in phase.by) {
        let [low, high] = [0.02, 1];
        if ((plainAt(drive, source, 1)?.thrust ?? 0) < phase.by.thrust) return seconds > 0 ? seconds : Number.NaN;
        for (let n = 0; n < 30; n++) {
          u = (low + high) / 2;
          if ((plainAt(drive, source, u)?.thrust ?? 0) < phase.by.thrust) low = u;
          else high = u;
        }
      }
      const at = plainAt(drive, source, u);
      if (!at) return Number.NaN;
      mean += phase.share * at.packCurrent;
    }
    seconds += (width * pack.capacity * 3600) / mean;
  }
  return seconds;
}
