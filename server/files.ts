import { createHash } from "node:crypto";
import { eq, inArray } from "drizzle-orm";
import type { FileType } from "../core/design/bench";
import type { CraftFile } from "../core/design/craftFile";
import type { Database } from "./db/open";
import { files } from "./db/schema";
import { notFound, refused } from "./problems";

const MOST_BYTES = 2_500_000;

/** Whether bytes are text: UTF-8 without the byte that no text has. */
function isText(bytes: Buffer): boolean {
  if (bytes.includes(0)) return false;
  try {
    new TextDecoder("utf-8", { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}

/** Whether the content is what it is said to be, whatever it is called. */
const isOf = (bytes: Buffer, type: FileType): boolean => (type === "text/csv" || type === "text/plain" ? isText(bytes) : pictureKind(bytes) === type);

function pictureKind(bytes: Buffer): FileType | null {
  if (bytes.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff]))) return "image/jpeg";
  if (bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]))) return "image/png";
  if (bytes.subarray(0, 4).toString("latin1") === "RIFF" && bytes.subarray(8, 12).toString("latin1") === "WEBP") return "image/webp";
  return null;
}

const hashOf = (bytes: Buffer) => createHash("sha256").update(bytes).digest("hex");

/** Keeps a picture under the hash of its content. The same content is kept once. */
export async function addFile(db: Database, type: FileType, content: string): Promise<{ hash: string; size: number }> {
  const bytes = Buffer.from(content, "base64");
  if (bytes.length === 0 || bytes.length > MOST_BYTES) throw refused("A picture or a log has between 1 byte and 2.5 MB.");
  if (!isOf(bytes, type)) throw refused(type.startsWith("text/") ? "This is not a text: UTF-8 is read." : "This is not a JPEG, PNG or WebP picture.");
  const hash = hashOf(bytes);
  await db
    .insert(files)
    .values({ hash, type, content: bytes.toString("base64") })
    .onConflictDoNothing();
  return { hash, size: bytes.length };
}

export async function readFile(db: Database, hash: string): Promise<{ type: FileType; bytes: Buffer }> {
  const [found] = await db.select().from(files).where(eq(files.hash, hash));
  if (!found) throw notFound("There is no such file.");
  return { type: found.type, bytes: Buffer.from(found.content, "base64") };
}

/** A craft file with the content of the pictures that its sessions and runs refer to. */
export async function withFiles(db: Database, file: CraftFile): Promise<CraftFile> {
  const ofRuns = file.runs.flatMap((r) => [...r.files, ...r.moments.flatMap((m) => m.files)]);
  const hashes = [...new Set([...file.bench.flatMap((b) => b.files), ...ofRuns].map((f) => f.hash))];
  if (hashes.length === 0) return file;
  const rows = await db.select().from(files).where(inArray(files.hash, hashes));
  return { ...file, files: rows.map(({ hash, type, content }) => ({ hash, type, content })) };
}

/** Takes over the pictures of an imported craft file; one whose content does not match its hash is refused with the whole file. */
export async function takeFiles(tx: Pick<Database, "insert">, list: CraftFile["files"]): Promise<void> {
  for (const { hash, type, content } of list) {
    const bytes = Buffer.from(content, "base64");
    if (bytes.length > MOST_BYTES || hashOf(bytes) !== hash || !isOf(bytes, type))
      throw refused(`The picture ${hash.slice(0, 12)}… in this file is damaged: its content does not match.`);
    await tx
      .insert(files)
      .values({ hash, type, content: bytes.toString("base64") })
      .onConflictDoNothing();
  }
}
