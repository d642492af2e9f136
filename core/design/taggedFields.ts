import { z } from "zod";
import type { Known } from "./evidence";
import { FIELDS } from "./fields";
import type { Dimension } from "./units";

/** A field of a thing of one kind as a form shows it: what it is, what it holds and what it accepts. */
export interface TaggedField {
  key: string;
  label: string;
  /** a few words under it, where its label is not enough */
  hint: string | undefined;
  dimension: Dimension;
  value: Known | number | string | null;
  /** what it may be chosen from; null where it is a number */
  options: readonly string[] | null;
  /** a number with how it is known */
  known: boolean;
  /** may be left empty */
  optional: boolean;
}

interface Tagged {
  kind: string;
}
/** A choice of kinds as zod has it: each an object whose `kind` says which it is. */
interface Kinds {
  options: readonly { shape: { kind: z.ZodLiteral<string> } }[];
}

/** The fields of a thing's own kind, in the order in which they are declared. */
export function taggedFields(kinds: Kinds, thing: Tagged): TaggedField[] {
  const shape: Record<string, z.ZodType> = kinds.options.find((o) => o.shape.kind.value === thing.kind)?.shape ?? {};
  return Object.entries(shape).flatMap(([key, schema]): TaggedField[] => {
    const meta = FIELDS.get(schema);
    // What has no label is not entered by hand.
    if (key === "kind" || !meta?.label) return [];
    const inner = schema instanceof z.ZodNullable ? (schema.unwrap() as z.ZodType) : schema;
    const { label } = meta;
    return [
      {
        key,
        label: label.charAt(0).toUpperCase() + label.slice(1),
        hint: meta.hint,
        dimension: meta.dimension ?? "ratio",
        value: (thing as unknown as Record<string, unknown>)[key] as TaggedField["value"],
        options: inner instanceof z.ZodEnum ? (inner.options as string[]) : null,
        known: inner instanceof z.ZodObject,
        optional: schema instanceof z.ZodNullable,
      },
    ];
  });
}

/** Why a thing cannot be with this number in this field, as a sentence; null when it can. */
export function refusedWith(kinds: Kinds & z.ZodType, thing: Tagged, key: string, value: number): string | null {
  const was = (thing as unknown as Record<string, unknown>)[key];
  const field = taggedFields(kinds, thing).find((f) => f.key === key);
  const next = field?.known ? { ...(typeof was === "object" ? was : {}), value, evidence: "measured" } : value;
  const read = kinds.safeParse({ ...thing, [key]: next });
  return read.success ? null : (read.error.issues[0]?.message ?? "not accepted");
}
