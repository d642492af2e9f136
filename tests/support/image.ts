import { existsSync, mkdirSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { drizzle } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import { schemaNow } from "../../server/db/migrations";
import { built } from "./built";
import { root } from "./spawn";

/**
 * Makes once the cluster that every test file's database begins with: migrating one takes seconds, copying it a tenth
 * of one.
 */
export default async function setup(): Promise<void> {
  built();
  const folder = join(root, "node_modules/.cache/ultraform");
  const file = join(folder, `cluster-${schemaNow()}.tar`);
  if (!existsSync(file)) {
    const client = new PGlite();
    await migrate(drizzle(client), { migrationsFolder: join(root, "server/db/migrations") });
    const image = await client.dumpDataDir("none");
    mkdirSync(folder, { recursive: true });
    writeFileSync(`${file}.part`, Buffer.from(await image.arrayBuffer()));
    renameSync(`${file}.part`, file);
    await client.close();
  }
  process.env.ULTRAFORM_TEST_IMAGE = file;
  process.env.ULTRAFORM_UNSYNCED_CLOSE = "1";
  // Folders of tests are not remembered among this user's own.
  process.env.XDG_STATE_HOME = folder;
}
