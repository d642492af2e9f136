import { rmSync } from "node:fs";
import { rowsOf } from "../../server/db/rowsOut";
import { stateAt } from "../../server/db/history";
import type { OpenDatabase } from "../../server/db/open";
import { createCraft, saveDesign } from "../../server/store";
import { readCraft } from "../../server/rows";
import { reading } from "../../server/db/transaction";
import { quietDesign } from "./designs";
import { freshFolder } from "./spawn";

/** A workshop in a folder of its own, what is saved into it and what it holds then, row by row. */
export const NOW = "2026-11-27T10:00:00.000Z";
export const folders: string[] = [];
export const folder = () => {
  const made = freshFolder();
  folders.push(made);
  return made;
};
/** Deletes every folder that a test made. */
export function clear(): void {
  for (const f of folders.splice(0)) rmSync(f, { recursive: true, force: true });
}

export async function saves(open: OpenDatabase, slug: string, count: number, from = 0): Promise<void> {
  for (let n = from; n < from + count; n++) {
    const design = quietDesign();
    design.brief.purpose = `save ${n + 1}`;
    await saveDesign(open.db, slug, "v1", n, design);
  }
}
export const make = (open: OpenDatabase, name = "Keeper") =>
  createCraft(open, { name, summary: "" }, quietDesign(), "", NOW);
export const purpose = async (open: OpenDatabase, slug: string) =>
  (await readCraft(open.db, slug)).file.versions[0]?.design.brief.purpose;

/** Every row that a database holds, as text. */
export async function rows(open: OpenDatabase): Promise<string[]> {
  return open.db.transaction(async (tx) => {
    const out: string[] = [];
    const client = (tx as unknown as { $client: Parameters<typeof rowsOf>[0] }).$client;
    for await (const row of rowsOf(client)) out.push(JSON.stringify(row));
    return out;
  }, reading);
}
export async function rowsAt(data: string, until = {}): Promise<string[]> {
  const out: string[] = [];
  for await (const row of (await stateAt(data, until)).rows) out.push(JSON.stringify(row));
  return out;
}
