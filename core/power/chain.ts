import { findRoot } from "../numeric/root";
import { type Motor, motorAt } from "./motor";
import type { PropellerMap } from "./propeller";

/** One kind of drive: `count` like units on one pack, in plain SI numbers (Kv in rpm/V). */
export interface Drive {
  count: number;
  motor: Motor;
  /** on-resistance of the controller, Ω */
  controllerResistance: number;
  /** motor turns per propeller turn */
  ratio: number;
  gearEfficiency: number;
  propeller: PropellerMap;
}

/** A pack at one moment: source voltage (V), resistance (Ω), and steady power that other things draw from it (W). */
export interface Source {
  openCircuit: number;
  resistance: number;
  otherLoad: number;
}

/** What every link carries at the equilibrium. Per unit unless the name says pack. Powers in W. */
export interface OperatingPoint {
  throttle: number;
  packVoltage: number;
  packCurrent: number;
  packLoss: number;
  otherLoad: number;
  controllerIn: number;
  controllerLoss: number;
  motorVoltage: number;
  current: number;
  motorIn: number;
  motorLoss: number;
  motorRpm: number;
  motorTorque: number;
  shaftPower: number;
  gearLoss: number;
  rpm: number;
  torque: number;
  propellerPower: number;
  /** N, one unit */
  thrust: number;
}

export type ChainResult = { status: "converged"; point: OperatingPoint } | { status: "overloaded" | "iterationLimit" | "noBracket" | "notFinite" };

/** Terminal voltage of a pack (V) that feeds `current` to the drives and `other` watts besides; null when it cannot. */
function terminalVoltage(source: Source, current: number): number | null {
  const open = source.openCircuit - source.resistance * current;
  const discriminant = open * open - 4 * source.resistance * source.otherLoad;
  if (open <= 0 || discriminant < 0) return null;
  return (open + Math.sqrt(discriminant)) / 2;
}

/** Throttle below which a motor does not turn is not modelled: this is the least that the solver accepts. */
const LEAST_THROTTLE = 1e-3;

/**
 * Equilibrium of pack, controller, motor, gearing and propeller standing still, at one throttle. The controller is a duty: it hands the
 * motor u·V_pack less its own resistive drop and draws u·I_motor from the pack. One bracketed root in motor speed.
 *
 * @param throttle 0 to 1
 * @returns the operating point; "overloaded" when the pack cannot even feed the other loads
 * Source: averaged model of a pulse-width controller (switching losses left out: a few per cent at part throttle, common practice).
 */
export function solveChain(drive: Drive, source: Source, throttle: number): ChainResult {
  const u = Math.max(throttle, LEAST_THROTTLE);
  const idle = terminalVoltage(source, 0);
  if (idle === null) return { status: "overloaded" };
  const at = (motorRpm: number): OperatingPoint & { residual: number } => {
    const rpm = motorRpm / drive.ratio;
    const load = drive.propeller.at(rpm);
    const motorTorque = load.torque / (drive.ratio * drive.gearEfficiency);
    const { current, voltage } = motorAt(drive.motor, motorTorque, motorRpm);
    const driveCurrent = drive.count * u * current;
    const packVoltage = terminalVoltage(source, driveCurrent) ?? 0;
    const omega = (motorRpm * 2 * Math.PI) / 60;
    const otherCurrent = packVoltage > 0 ? source.otherLoad / packVoltage : 0;
    const packCurrent = driveCurrent + otherCurrent;
    const shaftPower = motorTorque * omega;
    const propellerPower = (load.torque * omega) / drive.ratio;
    return {
      throttle,
      packVoltage,
      packCurrent,
      packLoss: packCurrent ** 2 * source.resistance,
      otherLoad: source.otherLoad,
      controllerIn: packVoltage * u * current,
      controllerLoss: current ** 2 * drive.controllerResistance,
      motorVoltage: voltage,
      current,
      motorIn: voltage * current,
      motorLoss: voltage * current - shaftPower,
      motorRpm,
      motorTorque,
      shaftPower,
      gearLoss: shaftPower - propellerPower,
      rpm,
      torque: load.torque,
      propellerPower,
      thrust: load.thrust,
      residual: u * packVoltage - current * drive.controllerResistance - voltage,
    };
  };
  if (at(0).residual <= 0) {
    // Too little duty to overcome friction: the motor stands still, and what it draws is not modelled.
    const still = at(0);
    return {
      status: "converged",
      point: {
        ...still,
        packVoltage: idle,
        packCurrent: source.otherLoad / idle,
        packLoss: (source.otherLoad / idle) ** 2 * source.resistance,
        controllerIn: 0,
        controllerLoss: 0,
        motorVoltage: 0,
        current: 0,
        motorIn: 0,
        motorLoss: 0,
      },
    };
  }
  const top = u * source.openCircuit * drive.motor.kv;
  const found = findRoot((n) => at(n).residual, 0, top, top * 1e-9);
  if (found.status === "iterationLimit" || found.status === "noBracket" || found.status === "notFinite") return { status: found.status };
  const { residual: _, ...point } = at(found.x);
  return { status: "converged", point };
}

/**
 * Throttle (0 to 1) at which all units together push `thrust` newtons.
 * @returns null when full throttle is not enough
 */
export function throttleForThrust(drive: Drive, source: Source, thrust: number, limit = 1): number | null {
  const total = (u: number) => {
    const r = solveChain(drive, source, u);
    return r.status === "converged" ? r.point.thrust * drive.count : Number.NaN;
  };
  if (!(total(limit) >= thrust)) return null;
  const found = findRoot((u) => total(u) - thrust, 0, limit, 1e-5, 60);
  return found.status === "converged" ? found.x : null;
}
