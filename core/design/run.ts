import { z } from "zod";
import { finite, recordNumber } from "./bounds";
import { attachmentSchema } from "./bench";
import { evidenceSchema } from "./evidence";
import { idSchema } from "./fields";
import { DRIVE_READ, EVIDENCE_STEPS, OUTCOMES } from "./runEnds";
import { DIMENSIONS, gateResultSchema, lockSchema, stageSchema } from "./ladder";

export * from "./runEnds";

const text = z.string().max(8000);
const shortText = z.string().trim().max(200);
export const labelSchema = z
  .string()
  .regex(/^[A-Za-z0-9][A-Za-z0-9._-]{0,19}$/, "a label such as v3 or v3b: letters, digits, . _ -, at most 20");
export const dateSchema = z.iso.datetime({ offset: true });
const packVoltage = finite.positive().max(200).nullable();

export const runMetricSchema = z.object({
  metric: z.string().trim().min(1).max(60).describe("metric key, or a name of one's own"),
  dimension: z.enum(DIMENSIONS),
  predicted: z
    .object({ value: finite, sd: finite.nonnegative(), evidence: evidenceSchema })
    .nullable()
    .describe("copied when the run was logged; null: not predicted"),
  measured: z.object({ value: finite, sd: finite.nonnegative(), by: shortText }).nullable(),
});
export type RunMetric = z.infer<typeof runMetricSchema>;

/** One repeat of a course: what was measured on it, and what could have mattered besides. */
export const lapSchema = z.object({
  label: z.string().trim().min(1).max(40),
  values: z
    .record(z.string().trim().min(1).max(60), finite)
    .describe("by metric key or a name of one's own; SI unit of the metric"),
  wind: finite.min(0).max(60).nullable().describe("m/s"),
  pack: z.string().trim().max(80),
  startVoltage: packVoltage.describe("of the whole pack, V"),
  pilot: z.string().trim().max(80),
  remark: z.string().trim().max(200),
  out: z.string().max(200).describe("why it is left out of comparisons; empty: it counts"),
});
export type Lap = z.infer<typeof lapSchema>;

export const MOMENT_KINDS = ["mark", "words", "pack in", "pack out", "photo"] as const;
/** Something that happened in a run, at its time. */
export const momentSchema = z.object({
  id: z.string().min(1).max(60),
  seconds: finite.min(0).max(1e6).describe("from the start of the log"),
  kind: z.enum(MOMENT_KINDS),
  mark: z
    .string()
    .max(60)
    .describe("code of what was seen, heard, smelt or felt (core/runs/marks.ts); empty: none of them"),
  text: shortText,
  pack: z
    .object({ name: shortText, resting: packVoltage.describe("V"), loaded: packVoltage.describe("V under load") })
    .nullable()
    .describe("of a pack put in or taken out"),
  files: z.array(attachmentSchema).max(10),
});
export type Moment = z.infer<typeof momentSchema>;

/** What was secured after a crash, in the order in which it must be. */
export const crashSchema = z.object({
  steps: z.object(
    Object.fromEntries(EVIDENCE_STEPS.map((s) => [s, z.boolean()])) as Record<
      (typeof EVIDENCE_STEPS)[number],
      z.ZodBoolean
    >,
  ),
  notes: text,
});
export type Crash = z.infer<typeof crashSchema>;

const readOf = (what: keyof typeof DRIVE_READ) => finite.min(DRIVE_READ[what][0]).max(DRIVE_READ[what][1]).nullable();
/** What was read of one drive, or of one of several like ones; null: not read. */
export const driveReadingSchema = z.object({
  unit: z.string().min(1).max(60).describe("id of the drive in the design"),
  copy: z.number().int().min(1).max(64).describe("which of its like units, from 1"),
  name: z.string().trim().max(80).describe("what it was called then"),
  current: readOf("current").describe("A, at the same command for all"),
  rpm: readOf("rpm"),
  temperature: readOf("temperature").describe("°C, after the run"),
});
export type DriveReading = z.infer<typeof driveReadingSchema>;

/** Sides of a craft that are trimmed by themselves. */
export const ANGLE_SIDES = ["port", "starboard", "middle"] as const;
/** What of a surface, a mount or a tail was measured. */
export const ANGLE_OF = ["neutral", "throw up", "throw down", "set angle"] as const;
/** How one thing stood when the run was over: measured, each side by itself. */
export const angleSchema = z.object({
  what: z.string().trim().min(1, "which surface, mount or tail").max(80),
  side: z.enum(ANGLE_SIDES),
  of: z.enum(ANGLE_OF).describe("neutral: where it rests with the sticks let go; set angle: of what does not move"),
  value: finite
    .min(-Math.PI / 2, "−90° to 90°")
    .max(Math.PI / 2, "−90° to 90°")
    .describe("rad; positive: trailing edge or nose up, of what stands upright to starboard"),
  sd: finite
    .min(0)
    .max(Math.PI / 4)
    .describe("rad"),
});
export type Angle = z.infer<typeof angleSchema>;

export const runSchema = z.object({
  number: recordNumber,
  version: labelSchema,
  date: dateSchema,
  state: idSchema.default("usual").describe("state of the craft that it was about (the version's design names it)"),
  stage: stageSchema,
  purpose: shortText.describe("the question that the run answers"),
  place: shortText,
  pilot: shortText,
  conditions: z.object({
    airTemperature: finite.min(-60).max(60).nullable(),
    wind: finite.min(0).max(60).nullable().describe("m/s"),
    surface: shortText,
  }),
  pack: z.object({
    name: shortText,
    restingVoltage: packVoltage.describe("V before the run"),
    loadedVoltage: packVoltage.default(null).describe("V under full load at the start"),
    endVoltage: packVoltage,
    temperature: finite.min(-40).max(80).nullable(),
  }),
  outcome: z.enum(OUTCOMES),
  cautionsRead: z.boolean(),
  notes: text,
  metrics: z.array(runMetricSchema).max(80),
  perDrive: z.array(driveReadingSchema).max(64).default([]).describe("what was read of each drive"),
  angles: z
    .array(angleSchema)
    .max(60)
    .default([])
    .describe("trims, throws and set angles as it ran, each side by itself"),
  course: shortText.default("").describe("name of the course that it repeats; runs of one course are one series"),
  laps: z.array(lapSchema).max(500).default([]),
  plan: recordNumber.nullable().default(null).describe("plan that it carried out"),
  seconds: finite.min(0).max(1e6).nullable().default(null).describe("how long it lasted"),
  moments: z.array(momentSchema).max(500).default([]),
  files: z.array(attachmentSchema).max(40).default([]),
  gates: z.array(gateResultSchema).max(12).default([]).describe("gates of its rung as they were then, and how it went"),
  locks: z
    .array(lockSchema)
    .max(40)
    .default([])
    .describe("what stood against going up to this rung when it was logged"),
  goneOn: z.string().trim().max(500).default("").describe("why it was run all the same"),
  crash: crashSchema.nullable().default(null),
  key: z
    .string()
    .min(8)
    .max(60)
    .nullable()
    .default(null)
    .describe("given where it was logged: the same entry sent twice is kept once"),
});
export type Run = z.infer<typeof runSchema>;
