import type { BodyShape, Item, Point, Surface } from "../../core/design/schema";
import { bodies } from "../../core/subjects/mass/rollup";
import { type Across, ringOf } from "../../core/subjects/surfaces/bodyShape";
import { outlineOf } from "../../core/subjects/surfaces/planform";

/** From where a craft is looked at, rad: around from ahead (0) by port (π/2) to astern, and above the level. */
export interface Eye {
  around: number;
  above: number;
}
/** From ahead on the port side, somewhat above: nose and side and deck are seen at once. */
export const FIRST_EYE: Eye = { around: 0.9, above: 0.42 };

const dot = (a: Point, b: Point) => a.x * b.x + a.y * b.y + a.z * b.z;

export interface Projector {
  /** unit vectors in body axes: to the right and up on the sheet, and away from the eye */
  right: Point;
  up: Point;
  away: Point;
  /** a place on a sheet in metres: to the right, up, and its distance from the eye (larger is farther) */
  at: (p: Point) => { x: number; y: number; depth: number };
}

/** Parallel projection of body axes (x aft, y to starboard, z up), seen from far away. */
export function projector({ around, above }: Eye): Projector {
  const [c, s] = [Math.cos(around), Math.sin(around)];
  const [ce, se] = [Math.cos(above), Math.sin(above)];
  const away = { x: ce * c, y: ce * s, z: -se };
  const right = { x: s, y: -c, z: 0 };
  const up = { x: se * c, y: se * s, z: ce };
  return { right, up, away, at: (p) => ({ x: dot(p, right), y: dot(p, up), depth: dot(p, away) }) };
}

/** An eye within what can be looked at: all the way round, and from straight below to straight above. */
export const turnedBy = ({ around, above }: Eye, by: Partial<Eye>): Eye => {
  const full = 2 * Math.PI;
  return {
    around: (((around + (by.around ?? 0)) % full) + full) % full,
    above: Math.min(Math.PI / 2, Math.max(-Math.PI / 2, above + (by.above ?? 0))),
  };
};

/** A polygon in the craft, closed, with how far its middle is from the eye. */
export interface Face {
  points: Point[];
  depth: number;
}

/** The faces of a part that are turned towards the eye: at most three of each box that it stands for. */
export function facesOf(item: Item, { away }: Projector): Face[] {
  const half = { x: item.size.x / 2, y: item.size.y / 2, z: item.size.z / 2 };
  return bodies(item).flatMap(({ place }) =>
    (["x", "y", "z"] as const).flatMap((axis) => {
      const sign = away[axis] < -1e-9 ? 1 : away[axis] > 1e-9 ? -1 : 0;
      if (sign === 0) return [];
      const [u, v] =
        axis === "x" ? (["y", "z"] as const) : axis === "y" ? (["x", "z"] as const) : (["x", "y"] as const);
      const points = [
        [-1, -1],
        [1, -1],
        [1, 1],
        [-1, 1],
      ].map(([a = 0, b = 0]) => ({
        ...place,
        [axis]: place[axis] + sign * half[axis],
        [u]: place[u] + a * half[u],
        [v]: place[v] + b * half[v],
      }));
      const middle = { ...place, [axis]: place[axis] + sign * half[axis] };
      return [{ points, depth: dot(middle, away) }];
    }),
  );
}

/** Points round a frame of a body. */
const ROUND = 24;

/** Points at equal steps round a closed ring. */
function around(ring: readonly Across[]): Across[] {
  const at = (k: number) => ring[k % ring.length] ?? { out: 0, z: 0 };
  const sides = ring.map((_, k) => Math.hypot(at(k + 1).out - at(k).out, at(k + 1).z - at(k).z));
  const whole = sides.reduce((a, b) => a + b, 0);
  let [k, gone] = [0, 0];
  return Array.from({ length: ROUND }, (_, i) => {
    const want = (whole * i) / ROUND;
    while (k < sides.length - 1 && gone + (sides[k] ?? 0) < want) gone += sides[k++] ?? 0;
    const t = sides[k] ? (want - gone) / (sides[k] ?? 1) : 0;
    return { out: at(k).out + t * (at(k + 1).out - at(k).out), z: at(k).z + t * (at(k + 1).z - at(k).z) };
  });
}

/** A body as its frames and the lines that join them; a mirrored one on both sides. */
export function linesOfBody(b: BodyShape): { closed: Point[][]; open: Point[][] } {
  const middles = b.mirrored ? [b.y, -b.y] : [b.y];
  const rings = b.frames.map((f) => ({ x: f.x, whole: ringOf(b.across, f) }));
  const place = (x: number, y: number) => (p: Across) => ({ x, y: y + p.out, z: p.z });
  const along = [0, 3, 6, 9, 12, 15, 18, 21];
  return {
    closed: middles.flatMap((y) => rings.map((r) => r.whole.map(place(r.x, y)))),
    open: middles.flatMap((y) => {
      const spread = rings.map((r) => around(r.whole).map(place(r.x, y)));
      return along.map((k) => spread.flatMap((ring) => ring[k] ?? []));
    }),
  };
}

/** The outlines of a surface, one for each side that it has. */
export const outlinesOf = (s: Surface): Point[][] =>
  (s.mirrored ? ([1, -1] as const) : ([1] as const)).map((side) => outlineOf(s, side));

/** Covariance on the sheet of one in body axes. */
export function covarianceOn(
  { right, up }: Projector,
  sd: Point,
  cov: { xz: number; xy: number; yz: number },
): { across: number; up: number; both: number } {
  const times = (a: Point, b: Point) =>
    a.x * b.x * sd.x ** 2 +
    a.y * b.y * sd.y ** 2 +
    a.z * b.z * sd.z ** 2 +
    (a.x * b.z + a.z * b.x) * cov.xz +
    (a.x * b.y + a.y * b.x) * cov.xy +
    (a.y * b.z + a.z * b.y) * cov.yz;
  return { across: times(right, right), up: times(up, up), both: times(right, up) };
}
