import { findRoot } from "../../numeric/root";
import { type Motor, motorAt, torqueConstant } from "./motor";
import type { PropellerMap } from "./propeller";

/** One kind of drive: `count` like units on one pack, in plain SI numbers (Kv in rpm/V). */
export interface Drive {
  count: number;
  motor: Motor;
  /** on-resistance of the controller, Ω */
  controllerResistance: number;
  /** wires, plugs and switches between the pack's rail and this unit's controller, Ω */
  pathResistance: number;
  /** motor turns per propeller turn */
  ratio: number;
  gearEfficiency: number;
  propeller: PropellerMap;
  /** Duty (0 to 1) that a throttle gives, as measured on a stand; the throttle itself when left out. */
  duty?: (throttle: number) => number;
}

/** A pack at one moment: source voltage (V), resistance with its main path (Ω), and steady power that other things draw from it (W). */
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

/** How a solver ended when it did not converge. windmilling: the air drives the propeller at this throttle and speed. */
export type Unsolved = "overloaded" | "windmilling" | "iterationLimit" | "noBracket" | "notFinite";
export type ChainResult = { status: "converged"; point: OperatingPoint } | { status: Unsolved };

/** Terminal voltage of a pack (V) that feeds `current` to the drives and `other` watts besides; null when it cannot. */
function terminalVoltage(source: Source, current: number): number | null {
  const open = source.openCircuit - source.resistance * current;
  const discriminant = open * open - 4 * source.resistance * source.otherLoad;
  if (open <= 0 || discriminant < 0) return null;
  return (open + Math.sqrt(discriminant)) / 2;
}

/** Throttle below which a motor does not turn is not modelled: this is the least that the solver accepts. */
const LEAST_THROTTLE = 1e-3;

const dutyOf = (drive: Drive, throttle: number): number => Math.max(drive.duty ? drive.duty(throttle) : throttle, LEAST_THROTTLE);

type UnitPoint = Omit<OperatingPoint, "packVoltage" | "packCurrent" | "packLoss" | "otherLoad">;

/** Motor current (A) that a speed of the motor asks for. */
function currentAt(drive: Drive, motorRpm: number, speed: number): number {
  const torque = drive.propeller.torque(motorRpm / drive.ratio, speed) / (drive.ratio * drive.gearEfficiency);
  return torque / torqueConstant(drive.motor.kv) + drive.motor.noLoadCurrent;
}

/** By how much the voltages of one unit fail to balance: u·V − I·(R_esc + u²·R_path) − I·R_m − n/Kv. Falls with motor speed. */
const imbalance = (drive: Drive, u: number, motorRpm: number, current: number, rail: number): number =>
  u * (rail - u * current * drive.pathResistance) - current * (drive.controllerResistance + drive.motor.resistance) - motorRpm / drive.motor.kv;

/** All links of one unit at a motor speed. */
function unitPoint(drive: Drive, throttle: number, u: number, motorRpm: number, speed: number, rail: number): UnitPoint {
  const rpm = motorRpm / drive.ratio;
  const load = drive.propeller.at(rpm, speed);
  const motorTorque = load.torque / (drive.ratio * drive.gearEfficiency);
  const { current, voltage } = motorAt(drive.motor, motorTorque, motorRpm);
  const omega = (motorRpm * 2 * Math.PI) / 60;
  const shaftPower = motorTorque * omega;
  const propellerPower = (load.torque * omega) / drive.ratio;
  const branch = u * current;
  const pathLoss = branch ** 2 * drive.pathResistance;
  return {
    throttle,
    pathLoss,
    controllerIn: rail * branch - pathLoss,
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
  };
}

/** A motor that its duty cannot overcome friction with: it stands still, and what it draws is not modelled. */
const atRest = (point: UnitPoint): UnitPoint => ({
  ...point,
  pathLoss: 0,
  controllerIn: 0,
  controllerLoss: 0,
  motorVoltage: 0,
  current: 0,
  motorIn: 0,
  motorLoss: 0,
  thrust: point.thrust,
});

const packFields = (source: Source, voltage: number, driveCurrent: number) => {
  const packCurrent = driveCurrent + (voltage > 0 ? source.otherLoad / voltage : 0);
  return { packVoltage: voltage, packCurrent, packLoss: packCurrent ** 2 * source.resistance, otherLoad: source.otherLoad };
};

/**
 * Equilibrium of pack, controller, motor, gearing and propeller at one throttle and flight speed. The controller is a duty: it hands the
 * motor u·V less its own resistive drop and draws u·I from the pack. One bracketed root in motor speed, the pack's sag inside it.
 *
 * @param throttle 0 to 1
 * @param speed along the propeller's axis, m/s, ≥ 0
 * @returns the operating point; "overloaded" when the pack cannot even feed the other loads; "windmilling" when the air drives the propeller
 * Source: averaged model of a pulse-width controller (switching losses left out: a few per cent at part throttle, common practice).
 */
