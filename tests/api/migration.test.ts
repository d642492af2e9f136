import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { sql } from "drizzle-orm";
import { drizzle } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import { expect, it } from "vitest";
import * as schema from "../../server/db/schema";
import { listShelf } from "../../server/shelf";
import { root } from "../support/server";

const all = join(root, "server/db/migrations");

/** The migrations up to one, as an older release had them. */
function upTo(tag: string): string {
  const folder = mkdtempSync(join(tmpdir(), "ultraform-migrations-"));
  cpSync(all, folder, { recursive: true });
  const path = join(folder, "meta/_journal.json");
  const journal = JSON.parse(readFileSync(path, "utf8")) as { entries: { tag: string }[] };
  journal.entries = journal.entries.slice(0, journal.entries.findIndex((e) => e.tag === tag) + 1);
  writeFileSync(path, JSON.stringify(journal));
  return folder;
}

it("packs of an older release stand on the shelf after the update, with their revision", async () => {
  const client = new PGlite();
  const db = drizzle(client, { schema });
  const older = upTo("0002_packs");
  await migrate(db, { migrationsFolder: older });
  const pack = {
    name: "Old one",
    chemistry: "lipo",
    series: 3,
    capacity: { value: 2.2, evidence: "datasheet" },
    cellResistance: { value: 0.008, evidence: "guess" },
    cRating: 25,
    mass: null,
    bought: null,
    cycles: 7,
    notes: "",
    readings: [],
  };
  await db.execute(sql`insert into packs (name, pack, revision) values ('Old one', ${JSON.stringify(pack)}::jsonb, 3)`);
  await migrate(db, { migrationsFolder: all });
  expect(await listShelf(db)).toEqual([{ id: 1, revision: 3, part: { ...pack, kind: "pack", price: null } }]);
  await client.close();
  rmSync(older, { recursive: true });
}, 60_000);
