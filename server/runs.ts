import { and, asc, eq, inArray, sql } from "drizzle-orm";
import type { NewRun } from "../api/contracts";
import { type Lock, type Run, type RunMetric, type Version, isMetricKey, runSchema } from "../core/design/craftFile";
import { inState } from "../core/design/inState";
import { mend } from "../core/design/mend";
import { judgeGates, ladderOf, locksFor } from "../core/runs/ladder";
import { locksText } from "../core/wording/ladder";
import type { Database } from "./db/open";
import { plans, runMetrics, runs, versions } from "./db/schema";
import { dangersIn, faultOfDanger } from "../core/runs/dangers";
import { idsOf, insertFault } from "./faults";
import type { Evaluator } from "./evaluator";
import type { Judged } from "./evaluator/judged";
import { notFound, refused, stale } from "./problems";
import type { Records } from "./records";
import { deleteRow } from "./references";
import {
  craftRow,
  designOf,
  lockCraft,
  nextNumber,
  parentLabel,
  runRow,
  toMetric,
  toVersion,
  versionRow,
  saveRow,
} from "./rows";
import { type Tx, reading } from "./db/transaction";

/**
 * What the application predicts for a metric, as a run copies it; null for what has no model, and where nothing could
 * be predicted.
 */
export const predicted = (metric: string, judged: Judged | null): RunMetric["predicted"] =>
  judged && isMetricKey(metric) ? (judged.metrics[metric] ?? null) : null;

/** The lock of a design that could not be judged in time: not known is not clear. */
const NOT_JUDGED: Lock = { kind: "verdict", code: "not judged in time", subject: "" };

export async function insertMetrics(tx: Tx, runId: number, metrics: RunMetric[]) {
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

export async function insertRun(
  tx: Tx,
  craftId: number,
  versionId: number,
  run: Run,
  planIds: ReadonlyMap<number, number>,
) {
  const { metrics, version: _, plan, ...row } = run;
  const [made] = await tx
    .insert(runs)
    .values({ ...row, planId: plan === null ? null : (planIds.get(plan) ?? null), craftId, versionId })
    .returning({ id: runs.id });
  if (made) await insertMetrics(tx, made.id, metrics);
}

/** What is on record of a run besides what a client says. */
const withoutAsides = ({ measured: _m, eye: _e, live: _l, ...rest }: NewRun) => rest;

/** A version in the state that a run is about. */
interface About {
  version: string;
  /** none said: the first */
  state: string | undefined;
}
const aboutKey = ({ version, state }: About) => `${version} ${state ?? ""}`;

/** The state that a run is about: the first where none is said. One that its version does not have is refused. */
function stateIn(version: Pick<Version, "label" | "design">, state: string | undefined): string {
  if (state === undefined || version.design.states.some((s) => s.id === state))
    return state ?? version.design.states[0]?.id ?? "";
  const names = version.design.states.map((s) => `${s.id} (${s.name})`).join(", ");
  throw refused(`${version.label} has no state ${state}. Its states are: ${names}.`);
}

/**
 * Versions by label and state as they are now, each judged outside of any transaction: an evaluation may take its
 * time, and stops nobody.
 */
async function judgeVersions(
  db: Database,
  evaluator: Evaluator,
  slug: string,
  about: readonly About[],
): Promise<Map<string, { revision: number; judged: Judged | null }>> {
  const rows = await db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    return tx
      .select()
      .from(versions)
      .where(and(eq(versions.craftId, craft.id), inArray(versions.label, [...new Set(about.map((a) => a.version))])));
  }, reading);
  const out = new Map<string, { revision: number; judged: Judged | null }>();
  for (const row of rows) {
    const design = designOf(row);
    for (const state of new Set(about.flatMap((a) => (a.version === row.label ? [a.state] : []))))
      out.set(aboutKey({ version: row.label, state }), {
        revision: row.revision,
        judged: await evaluator.judge(inState(design, state)),
      });
  }
  return out;
}

/** How often a design that changes meanwhile is judged anew before the run is logged without a prediction. */
const TRIES = 3;

/**
 * Logs runs, all or none: gives each its number, copies the predictions and the gates of its rung in, and freezes its
 * version. A run on a locked rung needs a reason; one that was logged
 * live is kept without, with what stood against it. A run whose key is known already is not logged again: its number
 * is given back.
 */
