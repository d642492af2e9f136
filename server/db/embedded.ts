import { createHash } from "node:crypto";
import { existsSync, readFileSync, readdirSync, rmSync } from "node:fs";
import { mkdir } from "node:fs/promises";
import { join } from "node:path";
import { drizzle } from "drizzle-orm/node-postgres";
import pg from "pg";
import { full, unavailable } from "../problems";
import { cannotOpen, CannotOpen } from "./cannotOpen";
import { copyTree, freeSpace, swapFolder, syncTree, writeWhole } from "./disk";
import { lastSeq, snapshotsOf, stateAt, writeSnapshot } from "./history";
import { type Change, Journal, JournalRefused, segmentsOf } from "./journal";
import { lockFolder } from "./lock";
import { migrateTo, schemaNow, schemaOf } from "./migrations";
import { isEmpty, lastOpened, rememberFolder } from "./known";
import type { Database, OpenDatabase } from "./open";
import { TABLE_KEYS, highestOf, putRows, rowsOf } from "./rowsOut";
import * as schema from "./schema";
import { templateFolder } from "./template";
import { Engine, EngineLost, EngineSocket } from "./wire";
import { startThread } from "../thread";

/** ms that the engine may take for one message before it is taken for hung, and started anew. */
const PATIENCE = Number(process.env.ULTRAFORM_WATCHDOG_MS ?? 20_000);
/**
 * Opening may take longer: an older folder may have a log to read first, and a first start without a template makes
 * the cluster.
 */
const OPENING = 120_000;
/** Bytes that stay free: enough for the database's own log, so that it never meets a full disk itself. */
const RESERVE = 24 * 1024 * 1024;
/** Bytes of journal after which a new snapshot is taken in the background. */
const SEGMENT = Number(process.env.ULTRAFORM_SEGMENT_BYTES ?? 12 * 1024 * 1024);

const clusterOf = (data: string) => join(data, "database");

/** What the data folder says of itself. */
interface FolderState {
  format: 1;
  /** Time stamp of the newest migration of the release that last opened it. */
  schema: number;
  /** Closed in good order, with everything on the disk: the cluster may be opened as it is. */
  clean: boolean;
}

function readFolderState(data: string): FolderState | null {
  try {
    return JSON.parse(readFileSync(join(data, "state.json"), "utf8")) as FolderState;
  } catch {
    return null;
  }
}
const writeFolderState = (data: string, clean: boolean, at = schemaNow()) =>
  writeWhole(join(data, "state.json"), `${JSON.stringify({ format: 1, schema: at, clean } satisfies FolderState)}\n`);

const poolOn = (engine: () => Engine) => {
  const pool = new pg.Pool({
    max: 1,
    user: "postgres",
    database: "postgres",
    idleTimeoutMillis: 0,
    stream: () => new EngineSocket(engine) as never,
  });
  // A connection that ends while nobody uses it: the next one finds out by itself.
  pool.on("error", () => {});
  return pool;
};

/**
 * Notes what each statement changes in a table of the session; outside of a transaction that is journalled, nothing
 * may be changed.
 */
const NOTING = `
create schema if not exists journal;
create table if not exists journal.position (seq bigint not null);
insert into journal.position select 0 where not exists (select from journal.position);
create or replace function journal.note() returns trigger language plpgsql as $$
begin
  if coalesce(current_setting('ultraform.writing', true), '') <> 'on' then
    raise exception 'a change outside of a journalled transaction';
  end if;
  if tg_op = 'DELETE' then
    insert into pg_temp.changes (t, k, r) values (tg_table_name, to_jsonb(old) ->> tg_argv[0], null);
  else
    insert into pg_temp.changes (t, k, r) values (tg_table_name, to_jsonb(new) ->> tg_argv[0], to_jsonb(new));
  end if;
  return null;
end $$;
${TABLE_KEYS.map(({ name, key }) => `create or replace trigger journal_note after insert or update or delete on "${name}" for each row execute function journal.note('${key}');`).join("\n")}`;
/** Installs the noting of changes, unless it is there as this release has it. */
async function installNoting(client: pg.PoolClient): Promise<void> {
  const sign = createHash("sha256").update(NOTING).digest("hex");
  const { rows } = await client.query(
    "select obj_description(oid, 'pg_namespace') as sign from pg_namespace where nspname = 'journal'",
  );
  if (rows[0]?.sign === sign) return;
  await client.query(`${NOTING}\ncomment on schema journal is '${sign}';`);
}
const SESSION =
  "create temp table if not exists changes (n serial, t text not null, k text not null, r jsonb) on commit delete rows";

