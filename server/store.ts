import { isDeepStrictEqual } from "node:util";
import { and, asc, eq, sql } from "drizzle-orm";
import type { CraftSummary, NewVersion, VersionWords } from "../api/contracts";
import { type Craft, type CraftFile, FORMAT, FORMAT_VERSION, GOING } from "../core/design/craftFile";
import type { Design } from "../core/design/schema";
import { childLabel } from "../core/lineage/labels";
import type { Database } from "./db/open";
import { takeFiles } from "./files";
import { bench, crafts, plans, symptoms, versions } from "./db/schema";
import { insertFault } from "./faults";
import { frozen, refused, stale } from "./problems";
import { type Tx, claimsOf, craftRow, designOf, readCraft, toVersion, versionRow } from "./rows";
import { insertRun } from "./runs";
import { remember, rowsOfCraft } from "./trash";

/** All crafts as the workshop shows them. */
export async function listCrafts(db: Database): Promise<CraftSummary[]> {
  const rows = await db.select({ slug: crafts.slug }).from(crafts).orderBy(asc(crafts.id));
  const out: CraftSummary[] = [];
  for (const { slug } of rows) {
    const { file } = await readCraft(db, slug);
    const newest = file.versions.at(-1);
    if (!newest) continue;
    out.push({
      slug,
      craft: file.craft,
      newest,
      versions: file.versions.map((v) => {
        const own = file.runs.filter((r) => r.version === v.label);
        return {
          label: v.label,
          parent: v.parent,
          frozen: v.frozenAt !== null,
          reached: Math.max(0, ...own.filter((r) => r.outcome === "passed").map((r) => r.stage)),
          failed: own.filter((r) => r.outcome === "failed").reduce<number | null>((m, r) => Math.max(m ?? 0, r.stage), null),
        };
      }),
      openFaults: file.faults.filter((f) => f.state === "open" || f.state === "closed").length,
      runs: file.runs.length,
    });
  }
  return out;
}

/** A slug that no craft has yet, from a name: letters and digits, else “craft”. */
async function freeSlug(tx: Tx, name: string): Promise<string> {
  const stem =
    name
      .normalize("NFKD")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .slice(0, 60) || "craft";
  const taken = new Set((await tx.select({ slug: crafts.slug }).from(crafts)).map((r) => r.slug));
  if (!taken.has(stem)) return stem;
  let n = 2;
  while (taken.has(`${stem}-${n}`)) n++;
  return `${stem}-${n}`;
}

/** Stores a whole craft file as a new craft, in one transaction. Its slug comes from its name. */
export async function importCraft(db: Database, file: CraftFile): Promise<string> {
  return db.transaction(async (tx) => {
    const slug = await freeSlug(tx, file.craft.name);
    const [craft] = await tx
      .insert(crafts)
      .values({ ...file.craft, slug })
      .returning({ id: crafts.id });
    if (!craft) throw new Error("craft was not inserted");
    const idOf = new Map<string, number>();
    for (const version of file.versions) {
      const [row] = await tx
        .insert(versions)
        .values({ ...version, craftId: craft.id })
        .returning({ id: versions.id });
      if (row) idOf.set(version.label, row.id);
    }
    for (const run of file.runs) await insertRun(tx, craft.id, idOf.get(run.version) ?? 0, run);
    for (const fault of file.faults) await insertFault(tx, craft.id, fault);
    for (const { number, version, ...plan } of file.plans) await tx.insert(plans).values({ craftId: craft.id, versionId: idOf.get(version) ?? 0, number, plan });
    // An entry of one's own that is here already stays as it is.
    for (const symptom of file.symptoms) await tx.insert(symptoms).values({ id: symptom.id, symptom }).onConflictDoNothing();
    await takeFiles(tx, file.files);
    for (const { version, ...session } of file.bench) await tx.insert(bench).values({ ...session, craftId: craft.id, versionId: idOf.get(version) ?? 0 });
    return slug;
  });
}

export async function createCraft(db: Database, craft: Craft, design: Design, question: string, now: string): Promise<string> {
  return importCraft(db, {
    format: FORMAT,
    formatVersion: FORMAT_VERSION,
    craft,
    versions: [
      {
        label: "v1",
        parent: null,
        question,
        finding: "",
        reason: "",
        claims: [],
        createdAt: now,
        frozenAt: null,
        ladder: null,
        whys: [],
        advice: [],
        trials: [],
        fate: GOING,
        design,
      },
    ],
    runs: [],
    faults: [],
    plans: [],
    symptoms: [],
    bench: [],
    files: [],
  });
}

