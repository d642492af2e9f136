import { setFlagsFromString } from "node:v8";
import { parentPort, workerData } from "node:worker_threads";
import { PGlite } from "@electric-sql/pglite";

// Most of the engine's functions run a few times. Those that run for a while are compiled once more for speed: with the
// usual budget most of a start went into that, on every core, and what was asked was answered no sooner.
setFlagsFromString("--wasm-tiering-budget=1000000000");

/**
 * The embedded database in a thread of its own: protocol messages in, answers out. A query that never ends or an
 * engine that breaks takes this thread with it, not the server.
 * What it starts with: few shared buffers, since the operating system keeps the pages too (166 MB resident instead of
 * 306), and little of its own log before it is written back.
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
  ...[
    "--single",
    "-F",
    "-O",
    "-j",
    "-c",
    "search_path=public",
    "-c",
    "exit_on_error=false",
    "-c",
    "log_checkpoints=false",
  ],
  ...[
    "-c",
    "max_worker_processes=0",
    "-c",
    "max_parallel_workers=0",
    "-c",
    "max_parallel_workers_per_gather=0",
    "-c",
    "io_method=sync",
  ],
  ...[
    "-c",
    "max_parallel_maintenance_workers=0",
    "-c",
    "shared_buffers=12MB",
    "-c",
    "max_wal_size=64MB",
    "-c",
    "min_wal_size=32MB",
  ],
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
  /**
   * Runs protocol messages. The answer is taken piece by piece as the engine writes it, unread: its own reading of it
   * costs as much as the queries.
   */
  const exec = async (bytes: Uint8Array): Promise<Uint8Array<ArrayBuffer>> => {
    const pieces: Uint8Array[] = [];
    await client.execProtocolRawStream(bytes, {
      syncToFs: false,
      onRawData: (piece) => void pieces.push(piece.slice()),
    });
    const answer = new Uint8Array(pieces.reduce((sum, p) => sum + p.length, 0));
    let at = 0;
    for (const piece of pieces) {
      answer.set(piece, at);
      at += piece.length;
    }
    return answer;
  };
  port.on("message", (message: ToEngine) => {
    const failed = (error: unknown) => say({ id: message.id, error: String(error) });
    if ("close" in message) client.close().then(() => say({ id: message.id }), failed);
    else
      exec(message.bytes).then(
        (bytes) => port.postMessage({ id: message.id, bytes } satisfies FromEngine, [bytes.buffer]),
        failed,
      );
  });
  say({ ready: true });
}

void main();
