import { z } from "zod";
import { finite, recordNumber } from "../../../design/bounds";
import { field } from "../../../design/fields";

/** What a propulsor pushed against when it was measured. */
export const PUSHED_ON = ["air", "fresh water", "sea water", "the ground"] as const;
export type PushedOn = (typeof PUSHED_ON)[number];
/** The same as a place: in air, on the ground. */
export const whereOf = (on: PushedOn): string => (on === "the ground" ? "on the ground" : `in ${on}`);

/** Fewer than these do not show a curve. */
export const LEAST_COMMANDS = 3;

export const curveReadingSchema = z.object({
  command: field(finite.min(0, "a command is 0 to 100 %").max(1, "a command is 0 to 100 %"), {
    label: "command",
    dimension: "percent",
  }),
  force: field(finite.min(-1e4).max(1e5).describe("N, of all units that were read together"), {
    label: "force",
    dimension: "force",
  }),
  current: field(
    finite
      .nonnegative("a current is 0 or more")
      .max(5000)
      .nullable()
      .describe("A from the pack, of all together; null: not read"),
    { label: "current", dimension: "current" },
  ),
  voltage: field(
    finite.positive("volts are more than 0").max(1000).nullable().describe("V at the pack under load; null: not read"),
    {
      label: "voltage",
      dimension: "voltage",
    },
  ),
  rpm: field(finite.nonnegative().max(1e6).nullable().describe("of the propulsor; null: not read"), {
    label: "speed",
    dimension: "rotation",
  }),
  temperature: field(finite.min(-60).max(400).nullable().describe("°C of what gets hottest; null: not read"), {
    label: "temperature",
    dimension: "temperature",
  }),
});
export type CurveReading = z.infer<typeof curveReadingSchema>;

/**
 * A propulsor of any principle, known by what it was measured to push: command against force, standing; volts, amperes,
 * rpm and temperature where they were read. A scale alone is enough.
 */
export const measuredSchema = z
  .object({
    principle: field(z.string().trim().max(80).describe("what it is, in a few words"), { label: "what it is" }),
    on: field(z.enum(PUSHED_ON), { label: "pushes on" }),
    asBuilt: field(z.boolean().describe("measured as it works in the craft: lid, box, duct and neighbours in place"), {
      label: "measured as built in",
    }),
    together: field(z.number().int().min(1, "at least one unit").max(24).describe("like units read together"), {
      label: "read together",
      dimension: "count",
    }),
    restVoltage: field(
      finite.positive().max(1000).nullable().describe("V of the pack at rest before it; null: not noted"),
      { label: "pack at rest", dimension: "voltage" },
    ),
    scale: field(
      finite
        .min(0)
        .max(0.5, "a scale that is off by more than half tells nothing")
        .describe("share of a force by which the reading may be off (1 sigma)"),
      { label: "scale ±", dimension: "percent", about: "knowing" },
    ),
    density: field(
      finite
        .positive()
        .max(2000)
        .nullable()
        .default(null)
        .describe("kg/m³ of what it worked in then; null: as it is where the craft works"),
      { label: "density then", about: "knowing" },
    ),
    session: field(recordNumber.nullable().default(null).describe("bench session that it was taken from"), {
      label: "bench session",
      about: "knowing",
    }),
    readings: z.array(curveReadingSchema).max(200),
  })
  .superRefine(({ readings }, ctx) => {
    const issue = (row: number, key: string, message: string) =>
      ctx.addIssue({ code: "custom", path: ["readings", row, key], message });
    for (const [k, r] of readings.entries()) {
      const before = readings[k - 1];
      if (before && r.command < before.command)
        issue(k, "command", "commands do not fall: write the readings from the lowest command to the highest");
    }
    const commands = new Set(readings.filter((r) => r.command > 0).map((r) => r.command));
    const last = readings.length - 1;
    if (commands.size < LEAST_COMMANDS)
      issue(Math.max(last, 0), "command", `at least ${LEAST_COMMANDS} different commands above 0 % are needed`);
    if (!(Math.max(...readings.map((r) => r.force)) > 0))
      issue(Math.max(last, 0), "force", "it never pushed: a force is positive the way it pushes the craft");
  });
export type MeasuredPropulsor = z.infer<typeof measuredSchema>;
