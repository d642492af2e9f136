import {
  type AnyPgColumn,
  boolean,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  serial,
  text,
  uniqueIndex,
} from "drizzle-orm/pg-core";
import type { PullsTest } from "../../core/design/pulls";
import type { Attachment, Bench, Calibration, Free, Glide, MomentTest, WeighIn } from "../../core/design/bench";
import type { FastThrottle, ThrustTest } from "../../core/design/thrustTest";
import type {
  Advice,
  Angle,
  Claim,
  Crash,
  DriveReading,
  Fate,
  Fault,
  GateResult,
  Ladder,
  Lap,
  Lock,
  Moment,
  Plan,
  Run,
  TuneTrial,
  Why,
  Suspect,
} from "../../core/design/craftFile";
import type { Evidence } from "../../core/design/evidence";
import type { Risk } from "../../core/design/risk";
import type { Design } from "../../core/design/schema";
import type { ShelfKind, ShelfPart } from "../../core/design/shelf";
import type { OwnSymptom } from "../../core/design/symptom";
import type { Dimension } from "../../core/design/units";
import type { Glance } from "../../core/glance";

export const crafts = pgTable("crafts", {
  id: serial("id").primaryKey(),
  slug: text("slug").notNull().unique(),
  name: text("name").notNull(),
  summary: text("summary").notNull(),
  // The next number of each kind of record: a number that was given is never given again, whatever is deleted.
  nextRun: integer("next_run").notNull().default(1),
  nextFault: integer("next_fault").notNull().default(1),
  nextPlan: integer("next_plan").notNull().default(1),
  nextBench: integer("next_bench").notNull().default(1),
  /**
   * Raised by every transaction that writes to the craft: what was read at a stamp still holds at that stamp. It
   * begins anywhere, so that no other craft of the same id ever had it.
   */
  stamp: integer("stamp").notNull().default(0),
  /** The rules by which every record of it was found whole (server/rules.ts); empty: not looked at by any. */
  checked: text("checked").notNull().default(""),
});

const craftId = () =>
  integer("craft_id")
    .notNull()
    .references(() => crafts.id, { onDelete: "cascade" });

/**
 * References between records go by row id. Those with `onDelete: "cascade"` are parts of what they refer to and go
 * with it; those with none rest on it, and keep it from being deleted;
 * those with `"set null"` let go of it, and are tied again when it is brought back (server/references.ts reads all
 * three from here).
 */

/** Times are kept as the ISO 8601 text that came in, so that a round trip loses nothing. */
const stamp = (name: string) => text(name);

export const versions = pgTable(
  "versions",
  {
    id: serial("id").primaryKey(),
    craftId: craftId(),
    label: text("label").notNull(),
    parentId: integer("parent_id").references((): AnyPgColumn => versions.id),
    question: text("question").notNull(),
    finding: text("finding").notNull(),
    reason: text("reason").notNull(),
    claims: jsonb("claims").$type<Claim[]>().notNull(),
    createdAt: stamp("created_at").notNull(),
    frozenAt: stamp("frozen_at"),
    ladder: jsonb("ladder").$type<Ladder>(),
    whys: jsonb("whys").$type<Why[]>().notNull().default([]),
    advice: jsonb("advice").$type<Advice[]>().notNull().default([]),
    trials: jsonb("trials").$type<TuneTrial[]>().notNull().default([]),
    fate: jsonb("fate").$type<Fate>().notNull().default({ state: "going", why: "", at: null, reused: [], exit: "" }),
    revision: integer("revision").notNull().default(0),
    design: jsonb("design").$type<Design>().notNull(),
  },
  (t) => [uniqueIndex("versions_label").on(t.craftId, t.label), index("versions_parent").on(t.parentId)],
);

