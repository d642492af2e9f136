import { tipMachAt } from "./outside";
import { findRoot } from "../../numeric/root";
import { type OperatingPoint, solvePack } from "./chain";
import { type PackState, type Unsolved, throttleForThrust } from "./state";
import { type EnduranceResult, endurance } from "../energy/endurance";
import { notCovered } from "./covered";
import { kindOf } from "./kinds/models";
import { onGroundByModel } from "./kinds/which";
import type { Driven } from "./inputs";
import { type PackSetup, type PowerSetup, setUp } from "./setup";

/**
 * The scalar results of the whole craft standing still at its throttle limits. Those of one drive are the leading
 * one's: the first that the craft is judged by.
 */
export interface PowerValues {
  thrust: number;
  current: number;
  packCurrent: number;
  packVoltage: number;
  packPower: number;
  rpm: number;
  torque: number;
  motorLoss: number;
  tipMach: number;
  thrustToWeight: number;
  thrustThrottle: number;
  endurance: number;
  speed: number;
}
export type PowerKey = keyof PowerValues;

/** Results of one drive with everything on its pack at full throttle; thrust of all its like units. */
export interface UnitValues {
  id: string;
  thrust: number;
  current: number;
  rpm: number;
  torque: number;
  motorLoss: number;
  tipMach: number;
}
/** Results of one pack with everything on it at full throttle; endurance at the duty. */
export interface PackValues {
  id: string;
  current: number;
  voltage: number;
  power: number;
  endurance: number;
}

export interface Nominal {
  craft: PowerValues;
  units: UnitValues[];
  packs: PackValues[];
}
export type SolvedAll =
  | {
      status: "converged";
      points: OperatingPoint[] /** of each pack, where the next solution nearby starts */;
      states: (PackState | null)[];
    }
  | { status: Unsolved };

/**
 * Every pack solved with the drives of `which` at `throttle` of their limits, the others at rest; points in the
 * design's order.
 */
export function solveAll(
  setup: PowerSetup,
  throttle: number,
  speed: number,
  which: readonly number[],
  near: readonly (PackState | null)[] | null = null,
): SolvedAll {
  const points: OperatingPoint[] = [];
  const states: (PackState | null)[] = [];
  for (const [p, { start, units }] of setup.packs.entries()) {
    const commands = units.flatMap((i) => {
      const unit = setup.units[i];
      return unit ? [{ drive: unit.drive, throttle: which.includes(i) ? throttle * unit.limit : 0 }] : [];
    });
    // A drive at rest beside one that works leaves the single-drive solution as it is.
    const working = commands.filter((c) => c.throttle > 0);
    const solved = solvePack(working.length > 0 ? working : commands, start, speed, near?.[p] ?? null);
    if (solved.status !== "converged") return solved;
    states.push(solved.state);
    const resting = working.length < commands.length && working.length > 0 ? solved.points[0] : null;
    let k = 0;
    units.forEach((i, j) => {
      const at = commands[j];
      if (!at) return;
      if (resting && at.throttle === 0) points[i] = still(resting);
      else points[i] = solved.points[k++] as OperatingPoint;
    });
  }
  return { status: "converged", points, states };
}

/** A drive at rest on a pack that others load. */
const still = (other: OperatingPoint): OperatingPoint => ({
  ...other,
  throttle: 0,
  pathLoss: 0,
  controllerIn: 0,
  controllerLoss: 0,
  motorVoltage: 0,
  current: 0,
  motorIn: 0,
  motorLoss: 0,
  motorRpm: 0,
  motorTorque: 0,
  shaftPower: 0,
  gearLoss: 0,
  rpm: 0,
  torque: 0,
  propellerPower: 0,
  thrust: 0,
});
/** Indices of all drives. */
export const indices = (setup: { units: readonly unknown[] }) => setup.units.map((_, i) => i);
/** Thrust (N) of these drives with all their like units. */
export const thrustOf = (setup: PowerSetup, points: readonly OperatingPoint[], which: readonly number[]) =>
  which.reduce((s, i) => s + (points[i]?.thrust ?? 0) * (setup.units[i]?.drive.count ?? 0), 0);
