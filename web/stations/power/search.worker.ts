import { type SearchProgress, type SearchResult, type SearchTask, search } from "../../../core/sizing/search";

export type SearchMessage = { kind: "progress"; progress: SearchProgress } | { kind: "done"; result: SearchResult } | { kind: "failed"; why: string };

const send = (message: SearchMessage) => postMessage(message);

/** Runs the search beside the page, so that typing is never blocked; cancelled by ending the worker. */
addEventListener("message", ({ data }: MessageEvent<SearchTask>) => {
  try {
    const steps = search(data);
    let next = steps.next();
    while (!next.done) {
      send({ kind: "progress", progress: next.value });
      next = steps.next();
    }
    send({ kind: "done", result: next.value });
  } catch (error) {
    send({ kind: "failed", why: error instanceof Error ? error.message : String(error) });
  }
});
