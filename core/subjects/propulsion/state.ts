import { findRoot } from "../../numeric/root";
import { type Motor, noLoadAt, torqueConstant } from "./motor";
import type { MeasuredCurve } from "./measured/curve";
import type { ShaftMap } from "./shaft";

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
  propeller: ShaftMap;
  /** Duty (0 to 1) that a throttle gives, as measured on a stand; the throttle itself when left out. */
  duty?: (throttle: number) => number;
  /** What one unit was measured to push and to draw: it stands for motor, gearing and propeller. */
  measured?: MeasuredCurve;
}

/**
 * A pack at one moment: source voltage (V), resistance with its main path (Ω), and steady power that other things
 * draw from it (W).
 */
export interface Source {
  openCircuit: number;
  resistance: number;
  otherLoad: number;
}

/**
 * How a solver ended when it did not converge. windmilling: the air drives the propeller at this throttle and speed.
 */
export type Unsolved = "overloaded" | "windmilling" | "iterationLimit" | "noBracket" | "notFinite";

/** Terminal voltage of a pack (V) that feeds `current` to the drives and `other` watts besides; null when it cannot. */
export function terminalVoltage(source: Source, current: number): number | null {
  const open = source.openCircuit - source.resistance * current;
  const discriminant = open * open - 4 * source.resistance * source.otherLoad;
  if (open <= 0 || discriminant < 0) return null;
  return (open + Math.sqrt(discriminant)) / 2;
}

/** Throttle below which a motor does not turn is not modelled: this is the least that the solver accepts. */
export const LEAST_THROTTLE = 1e-3;

export const dutyOf = (drive: Drive, throttle: number): number =>
  Math.max(drive.duty ? drive.duty(throttle) : throttle, LEAST_THROTTLE);

/** A drive and the throttle (0 to 1) at which it works. */
export interface Command {
  drive: Drive;
  throttle: number;
}

/**
 * How often a state was found from nothing and how often it was followed from one nearby: what tests hold the work of
 * an edit against.
 */
export const WORK = { solved: 0, followed: 0 };

/**
 * What a pack and its drives settle at: the rail's voltage (V) and each motor's speed (rpm; 0: it stands still; of a
 * measured curve 1 while it works, for nobody knows it). All else follows from these.
 */
export interface PackState {
  rail: number;
  speeds: number[];
}
export type StateResult = ({ status: "converged" } & PackState) | { status: Unsolved };

/** Motor current (A) that a speed of the motor asks for. */
function currentAt(drive: Drive, motorRpm: number, speed: number): number {
  const torque = drive.propeller.torque(motorRpm / drive.ratio, speed) / (drive.ratio * drive.gearEfficiency);
  return torque / torqueConstant(drive.motor.kv) + noLoadAt(drive.motor, motorRpm);
}

/**
 * By how much the voltages of one unit fail to balance: u·V − I·(R_esc + u²·R_path) − I·R_m − n/Kv. Falls with motor
 * speed.
 */
const imbalance = (drive: Drive, u: number, motorRpm: number, current: number, rail: number): number =>
  u * (rail - u * current * drive.pathResistance) -
  current * (drive.controllerResistance + drive.motor.resistance) -
  motorRpm / drive.motor.kv;

/** Current (A) that one unit draws from the rail at this speed of its motor. */
const drawnBy = ({ drive, throttle }: Command, motorRpm: number, rail: number, speed: number): number =>
  drive.measured ? drive.measured.current(throttle, rail) : dutyOf(drive, throttle) * currentAt(drive, motorRpm, speed);

/** One drive alone: one bracketed root in motor speed, the pack's sag inside it. */
function solveAlone(drive: Drive, source: Source, throttle: number, speed: number, idle: number): StateResult {
  const u = dutyOf(drive, throttle);
  const railAt = (current: number) => terminalVoltage(source, drive.count * u * current) ?? 0;
  const balance = (n: number) => {
    const current = currentAt(drive, n, speed);
    return imbalance(drive, u, n, current, railAt(current));
  };
  if (balance(0) <= 0) return { status: "converged", rail: idle, speeds: [0] };
  const top = u * source.openCircuit * drive.motor.kv;
  const found = findRoot(balance, 0, top, top * 1e-9);
  if (found.status === "noBracket" && found.high > 0) return { status: "windmilling" };
  if (found.status !== "converged") return { status: found.status };
  return { status: "converged", rail: railAt(currentAt(drive, found.x, speed)), speeds: [found.x] };
}

