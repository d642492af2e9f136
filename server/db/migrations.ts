import { readFileSync } from "node:fs";
import { join } from "node:path";
import { type MigrationMeta, readMigrationFiles } from "drizzle-orm/migrator";
import { drizzle } from "drizzle-orm/node-postgres";
import type { PoolClient } from "pg";
import { projectRoot } from "../root";

const FOLDER = "server/db/migrations";

/** The migrations that this release knows, oldest first. */
export const migrations = (): MigrationMeta[] => readMigrationFiles({ migrationsFolder: join(projectRoot(), FOLDER) });

/** Time stamp of the newest migration: names the shape that rows have in this release. */
export const schemaNow = (): number => {
  const journal = JSON.parse(readFileSync(join(projectRoot(), FOLDER, "meta/_journal.json"), "utf8")) as {
    entries: { when: number }[];
  };
  return journal.entries.at(-1)?.when ?? 0;
};

/** Shape that a database has; 0: it has no tables yet. */
export async function schemaOf(client: PoolClient): Promise<number> {
  const { rows: there } = await client.query("select to_regclass('drizzle.__drizzle_migrations') as t");
  if (there[0].t === null) return 0;
  const { rows } = await client.query("select max(created_at) as last from drizzle.__drizzle_migrations");
  return Number(rows[0].last ?? 0);
}

/** Brings a database to a shape: by default to that of this release. What it has already is left as it is. */
export async function migrateTo(client: PoolClient, schema = Number.POSITIVE_INFINITY): Promise<void> {
  const db = drizzle(client);
  const list = migrations().filter((m) => m.folderMillis <= schema);
  // The way that drizzle's own migrator goes, with the list cut.
  const inner = db as unknown as {
    dialect: { migrate: (list: MigrationMeta[], session: unknown, config: object) => Promise<void> };
    session: unknown;
  };
  await inner.dialect.migrate(list, inner.session, {});
}
