import { workerData } from "node:worker_threads";
import { dailyCopy } from "../backup";
import { compact } from "./history";

/**
 * What is done beside the server, in a thread of its own: a snapshot (the journal's closed segments laid over the
 * snapshot before), or the daily copy.
 */
const task = workerData as { data: string; seq: number } | { data: string; now: string };
if ("seq" in task) await compact(task.data, task.seq);
else await dailyCopy(task.data, task.now);
