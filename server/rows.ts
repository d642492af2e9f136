import { type Tx, reading } from "./db/transaction";
import { moneyIn } from "./money";
import { isDeepStrictEqual } from "node:util";
import { type SQL, asc, and, eq, inArray, sql } from "drizzle-orm";
import type { z } from "zod";
import type { Broken, CraftRecord } from "../api/contracts";
import { benchSchema } from "../core/design/bench";
import {
  type CraftFile,
  FORMAT,
  FORMAT_VERSION,
  type RunMetric,
  type Version,
  claimSchema,
  craftSchema,
  faultSchema,
  planSchema,
  runSchema,
  versionSchema,
} from "../core/design/craftFile";
import { type Mended, mend } from "../core/design/mend";
import { type Design, designSchema, emptyDesign } from "../core/design/schema";
import { symptomSchema } from "../core/design/symptom";
import type { Database } from "./db/open";
import { bench, crafts, faults, plans, runMetrics, runs, type shelf, suspects, symptoms, versions } from "./db/schema";
import { notFound, refused } from "./problems";
import { rulesNow } from "./rules";

export async function craftRow(db: Tx | Database, slug: string) {
  const [row] = await db.select().from(crafts).where(eq(crafts.slug, slug));
  if (!row) throw notFound(`There is no craft “${slug}”.`);
  return row;
}

/**
 * The craft, held until the transaction ends: what is written to one craft is written one after the other. Its stamp
 * is raised: what was read of it before is out of date.
 */
export async function lockCraft(tx: Tx, slug: string) {
  const [row] = await tx
    .update(crafts)
    .set({ stamp: sql`${crafts.stamp} + 1` })
    .where(eq(crafts.slug, slug))
    .returning();
  if (!row) throw notFound(`There is no craft “${slug}”.`);
  return row;
}

type Revised =
  | typeof versions
  | typeof runs
  | typeof faults
  | typeof bench
  | typeof plans
  | typeof shelf
  | typeof symptoms;
/**
 * Saves a row if nobody saved it since a revision: one conditional statement decides, so that of two saves with one
 * revision only the first finds its row.
 *
 * @returns its new revision, or null where it was saved elsewhere, or is gone
 */
export async function saveRow<T extends Revised>(
  tx: Tx,
  table: T,
  which: SQL | undefined,
  revision: number,
  values: Partial<T["$inferInsert"]>,
): Promise<number | null> {
  // Of all these tables the statement is the same; which columns it sets, the type of the values says.
  const any: typeof plans = table as never;
  const [saved] = await tx
    .update(any)
    .set({ ...(values as object), revision: sql`${any.revision} + 1` })
    .where(and(which, eq(any.revision, revision)))
    .returning({ revision: any.revision });
  return saved?.revision ?? null;
}

const COUNTERS = { run: "nextRun", fault: "nextFault", plan: "nextPlan", bench: "nextBench" } as const;
/** Gives the next number of a kind of record in a craft. A number is given once, whatever is deleted later. */
export async function nextNumber(tx: Tx, craftId: number, kind: keyof typeof COUNTERS): Promise<number> {
  const key = COUNTERS[kind];
  const [row] = await tx
    .update(crafts)
    .set({ [key]: sql`${crafts[key]} + 1` })
    .where(eq(crafts.id, craftId))
    .returning({ next: crafts[key] });
  if (!row) throw notFound("The craft is gone.");
  return row.next - 1;
}

/** A slug that no craft has yet: the one wanted, else one made of the name. */
export async function freeSlug(tx: Tx, name: string, wanted?: string): Promise<string> {
  const stem =
    wanted ??
    (name
      .normalize("NFKD")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .slice(0, 60) ||
      "craft");
  // Who makes a craft of this name at the same time waits here, and then sees the address that was taken.
  await tx.execute(sql`select pg_advisory_xact_lock(4870, hashtext(${stem}))`);
  const taken = new Set((await tx.select({ slug: crafts.slug }).from(crafts)).map((r) => r.slug));
  if (!taken.has(stem)) return stem;
  let n = 2;
  while (taken.has(`${stem}-${n}`)) n++;
  return `${stem}-${n}`;
}

export async function versionRow(db: Tx | Database, craftId: number, label: string) {
  const [row] = await db
    .select()
    .from(versions)
    .where(and(eq(versions.craftId, craftId), eq(versions.label, label)));
  if (!row) throw notFound(`There is no version ${label}.`);
  return row;
}

