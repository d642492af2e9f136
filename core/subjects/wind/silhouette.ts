import { AXES, type Axis, type Design, type Item, type Point } from "../../design/schema";
import { isPlaced, lacking } from "../mass/placed";
import { bodies as halvesOf } from "../mass/rollup";
import { ringOf } from "../surfaces/bodyShape";
import type { BodyShape, Surface } from "../surfaces/declares";
import { edgesOf, outlineOf, stationsOf } from "../surfaces/planform";

/** The two axes that are seen when one looks along a third: across the picture, and up it. */
export const SEEN: Record<Axis, readonly [Axis, Axis]> = { x: ["y", "z"], y: ["x", "z"], z: ["x", "y"] };

type Corner = readonly [number, number];
/** A convex polygon in a view: across, up; m. */
export interface Shape {
  corners: readonly Corner[];
  /** from where to where it reaches across, and where it is as high everywhere: up */
  left: number;
  right: number;
  flat: readonly [number, number] | null;
}

/** A convex polygon of its corners, in turn. */
export function shapeOf(corners: readonly Corner[]): Shape {
  const across = corners.map(([x]) => x);
  return { corners, left: Math.min(...across), right: Math.max(...across), flat: null };
}

/** What is seen of a craft along one of its axes. */
export interface Silhouette {
  /** m², what stands behind something else counted once */
  area: number;
  /** its middle, m */
  across: number;
  up: number;
}

function box(across: number, up: number, width: number, height: number): Shape {
  const [left, right] = [across - width / 2, across + width / 2];
  const [low, high] = [up - height / 2, up + height / 2];
  const corners: Corner[] = [
    [left, low],
    [right, low],
    [right, high],
    [left, high],
  ];
  return { corners, left, right, flat: [low, high] };
}

/** Boxes of parts by view: a design that is edited keeps the parts that are not. */
const drawn: Record<Axis, WeakMap<Item, Shape[]>> = { x: new WeakMap(), y: new WeakMap(), z: new WeakMap() };
function ofItem(i: Item, along: Axis): Shape[] {
  const known = drawn[along].get(i);
  if (known) return known;
  const [a, u] = SEEN[along];
  // From the side one half of a pair covers the other.
  const halves = along === "y" ? halvesOf(i).slice(0, 1) : halvesOf(i);
  const made = halves.map(({ place }) => box(place[a], place[u], i.size[a], i.size[u]));
  drawn[along].set(i, made);
  return made;
}

/** Corners of a polygon that stands for an ellipse of the same area. */
const ROUND = 24;
const SWELL = Math.sqrt((2 * Math.PI) / (ROUND * Math.sin((2 * Math.PI) / ROUND)));
const ellipse = (across: number, up: number, width: number, height: number): Shape =>
  shapeOf(
    Array.from({ length: ROUND }, (_, k) => {
      const a = (2 * Math.PI * k) / ROUND;
      return [across + (SWELL * width * Math.cos(a)) / 2, up + (SWELL * height * Math.sin(a)) / 2];
    }),
  );

function ofBody(b: BodyShape, along: Axis): Shape[] {
  return (b.mirrored ? [b.y, -b.y] : [b.y]).flatMap((y): Shape[] => {
    if (along === "x")
      return b.frames.map((f) =>
        b.across === "free"
          ? shapeOf(ringOf(b.across, f).map((p) => [y + p.out, p.z]))
          : (b.across === "round" ? ellipse : box)(y, f.z, f.width, f.height),
      );
    const [middle, size] = along === "y" ? (["z", "height"] as const) : (["y", "width"] as const);
    const at = (f: BodyShape["frames"][number]) => (middle === "z" ? f.z : y);
    return b.frames.slice(1).flatMap((f, k): Shape[] => {
      const from = b.frames[k];
      if (!from) return [];
      return [
        shapeOf([
          [from.x, at(from) - from[size] / 2],
          [f.x, at(f) - f[size] / 2],
          [f.x, at(f) + f[size] / 2],
          [from.x, at(from) + from[size] / 2],
        ]),
      ];
    });
  });
}

/** Panel by panel: a ring seen from the side lies over itself. */
function ofSurface(s: Surface, along: Axis): Shape[] {
  const [a, u] = SEEN[along];
  const panels = stationsOf(s).length - 1;
  return (s.mirrored ? [1, -1] : [1]).flatMap((side) => {
    const outline = outlineOf(s, side as 1 | -1);
    const corner = (p: Point | undefined): readonly [number, number] => [p?.[a] ?? 0, p?.[u] ?? 0];
    const last = outline.length - 1;
    return Array.from({ length: panels }, (_, k) =>
      shapeOf([outline[k], outline[k + 1], outline[last - k - 1], outline[last - k]].map(corner)),
    );
  });
}

/** Share of its size by which a box may stand out of a body and still be what the body describes (judgement). */
const STANDS_OUT = 0.05;
type Box = Record<Axis, readonly [number, number]>;
/** The box around a body, and a little more. */
function boxOf(b: BodyShape): Box {
  const edges = edgesOf(b);
  const along = (a: Axis): [number, number] => {
    const at = edges.map((p) => p[a]);
    const [low, high] = [Math.min(...at), Math.max(...at)];
    const slack = STANDS_OUT * (high - low);
    return [low - slack, high + slack];
  };
  return { x: along("x"), y: along("y"), z: along("z") };
}
/** Whether a part lies in the box around a body: it is in it, or it is the body. */
const within = (i: Item, b: Box): boolean =>
  AXES.every(
    (a) => !isPlaced(i, a) || (i.place[a] - i.size[a] / 2 >= b[a][0] && i.place[a] + i.size[a] / 2 <= b[a][1]),
  );