/** Runs work on one connection of a cluster that only it uses. */
async function onCluster<T>(
  folder: string | null,
  image: Uint8Array | null,
  work: (client: pg.PoolClient) => Promise<T>,
): Promise<T> {
  const engine = await Engine.open({ folder, image }, OPENING);
  const pool = poolOn(() => engine);
  try {
    const client = await pool.connect();
    try {
      return await work(client);
    } finally {
      client.release();
    }
  } finally {
    await pool.end().catch(() => {});
    await engine.close();
  }
}

/**
 * A cluster with the tables of this release and nothing in them, as fast as can be: a copy of the one that was made
 * at the build, else made now.
 */
export async function freshCluster(folder: string): Promise<void> {
  const template = templateFolder("empty");
  if (template) await copyTree(join(template, "database"), folder);
}

/**
 * Builds the cluster anew from its snapshots and journal, beside the one that is there, and puts it in its place;
 * that one is kept as `database.before`.
 * @throws DamagedHistory, CannotOpen
 */
async function rebuild(data: string): Promise<number> {
  const state = await stateAt(data);
  if (state.head.schema > schemaNow()) throw cannotOpen.newer(data);
  const next = join(data, "database.next");
  rmSync(next, { recursive: true, force: true });
  // The template has the shape of this release; rows of an older one need the shape that they were written in first.
  if (state.head.schema === schemaNow()) await freshCluster(next);
  await onCluster(next, null, async (client) => {
    if ((await schemaOf(client)) < state.head.schema) await migrateTo(client, state.head.schema);
    // Rows of a commit fit together already: neither references nor the noting of changes need to look at them again.
    await client.query("set session_replication_role = replica");
    await client.query("begin");
    await putRows(client, state.rows, state.head.highest);
    await client.query("commit");
    await client.query("set session_replication_role = origin");
    if (state.head.schema < schemaNow()) await migrateTo(client);
    await installNoting(client);
    await client.query("update journal.position set seq = $1", [state.head.seq]);
  });
  await swapFolder(next, clusterOf(data), join(data, "database.before"));
  return state.head.seq;
}

/** Everything that is looked at before anything is written. */
async function look(
  data: string,
  fresh: boolean,
): Promise<{ state: FolderState | null; cluster: boolean; history: boolean }> {
  if (isEmpty(data) && !fresh) {
    const last = lastOpened(data);
    if (last) throw cannotOpen.missing(data, last);
  }
  try {
    await mkdir(data, { recursive: true });
    await writeWhole(join(data, "probe"), "");
    rmSync(join(data, "probe"), { force: true });
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === "ENOSPC" || code === "EDQUOT") throw cannotOpen.full(data);
    throw cannotOpen.readOnly(
      data,
      code === "EROFS"
        ? "it is read-only"
        : code === "EACCES" || code === "EPERM"
          ? "no permission"
          : (code ?? "unknown reason"),
    );
  }
  const state = readFolderState(data);
  if (state && state.schema > schemaNow()) throw cannotOpen.newer(data);
  const cluster = existsSync(join(clusterOf(data), "PG_VERSION"));
  const history = snapshotsOf(data).length > 0;
  if (!cluster && !history) {
    if (existsSync(clusterOf(data)) && readdirSync(clusterOf(data)).length > 0)
      throw cannotOpen.damaged(data, "it does not open");
    if (state || segmentsOf(data).length > 0) throw cannotOpen.damaged(data, "its files are gone");
    if (!isEmpty(data)) throw cannotOpen.foreign(data);
  }
  return { state, cluster, history };
}

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
  const notes: string[] = [];
  let release = async () => {};
  let begun: Awaited<ReturnType<typeof look>> | null = null;
  if (folder !== null) {
    begun = await look(folder, fresh);
    release = await lockFolder(folder, lost);
  }
  try {
    return await opened(folder, begun, { now, remember, notes, release });
  } catch (error) {
    await release();
    throw error;
  }
}

