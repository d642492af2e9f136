import { z } from "zod";
import type { Known } from "../../../design/evidence";
import { FIELDS } from "../../../design/fields";
import type { Dimension } from "../../../design/units";
import { type Propulsor, propulsorSchema } from "./declares";

/** A field of a propulsor as a form shows it: what it is, what it holds and what it accepts. */
export interface KindField {
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

const shapeOf = (p: Propulsor): Record<string, z.ZodType> =>
  propulsorSchema.options.find((o) => o.shape.kind.value === p.kind)?.shape ?? {};

/** The fields of a propulsor's own kind, in the order in which they are declared. */
export const kindFields = (p: Propulsor): KindField[] =>
  Object.entries(shapeOf(p)).flatMap(([key, schema]): KindField[] => {
    if (key === "kind") return [];
    const meta = FIELDS.get(schema);
    const inner = schema instanceof z.ZodNullable ? (schema.unwrap() as z.ZodType) : schema;
    const label = meta?.label ?? key;
    return [
      {
        key,
        label: label.charAt(0).toUpperCase() + label.slice(1),
        hint: meta?.hint,
        dimension: meta?.dimension ?? "ratio",
        value: (p as Record<string, unknown>)[key] as KindField["value"],
        options: inner instanceof z.ZodEnum ? (inner.options as string[]) : null,
        known: inner instanceof z.ZodObject,
        optional: schema instanceof z.ZodNullable,
      },
    ];
  });

/** Why a propulsor cannot be with this number in this field, as a sentence; null when it can. */
export function refusedWith(p: Propulsor, key: string, value: number): string | null {
  const was = (p as Record<string, unknown>)[key];
  const field = kindFields(p).find((f) => f.key === key);
  const next = field?.known ? { ...(typeof was === "object" ? was : {}), value, evidence: "measured" } : value;
  const read = propulsorSchema.safeParse({ ...p, [key]: next });
  return read.success ? null : (read.error.issues[0]?.message ?? "not accepted");
}
