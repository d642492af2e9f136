import { and, eq, sql } from "drizzle-orm";
import type { Fault } from "../core/design/craftFile";
import { refusal } from "../core/faults/state";
import type { Database } from "./db/open";
import { faults, runs, suspects } from "./db/schema";
import { notFound, refused, stale } from "./problems";
import { type Tx, craftRow, versionRow } from "./rows";
import { remember, suspectsOf } from "./trash";

async function insertSuspects(tx: Tx, faultId: number, list: Fault["suspects"]) {
  if (list.length === 0) return;
  await tx.insert(suspects).values(list.map(({ id: key, ...s }, position) => ({ ...s, faultId, position, key })));
}

export async function insertFault(tx: Tx, craftId: number, fault: Fault) {
  const { suspects: list, ...row } = fault;
  const [made] = await tx
    .insert(faults)
    .values({ ...row, craftId })
    .returning({ id: faults.id });
  if (made) await insertSuspects(tx, made.id, list);
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

export async function deleteFault(db: Database, slug: string, number: number, now: string): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const [row] = await tx
      .select()
      .from(faults)
      .where(and(eq(faults.craftId, craft.id), eq(faults.number, number)));
    if (!row) throw notFound(`There is no fault F-${number}.`);
    const id = await remember(tx, "fault", `F-${String(number).padStart(2, "0")} of ${craft.name}`, now, [
      { table: faults, rows: [row] },
      { table: suspects, rows: await suspectsOf(tx, [row]) },
    ]);
    await tx.delete(faults).where(eq(faults.id, row.id));
    return id;
  });
}
