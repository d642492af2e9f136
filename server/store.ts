import { and, asc, eq, inArray, sql } from "drizzle-orm";
import type { CraftRecord, CraftSummary, NewRun, NewVersion } from "../api/contracts";
import { type Craft, type CraftFile, FORMAT, FORMAT_VERSION, type Fault, type Run, type RunMetric, type Version, isMetricKey } from "../core/design/craftFile";
import { type Design, designSchema } from "../core/design/schema";
import { evaluate } from "../core/evaluate";
import { refusal } from "../core/faults/state";
import { childLabel } from "../core/lineage/labels";
import type { Database } from "./db/open";
import { takeFiles } from "./files";
import { bench, crafts, faults, runMetrics, runs, suspects, versions } from "./db/schema";
import { frozen, notFound, refused, stale } from "./problems";

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

const toVersion = (v: VersionRow): Version => ({
  label: v.label,
  parent: v.parent,
  question: v.question,
  finding: v.finding,
  reason: v.reason,
  claims: v.claims,
  createdAt: v.createdAt,
  frozenAt: v.frozenAt,
  design: designOf(v),
});

const toMetric = (m: typeof runMetrics.$inferSelect): RunMetric => ({
  metric: m.metric,
  dimension: m.dimension,
  predicted: m.predictedValue === null ? null : { value: m.predictedValue, sd: m.predictedSd ?? 0, evidence: m.predictedEvidence ?? "calculated" },
  measured: m.measuredValue === null ? null : { value: m.measuredValue, sd: m.measuredSd ?? 0, by: m.measuredBy ?? "" },
});

/** One craft with everything recorded about it, and the revisions of its documents. */
export async function readCraft(db: Database, slug: string): Promise<CraftRecord> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
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
        suspects: suspectRows
          .filter((s) => s.faultId === id)
          .map((s) => ({ id: s.key, cause: s.cause, for: s.for, against: s.against, test: s.test, minutes: s.minutes, result: s.result, state: s.state })),
      })),
      files: [],
      bench: benchRows.map(({ id: _i, craftId: _c, versionId, revision: _r, ...session }) => ({ ...session, version: labelOf.get(versionId) ?? "" })),
    };
    return {
      slug,
      file,
      revisions: {
        versions: Object.fromEntries(versionRows.map((v) => [v.label, v.revision])),
        runs: Object.fromEntries(runRows.map((r) => [r.number, r.revision])),
        faults: Object.fromEntries(faultRows.map((f) => [f.number, f.revision])),
        bench: Object.fromEntries(benchRows.map((b) => [b.number, b.revision])),
      },
    };
  });
}

/** All crafts as the workshop shows them. */
export async function listCrafts(db: Database): Promise<CraftSummary[]> {
  const rows = await db.select({ slug: crafts.slug }).from(crafts).orderBy(asc(crafts.id));
  const out: CraftSummary[] = [];
  for (const { slug } of rows) {
    const { file } = await readCraft(db, slug);
    const newest = file.versions.at(-1);
    if (!newest) continue;
    out.push({
      slug,
      craft: file.craft,
      newest,
      versions: file.versions.map((v) => {
        const own = file.runs.filter((r) => r.version === v.label);
        return {
          label: v.label,
          parent: v.parent,
          frozen: v.frozenAt !== null,
          reached: Math.max(0, ...own.filter((r) => r.outcome === "passed").map((r) => r.stage)),
          failed: own.filter((r) => r.outcome === "failed").reduce<number | null>((m, r) => Math.max(m ?? 0, r.stage), null),
        };
      }),
      openFaults: file.faults.filter((f) => f.state === "open" || f.state === "closed").length,
      runs: file.runs.length,
    });
  }
  return out;
}

