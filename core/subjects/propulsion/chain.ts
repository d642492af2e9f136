import type { MeasuredCurve } from "./measured/curve";
import { motorAt } from "./motor";
import {
  type Command,
  type Drive,
  LEAST_THROTTLE,
  type PackState,
  type Source,
  type Unsolved,
  drawnIn,
  dutyOf,
  packCurrentIn,
  solveTogether,
  stateNear,
  terminalVoltage,
} from "./state";

/** What every link carries at the equilibrium. Per unit unless the name says pack. Powers in W. */
export interface OperatingPoint {
  throttle: number;
  packVoltage: number;
  packCurrent: number;
  packLoss: number;
  otherLoad: number;
  /** lost in the branch's wires and plugs */
  pathLoss: number;
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

export type ChainResult = { status: "converged"; point: OperatingPoint } | { status: Unsolved };

/**
 * All links of one unit in a state. A motor that its duty cannot overcome friction with stands still, and what it
 * draws is not modelled.
 */
function pointIn(
  { drive, throttle }: Command,
  source: Source,
  rail: number,
  packCurrent: number,
  motorRpm: number,
  speed: number,
): OperatingPoint {
  if (drive.measured) return measuredPoint(drive.measured, throttle, source, rail, packCurrent);
  const u = dutyOf(drive, throttle);
  const turns = motorRpm > 0;
  const rpm = motorRpm / drive.ratio;
  const load = drive.propeller.at(rpm, speed);
  const motorTorque = load.torque / (drive.ratio * drive.gearEfficiency);
  const { current, voltage } = motorAt(drive.motor, motorTorque, motorRpm);
  const omega = (motorRpm * 2 * Math.PI) / 60;
  const shaftPower = motorTorque * omega;
  const propellerPower = (load.torque * omega) / drive.ratio;
  const branch = u * current;
  const pathLoss = turns ? branch ** 2 * drive.pathResistance : 0;
  return {
    throttle,
    packVoltage: rail,
    packCurrent,
    packLoss: packCurrent ** 2 * source.resistance,
    otherLoad: source.otherLoad,
    pathLoss,
    controllerIn: turns ? rail * branch - pathLoss : 0,
    controllerLoss: turns ? current ** 2 * drive.controllerResistance : 0,
    motorVoltage: turns ? voltage : 0,
    current: turns ? current : 0,
    motorIn: turns ? voltage * current : 0,
    motorLoss: turns ? voltage * current - shaftPower : 0,
    motorRpm,
    motorTorque,
    shaftPower,
    gearLoss: shaftPower - propellerPower,
    rpm,
    torque: load.torque,
    propellerPower,
    thrust: load.thrust,
  };
}

/** The same of a measured curve: what goes in and what comes out; nobody knows what lies between. */
function measuredPoint(
  measured: MeasuredCurve,
  throttle: number,
  source: Source,
  rail: number,
  packCurrent: number,
): OperatingPoint {
  const works = throttle > LEAST_THROTTLE;
  const unknown = works ? Number.NaN : 0;
  return {
    throttle,
    packVoltage: rail,
    packCurrent,
    packLoss: packCurrent ** 2 * source.resistance,
    otherLoad: source.otherLoad,
    pathLoss: 0,
    controllerIn: measured.draws ? rail * measured.current(throttle, rail) : unknown,
    controllerLoss: unknown,
    motorVoltage: unknown,
    current: unknown,
    motorIn: unknown,
    motorLoss: unknown,
    motorRpm: unknown,
    motorTorque: unknown,
    shaftPower: unknown,
    gearLoss: unknown,
    rpm: works ? measured.rpm(throttle, rail) : 0,
    torque: unknown,
    propellerPower: unknown,
    thrust: measured.force(throttle, rail),
  };
}

/**
 * Whether a drive works of which nobody knows what it draws: then the pack's volts and amperes are not known either.
 */
const drawsUnknown = (commands: readonly Command[]): boolean =>
  commands.some((c) => c.drive.measured?.draws === false && c.throttle > LEAST_THROTTLE);

/** All links of every drive in a state. */
export function pointsIn(
  commands: readonly Command[],
  source: Source,
  state: PackState,
  speed: number,
): OperatingPoint[] {
  const packCurrent = drawsUnknown(commands)
    ? Number.NaN
    : packCurrentIn(source, state.rail, drawnIn(commands, state, speed));
  return commands.map((command, k) =>
    pointIn(command, source, state.rail, packCurrent, state.speeds[k] as number, speed),
  );
}

/**
 * Equilibrium of pack, controller, motor, gearing and propeller at one throttle and flight speed. The controller is a
 * duty: it hands the motor u·V less its own resistive drop and draws u·I from the pack.
 *
 * @param throttle 0 to 1
 * @param speed along the propeller's axis, m/s, ≥ 0
 * @returns the operating point; "overloaded" when the pack cannot even feed the other loads; "windmilling" when the
 *   air drives the propeller
 * Source: averaged model of a pulse-width controller (switching losses left out: a few per cent at part throttle,
 * common practice).
 */
export function solveChain(drive: Drive, source: Source, throttle: number, speed = 0): ChainResult {
  const solved = solvePack([{ drive, throttle }], source, speed);
  const point = solved.status === "converged" ? solved.points[0] : undefined;
  return point ? { status: "converged", point } : { status: solved.status as Unsolved };
}

export type PackResult = { status: "converged"; points: OperatingPoint[]; state: PackState } | { status: Unsolved };

/** Equilibrium of several unlike drives on one pack: they share its sag. */
export function solvePack(
  commands: readonly Command[],
  source: Source,
  speed = 0,
  near: PackState | null = null,
): PackResult {
  const state = stateNear(commands, source, speed, near);
  return state.status === "converged"
    ? { status: "converged", points: pointsIn(commands, source, state, speed), state }
    : { status: state.status };
}

/** The general solver for any number of drives, one too: what the single-drive solution is held against. */
export function solveShared(commands: readonly Command[], source: Source, speed = 0): PackResult {
  const idle = terminalVoltage(source, 0);
  const state = idle === null ? { status: "overloaded" as const } : solveTogether(commands, source, speed, idle);
  return state.status === "converged"
    ? { status: "converged", points: pointsIn(commands, source, state, speed), state }
    : { status: state.status };
}
