import { type BodyShape, type Frame, MOST_POINTS } from "./declares";

/** A point of a section: out from the middle of the body to starboard, and its height, m. */
export interface Across {
  out: number;
  z: number;
}

/** Corners that stand for a round section. */
const ROUND = 48;
/** Points round half a free section where two are joined: enough for any outline that can be described. */
const ALONG = 96;

/** Half of a section of its own where nobody described one yet: half an ellipse. */
export const plainOutline = (): NonNullable<Frame["outline"]> =>
  Array.from({ length: 9 }, (_, k) => {
    const a = (Math.PI * k) / 8;
    return { out: Math.sin(a), up: -Math.cos(a) };
  });

/** Half of a section in shares of half its width and height, from its lowest point to its highest on the middle. */
function sharesOf(across: BodyShape["across"], f: Frame): Across[] {
  const at = (out: number, z: number) => ({ out, z });
  if (across === "box") return [at(0, -1), at(1, -1), at(1, 1), at(0, 1)];
  const outline = across === "free" ? ((f.outline?.length ?? 0) > 1 ? f.outline : plainOutline()) : null;
  if (outline) {
    const points = outline.map((p) => at(p.out, p.up));
    const [first, last] = [points[0], points.at(-1)];
    return [
      ...(first && first.out > 0 ? [{ out: 0, z: first.z }] : []),
      ...points,
      ...(last && last.out > 0 ? [{ out: 0, z: last.z }] : []),
    ];
  }
  return Array.from({ length: ROUND / 2 + 1 }, (_, k) => {
    const a = (2 * Math.PI * k) / ROUND;
    return at(Math.sin(a), -Math.cos(a));
  });
}

const sized = (shares: readonly Across[], f: Frame): Across[] =>
  shares.map((p) => ({ out: (p.out * f.width) / 2, z: f.z + (p.z * f.height) / 2 }));

/** Half of a section from its lowest point to its highest, starboard side; m. */
export const halfOf = (across: BodyShape["across"], f: Frame): Across[] => sized(sharesOf(across, f), f);

/** A whole section, closed: up the starboard side and down the port side; places across from the body's middle. */
export function ringOf(across: BodyShape["across"], f: Frame): Across[] {
  const half = halfOf(across, f);
  const other = half.slice(1, -1).toReversed();
  return [...half, ...other.map((p) => ({ out: -p.out, z: p.z }))];
}

/** Length round a section, m. An ellipse's by Ramanujan (1914), exact for a circle, within 0.4 % of the flattest. */
export function girthOf(across: BodyShape["across"], f: Frame): number {
  if (across === "box") return 2 * (f.width + f.height);
  if (across === "round") {
    const [a, b] = [f.width / 2, f.height / 2];
    if (a + b === 0) return 0;
    const h = ((a - b) / (a + b)) ** 2;
    return Math.PI * (a + b) * (1 + (3 * h) / (10 + Math.sqrt(4 - 3 * h)));
  }
  return 2 * lengthOf(halfOf(across, f));
}

const lengthOf = (points: readonly Across[]): number =>
  points.slice(1).reduce((s, p, k) => s + Math.hypot(p.out - (points[k]?.out ?? 0), p.z - (points[k]?.z ?? 0)), 0);

/**
 * Points at equal shares of the length of half a section, in shares of its size: those of two belong to one another.
 */
function spread(half: readonly Across[], n: number): Across[] {
  const total = lengthOf(half);
  const first = half[0] ?? { out: 0, z: 0 };
  if (total === 0) return Array.from({ length: n + 1 }, () => first);
  const out: Across[] = [];
  let [k, gone] = [1, 0];
  for (let i = 0; i <= n; i++) {
    const want = (total * i) / n;
    let [a, b] = [half[k - 1] ?? first, half[k] ?? first];
    let step = Math.hypot(b.out - a.out, b.z - a.z);
    while (k < half.length - 1 && gone + step < want) {
      gone += step;
      k++;
      [a, b] = [half[k - 1] ?? first, half[k] ?? first];
      step = Math.hypot(b.out - a.out, b.z - a.z);
    }
    const t = step === 0 ? 0 : Math.min(1, (want - gone) / step);
    out.push({ out: a.out + t * (b.out - a.out), z: a.z + t * (b.z - a.z) });
  }
  return out;
}

/** Area of a section by its half, m², and its first moment about z = 0, m³. */
function areaOf(half: readonly Across[]): { area: number; moment: number } {
  let [area, moment] = [0, 0];
  for (let k = 1; k < half.length; k++) {
    const [p, q] = [half[k - 1], half[k]];
    if (!p || !q) continue;
    // Both sides: ∫ 2·out dz and ∫ 2·out·z dz along a straight edge.
    area += (p.out + q.out) * (q.z - p.z);
    moment += ((q.z - p.z) * (2 * p.out * p.z + p.out * q.z + q.out * p.z + 2 * q.out * q.z)) / 3;
  }
  return { area, moment };
}

