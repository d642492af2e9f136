import { expose } from "comlink";
import { sharing } from "../../core/design/edit";
import { type Money, takeMoney } from "../../core/design/money";
import type { Design } from "../../core/design/schema";
import type { UnitHabit } from "../../core/design/units";
import { type Answers, type EvaluationContext, answersOf, evaluate, remediesFor } from "../../core/evaluate";
import { type SearchProgress, type SearchResult, type SearchTask, search } from "../../core/sizing/search";
import { type Remedy, findingKey } from "../../core/subject";

/** The design that was asked of last: what holds the same is the same object, and what it gave is remembered. */
let last: Design | null = null;
const alike = (design: Design): Design => {
  last = last ? sharing(last, design) : design;
  return last;
};

/** What takes longer than a frame, apart from the page. */
const slow = {
  /** What the amounts of the workshop are in. */
  money: (money: Money): void => takeMoney(money),
  /** Results of the slow subjects of a design. */
  answers: (design: Design): Answers => answersOf(evaluate(alike(design))),
  /** What would answer the findings of a design that are looked at, by code and what they are about. */
  remedies(
    design: Design,
    context: EvaluationContext,
    habit: UnitHabit,
    wanted: readonly string[],
  ): Record<string, Remedy[]> {
    const now = alike(design);
    const evaluation = evaluate(now, context);
    const out: Record<string, Remedy[]> = {};
    for (const f of evaluation.findings) {
      const key = findingKey(f);
      if (wanted.includes(key)) out[key] = remediesFor(now, evaluation, f, habit, context);
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
