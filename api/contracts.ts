import { moneySchema } from "../core/design/money";
import { craftFileReading } from "../core/design/openFile";
import { z } from "zod";
import { FILE_TYPES, benchEntrySchema } from "../core/design/bench";
import {
  rigSchema,
  safetySchema,
  testedDriveSchema,
  thrustReadingSchema,
  thrustTestSchema,
} from "../core/design/thrustTest";
import {
  type CraftFile,
  craftFileSchema,
  craftSchema,
  faultSchema,
  planSchema,
  runSchema,
  versionSchema,
} from "../core/design/craftFile";
import { recordNumber } from "../core/design/bounds";
import { idSchema } from "../core/design/fields";
import { designSchema } from "../core/design/schema";
import type { Glance } from "../core/glance";
import type { FieldSheet } from "../core/runs/sheetShape";
import { shelfPartSchema } from "../core/design/shelf";
import { symptomSchema } from "../core/design/symptom";
import { massEvidenceSchema } from "../core/subjects/mass/evidence";
import { PATHS } from "./paths";

/** What client and server agree on about one route. Both sides validate with these schemas. */
export interface Contract<
  P extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  R extends z.ZodType = z.ZodType,
> {
  method: "get" | "post" | "put" | "delete";
  path: string;
  params: P;
  body: B;
  response: R;
  /** What the handler has checked record by record, leniently, is not checked a second time. */
  checked?: boolean;
}
const contract = <P extends z.ZodType, B extends z.ZodType, R extends z.ZodType>(
  c: Contract<P, B, R>,
): Contract<P, B, R> => c;

const none = z.undefined();
const nothing = z.object({});
const slug = z.string().min(1).max(120);
const label = z.string().min(1).max(20);
const revision = z.number().int().nonnegative().max(2_000_000_000);
const number = z.coerce.number().pipe(recordNumber);

/** A stored record in which something cannot be: what was left out of it, or that it cannot be read at all. */
export const brokenSchema = z.object({
  kind: z.enum(["version", "run", "fault", "plan", "bench session"]),
  name: z.string().describe("its label or number"),
  aside: z.array(z.object({ path: z.string(), message: z.string(), was: z.string() })),
  lost: z.boolean().describe("nothing of it could be read: it is not in the file"),
});
export type Broken = z.infer<typeof brokenSchema>;

/**
 * A craft as the client holds it: its file, what of it is broken, and the revision of every document that can be
 * saved.
 */
export const craftRecordSchema = z.object({
  slug,
  file: z.custom<CraftFile>((f) => typeof f === "object" && f !== null),
  broken: z.array(brokenSchema),
  revisions: z.object({
    versions: z.record(z.string(), revision),
    runs: z.record(z.string(), revision),
    faults: z.record(z.string(), revision),
    bench: z.record(z.string(), revision),
    plans: z.record(z.string(), revision),
  }),
});
export type CraftRecord = z.infer<typeof craftRecordSchema>;

/** A craft as the workshop's list shows it. Small, since there may be many. */
export const craftSummarySchema = z.object({
  slug,
  name: z.string(),
  summary: z.string(),
  newest: label,
  glance: z
    .custom<Glance>((g) => typeof g === "object" && g !== null)
    .nullable()
    .describe("null: not worked out yet"),
  current: z.boolean().describe("whether the glance is that of the newest version as it is now"),
  versions: z
    .array(z.tuple([label, z.number().int(), z.number().int().nullable(), z.union([z.literal(0), z.literal(1)])]))
    .describe("the newest few: label, highest rung passed, highest rung failed, 1 when frozen"),
  hidden: z.number().int().describe("older versions that are not listed"),
  openFaults: z.number().int(),
  runs: z.number().int(),
});
export type CraftSummary = z.infer<typeof craftSummarySchema>;

/** A part on the shelf, with the revision that a save must name. */
export const shelfRecordSchema = z.object({ id: number, revision, part: shelfPartSchema });
export type ShelfRecord = z.infer<typeof shelfRecordSchema>;

