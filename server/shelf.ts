import { asc, eq } from "drizzle-orm";
import type { ShelfRecord } from "../api/contracts";
import { mend } from "../core/design/mend";
import { type ShelfPart, shelfPartSchema } from "../core/design/shelf";
import type { Database } from "./db/open";
import { shelf } from "./db/schema";
import { notFound, refused, stale } from "./problems";
import { deleteRow } from "./references";
import { saveRow } from "./rows";
import { reading } from "./db/transaction";

/** All parts on the shelf, by kind and name. */
export async function listShelf(db: Database): Promise<ShelfRecord[]> {
  const rows = await db.transaction((tx) => tx.select().from(shelf).orderBy(asc(shelf.kind), asc(shelf.name)), reading);
  return rows.flatMap(({ id, revision, part }) => {
    const read = mend(shelfPartSchema, part);
    return read ? [{ id, revision, part: read.value }] : [];
  });
}

const taken = (parts: readonly Pick<ShelfPart, "kind" | "name">[]) =>
  refused(
    `There is a ${parts[0]?.kind} called “${parts.map((p) => p.name).join("”, “")}” already: every part ` +
      "of a kind has a name of its own.",
  );
const isDuplicate = (error: unknown): boolean =>
  /shelf_name/.test(`${String(error)} ${String((error as { cause?: unknown }).cause)}`);
const key = (p: Pick<ShelfPart, "kind" | "name">) => `${p.kind} ${p.name}`;

/** Puts parts on the shelf, all or none. */
export async function addToShelf(db: Database, list: ShelfPart[]): Promise<{ ids: number[] }> {
  const keys = list.map(key);
  const twice = list.filter((p, i) => keys.indexOf(key(p)) !== i);
  if (twice.length > 0) throw taken(twice);
  return db.transaction(async (tx) => {
    const there = (await tx.select({ kind: shelf.kind, name: shelf.name }).from(shelf)).filter((t) =>
      keys.includes(key(t)),
    );
    if (there.length > 0) throw taken(there);
    const rows = await tx
      .insert(shelf)
      .values(list.map((part) => ({ kind: part.kind, name: part.name, part })))
      .returning({ id: shelf.id });
    return { ids: rows.map((r) => r.id) };
  });
}

export async function saveShelf(db: Database, id: number, revision: number, part: ShelfPart): Promise<number> {
  try {
    return await db.transaction(async (tx) => {
      const saved = await saveRow(tx, shelf, eq(shelf.id, id), revision, { kind: part.kind, name: part.name, part });
      if (saved !== null) return saved;
      const [held] = await tx.select().from(shelf).where(eq(shelf.id, id));
      if (!held) throw notFound("This part is no longer on the shelf.");
      throw stale(`“${held.name}” was saved elsewhere since it was opened here.`, {
        current: { revision: held.revision, part: held.part },
      });
    });
  } catch (error) {
    if (isDuplicate(error)) throw taken([part]);
    throw error;
  }
}

export async function deleteFromShelf(db: Database, id: number, now: string): Promise<number> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select().from(shelf).where(eq(shelf.id, id));
    if (!row) throw notFound("This part is no longer on the shelf.");
    return deleteRow(tx, shelf, row, { kind: "part on the shelf", name: row.name, called: `“${row.name}”`, now });
  });
}