export function solveChain(drive: Drive, source: Source, throttle: number, speed = 0): ChainResult {
  const u = dutyOf(drive, throttle);
  const idle = terminalVoltage(source, 0);
  if (idle === null) return { status: "overloaded" };
  const railAt = (current: number) => terminalVoltage(source, drive.count * u * current) ?? 0;
  const balance = (n: number) => {
    const current = currentAt(drive, n, speed);
    return imbalance(drive, u, n, current, railAt(current));
  };
  if (balance(0) <= 0) return { status: "converged", point: { ...atRest(unitPoint(drive, throttle, u, 0, speed, idle)), ...packFields(source, idle, 0) } };
  const top = u * source.openCircuit * drive.motor.kv;
  const found = findRoot(balance, 0, top, top * 1e-9);
  if (found.status === "noBracket" && found.high > 0) return { status: "windmilling" };
  if (found.status !== "converged") return { status: found.status };
  const rail = railAt(currentAt(drive, found.x, speed));
  const point = unitPoint(drive, throttle, u, found.x, speed, rail);
  return { status: "converged", point: { ...point, ...packFields(source, rail, drive.count * u * point.current) } };
}

/** A drive and the throttle (0 to 1) at which it works. */
export interface Command {
  drive: Drive;
  throttle: number;
}
export type PackResult = { status: "converged"; points: OperatingPoint[] } | { status: Unsolved };

/**
 * Equilibrium of several unlike drives on one pack: they share its sag. A bracketed root in the rail's voltage, with one in each motor's speed inside it:
 * the more the drives draw, the lower the rail, so the balance falls steadily with the voltage assumed.
 * One drive alone is solved by `solveChain`; both methods agree (tested).
 */
export function solvePack(commands: readonly Command[], source: Source, speed = 0): PackResult {
  const [only] = commands;
  if (commands.length === 1 && only) {
    const alone = solveChain(only.drive, source, only.throttle, speed);
    return alone.status === "converged" ? { status: "converged", points: [alone.point] } : alone;
  }
  return solveShared(commands, source, speed);
}

/** The general solver behind `solvePack`, for any number of drives. */
export function solveShared(commands: readonly Command[], source: Source, speed = 0): PackResult {
  const idle = terminalVoltage(source, 0);
  if (idle === null) return { status: "overloaded" };
  let failed: Unsolved | null = null;
  /** Motor speed of one drive at a rail voltage; 0 when it stands still. */
  const speedOf = ({ drive, throttle }: Command, rail: number): number => {
    const u = dutyOf(drive, throttle);
    const at = (n: number) => imbalance(drive, u, n, currentAt(drive, n, speed), rail);
    if (u <= LEAST_THROTTLE || at(0) <= 0) return 0;
    const top = u * rail * drive.motor.kv;
    const found = findRoot(at, 0, top, top * 1e-8);
    if (found.status === "converged") return found.x;
    failed = found.status === "noBracket" && found.high > 0 ? "windmilling" : found.status;
    return 0;
  };
  const drawn = (rail: number) =>
    commands.reduce((sum, command) => {
      const n = speedOf(command, rail);
      return n > 0 ? sum + command.drive.count * dutyOf(command.drive, command.throttle) * currentAt(command.drive, n, speed) : sum;
    }, 0);
  const balance = (rail: number) => (terminalVoltage(source, drawn(rail)) ?? 0) - rail;
  const full = balance(idle);
  // No drive draws anything: the rail stands where the other loads leave it.
  const found = Math.abs(full) < 1e-9 ? { status: "converged" as const, x: idle } : findRoot(balance, idle * 1e-3, idle, idle * 1e-8);
  if (found.status !== "converged") return { status: found.status };
  failed = null;
  const points = commands.map((command): UnitPoint => {
    const u = dutyOf(command.drive, command.throttle);
    const n = speedOf(command, found.x);
    const point = unitPoint(command.drive, command.throttle, u, n, speed, found.x);
    return n > 0 ? point : atRest(point);
  });
  if (failed !== null) return { status: failed };
  const pack = packFields(source, found.x, drawn(found.x));
  return { status: "converged", points: points.map((p) => ({ ...p, ...pack })) };
}

/**
 * Common throttle (0 to 1) at which these drives together push `thrust` newtons, the rest of the craft at rest.
 * @returns null when full throttle is not enough
 */
export function throttleForThrust(drives: readonly Drive[], source: Source, thrust: number, limit = 1, speed = 0): number | null {
  const total = (u: number) => {
    const r = solvePack(
      drives.map((drive) => ({ drive, throttle: u })),
      source,
      speed,
    );
    if (r.status === "windmilling") return -1e-6;
    return r.status === "converged" ? r.points.reduce((s, p, k) => s + p.thrust * (drives[k]?.count ?? 1), 0) : Number.NaN;
  };
  if (!(total(limit) >= thrust)) return null;
  const found = findRoot((u) => total(u) - thrust, 0, limit, 1e-5, 60);
  return found.status === "converged" ? found.x : null;
}
