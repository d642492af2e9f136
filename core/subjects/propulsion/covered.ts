import type { Unit } from "../../design/schema";
import { type Supported, supportOf } from "../../design/support";

type Drives = { units: readonly Pick<Unit, "name" | "surroundings" | "direction">[] };

const WHERE = {
  "boxed or ducted": "in a box or duct",
  "overlapped or coaxial": "overlapped or coaxial with another",
} as const;

/**
 * Why the drives of a craft are not computed, as a sentence; null when the method holds for them or may be assumed
 * to.
 */
export function notCovered(design: Supported & Drives): string | null {
  const held = supportOf(design);
  const { units } = design;
  for (const u of units) {
    if (u.surroundings === "not a propeller")
      return `${u.name} is no propeller: drums, wheels, tracks, jets and paddles are not computed so far`;
    if (u.surroundings === "in water" && held.onGround)
      return `${u.name} works in water on a craft that goes on the ground: drums, wheels and tracks are not computed so far`;
    if (u.surroundings === "boxed or ducted" || u.surroundings === "overlapped or coaxial")
      return `${u.name} works ${WHERE[u.surroundings]}: only open propellers by themselves, in air or water, are computed so far`;
    if (held.beats && u.direction === "up")
      return `${u.name} carries a flapping craft: flapping wings are not computed so far`;
    if (u.surroundings === null && !held.inAir) return `where ${u.name} works is not said: in the air or in water`;
  }
  return null;
}

/** What is assumed of the drives and was never said, as a sentence; null when nothing is. */
export function assumed({ units }: Drives): string | null {
  const silent = units.filter((u) => u.surroundings === null);
  return silent.length === 0
    ? null
    : `where ${silent.map((u) => u.name).join(", ")} ${silent.length === 1 ? "works" : "work"} is not said: free air is assumed`;
}

/** Whether a drive stands in water. */
export const wetDrive = ({ units }: { units: readonly Pick<Unit, "surroundings">[] }): boolean =>
  units.some((u) => u.surroundings === "in water");
