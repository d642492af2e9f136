import { createHash } from "node:crypto";
import { createReadStream, createWriteStream, existsSync, readdirSync, rmSync, statSync } from "node:fs";
import { mkdir, mkdtemp, open, readFile, rename, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { basename, dirname, join } from "node:path";
import { PassThrough, type Readable, Transform, type Writable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type pg from "pg";
import { type Pack, extract, pack } from "tar-stream";
import type { FileType } from "../core/design/bench";
import { ensureFolder, freeSpace, syncFolder, syncTree, writeWhole } from "./db/disk";
import {
  type SnapshotHead,
  type Until,
  openRows,
  snapshotFolder,
  stateAt,
  writeRows,
  writeSnapshot,
} from "./db/history";
import type { Change } from "./db/journal";
import { schemaNow } from "./db/migrations";
import type { OpenDatabase } from "./db/open";
import { highestOf, putRows, rowsOf } from "./db/rowsOut";
import { ENDING, pictureFile } from "./pictures";
import { reading } from "./db/transaction";

/**
 * A backup is a tar file that ordinary tools can look into: what it is (ultraform-backup.json), every row
 * (rows.jsonl.gz: crafts, records, shelf, catalogue, what was deleted), the pictures,
 * and SHA256SUMS, which `sha256sum -c` checks. It is written while the server runs: rows are those of one moment,
 * pictures never change.
 */
const FORMAT = "ultraform-backup";
const HEAD = "ultraform-backup.json";
const ROWS = "rows.jsonl.gz";
const SUMS = "SHA256SUMS";
const PICTURE = /^pictures\/([0-9a-f]{64})\.([a-z]{3,4})$/;

interface Sums {
  list: [name: string, sum: string][];
}

async function addEntry(tar: Pack, sums: Sums, name: string, size: number, content: Readable): Promise<void> {
  const hash = createHash("sha256");
  const out = tar.entry({ name, size, mtime: new Date(0), mode: 0o644 });
  const watch = new Transform({
    transform(chunk: Buffer, _e, done) {
      hash.update(chunk);
      done(null, chunk);
    },
  });
  await pipeline(content, watch, out);
  sums.list.push([name, hash.digest("hex")]);
}

const once = (text: string | Buffer): Readable => {
  const stream = new PassThrough();
  stream.end(text);
  return stream;
};

interface Source {
  head: SnapshotHead;
  rows: AsyncIterable<Change>;
}

/** Sends a whole workshop as a tar. `data` is the folder with its pictures; null: they stand in the rows. */
async function writeTar(source: Source, data: string | null, at: string, out: Writable): Promise<void> {
  const spool = await mkdtemp(join(data ?? tmpdir(), ".backup-"));
  const tar = pack();
  try {
    const file = join(spool, ROWS);
    const pictures: { hash: string; type: FileType }[] = [];
    await writeRows(
      file,
      source.head,
      (async function* () {
        for await (const row of source.rows) {
          if (row[0] === "files") pictures.push(row[2] as { hash: string; type: FileType });
          yield row;
        }
      })(),
    );
    const sums: Sums = { list: [] };
    const filled = (async () => {
      const head = Buffer.from(
        `${JSON.stringify({ format: FORMAT, version: 1, at, entry: source.head.seq, schema: source.head.schema }, null, 1)}\n`,
      );
      await addEntry(tar, sums, HEAD, head.length, once(head));
      await addEntry(tar, sums, ROWS, statSync(file).size, createReadStream(file));
      for (const { hash, type } of pictures) {
        const path = data === null ? "" : pictureFile(data, hash);
        if (path !== "" && existsSync(path))
          await addEntry(tar, sums, `pictures/${hash}.${ENDING[type]}`, statSync(path).size, createReadStream(path));
      }
      const text = Buffer.from(sums.list.map(([name, sum]) => `${sum}  ${name}\n`).join(""));
      await new Promise<void>((resolve, reject) =>
        tar.entry({ name: SUMS, size: text.length, mtime: new Date(0) }, text, (e) => (e ? reject(e) : resolve())),
      );
      tar.finalize();
    })();
    filled.catch((error: Error) => tar.destroy(error));
    await Promise.all([pipeline(tar, out), filled]);
  } finally {
    await rm(spool, { recursive: true, force: true });
  }
}

/** Sends a backup of an open workshop. */
export async function backupOf(open: Pick<OpenDatabase, "db" | "folder">, now: string, out: Writable): Promise<void> {
  if (open.folder !== null) {
    await writeTar(await stateAt(open.folder), open.folder, now, out);
    return;
  }
  await open.db.transaction(async (tx) => {
    const client = (tx as unknown as { $client: pg.PoolClient }).$client;
    await writeTar(
      {
        head: { format: "ultraform-snapshot", seq: 0, at: now, schema: schemaNow(), highest: await highestOf(client) },
        rows: rowsOf(client),
      },
      null,
      now,
      out,
    );
  }, reading);
}

/** Writes a backup file of a data folder, whether its server runs or not. Whole and on the disk, or not at all. */
export async function backupFolder(data: string, file: string, now: string): Promise<void> {
  const beside = `${file}.part`;
  try {
    await writeTar(await stateAt(data), data, now, createWriteStream(beside));
    const handle = await open(beside, "r");
    await handle.sync().finally(() => handle.close());
    await rename(beside, file);
    await syncFolder(dirname(file));
  } catch (error) {
    rmSync(beside, { force: true });
    throw error;
  }
}

export class NotABackup extends Error {}

/**
 * Unpacks a backup into a folder as the snapshots and pictures of a data folder, checking every sum and reading every
 * row.
 * @throws NotABackup when it is cut short, changed, or no backup
 */
async function unpack(source: Readable, into: string): Promise<SnapshotHead> {
  await ensureFolder(into);
  const tar = extract();
  const sums = new Map<string, string>();
  let stated: string | null = null;
  let head: { format?: string; version?: number; schema?: number } | null = null;
  const reader = (async () => {
    for await (const part of tar) {
      const { name } = part.header;
      const picture = PICTURE.exec(name);
      const target = name === ROWS ? join(into, ROWS) : picture?.[1] ? pictureFile(into, picture[1]) : null;
      const hash = createHash("sha256");
      if (target) {
        await ensureFolder(dirname(target));
        const watch = new Transform({
          transform(chunk: Buffer, _e, done) {
            hash.update(chunk);
            done(null, chunk);
          },
        });
        await pipeline(part, watch, createWriteStream(target));
      } else if (name === HEAD || name === SUMS) {
        const chunks: Buffer[] = [];
        for await (const chunk of part as AsyncIterable<Buffer>) chunks.push(chunk);
        const bytes = Buffer.concat(chunks);
        hash.update(bytes);
        if (name === SUMS) stated = bytes.toString("utf8");
        else head = JSON.parse(bytes.toString("utf8")) as typeof head;
      } else part.resume();
      if (name !== SUMS) sums.set(name, hash.digest("hex"));
    }
  })();
  try {
    await Promise.all([pipeline(source, tar), reader]);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === "ENOSPC") throw error;
    throw new NotABackup(`this is not a backup of Ultraform, or it was cut short (${(error as Error).message})`);
  }
  const facts = head as { format?: string; version?: number; schema?: number } | null;
  if (facts?.format !== FORMAT) throw new NotABackup("this is not a backup of Ultraform");
  if (facts.version !== 1 || (facts.schema ?? 0) > schemaNow())
    throw new NotABackup("this backup was written by a newer release of Ultraform: restore it with that release");
  if (stated === null) throw new NotABackup("this backup was cut short: its checksums are missing");
  for (const line of (stated as string).split("\n").filter(Boolean)) {
    const [sum, name] = line.split("  ");
    if (sums.get(name ?? "") !== sum)
      throw new NotABackup(`this backup is damaged: ${name} does not match its checksum`);
  }
  const { head: rowsHead, rows } = await openRows(join(into, ROWS));
  for await (const _ of rows);
  return rowsHead;
}

const STAGE = "restore.next";
const READY = "ready";

/**
 * Puts a backup in the place of what a data folder holds; that is kept as `before-restore-…` in the folder. The
 * folder's server must not run. Killed at any moment, the folder holds either what
 * it held or the whole backup: the next start finishes what was ready.
 */
export async function restoreFolder(data: string, source: Readable, now: string): Promise<SnapshotHead> {
  const stage = join(data, STAGE);
  await rm(stage, { recursive: true, force: true });
  let head: SnapshotHead;
  try {
    head = await unpack(source, stage);
    await ensureFolder(snapshotFolder(stage));
    await rename(join(stage, ROWS), join(snapshotFolder(stage), `${String(head.seq).padStart(12, "0")}.jsonl.gz`));
  } catch (error) {
    await rm(stage, { recursive: true, force: true });
    throw error;
  }
  await makeReady(data, head, now);
  await finishRestore(data);
  return head;
}

/** Takes a data folder back to a moment, from its own snapshots and journal. */
export async function restoreMoment(data: string, until: Until, now: string): Promise<SnapshotHead> {
  const stage = join(data, STAGE);
  await rm(stage, { recursive: true, force: true });
  const { head, rows } = await stateAt(data, until);
  await ensureFolder(stage);
  await writeSnapshot(stage, head, rows);
  await makeReady(data, head, now);
  await finishRestore(data);
  return head;
}

async function makeReady(data: string, head: SnapshotHead, now: string): Promise<void> {
  const stage = join(data, STAGE);
  await writeWhole(join(stage, "state.json"), JSON.stringify({ format: 1, schema: head.schema, clean: false }));
  await syncTree(stage);
  await writeWhole(join(stage, READY), now);
}

/** Finishes a restore that was ready; does nothing without one. */
export async function finishRestore(data: string): Promise<void> {
  const stage = join(data, STAGE);
  if (!existsSync(join(stage, READY))) {
    await rm(stage, { recursive: true, force: true });
    return;
  }
  const at = (await readFile(join(stage, READY), "utf8")).replaceAll(/[^0-9A-Za-z]/g, "-");
  const kept = join(data, `before-restore-${at}`);
  await mkdir(kept, { recursive: true });
  for (const name of ["database", "journal", "snapshots", "state.json"]) {
    // What came with the backup is in the stage until it is put in place: without it there, the swap of this one is
    // done.
    const done = (name === "snapshots" || name === "state.json") && !existsSync(join(stage, name));
    if (!done && existsSync(join(data, name)) && !existsSync(join(kept, name)))
      await rename(join(data, name), join(kept, name));
    if (existsSync(join(stage, name))) await rename(join(stage, name), join(data, name));
  }
  if (existsSync(join(stage, "pictures")))
    for (const sub of readdirSync(join(stage, "pictures")))
      for (const hash of readdirSync(join(stage, "pictures", sub))) {
        await ensureFolder(dirname(pictureFile(data, hash)));
        await rename(join(stage, "pictures", sub, hash), pictureFile(data, hash));
      }
  await syncFolder(data);
  await rm(stage, { recursive: true, force: true });
}

/** Puts a backup into an empty database on a server. */
export async function restoreServer(open: OpenDatabase, source: Readable): Promise<SnapshotHead> {
  const stage = await mkdtemp(join(tmpdir(), "ultraform-restore-"));
  try {
    const head = await unpack(source, stage);
    if (head.schema !== schemaNow())
      throw new NotABackup(
        "this backup is of an older release: restore it into a folder first, and back that up again",
      );
    await open.db.transaction(async (tx) => {
      const client = (tx as unknown as { $client: pg.PoolClient }).$client;
      const { rows: held } = await client.query("select count(*)::int as n from crafts");
      if (held[0].n > 0)
        throw new NotABackup("the database on the server is not empty: name an empty one in DATABASE_URL");
      const { rows } = await openRows(join(stage, ROWS));
      const withContent = (async function* (): AsyncGenerator<Change> {
        for await (const [table, key, row] of rows) {
          if (table === "files" && (row as { content: string | null }).content === null)
            yield [
              table,
              key,
              { ...(row as object), content: (await readFile(pictureFile(stage, key))).toString("base64") },
            ];
          else yield [table, key, row];
        }
      })();
      await putRows(client, withContent, head.highest);
    });
    return head;
  } finally {
    await rm(stage, { recursive: true, force: true });
  }
}

/** Daily copies that are kept. */
const COPIES = 5;
const DAY = 24 * 3600 * 1000;

export interface Copy {
  name: string;
  at: string;
  size: number;
}

export const copiesFolder = (data: string) => process.env.ULTRAFORM_COPIES ?? join(data, "backups");

/** Automatic copies, newest first. */
export function copiesOf(data: string): Copy[] {
  try {
    return readdirSync(copiesFolder(data))
      .filter((name) => /^ultraform-[\dT-]+Z?\.tar$/.test(name))
      .map((name) => {
        const { mtime, size } = statSync(join(copiesFolder(data), name));
        return { name, at: mtime.toISOString(), size };
      })
      .sort((a, b) => (a.name < b.name ? 1 : -1));
  } catch {
    return [];
  }
}

/**
 * Makes the daily copy when the last one is a day old and there is room for it twice; keeps the newest few. Gives its
 * name, or null.
 */
export async function dailyCopy(data: string, now: string): Promise<string | null> {
  const held = copiesOf(data);
  const [newest] = held;
  if (newest && Date.parse(now) - Date.parse(newest.at) < DAY) return null;
  const folder = copiesFolder(data);
  await ensureFolder(folder);
  if ((await freeSpace(folder)) < 2 * (newest?.size ?? 0) + 100_000_000) return null;
  const name = `ultraform-${now.slice(0, 19).replaceAll(":", "-")}.tar`;
  await backupFolder(data, join(folder, name), now);
  for (const old of copiesOf(data).slice(COPIES)) rmSync(join(folder, old.name), { force: true });
  return basename(name);
}
