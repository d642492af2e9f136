import { and, eq } from "drizzle-orm";
import type { Adoption, Learn, NewBench } from "../api/contracts";
import { learnFrom } from "../core/bench/learn";
import { correctionsFor, sharedCurrentError, sharedThrustError } from "../core/bench/rig";
import { readSweep } from "../core/bench/sweep";
import { benchEntrySchema } from "../core/design/bench";
import { type TestedDrive, testedDrive } from "../core/design/thrustTest";
import type { Design } from "../core/design/schema";
import { packFrom } from "../core/bench/learnPack";
import { partsChanged } from "../core/subjects/propulsion/learned";
import { changedSince, ledgerOf, withEvidence } from "../core/subjects/mass/evidence";
import type { Database } from "./db/open";
import { bench, versions } from "./db/schema";
import { notFound, refused, stale } from "./problems";
import { deleteRow } from "./references";
import { designOf, lockCraft, nextNumber, versionRow, saveRow } from "./rows";

/** Logs a bench session of a version; it keeps the ledger of that moment, and never freezes the version. */
export async function createBench(db: Database, slug: string, label: string, asked: NewBench): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const version = await versionRow(tx, craft.id, label);
    const number = await nextNumber(tx, craft.id, "bench");
    await tx.insert(bench).values({
      ...asked,
      thrust: asked.thrust && { ...asked.thrust, drive: driveOf(designOf(version), asked.thrust.unitId) },
      pulls: asked.pulls && { ...asked.pulls, drive: driveOf(designOf(version), asked.pulls.unitId) },
      craftId: craft.id,
      versionId: version.id,
      number,
      tested: ledgerOf(designOf(version)),
      adopted: "",
    });
    return number;
  });
}

/** The drive as it stands in the design now: what a sweep is kept with, to know later whether it still holds. */
function driveOf(design: Design, unitId: string): TestedDrive {
  const unit = design.units.find((u) => u.id === unitId);
  if (!unit) throw refused("The drive on the stand is not in this version.");
  const battery = design.batteries.find((b) => b.id === unit.batteryId);
  return testedDrive(unit, battery);
}

export async function saveBench(
  db: Database,
  slug: string,
  number: number,
  revision: number,
  asked: NewBench,
): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const where = and(eq(bench.craftId, craft.id), eq(bench.number, number));
    const [before] = await tx.select({ thrust: bench.thrust, pulls: bench.pulls }).from(bench).where(where);
    // What was tested stays what it was: editing readings does not change the drive that they were read of.
    const thrust = asked.thrust && { ...asked.thrust, drive: before?.thrust?.drive ?? asked.thrust.drive };
    const pulls = asked.pulls && { ...asked.pulls, drive: before?.pulls?.drive ?? asked.pulls.drive };
    const saved = await saveRow(tx, bench, where, revision, { ...asked, thrust, pulls });
    if (saved !== null) return saved;
    const [held] = await tx.select().from(bench).where(where);
    if (!held) throw notFound(`There is no bench session B-${number}.`);
    const session = benchEntrySchema.parse(held);
    throw stale(`Bench session B-${number} was saved elsewhere since it was opened here.`, {
      current: { revision: held.revision, session },
    });
  });
}

export async function deleteBench(db: Database, slug: string, number: number, now: string): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const [row] = await tx
      .select()
      .from(bench)
      .where(and(eq(bench.craftId, craft.id), eq(bench.number, number)));
    if (!row) throw notFound(`There is no bench session B-${number}.`);
    return deleteRow(tx, bench, row, {
      kind: "bench session",
      name: `B-${number} of ${craft.name}`,
      called: `bench session B-${number}`,
      now,
    });
  });
}

/**
 * Takes measured evidence of a bench session into the ledger of its version, frozen or not. The session remembers the
 * ledger as it is afterwards, so that its own
 * result does not make it stale.
 */
