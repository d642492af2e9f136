import { asc, and, eq, inArray } from "drizzle-orm";
import type { CraftRecord } from "../api/contracts";
import { type CraftFile, FORMAT, FORMAT_VERSION, type RunMetric, type Version, claimSchema } from "../core/design/craftFile";
import { type Design, designSchema } from "../core/design/schema";
import type { Database } from "./db/open";
import { bench, crafts, faults, plans, runMetrics, runs, suspects, symptoms, versions } from "./db/schema";
import { notFound } from "./problems";

export type Tx = Parameters<Parameters<Database["transaction"]>[0]>[0];

export async function craftRow(db: Tx | Database, slug: string) {
  const [row] = await db.select().from(crafts).where(eq(crafts.slug, slug));
  if (!row) throw notFound(`There is no craft “${slug}”.`);
  return row;
}

export async function versionRow(db: Tx | Database, craftId: number, label: string) {
  const [row] = await db
    .select()
    .from(versions)
    .where(and(eq(versions.craftId, craftId), eq(versions.label, label)));
  if (!row) throw notFound(`There is no version ${label}.`);
  return row;
}

type VersionRow = typeof versions.$inferSelect;

/** The design of a stored version. What was stored before a field existed gets that field's default. */
export const designOf = (row: Pick<VersionRow, "design">): Design => designSchema.parse(row.design);

/** What was claimed of a stored version; what was stored before a claim could name its change is of all changes together. */
export const claimsOf = (row: Pick<VersionRow, "claims">): Version["claims"] => claimSchema.array().parse(row.claims);

export const toVersion = (v: VersionRow): Version => ({
  label: v.label,
  parent: v.parent,
  question: v.question,
  finding: v.finding,
  reason: v.reason,
  claims: claimsOf(v),
  createdAt: v.createdAt,
  frozenAt: v.frozenAt,
  ladder: v.ladder,
  whys: v.whys,
  advice: v.advice,
  trials: v.trials,
  fate: v.fate,
  design: designOf(v),
});

export const toMetric = (m: typeof runMetrics.$inferSelect): RunMetric => ({
  metric: m.metric,
  dimension: m.dimension,
  predicted: m.predictedValue === null ? null : { value: m.predictedValue, sd: m.predictedSd ?? 0, evidence: m.predictedEvidence ?? "calculated" },
  measured: m.measuredValue === null ? null : { value: m.measuredValue, sd: m.measuredSd ?? 0, by: m.measuredBy ?? "" },
});

/** One craft with everything recorded about it, and the revisions of its documents. */
export const readCraft = (db: Database, slug: string): Promise<CraftRecord> => db.transaction(async (tx) => readCraftIn(tx, await craftRow(tx, slug)));

/** The same within a transaction. */
export async function readCraftIn(tx: Tx, craft: typeof crafts.$inferSelect): Promise<CraftRecord> {
  const versionRows = await tx.select().from(versions).where(eq(versions.craftId, craft.id)).orderBy(asc(versions.id));
  const runRows = await tx.select().from(runs).where(eq(runs.craftId, craft.id)).orderBy(asc(runs.number));
  const faultRows = await tx.select().from(faults).where(eq(faults.craftId, craft.id)).orderBy(asc(faults.number));
  const metricRows = runRows.length
    ? await tx
        .select()
        .from(runMetrics)
        .where(
          inArray(
            runMetrics.runId,
            runRows.map((r) => r.id),
          ),
        )
        .orderBy(asc(runMetrics.position))
    : [];
  const suspectRows = faultRows.length
    ? await tx
        .select()
        .from(suspects)
        .where(
          inArray(
            suspects.faultId,
            faultRows.map((f) => f.id),
          ),
        )
        .orderBy(asc(suspects.position))
    : [];
  const planRows = await tx.select().from(plans).where(eq(plans.craftId, craft.id)).orderBy(asc(plans.number));
  const ownSymptoms = await tx.select().from(symptoms);
  const benchRows = await tx.select().from(bench).where(eq(bench.craftId, craft.id)).orderBy(asc(bench.number));
  const labelOf = new Map(versionRows.map((v) => [v.id, v.label]));
  const file: CraftFile = {
    format: FORMAT,
    formatVersion: FORMAT_VERSION,
    craft: { name: craft.name, summary: craft.summary, heldUpBy: craft.heldUpBy },
    versions: versionRows.map(toVersion),
    runs: runRows.map(({ id, craftId: _c, versionId, revision: _r, ...run }) => ({
      ...run,
      version: labelOf.get(versionId) ?? "",
      metrics: metricRows.filter((m) => m.runId === id).map(toMetric),
    })),
    faults: faultRows.map(({ id, craftId: _c, revision: _r, ...fault }) => ({
      ...fault,
      suspects: suspectRows.filter((s) => s.faultId === id).map(({ id: _i, faultId: _f, position: _p, key, ...s }) => ({ ...s, id: key })),
    })),
    plans: planRows.map(({ number, versionId, plan }) => ({ ...plan, number, version: labelOf.get(versionId) ?? "" })),
    symptoms: ownSymptoms.map((s) => s.symptom).filter((s) => faultRows.some((f) => f.symptom === s.id)),
    files: [],
    bench: benchRows.map(({ id: _i, craftId: _c, versionId, revision: _r, ...session }) => ({ ...session, version: labelOf.get(versionId) ?? "" })),
  };
  return {
    slug: craft.slug,
    file,
    revisions: {
      versions: Object.fromEntries(versionRows.map((v) => [v.label, v.revision])),
      runs: Object.fromEntries(runRows.map((r) => [r.number, r.revision])),
      faults: Object.fromEntries(faultRows.map((f) => [f.number, f.revision])),
      bench: Object.fromEntries(benchRows.map((b) => [b.number, b.revision])),
      plans: Object.fromEntries(planRows.map((p) => [p.number, p.revision])),
    },
  };
}
