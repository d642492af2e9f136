import { and, asc, eq, sql } from "drizzle-orm";
import type { NewRun } from "../api/contracts";
import { type Lock, type Run, type RunMetric, isMetricKey } from "../core/design/craftFile";
import type { Design } from "../core/design/schema";
import { evaluate } from "../core/evaluate";
import { judgeGates, ladderOf, locksFor } from "../core/runs/ladder";
import { locksText } from "../core/wording/ladder";
import type { Database } from "./db/open";
import { faults, plans, runMetrics, runs, versions } from "./db/schema";
import { notFound, refused, stale } from "./problems";
import { type Tx, craftRow, designOf, readCraftIn, toMetric, toVersion, versionRow } from "./rows";
import { metricsOf, remember } from "./trash";

/** What the application predicts for a metric of a design, as a run copies it; null for what has no model. */
export function predict(design: Design, metric: string, evaluation = evaluate(design)): RunMetric["predicted"] {
  const quantity = isMetricKey(metric) ? evaluation.metrics[metric] : undefined;
  return quantity ? { value: quantity.value, sd: quantity.sd, evidence: quantity.evidence } : null;
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

export async function insertRun(tx: Tx, craftId: number, versionId: number, run: Run) {
  const { metrics, version: _, ...row } = run;
  const [made] = await tx
    .insert(runs)
    .values({ ...row, craftId, versionId })
    .returning({ id: runs.id });
  if (made) await insertMetrics(tx, made.id, metrics);
}

/** What is on record of a run besides what a client says. */
const withoutAsides = ({ measured: _m, eye: _e, live: _l, ...rest }: NewRun) => rest;

/**
 * Logs runs, all or none: gives each its number, copies the predictions and the gates of its rung in, and freezes its version. A run on a locked rung needs a reason; one that was logged
 * live is kept without, with what stood against it. A run whose key is known already is not logged again: its number is given back.
 */
export async function createRuns(db: Database, slug: string, asked: readonly { version: string; run: NewRun }[], now: string): Promise<number[]> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const numbers: number[] = [];
    // Read once; what is logged here is added as it goes, so that each run is held against those before it.
    const { file } = await readCraftIn(tx, craft);
    for (const { version: label, run } of asked) {
      if (run.key !== null) {
        const [known] = await tx
          .select({ number: runs.number })
          .from(runs)
          .where(and(eq(runs.craftId, craft.id), eq(runs.key, run.key)));
        if (known) {
          numbers.push(known.number);
          continue;
        }
      }
      const row = await versionRow(tx, craft.id, label);
      const version = toVersion(row);
      const evaluation = evaluate(version.design);
      const locks: Lock[] = locksFor(file, version, evaluation.findings, run.stage).slice(0, 40);
      if (locks.length > 0 && run.goneOn === "" && !run.live) throw refused(`Rung ${run.stage} is locked: ${locksText(locks)}. To go on, say why.`);
      const number = Math.max(0, ...file.runs.map((r) => r.number)) + 1;
      const metrics = run.measured.map((m) => ({ ...m, predicted: predict(version.design, m.metric, evaluation) }));
      const gates = judgeGates(ladderOf(version)[run.stage - 1]?.gates ?? [], metrics, run.eye);
      const logged: Run = { ...withoutAsides(run), number, version: label, metrics, gates, locks };
      await insertRun(tx, craft.id, row.id, logged);
      file.runs.push(logged);
      if (row.frozenAt === null)
        await tx
          .update(versions)
          .set({ frozenAt: now, revision: sql`${versions.revision} + 1` })
          .where(eq(versions.id, row.id));
      if (run.plan !== null) await carriedOut(tx, craft.id, run.plan);
      numbers.push(number);
    }
    return numbers;
  });
}

async function carriedOut(tx: Tx, craftId: number, number: number): Promise<void> {
  const where = and(eq(plans.craftId, craftId), eq(plans.number, number));
  const [held] = await tx.select().from(plans).where(where);
  if (!held) throw notFound(`There is no plan ${number}.`);
  await tx
    .update(plans)
    .set({ plan: { ...held.plan, state: "done" }, revision: sql`${plans.revision} + 1` })
    .where(where);
}

/** Logs one run (`createRuns`). */
export async function createRun(db: Database, slug: string, label: string, asked: NewRun, now: string): Promise<number> {
  const [number = 0] = await createRuns(db, slug, [{ version: label, run: asked }], now);
  return number;
}

/** Saves what was measured and noted of a run. Predictions, locks and gates stay as they were copied when it was logged; gates are judged anew. */
export async function saveRun(db: Database, slug: string, number: number, revision: number, asked: NewRun): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const where = and(eq(runs.craftId, craft.id), eq(runs.number, number));
    const [row] = await tx.select().from(runs).where(where);
    if (!row) throw notFound(`There is no run ${number}.`);
    const [versionOf] = await tx.select().from(versions).where(eq(versions.id, row.versionId));
    const before = (await tx.select().from(runMetrics).where(eq(runMetrics.runId, row.id)).orderBy(asc(runMetrics.position))).map(toMetric);
    const metrics = asked.measured.map((m) => {
      const known = before.find((b) => b.metric === m.metric);
      return { ...m, predicted: known ? known.predicted : versionOf ? predict(designOf(versionOf), m.metric) : null };
    });
    const said = { ...Object.fromEntries(row.gates.flatMap((g) => (g.result === "passed" || g.result === "failed" ? [[g.gate.id, g.result]] : []))), ...asked.eye };
    const sameRung = asked.stage === row.stage;
    const rules = sameRung ? row.gates.map((g) => g.gate) : versionOf ? (ladderOf(toVersion(versionOf))[asked.stage - 1]?.gates ?? []) : [];
    const [saved] = await tx
      .update(runs)
      .set({ ...withoutAsides(asked), key: row.key, gates: judgeGates(rules, metrics, sameRung ? said : asked.eye), revision: sql`${runs.revision} + 1` })
      .where(and(where, eq(runs.revision, revision)))
      .returning({ revision: runs.revision });
    if (!saved) throw stale(`Run ${number} was saved elsewhere since it was opened here.`, { current: { revision: row.revision } });
    await tx.delete(runMetrics).where(eq(runMetrics.runId, row.id));
    await insertMetrics(tx, row.id, metrics);
    return saved.revision;
  });
}

/** Deletes a run that no fault refers to. Its version stays frozen: that it was run is not undone. */
export async function deleteRun(db: Database, slug: string, number: number, now: string): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const [row] = await tx
      .select()
      .from(runs)
      .where(and(eq(runs.craftId, craft.id), eq(runs.number, number)));
    if (!row) throw notFound(`There is no run ${number}.`);
    const held = (await tx.select().from(faults).where(eq(faults.craftId, craft.id))).find((f) => f.run === number || f.proofRun === number);
    if (held) throw refused(`Fault F-${String(held.number).padStart(2, "0")} rests on run ${number}: delete that first, or give it another run.`);
    const id = await remember(tx, "run", `run ${number} of ${craft.name}`, now, [
      { table: runs, rows: [row] },
      { table: runMetrics, rows: await metricsOf(tx, [row]) },
    ]);
    await tx.delete(runs).where(eq(runs.id, row.id));
    return id;
  });
}
