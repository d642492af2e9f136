import { enableArrayMethods, produce, setAutoFreeze } from "immer";
import { type z, ZodArray } from "zod";
import { type Design, designSchema } from "./schema";

// Designs come from files, forms and records that are not ours to freeze.
setAutoFreeze(false);
// What is looked for in a list makes a draft of what is found alone, not of every entry that was looked at.
enableArrayMethods();

/**
 * The next value with every part that holds the same as before being the very same object: what did not change is
 * known by identity.
 */
export function sharing<T>(before: unknown, next: T): T {
  if (Object.is(before, next)) return next;
  if (
    typeof before !== "object" ||
    typeof next !== "object" ||
    before === null ||
    next === null ||
    Array.isArray(before) !== Array.isArray(next)
  )
    return next;
  if (Array.isArray(next)) {
    const old = before as unknown[];
    const byId = new Map(old.flatMap((e) => (hasId(e) ? [[e.id, e] as const] : [])));
    let same = old.length === next.length;
    const out = next.map((e: unknown, k) => {
      const kept = sharing(hasId(e) ? byId.get(e.id) : old[k], e);
      same &&= kept === old[k];
      return kept;
    });
    return (same ? before : out) as T;
  }
  const old = before as Record<string, unknown>;
  const keys = Object.keys(next);
  let same = keys.length === Object.keys(old).length;
  const out: Record<string, unknown> = {};
  for (const key of keys) {
    out[key] = sharing(old[key], (next as Record<string, unknown>)[key]);
    same &&= key in old && out[key] === old[key];
  }
  return (same ? before : out) as T;
}
const hasId = (e: unknown): e is { id: string } =>
  typeof e === "object" && e !== null && "id" in e && typeof e.id === "string";

export type Edited = { ok: true; design: Design } | { ok: false; message: string; path: PropertyKey[] };

const SHAPE = designSchema.shape as Record<string, z.ZodType>;

type Row = { id: string; parentId?: unknown };
/**
 * Rows of a list of which some are other objects, and none came, went or hangs elsewhere: those alone are checked, what
 * the list says of all of them together is as it was. Null: the list has to be checked as a whole.
 */
function checkedRows(
  schema: z.ZodType | undefined,
  was: unknown,
  is: unknown,
): { ok: true; rows: unknown[] } | { ok: false; message: string; path: PropertyKey[] } | null {
  if (!(schema instanceof ZodArray) || !Array.isArray(was) || !Array.isArray(is) || was.length !== is.length)
    return null;
  const out: unknown[] = [];
  for (const [k, row] of is.entries()) {
    const old: unknown = was[k];
    if (row === old) {
      out.push(row);
      continue;
    }
    if (!hasId(row) || !hasId(old) || row.id !== old.id || (row as Row).parentId !== (old as Row).parentId) return null;
    const read = (schema.element as z.ZodType).safeParse(row);
    if (!read.success) {
      const issue = read.error.issues[0];
      return { ok: false, message: issue?.message ?? "not valid", path: [k, ...(issue?.path ?? [])] };
    }
    out.push(sharing(old, read.data));
  }
  return { ok: true, rows: out.every((row, k) => row === was[k]) ? was : out };
}

/**
 * A design checked against what it was: only what is another object is looked at, and what holds the same stays the
 * same object.
 */
export function checkedDesign(before: Design, next: Design): Edited {
  const out: Record<string, unknown> = {};
  for (const key of Object.keys(SHAPE)) {
    const [was, is] = [(before as Record<string, unknown>)[key], (next as Record<string, unknown>)[key]];
    if (was === is) {
      out[key] = is;
      continue;
    }
    const rows = checkedRows(SHAPE[key], was, is);
    if (rows?.ok === false) return { ...rows, path: [key, ...rows.path] };
    if (rows) {
      out[key] = rows.rows;
      continue;
    }
    const read = SHAPE[key]?.safeParse(is);
    if (!read?.success) {
      const issue = read?.error.issues[0];
      return { ok: false, message: issue?.message ?? "not valid", path: [key, ...(issue?.path ?? [])] };
    }
    out[key] = sharing(was, read.data);
  }
  return { ok: true, design: sharing(before, out) as Design };
}

/**
 * Changes a design by writing to a draft of it. What is not written to stays the same object; a result that is no
 * design is refused with why.
 */
export const editDesign = (design: Design, change: (draft: Design) => void): Edited =>
  checkedDesign(
    design,
    produce(design, (draft) => {
      change(draft as Design);
    }),
  );