/** A slug that no craft has yet, from a name: letters and digits, else “craft”. */
async function freeSlug(tx: Tx, name: string): Promise<string> {
  const stem =
    name
      .normalize("NFKD")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .slice(0, 60) || "craft";
  const taken = new Set((await tx.select({ slug: crafts.slug }).from(crafts)).map((r) => r.slug));
  if (!taken.has(stem)) return stem;
  let n = 2;
  while (taken.has(`${stem}-${n}`)) n++;
  return `${stem}-${n}`;
}

async function insertMetrics(tx: Tx, runId: number, metrics: RunMetric[]) {
  if (metrics.length === 0) return;
  await tx.insert(runMetrics).values(
    metrics.map((m, position) => ({
      runId,
      position,
      metric: m.metric,
      dimension: m.dimension,
      predictedValue: m.predicted?.value ?? null,
      predictedSd: m.predicted?.sd ?? null,
      predictedEvidence: m.predicted?.evidence ?? null,
      measuredValue: m.measured?.value ?? null,
      measuredSd: m.measured?.sd ?? null,
      measuredBy: m.measured?.by ?? null,
    })),
  );
}

async function insertSuspects(tx: Tx, faultId: number, list: Fault["suspects"]) {
  if (list.length === 0) return;
  await tx.insert(suspects).values(list.map(({ id: key, ...s }, position) => ({ ...s, faultId, position, key })));
}

async function insertFault(tx: Tx, craftId: number, fault: Fault) {
  const { suspects: list, ...row } = fault;
  const [made] = await tx
    .insert(faults)
    .values({ ...row, craftId })
    .returning({ id: faults.id });
  if (made) await insertSuspects(tx, made.id, list);
}

async function insertRun(tx: Tx, craftId: number, versionId: number, run: Run) {
  const { metrics, version: _, ...row } = run;
  const [made] = await tx
    .insert(runs)
    .values({ ...row, craftId, versionId })
    .returning({ id: runs.id });
  if (made) await insertMetrics(tx, made.id, metrics);
}

/** Stores a whole craft file as a new craft, in one transaction. Its slug comes from its name. */
export async function importCraft(db: Database, file: CraftFile): Promise<string> {
  return db.transaction(async (tx) => {
    const slug = await freeSlug(tx, file.craft.name);
    const [craft] = await tx
      .insert(crafts)
      .values({ ...file.craft, slug })
      .returning({ id: crafts.id });
    if (!craft) throw new Error("craft was not inserted");
    const idOf = new Map<string, number>();
    for (const version of file.versions) {
      const [row] = await tx
        .insert(versions)
        .values({ ...version, craftId: craft.id })
        .returning({ id: versions.id });
      if (row) idOf.set(version.label, row.id);
    }
    for (const run of file.runs) await insertRun(tx, craft.id, idOf.get(run.version) ?? 0, run);
    for (const fault of file.faults) await insertFault(tx, craft.id, fault);
    await takeFiles(tx, file.files);
    for (const { version, ...session } of file.bench) await tx.insert(bench).values({ ...session, craftId: craft.id, versionId: idOf.get(version) ?? 0 });
    return slug;
  });
}

export async function createCraft(db: Database, craft: Craft, design: Design, question: string, now: string): Promise<string> {
  return importCraft(db, {
    format: FORMAT,
    formatVersion: FORMAT_VERSION,
    craft,
    versions: [{ label: "v1", parent: null, question, finding: "", reason: "", claims: [], createdAt: now, frozenAt: null, design }],
    runs: [],
    faults: [],
    bench: [],
    files: [],
  });
}

export async function deleteCraft(db: Database, slug: string): Promise<void> {
  const gone = await db.delete(crafts).where(eq(crafts.slug, slug)).returning({ id: crafts.id });
  if (gone.length === 0) throw notFound(`There is no craft “${slug}”.`);
}