export async function adopt(db: Database, slug: string, number: number, asked: Adoption): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const [session] = await tx
      .select()
      .from(bench)
      .where(and(eq(bench.craftId, craft.id), eq(bench.number, number)));
    if (!session?.weighIn) throw notFound(`There is no weigh-in B-${number}.`);
    const [version] = await tx.select().from(versions).where(eq(versions.id, session.versionId));
    if (!version) throw notFound("The version of this session is gone.");
    const design = designOf(version);
    const changed = changedSince(session.tested, design);
    if (changed.length > 0)
      throw refused(
        `The ledger of ${version.label} has changed since this weigh-in ` +
          `(${changed.slice(0, 3).join(", ")}): weigh again before taking anything over.`,
      );
    const unknown = asked.evidence.entries.find((e) => !design.items.some((i) => i.id === e.itemId));
    if (unknown) throw refused(`There is no part “${unknown.itemId}” in ${version.label}.`);
    const next = withEvidence(design, asked.evidence);
    const saved = await saveRow(tx, versions, eq(versions.id, version.id), asked.revision, { design: next });
    if (saved === null)
      throw stale(`${version.label} was saved elsewhere since it was opened here.`, {
        current: { revision: version.revision, design: version.design },
      });
    await saveRow(tx, bench, eq(bench.id, session.id), session.revision, {
      adopted: [session.adopted, asked.said].filter(Boolean).join("; ").slice(0, 300),
      tested: ledgerOf(next),
    });
    return saved;
  });
}

/**
 * Takes a sweep over: the measured curve becomes that of the given drives, in the version that it was measured on,
 * frozen or not. Every drive must have the parts that were on the stand.
 * What is learned is worked out here from the readings, not taken from the page.
 */
export async function learn(db: Database, slug: string, number: number, asked: Learn): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const sessions = await tx.select().from(bench).where(eq(bench.craftId, craft.id));
    const session = sessions.find((s) => s.number === number);
    if (!session?.thrust?.drive) throw notFound(`There is no sweep B-${number}.`);
    const [version] = await tx.select().from(versions).where(eq(versions.id, session.versionId));
    if (!version) throw notFound("The version of this session is gone.");
    const { thrust } = session;
    const { drive } = thrust;
    const corrections = correctionsFor(thrust.rig, sessions);
    const result = readSweep(thrust, corrections, drive);
    const next = structuredClone(designOf(version));
    for (const id of asked.unitIds) {
      const unit = next.units.find((u) => u.id === id);
      if (!unit) throw refused("One of these drives is not in the version.");
      const changed = drive ? partsChanged(unit, drive) : [];
      if (changed.length > 0)
        throw refused(`${unit.name} has another ${changed.join(" and ")} than the drive on the stand: sweep again.`);
      const learned = learnFrom(
        unit,
        drive?.battery ?? null,
        result,
        number,
        craft.name,
        sharedThrustError(thrust.rig, corrections.scale),
        sharedCurrentError(thrust.rig, corrections.current),
      );
      if (!learned.ok) throw refused(learned.message);
      unit.learned = learned.learned;
    }
    const pack = asked.pack
      ? packFrom(next, thrust.unitId, drive?.battery ?? null, result.resistance, thrust.air.temperature, number)
      : null;
    if (asked.pack && !pack)
      throw refused("The sag of this sweep tells nothing of the pack: take the curve over without it.");
    const fed = next.batteries.find((b) => b.id === pack?.batteryId);
    if (pack && fed) fed.cellResistance = pack.cellResistance;
    const saved = await saveRow(tx, versions, eq(versions.id, version.id), asked.revision, { design: next });
    if (saved === null)
      throw stale(`${version.label} was saved elsewhere since it was opened here.`, {
        current: { revision: version.revision, design: version.design },
      });
    const names = next.units.filter((u) => asked.unitIds.includes(u.id)).map((u) => u.name);
    await saveRow(tx, bench, eq(bench.id, session.id), session.revision, {
      adopted: `curve of ${names.join(", ")}${pack ? `; resistance of ${pack.name}` : ""}`.slice(0, 300),
    });
    return saved;
  });
}
