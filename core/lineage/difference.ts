import type { ChangeKind } from "../design/fields";
import type { Design } from "../design/schema";
import { saidOf } from "../design/said";
import type { Dimension } from "../design/units";

export type Leaf = string | number | boolean | null;

export interface Change {
  change: "added" | "removed" | "changed";
  kind: ChangeKind;
  /** Where in the design: keys, `#id` for elements of lists. */
  path: string[];
  /** Name of the part, drive, pack or target that the change is in. */
  subject: string;
  /** Words for the field; empty when a whole entry was added or removed. */
  field: string;
  dimension: Dimension | null;
  /** How well something is known, a plan or a price: the craft itself is as it was. */
  knowing: boolean;
  from: Leaf;
  to: Leaf;
}

type Leaves = Map<string, Leaf>;

/**
 * What an element of a list is told from the others by: its id, else its kind where each is there once, else its
 * place.
 */
function keyIn(list: readonly unknown[], place: number): string {
  const own = (e: unknown) => (typeof e === "object" && e !== null ? (e as { id?: unknown; kind?: unknown }) : {});
  const { id, kind } = own(list[place]);
  if (id !== undefined) return `#${String(id)}`;
  return typeof kind === "string" && list.every((e, k) => k === place || own(e).kind !== kind) ? kind : String(place);
}

function flatten(value: unknown, path: string[], into: Leaves): Leaves {
  if (Array.isArray(value)) {
    for (const [i, element] of value.entries()) flatten(element, [...path, keyIn(value, i)], into);
  } else if (typeof value === "object" && value !== null) {
    for (const [key, inner] of Object.entries(value)) flatten(inner, [...path, key], into);
  } else into.set(path.join("/"), (value ?? null) as Leaf);
  return into;
}

/** Name of the entry that a path leads into, as its list has it. */
function entryName(design: Design, path: readonly string[]): string {
  let node: unknown = design;
  for (const key of path) {
    if (Array.isArray(node)) {
      const entry = node.find((e) => typeof e === "object" && e !== null && "id" in e && e.id === key.slice(1)) as
        | { id: string; name?: string; metric?: string }
        | undefined;
      return entry?.name ?? (entry?.metric ? `target ${entry.metric}` : key.slice(1));
    }
    node = typeof node === "object" && node !== null ? (node as Record<string, unknown>)[key] : undefined;
  }
  return saidOf(path.slice(0, 1)).label;
}

/** The path of the list entry that a leaf is in: up to and including its `#id`. */
const entryOf = (key: string): string | null => /^(.*?#[^/]+)/.exec(key)?.[1] ?? null;

/**
 * All differences from one design to another: entries added and removed as wholes, and every changed field of the
 * entries that both have.
 * Entries are told apart by id, so that a renamed part is a change and not a removal.
 */
export function difference(from: Design, to: Design): Change[] {
  const a = flatten(from, [], new Map());
  const b = flatten(to, [], new Map());
  const entries = (leaves: Leaves) => new Set([...leaves.keys()].flatMap((k) => entryOf(k) ?? []));
  const inA = entries(a);
  const inB = entries(b);
  const out: Change[] = [];
  const whole = (change: "added" | "removed", entry: string, design: Design) => {
    const path = entry.split("/");
    const said = saidOf(path);
    out.push({
      change,
      kind: said.change,
      path,
      subject: entryName(design, path),
      field: "",
      dimension: null,
      knowing: false,
      from: null,
      to: null,
    });
  };
  for (const entry of inA) if (!inB.has(entry)) whole("removed", entry, from);
  for (const entry of inB) if (!inA.has(entry)) whole("added", entry, to);
  for (const key of new Set([...a.keys(), ...b.keys()])) {
    const entry = entryOf(key);
    if (entry !== null && !(inA.has(entry) && inB.has(entry))) continue;
    const before = a.get(key) ?? null;
    const after = b.get(key) ?? null;
    if (before === after || key.endsWith("/id")) continue;
    const path = key.split("/");
    const said = saidOf(path);
    out.push({
      change: "changed",
      kind: said.change,
      path,
      subject: entryName(to, path),
      field: said.label,
      dimension: said.dimension,
      knowing: said.knowing,
      from: before,
      to: after,
    });
  }
  return out;
}

/** What kinds of thing a list of changes touches. */
export const kindsOf = (changes: readonly Change[]): Set<ChangeKind> => new Set(changes.map((c) => c.kind));
