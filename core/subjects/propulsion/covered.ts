import type { HeldUpBy, Unit } from "../../design/schema";

/**
 * Ways of being held up for which a propeller usually stands in the air, so that this may be assumed until it is
 * said.
 */
const IN_AIR: readonly HeldUpBy[] = ["wings", "rotors", "gas"];

type Asked = { heldUpBy: HeldUpBy; units: readonly Pick<Unit, "name" | "surroundings" | "direction">[] };

const WHERE = {
  "boxed or ducted": "in a box or duct",
  "overlapped or coaxial": "overlapped or coaxial with another",
} as const;

/**
 * Why the drives of a craft are not computed, as a sentence; null when the method holds for them or may be assumed
 * to.
 */
export function notCovered({ heldUpBy, units }: Asked): string | null {
  for (const u of units) {
    if (u.surroundings === "not a propeller")
      return `${u.name} is no propeller: drums, wheels, tracks, jets and paddles are not computed so far`;
    if (u.surroundings === "in water" && heldUpBy === "ground")
      return `${u.name} works in water on a craft that goes on the ground: drums, wheels and tracks are not computed so far`;
    if (u.surroundings === "boxed or ducted" || u.surroundings === "overlapped or coaxial")
      return `${u.name} works ${WHERE[u.surroundings]}: only open propellers by themselves, in air or water, are computed so far`;
    if (heldUpBy === "flapping" && u.direction === "up")
      return `${u.name} carries a flapping craft: flapping wings are not computed so far`;
    if (u.surroundings === null && !IN_AIR.includes(heldUpBy))
      return `where ${u.name} works is not said: in the air or in water`;
  }
  return null;
}

/** What is assumed of the drives and was never said, as a sentence; null when nothing is. */
export function assumed({ units }: Asked): string | null {
  const silent = units.filter((u) => u.surroundings === null);
  return silent.length === 0
    ? null
    : `where ${silent.map((u) => u.name).join(", ")} ${silent.length === 1 ? "works" : "work"} is not said: free air is assumed`;
}

/** Whether a drive stands in water. */
export const wetDrive = ({ units }: { units: readonly Pick<Unit, "surroundings">[] }): boolean =>
  units.some((u) => u.surroundings === "in water");

/** Ways of being held up whose drag in the air is not what holds them back. */
export const dragsInAir = (heldUpBy: HeldUpBy): boolean => IN_AIR.includes(heldUpBy) || heldUpBy === "flapping";
