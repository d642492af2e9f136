import { type Vector, cross, dot, lengthOf, minus, scaled, sum, unitOf } from "../../numeric/vector";

/** An edge of the ground that a craft stands on: over it it tips. */
export interface Edge {
  from: Vector;
  to: Vector;
  /** outward, level; 1 long */
  out: Vector;
  /** m that the CG stands inside of it; negative outside */
  inside: number;
}
/** How a craft stands on the ground. */
export interface Rest {
  /** up, in the axes of the craft; 1 long */
  up: Vector;
  /** it stands as on its baseline, and not on its tail */
  upright: boolean;
  /** level; 1 long: ahead, or the way its belly looks where it stands on its tail */
  ahead: Vector;
  /** level, to starboard; 1 long */
  starboard: Vector;
  /** m, of the CG over the ground */
  height: number;
  edges: Edge[];
  /** the feet that touch, in turn */
  touching: Vector[];
}

/** Feet that miss the ground by less than this share of the widest stance touch it: legs give that much (judgement). */
const GIVES = 0.005;

/** Corners of the convex hull of points in a plane, in turn (monotone chain). */
function hullOf<T>(points: readonly T[], at: (p: T) => [number, number]): T[] {
  const sorted = points.toSorted((a, b) => at(a)[0] - at(b)[0] || at(a)[1] - at(b)[1]);
  const turn = (o: T, a: T, b: T) => {
    const [[ox, oy], [ax, ay], [bx, by]] = [at(o), at(a), at(b)];
    return (ax - ox) * (by - oy) - (ay - oy) * (bx - ox);
  };
  const half = (list: readonly T[]) => {
    const out: T[] = [];
    for (const p of list) {
      while (out.length > 1 && turn(out.at(-2) as T, out.at(-1) as T, p) <= 1e-12) out.pop();
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.toReversed())];
}

/**
 * How a rigid craft rests on its feet: on the plane under which no foot reaches and over whose feet the CG stands;
 * where there is none, on the one whose feet it stands beside the least (it falls over an edge of it). Null for fewer
 * than three feet, or all in a line.
 *
 * @param upward about which way is up as it stands, in the axes of the craft
 */
export function restOn(feet: readonly Vector[], cg: Vector, upward: Vector = { x: 0, y: 0, z: 1 }): Rest | null {
  let best: Rest | null = null;
  const least = (r: Rest) => Math.min(...r.edges.map((e) => e.inside));
  const span = Math.max(0, ...feet.flatMap((a) => feet.map((b) => lengthOf(minus(a, b)))));
  for (const [i, a] of feet.entries())
    for (const [j, b] of feet.entries())
      for (const c of feet.slice(j + 1)) {
        if (j <= i) continue;
        const normal = cross(minus(b, a), minus(c, a));
        if (lengthOf(normal) < 1e-6 * span ** 2) continue;
        const up = scaled(unitOf(normal), dot(normal, upward) < 0 ? -1 : 1);
        // It does not lie on its side.
        if (dot(up, upward) < 0.3) continue;
        const over = (p: Vector) => dot(minus(p, a), up);
        if (feet.some((p) => over(p) < -GIVES * span)) continue;
        const rest = restIn(
          feet.filter((p) => over(p) < GIVES * span),
          up,
          cg,
          over(cg),
        );
        if (rest && (!best || least(rest) > least(best))) best = rest;
      }
  return best;
}

function restIn(feet: readonly Vector[], up: Vector, cg: Vector, height: number): Rest | null {
  const level = (v: Vector) => unitOf(minus(v, scaled(up, dot(v, up))));
  const upright = up.z > 0.3;
  const ahead = level(upright ? { x: -1, y: 0, z: 0 } : { x: 0, y: 0, z: -1 });
  const starboard = cross(ahead, up);
  const touching = hullOf(feet, (p) => [dot(p, ahead), dot(p, starboard)]);
  if (touching.length < 3) return null;
  const middle = scaled(
    touching.reduce((s, p) => sum(s, p), { x: 0, y: 0, z: 0 }),
    1 / touching.length,
  );
  const edges = touching.map((from, k): Edge => {
    const to = touching[(k + 1) % touching.length] as Vector;
    const across = unitOf(cross(minus(to, from), up));
    const out = dot(minus(middle, from), across) > 0 ? scaled(across, -1) : across;
    return { from, to, out, inside: dot(minus(from, cg), out) };
  });
  return { up, upright, ahead, starboard, height, edges, touching };
}

/** Moment (N·m) of a force at a place about an edge; positive tips the craft over it. */
export const tippingOf = ({ from, out }: Edge, up: Vector, force: Vector, at: Vector): number =>
  dot(cross(minus(at, from), force), cross(up, out));
