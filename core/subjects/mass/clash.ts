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

/** How far two lengths overlap along an axis, their middles that far apart, m; below 0: the gap between them. */
const shared = (apart: number, one: number, other: number): number =>
  Math.min((one + other) / 2 - Math.abs(apart), one, other);

function depth(a: Item, b: Item): number {
  const [p, q] = [a.place, b.place];
  // Of a mirrored part that half counts which is on the side of the other.
  const apart = a.mirrored || b.mirrored ? Math.abs(p.y) - Math.abs(q.y) : p.y - q.y;
  const across = shared(apart, a.size.y, b.size.y);
  return Math.min(across, shared(p.x - q.x, a.size.x, b.size.x), shared(p.z - q.z, a.size.z, b.size.z));
}

/** What fills its box and stands somewhere: hollow parts hold others, and what has no place or size shares no space. */
const isSolid = (i: Item): boolean => !i.hollow && !i.unsized && isPlaced(i) && AXES.every((a) => i.size[a] > FIT);

interface Found {
  items: readonly Item[];
  overlaps: Overlap[];
}
/** By the identity of the ledger, and the last one: the drawing and the verdict ask for the same. */
const known = new WeakMap<readonly Item[], Overlap[]>();
let last: Found | null = null;
/** Parts that may differ from those of the last ledger for the rest of them to be left as it is. */
const FEW = 8;

/**
 * Pairs of parts whose boxes share more than 2 mm along every axis. Hollow parts (shells) may hold others, and what
 * hangs on a part may sit in it.
 * A part of which nobody said where or how large it is shares space with none. Boxes only: a round or tapered part that
 * clears in truth may be named; the drawing shows where. A pair of parts that both stayed what they are is the same
 * object as before.
 */
export function overlaps({ items }: Pick<Design, "items">): Overlap[] {
  const held = known.get(items);
  if (held) return held;
  const order = new Map(items.map((i, k) => [i.id, k]));
  const at = (id: string) => order.get(id) ?? 0;
  const parents = new Map(items.map((i) => [i.id, i.parentId]));
  const hangsOn = (id: string, host: string): boolean => {
    for (let up = parents.get(id) ?? null, n = 0; up !== null && n < items.length; up = parents.get(up) ?? null, n++)
      if (up === host) return true;
    return false;
  };
  const pairOf = (a: Item, b: Item): Overlap[] => {
    const d = depth(a, b);
    if (d <= FIT || hangsOn(a.id, b.id) || hangsOn(b.id, a.id)) return [];
    const first = at(a.id) < at(b.id);
    return [{ a: first ? a.id : b.id, b: first ? b.id : a.id, depth: d }];
  };
  const changed = last && changedIn(last.items, items);
  const out = last && changed ? alsoFor(last, items, changed, pairOf) : allPairs(items, pairOf);
  out.sort((p, q) => q.depth - p.depth || at(p.a) - at(q.a) || at(p.b) - at(q.b));
  known.set(items, out);
  last = { items, overlaps: out };
  return out;
}

/** The few parts that are others than in a ledger of the same parts; null where it is another ledger. */
function changedIn(before: readonly Item[], items: readonly Item[]): Item[] | null {
  if (before.length !== items.length) return null;
  const out: Item[] = [];
  for (const [k, item] of items.entries()) {
    const was = before[k];
    if (was === item) continue;
    if (!was || was.id !== item.id || was.parentId !== item.parentId || out.length === FEW) return null;
    out.push(item);
  }
  return out;
}

/** The pairs of a ledger with some parts changed: those of all other parts stand as they were. */
function alsoFor(
  { overlaps: before }: Found,
  items: readonly Item[],
  changed: readonly Item[],
  pairOf: (a: Item, b: Item) => Overlap[],
): Overlap[] {
  const named = new Set(changed.map((i) => i.id));
  const out = before.filter((p) => !named.has(p.a) && !named.has(p.b));
  for (const [k, one] of changed.entries()) {
    if (!isSolid(one)) continue;
    const done = new Set(changed.slice(0, k + 1));
    for (const other of items) if (!done.has(other) && isSolid(other)) out.push(...pairOf(one, other));
  }
  return out;
}

/** From nose to tail: what begins behind the end of a part can share no space with it. */
function allPairs(items: readonly Item[], pairOf: (a: Item, b: Item) => Overlap[]): Overlap[] {
  const solid = items.filter(isSolid).sort((a, b) => a.place.x - a.size.x / 2 - (b.place.x - b.size.x / 2));
  const out: Overlap[] = [];
  for (const [k, a] of solid.entries()) {
    const end = a.place.x + a.size.x / 2;
    for (let j = k + 1; j < solid.length; j++) {
      const b = solid[j] as Item;
      if (b.place.x - b.size.x / 2 >= end) break;
      out.push(...pairOf(a, b));
    }
  }
  return out;
}

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
