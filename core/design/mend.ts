import type { z } from "zod";

/** Something in a stored document that its schema does not accept, and that was left out to read the rest. */
export interface SetAside {
  /** Place in the document, such as items.2.mass. */
  path: string;
  /** What the schema says of it. */
  message: string;
  /** What stands there, as short text. */
  was: string;
}

export interface Mended<T> {
  value: T;
  aside: SetAside[];
}

type Path = PropertyKey[];
const MOST = 200;

function at(root: unknown, path: Path): unknown {
  let node = root;
  for (const key of path) {
    if (typeof node !== "object" || node === null) return undefined;
    node = (node as Record<PropertyKey, unknown>)[key];
  }
  return node;
}

const short = (value: unknown): string => {
  if (typeof value === "object" && value !== null && "value" in value) return short(value.value);
  const text = typeof value === "string" ? value : (JSON.stringify(value) ?? "nothing");
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
};
const under = (path: Path, prefix: Path) => prefix.every((key, k) => path[k] === key);

/**
 * Reads a stored document leniently: what its schema does not accept is left out, from the inside outwards, until the
 * rest is valid. A value is first made empty, then removed; an entry of a
 * list is taken out of the list.
 * @returns the document that can be read, and all that was left out; null when nothing of it can be read
 */
export function mend<T>(schema: z.ZodType<T>, stored: unknown): Mended<T> | null {
  const whole = schema.safeParse(stored);
  if (whole.success) return { value: whole.data, aside: [] };
  const work = structuredClone(stored);
  const aside: SetAside[] = [];
  for (let round = 0; round < MOST; round++) {
    const read = schema.safeParse(work);
    if (read.success) return { value: read.data, aside };
    const issue = read.error.issues[0];
    if (
      !issue ||
      !without(schema, work, issue.path, (path, was) =>
        aside.push({ path: path.join("."), message: issue.message, was: short(was) }),
      )
    )
      return null;
  }
  return null;
}

/** Leaves out the smallest thing around a complaint that makes the complaint go away. */
function without<T>(
  schema: z.ZodType<T>,
  work: unknown,
  path: Path,
  left: (path: Path, was: unknown) => void,
): boolean {
  for (let depth = path.length; depth > 0; depth--) {
    const parent = at(work, path.slice(0, depth - 1));
    const key = path[depth - 1];
    if (key === undefined || typeof parent !== "object" || parent === null) continue;
    const here = path.slice(0, depth);
    const was = at(work, here);
    if (Array.isArray(parent)) {
      if (typeof key !== "number" || key >= parent.length) continue;
      parent.splice(key, 1);
      left(here, was);
      return true;
    }
    const holder = parent as Record<PropertyKey, unknown>;
    const quiet = () => {
      const again = schema.safeParse(work);
      return again.success || !again.error.issues.some((i) => under(i.path, here));
    };
    holder[key] = null;
    if (was !== null && quiet()) {
      left(here, was);
      return true;
    }
    delete holder[key];
    if (was !== undefined && quiet()) {
      left(here, was);
      return true;
    }
    holder[key] = was;
  }
  return false;
}
