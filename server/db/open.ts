import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { PGlite } from "@electric-sql/pglite";
import type { PgDatabase, PgQueryResultHKT } from "drizzle-orm/pg-core";
import { drizzle as drizzlePg } from "drizzle-orm/node-postgres";
import { migrate as migratePg } from "drizzle-orm/node-postgres/migrator";
import { drizzle as drizzlePglite } from "drizzle-orm/pglite";
import { migrate as migratePglite } from "drizzle-orm/pglite/migrator";
import { projectRoot } from "../root";
import { lockFolder } from "./lock";
import * as schema from "./schema";

export type Database = PgDatabase<PgQueryResultHKT, typeof schema>;

export interface OpenDatabase {
  db: Database;
  close: () => Promise<void>;
}

/**
 * Opens the database and brings its tables up to date: a PostgreSQL server when `url` is given, else the embedded one in `folder`
 * (null: in memory, for tests).
 * @throws DataInUse when another server holds the folder
 */
export async function openDatabase(folder: string | null, url?: string): Promise<OpenDatabase> {
  const migrationsFolder = join(projectRoot(), "server/db/migrations");
  if (url) {
    const db = drizzlePg(url, { schema });
    await migratePg(db, { migrationsFolder });
    return { db, close: () => db.$client.end() };
  }
  let release = () => {};
  if (folder !== null) {
    mkdirSync(folder, { recursive: true });
    release = await lockFolder(folder);
  }
  const client = folder === null ? new PGlite() : new PGlite(join(folder, "database"));
  const db = drizzlePglite(client, { schema });
  await migratePglite(db, { migrationsFolder });
  return {
    db,
    close: async () => {
      await client.close();
      release();
    },
  };
}
