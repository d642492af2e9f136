import { and, eq, sql } from "drizzle-orm";
import type { Broken } from "../api/contracts";
import type { Database } from "./db/open";
import { bench, crafts, faults, plans, runMetrics, runs, suspects, versions } from "./db/schema";
import { insertSuspects } from "./faults";
import { notFound, refused, stale } from "./problems";
import { deleteRow } from "./references";
import { lockCraft, readCraftIn } from "./rows";
import type { Tx } from "./db/transaction";
import { insertMetrics } from "./runs";

/**
 * Keeps a broken record as it is read: without what cannot be in it. A frozen version is mended too, since what is
 * taken out was nothing that could have been run. A record of which nothing can be
 * read is put among what was deleted lately.
 */
export async function mendRecord(
  db: Database,
  slug: string,
  asked: Pick<Broken, "kind" | "name"> & { revision: number },
): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    await tx.update(crafts).set({ checked: "" }).where(eq(crafts.id, craft.id));
    const { file, broken } = await readCraftIn(tx, { ...craft, checked: "" });
    const found = broken.find((b) => b.kind === asked.kind && b.name === asked.name);
    if (!found) throw notFound("There is nothing to mend in it any more.");
    const number = Number(asked.name);
    const next = <T extends { revision: unknown }>(table: T) => sql`${table.revision} + 1`;
    if (found.lost) return takeOut(tx, craft.id, craft.name, found);
    let saved: { revision: number } | undefined;
    if (asked.kind === "version") {
      const version = file.versions.find((v) => v.label === asked.name);
      if (!version) throw notFound("The version is gone.");
      const { label: _l, parent: _p, createdAt: _c, frozenAt: _f, ...rest } = version;
      [saved] = await tx
        .update(versions)
        .set({ ...rest, revision: next(versions) })
        .where(
          and(eq(versions.craftId, craft.id), eq(versions.label, asked.name), eq(versions.revision, asked.revision)),
        )
        .returning({ revision: versions.revision });
    } else if (asked.kind === "run") {
      const run = file.runs.find((r) => r.number === number);
      if (!run) throw notFound("The run is gone.");
      const { number: _n, version: _v, plan: _p, metrics, key: _k, ...rest } = run;
      const [row] = await tx
        .update(runs)
        .set({ ...rest, revision: next(runs) })
        .where(and(eq(runs.craftId, craft.id), eq(runs.number, number), eq(runs.revision, asked.revision)))
        .returning({ id: runs.id, revision: runs.revision });
      saved = row;
      if (row) {
        await tx.delete(runMetrics).where(eq(runMetrics.runId, row.id));
        await insertMetrics(tx, row.id, metrics);
      }
    } else if (asked.kind === "fault") {
      const fault = file.faults.find((f) => f.number === number);
      if (!fault) throw notFound("The fault is gone.");
      const { number: _n, run: _r, fixVersion: _f, proofRun: _p, suspects: list, ...rest } = fault;
      const [row] = await tx
        .update(faults)
        .set({ ...rest, revision: next(faults) })
        .where(and(eq(faults.craftId, craft.id), eq(faults.number, number), eq(faults.revision, asked.revision)))
        .returning({ id: faults.id, revision: faults.revision });
      saved = row;
      if (row) {
        await tx.delete(suspects).where(eq(suspects.faultId, row.id));
        await insertSuspects(tx, row.id, list);
      }
    } else if (asked.kind === "plan") {
      const plan = file.plans.find((p) => p.number === number);
      if (!plan) throw notFound("The plan is gone.");
      const { number: _n, version: _v, ...rest } = plan;
      [saved] = await tx
        .update(plans)
        .set({ plan: rest, revision: next(plans) })
        .where(and(eq(plans.craftId, craft.id), eq(plans.number, number), eq(plans.revision, asked.revision)))
        .returning({ revision: plans.revision });
    } else {
      const session = file.bench.find((b) => b.number === number);
      if (!session) throw notFound("The session is gone.");
      const { number: _n, version: _v, ...rest } = session;
      [saved] = await tx
        .update(bench)
        .set({ ...rest, revision: next(bench) })
        .where(and(eq(bench.craftId, craft.id), eq(bench.number, number), eq(bench.revision, asked.revision)))
        .returning({ revision: bench.revision });
    }
    if (!saved) throw stale("It was saved elsewhere since it was opened here.");
    return saved.revision;
  });
}

async function takeOut(tx: Tx, craftId: number, craftName: string, { kind, name }: Broken): Promise<number> {
  if (kind === "version")
    throw refused(
      `Nothing of ${name} can be read: restore a copy of the workshop from before, or delete it when ` +
        "nothing rests on it.",
    );
  const table = { run: runs, fault: faults, plan: plans, "bench session": bench }[kind];
  const [row] = await tx
    .select()
    .from(table)
    .where(and(eq(table.craftId, craftId), eq(table.number, Number(name))));
  if (!row) throw notFound("It is gone.");
  await deleteRow(tx, table, row, {
    kind,
    name: `${kind} ${name} of ${craftName} (unreadable)`,
    called: `${kind} ${name}`,
    now: new Date().toISOString(),
  });
  return 0;
}
