import { closeSync, openSync, readFileSync, realpathSync, rmSync, writeSync } from "node:fs";
import { type Server, createServer } from "node:net";
import { join } from "node:path";

export class DataInUse extends Error {
  constructor(folder: string) {
    super(`The data in ${folder} is in use by another Ultraform server. Stop that one, or choose another folder with --data or ULTRAFORM_DATA.`);
  }
}

/**
 * Takes the exclusive lock of a data folder: two processes on one embedded database lose rows without a word. On Linux the lock is an
 * abstract socket that ends with its process, so a killed server leaves none behind; elsewhere a pid file with a check that its owner lives.
 * @returns a function that gives the lock back
 * @throws DataInUse when another process holds it
 */
export async function lockFolder(folder: string): Promise<() => void> {
  const real = realpathSync(folder);
  return process.platform === "linux" ? socketLock(real) : pidLock(real);
}

function socketLock(folder: string): Promise<() => void> {
  return new Promise((resolve, reject) => {
    const server: Server = createServer();
    server.once("error", (error: NodeJS.ErrnoException) => reject(error.code === "EADDRINUSE" ? new DataInUse(folder) : error));
    server.listen({ path: `\0ultraform:${folder}` }, () => {
      server.unref();
      resolve(() => server.close());
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

function pidLock(folder: string): () => void {
  const file = join(folder, "ultraform.pid");
  for (let attempt = 0; attempt < 2; attempt++) {
    try {
      const handle = openSync(file, "wx");
      writeSync(handle, String(process.pid));
      closeSync(handle);
      return () => rmSync(file, { force: true });
    } catch {
      if (alive(Number(readFileSync(file, "utf8")))) throw new DataInUse(folder);
      rmSync(file, { force: true });
    }
  }
  throw new DataInUse(folder);
}