/** Any number of drives: a bracketed root in the rail's voltage, with one in each motor's speed inside it. */
export function solveTogether(commands: readonly Command[], source: Source, speed: number, idle: number): StateResult {
  let failed: Unsolved | null = null;
  const speeds = commands.map(() => 0);
  /** Motor speed of one drive at a rail voltage; 0 when it stands still. */
  const speedOf = ({ drive, throttle }: Command, rail: number): number => {
    if (drive.measured) return throttle > LEAST_THROTTLE ? 1 : 0;
    const u = dutyOf(drive, throttle);
    const at = (n: number) => imbalance(drive, u, n, currentAt(drive, n, speed), rail);
    if (u <= LEAST_THROTTLE || at(0) <= 0) return 0;
    const top = u * rail * drive.motor.kv;
    const found = findRoot(at, 0, top, top * 1e-8);
    if (found.status === "converged") return found.x;
    failed = found.status === "noBracket" && found.high > 0 ? "windmilling" : found.status;
    return 0;
  };
  const drawn = (rail: number) => {
    let sum = 0;
    for (let k = 0; k < commands.length; k++) {
      const command = commands[k] as Command;
      const n = speedOf(command, rail);
      speeds[k] = n;
      if (n > 0) sum += command.drive.count * drawnBy(command, n, rail, speed);
    }
    return sum;
  };
  const balance = (rail: number) => (terminalVoltage(source, drawn(rail)) ?? 0) - rail;
  // No drive draws anything: the rail stands where the other loads leave it.
  const found =
    Math.abs(balance(idle)) < 1e-9
      ? { status: "converged" as const, x: idle }
      : findRoot(balance, idle * 1e-3, idle, idle * 1e-8);
  if (found.status !== "converged") return { status: found.status };
  failed = null;
  drawn(found.x);
  return failed === null ? { status: "converged", rail: found.x, speeds: [...speeds] } : { status: failed };
}

/**
 * Where a pack and its drives settle, found from nothing: one bracketed root for one drive, nested ones for several
 * that share the sag. The more the drives draw, the lower the rail, so the
 * balance falls steadily with the voltage assumed.
 */
export function solveState(commands: readonly Command[], source: Source, speed = 0): StateResult {
  WORK.solved++;
  const idle = terminalVoltage(source, 0);
  if (idle === null) return { status: "overloaded" };
  const [only] = commands;
  return commands.length === 1 && only && !only.drive.measured
    ? solveAlone(only.drive, source, only.throttle, speed, idle)
    : solveTogether(commands, source, speed, idle);
}

/** Newton steps before a state counts as too far from where the search began. */
const STEPS = 14;
const CLOSE = 1e-9;

/**
 * The state near a known one: after a small change of an input, the charge or the speed. Newton's method on the whole
 * system (rail and all motor speeds, whose matrix is an arrow: solved by
 * elimination). With `thrust` (N, of all like units) the drives' common throttle is an unknown too, so that a wanted
 * thrust takes one solution and no search.
 *
 * @param from a state of the same drives nearby; a drive that stands still there stays out
 * @returns null when it does not settle: then `solveState` decides
 */
