import { z } from "zod";
import { amountSchema } from "./bounds";
import { magnitude } from "./evidence";
import { batterySchema, controllerSchema, gearSchema, learnedSchema, motorSchema, propellerSchema } from "./schema";

const reading = z.number().positive().max(1e6).nullable();

/** One entry in a pack's log: what was read before, under and after a run. */
export const packReadingSchema = z.object({
  date: z.iso.date("a date like 2026-03-21"),
  resting: reading.describe("V of the whole pack without load"),
  loaded: reading.describe("V under the load below"),
  current: reading.describe("A of that load"),
  temperature: z
    .number()
    .min(-60)
    .max(90, "a pack temperature between -60 and 90 °C")
    .nullable()
    .describe("of the pack, °C"),
  returned: reading.describe("A·h that the charger put back"),
});
export type PackReading = z.infer<typeof packReadingSchema>;

const common = {
  name: z.string().trim().min(1, "a part on the shelf needs a name").max(80),
  mass: magnitude("mass").nullable().describe("kg"),
  price: amountSchema.nullable().default(null).describe("in the currency of the workshop"),
  notes: z.string().max(1000),
};

/** A pack of one's own, with its name on it, whatever craft it sits in. */
export const shelfPackSchema = batterySchema
  .pick({ chemistry: true, series: true, capacity: true, cellResistance: true, cRating: true })
  .extend({
    kind: z.literal("pack"),
    ...common,
    bought: z.iso.date("a date like 2026-03-21").nullable(),
    cycles: z.number().int().min(0).max(20_000).nullable().describe("charges so far"),
    readings: z.array(packReadingSchema).max(500),
  });
export type ShelfPack = z.infer<typeof shelfPackSchema>;

export const shelfMotorSchema = motorSchema.extend({ kind: z.literal("motor"), ...common });
export const shelfControllerSchema = controllerSchema.extend({ kind: z.literal("controller"), ...common });
export const shelfPropellerSchema = propellerSchema.extend({ kind: z.literal("propeller"), ...common });
export const shelfServoSchema = z.object({
  kind: z.literal("servo"),
  ...common,
  torque: magnitude("torque").describe("stall torque at the voltage below, N·m"),
  voltage: z.number().positive().max(60).describe("V"),
  stallCurrent: magnitude("current").describe("A"),
  minVoltage: z.number().min(0).max(60).describe("least voltage at which it works, V"),
});

/** A whole drive as it was on the stand, with what the sweep taught of it: fitted elsewhere, the curve comes along. */
export const shelfDriveSchema = z.object({
  kind: z.literal("drive"),
  ...common,
  motor: motorSchema,
  controller: controllerSchema,
  gear: gearSchema,
  propeller: propellerSchema,
  learned: learnedSchema,
});
export type ShelfDrive = z.infer<typeof shelfDriveSchema>;

/**
 * A part of one's own: bought, named, weighed, measured. It stands on a shelf beside all craft and can be fitted into
 * any.
 */
export const shelfPartSchema = z.discriminatedUnion("kind", [
  shelfPackSchema,
  shelfMotorSchema,
  shelfControllerSchema,
  shelfPropellerSchema,
  shelfServoSchema,
  shelfDriveSchema,
]);
export type ShelfPart = z.infer<typeof shelfPartSchema>;
export type ShelfKind = ShelfPart["kind"];
export type ShelfOf<K extends ShelfKind> = Extract<ShelfPart, { kind: K }>;
/** Schema of one figure of such a part, for the field that it is entered in. */
export function figureSchema(kind: PlainPart["kind"], key: string): z.ZodType<number> | undefined {
  const shape = {
    motor: shelfMotorSchema,
    controller: shelfControllerSchema,
    propeller: shelfPropellerSchema,
    servo: shelfServoSchema,
  }[kind].shape;
  return (shape as unknown as Record<string, z.ZodType<number> | undefined>)[key];
}
/** A part that has no log of its own. */
export type PlainPart = Exclude<ShelfPart, ShelfPack | ShelfDrive>;
