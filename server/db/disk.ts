import { constants } from "node:fs";
import { cp, mkdir, open, readdir, rename, rm, statfs } from "node:fs/promises";
import { dirname, join } from "node:path";

/** Puts a folder's own entries on the disk: what was made, renamed or deleted in it. */
export async function syncFolder(folder: string): Promise<void> {
  const handle = await open(folder, "r");
  await handle.sync().catch(() => {});
  await handle.close();
}

/** Writes a file whole or not at all: beside it first, on the disk, then under its name. */
export async function writeWhole(file: string, content: string | Uint8Array): Promise<void> {
  const beside = `${file}.${process.pid}.part`;
  try {
    const handle = await open(beside, "w");
    try {
      await handle.writeFile(content);
      await handle.sync();
    } finally {
      await handle.close();
    }
    await rename(beside, file);
  } catch (error) {
    await rm(beside, { force: true }).catch(() => {});
    throw error;
  }
  await syncFolder(dirname(file));
}

/** Puts everything in a folder on the disk. */
export async function syncTree(folder: string): Promise<void> {
  for (const entry of await readdir(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) await syncTree(path);
    else if (entry.isFile()) {
      const handle = await open(path, "r");
      await handle.sync().finally(() => handle.close());
    }
  }
  await syncFolder(folder);
}

/** Copies a folder; where the file system can, without copying the content. */
export const copyTree = (from: string, to: string): Promise<void> =>
  cp(from, to, { recursive: true, mode: constants.COPYFILE_FICLONE, errorOnExist: false });

/** Bytes that may still be written where a folder stands; infinite where that cannot be told. */
export async function freeSpace(folder: string): Promise<number> {
  try {
    const { bavail, bsize } = await statfs(folder);
    return bavail * bsize;
  } catch {
    return Number.POSITIVE_INFINITY;
  }
}

/** Puts a folder in the place of another, which is kept as `kept` (one earlier one). */
export async function swapFolder(next: string, place: string, kept: string): Promise<void> {
  await rm(kept, { recursive: true, force: true });
  await rename(place, kept).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== "ENOENT") throw error;
  });
  await rename(next, place);
  await syncFolder(dirname(place));
}

export const ensureFolder = (folder: string) => mkdir(folder, { recursive: true });
