import { z } from "zod";
import { magnitudeSchema } from "./evidence";
import { batterySchema } from "./schema";

const reading = z.number().finite().positive().nullable();

/** One entry in a pack's log: what was read before, under and after a run. */
export const packReadingSchema = z.object({
  date: z.iso.date("a date like 2026-03-21"),
  resting: reading.describe("V of the whole pack without load"),
  loaded: reading.describe("V under the load below"),
  current: reading.describe("A of that load"),
  temperature: z.number().min(-60).max(90, "a pack temperature between -60 and 90 °C").nullable().describe("of the pack, °C"),
  returned: reading.describe("A·h that the charger put back"),
});
export type PackReading = z.infer<typeof packReadingSchema>;

/** A pack of one's own, with its name on it, whatever craft it sits in. */
export const shelfPackSchema = batterySchema.pick({ chemistry: true, series: true, capacity: true, cellResistance: true, cRating: true }).extend({
  name: z.string().trim().min(1, "a pack needs a name").max(80),
  mass: magnitudeSchema.nullable().describe("kg"),
  bought: z.iso.date("a date like 2026-03-21").nullable(),
  cycles: z.number().int().min(0).max(20_000).nullable().describe("charges so far"),
  notes: z.string().max(1000),
  readings: z.array(packReadingSchema).max(500),
});
export type ShelfPack = z.infer<typeof shelfPackSchema>;
