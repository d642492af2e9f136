import { and, asc, eq, inArray, sql } from "drizzle-orm";
import type { ShelfRecord } from "../api/contracts";
import type { ShelfPack } from "../core/design/shelf";
import type { Database } from "./db/open";
import { packs } from "./db/schema";
import { notFound, refused, stale } from "./problems";

/** All packs on the shelf, by name. */
export async function listPacks(db: Database): Promise<ShelfRecord[]> {
  const rows = await db.select().from(packs).orderBy(asc(packs.name));
  return rows.map(({ id, revision, pack }) => ({ id, revision, pack }));
}

const taken = (names: string[]) => refused(`There is a pack called “${names.join("”, “")}” already: every pack has a name of its own.`);
const isDuplicate = (error: unknown): boolean => /packs_name/.test(`${String(error)} ${String((error as { cause?: unknown }).cause)}`);

/** Puts packs on the shelf, all or none. */
export async function addPacks(db: Database, list: ShelfPack[]): Promise<{ ids: number[] }> {
  const names = list.map((p) => p.name);
  const twice = names.filter((n, i) => names.indexOf(n) !== i);
  if (twice.length > 0) throw taken(twice);
  return db.transaction(async (tx) => {
    const there = await tx.select({ name: packs.name }).from(packs).where(inArray(packs.name, names));
    if (there.length > 0) throw taken(there.map((t) => t.name));
    const rows = await tx
      .insert(packs)
      .values(list.map((pack) => ({ name: pack.name, pack })))
      .returning({ id: packs.id });
    return { ids: rows.map((r) => r.id) };
  });
}

export async function savePack(db: Database, id: number, revision: number, pack: ShelfPack): Promise<number> {
  return db.transaction(async (tx) => {
    try {
      const [saved] = await tx
        .update(packs)
        .set({ name: pack.name, pack, revision: sql`${packs.revision} + 1` })
        .where(and(eq(packs.id, id), eq(packs.revision, revision)))
        .returning({ revision: packs.revision });
      if (saved) return saved.revision;
    } catch (error) {
      if (isDuplicate(error)) throw taken([pack.name]);
      throw error;
    }
    const [held] = await tx.select().from(packs).where(eq(packs.id, id));
    if (!held) throw notFound("This pack is no longer on the shelf.");
    throw stale(`“${held.name}” was saved elsewhere since it was opened here.`, { current: held });
  });
}

export async function deletePack(db: Database, id: number): Promise<void> {
  const gone = await db.delete(packs).where(eq(packs.id, id)).returning({ id: packs.id });
  if (gone.length === 0) throw notFound("This pack is no longer on the shelf.");
}
