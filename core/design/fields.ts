import { z } from "zod";
import { finite } from "./bounds";
import type { Dimension } from "./units";

/** What part of the craft a change touches: faults and checklists read it. */
export const CHANGE_KINDS = [
  "part",
  "mass",
  "place",
  "propeller",
  "motor",
  "controller",
  "gear",
  "pack",
  "thrust line",
  "medium",
  "duty",
  "brief",
  "set-up",
  "other",
] as const;
export type ChangeKind = (typeof CHANGE_KINDS)[number];

/** What is said of a field of the design, once: wherever it is shown, compared or told as a change. */
export interface FieldMeta {
  /** words for the field; for an entry of a list, for what kind of thing it is */
  label?: string;
  dimension?: Dimension;
  /** a few words under the field, where its label is not enough */
  hint?: string;
  /** what a change of it touches; holds for everything inside */
  change?: ChangeKind;
  /** how well something is known, a plan or a price: no change of the craft itself */
  about?: "knowing";
}
export const FIELDS = z.registry<FieldMeta>();

/**
 * A schema of its own with what it is said to be: the one that it was made from may stand elsewhere for something
 * else.
 */
export const field = <T extends z.ZodType>(schema: T, meta: FieldMeta): T => {
  const own = schema.clone();
  FIELDS.add(own, { ...FIELDS.get(schema), ...meta });
  return own;
};

export const coordinate = finite.min(-100).max(100);
export const idSchema = z
  .string()
  .min(1)
  .max(40)
  .regex(/^[A-Za-z0-9_-]+$/, "letters, digits, - and _ only");
export const nameSchema = z.string().trim().min(1, "a name is needed").max(120);

/** A place in the craft; a new one each time, so that what is said of one field does not stand for another. */
export const point = () =>
  z.object({
    x: field(coordinate.describe("aft of the datum, m"), { label: "x", dimension: "length" }),
    y: field(coordinate.describe("to starboard, m"), { label: "y", dimension: "length" }),
    z: field(coordinate.describe("up from the baseline, m"), { label: "z", dimension: "length" }),
  });
export const pointSchema = point();
export type Point = z.infer<typeof pointSchema>;
export const AXES = ["x", "y", "z"] as const;
export type Axis = (typeof AXES)[number];

export const unique = <T extends { id: string }>(list: T[]) => new Set(list.map((x) => x.id)).size === list.length;
