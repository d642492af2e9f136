import { existsSync, mkdirSync, readFileSync, readdirSync } from "node:fs";
import { homedir } from "node:os";
import { dirname, join, resolve } from "node:path";
import { writeWhole } from "./disk";

/**
 * Where this user's data folders are remembered, with the time of their last opening: a folder that held a workshop
 * is not taken for a new one when its disk is not there.
 */
const list = () => join(process.env.XDG_STATE_HOME ?? join(homedir(), ".local/state"), "ultraform", "folders.json");

function read(): Record<string, string> {
  try {
    return existsSync(list()) ? (JSON.parse(readFileSync(list(), "utf8")) as Record<string, string>) : {};
  } catch {
    return {};
  }
}

/** When a folder was last opened as a workshop; null: never. */
export const lastOpened = (folder: string): string | null => read()[resolve(folder)] ?? null;

/** Remembers a folder; one that cannot be remembered is no reason not to open it. */
export async function rememberFolder(folder: string, now: string): Promise<void> {
  try {
    // Folders that are gone with the folder around them (tests, sticks long lost) are let go of after a hundred.
    const kept = Object.entries(read()).slice(-100);
    mkdirSync(dirname(list()), { recursive: true });
    await writeWhole(list(), JSON.stringify(Object.fromEntries([...kept, [resolve(folder), now]]), null, 1));
  } catch {}
}

export const isEmpty = (folder: string): boolean =>
  !existsSync(folder) || readdirSync(folder).every((name) => ["lock", "access-code", "lost+found"].includes(name));
