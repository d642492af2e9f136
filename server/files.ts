import { createHash } from "node:crypto";
import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { eq, inArray, isNotNull } from "drizzle-orm";
import { type Pack, extract, pack } from "tar-stream";
import { FILE_TYPES, type FileType } from "../core/design/bench";
import type { CraftFile } from "../core/design/craftFile";
import { craftFileReading } from "../core/design/openFile";
import type { Database, OpenDatabase } from "./db/open";
import { files } from "./db/schema";
import { ENDING, isOf, pictureBytes, putPicture } from "./pictures";
import { notFound, refused, tooLarge } from "./problems";
import { reading } from "./db/transaction";

/** Where records and pictures are kept. */
export type Store = Pick<OpenDatabase, "db" | "folder" | "checkSpace">;

export const MOST_BYTES = 2_500_000;
/** Pictures that an export as one JSON file may hold, in bytes; beyond, they stand beside it in a tar. */
const MOST_INSIDE = 24_000_000;
const MOST_CRAFT = 64 * 1024 * 1024;

const hashOf = (bytes: Buffer) => createHash("sha256").update(bytes).digest("hex");

/** Keeps content under its hash. The same content is kept once. */
async function keep(store: Store, hash: string, type: FileType, bytes: Buffer): Promise<void> {
  await store.checkSpace(bytes.length);
  if (store.folder !== null) await putPicture(store.folder, hash, bytes);
  const content = store.folder === null ? bytes.toString("base64") : null;
  await store.db.transaction(async (tx) => {
    await tx.insert(files).values({ hash, type, size: bytes.length, content }).onConflictDoNothing();
  });
}

/** Keeps a picture or a log under the hash of its content. */
export async function addFile(store: Store, type: FileType, content: string): Promise<{ hash: string; size: number }> {
  const bytes = Buffer.from(content, "base64");
  if (bytes.length === 0 || bytes.length > MOST_BYTES)
    throw refused("A picture or a log has between 1 byte and 2.5 MB.");
  if (!(await isOf(bytes, type)))
    throw refused(
      type.startsWith("text/")
        ? "This is not a text: UTF-8 is read."
        : "This is not a JPEG, PNG or WebP picture, or it is damaged.",
    );
  const hash = hashOf(bytes);
  await keep(store, hash, type, bytes);
  return { hash, size: bytes.length };
}

export async function readFile(store: Store, hash: string): Promise<{ type: FileType; bytes: Buffer }> {
  const [found] = await store.db.transaction((tx) => tx.select().from(files).where(eq(files.hash, hash)), reading);
  const bytes = found ? await pictureBytes(store.folder, found) : null;
  if (!found || !bytes) throw notFound("There is no such file.");
  return { type: found.type, bytes };
}

/** Hashes of all pictures and logs that a craft's records refer to. */
const named = (file: CraftFile): string[] => {
  const ofRuns = file.runs.flatMap((r) => [...r.files, ...r.moments.flatMap((m) => m.files)]);
  return [...new Set([...file.bench.flatMap((b) => b.files), ...ofRuns].map((f) => f.hash))];
};
const rowsOf = (db: Database, hashes: string[]) =>
  hashes.length === 0
    ? Promise.resolve([])
    : db.transaction((tx) => tx.select().from(files).where(inArray(files.hash, hashes)), reading);

/** A craft file with the content of the pictures that its sessions and runs refer to, as long as they fit. */
export async function withFiles(store: Store, file: CraftFile): Promise<CraftFile> {
  const rows = await rowsOf(store.db, named(file));
  if (rows.reduce((sum, r) => sum + r.size, 0) > MOST_INSIDE)
    throw tooLarge(
      "The pictures of this craft are too large for one JSON file: export it with its pictures beside it (.tar).",
    );
  const inside: CraftFile["files"] = [];
  for (const row of rows) {
    const bytes = await pictureBytes(store.folder, row);
    if (bytes) inside.push({ hash: row.hash, type: row.type, content: bytes.toString("base64") });
  }
  return { ...file, files: inside };
}

