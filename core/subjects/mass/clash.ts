import { AXES, type Design, type Item } from "../../design/schema";
import { type Body, bodies } from "./rollup";
import { attachedTo } from "./tree";

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
 * Boxes only: a round or tapered part that clears in truth may be named; the drawing shows where.
 */
export function overlaps(design: Design): Overlap[] {
  const solid = design.items.filter((i) => !i.hollow && AXES.every((a) => i.size[a] > FIT));
  const out: Overlap[] = [];
  for (const [i, a] of solid.entries())
    for (const b of solid.slice(i + 1)) {
      const reach = AXES.every(
        (axis) => axis === "y" || Math.abs(a.place[axis] - b.place[axis]) < (a.size[axis] + b.size[axis]) / 2,
      );
      if (!reach) continue;
      const d = depth(a, b);
      if (d > FIT && !attachedTo(design.items, a.id).includes(b) && !attachedTo(design.items, b.id).includes(a))
        out.push({ a: a.id, b: b.id, depth: d });
    }
  return out.sort((p, q) => q.depth - p.depth);
}

/** How far each part reaches out of the envelope, m, the worst first; empty when there is no envelope. */
export function outOfEnvelope(design: Design): { id: string; by: number; axis: (typeof AXES)[number] }[] {
  const { envelope } = design;
  if (!envelope) return [];
  return design.items
    .flatMap((item) => {
      const worst = bodies(item)
        .flatMap((body) =>
          AXES.map((axis) => {
            const [low, high] = span(item, body, axis);
            return { axis, by: Math.max(envelope.min[axis] - low, high - envelope.max[axis]) };
          }),
        )
        .sort((p, q) => q.by - p.by)[0];
      return worst && worst.by > 1e-6 ? [{ id: item.id, ...worst }] : [];
    })
    .sort((p, q) => q.by - p.by);
}
