import { type Fault, type Run, newFault } from "../design/craftFile";
import { type Mark, markOf } from "./marks";

/** The marks of danger in a run, each once with the time of its first. */
export function dangersIn(run: Pick<Run, "moments">): { mark: Mark; seconds: number }[] {
  const out = new Map<string, { mark: Mark; seconds: number }>();
  for (const m of run.moments) {
    const known = markOf(m.mark);
    if (known?.danger && !out.has(known.code)) out.set(known.code, { mark: known, seconds: m.seconds });
  }
  return [...out.values()];
}

/** The fault that a mark of danger opens. */
export const faultOfDanger = (
  run: number,
  { mark: m, seconds }: { mark: Mark; seconds: number },
): Omit<Fault, "number"> => ({
  ...newFault(run),
  title: m.word,
  symptom: m.symptom,
  seen: `Marked in run ${run} after ${Math.round(seconds)} s.`,
  severity: "danger",
});
