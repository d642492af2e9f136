import { createReadStream, createWriteStream, existsSync, mkdirSync, rmSync, statSync } from "node:fs";
import { rename } from "node:fs/promises";
import { homedir } from "node:os";
import { join, resolve } from "node:path";
import { backupFolder, backupOf, finishRestore, restoreFolder, restoreMoment, restoreServer } from "../server/backup";
import { snapshotsOf } from "../server/db/history";
import { lockFolder } from "../server/db/lock";
import { openDatabase } from "../server/db/open";

/** The data folder that the server uses when it is told nothing else. */
const dataFolder = (given: string | undefined) =>
  resolve(
    given ??
      process.env.ULTRAFORM_DATA ??
      join(process.env.XDG_DATA_HOME ?? join(homedir(), ".local/share"), "ultraform"),
  );
const now = () => new Date().toISOString();
const size = (file: string) => `${(statSync(file).size / 1e6).toFixed(1)} MB`;

/** Writes a backup file. Gives what happened, in one line. @throws with one line that says why not */
export async function backup(file: string, data: string | undefined): Promise<string> {
  const url = process.env.DATABASE_URL;
  if (url) {
    const open = await openDatabase(null, { url });
    try {
      await backupOf(open, now(), createWriteStream(`${file}.part`));
      await rename(`${file}.part`, file);
    } catch (error) {
      rmSync(`${file}.part`, { force: true });
      throw error;
    } finally {
      await open.close();
    }
  } else {
    const folder = dataFolder(data);
    if (snapshotsOf(folder).length === 0)
      throw new Error(`${folder} holds no workshop that this release has opened: start the server on it once`);
    await backupFolder(folder, file, now());
  }
  return `${file}: ${size(file)}, checked sums inside`;
}

/** A moment as people type it; local time where no zone is given. */
function moment(text: string): string {
  const at = new Date(text);
  if (Number.isNaN(at.getTime())) throw new Error(`“${text}” is not a time: write 2026-11-27T10:30`);
  return at.toISOString();
}

/** Restores a backup file, or a moment. Gives what happened, in one line. @throws with one line that says why not */
export async function restore(
  { file, at }: { file?: string | undefined; at?: string | undefined },
  data: string | undefined,
): Promise<string> {
  if (file !== undefined && !existsSync(file)) throw new Error(`${file} cannot be read`);
  const url = process.env.DATABASE_URL;
  if (url) {
    if (file === undefined) throw new Error("a moment of a database server is restored by that server's own means");
    const open = await openDatabase(null, { url });
    try {
      const head = await restoreServer(open, createReadStream(file));
      return `restored into the database server: the state of ${head.at}`;
    } finally {
      await open.close();
    }
  }
  const folder = dataFolder(data);
  if (file === undefined && !existsSync(folder)) throw new Error(`${folder} is not there`);
  mkdirSync(folder, { recursive: true });
  const release = await lockFolder(folder);
  try {
    await finishRestore(folder);
    const head =
      file === undefined
        ? await restoreMoment(folder, { at: moment(at ?? "") }, now())
        : await restoreFolder(folder, createReadStream(file), now());
    return `${folder} holds the state of ${head.at} now; what it held before is in before-restore-… inside it`;
  } finally {
    await release();
  }
}
