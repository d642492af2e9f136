import { createHash } from "node:crypto";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import pg from "pg";
import { cannotOpen } from "./cannotOpen";
import { copyTree, swapFolder } from "./disk";
import { clusterOf } from "./folder";
import { stateAt } from "./history";
import { migrateTo, schemaNow, schemaOf } from "./migrations";
import { TABLE_KEYS, putRows } from "./rowsOut";
import { templateFolder } from "./template";
import { Engine, EngineSocket } from "./wire";

/**
 * ms that opening may take: an older folder may have a log to read first, and a first start without a template makes
 * the cluster.
 */
export const OPENING = 120_000;

export const poolOn = (engine: () => Engine) => {
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
${TABLE_KEYS.map(
  ({ name, key }) =>
    `create or replace trigger journal_note after insert or update or delete on "${name}" for each row ` +
    `execute function journal.note('${key}');`,
).join("\n")}`;
/** Installs the noting of changes, unless it is there as this release has it. */
export async function installNoting(client: pg.PoolClient): Promise<void> {
  const sign = createHash("sha256").update(NOTING).digest("hex");
  const { rows } = await client.query(
    "select obj_description(oid, 'pg_namespace') as sign from pg_namespace where nspname = 'journal'",
  );
  if (rows[0]?.sign === sign) return;
  await client.query(`${NOTING}\ncomment on schema journal is '${sign}';`);
}
/** What a connection needs before it may change anything. */
export const SESSION =
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
export async function rebuild(data: string): Promise<number> {
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
let image: Uint8Array | null | undefined;
/** The cluster that tests begin with, when one was made. */
export function memoryImage(): Uint8Array | null {
  const file = process.env.ULTRAFORM_TEST_IMAGE;
  image ??= file && existsSync(file) ? readFileSync(file) : null;
  return image;
}
