import { desc, eq, inArray } from "drizzle-orm";
import type { TrashRecord } from "../api/contracts";
import { codeOf } from "./db/remote";
import type { Database } from "./db/open";
import { crafts, trash } from "./db/schema";
import { notFound, refused } from "./problems";
import { inPresentShape, missingFor, putBack } from "./references";
import { freeSlug, touchCrafts } from "./rows";
import { reading } from "./db/transaction";

/** What was deleted lately, newest first. */
export const listTrash = (db: Database): Promise<TrashRecord[]> =>
  db.transaction(
    (tx) =>
      tx
        .select({ id: trash.id, kind: trash.kind, name: trash.name, deletedAt: trash.deletedAt })
        .from(trash)
        .orderBy(desc(trash.id))
        .limit(30),
    reading,
  );

/**
 * Brings back what was deleted, in one transaction, under its own numbers; what it belongs to must be there. A craft
 * whose address was given away since gets another.
 */
export async function restore(db: Database, id: number): Promise<{ kind: string; name: string }> {
  try {
    return await db.transaction(async (tx) => {
      const [held] = await tx.delete(trash).where(eq(trash.id, id)).returning();
      if (!held) throw notFound("This is no longer kept, or it was brought back already.");
      const parts = await inPresentShape(tx, held.rows);
      const missing = await missingFor(tx, parts);
      if (missing) throw refused(`It cannot be brought back yet: it belongs to ${missing}. Bring that back first.`);
      for (const part of parts)
        if (part.table === "crafts")
          for (const row of part.rows) row.slug = await freeSlug(tx, String(row.name), String(row.slug));
      await putBack(tx, parts);
      // An entry of the catalogue may be read with any craft.
      if (parts.some((p) => p.table === "symptoms")) await touchCrafts(tx);
      // What an older release deleted comes back as that release wrote it: all is looked at again.
      const ids = [
        ...new Set(
          parts.flatMap((p) =>
            p.rows
              .map((row) => Number(row.craftId ?? (p.table === "crafts" ? row.id : undefined)))
              .filter(Number.isInteger),
          ),
        ),
      ];
      await touchCrafts(tx, ids);
      if (ids.length > 0) await tx.update(crafts).set({ checked: "" }).where(inArray(crafts.id, ids));
      return { kind: held.kind, name: held.name };
    });
  } catch (error) {
    if (codeOf(error) === "23505")
      throw refused(
        "It cannot be brought back: its name or number was given to something else since. Rename that first.",
      );
    throw error;
  }
}
