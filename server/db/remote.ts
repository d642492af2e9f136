import { setTimeout as pause } from "node:timers/promises";
import { drizzle } from "drizzle-orm/node-postgres";
import pg from "pg";
import { unavailable } from "../problems";
import { cannotOpen } from "./cannotOpen";
import { migrateTo, schemaNow, schemaOf } from "./migrations";
import type { Database, OpenDatabase } from "./open";
import { TABLE_KEYS } from "./rowsOut";
import * as schema from "./schema";

/** Codes after which a transaction is tried again: it met another one, or a name that was free a moment ago. */
const AGAIN = new Set(["40001", "40P01", "23505", "55P03"]);
const TRIES = 10;
/** Codes and messages of a connection that is gone. */
const GONE = /^(08|57P0|53300)|ECONNREFUSED|ECONNRESET|EPIPE|Connection terminated|timeout/;
/** The lock under which two servers that start at once bring the tables up to date one after the other. */
const MIGRATING = 4_870_001;

export const codeOf = (error: unknown): string => {
  for (let e = error as { code?: unknown; cause?: unknown } | undefined; e; e = e.cause as typeof e)
    if (typeof e.code === "string") return e.code;
  return "";
};
const gone = (error: unknown) =>
  GONE.test(codeOf(error)) ||
  GONE.test(String((error as Error)?.message)) ||
  GONE.test(String((error as { cause?: Error })?.cause?.message));

/**
 * Opens a database on a PostgreSQL server. It may be shared by several application servers: what they write at once
 * is kept apart by row locks, and a transaction that met another is tried again.
 * A lost connection is made anew at the next request. Durability, snapshots and point in time are the database
 * server's own.
 */
export async function openServer(url: string): Promise<OpenDatabase> {
  const pool = new pg.Pool({
    connectionString: url,
    max: 8,
    connectionTimeoutMillis: 10_000,
    statement_timeout: 30_000,
    idle_in_transaction_session_timeout: 60_000,
  });
  pool.on("error", () => {});
  const client = await pool.connect();
  try {
    await client.query("select pg_advisory_lock($1)", [MIGRATING]);
    const had = await schemaOf(client);
    if (had > schemaNow()) throw cannotOpen.newer("the database server");
    if (had > 0) {
      const { rows } = await client.query(
        "select count(*)::int as n from unnest($1::text[]) t where to_regclass(t) is not null",
        [TABLE_KEYS.map((t) => t.name)],
      );
      if (rows[0].n === 0) throw cannotOpen.emptied();
    }
    await migrateTo(client);
  } finally {
    await client.query("select pg_advisory_unlock($1)", [MIGRATING]).catch(() => {});
    client.release();
  }

  const transaction = async <T>(work: (tx: never) => Promise<T>, config?: { accessMode?: string }): Promise<T> => {
    const reading = config?.accessMode === "read only";
    for (let attempt = 1; ; attempt++) {
      let committing = false;
      let broken: Error | undefined;
      let held: pg.PoolClient | null = null;
      try {
        held = await pool.connect();
        // A connection that ends in the middle fails its query; the event itself must not end the server.
        held.on("error", ignore);
        await held.query(reading ? "begin isolation level repeatable read read only" : "begin");
        const value = await work(drizzle(held, { schema }) as never);
        committing = true;
        await held.query("commit");
        return value;
      } catch (error) {
        if (gone(error)) broken = error as Error;
        else if (held)
          await held.query("rollback").catch((e: Error) => {
            broken = e;
          });
        const again = (AGAIN.has(codeOf(error)) || (gone(error) && !committing)) && attempt < TRIES;
        if (again) {
          await pause(20 * attempt + 30 * Math.random());
          continue;
        }
        if (gone(error))
          throw unavailable(
            committing
              ? "The connection to the database was lost while this was saved: look whether it is there " +
                  "before you save again."
              : "The database server cannot be reached. This was not saved; what you entered is still here.",
          );
        throw error;
      } finally {
        if (held) {
          held.off("error", ignore);
          held.release(broken);
        }
      }
    }
  };
  const db = drizzle(pool, { schema }) as unknown as Database;
  db.transaction = transaction as never;
  return {
    db,
    kind: "server",
    folder: null,
    notes: [],
    checkSpace: async () => {},
    healthy: () => true,
    watch: null,
    close: () => pool.end(),
  };
}
const ignore = () => {};
