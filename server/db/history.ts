import { createReadStream, createWriteStream, readdirSync, rmSync } from "node:fs";
import { open, rename } from "node:fs/promises";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { createGunzip, createGzip } from "node:zlib";
import { ensureFolder, syncFolder } from "./disk";
import { type Change, type Entry, type ReadSegment, numbered, readSegment, segmentsOf } from "./journal";
import { type Highest, TABLE_KEYS } from "./rowsOut";

/**
 * The history of a workshop: snapshots (every row at one sequence number) and the journal entries after them. From
 * both together any moment can be read, without the database.
 */
export interface SnapshotHead {
  format: "ultraform-snapshot";
  /** The last journal entry that it contains. */
  seq: number;
  at: string;
  /** Time stamp of the newest migration: the shape of its rows. */
  schema: number;
  highest: Highest;
}

const NAME = /^(\d{12})\.jsonl\.gz$/;
export const snapshotFolder = (data: string) => join(data, "snapshots");

export interface SnapshotFile {
  seq: number;
  file: string;
}

/** Snapshots of a data folder, newest first. */
export function snapshotsOf(data: string): SnapshotFile[] {
  let names: string[];
  try {
    names = readdirSync(snapshotFolder(data));
  } catch {
    return [];
  }
  return names
    .flatMap((name) => {
      const found = NAME.exec(name);
      return found ? [{ seq: Number(found[1]), file: join(snapshotFolder(data), name) }] : [];
    })
    .sort((a, b) => b.seq - a.seq);
}

/** A file of rows: a head, a row a line, and their number at the end, by which a file that was cut short is known. */
async function* lines(head: SnapshotHead, rows: AsyncIterable<Change>): AsyncGenerator<string> {
  yield `${JSON.stringify(head)}\n`;
  let count = 0;
  for await (const row of rows) {
    count++;
    yield `${JSON.stringify(row)}\n`;
  }
  yield `${JSON.stringify({ end: count })}\n`;
}

/** Writes rows as a snapshot file: whole and on the disk, or not at all. */
export async function writeRows(file: string, head: SnapshotHead, rows: AsyncIterable<Change>): Promise<void> {
  const beside = `${file}.part`;
  try {
    await pipeline(Readable.from(lines(head, rows)), createGzip({ level: 3 }), createWriteStream(beside));
    const handle = await open(beside, "r");
    await handle.sync().finally(() => handle.close());
    await rename(beside, file);
  } catch (error) {
    rmSync(beside, { force: true });
    throw error;
  }
}

export async function writeSnapshot(data: string, head: SnapshotHead, rows: AsyncIterable<Change>): Promise<string> {
  const folder = snapshotFolder(data);
  await ensureFolder(folder);
  const file = join(folder, `${numbered(head.seq)}.jsonl.gz`);
  await writeRows(file, head, rows);
  await syncFolder(folder);
  return file;
}

export class DamagedHistory extends Error {}

/** Reads a file of rows. @throws DamagedHistory when it is cut short or changed */
export async function openRows(
  source: string | Readable,
): Promise<{ head: SnapshotHead; rows: AsyncGenerator<Change> }> {
  const raw = typeof source === "string" ? createReadStream(source) : source;
  const unzipped = createGunzip();
  let broken: Error | null = null;
  const fail = (error: Error) => {
    broken ??= error;
    unzipped.destroy();
  };
  raw.on("error", fail);
  unzipped.on("error", fail);
  const reader = createInterface({ input: raw.pipe(unzipped), crlfDelay: Number.POSITIVE_INFINITY })[
    Symbol.asyncIterator
  ]();
  const damaged = () => new DamagedHistory(`a snapshot is damaged${broken ? `: ${broken.message}` : ""}`);
  const first = await reader.next();
  let head: SnapshotHead;
  try {
    head = JSON.parse(first.done ? "" : first.value) as SnapshotHead;
  } catch {
    throw damaged();
  }
  if (head.format !== "ultraform-snapshot") throw damaged();
  async function* rows(): AsyncGenerator<Change> {
    let count = 0;
    for (;;) {
      const next = await reader.next();
      if (next.done || broken) throw damaged();
      let row: Change | { end: number };
      try {
        row = JSON.parse(next.value) as Change | { end: number };
      } catch {
        throw damaged();
      }
      if (!Array.isArray(row)) {
        if (row.end !== count) throw damaged();
        return;
      }
      count++;
      yield row;
    }
  }
  return { head, rows: rows() };
}

/** How far to read: up to an entry, or to a moment (ISO 8601). */
export interface Until {
  seq?: number;
  at?: string;
}

export interface State {
  head: SnapshotHead;
  rows: AsyncIterable<Change>;
  /**
   * Whether the journal ends in something unreadable beyond `head.seq` (a save that was never acknowledged, or
   * damage).
   */
  torn: boolean;
}

/** Sequence number of the last whole entry on record; -1 without any history. */
export function lastSeq(data: string): number {
  const newest = snapshotsOf(data)[0]?.seq ?? -1;
  const last = segmentsOf(data).at(-1);
  return last ? Math.max(newest, last.first + readSegment(last).entries.length - 1) : newest;
}

