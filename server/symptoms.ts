import { asc, eq } from "drizzle-orm";
import type { SymptomRecord } from "../api/contracts";
import { mend } from "../core/design/mend";
import { type OwnSymptom, symptomSchema } from "../core/design/symptom";
import type { Database } from "./db/open";
import { faults, symptoms } from "./db/schema";
import { notFound, refused, stale } from "./problems";
import { deleteRow } from "./references";
import { touchCrafts, saveRow } from "./rows";
import { reading } from "./db/transaction";

/** Entries of one's own in the fault catalogue, of all craft. */
export async function listSymptoms(db: Database): Promise<SymptomRecord[]> {
  const rows = await db.transaction(
    (tx) =>
      tx.select({ revision: symptoms.revision, symptom: symptoms.symptom }).from(symptoms).orderBy(asc(symptoms.id)),
    reading,
  );
  return rows.flatMap(({ revision, symptom }) => {
    const read = mend(symptomSchema, symptom);
    return read ? [{ revision, symptom: read.value }] : [];
  });
}

/** Saves an entry; with no revision a new one. */
export async function saveSymptom(
  db: Database,
  id: string,
  revision: number | null,
  symptom: OwnSymptom,
): Promise<number> {
  if (symptom.id !== id) throw refused("An entry keeps its id.");
  return db.transaction(async (tx) => {
    await touchCrafts(tx);
    if (revision === null) {
      const [made] = await tx
        .insert(symptoms)
        .values({ id, symptom })
        .onConflictDoNothing()
        .returning({ revision: symptoms.revision });
      if (!made) throw refused(`There is an entry “${id}” already.`);
      return made.revision;
    }
    const saved = await saveRow(tx, symptoms, eq(symptoms.id, id), revision, { symptom });
    if (saved !== null) return saved;
    const [held] = await tx.select().from(symptoms).where(eq(symptoms.id, id));
    if (!held) throw notFound("This entry is no longer in the catalogue.");
    throw stale("This entry was saved elsewhere since it was opened here.", { current: held });
  });
}

/** Deletes an entry that no fault refers to. */
export async function deleteSymptom(db: Database, id: string, now: string): Promise<number> {
  return db.transaction(async (tx) => {
    const [used] = await tx.select({ number: faults.number }).from(faults).where(eq(faults.symptom, id)).limit(1);
    if (used) throw refused("A fault refers to this entry: give that another symptom first.");
    const [row] = await tx.select().from(symptoms).where(eq(symptoms.id, id));
    if (!row) throw notFound("This entry is no longer in the catalogue.");
    return deleteRow(tx, symptoms, row, {
      kind: "catalogue entry",
      name: `“${row.symptom.text}”`,
      called: "this entry",
      now,
    });
  });
}