export async function runRow(tx: Tx, craftId: number, number: number) {
  const [row] = await tx
    .select()
    .from(runs)
    .where(and(eq(runs.craftId, craftId), eq(runs.number, number)));
  if (!row) throw notFound(`There is no run ${number}.`);
  return row;
}

type VersionRow = typeof versions.$inferSelect;

/**
 * The design of a stored version, leniently: what was stored before a field existed gets that field's default, and
 * what no longer makes sense is left out (the record says so).
 */
export const designOf = (row: Pick<VersionRow, "design">): Design => {
  const read = designSchema.safeParse(row.design);
  return read.success ? read.data : (mend(designSchema, row.design)?.value ?? emptyDesign("wings"));
};

/**
 * What was claimed of a stored version; what was stored before a claim could name its change is of all changes
 * together.
 */
export const claimsOf = (row: Pick<VersionRow, "claims">): Version["claims"] =>
  mend(claimSchema.array(), row.claims)?.value ?? [];

/** A stored version as the file holds it, before it is checked. */
const rawVersion = (v: VersionRow, parent: string | null) => ({
  label: v.label,
  parent,
  question: v.question,
  finding: v.finding,
  reason: v.reason,
  claims: v.claims,
  createdAt: v.createdAt,
  frozenAt: v.frozenAt,
  ladder: v.ladder,
  whys: v.whys,
  advice: v.advice,
  trials: v.trials,
  fate: v.fate,
  design: v.design,
});

/** A stored version as the file holds it. @throws refused when it cannot be read at all */
export function toVersion(v: VersionRow, parent: string | null): Version {
  const read = mend(versionSchema, rawVersion(v, parent));
  if (!read) throw refused(`${v.label} cannot be read.`);
  return read.value;
}

export async function parentLabel(tx: Tx, row: VersionRow): Promise<string | null> {
  if (row.parentId === null) return null;
  const [parent] = await tx.select({ label: versions.label }).from(versions).where(eq(versions.id, row.parentId));
  return parent?.label ?? null;
}

export const toMetric = (m: typeof runMetrics.$inferSelect): RunMetric => ({
  metric: m.metric,
  dimension: m.dimension,
  predicted:
    m.predictedValue === null
      ? null
      : { value: m.predictedValue, sd: m.predictedSd ?? 0, evidence: m.predictedEvidence ?? "calculated" },
  measured: m.measuredValue === null ? null : { value: m.measuredValue, sd: m.measuredSd ?? 0, by: m.measuredBy ?? "" },
});

/** Raises the stamp of crafts whose rows were changed by another way than through the craft; of all without a list. */
export async function touchCrafts(tx: Tx, ids?: readonly number[]): Promise<void> {
  await tx
    .update(crafts)
    .set({ stamp: sql`${crafts.stamp} + 1` })
    .where(ids ? inArray(crafts.id, [...ids]) : undefined);
}

/** A craft as it is sent, and whether every record of it is stored just as the rules of this release read it. */
export type ReadCraft = CraftRecord & { whole: boolean };

/** One craft with everything recorded about it, and the revisions of its documents. */
export const readCraft = (db: Database, slug: string): Promise<ReadCraft> =>
  db.transaction(async (tx) => readCraftIn(tx, await craftRow(tx, slug)), reading);

function grouped<T>(list: readonly T[], by: (item: T) => number): Map<number, T[]> {
  const out = new Map<number, T[]>();
  for (const item of list) {
    const held = out.get(by(item));
    if (held) held.push(item);
    else out.set(by(item), [item]);
  }
  return out;
}

/**
 * The same within a transaction. Reading is lenient: what in a record cannot be is left out and told in `broken`, and
 * a record that cannot be read at all is told and left out; the rest of
 * the craft is there.
 */
