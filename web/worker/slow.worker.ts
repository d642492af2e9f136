import { expose } from "comlink";
import type { Design } from "../../core/design/schema";
import type { UnitHabit } from "../../core/design/units";
import { type EvaluationContext, evaluate, remediesFor } from "../../core/evaluate";
import { type SearchProgress, type SearchResult, type SearchTask, search } from "../../core/sizing/search";
import { type Remedy, findingKey } from "../../core/subject";

/** What takes longer than a frame, apart from the page. */
const slow = {
  /** What would answer the findings of a design that are looked at, by code and what they are about. */
  remedies(
    design: Design,
    context: EvaluationContext,
    habit: UnitHabit,
    wanted: readonly string[],
  ): Record<string, Remedy[]> {
    const evaluation = evaluate(design, context);
    const out: Record<string, Remedy[]> = {};
    for (const f of evaluation.findings) {
      const key = findingKey(f);
      if (wanted.includes(key)) out[key] = remediesFor(design, evaluation, f, habit, context);
    }
    return out;
  },
  /** Runs a search and tells how far it is; cancelled by ending the worker. */
  search(task: SearchTask, progress: (p: SearchProgress) => void): SearchResult {
    const steps = search(task);
    let next = steps.next();
    while (!next.done) {
      progress(next.value);
      next = steps.next();
    }
    return next.value;
  },
};
export type Slow = typeof slow;

expose(slow);
