import { z } from "zod";

const finite = z.number().finite();
const place = finite.min(-100).max(100);
/** Repeated readings of one thing: at least one. */
const readings = (of: z.ZodNumber) => z.array(of).min(1, "at least one reading").max(50);
const load = finite.min(0, "a scale reads zero or more").max(1000);
const scale = z.object({
  resolution: finite.positive().max(10).describe("smallest step that the scale shows, kg"),
  error: finite.min(0).max(0.2).describe("standard uncertainty of its calibration, as a share of the reading"),
});
const ruler = finite.min(0).max(1).describe("standard uncertainty of a measured place, m");

/** Guided weigh-ins: what was set up, and what was read. kg, m, rad. */
export const weighInSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("total"), scale, loads: readings(load) }),
  z.object({
    kind: z.literal("parts"),
    scale,
    parts: z
      .array(z.object({ itemId: z.string(), loads: readings(load) }))
      .min(1, "weigh at least one part")
      .max(1000),
  }),
  z.object({ kind: z.literal("two-scales"), scale, ruler, at: z.tuple([place, place]).describe("x of the two supports"), loads: z.tuple([readings(load), readings(load)]) }),
  z.object({
    kind: z.literal("three-scales"),
    scale,
    ruler,
    at: z.tuple([z.object({ x: place, y: place }), z.object({ x: place, y: place }), z.object({ x: place, y: place })]),
    loads: z.tuple([readings(load), readings(load), readings(load)]),
  }),
  z.object({ kind: z.literal("knife-edge"), ruler, places: readings(place).describe("x at which it balances, once each try") }),
  z.object({
    kind: z.literal("level-and-tilted"),
    scale,
    ruler,
    at: z.tuple([place, place]).describe("x of the front and rear support"),
    height: place.describe("z of both supports on the craft"),
    level: z.tuple([readings(load), readings(load)]),
    tilted: z.tuple([readings(load), readings(load)]),
    angle: finite
      .min(-1.2)
      .max(1.2)
      .refine((a) => Math.abs(a) >= 0.05, "tilt it by 3° or more: less tells nothing")
      .describe("nose up positive, rad"),
    angleSd: finite.positive().max(0.2).describe("standard uncertainty of the angle, rad"),
  }),
]);
export type WeighIn = z.infer<typeof weighInSchema>;
export type WeighInKind = WeighIn["kind"];
export const WEIGH_IN_KINDS: readonly WeighInKind[] = ["total", "parts", "two-scales", "three-scales", "knife-edge", "level-and-tilted"];

/** A bench session: what was measured on one version, and the ledger that it was held against. */
export const benchSchema = z.object({
  number: z.number().int().positive(),
  version: z.string().min(1).max(20),
  date: z.iso.datetime({ offset: true }),
  weighIn: weighInSchema,
  notes: z.string().max(8000),
  tested: z
    .array(z.object({ id: z.string(), mass: finite.nullable(), x: finite, y: finite, z: finite }))
    .max(1000)
    .describe("the ledger when it was weighed: a session goes stale when this changes"),
  adopted: z.string().max(300).describe("what of it was taken into the ledger; empty: nothing"),
});
export type Bench = z.infer<typeof benchSchema>;