export function followState(
  commands: readonly Command[],
  source: Source,
  speed: number,
  from: PackState,
  demand: { thrust: number; limit: number } | null = null,
): (PackState & { throttle: number }) | null {
  WORK.followed++;
  const speeds = [...from.speeds];
  let rail = from.rail;
  let throttle = commands[0]?.throttle ?? 0;
  const few = commands.length;
  if (speeds.some((n) => n <= 0) || speeds.length !== few) return null;
  const [slope, gap, push, pull] = [
    new Array<number>(few),
    new Array<number>(few),
    new Array<number>(few),
    new Array<number>(few),
  ];
  for (let step = 0; step < STEPS; step++) {
    // Sums over the drives of what each contributes to the pack's balance and to the thrust, with its motor speed
    // eliminated.
    let [current, currentByRail, currentByThrottle, thrust, thrustByRail, thrustByThrottle, currentOwn, thrustOwn] = [
      0, 0, 0, 0, 0, 0, 0, 0,
    ];
    for (let k = 0; k < few; k++) {
      const { drive, throttle: own } = commands[k] as Command;
      const n = speeds[k] as number;
      const at = demand ? throttle : own;
      if (drive.measured) {
        // No speed of its own: it stays where it is, and all that it does depends on rail and throttle.
        [slope[k], gap[k], push[k], pull[k]] = [1, 0, 0, 0];
        const { measured, count } = drive;
        const dV = rail * 1e-5;
        const i = measured.current(at, rail);
        current += count * i;
        currentByRail += (count * (measured.current(at, rail + dV) - i)) / dV;
        if (demand) {
          const du = Math.min(1e-4, at / 2);
          const t = measured.force(at, rail);
          thrust += count * t;
          thrustByRail += (count * (measured.force(at, rail + dV) - t)) / dV;
          thrustByThrottle += (count * (t - measured.force(at - du, rail))) / du;
          currentByThrottle += (count * (i - measured.current(at - du, rail))) / du;
        }
        continue;
      }
      const u = dutyOf(drive, at);
      const i = currentAt(drive, n, speed);
      const dn = n * 1e-4;
      const iSlope = (currentAt(drive, n + dn, speed) - i) / dn;
      const g = imbalance(drive, u, n, i, rail);
      const gSlope =
        -iSlope * (u * u * drive.pathResistance + drive.controllerResistance + drive.motor.resistance) -
        1 / drive.motor.kv;
      slope[k] = gSlope;
      gap[k] = g;
      const draw = drive.count * u;
      current += draw * i;
      currentOwn -= (draw * iSlope * g) / gSlope;
      currentByRail -= (draw * iSlope * u) / gSlope;
      if (demand) {
        const du = Math.min(1e-4, at / 2);
        const uSlope = (u - dutyOf(drive, at - du)) / du;
        const gThrottle = (rail - 2 * u * i * drive.pathResistance) * uSlope;
        push[k] = gThrottle;
        currentByThrottle += drive.count * uSlope * i - (draw * iSlope * gThrottle) / gSlope;
        const t = drive.propeller.at(n / drive.ratio, speed).thrust;
        const tSlope = (drive.propeller.at((n + dn) / drive.ratio, speed).thrust - t) / dn;
        thrust += drive.count * t;
        thrustOwn -= (drive.count * tSlope * g) / gSlope;
        thrustByRail -= (drive.count * tSlope * u) / gSlope;
        thrustByThrottle -= (drive.count * tSlope * gThrottle) / gSlope;
      }
      pull[k] = u;
    }
    const terminal = terminalVoltage(source, current);
    if (terminal === null) return null;
    const open = source.openCircuit - source.resistance * current;
    const sag =
      (-source.resistance / 2) * (1 + open / Math.sqrt(open * open - 4 * source.resistance * source.otherLoad));
    // Two equations: the pack's voltage, and the thrust.
    const a = sag * currentByRail - 1;
    const b = sag * currentByThrottle;
    const r = -(terminal - rail + sag * currentOwn);
    let [dRail, dThrottle] = [r / a, 0];
    if (demand) {
      const s = -(thrust - demand.thrust + thrustOwn);
      const det = a * thrustByThrottle - b * thrustByRail;
      dRail = (r * thrustByThrottle - b * s) / det;
      dThrottle = (a * s - thrustByRail * r) / det;
      const next = throttle + dThrottle;
      dThrottle = (next > LEAST_THROTTLE ? Math.min(next, 1.3) : throttle / 2) - throttle;
    }
    if (!Number.isFinite(dRail + dThrottle)) return null;
    let moved = Math.abs(dRail) / rail + Math.abs(dThrottle);
    for (let k = 0; k < few; k++) {
      const by =
        -((gap[k] as number) + (pull[k] as number) * dRail + (demand ? (push[k] as number) * dThrottle : 0)) /
        (slope[k] as number);
      const n = speeds[k] as number;
      const next = n + by;
      if (!Number.isFinite(next)) return null;
      speeds[k] = next > 0.05 * n ? Math.min(next, 4 * n) : 0.05 * n;
      moved += Math.abs(by) / n;
    }
    rail = Math.max(rail + dRail, 0.05 * rail);
    throttle += dThrottle;
    if (moved < CLOSE) return demand && throttle > demand.limit * (1 + 1e-9) ? null : { rail, speeds, throttle };
  }
  return null;
}

