import { randomInt } from "node:crypto";
import { isDeepStrictEqual } from "node:util";
import { and, eq, isNull, ne } from "drizzle-orm";
import type { NewVersion, Rate, VersionWords } from "../api/contracts";
import { type Craft, type CraftFile, FORMAT, FORMAT_VERSION, GOING } from "../core/design/craftFile";
import type { Design } from "../core/design/schema";
import { holdsAmounts, inCurrency } from "../core/exchange/currency";
import { childLabel } from "../core/lineage/labels";
import { bench, crafts, plans, runs, symptoms, versions } from "./db/schema";
import type { Database } from "./db/open";
import { insertFault } from "./faults";
import { type Store, keepFiles } from "./files";
import { moneyIn } from "./money";
import { frozen, otherCurrency, refused, stale } from "./problems";
import { deleteRow } from "./references";
import { rulesNow } from "./rules";
import { claimsOf, designOf, freeSlug, lockCraft, parentLabel, saveRow, toVersion, versionRow } from "./rows";
import { type Tx, reading } from "./db/transaction";
import { insertRun } from "./runs";

/** Numbers that a craft's next records get: after all that its file holds. */
const after = (list: readonly { number: number }[]): number =>
  list.reduce((most, r) => Math.max(most, r.number), 0) + 1;

/**
 * Stores a whole craft file as a new craft, in one transaction. Its slug comes from its name; its pictures are there
 * already or in the file.
 * A run that names a plan which the file does not hold keeps no plan.
 */
export async function importCraft(store: Store, file: CraftFile, rate?: Rate): Promise<string> {
  await keepFiles(store, file.files);
  return store.db.transaction(async (tx) => insertCraft(tx, inMoney(file, (await moneyIn(tx)).currency, rate)));
}

/**
 * A file in the currency of the workshop. One with amounts in another is asked about: no rate is known here.
 *
 * @throws a problem (409, "currency") that names both when nothing was said
 */
function inMoney(file: CraftFile, currency: string, rate: Rate | undefined): CraftFile {
  if (file.currency === currency || rate === "none" || !holdsAmounts(file)) return inCurrency(file, currency, null);
  if (rate === undefined)
    throw otherCurrency(
      `The amounts of ${file.craft.name} are in ${file.currency}, those of this workshop in ` +
        `${currency}. Say what 1 ${file.currency} is in ${currency}, or leave the amounts out.`,
      { current: { from: file.currency, to: currency } },
    );
  return inCurrency(file, currency, rate);
}

/** The same within a transaction. */
export async function insertCraft(tx: Tx, file: CraftFile): Promise<string> {
  const slug = await freeSlug(tx, file.craft.name);
  const [craft] = await tx
    .insert(crafts)
    .values({
      ...file.craft,
      slug,
      nextRun: after(file.runs),
      nextFault: after(file.faults),
      nextPlan: after(file.plans),
      nextBench: after(file.bench),
      checked: rulesNow(),
      stamp: randomInt(1_000_000_000),
    })
    .returning({ id: crafts.id });
  if (!craft) throw new Error("craft was not inserted");
  const version = new Map<string, number>();
  // A file has its versions with parents before their children.
  for (const { parent, ...row } of file.versions) {
    const [made] = await tx
      .insert(versions)
      .values({ ...row, parentId: parent === null ? null : (version.get(parent) ?? null), craftId: craft.id })
      .returning({ id: versions.id });
    if (made) version.set(row.label, made.id);
  }
  const planIds = new Map<number, number>();
  for (const { number, version: of, ...plan } of file.plans) {
    const [made] = await tx
      .insert(plans)
      .values({ craftId: craft.id, versionId: version.get(of) ?? 0, number, plan })
      .returning({ id: plans.id });
    if (made) planIds.set(number, made.id);
  }
  for (const run of file.runs) await insertRun(tx, craft.id, version.get(run.version) ?? 0, run, planIds);
  const run = new Map(
    (await tx.select({ id: runs.id, number: runs.number }).from(runs).where(eq(runs.craftId, craft.id))).map((r) => [
      r.number,
      r.id,
    ]),
  );
  for (const fault of file.faults) await insertFault(tx, craft.id, fault, { run, version });
  // An entry of one's own that is here already stays as it is.
  for (const symptom of file.symptoms)
    await tx.insert(symptoms).values({ id: symptom.id, symptom }).onConflictDoNothing();
  for (const { version: of, ...session } of file.bench)
    await tx.insert(bench).values({ ...session, craftId: craft.id, versionId: version.get(of) ?? 0 });
  return slug;
}

