import { z } from "zod";
import { attachmentSchema, benchSchema } from "./bench";
import { evidenceSchema } from "./evidence";
import { METRIC_KEYS } from "./metrics";
import { designSchema, heldUpBySchema } from "./schema";
import { SI, type Dimension } from "./units";

const text = z.string().max(8000);
const shortText = z.string().trim().max(200);
const label = z.string().regex(/^[A-Za-z0-9][A-Za-z0-9._-]{0,19}$/, "a label such as v3 or v3b: letters, digits, . _ -, at most 20");
const date = z.iso.datetime({ offset: true });
const finite = z.number().finite();

export const claimSchema = z.object({
  metric: z.string().trim().min(1).max(60).describe("metric key, or a name of one's own"),
  direction: z.enum(["up", "down", "same"]),
  amount: z.string().trim().max(120).describe("how much, in words and units"),
});
export type Claim = z.infer<typeof claimSchema>;

export const versionSchema = z.object({
  label,
  parent: label.nullable(),
  question: shortText.describe("what this version is to find out"),
  finding: shortText.describe("what it showed"),
  reason: text.describe("why it was changed from its parent"),
  claims: z.array(claimSchema).max(40),
  createdAt: date,
  frozenAt: date.nullable().describe("time of its first run; null while it is a draft"),
  design: designSchema,
});
export type Version = z.infer<typeof versionSchema>;

export const DIMENSIONS = Object.keys(SI) as [Dimension, ...Dimension[]];

export const runMetricSchema = z.object({
  metric: z.string().trim().min(1).max(60).describe("metric key, or a name of one's own"),
  dimension: z.enum(DIMENSIONS),
  predicted: z.object({ value: finite, sd: finite.nonnegative(), evidence: evidenceSchema }).nullable().describe("copied when the run was logged; null: not predicted"),
  measured: z.object({ value: finite, sd: finite.nonnegative(), by: shortText }).nullable(),
});
export type RunMetric = z.infer<typeof runMetricSchema>;

export const STAGES = ["power off", "bench, restrained", "tub, tether or glide", "short and low", "open", "envelope", "mission"] as const;

/** One repeat of a course: what was measured on it, and what could have mattered besides. */
export const lapSchema = z.object({
  label: z.string().trim().min(1).max(40),
  values: z.record(z.string().trim().min(1).max(60), finite).describe("by metric key or a name of one's own; SI unit of the metric"),
  wind: finite.min(0).max(60).nullable().describe("m/s"),
  pack: z.string().trim().max(80),
  startVoltage: finite.positive().max(200).nullable().describe("of the whole pack, V"),
  pilot: z.string().trim().max(80),
  remark: z.string().trim().max(200),
  out: z.string().max(200).describe("why it is left out of comparisons; empty: it counts"),
});
export type Lap = z.infer<typeof lapSchema>;

export const runSchema = z.object({
  number: z.number().int().positive(),
  version: label,
  date,
  stage: z.number().int().min(1).max(7).describe("rung of the test ladder, 1 power off to 7 mission"),
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
    restingVoltage: finite.positive().max(200).nullable().describe("V before the run"),
    endVoltage: finite.positive().max(200).nullable(),
    temperature: finite.min(-40).max(80).nullable(),
  }),
  outcome: z.enum(["passed", "partly", "failed", "aborted"]),
  cautionsRead: z.boolean(),
  notes: text,
  metrics: z.array(runMetricSchema).max(80),
  course: shortText.default("").describe("name of the course that it repeats; runs of one course are one series"),
  laps: z.array(lapSchema).max(500).default([]),
});
export type Run = z.infer<typeof runSchema>;

export const suspectSchema = z.object({
  id: z.string().min(1).max(60),
  cause: z.string().trim().min(1).max(300),
  for: text,
  against: text,
  test: text,
  minutes: finite.min(0).max(1e5).nullable(),
  result: text.describe("what the test showed; empty while not tested"),
  state: z.enum(["open", "ruled in", "ruled out"]),
});
export type Suspect = z.infer<typeof suspectSchema>;

