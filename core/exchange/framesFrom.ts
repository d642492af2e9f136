import { type Frame, MOST_FRAMES, MOST_POINTS } from "../subjects/surfaces/declares";
import { plainOutline } from "../subjects/surfaces/bodyShape";
import { thinned } from "../numeric/thinned";
import type { Cut } from "./mesh";

const sizeOf = ({ points }: Cut) => {
  const z = points.map((p) => p.z);
  const [low, high] = [Math.min(...z), Math.max(...z)];
  return { low, high, wide: 2 * Math.max(...points.map((p) => p.out)) };
};

/** How far the frame between two others stands off what is drawn between them, m. */
function between(a: Cut, b: Cut, c: Cut): number {
  const t = (c.x - a.x) / (b.x - a.x || 1);
  const mix = (p: number, q: number) => p + t * (q - p);
  const [p, q, r] = [a, b, c].map(sizeOf);
  if (!p || !q || !r) return 0;
  const sizes = [r.low - mix(p.low, q.low), r.high - mix(p.high, q.high), (r.wide - mix(p.wide, q.wide)) / 2];
  const full = (cut: Cut, s: typeof p) => areaUnder(cut) / (s.wide * (s.high - s.low) || 1);
  // The fullness of a section counts by how large it is.
  const fuller = (full(c, r) - mix(full(a, p), full(b, q))) * Math.min(r.wide, r.high - r.low);
  return Math.max(...[...sizes, fuller].map(Math.abs));
}
const areaUnder = ({ points }: Cut): number =>
  points.slice(1).reduce((s, p, k) => s + (p.out + (points[k]?.out ?? 0)) * (p.z - (points[k]?.z ?? 0)), 0);

/**
 * Frames of a body from cuts across it: as few as tell its shape, at most as many as a body has. Each is added where
 * what is drawn so far stands off most.
 *
 * @param cuts in order of x, m; each from its lowest point to its highest
 * @param by share of its size by which what is left out may stand off; 0: all that is not straight is kept
 * @returns the frames, and the share of its size by which what was left out stands off
 */
export function framesFrom(cuts: readonly Cut[], by: number): { frames: Frame[]; off: number } {
  const large = Math.max(...cuts.map((c) => Math.max(sizeOf(c).wide, sizeOf(c).high - sizeOf(c).low)), 1e-9);
  const chosen = [0, cuts.length - 1];
  let off = 0;
  for (;;) {
    let [worst, at] = [0, -1];
    for (let i = 1; i < chosen.length; i++) {
      const [from, to] = [chosen[i - 1] ?? 0, chosen[i] ?? 0];
      for (let k = from + 1; k < to; k++) {
        const [a, b, c] = [cuts[from], cuts[to], cuts[k]];
        const d = a && b && c ? between(a, b, c) : 0;
        // Of several that stand off alike the first, not the one that rounding favours.
        if (d > worst * (1 + 1e-9)) [worst, at] = [d, k];
      }
    }
    off = worst / large;
    if (at < 0 || (off < by && by > 0) || chosen.length >= MOST_FRAMES) break;
    chosen.push(at);
    chosen.sort((a, b) => a - b);
  }
  const frames = chosen.flatMap((k) => cuts[k] ?? []).map((c) => frameFrom(c, large, by));
  // An end that is a point has no section of its own: that of its neighbour runs out into it.
  frames.forEach((f, k) => {
    f.outline ??= structuredClone((frames[k + 1] ?? frames[k - 1])?.outline) ?? plainOutline();
  });
  return { frames, off };
}

const mm = (v: number) => Math.round(v * 1e5) / 1e5;
const share = (v: number, least: number) => Math.round(Math.min(1, Math.max(least, v)) * 1e4) / 1e4;
function frameFrom(cut: Cut, large: number, by: number): Frame {
  const { low, high, wide } = sizeOf(cut);
  const tall = high - low;
  const size = { x: mm(cut.x), z: mm((low + high) / 2), width: mm(wide), height: mm(tall) };
  if (wide < 1e-4 * large || tall < 1e-4 * large) return size;
  const points = thinned(cut.points, (p) => ({ a: p.out, b: p.z }), (by / 2) * large, MOST_POINTS);
  return {
    ...size,
    outline: points.map((p) => ({
      out: share((2 * p.out) / wide, 0),
      up: share((2 * (p.z - (low + high) / 2)) / tall, -1),
    })),
  };
}
