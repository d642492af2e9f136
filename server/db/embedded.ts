import { rmSync } from "node:fs";
import { drizzle } from "drizzle-orm/node-postgres";
import type pg from "pg";
import { full, unavailable } from "../problems";
import { cannotOpen, CannotOpen } from "./cannotOpen";
import { OPENING, SESSION, freshCluster, installNoting, memoryImage, poolOn, rebuild } from "./cluster";
import { freeSpace, syncTree } from "./disk";
import { clusterOf, look, writeFolderState } from "./folder";
import { lastSeq, snapshotsOf, writeSnapshot } from "./history";
import { type Change, Journal, JournalRefused, segmentsOf } from "./journal";
import { rememberFolder } from "./known";
import { lockFolder } from "./lock";
import { migrateTo, schemaNow, schemaOf } from "./migrations";
import type { Database, OpenDatabase } from "./open";
import { highestOf, rowsOf } from "./rowsOut";
import * as schema from "./schema";
import { makeKeeper } from "./snapshots";
import { Engine, EngineLost } from "./wire";

/** ms that the engine may take for one message before it is taken for hung, and started anew. */
const PATIENCE = Number(process.env.ULTRAFORM_WATCHDOG_MS ?? 20_000);
/** Bytes that stay free: enough for the database's own log, so that it never meets a full disk itself. */
const RESERVE = 24 * 1024 * 1024;

export interface EmbeddedOptions {
  /** Time as ISO 8601. */
  now: () => string;
  /** Begin a new workshop also where one is known to have been. */
  fresh?: boolean;
  /** Remember the folder as one of this user's own. */
  remember?: boolean;
  /** Told when the data folder's lock is lost while the server runs. */
  lost?: () => void;
}

/**
 * Opens the embedded database in `folder` (null: in memory, for tests). Every change is in the journal on the disk
 * before it is acknowledged; a cluster that was not closed in good order,
 * does not open or lags behind the journal is built anew from it.
 * @throws CannotOpen with the sentence for the user
 */
export async function openEmbedded(
  folder: string | null,
  { now, fresh = false, remember = false, lost }: EmbeddedOptions,
): Promise<OpenDatabase> {
  const found = folder === null ? null : await look(folder, fresh);
  const release = folder === null ? async () => {} : await lockFolder(folder, lost);
  try {
    const store = new Embedded(folder, now);
    if (folder === null || found === null) await store.openInMemory();
    else {
      await store.openFolder(folder, found);
      if (remember) await rememberFolder(folder, now());
    }
    return await store.serve(release);
  } catch (error) {
    await release();
    throw error;
  }
}

const refusedAs = {
  full: "The disk is full: this was not saved. Make room and save again; what you entered is still here.",
  lost:
    "The database did not answer and is being started anew. This was not saved; try again in a moment. " +
    "What you entered is still here.",
  refused: (code: string) =>
    `The disk did not take it (${code}): this was not saved. Make room and save again; what you entered is still here.`,
};

/** The engine with its one connection, the journal that counts, and the work between them. */
class Embedded {
  private engine: Engine | null = null;
  private readonly pool = poolOn(() => this.running());
  private journal: Journal | null = null;
  private readonly notes: string[] = [];
  private readonly watchers: ((changes: readonly Change[]) => void)[] = [];
  private readonly keeper: ReturnType<typeof makeKeeper> | null;
  private reviving: Promise<void> | null = null;

  constructor(
    private readonly folder: string | null,
    private readonly now: () => string,
  ) {
    this.keeper = folder === null ? null : makeKeeper(folder);
  }

  private running(): Engine {
    if (!this.engine) throw new Error("the database has not been started");
    return this.engine;
  }

  private async start(): Promise<void> {
    const { folder } = this;
    this.engine = await Engine.open(
      { folder: folder === null ? null : clusterOf(folder), image: folder === null ? memoryImage() : null },
      OPENING,
      PATIENCE,
    );
  }

  private async withClient<T>(work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
    const client = await this.pool.connect();
    try {
      return await work(client);
    } finally {
      client.release();
    }
  }

