import { and, eq } from "drizzle-orm";
import type { NewPlan } from "../api/contracts";
import type { Database } from "./db/open";
import { plans } from "./db/schema";
import { notFound, stale } from "./problems";
import { deleteRow } from "./references";
import { lockCraft, nextNumber, versionRow, saveRow } from "./rows";

export async function createPlan(
  db: Database,
  slug: string,
  label: string,
  plan: NewPlan,
  now: string,
): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const version = await versionRow(tx, craft.id, label);
    const number = await nextNumber(tx, craft.id, "plan");
    await tx
      .insert(plans)
      .values({ craftId: craft.id, versionId: version.id, number, plan: { ...plan, createdAt: now } });
    return number;
  });
}

export async function savePlan(
  db: Database,
  slug: string,
  number: number,
  revision: number,
  plan: NewPlan,
): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const where = and(eq(plans.craftId, craft.id), eq(plans.number, number));
    const [held] = await tx.select().from(plans).where(where);
    if (!held) throw notFound(`There is no plan ${number}.`);
    const saved = await saveRow(tx, plans, where, revision, { plan: { ...plan, createdAt: held.plan.createdAt } });
    if (saved !== null) return saved;
    throw stale(`Plan ${number} was saved elsewhere since it was opened here.`, {
      current: { revision: held.revision, plan: held.plan },
    });
  });
}

export async function deletePlan(db: Database, slug: string, number: number, now: string): Promise<number> {
  return db.transaction(async (tx) => {
    const craft = await lockCraft(tx, slug);
    const [row] = await tx
      .select()
      .from(plans)
      .where(and(eq(plans.craftId, craft.id), eq(plans.number, number)));
    if (!row) throw notFound(`There is no plan ${number}.`);
    return deleteRow(tx, plans, row, {
      kind: "plan",
      name: `the plan “${row.plan.question}”`,
      called: "this plan",
      now,
    });
  });
}
