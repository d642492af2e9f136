import { parentPort, workerData } from "node:worker_threads";
import { PGlite } from "@electric-sql/pglite";

/**
 * The embedded database in a thread of its own: protocol messages in, answers out. A query that never ends or an engine that breaks takes this thread with it, not the server.
 * What it starts with: few shared buffers, since the operating system keeps the pages too (166 MB resident instead of 306), and little of its own log before it is written back.
 */
export interface EngineStart {
  /** Folder of the cluster; null: in memory. */
  folder: string | null;
  /** A cluster to begin with, as a tar file (in memory only). */
  image: Uint8Array | null;
}
export type ToEngine = { id: number; bytes: Uint8Array } | { id: number; close: true };
export type FromEngine = { ready: true } | { failed: string } | { id: number; bytes?: Uint8Array; error?: string };

const START = [
  ...["--single", "-F", "-O", "-j", "-c", "search_path=public", "-c", "exit_on_error=false", "-c", "log_checkpoints=false"],
  ...["-c", "max_worker_processes=0", "-c", "max_parallel_workers=0", "-c", "max_parallel_workers_per_gather=0", "-c", "io_method=sync"],
  ...["-c", "max_parallel_maintenance_workers=0", "-c", "shared_buffers=12MB", "-c", "max_wal_size=64MB", "-c", "min_wal_size=32MB"],
];

async function main(): Promise<void> {
  const port = parentPort;
  if (!port) return;
  const say = (message: FromEngine) => port.postMessage(message);
  const { folder, image } = workerData as EngineStart;
  let client: PGlite;
  try {
    client = new PGlite({
      ...(folder === null ? {} : { dataDir: folder }),
      startParams: START,
      ...(image ? { loadDataDir: new Blob([image as Uint8Array<ArrayBuffer>]) } : {}),
    });
    await client.waitReady;
  } catch (error) {
    say({ failed: String(error) });
    return;
  }
  port.on("message", (message: ToEngine) => {
    const work = "close" in message ? client.close() : client.execProtocolRaw(message.bytes);
    work.then(
      (bytes) => say(bytes ? { id: message.id, bytes } : { id: message.id }),
      (error: unknown) => say({ id: message.id, error: String(error) }),
    );
  });
  say({ ready: true });
}

void main();
