import { NARROWEST, aroundTold, openingsOf } from "./around/factor";
import { drawRead, voltsKnown } from "./measured/curve";
import type { Unit } from "../../design/schema";
import { type PushedOn, whereOf } from "./measured/declares";
import { type Supported, supportOf } from "../../design/support";

type Drives = {
  units: readonly Pick<Unit, "name" | "surroundings" | "direction" | "measured" | "around" | "propeller" | "count">[];
};

const WHERE = {
  "boxed or ducted": "in a box or duct",
  "overlapped or coaxial": "overlapped or coaxial with another",
} as const;
const TELL = {
  "boxed or ducted": "enter the openings that its flow passes (ducts are not computed so far)",
  "overlapped or coaxial": "enter how far apart the axes are, or that it is one of a pair",
} as const;

const IN_WATER: readonly PushedOn[] = ["fresh water", "sea water"];

/** Why a curve does not hold where its drive works: it was measured elsewhere. */
function elsewhere(name: string, m: NonNullable<Unit["measured"]>, works: Unit["surroundings"]): string | null {
  const wet = IN_WATER.includes(m.on);
  if (works === "in water" && !wet)
    return `${name} works in water and was measured ${whereOf(m.on)}: measure it where it works`;
  if (works === "free air" && m.on !== "air")
    return `${name} works in the air and was measured ${whereOf(m.on)}: measure it where it works`;
  if (!m.asBuilt && (works === "boxed or ducted" || works === "overlapped or coaxial"))
    return `${name} works ${WHERE[works]} and was measured by itself: weigh it as it is built in, 10 min`;
  return null;
}

/** Why what the drives push in motion is not known; null where it is computed: a curve measured standing tells nothing. */
export function standingOnly({
  units,
}: {
  units: readonly Pick<Unit, "name" | "measured" | "surroundings" | "around" | "propeller">[];
}): string | null {
  const names = units.filter((u) => u.measured || aroundTold(u)).map((u) => u.name);
  const known = units.some((u) => u.measured)
    ? "was not measured"
    : "is not computed: the factor of what is around it holds standing";
  return names.length === 0
    ? null
    : `what ${names.join(", ")} ${names.length === 1 ? "pushes" : "push"} in motion ${known}`;
}

/** How many units stand beside others. */
const beside = (units: readonly Pick<Unit, "surroundings" | "count">[]): number =>
  units.reduce((n, u) => n + (u.surroundings === "overlapped or coaxial" ? u.count : 0), 0);

/** Drives whose current was not read: what their pack gives, and how long, is not known. */
export const drawUnread = ({ units }: { units: readonly Pick<Unit, "name" | "measured">[] }): string[] =>
  units.flatMap((u) => (u.measured && !drawRead(u.measured) ? [u.name] : []));

/** Openings so narrow that the blades stall behind them. */
function tooNarrow(u: Pick<Unit, "name" | "surroundings" | "around" | "propeller">): string[] {
  if (!aroundTold(u) || !u.around) return [];
  const disc = (Math.PI / 4) * u.propeller.diameter.value ** 2;
  return openingsOf(u.around).some((a) => a.value < NARROWEST * disc)
    ? [`${u.name} breathes through less than ${Math.round(100 * NARROWEST)} % of its disc`]
    : [];
}

/** What of a measured curve was not noted and is assumed, or lies beyond what was measured, as sentences. */
export function unnoted({
  units,
}: {
  units: readonly Pick<Unit, "name" | "measured" | "throttleLimit" | "surroundings" | "around" | "propeller">[];
}): string[] {
  const outside: string[] = [];
  for (const u of units) {
    const { name, measured: m, throttleLimit } = u;
    if (!m) {
      outside.push(...tooNarrow(u));
      continue;
    }
    if (!voltsKnown(m)) outside.push(`at how many volts ${name} was measured is not noted: as many as now are assumed`);
    const top = Math.max(...m.readings.map((r) => r.command));
    if (top < throttleLimit)
      outside.push(`${name} was measured up to ${Math.round(100 * top)} % only: beyond, no more than there is counted`);
  }
  return outside;
}

/**
 * Why the drives of a craft are not computed, as a sentence; null when the method holds for them or may be assumed
 * to.
 */
export function notCovered(design: Supported & Drives): string | null {
  const held = supportOf(design);
  const { units } = design;
  for (const u of units) {
    if (u.measured) {
      const because = elsewhere(u.name, u.measured, u.surroundings);
      if (because !== null) return because;
      continue;
    }
    if (u.surroundings === "not a propeller")
      return `${u.name} is no propeller: drums, wheels, tracks, jets and paddles are not computed so far`;
    if (u.surroundings === "in water" && held.onGround)
      return `${u.name} works in water on a craft that goes on the ground: drums, wheels and tracks are not computed so far`;
    if ((u.surroundings === "boxed or ducted" || u.surroundings === "overlapped or coaxial") && !aroundTold(u))
      return `${u.name} works ${WHERE[u.surroundings]}: ${TELL[u.surroundings]}, or weigh what it pushes as it is built in`;
    if (u.surroundings === "overlapped or coaxial" && beside(units) < 2)
      return `${u.name} overlaps another or shares its axis, and there is no other: count both among the like units, or add its partner as a drive`;
    if (held.beats && u.direction === "up")
      return `${u.name} carries a flapping craft: flapping wings are not computed so far`;
    if (u.surroundings === null && !held.inAir) return `where ${u.name} works is not said: in the air or in water`;
  }
  return null;
}

/** What is assumed of the drives and was never said, as a sentence; null when nothing is. */
export function assumed({ units }: Drives): string | null {
  const silent = units.filter((u) => u.surroundings === null && !u.measured);
  return silent.length === 0
    ? null
    : `where ${silent.map((u) => u.name).join(", ")} ${silent.length === 1 ? "works" : "work"} is not said: free air is assumed`;
}

/** Whether a drive stands in water. */
export const wetDrive = ({ units }: { units: readonly Pick<Unit, "surroundings" | "measured">[] }): boolean =>
  units.some((u) => (u.measured ? IN_WATER.includes(u.measured.on) : u.surroundings === "in water"));