export async function createRuns(
  db: Database,
  records: Records,
  evaluator: Evaluator,
  slug: string,
  asked: readonly { version: string; run: NewRun }[],
  now: string,
): Promise<number[]> {
  for (let attempt = 1; ; attempt++) {
    const about = asked.map((a) => ({ version: a.version, state: a.run.state }));
    const judged = await judgeVersions(db, evaluator, slug, about);
    const numbers = await db.transaction(async (tx): Promise<number[] | null> => {
      const craft = await lockCraft(tx, slug);
      const numbers: number[] = [];
      // Read once; what is logged here is added as it goes, so that each run is held against those before it.
      const { file } = await records.before(tx, craft);
      const planIds = new Map(
        (await tx.select({ id: plans.id, number: plans.number }).from(plans).where(eq(plans.craftId, craft.id))).map(
          (p) => [p.number, p.id],
        ),
      );
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
        const held = judged.get(aboutKey({ version: label, state: run.state }));
        // The design was saved while it was judged: it froze with these runs already, or it is judged anew.
        if ((!held || held.revision !== row.revision) && row.frozenAt === null && attempt < TRIES) return null;
        const judgement = held?.judged ?? null;
        const whole = toVersion(row, await parentLabel(tx, row));
        const state = stateIn(whole, run.state);
        const version = { ...whole, design: inState(whole.design, state) };
        const locks: Lock[] = [
          ...(judgement || run.stage <= 1 ? [] : [NOT_JUDGED]),
          ...locksFor(file, version, judgement?.findings ?? [], run.stage),
        ].slice(0, 40);
        if (locks.length > 0 && run.goneOn === "" && !run.live)
          throw refused(`Rung ${run.stage} is locked: ${locksText(locks)}. To go on, say why.`);
        if (run.plan !== null && !planIds.has(run.plan)) throw notFound(`There is no plan ${run.plan}.`);
        const number = await nextNumber(tx, craft.id, "run");
        const metrics = run.measured.map((m) => ({ ...m, predicted: predicted(m.metric, judgement) }));
        const gates = judgeGates(ladderOf(version)[run.stage - 1]?.gates ?? [], metrics, run.eye);
        const logged: Run = { ...withoutAsides(run), state, number, version: label, metrics, gates, locks };
        await insertRun(tx, craft.id, row.id, logged, planIds);
        file.runs.push(logged);
        for (const seen of dangersIn(logged)) {
          const fault = { ...faultOfDanger(number, seen), number: await nextNumber(tx, craft.id, "fault") };
          await insertFault(tx, craft.id, fault, await idsOf(tx, craft.id));
          file.faults.push(fault);
        }
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
    if (numbers) return numbers;
  }
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
export async function createRun(
  db: Database,
  records: Records,
  evaluator: Evaluator,
  slug: string,
  label: string,
  asked: NewRun,
  now: string,
): Promise<number> {
  const [number = 0] = await createRuns(db, records, evaluator, slug, [{ version: label, run: asked }], now);
  return number;
}

/**
 * Saves what was measured and noted of a run. Predictions, locks and gates stay as they were copied when it was
 * logged; gates are judged anew.
 */
export async function saveRun(
  db: Database,
  evaluator: Evaluator,
  slug: string,
  number: number,
  revision: number,
  asked: NewRun,
): Promise<number> {
  const held = await db.transaction(async (tx) => {
    const row = await runRow(tx, (await craftRow(tx, slug)).id, number);
    const [version] = await tx.select({ label: versions.label }).from(versions).where(eq(versions.id, row.versionId));
    return { version: version?.label ?? "", state: row.state };
  }, reading);
  const about = { ...held, state: asked.state ?? held.state };
  const judged = (await judgeVersions(db, evaluator, slug, [about])).get(aboutKey(about))?.judged ?? null;
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const where = and(eq(runs.craftId, craft.id), eq(runs.number, number));
    const row = await runRow(tx, craft.id, number);
    const [versionOf] = await tx.select().from(versions).where(eq(versions.id, row.versionId));
    const before = (
      await tx.select().from(runMetrics).where(eq(runMetrics.runId, row.id)).orderBy(asc(runMetrics.position))
    ).map(toMetric);
    const metrics = asked.measured.map((m) => {
      const known = before.find((b) => b.metric === m.metric);
      return {
        ...m,
        predicted: known && row.state === (asked.state ?? row.state) ? known.predicted : predicted(m.metric, judged),
      };
    });
    const said = {
      ...Object.fromEntries(
        row.gates.flatMap((g) => (g.result === "passed" || g.result === "failed" ? [[g.gate.id, g.result]] : [])),
      ),
      ...asked.eye,
    };
    const whole = versionOf && toVersion(versionOf, await parentLabel(tx, versionOf));
    const state = asked.state ?? row.state;
    if (whole) stateIn(whole, state);
    const sameRung = asked.stage === row.stage && state === row.state;
    const ladder = sameRung || !whole ? [] : ladderOf({ ...whole, design: inState(whole.design, state) });
    const rules = sameRung ? row.gates.map((g) => g.gate) : (ladder[asked.stage - 1]?.gates ?? []);
    const { plan, ...fields } = withoutAsides(asked);
    const planId = plan === null ? null : await planIdOf(tx, craft.id, plan);
    const saved = await saveRow(tx, runs, where, revision, {
      ...fields,
      state,
      planId,
      key: row.key,
      gates: judgeGates(rules, metrics, sameRung ? said : asked.eye),
    });
    if (saved === null) {
      const { craftId: _c, versionId: _v, planId: plannedAs, ...fieldsHeld } = row;
      const held = mend(runSchema, {
        ...fieldsHeld,
        version: versionOf?.label ?? "",
        plan: await planNumber(tx, plannedAs),
        metrics: before,
      });
      throw stale(`Run ${number} was saved elsewhere since it was opened here.`, {
        current: { revision: row.revision, run: held?.value ?? null },
      });
    }
    await tx.delete(runMetrics).where(eq(runMetrics.runId, row.id));
    await insertMetrics(tx, row.id, metrics);
    return saved;
  });
}

async function planIdOf(tx: Tx, craftId: number, number: number): Promise<number> {
  const [held] = await tx
    .select({ id: plans.id })
    .from(plans)
    .where(and(eq(plans.craftId, craftId), eq(plans.number, number)));
  if (!held) throw notFound(`There is no plan ${number}.`);
  return held.id;
}

async function planNumber(tx: Tx, id: number | null): Promise<number | null> {
  if (id === null) return null;
  const [held] = await tx.select({ number: plans.number }).from(plans).where(eq(plans.id, id));
  return held?.number ?? null;
}

/** Deletes a run that nothing rests on. Its version stays frozen: that it was run is not undone. */
export async function deleteRun(db: Database, slug: string, number: number, now: string): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const row = await runRow(tx, craft.id, number);
    return deleteRow(tx, runs, row, {
      kind: "run",
      name: `run ${number} of ${craft.name}`,
      called: `run ${number}`,
      now,
    });
  });
}
