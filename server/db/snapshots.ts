import type { Journal } from "./journal";
import { startThread } from "../thread";

/** Bytes of journal after which a new snapshot is taken in the background. */
const SEGMENT = Number(process.env.ULTRAFORM_SEGMENT_BYTES ?? 12 * 1024 * 1024);

/**
 * Takes snapshots in the background: closes the journal's segment when it is large, and has a thread lay it over the
 * snapshot before.
 */
export function makeKeeper(data: string) {
  let busy: Promise<void> | null = null;
  const run = (seq: number) =>
    new Promise<void>((resolve) => {
      const thread = startThread("keeper", { workerData: { data, seq } });
      // A snapshot that could not be taken is taken the next time; until then the journal is only longer.
      thread.on("error", () => resolve());
      thread.on("exit", () => resolve());
    });
  return {
    written(journal: Journal | null): void {
      if (!journal || busy || journal.size < SEGMENT) return;
      busy = journal
        .rotate()
        .then(run)
        .catch(() => {})
        .finally(() => {
          busy = null;
        });
    },
    async stop(): Promise<void> {
      await busy;
    },
  };
}
