import { AXES, type Design, type Item } from "../../design/schema";
import { isPlaced } from "./placed";
import { type Body, bodies } from "./rollup";

/** Two parts that share space. */
export interface Overlap {
  a: string;
  b: string;
  /** Depth of the shared box along its thinnest axis, m. */
  depth: number;
}

/** Boxes touching by less than this are a fit, not an overlap, m. */
const FIT = 0.002;

const span = (item: Item, body: Body, axis: (typeof AXES)[number]) =>
  [body.place[axis] - item.size[axis] / 2, body.place[axis] + item.size[axis] / 2] as const;

function depth(a: Item, b: Item): number {
  let deepest = 0;
  for (const bodyA of bodies(a))
    for (const bodyB of bodies(b)) {
      const shared = Math.min(
        ...AXES.map((axis) => {
          const [a0, a1] = span(a, bodyA, axis);
          const [b0, b1] = span(b, bodyB, axis);
          return Math.min(a1, b1) - Math.max(a0, b0);
        }),
      );
      deepest = Math.max(deepest, shared);
    }
  return deepest;
}

/**
 * Pairs of parts whose boxes share more than 2 mm along every axis. Hollow parts (shells) may hold others, and what
 * hangs on a part may sit in it.
 * A part of which nobody said where or how large it is shares space with none. Boxes only: a round or tapered part that
 * clears in truth may be named; the drawing shows where.
 */
export function overlaps({ items }: Pick<Design, "items">): Overlap[] {
  const held = known.get(items);
  if (held) return held;
  const parents = new Map(items.map((i) => [i.id, i.parentId]));
  const order = new Map(items.map((i, k) => [i.id, k]));
  const hangsOn = (id: string, host: string): boolean => {
    for (let up = parents.get(id) ?? null, n = 0; up !== null && n < items.length; up = parents.get(up) ?? null, n++)
      if (up === host) return true;
    return false;
  };
  // From nose to tail: what begins behind the end of a part can share no space with it.
  const solid = items
    .filter((i) => !i.hollow && !i.unsized && isPlaced(i) && AXES.every((a) => i.size[a] > FIT))
    .sort((a, b) => a.place.x - a.size.x / 2 - (b.place.x - b.size.x / 2));
  const out: Overlap[] = [];
  for (const [k, a] of solid.entries()) {
    const end = a.place.x + a.size.x / 2;
    for (let j = k + 1; j < solid.length; j++) {
      const b = solid[j] as Item;
      if (b.place.x - b.size.x / 2 >= end) break;
      if (Math.abs(a.place.z - b.place.z) >= (a.size.z + b.size.z) / 2) continue;
      const d = depth(a, b);
      if (d <= FIT || hangsOn(a.id, b.id) || hangsOn(b.id, a.id)) continue;
      const first = (order.get(a.id) ?? 0) < (order.get(b.id) ?? 0);
      out.push({ a: first ? a.id : b.id, b: first ? b.id : a.id, depth: d });
    }
  }
  out.sort((p, q) => q.depth - p.depth);
  known.set(items, out);
  return out;
}
/** By the identity of the ledger: the drawing and the verdict ask for the same. */
const known = new WeakMap<readonly Item[], Overlap[]>();

/** How far each part reaches out of the envelope, m, the worst first; empty when there is no envelope. */
export function outOfEnvelope(design: Design): { id: string; by: number; axis: (typeof AXES)[number] }[] {
  const { envelope } = design;
  if (!envelope) return [];
  return design.items
    .flatMap((item) => {
      const worst = bodies(item)
        .flatMap((body) =>
          AXES.filter((axis) => isPlaced(item, axis)).map((axis) => {
            const [low, high] = span(item, body, axis);
            return { axis, by: Math.max(envelope.min[axis] - low, high - envelope.max[axis]) };
          }),
        )
        .sort((p, q) => q.by - p.by)[0];
      return worst && worst.by > 1e-6 ? [{ id: item.id, ...worst }] : [];
    })
    .sort((p, q) => q.by - p.by);
}
