import { existsSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { dirname, join } from "node:path";
import type { FileType } from "../core/design/bench";
import { ensureFolder, writeWhole } from "./db/disk";

/** Pixels that a picture may have: beyond, it would take the server's memory to look at it. */
const MOST_PIXELS = 60_000_000;
/** The decoder, loaded when the first picture comes: it holds tens of megabytes. */
let decoder: Promise<typeof import("sharp")> | null = null;
const loadDecoder = () =>
  (decoder ??= import("sharp").then(({ default: sharp }) => {
    sharp.cache(false);
    sharp.concurrency(1);
    return sharp;
  }));

export const ENDING: Record<FileType, string> = {
  "image/jpeg": "jpg",
  "image/png": "png",
  "image/webp": "webp",
  "text/csv": "csv",
  "text/plain": "txt",
};

const KIND: Partial<Record<string, FileType>> = { jpeg: "image/jpeg", png: "image/png", webp: "image/webp" };

/**
 * Whether bytes are a picture of this type from the first to the last: it is decoded, since a head alone proves
 * nothing.
 */
async function isPicture(bytes: Buffer, type: FileType): Promise<boolean> {
  try {
    const sharp = await loadDecoder();
    const options = { failOn: "error", limitInputPixels: MOST_PIXELS, sequentialRead: true } as const;
    const { format } = await sharp(bytes, options).metadata();
    if (KIND[format ?? ""] !== type) return false;
    await sharp(bytes, options).resize(16, 16, { fit: "fill", fastShrinkOnLoad: false }).raw().toBuffer();
    return true;
  } catch {
    return false;
  }
}

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
export const isOf = async (bytes: Buffer, type: FileType): Promise<boolean> =>
  type.startsWith("text/") ? isText(bytes) : isPicture(bytes, type);

/** Where the content of a picture stands in a data folder. */
export const pictureFile = (data: string, hash: string) => join(data, "pictures", hash.slice(0, 2), hash);

/** Puts a picture into a data folder, on the disk before this resolves. */
export async function putPicture(data: string, hash: string, bytes: Uint8Array): Promise<void> {
  const file = pictureFile(data, hash);
  if (existsSync(file)) return;
  await ensureFolder(dirname(file));
  await writeWhole(file, bytes);
}

/** A picture's content: from the row that holds it, or from the data folder; null when it is not there. */
export async function pictureBytes(
  data: string | null,
  row: { hash: string; content: string | null },
): Promise<Buffer | null> {
  if (row.content !== null) return Buffer.from(row.content, "base64");
  return data === null ? null : readFile(pictureFile(data, row.hash)).catch(() => null);
}
