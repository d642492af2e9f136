import { cross, dot, minus, scaled, sum } from "../../numeric/vector";
import { isPlaced } from "../mass/placed";
import { magnitudeSd } from "../../design/evidence";
import type { Design, Point, Unit } from "../../design/schema";

/** A direction or a force in body axes: x aft, y to starboard, z up. */
export type Vector = Point;

/**
 * Way in which a drive pushes the craft by its word and tilt, as a unit vector; tilt leans it up, and up or down aft.
 */
export function towardOf({ direction, tilt }: Pick<Unit, "direction" | "tilt">): Vector {
  const [c, s] = [Math.cos(tilt), Math.sin(tilt)];
  switch (direction) {
    case "ahead":
      return { x: -c, y: 0, z: s };
    case "astern":
      return { x: c, y: 0, z: s };
    case "up":
      return { x: s, y: 0, z: c };
    case "down":
      return { x: s, y: 0, z: -c };
    case "port":
      return { x: 0, y: -1, z: 0 };
    case "starboard":
      return { x: 0, y: 1, z: 0 };
  }
}

/** A direction by two angles (rad): turned from ahead to starboard, and raised over the level. */
export const byAngles = (turned: number, raised: number): Vector => ({
  x: -Math.cos(raised) * Math.cos(turned),
  y: Math.cos(raised) * Math.sin(turned),
  z: Math.sin(raised),
});
/** The two angles of a direction, rad; turned is 0 where it points straight up or down. */
export function anglesOf(v: Vector): { turned: number; raised: number } {
  const level = Math.hypot(v.x, v.y);
  return { turned: level < 1e-9 ? 0 : Math.atan2(v.y, -v.x) + 0, raised: Math.atan2(v.z, level) };
}

/** One unit of a drive where it stands and pushes. */
export interface PlacedUnit {
  /** index of its drive in the design */
  drive: number;
  /** which of the like units it is, from 0 */
  k: number;
  at: Point;
  /** unit vector */
  toward: Vector;
  /** its thrust over the mean of the drive's like units; 1 where they were not all weighed */
  share: number;
}

/**
 * Thrust of each of a drive's units over their mean, with the standard uncertainty of that, as they were weighed one by
 * one at one throttle; null where not all of them were, or there is only one.
 */
export function cornersOf({ places }: Pick<Unit, "places">): { share: number; sd: number }[] | null {
  const weighed = places.flatMap((p) => p.weighed ?? []);
  if (weighed.length < 2 || weighed.length < places.length) return null;
  const mean = weighed.reduce((s, w) => s + w.value, 0) / weighed.length;
  return weighed.map((w) => ({ share: w.value / mean, sd: magnitudeSd(w) / mean }));
}

/**
 * Where the units of a drive are and which way each pushes: one by one where that was entered; else all along the
 * drive's direction through its entry in the ledger, of a mirrored one half on each side. Empty while neither is
 * there, or nobody said where that entry is.
 */
export function placedUnits(design: Pick<Design, "units" | "items">, drive: number): PlacedUnit[] {
  const unit = design.units[drive];
  if (!unit) return [];
  const corners = cornersOf(unit);
  if (unit.places.length > 0)
    return unit.places.map(({ at, toward }, k) => ({
      drive,
      k,
      at,
      toward: scaled(toward, 1 / Math.sqrt(dot(toward, toward))),
      share: corners?.[k]?.share ?? 1,
    }));
  const item = design.items.find((i) => i.id === unit.propellerItemId);
  if (!item || !isPlaced(item)) return [];
  const toward = towardOf(unit);
  const sides = item.mirrored && unit.count > 1 ? [1, -1] : [0];
  return Array.from({ length: unit.count }, (_, k) => {
    const side = sides[k % sides.length] ?? 0;
    return {
      drive,
      k,
      at: side === 0 ? item.place : { ...item.place, y: side * Math.abs(item.place.y) },
      toward,
      share: 1,
    };
  });
}

/** Force (N) and moment about a place (N·m) of drives that push so hard (N, all like units of each). */
export function pushOf(
  design: Pick<Design, "units" | "items">,
  thrusts: readonly { drive: number; thrust: number }[],
  about: Point,
): { force: Vector; moment: Vector; placed: PlacedUnit[] } | null {
  let force = { x: 0, y: 0, z: 0 };
  let moment = { x: 0, y: 0, z: 0 };
  const placed: PlacedUnit[] = [];
  for (const { drive, thrust } of thrusts) {
    const units = placedUnits(design, drive);
    if (units.length === 0) return null;
    for (const u of units) {
      const f = scaled(u.toward, (u.share * thrust) / units.length);
      force = sum(force, f);
      moment = sum(moment, cross(minus(u.at, about), f));
      placed.push(u);
    }
  }
  return { force, moment, placed };
}

/**
 * How much two discs that look the same way lie over one another, m; 0 when they do not, or stand far apart along
 * their axis.
 */
export function overlapOf(a: PlacedUnit, b: PlacedUnit, diameter: number): number {
  const d = minus(b.at, a.at);
  const along = dot(d, a.toward);
  const aside = Math.sqrt(Math.max(0, dot(d, d) - along * along));
  if (Math.abs(dot(a.toward, b.toward)) < 0.9 || Math.abs(along) > diameter) return 0;
  return Math.max(0, diameter - aside);
}

/**
 * The word and tilt that stand for the directions of a drive's units: the axis that is nearest to their mean, and how
 * far the mean is raised where it goes along the craft.
 */
export function meanWay(directions: readonly Vector[]): Pick<Unit, "direction" | "tilt"> {
  const mean = directions.reduce(sum, { x: 0, y: 0, z: 0 });
  const words: [Unit["direction"], number][] = [
    ["ahead", -mean.x],
    ["astern", mean.x],
    ["up", mean.z],
    ["down", -mean.z],
    ["port", -mean.y],
    ["starboard", mean.y],
  ];
  const [direction] = words.reduce((best, w) => (w[1] > best[1] + 1e-9 ? w : best));
  const along = direction === "ahead" || direction === "astern";
  return { direction, tilt: along ? anglesOf(mean).raised : 0 };
}

/**
 * Another number of like units: those that are placed keep their places, new ones come on the other side of the last.
 */
export function recount(unit: Unit, count: number): void {
  unit.count = count;
  if (unit.places.length === 0) return;
  while (unit.places.length < count) {
    const last = unit.places.at(-1);
    if (!last) return;
    const { at, toward } = structuredClone(last);
    // What the last one was weighed at is not known of the new one.
    unit.places.push({ at: { ...at, y: -at.y }, toward: { ...toward, y: -toward.y } });
  }
  unit.places.length = count;
}