/**
 * A run as it is logged: the server gives it its number, copies in the predictions and the gates of its rung, and
 * holds what was measured against both.
 */
export const newRunSchema = runSchema
  .omit({ number: true, version: true, metrics: true, gates: true, locks: true })
  .extend({
    state: idSchema.optional().describe("left out: the first state of its version, or the one that it was about"),
    measured: z.array(runSchema.shape.metrics.element.omit({ predicted: true })).max(80),
    eye: z
      .record(z.string(), z.enum(["passed", "failed"]))
      .default({})
      .describe("gates that eyes decide, by their id"),
    live: z
      .boolean()
      .default(false)
      .describe("logged while it happened: it is kept even when the ladder was locked and nobody said why"),
  })
  .refine((r) => r.stage === 1 || r.cautionsRead, {
    message: "read the cautions of this craft first",
    path: ["cautionsRead"],
  });
export type NewRun = z.infer<typeof newRunSchema>;

/** A fault as it is entered: always of a run. */
export const faultEntrySchema = faultSchema.omit({ number: true }).extend({
  run: recordNumber.nullable(),
  pilotBlamed: z.boolean().optional().describe("left out: as the words of its cause propose"),
});
export type FaultEntry = z.infer<typeof faultEntrySchema>;

export const newPlanSchema = planSchema.omit({ number: true, version: true, createdAt: true });
export type NewPlan = z.infer<typeof newPlanSchema>;

/** What may be said of a version after its design froze; what is left out stays. */
const said = versionSchema.shape;
export const versionWordsSchema = versionSchema
  .pick({ question: true, finding: true, reason: true, claims: true })
  // Without their defaults: a default would stand for what was not said, and wipe it out.
  .extend({
    ladder: said.ladder.unwrap(),
    whys: said.whys.unwrap(),
    advice: said.advice.unwrap(),
    trials: said.trials.unwrap(),
    fate: said.fate.unwrap(),
  })
  .partial();
export type VersionWords = z.infer<typeof versionWordsSchema>;

export const symptomRecordSchema = z.object({ revision, symptom: symptomSchema });
export type SymptomRecord = z.infer<typeof symptomRecordSchema>;

export const trashRecordSchema = z.object({ id: number, kind: z.string(), name: z.string(), deletedAt: z.string() });
export type TrashRecord = z.infer<typeof trashRecordSchema>;
/** Another machine that was let in with the access code. */
export const deviceSchema = z.object({
  id: number,
  name: z.string(),
  since: z.string(),
  seen: z.string(),
  own: z.boolean(),
});
export type DeviceRecord = z.infer<typeof deviceSchema>;

/** How the workshop as a whole is doing. */
export const workshopSchema = z.object({
  notes: z.array(z.string()).describe("what happened when it was opened, for the user"),
  beyond: z.boolean().describe("it listens to other machines"),
  copies: z
    .array(z.object({ name: z.string(), at: z.string(), size: z.number() }))
    .describe("automatic daily copies, newest first"),
  folder: z.string().nullable(),
  money: moneySchema,
});

/** What a unit of a file's currency is in the workshop's, or that its amounts are left out. */
export const rateSchema = z.union([
  z.literal("none"),
  z.coerce.number("a number, or none").positive("a rate above zero").min(1e-9).max(1e9),
]);
export type Rate = z.infer<typeof rateSchema>;

/** What was deleted can be brought back by this number. */
const gone = z.object({ trash: number });

export const newVersionSchema = versionSchema.pick({ question: true, reason: true, claims: true }).extend({
  parent: label,
  label: versionSchema.shape.label.optional(),
  design: designSchema.optional().describe("the changed design; the parent's own when left out"),
});
export type NewVersion = z.infer<typeof newVersionSchema>;

/** A bench session as it is logged: the server gives it its number and keeps the ledger that it was held against. */
export const newBenchSchema = benchEntrySchema;
export type NewBench = z.infer<typeof newBenchSchema>;