/**
 * The workshop as it was: the newest whole snapshot up to then, and the entries after it laid over it.
 * @throws DamagedHistory when no snapshot can be read, or entries that are needed are missing
 */
export async function stateAt(data: string, until: Until = {}): Promise<State> {
  const reached = (e: Entry) =>
    (until.seq === undefined || e.seq <= until.seq) &&
    (until.at === undefined || Date.parse(e.at) <= Date.parse(until.at));
  let why: unknown = new DamagedHistory("there is no snapshot");
  for (const { seq, file } of snapshotsOf(data)) {
    if (until.seq !== undefined && seq > until.seq) continue;
    try {
      // Read through once: a snapshot that is damaged somewhere is not begun with.
      const checked = await openRows(file);
      for await (const _ of checked.rows);
      const { head } = checked;
      if (until.at !== undefined && Date.parse(head.at) > Date.parse(until.at)) continue;
      return overlay(head, file, entriesAfter(data, head), reached);
    } catch (error) {
      why = error;
    }
  }
  throw why;
}

/** Entries after a snapshot, in order. */
function entriesAfter(data: string, head: SnapshotHead): { entries: Entry[]; torn: boolean } {
  const entries: Entry[] = [];
  let at = head.seq;
  const segments = segmentsOf(data);
  for (const [k, segment] of segments.entries()) {
    const next = segments[k + 1];
    if (next && next.first <= head.seq + 1) continue;
    const read: ReadSegment = readSegment(segment);
    const wanted = read.entries.filter((e) => e.seq > at);
    if (wanted.length === 0) {
      if (read.torn) return { entries, torn: true };
      continue;
    }
    if (wanted[0]?.seq !== at + 1) throw new DamagedHistory(`entry ${at + 1} of the journal is missing`);
    // Another shape of rows: entries made after an update belong to the snapshot that the update took.
    if (read.schema !== head.schema)
      throw new DamagedHistory("the snapshot that was taken at the last update is missing");
    entries.push(...wanted);
    at = wanted.at(-1)?.seq ?? at;
    if (read.torn) return { entries, torn: next === undefined || next.first !== at + 1 };
  }
  return { entries, torn: false };
}

function overlay(
  head: SnapshotHead,
  file: string,
  { entries, torn }: { entries: Entry[]; torn: boolean },
  reached: (e: Entry) => boolean,
): State {
  const changed = new Map<string, Map<string, Change>>(TABLE_KEYS.map(({ name }) => [name, new Map()]));
  const highest = { ...head.highest };
  let last = { seq: head.seq, at: head.at };
  for (const entry of entries) {
    if (!reached(entry)) break;
    for (const change of entry.changes) {
      const [table, key] = change;
      changed.get(table)?.set(key, change);
      if (highest[table] !== undefined || TABLE_KEYS.some((t) => t.name === table && t.serial))
        highest[table] = Math.max(highest[table] ?? 0, Number(key));
    }
    last = { seq: entry.seq, at: entry.at };
  }
  const serial = new Set(TABLE_KEYS.filter((t) => t.serial).map((t) => t.name));
  async function* rows(): AsyncGenerator<Change> {
    const before = await openRows(file);
    const source = before.rows[Symbol.asyncIterator]();
    let held = await source.next();
    for (const { name } of TABLE_KEYS) {
      const over = changed.get(name) ?? new Map<string, Change>();
      const seen = new Set<string>();
      for (; !held.done && held.value[0] === name; held = await source.next()) {
        const [, key] = held.value;
        const newer = over.get(key);
        seen.add(key);
        if (!newer) yield held.value;
        else if (newer[2] !== null) yield newer;
      }
      const added = [...over.values()].filter(([, key, row]) => row !== null && !seen.has(key));
      if (serial.has(name)) added.sort((a, b) => Number(a[1]) - Number(b[1]));
      yield* added;
    }
    if (!held.done) throw new DamagedHistory(`rows of ${held.value[0]} stand where none are expected`);
  }
  return {
    head: { ...head, ...last, highest },
    rows: rows(),
    torn: torn && last.seq === (entries.at(-1)?.seq ?? head.seq),
  };
}

/** Snapshots that are kept; the journal is kept back to the oldest of them, so that any moment since can be read. */
const KEPT = 4;

/**
 * Lays the closed segments over the newest snapshot and keeps that as the next one; then lets go of what is older
 * than what is kept.
 */
export async function compact(data: string, seq: number): Promise<void> {
  const state = await stateAt(data, { seq });
  await writeSnapshot(data, state.head, state.rows);
  prune(data);
}

export function prune(data: string): void {
  const all = snapshotsOf(data);
  for (const { file } of all.slice(KEPT)) rmSync(file, { force: true });
  const oldest = all.slice(0, KEPT).at(-1)?.seq ?? 0;
  const segments = segmentsOf(data);
  for (const [k, segment] of segments.entries()) {
    const next = segments[k + 1];
    if (next && next.first <= oldest + 1) rmSync(segment.file, { force: true });
  }
}