export interface BodyGives {
  /** m */
  length: number;
  /** enclosed, both where it is mirrored, m³; its middle along and up, m */
  volume: number;
  middle: { x: number; z: number } | null;
  /** all its skin with both ends, both where it is mirrored, m²; the middle of a skin of one thickness, m */
  skin: number;
  skinMiddle: { x: number; z: number } | null;
}

/**
 * What a body holds and what its skin is: straight lines from frame to frame, each to the point at the same share of
 * the outline, both drawn to one size. Volume and its middle by Simpson's rule, which is exact for such a loft (its
 * area is a quadratic of x, the moment of it a cubic); the skin by triangles.
 */
export function bodyGives(b: Pick<BodyShape, "across" | "frames" | "mirrored">): BodyGives {
  const halves = b.frames.map((f) => ({ x: f.x, half: sized(spread(sharesOf(b.across, f), ALONG), f) }));
  const sums = { volume: 0, vx: 0, vz: 0, skin: 0, sx: 0, sz: 0 };
  const patch = (area: number, x: number, z: number) => {
    sums.skin += 2 * area;
    sums.sx += 2 * area * x;
    sums.sz += 2 * area * z;
  };
  for (let k = 1; k < halves.length; k++) {
    const [a, c] = [halves[k - 1], halves[k]];
    if (!a || !c) continue;
    const middle = a.half.map((p, i) => ({
      out: (p.out + (c.half[i]?.out ?? 0)) / 2,
      z: (p.z + (c.half[i]?.z ?? 0)) / 2,
    }));
    const dx = c.x - a.x;
    for (const [half, weight, x] of [
      [a.half, dx / 6, a.x],
      [middle, (4 * dx) / 6, (a.x + c.x) / 2],
      [c.half, dx / 6, c.x],
    ] as const) {
      const { area, moment } = areaOf(half);
      sums.volume += weight * area;
      sums.vx += weight * area * x;
      sums.vz += weight * moment;
    }
    for (let i = 1; i <= ALONG; i++) {
      const [p, q, r, s] = [a.half[i - 1], a.half[i], c.half[i - 1], c.half[i]];
      if (!p || !q || !r || !s) continue;
      triangle({ ...p, x: a.x }, { ...q, x: a.x }, { ...r, x: c.x }, patch);
      triangle({ ...s, x: c.x }, { ...q, x: a.x }, { ...r, x: c.x }, patch);
    }
  }
  for (const end of [halves[0], halves.at(-1)]) {
    if (!end) continue;
    const { area, moment } = areaOf(end.half);
    if (area > 0) patch(area / 2, end.x, moment / area);
  }
  const sides = b.mirrored ? 2 : 1;
  return {
    length: (b.frames.at(-1)?.x ?? 0) - (b.frames[0]?.x ?? 0),
    volume: sides * sums.volume,
    middle: sums.volume > 0 ? { x: sums.vx / sums.volume, z: sums.vz / sums.volume } : null,
    skin: sides * sums.skin,
    skinMiddle: sums.skin > 0 ? { x: sums.sx / sums.skin, z: sums.sz / sums.skin } : null,
  };
}

/** Half of a section below a height. */
function below(half: readonly Across[], z: number): Across[] {
  const out: Across[] = [];
  for (const [k, q] of half.entries()) {
    const p = half[k - 1];
    if (p && p.z < z !== q.z < z) {
      const t = (z - p.z) / (q.z - p.z);
      out.push({ out: p.out + t * (q.out - p.out), z });
    }
    if (q.z < z) out.push(q);
  }
  return out;
}

export interface HeldBelow {
  /** both where it is mirrored, m³ */
  volume: number;
  /** its middle along and up, m; null where nothing is below */
  middle: { x: number; z: number } | null;
  /** cut at that height, both where it is mirrored, m² */
  waterplane: number;
  /**
   * of that cut: ∫x dA, m³, and ∫x² dA, m⁴, along; ∫y² dA across about the body's own middle, m⁴
   */
  moments: { along: number; alongTwice: number; across: number };
}

/** Sections between two frames at which it is cut: the error of the volume is below 0.1 % then. */
const BETWEEN = 16;

