import { existsSync, mkdirSync, readdirSync, rmSync, statfsSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Memory that the system offers as a folder, and how much of it the tests want to find free, bytes. */
const MEMORY = "/dev/shm";
const WANTED = 4 * 1024 ** 3;
const NAME = "ultraform-tests-";

function free(folder: string): number {
  try {
    const s = statfsSync(folder);
    return s.bavail * s.bsize;
  } catch {
    return 0;
  }
}
function runs(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}

/**
 * The tests make and throw away hundreds of data folders of a thousand files each: on a disk half of their time goes
 * into that. Where there is memory to spare they stand there; what they test is killed processes, and no power cut.
 */
export default function setup(): () => void {
  if (tmpdir() !== "/tmp" || free(MEMORY) < WANTED) return () => {};
  for (const left of readdirSync(MEMORY))
    if (left.startsWith(NAME) && !runs(Number(left.slice(NAME.length))))
      rmSync(join(MEMORY, left), { recursive: true, force: true });
  const folder = join(MEMORY, `${NAME}${process.pid}`);
  if (!existsSync(folder)) mkdirSync(folder, { recursive: true });
  process.env.TMPDIR = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