  /** Brings the tables up to this release. Gives the shape they had. */
  private install(): Promise<number> {
    return this.withClient(async (client) => {
      const had = await schemaOf(client);
      if (had > schemaNow()) throw cannotOpen.newer(this.folder ?? "memory");
      if (had < schemaNow()) await migrateTo(client);
      await installNoting(client);
      return had;
    });
  }

  /** The number of the last save that the cluster holds. */
  private position(): Promise<number> {
    return this.withClient(async (c) => Number((await c.query("select seq from journal.position")).rows[0].seq));
  }

  async openInMemory(): Promise<void> {
    await this.start();
    await this.install();
  }

  async openFolder(folder: string, { state, cluster, history }: Awaited<ReturnType<typeof look>>): Promise<void> {
    if (!cluster && !history) await freshCluster(clusterOf(folder));
    // A folder of a release before the journal has no state: it is opened as it is.
    const trusted = history ? cluster && state?.clean === true : true;
    const why = cluster ? "the server was not stopped properly last time" : "its files were missing";
    const had = await this.openOrRebuild(folder, trusted, why);
    await this.openJournal(folder, had);
    await writeFolderState(folder, false);
  }

  /** Opens the cluster, or builds it anew and opens that. Gives the shape it had. */
  private async openOrRebuild(folder: string, trusted: boolean, why: string): Promise<number> {
    let reason = why;
    if (trusted) {
      const opened = await this.openAsItIs(folder);
      if ("had" in opened) return opened.had;
      reason = opened.why;
    }
    let seq: number;
    try {
      seq = await rebuild(folder);
    } catch (error) {
      if (error instanceof CannotOpen) throw error;
      if ((error as NodeJS.ErrnoException).code === "ENOSPC") throw cannotOpen.full(folder);
      throw cannotOpen.damaged(folder, (error as Error).message);
    }
    await this.start();
    await this.install();
    this.notes.push(
      `The database was rebuilt from its journal because ${reason}. Nothing that was saved is missing ` +
        `(${seq} saves on record).`,
    );
    return schemaNow();
  }

  /** Gives the shape that the cluster had, or why it must be built anew from the journal. */
  private async openAsItIs(folder: string): Promise<{ had: number } | { why: string }> {
    const history = snapshotsOf(folder).length > 0;
    try {
      await this.start();
      const had = await this.install();
      if (!history || (await this.position()) >= lastSeq(folder)) return { had };
      await this.engine?.kill();
      return { why: "it lagged behind its journal" };
    } catch (error) {
      if (error instanceof CannotOpen) throw error;
      if (!history) throw cannotOpen.damaged(folder, (error as Error).message);
      await this.engine?.kill();
      return { why: "it did not open" };
    }
  }

  /**
   * Opens the journal where the cluster stands, with a snapshot first when there is none, when an update changed the
   * shape of rows, or when the journal does not lead up to here.
   */
  private async openJournal(folder: string, had: number): Promise<void> {
    const seq = await this.position();
    if (snapshotsOf(folder).length > 0 && had === schemaNow() && lastSeq(folder) === seq) {
      this.journal = await Journal.open(folder, schemaNow(), seq);
      return;
    }
    await this.withClient(async (c) => {
      const next = Math.max(seq, lastSeq(folder), 0);
      await c.query("update journal.position set seq = $1", [next]);
      const head = { format: "ultraform-snapshot" as const, seq: next, at: this.now(), schema: schemaNow() };
      await writeSnapshot(folder, { ...head, highest: await highestOf(c) }, rowsOf(c));
      for (const old of segmentsOf(folder)) if (old.first > next) rmSync(old.file, { force: true });
      this.journal = await Journal.open(folder, schemaNow(), next);
    });
  }

