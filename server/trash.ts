import { getTableName, inArray, desc, eq, sql } from "drizzle-orm";
import type { PgColumn, PgTable } from "drizzle-orm/pg-core";
import type { TrashRecord } from "../api/contracts";
import type { Database } from "./db/open";
import { type TrashKind, bench, crafts, faults, plans, runMetrics, runs, shelf, suspects, symptoms, trash, versions } from "./db/schema";
import { notFound, refused } from "./problems";
import type { Tx } from "./rows";

/** Tables that rows are put back into, parents before children. */
const TABLES: PgTable[] = [crafts, versions, runs, runMetrics, faults, suspects, plans, bench, shelf, symptoms];
/** The number that rows of a table are known by within their craft. */
const NUMBERED: Record<string, { table: PgTable; craftId: PgColumn; number: PgColumn }> = {
  runs: { table: runs, craftId: runs.craftId, number: runs.number },
  faults: { table: faults, craftId: faults.craftId, number: faults.number },
  plans: { table: plans, craftId: plans.craftId, number: plans.number },
  bench: { table: bench, craftId: bench.craftId, number: bench.number },
};
/** How much of what was deleted is kept. */
const KEPT = 200;

export type Gone = { table: PgTable; rows: Record<string, unknown>[] };

/** Remembers rows that are about to be deleted, in the transaction that deletes them. Returns the number by which they can be brought back. */
export async function remember(tx: Tx, kind: TrashKind, name: string, now: string, list: Gone[]): Promise<number> {
  const kept = list.filter((g) => g.rows.length > 0).map((g) => ({ table: getTableName(g.table), rows: g.rows }));
  const [made] = await tx.insert(trash).values({ kind, name, deletedAt: now, rows: kept }).returning({ id: trash.id });
  await tx.delete(trash).where(sql`${trash.id} <= ${(made?.id ?? 0) - KEPT}`);
  return made?.id ?? 0;
}

/** All rows that belong to a craft and go with it. */
export async function rowsOfCraft(tx: Tx, craftId: number): Promise<Gone[]> {
  const runRows = await tx.select().from(runs).where(eq(runs.craftId, craftId));
  const faultRows = await tx.select().from(faults).where(eq(faults.craftId, craftId));
  return [
    { table: crafts, rows: await tx.select().from(crafts).where(eq(crafts.id, craftId)) },
    { table: versions, rows: await tx.select().from(versions).where(eq(versions.craftId, craftId)) },
    { table: runs, rows: runRows },
    { table: runMetrics, rows: await metricsOf(tx, runRows) },
    { table: faults, rows: faultRows },
    { table: suspects, rows: await suspectsOf(tx, faultRows) },
    { table: plans, rows: await tx.select().from(plans).where(eq(plans.craftId, craftId)) },
    { table: bench, rows: await tx.select().from(bench).where(eq(bench.craftId, craftId)) },
  ];
}

export const metricsOf = async (tx: Tx, list: { id: number }[]) =>
  list.length === 0
    ? []
    : tx
        .select()
        .from(runMetrics)
        .where(
          inArray(
            runMetrics.runId,
            list.map((r) => r.id),
          ),
        );
export const suspectsOf = async (tx: Tx, list: { id: number }[]) =>
  list.length === 0
    ? []
    : tx
        .select()
        .from(suspects)
        .where(
          inArray(
            suspects.faultId,
            list.map((f) => f.id),
          ),
        );

/** What was deleted lately, newest first. */
export async function listTrash(db: Database): Promise<TrashRecord[]> {
  return db.select({ id: trash.id, kind: trash.kind, name: trash.name, deletedAt: trash.deletedAt }).from(trash).orderBy(desc(trash.id)).limit(30);
}

/** Brings back what was deleted, in one transaction. A record whose number was given away since gets the next free one. */
export async function restore(db: Database, id: number): Promise<{ kind: string; name: string }> {
  try {
    return await db.transaction(async (tx) => {
      const [held] = await tx.delete(trash).where(eq(trash.id, id)).returning();
      if (!held) throw notFound("This is no longer kept, or it was brought back already.");
      for (const table of TABLES)
        for (const part of held.rows.filter((r) => r.table === getTableName(table)))
          for (const row of part.rows) {
            const numbered = NUMBERED[part.table];
            await tx.insert(table).values(numbered ? { ...row, number: await freeNumber(tx, numbered, Number(row.craftId), Number(row.number)) } : row);
          }
      return { kind: held.kind, name: held.name };
    });
  } catch (error) {
    if (/violates|constraint|duplicate/.test(`${String(error)} ${String((error as { cause?: unknown }).cause)}`))
      throw refused("It cannot be brought back: what it belonged to is gone, or its name was given away since.");
    throw error;
  }
}

async function freeNumber(tx: Tx, { table, craftId, number }: (typeof NUMBERED)[string], craft: number, wanted: number): Promise<number> {
  const taken = new Set((await tx.select({ number }).from(table).where(eq(craftId, craft))).map((r) => Number(r.number)));
  return taken.has(wanted) ? Math.max(...taken) + 1 : wanted;
}
