import { z } from "zod";
import { finite, recordNumber } from "./bounds";
import { type Dimension, SI } from "./units";

const words = (most: number) => z.string().trim().max(most);

export const DIMENSIONS = Object.keys(SI) as [Dimension, ...Dimension[]];

/**
 * The stages of testing that every ladder goes through, lowest first; a ladder names and fills them for its kind of
 * craft.
 */
export const STAGES = [
  "power off",
  "bench, restrained",
  "tub, tether or glide",
  "short and low",
  "open",
  "envelope",
  "mission",
] as const;
export const stageSchema = z
  .number()
  .int()
  .min(1)
  .max(STAGES.length)
  .describe("rung of the test ladder, 1 power off to 7 mission");

/** A pass rule of a rung: a number held against a limit, or something that eyes decide. */
export const gateSchema = z
  .object({
    id: z.string().min(1).max(60),
    metric: words(60).describe("metric key, or a name of one's own; empty: judged by eye"),
    dimension: z.enum(DIMENSIONS),
    comparison: z.enum(["atMost", "atLeast", "between"]),
    value: finite.describe("limit, or the lower limit of 'between'; SI unit"),
    upper: finite.nullable().describe("upper limit of 'between'"),
    text: words(160).describe("what eyes decide, or a remark on the number"),
  })
  .refine((g) => g.metric !== "" || g.text !== "", {
    message: "say what is measured, or what the eye decides",
    path: ["text"],
  })
  .refine((g) => g.comparison !== "between" || (g.upper !== null && g.upper > g.value), {
    message: "the upper limit must be above the lower one",
    path: ["upper"],
  });
export type Gate = z.infer<typeof gateSchema>;

export const rungSchema = z.object({
  stage: stageSchema,
  name: words(60).min(1, "a rung needs a name"),
  doing: words(300).describe("what is done on it"),
  gates: z.array(gateSchema).max(12),
  abort: z.array(words(160)).max(12).describe("when the run is broken off"),
  safety: z.array(words(200)).max(12).describe("safety plan of this rung"),
  skipped: words(200).describe("why this craft leaves it out; empty: it counts"),
});
export type Rung = z.infer<typeof rungSchema>;

/** The test ladder of one version: all seven stages in order. */
export const ladderSchema = z
  .array(rungSchema)
  .length(STAGES.length, `a ladder has ${STAGES.length} rungs; leave one out by saying why`)
  .refine((l) => l.every((r, i) => r.stage === i + 1), "the rungs stand in order");
export type Ladder = z.infer<typeof ladderSchema>;

/**
 * A gate as it was when a run was held against it, and how that went: kept with the run, so that moving the gate
 * later rewrites nothing.
 */
export const gateResultSchema = z.object({
  gate: gateSchema,
  result: z.enum(["passed", "failed", "unclear", "not judged"]),
  value: finite.nullable().describe("what was measured, SI unit; null: judged by eye, or not at all"),
});
export type GateResult = z.infer<typeof gateResultSchema>;

/** What stands against going up to a rung. */
export const lockSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("verdict"), code: words(60), subject: words(200) }),
  z.object({ kind: z.literal("gate"), stage: stageSchema, run: recordNumber, gate: words(200) }),
  z.object({ kind: z.literal("failed"), stage: stageSchema, run: recordNumber }),
  z.object({ kind: z.literal("untried"), stage: stageSchema }),
  z.object({ kind: z.literal("danger"), run: recordNumber, mark: words(60) }),
  z.object({ kind: z.literal("crash"), run: recordNumber, why: z.enum(["evidence", "suspects"]) }),
]);
export type Lock = z.infer<typeof lockSchema>;
