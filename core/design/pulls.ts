import { z } from "zod";
import { finite } from "./bounds";
import { safetySchema, testedDriveSchema } from "./thrustTest";

/** What of a drive's units is held against what. */
export const PULLS_OF = ["with and without", "one and a pair", "each corner"] as const;

/** What one pull may be: N, V, A. */
export const PULL_READ = {
  pull: finite.min(0, "zero or more").max(1e5),
  voltage: finite.positive("more than zero").max(1000),
  current: finite.min(0, "zero or more").max(5000),
};

/** Units of one drive at one throttle and pack, pulled one against the other: in turns, since a pack empties. */
export const pullsSchema = z.object({
  unitId: z.string().min(1).max(40).describe("the drive that they belong to"),
  of: z.enum(PULLS_OF),
  together: z.number().int().min(2).max(24).default(2).describe("units that push together in “one and a pair”"),
  what: z.string().trim().max(200).default("").describe("what was around it: the lid, the guard, the other disc"),
  throttle: finite.min(0).max(1).nullable().describe("the same for all; null: not said"),
  safety: safetySchema,
  readings: z
    .array(
      z.object({
        side: z
          .number()
          .int()
          .min(0)
          .max(23)
          .describe("0 by itself and 1 built in; 0 one and 1 the pair; or which of the like units, from 0"),
        pull: PULL_READ.pull.describe("N"),
        voltage: PULL_READ.voltage.nullable().describe("of the pack under load, V; null: not read"),
        current: PULL_READ.current.nullable().describe("A; null: not read"),
      }),
    )
    .max(600)
    .describe("in the order in which they were read"),
  drive: testedDriveSchema.nullable().default(null).describe("the drive as it was when the session was kept"),
});
export type PullsTest = z.infer<typeof pullsSchema>;