/** What of a body lies below a height: upright and level, as it is drawn. Simpson's rule between the frames. */
export function heldBelow(b: Pick<BodyShape, "across" | "frames" | "mirrored">, z: number): HeldBelow {
  const halves = b.frames.map((f) => ({ x: f.x, half: sized(spread(sharesOf(b.across, f), ALONG), f) }));
  const sums = { volume: 0, vx: 0, vz: 0, plane: 0, along: 0, alongTwice: 0, across: 0 };
  for (let k = 1; k < halves.length; k++) {
    const [a, c] = [halves[k - 1], halves[k]];
    if (!a || !c) continue;
    for (let i = 0; i <= BETWEEN; i++) {
      const t = i / BETWEEN;
      const x = a.x + t * (c.x - a.x);
      const weight = ((c.x - a.x) / BETWEEN / 3) * (i === 0 || i === BETWEEN ? 1 : i % 2 === 1 ? 4 : 2);
      const wet = below(
        a.half.map((p, j) => ({
          out: p.out + t * ((c.half[j]?.out ?? 0) - p.out),
          z: p.z + t * ((c.half[j]?.z ?? 0) - p.z),
        })),
        z,
      );
      const { area, moment } = areaOf(wet);
      sums.volume += weight * area;
      sums.vx += weight * area * x;
      sums.vz += weight * moment;
      const last = wet.at(-1);
      if (last && last.z === z) {
        const strip = weight * 2 * last.out;
        sums.plane += strip;
        sums.along += strip * x;
        sums.alongTwice += strip * x ** 2;
        sums.across += (strip * last.out ** 2) / 3;
      }
    }
  }
  const sides = b.mirrored ? 2 : 1;
  return {
    volume: sides * sums.volume,
    middle: sums.volume > 0 ? { x: sums.vx / sums.volume, z: sums.vz / sums.volume } : null,
    waterplane: sides * sums.plane,
    moments: { along: sides * sums.along, alongTwice: sides * sums.alongTwice, across: sides * sums.across },
  };
}

type Corner = Across & { x: number };
function triangle(a: Corner, b: Corner, c: Corner, patch: (area: number, x: number, z: number) => void): void {
  const [ux, uy, uz] = [b.x - a.x, b.out - a.out, b.z - a.z];
  const [vx, vy, vz] = [c.x - a.x, c.out - a.out, c.z - a.z];
  const area = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
  patch(area, (a.x + b.x + c.x) / 3, (a.z + b.z + c.z) / 3);
}

const SMALL = 1e-4;
/** A frame from the points of its half, m: its size is what they span. A line or a point keeps the outline before. */
function spanned(f: Frame, points: readonly Across[]): Frame {
  const zs = points.map((p) => p.z);
  const [low, high] = [Math.min(...zs), Math.max(...zs)];
  const [wide, tall] = [2 * Math.max(...points.map((p) => p.out)), high - low];
  const z = (low + high) / 2;
  if (wide < SMALL || tall < SMALL) return f;
  const neat = (v: number) => Math.round(v * 1e6) / 1e6;
  return {
    x: f.x,
    z: neat(z),
    width: neat(wide),
    height: neat(tall),
    outline: points.map((p) => ({
      out: Math.min(1, Math.max(0, neat((2 * p.out) / wide))),
      up: Math.min(1, Math.max(-1, neat((2 * (p.z - z)) / tall))),
    })),
  };
}
const pointsOf = (f: Frame): Across[] =>
  sized(
    (f.outline ?? plainOutline()).map((p) => ({ out: p.out, z: p.up })),
    f,
  );

/**
 * A free section with one of its points moved: out from the middle at least 0, and between the heights of its
 * neighbours. Width, height and middle follow.
 *
 * @param k which point, from the lowest
 * @param to m
 */
export function pointMoved(f: Frame, k: number, to: Across): Frame {
  const points = pointsOf(f);
  const [below, above] = [points[k - 1]?.z ?? -Infinity, points[k + 1]?.z ?? Infinity];
  if (!points[k]) return f;
  points[k] = { out: Math.max(0, to.out), z: Math.min(above, Math.max(below, to.z)) };
  return spanned(f, points);
}

/** A free section with a point more, halfway to the next; at most as many as a section holds. */
export function pointAdded(f: Frame, after: number): Frame {
  const points = pointsOf(f);
  const [a, b] = [points[after], points[after + 1]];
  if (!a || !b || points.length >= MOST_POINTS) return f;
  return spanned(f, points.toSpliced(after + 1, 0, { out: (a.out + b.out) / 2, z: (a.z + b.z) / 2 }));
}

/** A free section without one of its points; two are left at least. */
export function pointTaken(f: Frame, k: number): Frame {
  const points = pointsOf(f);
  return points.length > 2 ? spanned(f, points.toSpliced(k, 1)) : f;
}
