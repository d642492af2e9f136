import { asc, eq, inArray, sql } from "drizzle-orm";
import type { CraftSummary } from "../api/contracts";
import type { Database } from "./db/open";
import { crafts, faults, runs, summaries, versions } from "./db/schema";
import type { Evaluator } from "./evaluator";
import { designOf } from "./rows";
import { type Tx, reading } from "./db/transaction";

/** Versions of a craft that the list shows: the newest. */
const SHOWN = 12;

/**
 * All crafts as the workshop's list shows them: a few queries whatever their number, and no design read. A craft
 * whose newest version changed since has the glance of before until it is worked out anew.
 */
export async function listCrafts(tx: Tx): Promise<CraftSummary[]> {
  const craftRows = await tx.select().from(crafts).orderBy(asc(crafts.id));
  const versionRows = await tx
    .select({
      id: versions.id,
      craftId: versions.craftId,
      label: versions.label,
      frozenAt: versions.frozenAt,
      revision: versions.revision,
    })
    .from(versions)
    .orderBy(asc(versions.id));
  const runRows = await tx
    .select({
      versionId: runs.versionId,
      count: sql<number>`count(*)`.mapWith(Number),
      reached: sql<number>`coalesce(max(${runs.stage}) filter (where ${runs.outcome} = 'passed'), 0)`.mapWith(Number),
      failed: sql<number | null>`max(${runs.stage}) filter (where ${runs.outcome} = 'failed')`,
    })
    .from(runs)
    .groupBy(runs.versionId);
  const faultRows = await tx
    .select({ craftId: faults.craftId, count: sql<number>`count(*)`.mapWith(Number) })
    .from(faults)
    .where(inArray(faults.state, ["open", "closed"]))
    .groupBy(faults.craftId);
  const glances = new Map((await tx.select().from(summaries)).map((s) => [s.craftId, s]));
  const ofVersion = new Map(runRows.map((r) => [r.versionId, r]));
  const openFaults = new Map(faultRows.map((f) => [f.craftId, f.count]));
  return craftRows.flatMap((craft): CraftSummary[] => {
    const own = versionRows.filter((v) => v.craftId === craft.id);
    const newest = own.at(-1);
    if (!newest) return [];
    const glance = glances.get(craft.id);
    return [
      {
        slug: craft.slug,
        name: craft.name,
        summary: craft.summary,
        newest: newest.label,
        glance: glance?.stamp.endsWith(`/${SHAPE}`) ? glance.summary : null,
        current: glance?.stamp === stampOf(newest),
        versions: own.slice(-SHOWN).map((v) => {
          const r = ofVersion.get(v.id);
          return [
            v.label,
            r?.reached ?? 0,
            r?.failed === null || r?.failed === undefined ? null : Number(r.failed),
            v.frozenAt === null ? 0 : 1,
          ];
        }),
        hidden: Math.max(0, own.length - SHOWN),
        openFaults: openFaults.get(craft.id) ?? 0,
        runs: own.reduce((sum, v) => sum + (ofVersion.get(v.id)?.count ?? 0), 0),
      },
    ];
  });
}

/** What a glance holds; raised when that changes, so that those of an older release are worked out anew. */
const SHAPE = 2;
/** Names the state of a version that a glance was worked out from. */
const stampOf = (v: { id: number; revision: number }) => `${v.id}.${v.revision}/${SHAPE}`;

/**
 * ms without a save after which a craft is looked at, and ms after the first save when it is looked at anyway: who
 * types is not in the list, and an evaluation costs a core's time.
 */
const QUIET = 2500;
const AT_LATEST = 15_000;
const STEP = 500;

/**
 * Works out glances in the background, one after the other: after a save of the craft that was saved, at the start of
 * all that are out of date.
 */
export class Glances {
  private waiting = new Map<string, { first: number; last: number }>();
  private busy: Promise<void> | null = null;
  private stopped = false;
  constructor(
    private readonly db: Database,
    private readonly evaluator: Evaluator,
  ) {}

  /** Looks at a craft soon; with none, at all, at once. */
  touch(slug = ""): void {
    const now = slug === "" ? 0 : performance.now();
    this.waiting.set(slug, { first: this.waiting.get(slug)?.first ?? now, last: now });
    this.busy ??= this.work().finally(() => {
      this.busy = null;
    });
  }

  /** Resolves when nothing waits any more. */
  async settled(): Promise<void> {
    while (this.busy) await this.busy;
  }

  private async work(): Promise<void> {
    while (this.waiting.size > 0 && !this.stopped) {
      const now = performance.now();
      const due = [...this.waiting].find(
        ([, w]) => w.last === 0 || now - w.last > QUIET || now - w.first > AT_LATEST,
      )?.[0];
      if (due === undefined) {
        await new Promise((r) => setTimeout(r, STEP).unref());
        continue;
      }
      this.waiting.delete(due);
      try {
        if (due !== "") await this.one(due);
        else
          for (const c of await this.db.transaction(listCrafts, reading))
            if (!c.current) this.waiting.set(c.slug, { first: 0, last: 0 });
      } catch {
        // A glance that could not be worked out is worked out when the craft is saved next.
      }
    }
  }

  private async one(slug: string): Promise<void> {
    const newest = await this.db.transaction(async (tx) => {
      const [craft] = await tx.select().from(crafts).where(eq(crafts.slug, slug));
      if (!craft) return null;
      const [row] = await tx
        .select()
        .from(versions)
        .where(eq(versions.craftId, craft.id))
        .orderBy(sql`${versions.id} desc`)
        .limit(1);
      const [held] = await tx.select({ stamp: summaries.stamp }).from(summaries).where(eq(summaries.craftId, craft.id));
      return row && held?.stamp !== stampOf(row) ? row : null;
    }, reading);
    if (!newest) return;
    const summary = await this.evaluator.glance(designOf(newest));
    if (!summary || this.stopped) return;
    const stamp = stampOf(newest);
    await this.db.transaction(async (tx) => {
      const [there] = await tx.select({ id: crafts.id }).from(crafts).where(eq(crafts.id, newest.craftId));
      if (there)
        await tx
          .insert(summaries)
          .values({ craftId: newest.craftId, stamp, summary })
          .onConflictDoUpdate({ target: summaries.craftId, set: { stamp, summary } });
    });
  }

  stop(): void {
    this.stopped = true;
  }
}