export async function deleteCraft(db: Database, slug: string, now: string): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const id = await remember(tx, "craft", craft.name, now, await rowsOfCraft(tx, craft.id));
    await tx.delete(crafts).where(eq(crafts.id, craft.id));
    return id;
  });
}

/** Opens a child of a version. */
export async function createVersion(db: Database, slug: string, asked: NewVersion, now: string): Promise<{ label: string; revision: number }> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const parent = await versionRow(tx, craft.id, asked.parent);
    const taken = (await tx.select({ label: versions.label }).from(versions).where(eq(versions.craftId, craft.id))).map((v) => v.label);
    const label = asked.label ?? childLabel(parent.label, taken);
    if (taken.includes(label)) throw refused(`There is a version ${label} already.`);
    await tx.insert(versions).values({
      craftId: craft.id,
      label,
      parent: parent.label,
      question: asked.question,
      finding: "",
      reason: asked.reason,
      claims: asked.claims,
      createdAt: now,
      frozenAt: null,
      // The gates of the parent are the child's to begin with.
      ladder: parent.ladder,
      design: asked.design ?? designOf(parent),
    });
    return { label, revision: 0 };
  });
}

/** Saves a draft's design if nobody saved it since `revision`; refuses on a frozen version. */
export async function saveDesign(db: Database, slug: string, label: string, revision: number, design: Design): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    // One conditional statement decides: of two saves with one revision only the first finds its row.
    const [saved] = await tx
      .update(versions)
      .set({ design, revision: sql`${versions.revision} + 1` })
      .where(and(eq(versions.craftId, craft.id), eq(versions.label, label), eq(versions.revision, revision), sql`${versions.frozenAt} is null`))
      .returning({ revision: versions.revision });
    if (saved) return saved.revision;
    const row = await versionRow(tx, craft.id, label);
    if (row.frozenAt !== null) throw frozen(`${label} froze at its first run; its design may not change. Open a child version and change that.`);
    throw stale(`${label} was saved elsewhere since it was opened here (revision ${row.revision}, yours ${revision}).`, {
      current: { revision: row.revision, design: row.design },
    });
  });
}

export async function saveVersion(db: Database, slug: string, label: string, revision: number, words: VersionWords): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const before = await versionRow(tx, craft.id, label);
    if (words.claims && before.frozenAt !== null && !isDeepStrictEqual(words.claims, claimsOf(before)))
      throw frozen(`What ${label} is to do was said before its first run; it may not be said anew afterwards. Open a child version.`);
    const [saved] = await tx
      .update(versions)
      .set({ ...words, revision: sql`${versions.revision} + 1` })
      .where(and(eq(versions.craftId, craft.id), eq(versions.label, label), eq(versions.revision, revision)))
      .returning({ revision: versions.revision });
    if (saved) return saved.revision;
    const row = await versionRow(tx, craft.id, label);
    throw stale(`${label} was saved elsewhere since it was opened here.`, { current: { revision: row.revision, version: toVersion(row) } });
  });
}

/** Deletes a draft that nothing grew from. */
export async function deleteVersion(db: Database, slug: string, label: string, now: string): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await craftRow(tx, slug);
    const row = await versionRow(tx, craft.id, label);
    if (row.frozenAt !== null) throw frozen(`${label} has runs: it stays in the record.`);
    const all = await tx.select({ label: versions.label, parent: versions.parent }).from(versions).where(eq(versions.craftId, craft.id));
    if (all.length === 1) throw refused("A craft keeps at least one version.");
    const child = all.find((v) => v.parent === label);
    if (child) throw refused(`${child.label} grew from ${label}.`);
    const id = await remember(tx, "version", `${label} of ${craft.name}`, now, [
      { table: versions, rows: [row] },
      { table: plans, rows: await tx.select().from(plans).where(eq(plans.versionId, row.id)) },
      { table: bench, rows: await tx.select().from(bench).where(eq(bench.versionId, row.id)) },
    ]);
    await tx.delete(versions).where(eq(versions.id, row.id));
    return id;
  });
}
