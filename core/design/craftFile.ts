import { z } from "zod";
import { amountSchema, finite, recordNumber } from "./bounds";
import { attachmentSchema, benchSchema } from "./bench";
import { ladderSchema } from "./ladder";
import { METRIC_KEYS } from "./metrics";
import { currencySchema } from "./money";
import { planSchema } from "./plan";
import { dateSchema as date, labelSchema as label, runSchema } from "./run";
import { designSchema } from "./schema";
import { RISKS } from "./risk";
import { symptomSchema } from "./symptom";

export * from "./ladder";
export * from "./plan";
export * from "./run";

const text = z.string().max(8000);
const shortText = z.string().trim().max(200);

export const claimSchema = z.object({
  metric: z.string().trim().min(1).max(60).describe("metric key, or a name of one's own"),
  direction: z.enum(["up", "down", "same"]),
  amount: z.string().trim().max(120).describe("how much, in words and units"),
  change: z
    .string()
    .max(200)
    .default("")
    .describe("the thing changed that shall do it (its place in the design); empty: all of them together"),
});
export type Claim = z.infer<typeof claimSchema>;

/** Why one thing was changed from parent to child, and what led to it. */
export const whySchema = z.object({
  change: z.string().min(1).max(200).describe("the thing changed: its place in the design"),
  why: shortText,
  fault: recordNumber.nullable(),
  run: recordNumber.nullable(),
});
export type Why = z.infer<typeof whySchema>;

export const ADVICE_STATES = ["open", "taken", "tried, no effect", "declined"] as const;
/** What somebody said, and what was made of it. */
export const adviceSchema = z.object({
  id: z.string().min(1).max(60),
  date,
  from: z.string().trim().max(80),
  text: z.string().trim().min(1, "what was said?").max(500),
  state: z.enum(ADVICE_STATES),
  made: shortText.describe("what was made of it, and why"),
});
export type Advice = z.infer<typeof adviceSchema>;

/** That a group of the set-up was tried on this version, in calm and in rough conditions. */
export const tuneTrialSchema = z.object({
  group: z.string().max(60),
  run: recordNumber,
  air: z.enum(["calm", "rough"]),
  good: z.boolean(),
  note: shortText,
});
export type TuneTrial = z.infer<typeof tuneTrialSchema>;

export const VERSION_STATES = ["going", "paused", "stopped", "salvaged"] as const;
export const fateSchema = z.object({
  state: z.enum(VERSION_STATES),
  why: z.string().trim().max(500),
  at: date.nullable(),
  reused: z.array(z.string().max(40)).max(1000).describe("parts (ids of the ledger) that go back to the shelf"),
  exit: z.string().trim().max(300).describe("set before the tests: when this branch is given up"),
});
export type Fate = z.infer<typeof fateSchema>;
export const GOING: Fate = { state: "going", why: "", at: null, reused: [], exit: "" };

export const versionSchema = z.object({
  label,
  parent: label.nullable(),
  question: shortText.describe("what this version is to find out"),
  finding: shortText.describe("what it showed"),
  reason: text.describe("why it was changed from its parent"),
  claims: z.array(claimSchema).max(40),
  createdAt: date,
  frozenAt: date.nullable().describe("time of its first run; null while it is a draft"),
  ladder: ladderSchema.nullable().default(null).describe("its test ladder; null: the usual one for what holds it up"),
  whys: z.array(whySchema).max(200).default([]),
  advice: z.array(adviceSchema).max(200).default([]),
  trials: z.array(tuneTrialSchema).max(200).default([]),
  fate: fateSchema.default(GOING),
  design: designSchema,
});
export type Version = z.infer<typeof versionSchema>;