const entry = (tar: Pack, name: string, bytes: Buffer) =>
  new Promise<void>((resolve, reject) =>
    tar.entry({ name, size: bytes.length, mtime: new Date(0) }, bytes, (e) => (e ? reject(e) : resolve())),
  );

/**
 * A craft as a tar: craft.json, and beside it each picture under pictures/. Made while it is sent; one picture at a
 * time stands in memory.
 */
export function craftTar(store: Store, file: CraftFile): Readable {
  const tar = pack();
  void (async () => {
    await entry(tar, "craft.json", Buffer.from(JSON.stringify(file, null, 1)));
    for (const row of await rowsOf(store.db, named(file))) {
      const bytes = await pictureBytes(store.folder, row);
      if (bytes) await entry(tar, `pictures/${row.hash}.${ENDING[row.type]}`, bytes);
    }
    tar.finalize();
  })().catch((error: Error) => tar.destroy(error));
  return tar as unknown as Readable;
}

/**
 * Keeps the pictures of an imported craft file; one whose content does not match its hash is refused with the whole
 * file.
 */
export async function keepFiles(store: Store, list: CraftFile["files"]): Promise<void> {
  for (const { hash, type, content } of list) await keepChecked(store, hash, type, Buffer.from(content, "base64"));
}

async function keepChecked(store: Store, hash: string, type: FileType, bytes: Buffer): Promise<void> {
  if (bytes.length > MOST_BYTES || hashOf(bytes) !== hash || !(await isOf(bytes, type)))
    throw refused(`The picture ${hash.slice(0, 12)}… in this file is damaged: its content does not match.`);
  await keep(store, hash, type, bytes);
}

async function bytesOf(stream: AsyncIterable<Buffer>, most: number, what: string): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of stream) {
    size += chunk.length;
    if (size > most) throw tooLarge(`${what} is larger than ${Math.round(most / 1e6)} MB.`);
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

const PICTURE = /^pictures\/([0-9a-f]{64})\.([a-z]{3,4})$/;

/** Reads a craft's tar while it comes in: pictures are kept as they pass, the craft file is given back. */
export async function readCraftTar(store: Store, source: Readable): Promise<CraftFile> {
  const tar = extract();
  let craft: Buffer | null = null;
  const reading = (async () => {
    for await (const part of tar) {
      const { name } = part.header;
      const picture = PICTURE.exec(name);
      const type = FILE_TYPES.find((t) => ENDING[t] === picture?.[2]);
      if (name === "craft.json") craft = await bytesOf(part as AsyncIterable<Buffer>, MOST_CRAFT, "craft.json");
      else if (picture?.[1] && type)
        await keepChecked(store, picture[1], type, await bytesOf(part as AsyncIterable<Buffer>, MOST_BYTES, name));
      else part.resume();
    }
  })();
  try {
    await Promise.all([pipeline(source, tar), reading]);
  } catch (error) {
    if (error instanceof Error && /tar header|Unexpected end/i.test(error.message))
      throw refused("This is not a craft exported by Ultraform, or it was cut short.");
    throw error;
  }
  if (craft === null) throw refused("There is no craft.json in this file.");
  let content: unknown;
  try {
    content = JSON.parse((craft as Buffer).toString("utf8"));
  } catch {
    throw refused("craft.json in this file is not JSON.");
  }
  return craftFileReading.parse(content);
}

/** Pictures that an older release kept inside the database move into the data folder. */
export async function movePictures(store: Store): Promise<void> {
  const { folder } = store;
  if (folder === null) return;
  for (;;) {
    const rows = await store.db.transaction(
      (tx) => tx.select().from(files).where(isNotNull(files.content)).limit(8),
      reading,
    );
    if (rows.length === 0) return;
    for (const row of rows)
      if (row.content !== null) await putPicture(folder, row.hash, Buffer.from(row.content, "base64"));
    await store.db.transaction((tx) =>
      tx
        .update(files)
        .set({ content: null })
        .where(
          inArray(
            files.hash,
            rows.map((r) => r.hash),
          ),
        ),
    );
  }
}