/** Drag (N) at a speed (m/s); null while nobody knows it, and at a speed at which wings carry nothing. */
export const dragAt = (setup: PowerSetup, speed: number) =>
  setup.drag === null || (setup.onWings && !(speed > 0)) ? null : setup.drag(speed);
/** Full thrust of the main drives at a speed over the drag there, N; 0 thrust where the drives windmill. */
export function surplusAt(setup: PowerSetup, speed: number): number {
  const s = solveAll(setup, 1, speed, setup.main);
  return (s.status === "converged" ? thrustOf(setup, s.points, setup.main) : 0) - (dragAt(setup, speed) ?? 0);
}
/** Whether nobody knows what a drive of a pack draws in use. */
const drawUnknownOf = (setup: PowerSetup, p: PackSetup, k: number): boolean => {
  const u = setup.units[p.units[k] ?? -1];
  return u !== undefined && (u.drive.measured?.draws === false || onGroundByModel(u.unit));
};
/** The discharge of one pack at its share of the duty; null without a duty. */
export const enduranceOf = (setup: PowerSetup, p: PackSetup, steps?: number): EnduranceResult | null =>
  p.phases.length === 0 || p.phases.some((f) => f.drives.some((k) => drawUnknownOf(setup, p, k)))
    ? null
    : endurance(
        p.units.flatMap((i) => {
          const u = setup.units[i];
          return u ? [{ drive: u.drive, limit: u.limit }] : [];
        }),
        p.pack,
        p.phases,
        steps,
      );

/**
 * Throttle (share of the limits) at which the main drives push `thrust` at `speed`; null when they cannot. On one
 * pack exactly; on several by a common throttle.
 */
export function mainThrottle(setup: PowerSetup, thrust: number, speed = 0): number | null {
  const [first] = setup.main;
  const pack = setup.packs.find((p) => first !== undefined && p.units.includes(first));
  if (!pack) return null;
  if (setup.main.every((i) => pack.units.includes(i)) && setup.main.every((i) => setup.units[i]?.limit === 1))
    return throttleForThrust(
      setup.main.flatMap((i) => setup.units[i]?.drive ?? []),
      pack.start,
      thrust,
      1,
      speed,
    );
  const total = (u: number) => {
    const s = solveAll(setup, u, speed, setup.main);
    return s.status === "converged"
      ? thrustOf(setup, s.points, setup.main)
      : s.status === "windmilling"
        ? -1e-6
        : Number.NaN;
  };
  if (!(total(1) >= thrust)) return null;
  const found = findRoot((u) => total(u) - thrust, 0, 1, 1e-5, 60);
  return found.status === "converged" ? found.x : null;
}

/** Beyond this speed no search is made, m/s. */
export const FASTEST = 120;
/**
 * Speed (m/s) at which full thrust meets the drag; NaN without a drag area, or for a craft that is not pushed along.
 */
function topSpeed(setup: PowerSetup): number {
  const direction = setup.units[setup.main[0] ?? 0]?.unit.direction;
  if (setup.drag === null || (direction !== "ahead" && direction !== "astern")) return Number.NaN;
  const surplus = (v: number) => surplusAt(setup, v);
  // On wings it is slow flight, too, that full thrust may not hold: the fastest is looked for from above.
  const { onWings } = setup;
  let [low, high] = onWings ? [FASTEST / 1.1, FASTEST] : [0, 2];
  if (onWings) while (low > 1 && !(surplus(low) > 0)) [low, high] = [low / 1.1, low];
  else while (surplus(high) > 0 && high < FASTEST) high *= 1.6;
  const found = findRoot(surplus, low, high, 1e-3, 60);
  return found.status === "converged" ? found.x : Number.NaN;
}

/** What one drive gives at these points: thrust (N) of all its like units, the rest of one of them. */
export function unitValuesOf(setup: PowerSetup, points: readonly OperatingPoint[], i: number): UnitValues {
  const p = points[i] as OperatingPoint;
  const u = setup.units[i];
  return {
    id: u?.unit.id ?? "",
    thrust: p.thrust * (u?.drive.count ?? 1),
    current: p.current,
    rpm: p.rpm,
    torque: p.torque,
    motorLoss: p.motorLoss,
    tipMach: u ? tipMachAt(u, p.rpm) : Number.NaN,
  };
}

