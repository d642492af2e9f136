import { mkdirSync, readFileSync, readdirSync } from "node:fs";
import { type FileHandle, open } from "node:fs/promises";
import { join } from "node:path";
import { crc32 } from "node:zlib";
import { syncFolder } from "./disk";

/**
 * One row as a transaction left it: the table, its key in text, and the row (column names of the database); null: it
 * was deleted.
 */
export type Change = [table: string, key: string, row: unknown];

/** What one committed transaction changed. */
export interface Entry {
  seq: number;
  at: string;
  changes: Change[];
}

/** What a segment begins with: the migration that its rows are shaped by. */
interface Head {
  schema: number;
}

const NAME = /^(\d{12})\.jsonl$/;
export const numbered = (seq: number) => String(seq).padStart(12, "0");
export const journalFolder = (data: string) => join(data, "journal");

/** A line with its own check value: `crc32 json`. A line that was cut short or changed is known by it. */
const toLine = (content: unknown): string => {
  const json = JSON.stringify(content);
  return `${crc32(json).toString(16).padStart(8, "0")} ${json}\n`;
};

function fromLine(line: string): unknown {
  const json = line.slice(9);
  return crc32(json).toString(16).padStart(8, "0") === line.slice(0, 8) ? JSON.parse(json) : undefined;
}

export interface Segment {
  /** Sequence number of its first entry, whether it has one yet or not. */
  first: number;
  file: string;
}

/** Segments of a journal, oldest first. */
export function segmentsOf(data: string): Segment[] {
  const folder = journalFolder(data);
  let names: string[];
  try {
    names = readdirSync(folder);
  } catch {
    return [];
  }
  return names
    .flatMap((name) => {
      const found = NAME.exec(name);
      return found ? [{ first: Number(found[1]), file: join(folder, name) }] : [];
    })
    .sort((a, b) => a.first - b.first);
}

export interface ReadSegment {
  schema: number;
  entries: Entry[];
  /** Bytes up to the end of the last whole entry: what follows was never acknowledged, or is damaged. */
  length: number;
  /** Whether something follows that cannot be read. */
  torn: boolean;
}

/** Reads a segment up to the first line that is not whole, or whose number does not follow the one before. */
export function readSegment(segment: Segment): ReadSegment {
  const bytes = readFileSync(segment.file);
  const entries: Entry[] = [];
  let schema = 0;
  let at = 0;
  let first = true;
  while (at < bytes.length) {
    const end = bytes.indexOf(0x0a, at);
    if (end < 0) return { schema, entries, length: at, torn: true };
    const content = fromLine(bytes.toString("utf8", at, end));
    if (content === undefined) return { schema, entries, length: at, torn: true };
    if (first) schema = (content as Head).schema;
    else {
      const [seq, time, changes] = content as [number, string, Change[]];
      if (seq !== segment.first + entries.length) return { schema, entries, length: at, torn: true };
      entries.push({ seq, at: time, changes });
    }
    first = false;
    at = end + 1;
  }
  return { schema, entries, length: at, torn: false };
}

/** The disk would not take an entry: nothing of it stands in the journal. */
export class JournalRefused extends Error {
  constructor(readonly code: string) {
    super(`the journal could not be written: ${code}`);
  }
}

/**
 * The journal that is being written: committed changes, each on the disk (fdatasync) before `append` resolves. One
 * writer at a time.
 * What was appended stays; an entry that could not be written whole is cut off again.
 */
export class Journal {
  private constructor(
    private readonly data: string,
    private readonly schema: number,
    private handle: FileHandle,
    private length: number,
    /** Sequence number of the last entry. */
    public seq: number,
    private first: number,
  ) {}

  /** Goes on with the last segment, cut to its last whole entry; or begins one after `seq`. */
  static async open(data: string, schema: number, seq: number): Promise<Journal> {
    mkdirSync(journalFolder(data), { recursive: true });
    const last = segmentsOf(data).at(-1);
    if (last) {
      const read = readSegment(last);
      if (read.schema === schema && last.first + read.entries.length - 1 === seq) {
        const handle = await open(last.file, "r+");
        await handle.truncate(read.length);
        await handle.datasync();
        return new Journal(data, schema, handle, read.length, seq, last.first);
      }
    }
    const { handle, length } = await begin(data, schema, seq + 1);
    return new Journal(data, schema, handle, length, seq, seq + 1);
  }

  /** Bytes in the segment that is being written. */
  get size(): number {
    return this.length;
  }

  /** @throws JournalRefused when the disk does not take it; the journal is as before then */
  async append(changes: Change[], at: string): Promise<number> {
    const line = Buffer.from(toLine([this.seq + 1, at, changes]));
    try {
      for (let done = 0; done < line.length; )
        done += (await this.handle.write(line, done, line.length - done, this.length + done)).bytesWritten;
      await this.handle.datasync();
    } catch (error) {
      await this.handle.truncate(this.length).catch(() => {});
      throw new JournalRefused((error as NodeJS.ErrnoException).code ?? String(error));
    }
    this.length += line.length;
    return ++this.seq;
  }

  /** Begins a new segment; the one before is never written again. Gives the last entry of the closed one. */
  async rotate(): Promise<number> {
    if (this.seq < this.first) return this.seq;
    const next = await begin(this.data, this.schema, this.seq + 1);
    const old = this.handle;
    this.handle = next.handle;
    this.length = next.length;
    this.first = this.seq + 1;
    await old.close();
    return this.seq;
  }

  async close(): Promise<void> {
    await this.handle.close();
  }
}

async function begin(data: string, schema: number, first: number): Promise<{ handle: FileHandle; length: number }> {
  const handle = await open(join(journalFolder(data), `${numbered(first)}.jsonl`), "w+");
  const head = Buffer.from(toLine({ schema } satisfies Head));
  await handle.write(head, 0, head.length, 0);
  await handle.datasync();
  await syncFolder(journalFolder(data));
  return { handle, length: head.length };
}
