import type { Triangles } from "./stl";

/** What a mesh is, in its own unit; `volume` and `centroid` are null where it is no closed skin. */
export interface MeshMeasures {
  triangles: number;
  closed: boolean;
  /** edges of one triangle only, and the loops that they make */
  boundaryEdges: number;
  holes: number;
  /** edges that two triangles run in the same direction: one of them is turned over */
  turnedOver: number;
  /** edges of more than two triangles */
  crowded: number;
  /** skins that share no corner */
  pieces: number;
  volume: number | null;
  centroid: [number, number, number] | null;
  area: number;
  min: [number, number, number];
  max: [number, number, number];
}

/** Share of the mesh's size within which two corners are one (judgement: what rounding of a text file leaves). */
const SAME = 1e-6;

/** Corners that are one place get one number. */
function welded({ corners }: Triangles, size: number): Int32Array {
  const step = size * SAME || 1;
  const known = new Map<string, number>();
  const out = new Int32Array(corners.length / 3);
  for (let k = 0; k < out.length; k++) {
    const key = [0, 1, 2].map((a) => Math.round((corners[3 * k + a] ?? 0) / step)).join();
    let id = known.get(key);
    if (id === undefined) known.set(key, (id = known.size));
    out[k] = id;
  }
  return out;
}

/** Groups of numbers that belong together. */
class Groups {
  private readonly up = new Map<number, number>();
  top(a: number): number {
    let [at, over] = [a, this.up.get(a) ?? a];
    while (over !== at) [at, over] = [over, this.up.get(over) ?? over];
    this.up.set(a, at);
    return at;
  }
  join(a: number, b: number): void {
    this.up.set(this.top(a), this.top(b));
  }
  count(members: Iterable<number>): number {
    return new Set([...members].map((m) => this.top(m))).size;
  }
}

/** Edges of the triangles, by how often they are run forth and back; triangles without area count for nothing. */
function edgesOf(ids: Int32Array): { edges: Map<number, [number, number]>; corners: number } {
  const corners = ids.reduce((a, b) => Math.max(a, b), 0) + 1;
  const edges = new Map<number, [number, number]>();
  for (let t = 0; t < ids.length; t += 3) {
    const c = [ids[t] ?? 0, ids[t + 1] ?? 0, ids[t + 2] ?? 0] as const;
    if (c[0] === c[1] || c[1] === c[2] || c[2] === c[0]) continue;
    for (const [a, b] of [
      [c[0], c[1]],
      [c[1], c[2]],
      [c[2], c[0]],
    ] as const) {
      const key = Math.min(a, b) * corners + Math.max(a, b);
      const runs = edges.get(key) ?? [0, 0];
      runs[a < b ? 0 : 1]++;
      edges.set(key, runs);
    }
  }
  return { edges, corners };
}

/**
 * Whether a mesh is a closed skin, and what it holds: volume and its middle by the divergence theorem (signed
 * tetrahedra from the middle of its box), the area of the skin. One that is turned inside out as a whole is taken the
 * right way. A volume is given only where every edge belongs to two triangles that run it in opposite directions.
 */
export function measureMesh(t: Triangles): MeshMeasures {
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let k = 0; k < t.corners.length; k++) {
    const [a, v] = [(k % 3) as 0 | 1 | 2, t.corners[k] ?? 0];
    min[a] = Math.min(min[a], v);
    max[a] = Math.max(max[a], v);
  }
  const ids = welded(t, Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]));
  const { edges, corners } = edgesOf(ids);
  const [loops, skins] = [new Groups(), new Groups()];
  let [boundary, turned, crowded] = [0, 0, 0];
  const open = new Set<number>();
  for (const [key, [forth, back]] of edges) {
    const [a, b] = [Math.floor(key / corners), key % corners];
    skins.join(a, b);
    if (forth + back === 1) {
      boundary++;
      loops.join(a, b);
      open.add(a).add(b);
    } else if (forth + back > 2) crowded++;
    else if (forth !== back) turned++;
  }
  const closed = edges.size > 0 && boundary + turned + crowded === 0;
  const { volume, centroid, area } = held(t, min, max);
  return {
    triangles: t.count,
    closed,
    boundaryEdges: boundary,
    holes: loops.count(open),
    turnedOver: turned,
    crowded,
    pieces: skins.count(new Set(ids)),
    volume: closed ? volume : null,
    centroid: closed && volume > 0 ? centroid : null,
    area,
    min,
    max,
  };
}

