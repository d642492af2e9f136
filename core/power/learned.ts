import type { Learned, Unit } from "../design/schema";
import type { PropellerMap } from "./propeller";

/** A model map with what a stand found of it: thrust and torque scaled, everything else as modelled. */
export const scaledMap = (map: PropellerMap, thrust: number, torque: number): PropellerMap =>
  thrust === 1 && torque === 1
    ? map
    : {
        at: (rpm, speed) => {
          const load = map.at(rpm, speed);
          return { thrust: load.thrust * thrust, torque: load.torque * torque };
        },
        torque: (rpm, speed) => map.torque(rpm, speed) * torque,
        maxRpm: map.maxRpm,
        solved: map.solved,
      };

/** Duty (0 to 1) that the controller gives at a throttle command, by the points that a sweep found; straight between them. */
export function dutyOf(points: Learned["throttle"]): (command: number) => number {
  return (command) => {
    const k = points.findIndex((p) => p.command >= command);
    const [a, b] = [points[Math.max(0, k - 1)], points[k < 0 ? points.length - 1 : k]];
    if (!a || !b) return command;
    return b.command > a.command ? a.duty + (b.duty - a.duty) * Math.min(1, Math.max(0, command - a.command) / (b.command - a.command)) : b.duty;
  };
}

/** Parts that a drive has now and did not have on the stand; empty: what was learned still holds of the drive itself. */
export function partsChanged(unit: Unit, of: Learned["of"]): ("motor" | "controller" | "gearing" | "propeller")[] {
  const differs = (a: unknown, b: unknown) => JSON.stringify(numbersIn(a)) !== JSON.stringify(numbersIn(b));
  return [
    ...(differs(unit.motor, of.motor) ? ["motor" as const] : []),
    ...(differs(unit.controller, of.controller) ? ["controller" as const] : []),
    ...(differs(unit.gear, of.gear) ? ["gearing" as const] : []),
    ...(differs(unit.propeller, of.propeller) ? ["propeller" as const] : []),
  ];
}
/** What a part is, without how its figures are known: to know a number better is not to change the part. */
const numbersIn = (x: unknown): unknown =>
  typeof x === "object" && x !== null ? ("value" in x ? x.value : Object.fromEntries(Object.entries(x).map(([k, v]) => [k, numbersIn(v)]))) : x;

/** Whether the pack is another than the one that fed the stand. */
export const packChanged = (now: { chemistry: string; series: number; capacity: { value: number } } | undefined, then: Learned["pack"]): boolean =>
  now !== undefined && then !== null && (now.chemistry !== then.chemistry || now.series !== then.series || Math.abs(now.capacity.value / then.capacity.value - 1) > 0.02);

/** Whether what was learned counts for this drive. */
export const learnedHolds = (unit: Unit): boolean => unit.learned !== null && unit.learned !== undefined && partsChanged(unit, unit.learned.of).length === 0;