/** Opens a child of a version. */
export async function createVersion(db: Database, slug: string, asked: NewVersion, now: string): Promise<{ label: string; revision: number }> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const parent = await versionRow(tx, craft.id, asked.parent);
    const taken = (await tx.select({ label: versions.label }).from(versions).where(eq(versions.craftId, craft.id))).map((v) => v.label);
    const label = asked.label ?? childLabel(parent.label, taken);
    if (taken.includes(label)) throw refused(`There is a version ${label} already.`);
    await tx.insert(versions).values({
      craftId: craft.id,
      label,
      parent: parent.label,
      question: asked.question,
      finding: "",
      reason: asked.reason,
      claims: asked.claims,
      createdAt: now,
      frozenAt: null,
      design: asked.design ?? designOf(parent),
    });
    return { label, revision: 0 };
  });
}

/** Saves a draft's design if nobody saved it since `revision`; refuses on a frozen version. */
export async function saveDesign(db: Database, slug: string, label: string, revision: number, design: Design): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    // One conditional statement decides: of two saves with one revision only the first finds its row.
    const [saved] = await tx
      .update(versions)
      .set({ design, revision: sql`${versions.revision} + 1` })
      .where(and(eq(versions.craftId, craft.id), eq(versions.label, label), eq(versions.revision, revision), sql`${versions.frozenAt} is null`))
      .returning({ revision: versions.revision });
    if (saved) return saved.revision;
    const row = await versionRow(tx, craft.id, label);
    if (row.frozenAt !== null) throw frozen(`${label} froze at its first run; its design may not change. Open a child version and change that.`);
    throw stale(`${label} was saved elsewhere since it was opened here (revision ${row.revision}, yours ${revision}).`, {
      current: { revision: row.revision, design: row.design },
    });
  });
}

export async function saveVersion(
  db: Database,
  slug: string,
  label: string,
  revision: number,
  words: Pick<Version, "question" | "finding" | "reason" | "claims">,
): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const [saved] = await tx
      .update(versions)
      .set({ ...words, revision: sql`${versions.revision} + 1` })
      .where(and(eq(versions.craftId, craft.id), eq(versions.label, label), eq(versions.revision, revision)))
      .returning({ revision: versions.revision });
    if (saved) return saved.revision;
    const row = await versionRow(tx, craft.id, label);
    throw stale(`${label} was saved elsewhere since it was opened here.`, { current: { revision: row.revision, version: toVersion(row) } });
  });
}

/** Deletes a draft that nothing grew from. */
export async function deleteVersion(db: Database, slug: string, label: string): Promise<void> {
  await db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const row = await versionRow(tx, craft.id, label);
    if (row.frozenAt !== null) throw frozen(`${label} has runs: it stays in the record.`);
    const all = await tx.select({ label: versions.label, parent: versions.parent }).from(versions).where(eq(versions.craftId, craft.id));
    if (all.length === 1) throw refused("A craft keeps at least one version.");
    const child = all.find((v) => v.parent === label);
    if (child) throw refused(`${child.label} grew from ${label}.`);
    await tx.delete(versions).where(eq(versions.id, row.id));
  });
}

/** What the application predicts for a metric of a design, as a run copies it; null for what has no model. */
export function predict(design: Design, metric: string, evaluation = evaluate(design)): RunMetric["predicted"] {
  const quantity = isMetricKey(metric) ? evaluation.metrics[metric] : undefined;
  return quantity ? { value: quantity.value, sd: quantity.sd, evidence: quantity.evidence } : null;
}

/** Logs runs, all or none: gives each its number, copies the predictions in, and freezes its version. */
export async function createRuns(db: Database, slug: string, asked: readonly { version: string; run: NewRun }[], now: string): Promise<number[]> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const numbers: number[] = [];
    for (const { version: label, run } of asked) {
      const version = await versionRow(tx, craft.id, label);
      const [last] = await tx
        .select({ number: sql<number>`coalesce(max(${runs.number}), 0)`.mapWith(Number) })
        .from(runs)
        .where(eq(runs.craftId, craft.id));
      const number = (last?.number ?? 0) + 1;
      const design = designOf(version);
      const evaluation = evaluate(design);
      const { measured, ...rest } = run;
      const metrics = measured.map((m) => ({ ...m, predicted: predict(design, m.metric, evaluation) }));
      await insertRun(tx, craft.id, version.id, { ...rest, number, version: label, metrics });
      if (version.frozenAt === null)
        await tx
          .update(versions)
          .set({ frozenAt: now, revision: sql`${versions.revision} + 1` })
          .where(eq(versions.id, version.id));
      numbers.push(number);
    }
    return numbers;
  });
}

