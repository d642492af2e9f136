import { expose } from "comlink";
import { sharing } from "../../core/design/edit";
import { type Money, takeMoney } from "../../core/design/money";
import type { Design } from "../../core/design/schema";
import type { UnitHabit } from "../../core/design/units";
import { type Answers, type EvaluationContext, answersOf, evaluate, remediesFor, roughOf } from "../../core/evaluate";
import { type SearchProgress, type SearchResult, type SearchTask, search } from "../../core/sizing/search";
import { type Corridor, corridorsOf } from "../../core/corridor";
import { type Mission, missionOf } from "../../core/mission";
import { type BodyFileRead, type MeshStands, shapeFromMesh } from "../../core/exchange/bodyFile";
import { everyState } from "../../core/design/inState";
import { type Remedy, type Severity, findingKey, tallyOf } from "../../core/subject";

/** The design that was asked of last: what holds the same is the same object, and what it gave is remembered. */
let last: Design | null = null;
const alike = (design: Design): Design => {
  last = last ? sharing(last, design) : design;
  return last;
};

/** What remedies are looked for: a design, and the slow results of it where they are there. */
export interface RemediesAsked {
  design: Design;
  context: EvaluationContext;
  habit: UnitHabit;
  answers: Answers | null;
}

/** What takes longer than a frame, apart from the page. */
const slow = {
  /** What the amounts of the workshop are in. */
  money: (money: Money): void => takeMoney(money),
  /** Results of the slow subjects of a design. */
  answers: (design: Design): Answers => answersOf(evaluate(alike(design))),
  /** What can be said quickly of a design that is being dragged. */
  rough: (design: Design): Answers => roughOf(alike(design)),
  /** What would answer the findings of a design that are looked at, by code and what they are about. */
  remedies({ design, context, habit, answers }: RemediesAsked, wanted: readonly string[]): Record<string, Remedy[]> {
    const now = alike(design);
    // What the page worked out is not worked out again.
    const evaluation = evaluate(now, context, undefined, answers && { answers });
    const out: Record<string, Remedy[]> = {};
    for (const f of evaluation.findings) {
      const key = findingKey(f);
      if (wanted.includes(key)) out[key] = remediesFor(now, evaluation, f, habit, context);
    }
    return out;
  },
  /** What all states of a design are found to be: verdicts of each, the duty over them, and what carries between. */
  everyState(design: Design): {
    tallies: Record<string, Record<Severity, number>>;
    mission: Mission | null;
    corridors: Record<string, Corridor>;
  } {
    const now = alike(design);
    return {
      tallies: Object.fromEntries(
        everyState(now).map(({ state, design: own }) => [state.id, tallyOf(evaluate(own).findings)]),
      ),
      mission: missionOf(now),
      corridors: corridorsOf(now),
    };
  },
  /** The shape of a body out of a mesh of many triangles. */
  shape: (bytes: Uint8Array, stands: MeshStands): BodyFileRead => shapeFromMesh(bytes, stands),
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