type Three = [number, number, number];
function held({ corners }: Triangles, min: Three, max: Three): { volume: number; centroid: Three; area: number } {
  const from = min.map((m, a) => (m + (max[a] ?? 0)) / 2);
  let [volume, area] = [0, 0];
  const sum: Three = [0, 0, 0];
  const at = (k: number, c: number): Three =>
    [0, 1, 2].map((a) => (corners[k + 3 * c + a] ?? 0) - (from[a] ?? 0)) as Three;
  for (let k = 0; k < corners.length; k += 9) {
    const [p, q, r] = [at(k, 0), at(k, 1), at(k, 2)];
    const cross = (u: Three, v: Three): Three => [
      u[1] * v[2] - u[2] * v[1],
      u[2] * v[0] - u[0] * v[2],
      u[0] * v[1] - u[1] * v[0],
    ];
    const n = cross([q[0] - p[0], q[1] - p[1], q[2] - p[2]], [r[0] - p[0], r[1] - p[1], r[2] - p[2]]);
    area += Math.hypot(...n) / 2;
    const six = p[0] * n[0] + p[1] * n[1] + p[2] * n[2];
    volume += six / 6;
    for (const a of [0, 1, 2] as const) sum[a] += ((p[a] + q[a] + r[a]) / 4) * (six / 6);
  }
  const centroid = sum.map((s, a) => (from[a] ?? 0) + (volume === 0 ? 0 : s / volume)) as Three;
  return { volume: Math.abs(volume), centroid, area };
}

/** A cut across: half-breadths from a middle by height, from its lowest to its highest. */
export interface Cut {
  x: number;
  points: { out: number; z: number }[];
}
export interface Cuts {
  cuts: Cut[];
  /** of all of it, across */
  middle: number;
  /** largest share of its width by which one side stands out farther than the other */
  uneven: number;
}

const LEVELS = 96;
/** Share of the length from the ends at which the first and the last cut are laid: on the very end there is none. */
const INSIDE = 1e-5;
/** Cuts at equal steps; and where corners stand in so few places along that each is a cut of its own. */
const STEPS = 120;
const FEW = 64;

/** Where it is cut: at equal steps, and at its corners where they stand in few places. */
function placesAlong({ corners }: Triangles, from: number, length: number): number[] {
  const share = (t: number) => Math.min(1 - INSIDE, Math.max(INSIDE, t));
  const found = new Set<number>();
  for (let k = 0; k < corners.length && found.size <= FEW; k += 3)
    found.add(Math.round((((corners[k] ?? 0) - from) / length) * 1e5) / 1e5);
  const even = Array.from({ length: STEPS + 1 }, (_, k) => k / STEPS);
  const all = [...(found.size <= FEW ? found : []), ...even].map(share).toSorted((a, b) => a - b);
  return all.filter((t, k) => k === 0 || t - (all[k - 1] ?? 0) > INSIDE / 2).map((t) => from + length * t);
}

/**
 * Cuts across a mesh along x, each as the outermost place at every height; the side that stands out farther counts for
 * both. What is hollow inside is not seen.
 *
 * @param t with x aft, y to starboard, z up
 */
