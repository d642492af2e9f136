import { aroundLacks, aroundOutside, aroundStandsOnly } from "./around/factor";
import { kindOf, worksInFluid } from "./kinds/models";
import { onGroundByModel } from "./kinds/which";
import { drawRead, voltsKnown } from "./measured/curve";
import type { Unit } from "../../design/schema";
import { type PushedOn, whereOf } from "./measured/declares";
import { type Supported, supportOf } from "../../design/support";

type Drives = {
  units: readonly Pick<
    Unit,
    "name" | "surroundings" | "direction" | "measured" | "around" | "propeller" | "propulsor" | "count"
  >[];
};

const IN_WATER: readonly PushedOn[] = ["fresh water", "sea water"];

/** Why a curve does not hold where its drive works: it was measured elsewhere. */
function elsewhere(unit: Drives["units"][number], m: NonNullable<Unit["measured"]>): string | null {
  const { name, surroundings: works } = unit;
  const wet = IN_WATER.includes(m.on);
  if (works === "in water" && !wet)
    return `${name} works in water and was measured ${whereOf(m.on)}: measure it where it works`;
  if (works === "in air" && m.on !== "air")
    return `${name} works in the air and was measured ${whereOf(m.on)}: measure it where it works`;
  const silent = m.asBuilt ? null : aroundLacks(unit);
  return silent && `${name} ${silent.where} and was measured by itself: ${silent.todo}, or weigh it as it is built in`;
}

/**
 * Why what the drives push in motion is not known; null where it is computed: a curve measured standing tells nothing.
 */
export function standingOnly({
  units,
}: {
  units: readonly Pick<Unit, "name" | "measured" | "around" | "propeller" | "propulsor">[];
}): string | null {
  const still = (u: Pick<Unit, "propulsor">) => u.propulsor !== null && !kindOf(u.propulsor).moves;
  const names = units.filter((u) => u.measured || still(u) || aroundStandsOnly(u)).map((u) => u.name);
  const known = units.some((u) => u.measured)
    ? "was not measured"
    : units.some(still)
      ? "is not computed: the model of its kind holds standing"
      : "is not computed: the factor of what is around it holds standing";
  return names.length === 0
    ? null
    : `what ${names.join(", ")} ${names.length === 1 ? "pushes" : "push"} in motion ${known}`;
}

/** Whether a drive is told to overlap another or to share its axis. */
export const isBeside = ({ around }: Pick<Unit, "around">): boolean =>
  around.some((a) => a.kind === "overlap" || a.kind === "coaxial");
/** How many units stand beside others. */
const beside = (units: readonly Pick<Unit, "around" | "count">[]): number =>
  units.reduce((n, u) => n + (isBeside(u) ? u.count : 0), 0);

/**
 * What is wanted to know what drives draw in use, as it would be entered: of a measured one its current; of one that
 * drives on the ground by a model its mean, for standing it creeps or spins.
 */
export const drawUnknown = ({ units }: { units: readonly Pick<Unit, "name" | "measured" | "propulsor">[] }): string[] =>
  units.flatMap((u) =>
    u.measured && !drawRead(u.measured)
      ? [`what ${u.name} draws, read up to its highest command`]
      : onGroundByModel(u)
        ? [`what ${u.name} draws when it drives: run it for a minute and enter the mean current under the duty`]
        : [],
  );

/** Drives around which something is beyond what the method of it holds for, as sentences. */
export const tooNear = (
  units: readonly Pick<Unit, "name" | "around" | "propeller" | "propulsor" | "measured">[],
): string[] => units.flatMap((u) => (u.measured?.asBuilt ? [] : aroundOutside(u).map((does) => `${u.name} ${does}`)));

/** What nobody knows of drives that their measured curves tell, and their numbers rest on, as sentences. */
export const unnoted = ({ units }: { units: readonly Pick<Unit, "name" | "measured" | "throttleLimit">[] }): string[] =>
  units.flatMap(({ name, measured: m, throttleLimit }) => {
    if (!m) return [];
    const top = Math.max(...m.readings.map((r) => r.command));
    return [
      ...(voltsKnown(m) ? [] : [`at how many volts ${name} was measured is not noted: as many as now are assumed`]),
      ...(top < throttleLimit
        ? [`${name} was measured up to ${Math.round(100 * top)} % only: beyond, no more than there is counted`]
        : []),
    ];
  });

/**
 * Why the drives of a craft are not computed, as a sentence; null when the method holds for them or may be assumed
 * to.
 */
export function notCovered(design: Supported & Drives): string | null {
  const held = supportOf(design);
  const { units } = design;
  for (const u of units) {
    if (u.measured) {
      const because = elsewhere(u, u.measured);
      if (because !== null) return because;
      continue;
    }
    if (u.propulsor) {
      const because = kindOf(u.propulsor).elsewhere(u.propulsor, held);
      if (because !== null) return `${u.name} ${because}`;
      if (!worksInFluid(u)) continue;
    } else {
      if (u.surroundings === "not a propeller")
        return `${u.name} is no propeller: choose what it is, or weigh what it pushes`;
      if (u.surroundings === "in water" && held.onGround)
        return (
          `${u.name} works in water on a craft that goes on the ground: choose what it is, drum or wheel, ` +
          "or weigh what it pushes"
        );
      if (held.beats && u.direction === "up")
        return `${u.name} carries a flapping craft: choose that it is flapping wings, or weigh what they lift`;
    }
    const silent = aroundLacks(u);
    if (silent) return `${u.name} ${silent.where}: ${silent.todo}, or weigh what it pushes as it is built in`;
    if (isBeside(u) && beside(units) < 2)
      return (
        `${u.name} overlaps another or shares its axis, and there is no other: count both among the like ` +
        "units, or add its partner as a drive"
      );
    if (u.surroundings === null && !held.inAir) return `where ${u.name} works is not said: in the air or in water`;
  }
  return null;
}

/** Whether it is not said of a drive where it works, and its kind does not tell. */
export const whereUnsaid = (u: Pick<Unit, "surroundings" | "measured" | "propulsor">): boolean =>
  u.surroundings === null && !u.measured && worksInFluid(u);

/** What is assumed of the drives and was never said, as a sentence; null when nothing is. */
export function assumed({ units }: Drives): string | null {
  const silent = units.filter(whereUnsaid);
  return silent.length === 0
    ? null
    : `where ${silent.map((u) => u.name).join(", ")} ${silent.length === 1 ? "works" : "work"} is not ` +
        "said: free air is assumed";
}

/** Whether a drive stands in water. */
export const wetDrive = ({
  units,
}: {
  units: readonly Pick<Unit, "surroundings" | "measured" | "propulsor">[];
}): boolean =>
  units.some((u) =>
    u.measured
      ? IN_WATER.includes(u.measured.on)
      : u.propulsor?.kind === "screw drum"
        ? u.propulsor.on === "water"
        : worksInFluid(u) && u.surroundings === "in water",
  );