/** Logs one run (`createRuns`). */
export async function createRun(db: Database, slug: string, label: string, asked: NewRun, now: string): Promise<number> {
  const [number = 0] = await createRuns(db, slug, [{ version: label, run: asked }], now);
  return number;
}

/** Saves what was measured and noted of a run. Predictions stay as they were copied when it was logged. */
export async function saveRun(db: Database, slug: string, number: number, revision: number, asked: NewRun): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const { measured, ...rest } = asked;
    const where = and(eq(runs.craftId, craft.id), eq(runs.number, number));
    const [row] = await tx.select().from(runs).where(where);
    if (!row) throw notFound(`There is no run ${number}.`);
    const [saved] = await tx
      .update(runs)
      .set({ ...rest, revision: sql`${runs.revision} + 1` })
      .where(and(where, eq(runs.revision, revision)))
      .returning({ revision: runs.revision });
    if (!saved) throw stale(`Run ${number} was saved elsewhere since it was opened here.`, { current: { revision: row.revision } });
    const before = (await tx.select().from(runMetrics).where(eq(runMetrics.runId, row.id))).map(toMetric);
    const [version] = await tx.select({ design: versions.design }).from(versions).where(eq(versions.id, row.versionId));
    await tx.delete(runMetrics).where(eq(runMetrics.runId, row.id));
    await insertMetrics(
      tx,
      row.id,
      measured.map((m) => {
        const known = before.find((b) => b.metric === m.metric);
        return { ...m, predicted: known ? known.predicted : version ? predict(designOf(version), m.metric) : null };
      }),
    );
    return saved.revision;
  });
}

async function checkFault(tx: Tx, craftId: number, fault: Omit<Fault, "number">): Promise<void> {
  const own = await tx.select({ number: runs.number, date: runs.date }).from(runs).where(eq(runs.craftId, craftId));
  if (!own.some((r) => r.number === fault.run)) throw refused(`There is no run ${fault.run}: a fault belongs to the run in which it was seen.`);
  const why = refusal(fault, own);
  if (why) throw refused(why);
  if (fault.fixVersion !== null) await versionRow(tx, craftId, fault.fixVersion);
}

export async function createFault(db: Database, slug: string, fault: Omit<Fault, "number">): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    await checkFault(tx, craft.id, fault);
    const [last] = await tx
      .select({ number: sql<number>`coalesce(max(${faults.number}), 0)`.mapWith(Number) })
      .from(faults)
      .where(eq(faults.craftId, craft.id));
    const number = (last?.number ?? 0) + 1;
    await insertFault(tx, craft.id, { ...fault, number });
    return number;
  });
}

export async function saveFault(db: Database, slug: string, number: number, revision: number, fault: Omit<Fault, "number">): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    await checkFault(tx, craft.id, fault);
    const { suspects: list, ...row } = fault;
    const where = and(eq(faults.craftId, craft.id), eq(faults.number, number));
    const [saved] = await tx
      .update(faults)
      .set({ ...row, revision: sql`${faults.revision} + 1` })
      .where(and(where, eq(faults.revision, revision)))
      .returning({ id: faults.id, revision: faults.revision });
    if (!saved) {
      const [held] = await tx.select({ revision: faults.revision }).from(faults).where(where);
      if (!held) throw notFound(`There is no fault F-${number}.`);
      throw stale(`Fault F-${number} was saved elsewhere since it was opened here.`, { current: held });
    }
    await tx.delete(suspects).where(eq(suspects.faultId, saved.id));
    await insertSuspects(tx, saved.id, list);
    return saved.revision;
  });
}