export const adoptionSchema = z.object({
  revision,
  evidence: massEvidenceSchema,
  said: z.string().trim().min(1).max(200).describe("what is taken over, in words"),
});
export type Adoption = z.infer<typeof adoptionSchema>;

/** What a stand is told before a sweep. Faults can be switched on in the simulated one only. */
export const standSetupSchema = z.object({
  unit: testedDriveSchema
    .omit({ battery: true })
    .refine((u) => u.propulsor === null, "the stand-in that ships with it knows open propellers only"),
  battery: testedDriveSchema.shape.battery,
  rig: rigSchema,
  air: thrustTestSchema.shape.air,
  faults: z.object({
    bending: z.boolean(),
    slipping: z.boolean(),
    looseTare: z.boolean(),
    wrongCurrent: z.boolean(),
    silent: z.boolean().describe("stops answering above 35 % throttle"),
    starved: z.boolean().default(false).describe("its inlet is too small"),
    weak: z.boolean().default(false).describe("one of several that pushes less than its like"),
    close: z.boolean().default(false).describe("several together stand too close to one another"),
  }),
  together: z.number().int().min(1).max(24).default(1).describe("like units that push together on one pack"),
  seed: z.number().int().min(0).max(1e9),
});
export type StandSetup = z.infer<typeof standSetupSchema>;
export const standReadingSchema = thrustReadingSchema.omit({ out: true });
export type StandReading = z.infer<typeof standReadingSchema>;

/** Taking a sweep over: the drives of the version whose curve it becomes. */
export const learnSchema = z.object({
  revision,
  unitIds: z.array(z.string()).min(1).max(12),
  pack: z.boolean().default(false).describe("the pack that fed the stand is the craft's: take its resistance over too"),
});
export type Learn = z.infer<typeof learnSchema>;

const inCraft = z.object({ slug });
const inVersion = z.object({ slug, label });
const inNumber = z.object({ slug, number });

/** What a page asks of the stream of readings: those after the last one that it has. */
export const streamQuerySchema = z.object({
  after: z.coerce.number({ message: "a number of a reading" }).int().nonnegative().optional(),
});

