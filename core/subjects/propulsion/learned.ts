import { WARM_WINDING } from "./motor";
import type { Learned, Unit } from "../../design/schema";
import type { ShaftMap } from "./shaft";

/** A model map with what a stand found of it: thrust and torque scaled, everything else as modelled. */
export const scaledMap = (map: ShaftMap, thrust: number, torque: number, moving = 1): ShaftMap =>
  thrust === 1 && torque === 1 && moving === 1
    ? map
    : {
        at: (rpm, speed) => {
          const load = map.at(rpm, speed);
          return {
            thrust: load.thrust * thrust * (speed !== undefined && speed > 0 ? moving : 1),
            torque: load.torque * torque,
          };
        },
        torque: (rpm, speed) => map.torque(rpm, speed) * torque,
        solved: map.solved,
      };

/**
 * Duty (0 to 1) that the controller gives at a throttle command, by the points that a sweep found; straight between
 * them.
 */
export function dutyOf(points: Learned["throttle"]): (command: number) => number {
  return (command) => {
    const k = points.findIndex((p) => p.command >= command);
    const [a, b] = [points[Math.max(0, k - 1)], points[k < 0 ? points.length - 1 : k]];
    if (!a || !b) return command;
    return b.command > a.command
      ? a.duty + (b.duty - a.duty) * Math.min(1, Math.max(0, command - a.command) / (b.command - a.command))
      : b.duty;
  };
}

/**
 * Parts that a drive has now and did not have on the stand; empty: what was learned still holds of the drive itself.
 */
export function partsChanged(unit: Unit, of: Learned["of"]): ("motor" | "controller" | "gearing" | "propeller")[] {
  const differs = (a: unknown, b: unknown) => JSON.stringify(numbersIn(a)) !== JSON.stringify(numbersIn(b));
  return [
    ...(differs(unit.motor, of.motor) ? ["motor" as const] : []),
    ...(differs(unit.controller, of.controller) ? ["controller" as const] : []),
    ...(differs(unit.gear, of.gear) ? ["gearing" as const] : []),
    ...(differs(unit.propulsor ?? unit.propeller, of.propulsor ?? of.propeller) ? ["propeller" as const] : []),
  ];
}
/**
 * What a part is, without how its figures are known: to know a number better is not to change the part. The order of
 * fields does not count.
 */
const numbersIn = (x: unknown): unknown =>
  typeof x === "object" && x !== null
    ? "value" in x
      ? x.value
      : Object.fromEntries(
          Object.entries(x)
            .sort(([a], [b]) => (a < b ? -1 : 1))
            .map(([k, v]) => [k, numbersIn(v)]),
        )
    : x;

/**
 * A short sign of all drives and packs as they are, without how their figures are known: the same as long as nothing
 * of them is changed: parts, number, spin, where each stands where that is said. FNV-1a over their figures.
 */
export function drivesSign({
  units,
  batteries,
}: {
  units: readonly Unit[];
  batteries: readonly { id: string; chemistry: string; series: number }[];
}): string {
  const text = JSON.stringify([
    units.map((u) =>
      numbersIn([
        ...[u.motor, u.controller, u.gear, u.propulsor ?? u.propeller, u.count, u.spin, u.batteryId],
        ...[u.places, u.direction, u.tilt],
      ]),
    ),
    batteries.map((b) => [b.id, b.chemistry, b.series]),
  ]);
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return hash.toString(16).padStart(8, "0");
}

/** Whether the pack is another than the one that fed the stand. */
export const packChanged = (
  now: { chemistry: string; series: number; capacity: { value: number } } | undefined,
  then: Learned["pack"],
): boolean =>
  now !== undefined &&
  then !== null &&
  (now.chemistry !== then.chemistry ||
    now.series !== then.series ||
    Math.abs(now.capacity.value / then.capacity.value - 1) > 0.02);

/** Whether what was learned counts for this drive. */
export const learnedHolds = (unit: Unit): boolean =>
  unit.learned !== null && unit.learned !== undefined && partsChanged(unit, unit.learned.of).length === 0;

/** What of a sweep counts for a drive as it is now. */
export interface Taught {
  kv: Learned["kv"];
  thrust: Learned["thrust"];
  torque: Learned["torque"];
  /** null: the throttle is the duty */
  throttle: Learned["throttle"] | null;
  /** The very drive that was on the stand; else one like it, with more doubt. */
  exact: boolean;
}

/**
 * How unlike two propellers may be for the model to be wrong by about as much with both, and the doubt that this adds
 * (judgement).
 */
const ALIKE = 1.33;
const CARRIED = { thrust: 0.08, torque: 0.12 };

/** The winding's resistance at work over the one that is stated: what a stand taught was fitted to the stated one. */
export const windingOf = (unit: Unit): number => (taughtOf(unit) ? 1 : WARM_WINDING.value);

/**
 * What a sweep taught, for the drive as it is. With its parts unchanged, all of it. After a change the model is taken
 * to be wrong by about as much with a propeller of as many blades and
 * within a third of the size: the factors are carried over with more doubt, the Kv while the motor is the same, the
 * throttle curve while motor and controller are. Else nothing.
 */
export function taughtOf(unit: Unit): Taught | null {
  const { learned } = unit;
  if (!learned) return null;
  const { kv, thrust, torque, throttle } = learned;
  const changed = partsChanged(unit, learned.of);
  if (changed.length === 0) return { kv, thrust, torque, throttle, exact: true };
  // Of another kind nothing is known of how wrong its model is.
  if (unit.propulsor || learned.of.propulsor) return null;
  const [now, then] = [unit.propeller, learned.of.propeller];
  const size = now.diameter.value / then.diameter.value;
  if (now.blades !== then.blades || size > ALIKE || size < 1 / ALIKE) return null;
  const motor = !changed.includes("motor");
  const wide = (f: Learned["thrust"], doubt: number) => ({ value: f.value, sd: Math.hypot(f.sd, doubt * f.value) });
  return {
    kv: motor ? kv : { value: 1, sd: 0 },
    thrust: wide(thrust, CARRIED.thrust),
    torque: wide(torque, CARRIED.torque),
    throttle: motor && !changed.includes("controller") ? throttle : null,
    exact: false,
  };
}