  /** Starts the engine anew after it was lost; what the journal holds is what counts. */
  private revive(): Promise<void> {
    this.reviving ??= (async () => {
      const { folder } = this;
      if (folder === null) throw unavailable("The database in memory was lost.");
      const needed = RESERVE + 64 * 1024 * 1024;
      if ((await freeSpace(folder)) < needed)
        throw full(
          `The disk is full: nothing can be saved until there is room (${Math.ceil(needed / 1048576)} ` +
            "MB). What you entered is still here.",
        );
      await this.engine?.kill();
      await rebuild(folder);
      await this.start();
      await this.install();
    })().finally(() => {
      this.reviving = null;
    });
    return this.reviving;
  }

  private readonly checkSpace = async (bytes = 0): Promise<void> => {
    if (this.folder !== null && (await freeSpace(this.folder)) < RESERVE + bytes) throw full(refusedAs.full);
  };

  private tell(changed: readonly Change[]): void {
    for (const watcher of this.watchers) watcher(changed);
  }

  /** What the transaction on this connection changed, on the disk before it is acknowledged. Null: nothing. */
  private async journalled(client: pg.PoolClient): Promise<Change[] | null> {
    const { rows } = await client.query("select t, k, r from pg_temp.changes order by n");
    if (rows.length === 0) return null;
    const changed = rows.map(({ t, k, r }): Change => [t, k, r]);
    if (this.journal) {
      await client.query("update journal.position set seq = $1", [this.journal.seq + 1]);
      await this.journal.append(changed, this.now());
    }
    return changed;
  }

  private readonly transaction = async <T>(
    work: (tx: never) => Promise<T>,
    config?: { accessMode?: string },
  ): Promise<T> => {
    if (this.reviving) await this.reviving;
    if (this.running().lost) await this.revive();
    const reading = config?.accessMode === "read only";
    if (!reading) await this.checkSpace();
    const client = await this.pool.connect();
    let result: { value: T } | null = null;
    let changed: Change[] | null = null;
    let broken: Error | undefined;
    try {
      await client.query(reading ? "begin isolation level repeatable read read only" : "begin");
      if (!reading) await client.query("select set_config('ultraform.writing', 'on', true)");
      result = { value: await work(drizzle(client, { schema }) as never) };
      if (!reading) changed = await this.journalled(client);
      await client.query("commit");
      this.tell(changed ?? []);
      if (changed) this.keeper?.written(this.journal);
      return result.value;
    } catch (error) {
      const lost = this.running().lost ?? (error instanceof EngineLost ? error : null);
      if (lost) broken = lost;
      // The journal has it: it counts, and the engine that could not take it is started anew from there.
      if (changed && result) {
        broken ??= error as Error;
        await this.engine?.kill();
        this.tell(changed);
        return result.value;
      }
      if (!lost)
        await client.query("rollback").catch((e: Error) => {
          broken = e;
        });
      if (error instanceof JournalRefused) throw full(refusedAs.refused(error.code));
      throw lost ? unavailable(refusedAs.lost) : error;
    } finally {
      client.release(broken);
    }
  };

  private async close(): Promise<void> {
    const { folder } = this;
    await this.keeper?.stop();
    await this.pool.end().catch(() => {});
    const whole = this.running().lost === null;
    await this.running().close();
    await this.journal?.close();
    if (folder === null || !whole) return;
    // Only what is on the disk may be called closed. (Tests that open and close a hundred folders, and cut no
    // power, leave it to the system.)
    if (process.env.ULTRAFORM_UNSYNCED_CLOSE !== "1") await syncTree(clusterOf(folder));
    await writeFolderState(folder, true);
  }

  /** The database as the server uses it, once it is open. */
  async serve(release: () => Promise<void>): Promise<OpenDatabase> {
    this.pool.on("connect", (client) => void client.query(SESSION).catch(() => {}));
    // The connection that was used to open has no table for changes yet.
    await this.withClient((c) => c.query(SESSION));
    const db = drizzle(this.pool, { schema }) as unknown as Database;
    db.transaction = this.transaction as never;
    return {
      db,
      kind: "embedded",
      folder: this.folder,
      notes: this.notes,
      checkSpace: this.checkSpace,
      healthy: () => this.running().lost === null,
      watch: (tell) => void this.watchers.push(tell),
      close: async () => {
        await this.close();
        await release();
      },
    };
  }
}
