import { proxy } from "comlink";
import { useEffect, useRef } from "react";
import { toast } from "sonner";
import type { SearchProgress, SearchResult, SearchTask } from "../../../../core/sizing/search";
import { newSlow } from "../../../worker/slow";

/** The search in a worker of its own: begun anew or stopped, its last answer stands. */
export function useSearchRun({
  setProgress,
  begin,
  end,
}: {
  setProgress: (next: SearchProgress | null) => void;
  begin: () => void;
  end: (found: SearchResult) => void;
}) {
  const worker = useRef<ReturnType<typeof newSlow> | null>(null);
  useEffect(() => () => worker.current?.end(), []);
  const stop = () => {
    worker.current?.end();
    worker.current = null;
    setProgress(null);
  };
  const run = (task: SearchTask) => {
    stop();
    begin();
    const made = newSlow();
    worker.current = made;
    // What was still on its way when it was stopped tells nothing any more.
    const tell = proxy((p: SearchProgress) => {
      if (worker.current === made) setProgress(p);
    });
    Promise.race([made.slow.search(task, tell), made.broken])
      .then((found) => {
        if (worker.current !== made) return;
        stop();
        end(found);
      })
      .catch((error: unknown) => {
        if (worker.current !== made) return;
        stop();
        toast.error(`The search ended: ${error instanceof Error ? error.message : String(error)}`);
      });
  };
  return { run, stop };
}
