import type { z } from "zod";
import { type ChangeKind, FIELDS } from "./fields";
import { designSchema } from "./schema";
import type { Dimension } from "./units";

/** What is said of one place of a design, gathered along the way to it. */
export interface Said {
  label: string;
  dimension: Dimension | null;
  change: ChangeKind;
  knowing: boolean;
}

/** The words that a known value's own fields add to what it is. */
const OF_KNOWN: Record<string, { after: string; knowing: boolean }> = {
  value: { after: "", knowing: false },
  sd: { after: "±", knowing: true },
  evidence: { after: "known by", knowing: true },
  note: { after: "from where", knowing: true },
};

const spaced = (key: string) => key.replaceAll(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`);

/** The schema inside what may be left out, be null or have a default; what is said on the way in counts. */
function unwrapped(schema: z.ZodType | undefined, onto: Said): z.ZodType | undefined {
  let at = schema;
  for (let n = 0; at && n < 8; n++) {
    const said = FIELDS.get(at);
    if (said) {
      if (said.label !== undefined) onto.label = said.label;
      onto.dimension = said.dimension ?? onto.dimension;
      onto.change = said.change ?? onto.change;
      onto.knowing ||= said.about === "knowing";
    }
    const def = at._zod.def as { innerType?: z.ZodType };
    if (!def.innerType) return at;
    at = def.innerType;
  }
  return at;
}

interface Def {
  type?: string;
  element?: z.ZodType;
  shape?: Record<string, z.ZodType>;
  options?: readonly z.ZodType[];
}
const defOf = (schema: z.ZodType | undefined): Def => (schema?._zod.def ?? {}) as Def;
/** The one of several kinds that is called so; undefined where a thing is of no kinds. */
const kindIn = (schema: z.ZodType | undefined, kind: string): z.ZodType | undefined =>
  defOf(schema).options?.find((o) => (defOf(o).shape?.kind as z.ZodLiteral<string> | undefined)?.value === kind);
/** The fields of the first of several kinds that has such a field. */
const shapeWith = (schema: z.ZodType | undefined, key: string): Record<string, z.ZodType> =>
  defOf(defOf(schema).options?.find((o) => defOf(o).shape && key in (defOf(o).shape ?? {}))).shape ?? {};

/** What the schema says of a place in a design: keys, `#id` for an element of a list. */
export function saidOf(path: readonly string[]): Said {
  const said: Said = { label: "", dimension: null, change: "other", knowing: false };
  let schema: z.ZodType | undefined = designSchema;
  let prefix = "";
  for (const [k, key] of path.entries()) {
    const def: Def = schema?._zod.def ?? {};
    said.label = "";
    if (def.type === "array") {
      schema = unwrapped(def.element, said);
      const own = kindIn(schema, key);
      if (own) {
        schema = own;
        prefix = [prefix, key].filter((w) => w !== "").join(", ");
        continue;
      }
      // What is said of an entry is its kind of thing, not a part of its fields' names; a bare word or number has no
      // fields, and is what its list is.
      if ((schema?._zod.def as { shape?: object } | undefined)?.shape) prefix = "";
      continue;
    }
    const shape: Record<string, z.ZodType> = def.shape ?? shapeWith(schema, key);
    const known = "evidence" in shape && "value" in shape ? OF_KNOWN[key] : undefined;
    schema = unwrapped(shape[key], said);
    if (known) said.knowing ||= known.knowing;
    if (known && (key === "evidence" || key === "note")) said.dimension = null;
    const own = said.label || (k < path.length - 1 ? "" : known ? known.after : spaced(key));
    prefix = [prefix, key === "brief" && path.length > 1 ? "" : own].filter((w) => w !== "").join(" ");
  }
  return { ...said, label: prefix };
}
