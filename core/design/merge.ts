import { sameData } from "../numeric/sameData";
import { type Design, designSchema } from "./schema";

export type Merged =
  | { ok: true; design: Design }
  /** The things that both changed, or that one changed and the other took away: where they are, as paths. */
  | { ok: false; both: string[][] };

type Plain = Record<string, unknown>;
const isPlain = (v: unknown): v is Plain => typeof v === "object" && v !== null && !Array.isArray(v);
type Entry = { id: string };
const isEntry = (v: unknown): v is Entry => isPlain(v) && typeof v.id === "string";
const isList = (v: unknown): v is Entry[] => Array.isArray(v) && v.every(isEntry);

/** Objects of a design that are many things in one; all others (a mass with how it is known) are one thing. */
const OF_MANY = new Set(["", "brief", "brief/environment", "flight"]);

type Side = "mine" | "theirs";

interface Found {
  /** whose stands where both changed one thing; null: nobody said */
  prefer: Side | null;
  both: string[][];
  /** Things as they were changed here or there, for what they refer to. */
  changed: { path: string[]; by: Side; value: unknown }[];
  removed: { id: string; by: Side }[];
}

/**
 * What stands when two have changed one design that they both began from: every thing (an entry of a list, a field of
 * the brief) as whoever changed it left it. Where both changed one thing in different ways, or one refers to what the
 * other took away, nothing is decided, unless somebody has said whose stands there.
 */
export function mergeDesigns(base: Design, mine: Design, theirs: Design, prefer: Side | null = null): Merged {
  const found: Found = { prefer, both: [], changed: [], removed: [] };
  const merged = mergeValue(base, mine, theirs, [], found);
  for (const { path, by, value } of found.changed)
    if (found.removed.some((r) => r.by !== by && mentions(value, r.id))) found.both.push(path);
  if (found.both.length > 0) return { ok: false, both: found.both };
  const read = designSchema.safeParse(merged);
  if (!read.success) return { ok: false, both: [read.error.issues[0]?.path.map(String) ?? []] };
  return { ok: true, design: read.data };
}

/** Whether a value has this text anywhere in it. */
function mentions(value: unknown, text: string): boolean {
  if (value === text) return true;
  if (typeof value !== "object" || value === null) return false;
  return Object.values(value).some((v) => mentions(v, text));
}

function mergeValue(base: unknown, mine: unknown, theirs: unknown, path: string[], found: Found): unknown {
  const [here, there] = [sameData(base, mine), sameData(base, theirs)];
  if (here && there) return mine;
  if (isList(base) && isList(mine) && isList(theirs)) return mergeList(base, mine, theirs, path, found);
  if (OF_MANY.has(path.join("/")) && isPlain(base) && isPlain(mine) && isPlain(theirs)) {
    const keys = new Set([...Object.keys(theirs), ...Object.keys(mine), ...Object.keys(base)]);
    const out: Plain = {};
    for (const key of keys) {
      const value = mergeValue(base[key], mine[key], theirs[key], [...path, key], found);
      if (value !== undefined) out[key] = value;
    }
    return out;
  }
  return mergeThing(base, mine, theirs, path, found, { here, there });
}

/** One thing: as whoever changed it left it. */
function mergeThing(
  base: unknown,
  mine: unknown,
  theirs: unknown,
  path: string[],
  found: Found,
  { here, there }: { here: boolean; there: boolean },
): unknown {
  const contested = !here && !there && !sameData(mine, theirs);
  if (contested && found.prefer === null) found.both.push(path);
  const stands = here || (contested && found.prefer === "theirs") ? theirs : mine;
  for (const [by, value, same] of [
    ["mine", mine, here],
    ["theirs", theirs, there],
  ] as const) {
    if (same || value !== stands) continue;
    if (value === undefined && isEntry(base)) found.removed.push({ id: base.id, by });
    else found.changed.push({ path, by, value });
  }
  return stands;
}

/** Entries by their id. The order is theirs, with what was added here behind what it stood behind. */
function mergeList(base: Entry[], mine: Entry[], theirs: Entry[], path: string[], found: Found): Entry[] {
  const by = (list: Entry[]) => new Map(list.map((e) => [e.id, e]));
  const [b, m, t] = [by(base), by(mine), by(theirs)];
  const kept = new Map<string, Entry>();
  for (const id of new Set([...b.keys(), ...m.keys(), ...t.keys()])) {
    const [was, here, there] = [b.get(id), m.get(id), t.get(id)];
    const value = mergeThing(was, here, there, [...path, `#${id}`], found, {
      here: sameData(was, here),
      there: sameData(was, there),
    });
    if (value !== undefined) kept.set(id, value as Entry);
  }
  const ids = (list: Entry[]) => list.map((e) => e.id).filter((id) => kept.has(id));
  const common = (list: Entry[]) => ids(list).filter((id) => b.has(id));
  // Who moved rows has the order; theirs where nobody did, and where both did.
  const [first, second] = sameData(common(base), common(theirs)) ? [ids(mine), ids(theirs)] : [ids(theirs), ids(mine)];
  const order = [...first];
  for (const [k, id] of second.entries()) {
    if (order.includes(id)) continue;
    const before = second.slice(0, k).findLast((x) => order.includes(x));
    order.splice(before === undefined ? 0 : order.indexOf(before) + 1, 0, id);
  }
  return order.flatMap((id) => kept.get(id) ?? []);
}