export const contracts = {
  listCrafts: contract({
    method: "get",
    path: "/api/crafts",
    params: nothing,
    body: none,
    response: z.array(craftSummarySchema),
  }),
  createCraft: contract({
    method: "post",
    path: "/api/crafts",
    params: nothing,
    body: z.object({ craft: craftSchema, design: designSchema, question: z.string().max(200) }),
    response: z.object({ slug }),
  }),
  importCraft: contract({
    method: "post",
    path: "/api/crafts/import",
    params: nothing,
    body: craftFileReading,
    response: z.object({ slug }),
  }),
  getCraft: contract({
    method: "get",
    path: "/api/crafts/:slug",
    params: inCraft,
    body: none,
    response: craftRecordSchema,
    checked: true,
  }),
  exportCraft: contract({
    method: "get",
    path: "/api/crafts/:slug/export",
    params: inCraft,
    body: none,
    response: craftFileSchema,
    checked: true,
  }),
  exportTar: contract({
    method: "get",
    path: "/api/crafts/:slug/export.tar",
    params: inCraft,
    body: none,
    response: z.unknown(),
  }),
  mendRecord: contract({
    method: "post",
    path: "/api/crafts/:slug/mend",
    params: inCraft,
    body: brokenSchema.pick({ kind: true, name: true }).extend({ revision }),
    response: z.object({ revision }),
  }),
  workshop: contract({ method: "get", path: "/api/workshop", params: nothing, body: none, response: workshopSchema }),
  saveMoney: contract({
    method: "put",
    path: "/api/workshop/money",
    params: nothing,
    body: moneySchema,
    response: moneySchema,
  }),
  backup: contract({ method: "get", path: "/api/backup", params: nothing, body: none, response: z.unknown() }),
  listDevices: contract({
    method: "get",
    path: "/api/devices",
    params: nothing,
    body: none,
    response: z.array(deviceSchema),
  }),
  withdrawDevice: contract({
    method: "delete",
    path: "/api/devices/:id",
    params: z.object({ id: number }),
    body: none,
    response: nothing,
  }),
  deleteCraft: contract({ method: "delete", path: "/api/crafts/:slug", params: inCraft, body: none, response: gone }),
  createVersion: contract({
    method: "post",
    path: "/api/crafts/:slug/versions",
    params: inCraft,
    body: newVersionSchema,
    response: z.object({ label, revision }),
  }),
  saveDesign: contract({
    method: "put",
    path: "/api/crafts/:slug/versions/:label/design",
    params: inVersion,
    body: z.object({ revision, design: designSchema }),
    response: z.object({ revision }),
  }),
  saveVersion: contract({
    method: "put",
    path: "/api/crafts/:slug/versions/:label",
    params: inVersion,
    body: versionWordsSchema.extend({ revision }),
    response: z.object({ revision }),
  }),
  deleteVersion: contract({
    method: "delete",
    path: "/api/crafts/:slug/versions/:label",
    params: inVersion,
    body: none,
    response: gone,
  }),
  fieldSheet: contract({
    method: "get",
    path: PATHS.fieldSheet,
    params: inVersion.extend({ habit: z.enum(["metric", "imperial"]), state: idSchema }),
    body: none,
    response: z.custom<FieldSheet>((s) => typeof s === "object" && s !== null),
    checked: true,
  }),
  createRun: contract({
    method: "post",
    path: PATHS.createRun,
    params: inVersion,
    body: newRunSchema,
    response: z.object({ number }),
  }),
  createRuns: contract({
    method: "post",
    path: "/api/crafts/:slug/runs",
    params: inCraft,
    body: z.object({
      runs: z
        .array(z.object({ version: label, run: newRunSchema }))
        .min(1)
        .max(50),
    }),
    response: z.object({ numbers: z.array(number) }),
  }),
  saveRun: contract({
    method: "put",
    path: "/api/crafts/:slug/runs/:number",
    params: inNumber,
    body: z.object({ revision, run: newRunSchema }),
    response: z.object({ revision }),
  }),
  deleteRun: contract({
    method: "delete",
    path: "/api/crafts/:slug/runs/:number",
    params: inNumber,
    body: none,
    response: gone,
  }),
  createPlan: contract({
    method: "post",
    path: "/api/crafts/:slug/versions/:label/plans",
    params: inVersion,
    body: newPlanSchema,
    response: z.object({ number }),
  }),
  savePlan: contract({
    method: "put",
    path: "/api/crafts/:slug/plans/:number",
    params: inNumber,
    body: z.object({ revision, plan: newPlanSchema }),
    response: z.object({ revision }),
  }),
  deletePlan: contract({
    method: "delete",
    path: "/api/crafts/:slug/plans/:number",
    params: inNumber,
    body: none,
    response: gone,
  }),
  createFault: contract({
    method: "post",
    path: "/api/crafts/:slug/faults",
    params: inCraft,
    body: faultEntrySchema,
    response: z.object({ number }),
  }),
  saveFault: contract({
    method: "put",
    path: "/api/crafts/:slug/faults/:number",
    params: inNumber,
    body: z.object({ revision, fault: faultEntrySchema }),
    response: z.object({ revision }),
  }),
  deleteFault: contract({
    method: "delete",
    path: "/api/crafts/:slug/faults/:number",
    params: inNumber,
    body: none,
    response: gone,
  }),
  listSymptoms: contract({
    method: "get",
    path: "/api/symptoms",
    params: nothing,
    body: none,
    response: z.array(symptomRecordSchema),
  }),
  saveSymptom: contract({
    method: "put",
    path: "/api/symptoms/:id",
    params: z.object({ id: symptomSchema.shape.id }),
    body: z.object({ revision: revision.nullable().describe("null: a new one"), symptom: symptomSchema }),
    response: z.object({ revision }),
  }),
  deleteSymptom: contract({
    method: "delete",
    path: "/api/symptoms/:id",
    params: z.object({ id: symptomSchema.shape.id }),
    body: none,
    response: gone,
  }),
  listTrash: contract({
    method: "get",
    path: "/api/trash",
    params: nothing,
    body: none,
    response: z.array(trashRecordSchema),
  }),
  restore: contract({
    method: "post",
    path: "/api/trash/:id/restore",
    params: z.object({ id: number }),
    body: none,
    response: z.object({ kind: z.string(), name: z.string() }),
  }),
  createBench: contract({
    method: "post",
    path: "/api/crafts/:slug/versions/:label/bench",
    params: inVersion,
    body: newBenchSchema,
    response: z.object({ number }),
  }),
  saveBench: contract({
    method: "put",
    path: "/api/crafts/:slug/bench/:number",
    params: inNumber,
    body: z.object({ revision, session: newBenchSchema }),
    response: z.object({ revision }),
  }),
  deleteBench: contract({
    method: "delete",
    path: "/api/crafts/:slug/bench/:number",
    params: inNumber,
    body: none,
    response: gone,
  }),
  listShelf: contract({
    method: "get",
    path: "/api/shelf",
    params: nothing,
    body: none,
    response: z.array(shelfRecordSchema),
  }),
  addToShelf: contract({
    method: "post",
    path: "/api/shelf",
    params: nothing,
    body: z.object({ parts: z.array(shelfPartSchema).min(1).max(500) }),
    response: z.object({ ids: z.array(number) }),
  }),
  saveShelf: contract({
    method: "put",
    path: "/api/shelf/:id",
    params: z.object({ id: number }),
    body: z.object({ revision, part: shelfPartSchema }),
    response: z.object({ revision }),
  }),
  deleteFromShelf: contract({
    method: "delete",
    path: "/api/shelf/:id",
    params: z.object({ id: number }),
    body: none,
    response: gone,
  }),
  learn: contract({
    method: "post",
    path: "/api/crafts/:slug/bench/:number/learn",
    params: inNumber,
    body: learnSchema,
    response: z.object({ revision }),
  }),
  addFile: contract({
    method: "post",
    path: PATHS.addFile,
    params: nothing,
    body: z.object({ type: z.enum(FILE_TYPES), content: z.string().min(4).max(4_000_000).describe("base64") }),
    response: z.object({ hash: z.string(), size: z.number().int() }),
  }),
  getFile: contract({
    method: "get",
    path: "/api/files/:hash",
    params: z.object({ hash: z.string().regex(/^[0-9a-f]{64}$/) }),
    body: none,
    response: z.unknown(),
  }),
  stand: contract({
    method: "get",
    path: "/api/stand",
    params: nothing,
    body: none,
    response: z.object({ id: z.string(), name: z.string(), rate: z.number(), ready: z.boolean(), last: z.number() }),
  }),
  setUpStand: contract({
    method: "post",
    path: "/api/stand/setup",
    params: nothing,
    body: standSetupSchema,
    response: z.object({ last: z.number().int() }),
  }),
  commandStand: contract({
    method: "post",
    path: "/api/stand/throttle",
    params: nothing,
    body: z.object({ throttle: z.number().min(0).max(1), safety: safetySchema }),
    response: nothing,
  }),
  streamStand: contract({
    method: "get",
    path: "/api/stand/stream",
    params: nothing,
    body: none,
    response: z.unknown(),
  }),
  adopt: contract({
    method: "post",
    path: "/api/crafts/:slug/bench/:number/adopt",
    params: inNumber,
    body: adoptionSchema,
    response: z.object({ revision }),
  }),
} as const;

/** The one error shape (problem details, RFC 9457). */
export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  errors: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
  current: z.unknown().optional().describe("on a stale save: the state that the server holds"),
});
export type Problem = z.infer<typeof problemSchema>;