export async function createCraft(
  store: Store,
  craft: Craft,
  design: Design,
  question: string,
  now: string,
): Promise<string> {
  return importCraft(store, {
    format: FORMAT,
    formatVersion: FORMAT_VERSION,
    currency: (await store.db.transaction(moneyIn, reading)).currency,
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
    const craft = await lockCraft(tx, slug);
    return deleteRow(tx, crafts, craft, { kind: "craft", name: craft.name, called: craft.name, now });
  });
}

/** Opens a child of a version. */
export async function createVersion(
  db: Database,
  slug: string,
  asked: NewVersion,
  now: string,
): Promise<{ label: string; revision: number }> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const parent = await versionRow(tx, craft.id, asked.parent);
    const taken = (await tx.select({ label: versions.label }).from(versions).where(eq(versions.craftId, craft.id))).map(
      (v) => v.label,
    );
    const label = asked.label ?? childLabel(parent.label, taken);
    if (taken.includes(label)) throw refused(`There is a version ${label} already.`);
    await tx.insert(versions).values({
      craftId: craft.id,
      label,
      parentId: parent.id,
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
export async function saveDesign(
  db: Database,
  slug: string,
  label: string,
  revision: number,
  design: Design,
): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const draft = and(eq(versions.craftId, craft.id), eq(versions.label, label), isNull(versions.frozenAt));
    const saved = await saveRow(tx, versions, draft, revision, { design });
    if (saved !== null) return saved;
    const row = await versionRow(tx, craft.id, label);
    if (row.frozenAt !== null)
      throw frozen(`${label} froze at its first run; its design may not change. Open a child version and change that.`);
    throw stale(
      `${label} was saved elsewhere since it was opened here (revision ${row.revision}, yours ${revision}).`,
      {
        current: { revision: row.revision, design: row.design },
      },
    );
  });
}

export async function saveVersion(
  db: Database,
  slug: string,
  label: string,
  revision: number,
  words: VersionWords,
): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const before = await versionRow(tx, craft.id, label);
    if (words.claims && before.frozenAt !== null && !isDeepStrictEqual(words.claims, claimsOf(before)))
      throw frozen(
        `What ${label} is to do was said before its first run; it may not be said anew afterwards. Open ` +
          "a child version.",
      );
    const which = and(eq(versions.craftId, craft.id), eq(versions.label, label));
    const saved = await saveRow(tx, versions, which, revision, words);
    if (saved !== null) return saved;
    const row = await versionRow(tx, craft.id, label);
    throw stale(`${label} was saved elsewhere since it was opened here.`, {
      current: { revision: row.revision, version: toVersion(row, await parentLabel(tx, row)) },
    });
  });
}

/** Deletes a draft that nothing grew from. */
export async function deleteVersion(db: Database, slug: string, label: string, now: string): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const row = await versionRow(tx, craft.id, label);
    if (row.frozenAt !== null) throw frozen(`${label} has runs: it stays in the record.`);
    const [other] = await tx
      .select({ id: versions.id })
      .from(versions)
      .where(and(eq(versions.craftId, craft.id), ne(versions.id, row.id)))
      .limit(1);
    if (!other) throw refused("A craft keeps at least one version.");
    return deleteRow(tx, versions, row, { kind: "version", name: `${label} of ${craft.name}`, called: label, now });
  });
}