/** What a craft shows along one axis, and which parts of it are not in that. */
export function shapesAlong(
  design: Pick<Design, "items" | "surfaces" | "bodies">,
  along: Axis,
): { shapes: Shape[]; lacks: string[] } {
  const [a, u] = SEEN[along];
  const here = (i: Item) => isPlaced(i, a) && isPlaced(i, u) && !i.unsized;
  // What is drawn as a surface or a body is not drawn as its box again.
  const known = design.surfaces.filter((s) => s.shapeBy !== "guess");
  const hulls = design.bodies.filter((b) => b.shapeBy !== "guess");
  const boxes = hulls.map(boxOf);
  const shown = (i: Item) => !known.some((s) => s.itemId === i.id) && !boxes.some((b) => within(i, b));
  const guessed = [...design.surfaces, ...design.bodies].filter((s) => s.shapeBy === "guess");
  return {
    shapes: [
      ...design.items.filter((i) => here(i) && shown(i)).flatMap((i) => ofItem(i, along)),
      ...known.flatMap((s) => ofSurface(s, along)),
      ...hulls.flatMap((b) => ofBody(b, along)),
    ],
    lacks: [
      ...lacking(
        design.items.filter((i) => !here(i)),
        "a place and a size",
      ),
      ...lacking(guessed, "a known shape"),
    ],
  };
}

/** Strips that a view is cut into at least, and shapes from which on it is not cut at each of their corners besides. */
const STRIPS = 128;
const MANY = 48;

/**
 * Several convex polygons together, strip by strip: what lies over something else counts once. Cut at every corner (of
 * many: evenly), each strip as high as it is in its middle; straight edges make that exact but where they cross.
 *
 * @param each is told from where to where a strip reaches across, how high it is covered, m, and that times how far up
 *   the middle of it is, m²
 * @param under what lies higher, m, is left out
 */
function sweep(
  shapes: readonly Shape[],
  each: (from: number, to: number, length: number, moment: number) => void,
  under = Number.POSITIVE_INFINITY,
): void {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const s of shapes) {
    low = Math.min(low, s.left);
    high = Math.max(high, s.right);
  }
  if (!(high > low)) return;
  const even = Array.from({ length: STRIPS + 1 }, (_, k) => low + ((high - low) * k) / STRIPS);
  const cuts =
    shapes.length > MANY
      ? even
      : [...new Set([...even, ...shapes.flatMap((s) => s.corners.map(([x]) => x))])].sort((a, b) => a - b);
  // From where to where each strip is covered, shape by shape.
  const covered: Corner[][] = Array.from({ length: cuts.length - 1 }, () => []);
  for (const s of shapes) cover(s, cuts, covered);
  for (const [k, found] of covered.entries()) {
    const [a, b] = [cuts[k] as number, cuts[k + 1] as number];
    if (found.length > 1) found.sort((p, q) => p[0] - q[0]);
    let [length, moment, top] = [0, 0, Number.NEGATIVE_INFINITY];
    for (const [from, upTo] of found) {
      const start = Math.max(from, top);
      const to = Math.min(upTo, under);
      if (to <= start) continue;
      length += to - start;
      moment += (to ** 2 - start ** 2) / 2;
      top = to;
    }
    each(a, b, length, moment);
  }
}

/**
 * Area of several convex polygons together, and its middle: what lies over something else counts once.
 *
 * @returns null where nothing is seen
 */
export function unionOf(shapes: readonly Shape[]): Silhouette | null {
  let [area, across, up] = [0, 0, 0];
  sweep(shapes, (a, b, length, moment) => {
    area += length * (b - a);
    across += (length * (b - a) * (a + b)) / 2;
    up += moment * (b - a);
  });
  return area > 0 ? { area, across: across / area, up: up / area } : null;
}

/**
 * ∫ |x − about|³ h dx of what is seen, m⁵: with ½ρC and the square of a rate it is the moment that its drag holds
 * against turning about an upright axis there.
 *
 * @param under what lies higher, m, is left out
 */
export function turningOf(shapes: readonly Shape[], about: number, under?: number): number {
  // ∫|x|³dx of a strip, exactly.
  const fourth = (x: number) => (Math.sign(x - about) * (x - about) ** 4) / 4;
  let sum = 0;
  sweep(shapes, (a, b, length) => void (sum += length * (fourth(b) - fourth(a))), under);
  return sum;
}

/** The first strip whose middle does not lie before a place. */
function firstFrom(x: number, cuts: readonly number[]): number {
  let [low, high] = [0, cuts.length - 1];
  while (low < high) {
    const k = (low + high) >> 1;
    if (((cuts[k] as number) + (cuts[k + 1] as number)) / 2 < x) low = k + 1;
    else high = k;
  }
  return low;
}

/** Puts what a convex polygon covers into the strips whose middle it reaches over. */
function cover(s: Shape, cuts: readonly number[], into: Corner[][]): void {
  for (let k = firstFrom(s.left, cuts); k < into.length; k++) {
    const x = ((cuts[k] as number) + (cuts[k + 1] as number)) / 2;
    if (x > s.right) break;
    into[k]?.push(s.flat ?? heightAt(s, x));
  }
}

/** From where to where a convex polygon reaches at one place across. */
function heightAt({ corners }: Shape, x: number): Corner {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  let p = corners.at(-1) as Corner;
  for (const q of corners) {
    if ((p[0] <= x && x <= q[0]) || (q[0] <= x && x <= p[0])) {
      const y = q[0] === p[0] ? p[1] : p[1] + ((q[1] - p[1]) * (x - p[0])) / (q[0] - p[0]);
      low = Math.min(low, y);
      high = Math.max(high, y);
    }
    p = q;
  }
  return [low, high];
}