export const FAULT_STATES = ["open", "closed", "proven", "cured, cause unknown", "unresolved"] as const;
export const faultSchema = z.object({
  number: z.number().int().positive(),
  run: z.number().int().positive(),
  title: z.string().trim().min(1, "say what was seen, in a few words").max(200),
  symptom: z.string().max(60).nullable().describe("id in the fault catalogue"),
  seen: text,
  severity: z.enum(["harmless", "damage", "danger"]),
  damage: text,
  suspects: z.array(suspectSchema).max(40),
  cause: text,
  fix: text,
  fixVersion: label.nullable(),
  proofRun: z.number().int().positive().nullable(),
  state: z.enum(FAULT_STATES),
  minutes: finite.min(0).max(1e6).describe("repair time spent"),
  cost: finite.min(0).max(1e6).describe("money spent, €"),
});
export type Fault = z.infer<typeof faultSchema>;

/** A fault that begins: seen in this run, nothing known yet. */
export const newFault = (run: number): Omit<Fault, "number"> => ({
  run,
  title: "",
  symptom: null,
  seen: "",
  severity: "harmless",
  damage: "",
  suspects: [],
  cause: "",
  fix: "",
  fixVersion: null,
  proofRun: null,
  state: "open",
  minutes: 0,
  cost: 0,
});

export const craftSchema = z.object({
  name: z.string().trim().min(1, "a name is needed").max(80),
  summary: shortText,
  heldUpBy: heldUpBySchema,
});
export type Craft = z.infer<typeof craftSchema>;

/** Name of the open format and its version. */
export const FORMAT = "ultraform-craft";
export const FORMAT_VERSION = 1;

/** One craft with everything recorded about it: the open file format. All numbers in SI units (docs/format.md). */
export const craftFileSchema = z
  .object({
    format: z.literal(FORMAT, `this is not a craft file: "format" must be "${FORMAT}"`),
    formatVersion: z.literal(FORMAT_VERSION, `this application reads format version ${FORMAT_VERSION}`),
    craft: craftSchema,
    versions: z.array(versionSchema).min(1, "a craft has at least one version").max(300),
    runs: z.array(runSchema).max(5000),
    faults: z.array(faultSchema).max(2000),
    bench: z.array(benchSchema).max(2000).default([]),
    files: z
      .array(attachmentSchema.pick({ hash: true, type: true }).extend({ content: z.string().max(4_000_000).describe("base64") }))
      .max(2000)
      .default([])
      .describe("pictures that sessions refer to by their hash (SHA-256 of the content)"),
  })
  .superRefine((file, ctx) => {
    const issue = (path: (string | number)[], message: string) => ctx.addIssue({ code: "custom", path, message });
    const labels = new Map(file.versions.map((v, i) => [v.label, i]));
    if (labels.size !== file.versions.length) issue(["versions"], "two versions have the same label");
    file.versions.forEach((v, i) => {
      const parent = v.parent === null ? -1 : labels.get(v.parent);
      if (parent === undefined) issue(["versions", i, "parent"], `there is no version ${v.parent}`);
      else if (parent >= i) issue(["versions", i, "parent"], "a parent stands before its children");
      if (v.frozenAt === null && file.runs.some((r) => r.version === v.label)) issue(["versions", i, "frozenAt"], "a version with runs is frozen");
    });
    const runs = new Set(file.runs.map((r) => r.number));
    if (runs.size !== file.runs.length) issue(["runs"], "two runs have the same number");
    file.runs.forEach((r, i) => {
      if (!labels.has(r.version)) issue(["runs", i, "version"], `there is no version ${r.version}`);
    });
    if (new Set(file.faults.map((f) => f.number)).size !== file.faults.length) issue(["faults"], "two faults have the same number");
    file.faults.forEach((f, i) => {
      if (!runs.has(f.run)) issue(["faults", i, "run"], `there is no run ${f.run}`);
      if (f.proofRun !== null && !runs.has(f.proofRun)) issue(["faults", i, "proofRun"], `there is no run ${f.proofRun}`);
      if (f.fixVersion !== null && !labels.has(f.fixVersion)) issue(["faults", i, "fixVersion"], `there is no version ${f.fixVersion}`);
    });
    if (new Set(file.bench.map((b) => b.number)).size !== file.bench.length) issue(["bench"], "two bench sessions have the same number");
    file.bench.forEach((b, i) => {
      if (!labels.has(b.version)) issue(["bench", i, "version"], `there is no version ${b.version}`);
    });
  });
export type CraftFile = z.infer<typeof craftFileSchema>;

export const isMetricKey = (name: string): name is (typeof METRIC_KEYS)[number] => (METRIC_KEYS as readonly string[]).includes(name);