export const runs = pgTable(
  "runs",
  {
    id: serial("id").primaryKey(),
    craftId: craftId(),
    versionId: integer("version_id")
      .notNull()
      .references(() => versions.id, { onDelete: "cascade" }),
    number: integer("number").notNull(),
    date: stamp("date").notNull(),
    state: text("state").notNull().default("usual"),
    stage: integer("stage").notNull(),
    purpose: text("purpose").notNull(),
    place: text("place").notNull(),
    pilot: text("pilot").notNull(),
    conditions: jsonb("conditions").$type<Run["conditions"]>().notNull(),
    pack: jsonb("pack").$type<Run["pack"]>().notNull(),
    outcome: text("outcome").$type<Run["outcome"]>().notNull(),
    cautionsRead: boolean("cautions_read").notNull(),
    notes: text("notes").notNull(),
    perDrive: jsonb("per_drive").$type<DriveReading[]>().notNull().default([]),
    angles: jsonb("angles").$type<Angle[]>().notNull().default([]),
    course: text("course").notNull().default(""),
    laps: jsonb("laps").$type<Lap[]>().notNull().default([]),
    planId: integer("plan_id").references((): AnyPgColumn => plans.id, { onDelete: "set null" }),
    seconds: doublePrecision("seconds"),
    moments: jsonb("moments").$type<Moment[]>().notNull().default([]),
    files: jsonb("files").$type<Attachment[]>().notNull().default([]),
    gates: jsonb("gates").$type<GateResult[]>().notNull().default([]),
    locks: jsonb("locks").$type<Lock[]>().notNull().default([]),
    goneOn: text("gone_on").notNull().default(""),
    crash: jsonb("crash").$type<Crash>(),
    key: text("key"),
    revision: integer("revision").notNull().default(0),
  },
  (t) => [
    uniqueIndex("runs_number").on(t.craftId, t.number),
    uniqueIndex("runs_key").on(t.craftId, t.key),
    index("runs_version").on(t.versionId),
    index("runs_plan").on(t.planId),
  ],
);

/** Runs that are meant to be made. */
export const plans = pgTable(
  "plans",
  {
    id: serial("id").primaryKey(),
    craftId: craftId(),
    versionId: integer("version_id")
      .notNull()
      .references(() => versions.id, { onDelete: "cascade" }),
    number: integer("number").notNull(),
    plan: jsonb("plan").$type<Omit<Plan, "number" | "version">>().notNull(),
    revision: integer("revision").notNull().default(0),
  },
  (t) => [uniqueIndex("plans_number").on(t.craftId, t.number), index("plans_version").on(t.versionId)],
);

export const runMetrics = pgTable(
  "run_metrics",
  {
    id: serial("id").primaryKey(),
    runId: integer("run_id")
      .notNull()
      .references(() => runs.id, { onDelete: "cascade" }),
    position: integer("position").notNull(),
    metric: text("metric").notNull(),
    dimension: text("dimension").$type<Dimension>().notNull(),
    predictedValue: doublePrecision("predicted_value"),
    predictedSd: doublePrecision("predicted_sd"),
    predictedEvidence: text("predicted_evidence").$type<Evidence>(),
    measuredValue: doublePrecision("measured_value"),
    measuredSd: doublePrecision("measured_sd"),
    measuredBy: text("measured_by"),
  },
  (t) => [index("run_metrics_run").on(t.runId)],
);

export const faults = pgTable(
  "faults",
  {
    id: serial("id").primaryKey(),
    craftId: craftId(),
    number: integer("number").notNull(),
    /**
     * The run in which it was seen; null when an older release lost it: then it is shown as such until one is chosen.
     */
    runId: integer("run_id").references(() => runs.id),
    title: text("title").notNull(),
    symptom: text("symptom"),
    seen: text("seen").notNull(),
    severity: text("severity").$type<"harmless" | "damage" | "danger">().notNull(),
    damage: text("damage").notNull(),
    cause: text("cause").notNull(),
    fix: text("fix").notNull(),
    fixVersionId: integer("fix_version_id").references(() => versions.id),
    proofRunId: integer("proof_run_id").references(() => runs.id),
    state: text("state").$type<"open" | "closed" | "proven" | "cured, cause unknown" | "unresolved">().notNull(),
    minutes: doublePrecision("minutes").notNull(),
    cost: doublePrecision("cost").notNull(),
    mass: doublePrecision("mass").notNull().default(0),
    part: text("part").notNull().default(""),
    touched: jsonb("touched").$type<string[]>().notNull().default([]),
    nextWeakest: text("next_weakest").notNull().default(""),
    pilotBlamed: boolean("pilot_blamed").notNull().default(false),
    pilotSwap: jsonb("pilot_swap").$type<Fault["pilotSwap"]>(),
    revision: integer("revision").notNull().default(0),
  },
  (t) => [
    uniqueIndex("faults_number").on(t.craftId, t.number),
    index("faults_run").on(t.runId),
    index("faults_fix_version").on(t.fixVersionId),
    index("faults_proof_run").on(t.proofRunId),
  ],
);

export const suspects = pgTable(
  "suspects",
  {
    id: serial("id").primaryKey(),
    faultId: integer("fault_id")
      .notNull()
      .references(() => faults.id, { onDelete: "cascade" }),
    position: integer("position").notNull(),
    key: text("key").notNull(),
    cause: text("cause").notNull(),
    for: text("for_it").notNull(),
    against: text("against_it").notNull(),
    test: text("test").notNull(),
    minutes: doublePrecision("minutes"),
    cost: doublePrecision("cost").notNull().default(0),
    risk: text("risk").$type<Risk>().notNull().default("none"),
    spentMinutes: doublePrecision("spent_minutes").notNull().default(0),
    spentCost: doublePrecision("spent_cost").notNull().default(0),
    result: text("result").notNull(),
    effect: jsonb("effect").$type<Suspect["effect"]>(),
    state: text("state").$type<"open" | "ruled in" | "ruled out">().notNull(),
    part: text("part").notNull().default(""),
  },
  (t) => [index("suspects_fault").on(t.faultId)],
);

