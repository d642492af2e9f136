import type { FaultEntry } from "../api/contracts";
import { blamesByWords } from "../core/design/byWords";
import { and, asc, eq } from "drizzle-orm";
import { type Fault, faultSchema } from "../core/design/craftFile";
import { mend } from "../core/design/mend";
import { refusal } from "../core/faults/state";
import type { Database } from "./db/open";
import { faults, runs, suspects, versions } from "./db/schema";
import { notFound, refused, stale } from "./problems";
import { deleteRow } from "./references";
import { lockCraft, nextNumber, versionRow, saveRow } from "./rows";
import type { Tx } from "./db/transaction";

export async function insertSuspects(tx: Tx, faultId: number, list: Fault["suspects"]) {
  if (list.length === 0) return;
  await tx.insert(suspects).values(list.map(({ id: key, ...s }, position) => ({ ...s, faultId, position, key })));
}

/** Ids of the runs and versions that a fault may name, by number and label. */
export interface Ids {
  run: ReadonlyMap<number, number>;
  version: ReadonlyMap<string, number>;
}

/** The runs and versions of a craft, by number and label. */
export async function idsOf(tx: Tx, craftId: number): Promise<Ids> {
  const own = await tx.select({ id: runs.id, number: runs.number }).from(runs).where(eq(runs.craftId, craftId));
  const labels = await tx
    .select({ id: versions.id, label: versions.label })
    .from(versions)
    .where(eq(versions.craftId, craftId));
  return { run: new Map(own.map((r) => [r.number, r.id])), version: new Map(labels.map((v) => [v.label, v.id])) };
}

/** A fault with what it names as ids. */
function referring<F extends Pick<Fault, "run" | "proofRun" | "fixVersion">>(
  { run, proofRun, fixVersion, ...rest }: F,
  ids: Ids,
) {
  const of = <K>(map: ReadonlyMap<K, number>, key: K | null) => (key === null ? null : (map.get(key) ?? null));
  return {
    ...rest,
    runId: of(ids.run, run),
    proofRunId: of(ids.run, proofRun),
    fixVersionId: of(ids.version, fixVersion),
  };
}

export async function insertFault(tx: Tx, craftId: number, fault: Fault, ids: Ids) {
  const { suspects: list, ...row } = fault;
  const [made] = await tx
    .insert(faults)
    .values({ ...referring(row, ids), craftId })
    .returning({ id: faults.id });
  if (made) await insertSuspects(tx, made.id, list);
}

async function checkFault(tx: Tx, craftId: number, fault: Omit<Fault, "number">): Promise<void> {
  const own = await tx.select({ number: runs.number, date: runs.date }).from(runs).where(eq(runs.craftId, craftId));
  if (!own.some((r) => r.number === fault.run))
    throw refused(`There is no run ${fault.run}: a fault belongs to the run in which it was seen.`);
  const why = refusal(fault, own);
  if (why) throw refused(why);
  if (fault.fixVersion !== null) await versionRow(tx, craftId, fault.fixVersion);
}

/** A fault as it was entered; who is blamed, where nobody said so, as the words of its cause propose. */
const entered = (given: FaultEntry): Omit<Fault, "number"> => ({
  ...given,
  pilotBlamed: given.pilotBlamed ?? blamesByWords(given.cause),
});

export async function createFault(db: Database, slug: string, given: FaultEntry): Promise<number> {
  const fault = entered(given);
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    await checkFault(tx, craft.id, fault);
    const number = await nextNumber(tx, craft.id, "fault");
    await insertFault(tx, craft.id, { ...fault, number }, await idsOf(tx, craft.id));
    return number;
  });
}

/** A fault as the server holds it: what a stale save is shown. */
async function heldFault(
  tx: Tx,
  craftId: number,
  number: number,
): Promise<{ revision: number; fault: Omit<Fault, "number"> } | null> {
  const [row] = await tx
    .select()
    .from(faults)
    .where(and(eq(faults.craftId, craftId), eq(faults.number, number)));
  if (!row) return null;
  const ids = await idsOf(tx, craftId);
  const named = <K>(map: ReadonlyMap<K, number>, id: number | null) => [...map].find(([, v]) => v === id)?.[0] ?? null;
  const list = await tx.select().from(suspects).where(eq(suspects.faultId, row.id)).orderBy(asc(suspects.position));
  const fault = mend(faultSchema, {
    ...row,
    run: named(ids.run, row.runId),
    proofRun: named(ids.run, row.proofRunId),
    fixVersion: named(ids.version, row.fixVersionId),
    suspects: list.map((s) => ({ ...s, id: s.key })),
  });
  return fault && { revision: row.revision, fault: fault.value };
}

export async function saveFault(
  db: Database,
  slug: string,
  number: number,
  revision: number,
  given: FaultEntry,
): Promise<number> {
  const fault = entered(given);
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    await checkFault(tx, craft.id, fault);
    const { suspects: list, ...row } = fault;
    const where = and(eq(faults.craftId, craft.id), eq(faults.number, number));
    const [kept] = await tx.select({ id: faults.id }).from(faults).where(where);
    const saved = await saveRow(tx, faults, where, revision, referring(row, await idsOf(tx, craft.id)));
    if (!kept || saved === null) {
      const held = await heldFault(tx, craft.id, number);
      if (!held) throw notFound(`There is no fault F-${number}.`);
      throw stale(`Fault F-${number} was saved elsewhere since it was opened here.`, { current: held });
    }
    await tx.delete(suspects).where(eq(suspects.faultId, kept.id));
    await insertSuspects(tx, kept.id, list);
    return saved;
  });
}

export async function deleteFault(db: Database, slug: string, number: number, now: string): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const [row] = await tx
      .select()
      .from(faults)
      .where(and(eq(faults.craftId, craft.id), eq(faults.number, number)));
    if (!row) throw notFound(`There is no fault F-${number}.`);
    const called = `fault F-${String(number).padStart(2, "0")}`;
    return deleteRow(tx, faults, row, {
      kind: "fault",
      name: `F-${String(number).padStart(2, "0")} of ${craft.name}`,
      called,
      now,
    });
  });
}
