import { computedFrom } from "../../../design/evidence";
import type { Unit } from "../../../design/schema";
import { worksInFluid } from "../kinds/models";
import type { ShaftMap } from "../shaft";
import type { Around, AroundKind, AroundOf } from "./declares";
import { inducedAt } from "./formulas";
import {
  type AroundFactor,
  aroundModel,
  bodyMoving,
  discOf,
  hullGoing,
  isOfAnother,
  openingsOf,
  zetaOf,
} from "./models";

type Surrounded = Pick<Unit, "around" | "propeller" | "propulsor">;

/** The entry of a kind that a drive has around it. */
export const thingAround = <K extends AroundKind>(unit: Pick<Unit, "around">, kind: K): AroundOf<K> | undefined =>
  unit.around.find((a): a is AroundOf<K> => a.kind === kind);

/**
 * What counts of what is around a drive: all of it, unless it was weighed as it is built in, with the disc that it has.
 * Nothing on wheels.
 */
function counting(unit: Surrounded): Around[] {
  const disc = discOf(unit);
  if (!worksInFluid(unit) || !disc) return [];
  const own = thingAround(unit, "weighed");
  if (own && aroundModel(own).lacks(own, disc) === null) return [own];
  const others = unit.around.filter((a) => a !== own);
  return own && isOfAnother(own, disc) && others.length > 0 ? others : unit.around;
}

/** Each thing around a drive with what it leaves of its thrust; of what is not told, null. */
export function aroundFactors(unit: Surrounded): { entry: Around; factor: AroundFactor | null }[] {
  const disc = discOf(unit);
  return counting(unit).map((entry) => ({
    entry,
    factor: disc && aroundModel(entry).lacks(entry, disc) === null ? aroundModel(entry).factor(entry, disc) : null,
  }));
}

/**
 * What all that is around a drive leaves of its thrust, standing at equal power: the product, as if each worked by
 * itself (judgement). Null where there is nothing around it, or not all of it is told.
 */
export function aroundFactor(unit: Surrounded): AroundFactor | null {
  const found = aroundFactors(unit);
  const factors = found.flatMap((f) => f.factor ?? []);
  if (found.length === 0 || factors.length < found.length) return null;
  const value = factors.reduce((v, f) => v * f.value, 1);
  const sd = value * Math.hypot(...factors.map((f) => f.sd / f.value));
  const evidence = factors.every((f) => f.evidence === "measured")
    ? "measured"
    : computedFrom(factors.map((f) => f.evidence));
  return { value, sd, evidence };
}

/** What is still wanted of what is around a drive: where it works and what to enter, as a sentence goes on. */
export function aroundLacks(unit: Surrounded): { where: string; todo: string } | null {
  const silent = aroundFactors(unit).find((f) => f.factor === null)?.entry;
  if (!silent) return null;
  const { lacks, where } = aroundModel(silent);
  const disc = discOf(unit);
  return {
    where,
    todo: (disc && lacks(silent, disc)) ?? "take that off: what turns in a duct of its own overlaps nothing",
  };
}

/** Whether what it pushes in motion is not told by what is around it. */
export const aroundStandsOnly = (unit: Surrounded): boolean => counting(unit).some((a) => !aroundModel(a).moves);

/** Where what is around a drive leaves the range of its method, as what the drive does. */
export function aroundOutside(unit: Surrounded): string[] {
  const disc = discOf(unit);
  return disc ? counting(unit).flatMap((a) => aroundModel(a).outside(a, disc)) : [];
}

/** What the hull does in motion to the screw at it; null where none counts, or it is not said how it stands. */
export function hullOf(unit: Surrounded): ReturnType<typeof hullGoing> {
  const own = counting(unit).find((a): a is AroundOf<"hull"> => a.kind === "hull");
  return own ? hullGoing(own) : null;
}

/**
 * A map with what in motion comes to what is around it standing: the drag of a body in the stream of its disc; at a
 * hull slower water, and more that the hull takes back, the more the faster it goes for what the disc adds.
 */
export function mapPastBodies(map: ShaftMap, unit: Surrounded, density: number): ShaftMap {
  const disc = discOf(unit);
  const bodies = counting(unit).filter((a) => a.kind === "body behind" || a.kind === "body before");
  const hull = hullOf(unit);
  if (!disc || (bodies.length === 0 && !hull)) return map;
  const met = hull?.met ?? 1;
  return {
    solved: map.solved,
    torque: (rpm, speed) => map.torque(rpm, speed === undefined ? speed : speed * met),
    at(rpm, speed = 0) {
      const load = map.at(rpm, speed * met);
      if (!(speed > 0) || !(load.thrust > 0)) return load;
      const ahead = (speed * met) / inducedAt(load.thrust, speed * met, density, disc.area);
      const left = 1 - ((1 - (hull?.left ?? 1)) * ahead) / (1 + ahead);
      return { ...load, thrust: bodies.reduce((t, b) => t * bodyMoving(b, disc, ahead), load.thrust) * left };
    },
  };
}

/** Open area (m²) of each opening in line that would leave this share of the thrust, edges as they are. */
export function areaFor(unit: Surrounded, share: number): number | null {
  const own = thingAround(unit, "openings");
  const disc = discOf(unit);
  const n = own ? openingsOf(own).length : 0;
  const k = 4 * (share ** (-3 / 2) - 1);
  return !own || n === 0 || !disc ? null : disc.area * Math.sqrt((n * zetaOf(own.edges)) / k);
}