/** The state near `from` where there is one, else found from nothing. */
export function stateNear(
  commands: readonly Command[],
  source: Source,
  speed: number,
  from: PackState | null,
): StateResult {
  const near = from && followState(commands, source, speed, from);
  return near ? { status: "converged", rail: near.rail, speeds: near.speeds } : solveState(commands, source, speed);
}

/** Current (A) that the drives draw from the pack in a state. */
export function drawnIn(commands: readonly Command[], state: PackState, speed: number): number {
  let sum = 0;
  for (let k = 0; k < commands.length; k++) {
    const command = commands[k] as Command;
    const n = state.speeds[k] as number;
    if (n > 0) sum += command.drive.count * drawnBy(command, n, state.rail, speed);
  }
  return sum;
}

/** Thrust (N) of the drives with all their like units in a state. */
export function thrustIn(commands: readonly Command[], state: PackState, speed: number): number {
  let sum = 0;
  for (let k = 0; k < commands.length; k++) {
    const { drive, throttle } = commands[k] as Command;
    if (drive.measured) sum += drive.count * drive.measured.force(throttle, state.rail);
    else sum += drive.count * drive.propeller.at((state.speeds[k] as number) / drive.ratio, speed).thrust;
  }
  return sum;
}

/** Current (A) from the pack with its other loads, at a rail voltage and a current of the drives. */
export const packCurrentIn = (source: Source, rail: number, drawn: number): number =>
  drawn + (rail > 0 ? source.otherLoad / rail : 0);

/**
 * Where drives settle that together push a wanted thrust (N) by a common throttle, the rest of the craft at rest.
 *
 * @param near a state of before, with its throttle, from which the search may start
 * @returns null when full throttle is not enough
 */
export function stateForThrust(
  drives: readonly Drive[],
  source: Source,
  thrust: number,
  limit = 1,
  speed = 0,
  near: (PackState & { throttle: number }) | null = null,
): (PackState & { throttle: number }) | null {
  const at = (throttle: number): Command[] => drives.map((drive) => ({ drive, throttle }));
  const demand = { thrust, limit };
  const followed = near && thrust > 0 ? followState(at(near.throttle), source, speed, near, demand) : null;
  if (followed) return followed;
  const commands = at(limit);
  const full = solveState(commands, source, speed);
  if (full.status !== "converged") return null;
  const most = thrustIn(commands, full, speed);
  if (!(most >= thrust)) return null;
  // Thrust goes about with the square of the speed of the propellers, and that with the throttle.
  const share = Math.sqrt(Math.max(thrust, 0) / most);
  const guess = { rail: full.rail, speeds: full.speeds.map((n) => n * share) };
  const found = share > 0.02 ? followState(at(limit * share), source, speed, guess, demand) : null;
  if (found) return found;
  const states = new Map<number, PackState>();
  const total = (u: number) => {
    const r = solveState(at(u), source, speed);
    if (r.status === "windmilling") return -1e-6;
    if (r.status !== "converged") return Number.NaN;
    states.set(u, r);
    return thrustIn(at(u), r, speed);
  };
  const root = findRoot((u) => total(u) - thrust, 0, limit, 1e-6, 80);
  if (root.status !== "converged") return null;
  const state = states.get(root.x) ?? solveState(at(root.x), source, speed);
  return "rail" in state ? { rail: state.rail, speeds: state.speeds, throttle: root.x } : null;
}

/**
 * Common throttle (0 to 1) at which these drives together push `thrust` newtons; null when full throttle is not
 * enough.
 */
export const throttleForThrust = (
  drives: readonly Drive[],
  source: Source,
  thrust: number,
  limit = 1,
  speed = 0,
): number | null => stateForThrust(drives, source, thrust, limit, speed)?.throttle ?? null;