/** All scalar results of one set of numbers; NaN where a result does not apply. Null when a pack has no solution. */
export function nominalPower(setup: PowerSetup, steps?: number): Nominal | null {
  const everything = solveAll(setup, 1, 0, indices(setup));
  if (everything.status !== "converged") return null;
  const alone = setup.main.length === setup.units.length ? everything : solveAll(setup, 1, 0, setup.main);
  if (alone.status !== "converged") return null;
  const units = setup.units.map((_, i) => unitValuesOf(setup, everything.points, i));
  const packs = setup.packs.map((p): PackValues => {
    const first = everything.points[p.units[0] ?? -1];
    const voltage = first?.packVoltage ?? p.start.openCircuit;
    const current = first?.packCurrent ?? p.start.otherLoad / voltage;
    return {
      id: p.battery.id,
      current,
      voltage,
      power: voltage * current,
      endurance: enduranceOf(setup, p, steps)?.seconds ?? Number.NaN,
    };
  });
  const lead = setup.main[0] ?? 0;
  const leading = units[lead];
  const pack = packs[setup.packs.findIndex((p) => p.units.includes(lead))];
  const thrust = thrustOf(setup, alone.points, setup.main);
  const lasting = packs.map((p) => p.endurance).filter((s) => !Number.isNaN(s));
  return {
    units,
    packs,
    craft: {
      thrust,
      current: leading?.current ?? Number.NaN,
      packCurrent: pack?.current ?? Number.NaN,
      packVoltage: pack?.voltage ?? Number.NaN,
      packPower: pack?.power ?? Number.NaN,
      rpm: leading?.rpm ?? Number.NaN,
      torque: leading?.torque ?? Number.NaN,
      motorLoss: leading?.motorLoss ?? Number.NaN,
      tipMach: leading?.tipMach ?? Number.NaN,
      thrustToWeight: setup.weight === null ? Number.NaN : thrust / setup.weight,
      thrustThrottle: setup.weight === null ? Number.NaN : (mainThrottle(setup, setup.weight) ?? Number.NaN),
      endurance: lasting.length > 0 ? Math.min(...lasting) : Number.NaN,
      speed: topSpeed(setup),
    },
  };
}

/** Whether the drives of a design can be solved at all: they are there, and the method holds for them. */
export const computable = (design: Pick<Driven, "states" | "gasLift" | "units" | "batteries">): boolean =>
  missingOf(design).length === 0 && notCovered(design) === null;

/**
 * The design's drives as the solvers take them, nominal values; null while drive or pack is missing, or where the
 * method does not hold.
 */
export function nominalSetup(design: Driven, mass: number | null): PowerSetup | null {
  if (!computable(design)) return null;
  return setUp(design, new Map(mass === null ? [] : [["/mass", mass]]));
}

/** What a design lacks for its drives to be solved: every drive needs the pack that it names. */
export function missingOf(design: Pick<Driven, "units" | "batteries">): ("drive" | "pack")[] {
  const fed = design.units.every((u) => design.batteries.some((b) => b.id === u.batteryId));
  return [
    ...(design.units.length > 0 ? [] : ["drive" as const]),
    ...(design.batteries.length > 0 && fed ? [] : ["pack" as const]),
  ];
}
/**
 * Speed (m/s) at which what is on its shaft, at its standing rpm, would only just follow its own advance a turn: where
 * thrust is about gone.
 */
export function pitchSpeed(setup: PowerSetup): number {
  const i = setup.main[0] ?? 0;
  const s = solveAll(setup, 1, 0, setup.main);
  const unit = setup.units[i];
  const p = unit?.unit.propulsor;
  const turn = p ? kindOf(p).advance(p) : (unit?.propeller?.pitch ?? null);
  return s.status === "converged" && turn !== null ? ((s.points[i]?.rpm ?? 0) / 60) * turn * 1.15 : 10;
}