export const suspectSchema = z.object({
  id: z.string().min(1).max(60),
  cause: z.string().trim().min(1).max(300),
  for: text,
  against: text,
  test: text,
  minutes: finite.min(0).max(1e5).nullable().describe("what its test takes"),
  cost: amountSchema.default(0).describe("what its test costs, in the currency of the file"),
  risk: z.enum(RISKS).default("none").describe("what its test puts at risk"),
  spentMinutes: finite.min(0).max(1e6).default(0).describe("time that went into it, min"),
  spentCost: amountSchema.default(0).describe("money that went into it"),
  result: text.describe("what the test showed; empty while not tested"),
  effect: z
    .object({
      what: z.string().trim().max(60).describe("what was read"),
      unit: z.string().trim().max(20).describe("in words of one's own; nothing is converted"),
      without: z.array(finite).max(200).describe("as it was"),
      with: z.array(finite).max(200).describe("with the suspect taken away, swapped or changed"),
    })
    .nullable()
    .default(null)
    .describe("readings of its test: how large its effect is, and how sure"),
  state: z.enum(["open", "ruled in", "ruled out"]),
  part: z.string().trim().max(60).default("").describe("what it is about: an id of the ledger; empty: not said"),
});
export type Suspect = z.infer<typeof suspectSchema>;

export const FAULT_STATES = ["open", "closed", "proven", "cured, cause unknown", "unresolved"] as const;
export const faultSchema = z.object({
  number: recordNumber,
  run: recordNumber.nullable().describe("run in which it was seen; null only where an older release lost it"),
  title: z.string().trim().min(1, "say what was seen, in a few words").max(200),
  symptom: z.string().max(60).nullable().describe("id in the fault catalogue"),
  seen: text,
  severity: z.enum(["harmless", "damage", "danger"]),
  damage: text,
  suspects: z.array(suspectSchema).max(40),
  cause: text,
  fix: text,
  fixVersion: label.nullable(),
  proofRun: recordNumber.nullable(),
  state: z.enum(FAULT_STATES),
  minutes: finite.min(0).max(1e6).describe("repair time spent"),
  cost: amountSchema.describe("money spent"),
  mass: finite.min(-1000).max(1000).default(0).describe("mass that the repair added, kg"),
  part: z.string().trim().max(120).default("").describe("part that failed: an id of the ledger, or a name"),
  touched: z
    .array(z.string().trim().max(120))
    .max(40)
    .default([])
    .describe("what the repair touched besides: looked at before the next run"),
  nextWeakest: z
    .string()
    .trim()
    .max(300)
    .default("")
    .describe("after strengthening: the next weakest in the load path, and which part shall be the cheap fuse"),
  pilotBlamed: z.boolean().default(false).describe("whether its cause is said to be the one at the sticks"),
  pilotSwap: z
    .object({
      how: z.enum(["same pilot, another craft", "another pilot, this craft"]),
      shown: z.string().trim().min(1, "what did it show?").max(300),
    })
    .nullable()
    .default(null)
    .describe("what must stand behind “pilot error”"),
});
export type Fault = z.infer<typeof faultSchema>;

/** What a repair touched besides, each thing once: it is looked at once, however often it was named. */
export const touchedBy = ({ touched }: Pick<Fault, "touched">): string[] =>
  [...new Set(touched)].filter((t) => t !== "");

/** A suspect that nothing has been said of yet. */
export const newSuspect = (id: string, cause: string, given: Partial<Suspect> = {}): Suspect => ({
  id,
  cause,
  for: "",
  against: "",
  test: "",
  minutes: null,
  cost: 0,
  risk: "none",
  spentMinutes: 0,
  spentCost: 0,
  result: "",
  effect: null,
  state: "open",
  part: "",
  ...given,
});

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
  mass: 0,
  part: "",
  touched: [],
  nextWeakest: "",
  pilotBlamed: false,
  pilotSwap: null,
});

export const craftSchema = z.object({
  name: z.string().trim().min(1, "a name is needed").max(80),
  summary: shortText,
});
export type Craft = z.infer<typeof craftSchema>;

/** Name of the open format and its version. */
export const FORMAT = "ultraform-craft";
export const FORMAT_VERSION = 15;

