import { z } from "zod";
import { finite, recordNumber } from "./bounds";
import { aroundSchema } from "./hazards";
import { stageSchema } from "./ladder";
import { dateSchema, labelSchema } from "./run";

const words = (most: number) => z.string().trim().max(most);

/** Limits of a place and a day beyond which a run does not begin; null: no limit. */
export const limitsSchema = z.object({
  wind: finite.min(0).max(60).nullable().describe("at most, m/s"),
  waves: finite.min(0).max(10).nullable().describe("height at most, m"),
  current: finite.min(0).max(10).nullable().describe("of water, at most, m/s"),
  coldest: finite.min(-60).max(60).nullable().describe("air at least, °C"),
  warmest: finite.min(-60).max(60).nullable().describe("air at most, °C"),
  surface: words(120).describe("what it must be like"),
});

/** What the day turned out to be; null: not looked at yet. */
export const conditionsSchema = z.object({
  wind: finite.min(0).max(60).nullable(),
  waves: finite.min(0).max(10).nullable(),
  current: finite.min(0).max(10).nullable(),
  temperature: finite.min(-60).max(60).nullable(),
  surface: z.enum(["yes", "no"]).nullable().describe("whether the surface is as the plan asks"),
});

/** A run that is meant to answer a question, before it is made. */
export const planSchema = z.object({
  number: recordNumber,
  version: labelSchema,
  createdAt: dateSchema,
  stage: stageSchema,
  question: words(200).min(1, "a run answers a question: write it down"),
  course: words(200),
  repeats: z.number().int().min(1).max(100),
  abort: z.array(words(160)).max(12).describe("when it is broken off"),
  success: words(300).describe(
    "what happens if it goes better than expected: are the controls connected, who ends it and when",
  ),
  people: z.array(z.object({ name: words(80).min(1, "who?"), role: words(80) })).max(12),
  place: words(200),
  around: z.array(aroundSchema).max(20).default([]).describe("what is around the place, or about a run there"),
  alone: z.boolean().default(false).describe("nobody else is there, by choice: it has its own cautions"),
  limits: limitsSchema,
  day: conditionsSchema,
  safety: z.array(words(200)).max(12),
  ticks: z.array(z.string().max(160)).max(400).describe("checklist lines that are done"),
  goneOn: words(500).describe("why it is run although something stands against it"),
  state: z.enum(["planned", "done", "dropped"]),
});
export type Plan = z.infer<typeof planSchema>;