async function opened(
  folder: string | null,
  begun: Awaited<ReturnType<typeof look>> | null,
  {
    now,
    remember,
    notes,
    release,
  }: { now: () => string; remember: boolean; notes: string[]; release: () => Promise<void> },
): Promise<OpenDatabase> {
  let engine: Engine;
  const pool = poolOn(() => engine);
  let journal: Journal | null = null;

  const install = async (client: pg.PoolClient) => {
    const had = await schemaOf(client);
    if (had > schemaNow()) throw cannotOpen.newer(folder ?? "memory");
    if (had < schemaNow()) await migrateTo(client);
    await installNoting(client);
    return had;
  };
  const start = async () => {
    engine = await Engine.open(
      { folder: folder === null ? null : clusterOf(folder), image: folder === null ? memoryImage() : null },
      OPENING,
      PATIENCE,
    );
  };
  const withClient = async <T>(work: (client: pg.PoolClient) => Promise<T>): Promise<T> => {
    const client = await pool.connect();
    try {
      return await work(client);
    } finally {
      client.release();
    }
  };
  /** Opens the cluster, or builds it anew and opens that. Gives the shape it had. */
  const openOrRebuild = async (data: string, trusted: boolean, why: string): Promise<number> => {
    const history = snapshotsOf(data).length > 0;
    if (trusted)
      try {
        await start();
        const had = await withClient(install);
        if (!history) return had;
        const { rows } = await withClient((c) => c.query("select seq from journal.position"));
        const last = lastSeq(data);
        if (Number(rows[0].seq) >= last) return had;
        why = "it lagged behind its journal";
        await engine.kill();
      } catch (error) {
        if (error instanceof CannotOpen) throw error;
        if (!history) throw cannotOpen.damaged(data, (error as Error).message);
        await engine?.kill();
        why = "it did not open";
      }
    let seq: number;
    try {
      seq = await rebuild(data);
    } catch (error) {
      if (error instanceof CannotOpen) throw error;
      if ((error as NodeJS.ErrnoException).code === "ENOSPC") throw cannotOpen.full(data);
      throw cannotOpen.damaged(data, (error as Error).message);
    }
    await start();
    await withClient(install);
    notes.push(
      `The database was rebuilt from its journal because ${why}. Nothing that was saved is missing (${seq} saves on record).`,
    );
    return schemaNow();
  };

  if (folder === null) {
    await start();
    await withClient(async (c) => {
      await install(c);
    });
  } else {
    const { state, cluster, history } = begun ?? (await look(folder, true));
    if (!cluster && !history) await freshCluster(clusterOf(folder));
    // A folder of a release before the journal has no state: it is opened as it is.
    const trusted = history ? cluster && state?.clean === true : true;
    const had = await openOrRebuild(
      folder,
      trusted,
      cluster ? "the server was not stopped properly last time" : "its files were missing",
    );
    const { rows } = await withClient((c) => c.query("select seq from journal.position"));
    const seq = Number(rows[0].seq);
    // A first snapshot; one after an update changed the shape of rows; one when the journal does not lead up to here.
    if (snapshotsOf(folder).length === 0 || had !== schemaNow() || lastSeq(folder) !== seq)
      await withClient(async (c) => {
        const next = Math.max(seq, lastSeq(folder), 0);
        await c.query("update journal.position set seq = $1", [next]);
        await writeSnapshot(
          folder,
          { format: "ultraform-snapshot", seq: next, at: now(), schema: schemaNow(), highest: await highestOf(c) },
          rowsOf(c),
        );
        for (const old of segmentsOf(folder)) if (old.first > next) rmSync(old.file, { force: true });
        journal = await Journal.open(folder, schemaNow(), next);
      });
    else journal = await Journal.open(folder, schemaNow(), seq);
    await writeFolderState(folder, false);
    if (remember) await rememberFolder(folder, now());
  }
  pool.on("connect", (client) => void client.query(SESSION).catch(() => {}));
  // The connection that was used to open has no table for changes yet.
  await withClient((c) => c.query(SESSION));

  /** Starts the engine anew after it was lost; what the journal holds is what counts. */
  let reviving: Promise<void> | null = null;
  const revive = (): Promise<void> => {
    reviving ??= (async () => {
      if (folder === null) throw unavailable("The database in memory was lost.");
      const needed = RESERVE + 64 * 1024 * 1024;
      if ((await freeSpace(folder)) < needed)
        throw full(
          `The disk is full: nothing can be saved until there is room (${Math.ceil(needed / 1048576)} MB). What you entered is still here.`,
        );
      await engine.kill();
      await rebuild(folder);
      await start();
      await withClient(install);
    })().finally(() => {
      reviving = null;
    });
    return reviving;
  };
  const alive = async () => {
    if (reviving) await reviving;
    if (engine.lost) await revive();
  };
  const checkSpace = async (bytes = 0) => {
    if (folder !== null && (await freeSpace(folder)) < RESERVE + bytes)
      throw full("The disk is full: this was not saved. Make room and save again; what you entered is still here.");
  };

  const keeper = folder === null ? null : makeKeeper(folder);

  const transaction = async <T>(work: (tx: never) => Promise<T>, config?: { accessMode?: string }): Promise<T> => {
    await alive();
    const reading = config?.accessMode === "read only";
    if (!reading) await checkSpace();
    const client = await pool.connect();
    let result: { value: T } | null = null;
    let durable = false;
    let changed: Change[] = [];
    let broken: Error | undefined;
    try {
      await client.query(reading ? "begin isolation level repeatable read read only" : "begin");
      if (!reading) await client.query("select set_config('ultraform.writing', 'on', true)");
      result = { value: await work(drizzle(client, { schema }) as never) };
      if (!reading) {
        const { rows } = await client.query("select t, k, r from pg_temp.changes order by n");
        if (rows.length > 0) {
          if (journal) await client.query("update journal.position set seq = $1", [journal.seq + 1]);
          changed = rows.map(({ t, k, r }): Change => [t, k, r]);
          if (journal) await journal.append(changed, now());
          durable = true;
        }
      }
      await client.query("commit");
      for (const tell of watchers) tell(changed);
      if (durable) keeper?.written(journal);
      return result.value;
    } catch (error) {
      const lost = engine.lost ?? (error instanceof EngineLost ? error : null);
      if (lost) broken = lost;
      // The journal has it: it counts, and the engine that could not take it is started anew from there.
      if (durable && result) {
        broken ??= error as Error;
        await engine.kill();
        for (const tell of watchers) tell(changed);
        return result.value;
      }
      if (!lost)
        await client.query("rollback").catch((e: Error) => {
          broken = e;
        });
      if (error instanceof JournalRefused)
        throw full(
          `The disk did not take it (${error.code}): this was not saved. Make room and save again; what you entered is still here.`,
        );
      if (lost)
        throw unavailable(
          "The database did not answer and is being started anew. This was not saved; try again in a moment. What you entered is still here.",
        );
      throw error;
    } finally {
      client.release(broken);
    }
  };

  const watchers: ((changes: readonly Change[]) => void)[] = [];
  const db = drizzle(pool, { schema }) as unknown as Database;
  db.transaction = transaction as never;
  return {
    db,
    kind: "embedded",
    folder,
    notes,
    checkSpace,
    healthy: () => engine.lost === null,
    watch: (tell) => void watchers.push(tell),
    close: async () => {
      await keeper?.stop();
      await pool.end().catch(() => {});
      const whole = engine.lost === null;
      await engine.close();
      await journal?.close();
      if (folder !== null && whole) {
        // Only what is on the disk may be called closed. (Tests that open and close a hundred folders, and cut no
        // power, leave it to the system.)
        if (process.env.ULTRAFORM_UNSYNCED_CLOSE !== "1") await syncTree(clusterOf(folder));
        await writeFolderState(folder, true);
      }
      await release();
    },
  };
}

let image: Uint8Array | null | undefined;
/** The cluster that tests begin with, when one was made. */
function memoryImage(): Uint8Array | null {
  const file = process.env.ULTRAFORM_TEST_IMAGE;
  image ??= file && existsSync(file) ? readFileSync(file) : null;
  return image;
}

/**
 * Takes snapshots in the background: closes the journal's segment when it is large, and has a thread lay it over the
 * snapshot before.
 */
function makeKeeper(data: string) {
  let busy: Promise<void> | null = null;
  const run = (seq: number) =>
    new Promise<void>((resolve) => {
      const thread = startThread("keeper", { workerData: { data, seq } });
      // A snapshot that could not be taken is taken the next time; until then the journal is only longer.
      thread.on("error", () => resolve());
      thread.on("exit", () => resolve());
    });
  return {
    written(journal: Journal | null): void {
      if (!journal || busy || journal.size < SEGMENT) return;
      busy = journal
        .rotate()
        .then(run)
        .catch(() => {})
        .finally(() => {
          busy = null;
        });
    },
    async stop(): Promise<void> {
      await busy;
    },
  };
}
