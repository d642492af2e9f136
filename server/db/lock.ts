import { spawn } from "node:child_process";
import { closeSync, openSync, readFileSync, realpathSync, rmSync, writeSync } from "node:fs";
import { join } from "node:path";
import { cannotOpen } from "./cannotOpen";

/** How long a server that is just ending may keep its lock, s. */
const PATIENCE = 2;
const CONFLICT = 9;

/**
 * Takes the exclusive lock of a data folder: two processes on one embedded database lose rows without a word. The
 * lock is the kernel's own on the file `lock` in the folder, so it holds by
 * device and inode: through bind mounts, other names of the folder, other namespaces, and paths of any length. It is
 * held by a small process that ends when this one does, however that ends.
 * Where there is no `flock` command, a pid file with a check that its owner lives.
 * @param lost called when the lock is lost while the server runs
 * @returns gives the lock back, and resolves when another may have it
 * @throws CannotOpen when another process holds it
 */
export async function lockFolder(folder: string, lost: () => void = () => {}): Promise<() => Promise<void>> {
  const real = realpathSync(folder);
  return (await kernelLock(real, lost)) ?? pidLock(real);
}

function kernelLock(folder: string, lost: () => void): Promise<(() => Promise<void>) | null> {
  return new Promise((resolve, reject) => {
    // A process group of its own: Ctrl-C at the terminal must not end it before the server has closed the database.
    const holder = spawn(
      "flock",
      [
        "--wait",
        String(PATIENCE),
        "--conflict-exit-code",
        String(CONFLICT),
        "lock",
        "sh",
        "-c",
        "echo held; exec cat > /dev/null",
      ],
      {
        cwd: folder,
        detached: true,
        stdio: ["pipe", "pipe", "ignore"],
      },
    );
    let held = false;
    let released = false;
    holder.on("error", () => resolve(null));
    holder.stdin?.on("error", () => {});
    holder.stdout?.once("data", () => {
      held = true;
      holder.unref();
      (holder.stdin as unknown as { unref?: () => void }).unref?.();
      (holder.stdout as unknown as { unref?: () => void }).unref?.();
      resolve(
        () =>
          new Promise<void>((done) => {
            released = true;
            holder.ref();
            holder.once("exit", () => done());
            holder.stdin?.end();
          }),
      );
    });
    holder.on("exit", (code) => {
      if (held) {
        if (!released) lost();
      } else if (code === CONFLICT) reject(cannotOpen.inUse(folder));
      else resolve(null);
    });
  });
}

function alive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}

function pidLock(folder: string): () => Promise<void> {
  const file = join(folder, "ultraform.pid");
  for (let attempt = 0; attempt < 2; attempt++) {
    try {
      const handle = openSync(file, "wx");
      writeSync(handle, String(process.pid));
      closeSync(handle);
      return async () => rmSync(file, { force: true });
    } catch {
      if (alive(Number(readFileSync(file, "utf8")))) throw cannotOpen.inUse(folder);
      rmSync(file, { force: true });
    }
  }
  throw cannotOpen.inUse(folder);
}
