import { z } from "zod";
import { finite, recordNumber } from "./bounds";
import { pullsSchema } from "./pulls";
import { fastThrottleSchema, thrustTestSchema } from "./thrustTest";

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
  z.object({
    kind: z.literal("two-scales"),
    scale,
    ruler,
    at: z.tuple([place, place]).describe("x of the two supports"),
    loads: z.tuple([readings(load), readings(load)]),
  }),
  z.object({
    kind: z.literal("three-scales"),
    scale,
    ruler,
    at: z.tuple([z.object({ x: place, y: place }), z.object({ x: place, y: place }), z.object({ x: place, y: place })]),
    loads: z.tuple([readings(load), readings(load), readings(load)]),
  }),
  z.object({
    kind: z.literal("knife-edge"),
    ruler,
    places: readings(place).describe("x at which it balances, once each try"),
  }),
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
export const WEIGH_IN_KINDS: readonly WeighInKind[] = [
  "total",
  "parts",
  "two-scales",
  "three-scales",
  "knife-edge",
  "level-and-tilted",
];

/** An instrument held against something better known. */
export const calibrationSchema = z.object({
  instrument: z.string().trim().min(1, "name the instrument").max(80),
  quantity: z.enum(["scale", "voltage", "current"]),
  by: z
    .enum(["known values", "charge returned"])
    .describe("a second meter or known masses; or what the charger put back after a run"),
  pairs: z
    .array(z.object({ shown: finite, known: finite, knownSd: finite.min(0) }))
    .max(60)
    .describe("kg, V or A; for charge: the A·h counted and put back"),
});
export type Calibration = z.infer<typeof calibrationSchema>;

export const GLIDE_SAW = ["straight", "dived", "rose and stalled", "turned to port", "turned to starboard"] as const;
/** Passes without power, from a throw or from a height. */
export const glideSchema = z.object({
  trim: z.string().trim().max(200).describe("how the surfaces were set"),
  cg: finite
    .min(-100)
    .max(100)
    .nullable()
    .describe("CG as it was balanced for these passes, m; null: as the ledger says"),
  passes: z
    .array(
      z.object({
        height: finite.positive().max(1000).describe("lost over the distance, m"),
        distance: finite.positive().max(10_000).describe("over ground in still air, m"),
        seconds: finite.positive().max(3600).nullable().describe("for that distance; null: not timed"),
        saw: z.enum(GLIDE_SAW),
      }),
    )
    .min(1, "at least one pass")
    .max(100),
});
export type Glide = z.infer<typeof glideSchema>;

export const TURN_AXES = ["roll", "pitch", "yaw"] as const;
/** What may be entered of a turning moment: m, kg, N, m/s, rad, s, and how often. */
export const MOMENT_READ = {
  spacing: finite.positive().max(50),
  length: finite.positive().max(100),
  arm: finite.positive().max(50),
  mass: finite.positive().max(1e5),
  pull: finite.positive().max(1e6),
  speed: finite.positive().max(200),
  angle: finite.positive().max(1000),
  count: finite.positive().max(1000),
  seconds: finite.positive().max(3600),
};
/** How far it may turn on two lines and still be held by them, rad. */
export const TWIST = finite.min(-1.4).max(1.4);
/** What turns the craft about one axis, or what a command gives, as it was weighed, hung or timed. */
export const momentSchema = z.object({
  axis: z.enum(TURN_AXES),
  role: z.enum(["turns it", "answers"]).describe("what turns it by itself, or what a command gives"),
  what: z.string().trim().max(200).describe("what was on: the drive, the command"),
  throttle: finite.min(0).max(1).nullable().describe("of the drives; null: off or not said"),
  way: z.discriminatedUnion("by", [
    z.object({
      by: z.literal("two lines").describe("hung by two lines that are as far apart above as below"),
      mass: MOMENT_READ.mass.nullable().describe("that the lines carry, kg; null: as the ledger says"),
      spacing: MOMENT_READ.spacing.nullable().describe("between the lines, m; null: not said"),
      length: MOMENT_READ.length.nullable().describe("of each line, m; null: not said"),
      twists: z.array(TWIST).max(60).describe("how far it turned and stayed, rad"),
      swings: z
        .array(z.object({ count: MOMENT_READ.count.int(), seconds: MOMENT_READ.seconds }))
        .max(60)
        .describe("free swings about the upright, there and back"),
    }),
    z.object({
      by: z.literal("scale at an arm"),
      arm: MOMENT_READ.arm
        .nullable()
        .describe("from the point that it turns about to the line of pull, m; null: not said"),
      pulls: z.array(MOMENT_READ.pull).max(60).describe("N"),
    }),
    z.object({
      by: z.literal("timed turn"),
      speed: MOMENT_READ.speed.nullable().describe("m/s along the turn; null: on the spot or not known"),
      turns: z.array(z.object({ angle: MOMENT_READ.angle.describe("rad"), seconds: MOMENT_READ.seconds })).max(60),
    }),
  ]),
});
export type MomentTest = z.infer<typeof momentSchema>;
/** How many readings a moment was found from. */
export const momentReadings = ({ way }: Pick<MomentTest, "way">): number =>
  way.by === "two lines"
    ? way.twists.length + way.swings.length
    : way.by === "scale at an arm"
      ? way.pulls.length
      : way.turns.length;