export const bench = pgTable(
  "bench",
  {
    id: serial("id").primaryKey(),
    craftId: craftId(),
    versionId: integer("version_id")
      .notNull()
      .references(() => versions.id, { onDelete: "cascade" }),
    number: integer("number").notNull(),
    date: stamp("date").notNull(),
    weighIn: jsonb("weigh_in").$type<WeighIn>(),
    thrust: jsonb("thrust").$type<ThrustTest>(),
    fastThrottle: jsonb("fast_throttle").$type<FastThrottle>(),
    calibration: jsonb("calibration").$type<Calibration>(),
    glide: jsonb("glide").$type<Glide>(),
    free: jsonb("free").$type<Free>(),
    moment: jsonb("moment").$type<MomentTest>(),
    pulls: jsonb("pulls").$type<PullsTest>(),
    files: jsonb("files").$type<Attachment[]>().notNull().default([]),
    notes: text("notes").notNull(),
    tested: jsonb("tested").$type<Bench["tested"]>().notNull(),
    adopted: text("adopted").notNull(),
    revision: integer("revision").notNull().default(0),
  },
  (t) => [uniqueIndex("bench_number").on(t.craftId, t.number), index("bench_version").on(t.versionId)],
);

/** Parts of one's own, which wander between craft. */
export const shelf = pgTable(
  "shelf",
  {
    id: serial("id").primaryKey(),
    kind: text("kind").$type<ShelfKind>().notNull(),
    name: text("name").notNull(),
    part: jsonb("part").$type<ShelfPart>().notNull(),
    revision: integer("revision").notNull().default(0),
  },
  (t) => [uniqueIndex("shelf_name").on(t.kind, t.name)],
);

/** Entries of one's own in the fault catalogue. */
export const symptoms = pgTable("symptoms", {
  id: text("id").primaryKey(),
  symptom: jsonb("symptom").$type<OwnSymptom>().notNull(),
  revision: integer("revision").notNull().default(0),
});

/** What was deleted, row by row, so that it can be brought back. */
export const trash = pgTable("trash", {
  id: serial("id").primaryKey(),
  kind: text("kind").$type<TrashKind>().notNull(),
  name: text("name").notNull(),
  deletedAt: stamp("deleted_at").notNull(),
  rows: jsonb("rows").$type<{ table: string; rows: Record<string, unknown>[] }[]>().notNull(),
});
export type TrashKind =
  | "craft"
  | "version"
  | "run"
  | "plan"
  | "fault"
  | "bench session"
  | "catalogue entry"
  | "part on the shelf";

/** Pictures and other files by the hash of their content: one content is kept once, whoever refers to it. */
export const files = pgTable("files", {
  hash: text("hash").primaryKey(),
  type: text("type").$type<Attachment["type"]>().notNull(),
  size: integer("size").notNull(),
  /** base64; null where the content stands in the data folder (server/pictures.ts) */
  content: text("content"),
});

/**
 * What the workshop's list shows of a craft, worked out when its newest version changed: with another stamp it is out
 * of date.
 */
export const summaries = pgTable("summaries", {
  craftId: integer("craft_id")
    .primaryKey()
    .references(() => crafts.id, { onDelete: "cascade" }),
  stamp: text("stamp").notNull(),
  summary: jsonb("summary").$type<Glance>().notNull(),
});

/** Other machines that were let in with the access code, each with a pass of its own that can be withdrawn. */
export const devices = pgTable("devices", {
  id: serial("id").primaryKey(),
  name: text("name").notNull(),
  pass: text("pass").notNull().unique(),
  since: stamp("since").notNull(),
  seen: stamp("seen").notNull(),
});

/** What the application remembers of the workshop as a whole. */
export const workshop = pgTable("workshop", {
  key: text("key").primaryKey(),
  value: jsonb("value").$type<unknown>().notNull(),
});

/** Every table, those that others refer to first: the order in which rows are put in. */
export const TABLES = {
  crafts,
  versions,
  plans,
  runs,
  runMetrics,
  faults,
  suspects,
  bench,
  shelf,
  symptoms,
  trash,
  files,
  summaries,
  devices,
  workshop,
} as const;