/** One craft with everything recorded about it: the open file format. All numbers in SI units (docs/format.md). */
export const craftFileSchema = z
  .object({
    format: z.literal(FORMAT, `this is not a craft file: "format" must be "${FORMAT}"`),
    formatVersion: z.literal(FORMAT_VERSION, `this application reads format version ${FORMAT_VERSION}`),
    currency: currencySchema.describe("what every amount of money in the file is in: ISO 4217"),
    craft: craftSchema,
    versions: z.array(versionSchema).min(1, "a craft has at least one version").max(300),
    runs: z.array(runSchema).max(5000),
    faults: z.array(faultSchema).max(2000),
    plans: z.array(planSchema).max(2000).default([]),
    symptoms: z
      .array(symptomSchema)
      .max(500)
      .default([])
      .describe("entries of one's own in the fault catalogue that the faults refer to"),
    bench: z.array(benchSchema).max(2000).default([]),
    files: z
      .array(
        attachmentSchema
          .pick({ hash: true, type: true })
          .extend({ content: z.string().max(4_000_000).describe("base64") }),
      )
      .max(2000)
      .default([])
      .describe("pictures that sessions and runs refer to by their hash (SHA-256 of the content)"),
  })
  .superRefine((file, ctx) => {
    const issue = (path: (string | number)[], message: string) => ctx.addIssue({ code: "custom", path, message });
    const labels = new Map(file.versions.map((v, i) => [v.label, i]));
    if (labels.size !== file.versions.length) issue(["versions"], "two versions have the same label");
    file.versions.forEach((v, i) => {
      const parent = v.parent === null ? -1 : labels.get(v.parent);
      if (parent === undefined) issue(["versions", i, "parent"], `there is no version ${v.parent}`);
      else if (parent >= i) issue(["versions", i, "parent"], "a parent stands before its children");
      if (v.frozenAt === null && file.runs.some((r) => r.version === v.label))
        issue(["versions", i, "frozenAt"], "a version with runs is frozen");
    });
    const runs = new Set(file.runs.map((r) => r.number));
    if (runs.size !== file.runs.length) issue(["runs"], "two runs have the same number");
    file.runs.forEach((r, i) => {
      if (!labels.has(r.version)) issue(["runs", i, "version"], `there is no version ${r.version}`);
    });
    if (new Set(file.faults.map((f) => f.number)).size !== file.faults.length)
      issue(["faults"], "two faults have the same number");
    file.faults.forEach((f, i) => {
      if (f.run !== null && !runs.has(f.run)) issue(["faults", i, "run"], `there is no run ${f.run}`);
      if (f.proofRun !== null && !runs.has(f.proofRun))
        issue(["faults", i, "proofRun"], `there is no run ${f.proofRun}`);
      if (f.fixVersion !== null && !labels.has(f.fixVersion))
        issue(["faults", i, "fixVersion"], `there is no version ${f.fixVersion}`);
    });
    const plans = new Set(file.plans.map((p) => p.number));
    if (plans.size !== file.plans.length) issue(["plans"], "two plans have the same number");
    file.plans.forEach((p, i) => {
      if (!labels.has(p.version)) issue(["plans", i, "version"], `there is no version ${p.version}`);
    });
    const keys = file.runs.flatMap((r) => r.key ?? []);
    if (new Set(keys).size !== keys.length) issue(["runs"], "two runs have the same key");
    if (new Set(file.bench.map((b) => b.number)).size !== file.bench.length)
      issue(["bench"], "two bench sessions have the same number");
    file.bench.forEach((b, i) => {
      if (!labels.has(b.version)) issue(["bench", i, "version"], `there is no version ${b.version}`);
    });
  });
export type CraftFile = z.infer<typeof craftFileSchema>;
/** The same as it may be written: what has a default may be left out. */
export type CraftFileInput = z.input<typeof craftFileSchema>;

export const isMetricKey = (name: string): name is (typeof METRIC_KEYS)[number] =>
  (METRIC_KEYS as readonly string[]).includes(name);
