import { cpSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { root } from "./spawn";

export const allMigrations = join(root, "server/db/migrations");

/** The migrations up to one, as an older release had them. */
export function upTo(tag: string): string {
  const folder = mkdtempSync(join(tmpdir(), "ultraform-migrations-"));
  cpSync(allMigrations, folder, { recursive: true });
  const path = join(folder, "meta/_journal.json");
  const journal = JSON.parse(readFileSync(path, "utf8")) as { entries: { tag: string }[] };
  journal.entries = journal.entries.slice(0, journal.entries.findIndex((e) => e.tag === tag) + 1);
  writeFileSync(path, JSON.stringify(journal));
  return folder;
}
