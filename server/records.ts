import { setTimeout as wait } from "node:timers/promises";
import { promisify } from "node:util";
import { gunzipSync, gzip } from "node:zlib";
import { and, eq, sql } from "drizzle-orm";
import type { CraftRecord } from "../api/contracts";
import type { Database, OpenDatabase } from "./db/open";
import { crafts } from "./db/schema";
import { listCrafts } from "./glances";
import { notFound } from "./problems";
import { readCraftIn } from "./rows";
import { type Tx, reading } from "./db/transaction";
import { rulesNow } from "./rules";

interface Held {
  stamp: number;
  /**
   * The craft's record as it is sent, in gzip: a twentieth of the text, so that a whole workshop is held and goes out
   * as it lies.
   */
  packed: Buffer;
}

const pack = promisify(gzip);
export const textOf = ({ packed }: Held): Buffer => gunzipSync(packed);
export const recordOf = (held: Held): CraftRecord => JSON.parse(textOf(held).toString("utf8")) as CraftRecord;

/** Waits without keeping a process alive that has nothing else to do. */
const pause = (ms: number) => wait(ms, undefined, { ref: false });
/** ms after a start or an import until crafts are read ahead, and ms between one and the next. */
const WARM_AFTER = 1500;
const WARM_PAUSE = 60;
/** Bytes of records that are held in memory. */
const MOST = 8_000_000;

/**
 * Crafts as they were read, held as long as nobody wrote to them: reading and checking a large one takes a tenth of a
 * second, looking at its stamp a thousandth. The stamp stands in the database,
 * so this holds with several servers on one database too.
 */
export class Records {
  private readonly held = new Map<number, Held>();
  private size = 0;
  private lists: { stamp: string; text: Buffer } | null = null;
  /**
   * Where nobody else writes: the stamp of each craft that was written to since the start (-1: deleted), and how
   * often the list changed.
   */
  private seen: { stamps: Map<number, number>; list: number } | null = null;
  private readonly ids = new Map<string, number>();
  private warming: Promise<void> | null = null;
  constructor(
    private readonly db: Database,
    watch: OpenDatabase["watch"] = null,
  ) {
    if (!watch) return;
    const seen = { stamps: new Map<number, number>(), list: 0 };
    this.seen = seen;
    watch((changes) => {
      for (const [table, key, row] of changes) {
        if (table === "crafts") seen.stamps.set(Number(key), (row as { stamp: number } | null)?.stamp ?? -1);
        if (table === "crafts" || table === "summaries") seen.list++;
      }
    });
  }

  /**
   * What is held of a craft and still holds, without asking the database; where others write too, nothing is known
   * without.
   */
  private atHand(slug: string): Held | undefined {
    const id = this.ids.get(slug);
    const held = id === undefined ? undefined : this.held.get(id);
    if (!this.seen || id === undefined || !held) return undefined;
    return (this.seen.stamps.get(id) ?? held.stamp) === held.stamp ? held : undefined;
  }

  /** @throws a problem (404) when there is no such craft */
  async get(slug: string): Promise<Held> {
    const there = this.atHand(slug);
    if (there) return there;
    // One look at the stamp; if the database does not answer, the transaction below finds out why.
    const [seen] = await this.db
      .select({ id: crafts.id, stamp: crafts.stamp })
      .from(crafts)
      .where(eq(crafts.slug, slug))
      .catch(() => []);
    const held = seen && this.held.get(seen.id);
    if (held && held.stamp === seen.stamp) {
      // Used last is let go of last.
      this.held.delete(seen.id);
      this.held.set(seen.id, held);
      return held;
    }
    return this.db.transaction(async (tx) => {
      const [craft] = await tx.select().from(crafts).where(eq(crafts.slug, slug));
      if (!craft) throw notFound(`There is no craft “${slug}”.`);
      const { whole, ...record } = await readCraftIn(tx, craft);
      this.ids.set(slug, craft.id);
      if (whole && craft.checked !== rulesNow()) this.foundWhole(craft);
      return this.keep(craft.id, { stamp: craft.stamp, packed: await pack(JSON.stringify(record), { level: 1 }) });
    }, reading);
  }

  /**
   * Reads what is not at hand yet, one craft at a time with pauses: who opens one then need not wait. Only where it
   * is known without asking what still holds.
   */
  warm(): void {
    if (!this.seen || this.warming) return;
    this.warming = (async () => {
      await pause(WARM_AFTER);
      const { rows } = await this.db.execute<{ slug: string }>(sql`select slug from crafts order by id desc`);
      for (const { slug } of rows) {
        if (this.size > 0.8 * MOST) return;
        if (this.atHand(slug)) continue;
        await this.get(slug);
        await pause(WARM_PAUSE);
      }
    })()
      // What could not be read now is read when it is opened.
      .catch(() => {})
      .finally(() => {
        this.warming = null;
      });
  }

  /** A craft that this transaction has just locked, as it was before: a copy that may be added to. */
  async before(tx: Tx, craft: typeof crafts.$inferSelect): Promise<CraftRecord> {
    const held = this.held.get(craft.id);
    if (held?.stamp !== craft.stamp - 1) return readCraftIn(tx, craft);
    return recordOf(held);
  }

  /** The workshop's list as it is sent. */
  async list(): Promise<Buffer> {
    const own = this.seen && `own ${this.seen.list}`;
    if (own && this.lists?.stamp === own) return this.lists.text;
    return this.db.transaction(async (tx) => {
      const { rows } = await tx.execute<{ stamp: string | null }>(
        sql`select md5(string_agg(c.id || '.' || c.stamp || '.' || coalesce(s.stamp, ''), ',' order by c.id)) as stamp from crafts c left join summaries s on s.craft_id = c.id`,
      );
      // A change during the reading makes another number: what was read under this one is then read again.
      const stamp = own ?? rows[0]?.stamp ?? "none";
      if (this.lists?.stamp !== stamp) this.lists = { stamp, text: Buffer.from(JSON.stringify(await listCrafts(tx))) };
      return this.lists.text;
    }, reading);
  }

  /**
   * Notes that a craft was found whole, so that it need not be looked through again; after the answer, and only if
   * nobody wrote to it meanwhile.
   */
  private foundWhole({ id, stamp }: typeof crafts.$inferSelect): void {
    setImmediate(
      () =>
        void this.db
          .transaction(async (tx) => {
            await tx
              .update(crafts)
              .set({ checked: rulesNow() })
              .where(and(eq(crafts.id, id), eq(crafts.stamp, stamp)));
          })
          // What could not be noted is looked through again the next time.
          .catch(() => {}),
    );
  }

  private keep(id: number, next: Held): Held {
    this.size += next.packed.length - (this.held.get(id)?.packed.length ?? 0);
    this.held.delete(id);
    this.held.set(id, next);
    for (const [old, { packed }] of this.held) {
      if (this.size <= MOST || old === id) break;
      this.held.delete(old);
      this.size -= packed.length;
    }
    return next;
  }
}
