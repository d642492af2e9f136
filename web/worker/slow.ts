import { type Remote, wrap } from "comlink";
import type { Slow } from "./slow.worker";

/** A worker of its own for slow computations, and how to end it with whatever it is doing. */
export function newSlow(): { slow: Remote<Slow>; end: () => void } {
  const worker = new Worker(new URL("./slow.worker.ts", import.meta.url), { type: "module" });
  return { slow: wrap<Slow>(worker), end: () => worker.terminate() };
}

let shared: ReturnType<typeof newSlow> | null = null;
/** The one that the page keeps. */
export function sharedSlow(): Remote<Slow> {
  shared ??= newSlow();
  return shared.slow;
}