export function cutMesh(t: Triangles, m: Pick<MeshMeasures, "min" | "max">): Cuts {
  const places = placesAlong(t, m.min[0], m.max[0] - m.min[0] || 1);
  const segments: [number, number, number, number][][] = places.map(() => []);
  for (let k = 0; k < t.corners.length; k += 9) {
    const p = [0, 3, 6].map((o) => [t.corners[k + o] ?? 0, t.corners[k + o + 1] ?? 0, t.corners[k + o + 2] ?? 0]);
    const xs = p.map((c) => c[0] ?? 0);
    const last = Math.max(...xs);
    for (let i = firstAbove(places, Math.min(...xs)); i < places.length && (places[i] ?? 0) <= last; i++) {
      const ends = crossing(p, places[i] ?? 0);
      if (ends) segments[i]?.push(ends);
    }
  }
  const middle = (m.min[1] + m.max[1]) / 2;
  let uneven = 0;
  const cuts = places.flatMap((x, i): Cut[] => {
    const found = profile(segments[i] ?? [], middle);
    if (!found) return [];
    uneven = Math.max(uneven, found.uneven);
    return [{ x: i === 0 ? m.min[0] : i === places.length - 1 ? m.max[0] : x, points: found.points }];
  });
  return { cuts, middle, uneven };
}

/** The first of rising places that is not below a limit. */
function firstAbove(places: readonly number[], limit: number): number {
  let [low, high] = [0, places.length];
  while (low < high) {
    const half = (low + high) >> 1;
    if ((places[half] ?? 0) < limit) low = half + 1;
    else high = half;
  }
  return low;
}

/** Where a plane across cuts a triangle: y and z of both ends. */
function crossing(p: number[][], x: number): [number, number, number, number] | null {
  const ends: number[] = [];
  for (let k = 0; k < 3; k++) {
    const [a, b] = [p[k] ?? [], p[(k + 1) % 3] ?? []];
    const [xa = 0, ya = 0, za = 0] = a;
    const [xb = 0, yb = 0, zb = 0] = b;
    if (xa < x === xb < x) continue;
    const s = (x - xa) / (xb - xa);
    ends.push(ya + s * (yb - ya), za + s * (zb - za));
  }
  const [ya, za, yb, zb] = ends;
  return ya === undefined || za === undefined || yb === undefined || zb === undefined ? null : [ya, za, yb, zb];
}

function profile(
  segments: [number, number, number, number][],
  middle: number,
): { points: Cut["points"]; uneven: number } | null {
  if (segments.length === 0) return null;
  const zs = segments.flatMap(([, za, , zb]) => [za, zb]);
  const [low, high] = [Math.min(...zs), Math.max(...zs)];
  const tall = high - low;
  const port = new Float64Array(LEVELS + 1).fill(Infinity);
  const starboard = new Float64Array(LEVELS + 1).fill(-Infinity);
  const reach = (level: number, y: number) => {
    port[level] = Math.min(port[level] ?? 0, y);
    starboard[level] = Math.max(starboard[level] ?? 0, y);
  };
  for (const [ya, za, yb, zb] of segments) {
    const level = (z: number) => (tall === 0 ? 0 : ((z - low) / tall) * LEVELS);
    const [la, lb] = [level(za), level(zb)];
    for (const [l, y] of [
      [la, ya],
      [lb, yb],
    ] as const)
      if (Math.abs(l - Math.round(l)) < 1e-6) reach(Math.round(l), y);
    for (let l = Math.ceil(Math.min(la, lb)); l <= Math.floor(Math.max(la, lb)); l++)
      if (la !== lb) reach(l, ya + ((l - la) / (lb - la)) * (yb - ya));
  }
  const points: Cut["points"] = [];
  let [wide, uneven] = [0, 0];
  for (let l = 0; l <= LEVELS; l++) {
    const [p, s] = [port[l] ?? Infinity, starboard[l] ?? -Infinity];
    if (p > s) continue;
    points.push({ out: Math.max(s - middle, middle - p, 0), z: low + (tall * l) / LEVELS });
    wide = Math.max(wide, s - p);
    uneven = Math.max(uneven, Math.abs(s - middle - (middle - p)));
    if (tall === 0) break;
  }
  return points.length === 0 ? null : { points, uneven: wide > 0 ? uneven / wide : 0 };
}
