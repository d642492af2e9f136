import { eq, sql } from "drizzle-orm";
import { EUROS, type Money, moneySchema, takeMoney } from "../core/design/money";
import type { Database } from "./db/open";
import { crafts, workshop } from "./db/schema";
import { type Tx, reading } from "./db/transaction";

const KEY = "money";

/** What the amounts of this workshop are in; euros before anybody chose. */
export async function moneyIn(tx: Tx): Promise<Money> {
  const [row] = await tx.select().from(workshop).where(eq(workshop.key, KEY));
  return moneySchema.safeParse(row?.value).data ?? EUROS;
}

/** The same, for everything that this process says. */
export async function openMoney(db: Database): Promise<Money> {
  const money = await db.transaction(moneyIn, reading);
  takeMoney(money);
  return money;
}

/**
 * Says what the amounts are in. No amount changes: only what they are called, and what usual prices are worth. What was
 * made of any craft before is made anew.
 */
export async function saveMoney(db: Database, money: Money): Promise<Money> {
  await db.transaction(async (tx) => {
    await tx
      .insert(workshop)
      .values({ key: KEY, value: money })
      .onConflictDoUpdate({ target: workshop.key, set: { value: money } });
    await tx.update(crafts).set({ stamp: sql`${crafts.stamp} + 1` });
    await tx.execute(sql`update summaries set stamp = 'none'`);
  });
  takeMoney(money);
  return money;
}
