import type { NewRun } from "../../../api/contracts";
import { type Run, runSchema } from "../../../core/design/craftFile";

/** A run on record as it is sent to be saved again: what eyes said of its gates stays. */
export function asNewRun(run: Run): NewRun {
  const { number: _n, version: _v, metrics, gates, locks: _l, ...rest } = run;
  const eye = Object.fromEntries(
    gates.flatMap((g) =>
      g.gate.metric === "" && (g.result === "passed" || g.result === "failed") ? [[g.gate.id, g.result]] : [],
    ),
  );
  return { ...rest, eye, live: false, measured: metrics.map(({ predicted: _, ...m }) => m) };
}

/** A run as the server holds it, from its answer to a stale save. */
export function heldRun(current: unknown): { revision: number; value: NewRun } {
  const { revision, run } = current as { revision: number; run: unknown };
  return { revision, value: asNewRun(runSchema.parse(run)) };
}