/** What one number was read against another for, where the slope between them has a meaning. */
export const FREE_LAWS = [
  "its own",
  "power against rpm",
  "torque against rpm",
  "thrust against rpm",
  "drag against speed",
  "field against distance",
] as const;
export const FREE_AXES = ["both plain", "both logarithmic", "x logarithmic", "y logarithmic"] as const;
const axisSchema = z.object({
  name: z.string().trim().max(60).describe("what was read, in words of one's own"),
  unit: z.string().trim().max(20).describe("in the unit in which it was read; nothing is converted"),
});
/** Any number against any other, in one or two conditions of the same craft. */
export const freeSchema = z.object({
  question: z.string().trim().max(300).describe("what it was to find out"),
  x: axisSchema,
  y: axisSchema,
  of: z.enum(FREE_LAWS),
  axes: z.enum(FREE_AXES),
  conditions: z
    .array(
      z.object({
        name: z.string().trim().max(60).describe("what was so while these were read"),
        points: z
          .array(z.object({ x: finite.nullable().describe("null: nothing was varied"), y: finite }))
          .max(2000)
          .describe("in the units of the axes"),
      }),
    )
    .min(1)
    .max(2)
    .refine((c) => c.some((k) => k.points.length > 0), "at least one reading"),
});
export type Free = z.infer<typeof freeSchema>;

/** A picture kept with a session; its content stands in the file store under its hash. */
/** What can be kept beside a record: pictures, and logs as text. */
export const FILE_TYPES = ["image/jpeg", "image/png", "image/webp", "text/csv", "text/plain"] as const;
export type FileType = (typeof FILE_TYPES)[number];
export const attachmentSchema = z.object({
  hash: z.string().regex(/^[0-9a-f]{64}$/),
  name: z.string().max(200),
  type: z.enum(FILE_TYPES),
  size: z.number().int().positive().max(100_000_000),
});
export type Attachment = z.infer<typeof attachmentSchema>;

/**
 * A bench session: what was measured on one version, and what it was held against. It holds one of weigh-in, thrust
 * sweep, fast-throttle test, calibration, glide test, weighed moment, pulls beside one another or readings of one's
 * own.
 */
const sessionFields = z.object({
  number: recordNumber,
  version: z.string().min(1).max(20),
  date: z.iso.datetime({ offset: true }),
  weighIn: weighInSchema.nullable().default(null),
  thrust: thrustTestSchema.nullable().default(null),
  fastThrottle: fastThrottleSchema.nullable().default(null),
  calibration: calibrationSchema.nullable().default(null),
  glide: glideSchema.nullable().default(null),
  free: freeSchema.nullable().default(null),
  moment: momentSchema
    .refine((m) => momentReadings(m) > 0, "at least one reading")
    .nullable()
    .default(null),
  pulls: pullsSchema
    .refine((p) => p.readings.length > 0, "at least one reading")
    .nullable()
    .default(null),
  notes: z.string().max(8000),
  files: z.array(attachmentSchema).max(20).default([]),
  tested: z
    .array(z.object({ id: z.string(), mass: finite.nullable(), x: finite, y: finite, z: finite }))
    .max(1000)
    .describe("the ledger when it was weighed: a session goes stale when this changes"),
  adopted: z.string().max(300).describe("what of it was taken over into the design; empty: nothing"),
});
export const TESTS = ["weighIn", "thrust", "fastThrottle", "calibration", "glide", "free", "moment", "pulls"] as const;
export type TestKind = (typeof TESTS)[number];
const oneTest = (s: Partial<Record<TestKind, unknown>>) => TESTS.filter((k) => s[k]).length === 1;
const ONE_TEST =
  "a session holds one test: a weigh-in, a thrust sweep, a fast-throttle test, a calibration, a glide " +
  "test, a weighed moment, pulls beside one another or readings of one's own";

export const benchSchema = sessionFields.refine(oneTest, ONE_TEST);
export type Bench = z.infer<typeof benchSchema>;
/** What a person enters of a session. */
export const benchEntrySchema = sessionFields
  .omit({ number: true, version: true, tested: true, adopted: true })
  .refine(oneTest, ONE_TEST);
export type BenchEntry = z.infer<typeof benchEntrySchema>;

/** Which test a session holds. */
export const testOf = (session: Pick<Bench, TestKind>): TestKind => TESTS.find((k) => session[k] !== null) ?? "weighIn";