export async function readCraftIn(tx: Tx, craft: typeof crafts.$inferSelect): Promise<ReadCraft> {
  const versionRows = await tx.select().from(versions).where(eq(versions.craftId, craft.id)).orderBy(asc(versions.id));
  const runRows = await tx.select().from(runs).where(eq(runs.craftId, craft.id)).orderBy(asc(runs.number));
  const faultRows = await tx.select().from(faults).where(eq(faults.craftId, craft.id)).orderBy(asc(faults.number));
  const ofCraft = (table: typeof runs | typeof faults) =>
    tx.select({ id: table.id }).from(table).where(eq(table.craftId, craft.id));
  const metricRows =
    runRows.length > 0
      ? await tx
          .select()
          .from(runMetrics)
          .where(inArray(runMetrics.runId, ofCraft(runs)))
          .orderBy(asc(runMetrics.position))
      : [];
  const suspectRows =
    faultRows.length > 0
      ? await tx
          .select()
          .from(suspects)
          .where(inArray(suspects.faultId, ofCraft(faults)))
          .orderBy(asc(suspects.position))
      : [];
  const planRows = await tx.select().from(plans).where(eq(plans.craftId, craft.id)).orderBy(asc(plans.number));
  const named = faultRows.flatMap((f) => f.symptom ?? []);
  const ownSymptoms = named.length > 0 ? await tx.select().from(symptoms).where(inArray(symptoms.id, named)) : [];
  const benchRows = await tx.select().from(bench).where(eq(bench.craftId, craft.id)).orderBy(asc(bench.number));

  const labels = new Map(versionRows.map((v) => [v.id, v.label]));
  const runNumbers = new Map(runRows.map((r) => [r.id, r.number]));
  const planNumbers = new Map(planRows.map((p) => [p.id, p.number]));
  const metrics = grouped(metricRows, (m) => m.runId);
  const suspicions = grouped(suspectRows, (s) => s.faultId);
  const of = <T>(map: Map<number, T>, id: number | null): T | null => (id === null ? null : (map.get(id) ?? null));

  const broken: Broken[] = [];
  // Every record was found whole by the rules of this release, and what is written since is checked as it is written.
  const known = craft.checked === rulesNow();
  let plain = true;
  const each = <T>(kind: Broken["kind"], name: string, schema: z.ZodType<T>, stored: unknown): T[] => {
    if (known) return [stored as T];
    const read: Mended<T> | null = mend(schema, stored);
    if (!read) broken.push({ kind, name, aside: [], lost: true });
    else if (read.aside.length > 0) broken.push({ kind, name, aside: read.aside, lost: false });
    // What a rule fills in, such as a default, is not stored yet: it is filled in at each reading.
    plain &&= read !== null && isDeepStrictEqual(read.value, stored);
    return read ? [read.value] : [];
  };
  const file: CraftFile = {
    format: FORMAT,
    formatVersion: FORMAT_VERSION,
    currency: (await moneyIn(tx)).currency,
    craft: mend(craftSchema, { name: craft.name, summary: craft.summary })?.value ?? {
      name: craft.slug,
      summary: "",
    },
    versions: versionRows.flatMap((v) =>
      each("version", v.label, versionSchema, rawVersion(v, of(labels, v.parentId))),
    ),
    runs: runRows.flatMap(({ id, craftId: _c, versionId, planId, revision: _r, ...run }) =>
      each("run", String(run.number), runSchema, {
        ...run,
        version: labels.get(versionId) ?? "",
        plan: of(planNumbers, planId),
        metrics: (metrics.get(id) ?? []).map(toMetric),
      }),
    ),
    faults: faultRows.flatMap(({ id, craftId: _c, runId, fixVersionId, proofRunId, revision: _r, ...fault }) =>
      each("fault", String(fault.number), faultSchema, {
        ...fault,
        run: of(runNumbers, runId),
        fixVersion: of(labels, fixVersionId),
        proofRun: of(runNumbers, proofRunId),
        suspects: (suspicions.get(id) ?? []).map(({ id: _i, faultId: _f, position: _p, key, ...s }) => ({
          ...s,
          id: key,
        })),
      }),
    ),
    plans: planRows.flatMap(({ number, versionId, plan }) =>
      each("plan", String(number), planSchema, { ...plan, number, version: labels.get(versionId) ?? "" }),
    ),
    symptoms: ownSymptoms.flatMap((s) => mend(symptomSchema, s.symptom)?.value ?? []),
    files: [],
    bench: benchRows.flatMap(({ id: _i, craftId: _c, versionId, revision: _r, ...session }) =>
      each("bench session", String(session.number), benchSchema, { ...session, version: labels.get(versionId) ?? "" }),
    ),
  };
  return {
    slug: craft.slug,
    file,
    broken,
    whole: known || (plain && broken.length === 0),
    revisions: {
      versions: Object.fromEntries(versionRows.map((v) => [v.label, v.revision])),
      runs: Object.fromEntries(runRows.map((r) => [r.number, r.revision])),
      faults: Object.fromEntries(faultRows.map((f) => [f.number, f.revision])),
      bench: Object.fromEntries(benchRows.map((b) => [b.number, b.revision])),
      plans: Object.fromEntries(planRows.map((p) => [p.number, p.revision])),
    },
  };
}
