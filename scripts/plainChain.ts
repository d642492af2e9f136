import type { Drive, Source } from "../core/subjects/propulsion/chain";

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
