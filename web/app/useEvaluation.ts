import { useEffect, useMemo, useReducer, useRef } from "react";
import type { Design } from "../../core/design/schema";
import { type Answers, type Evaluation, type EvaluationContext, evaluate, hasRough } from "../../core/evaluate";
import { askSlow } from "../worker/slow";
import { answersFor, keepAnswers } from "./keptAnswers";

/**
 * ms that a design must stand still before what is slow is worked out, while it changes in quick steps as in a drag.
 */
const STILL = 200;
/** ms after which it is worked out all the same. */
const LONGEST = 350;

/** ms within which in a drag all that is not slow follows; between, only what is drawn where the hand is. */
const FOLLOWS = 150;

/** ms between two looks whether a drag has gone on. */
const FRAME = 30;

interface Pace {
  design: Design;
  /** ms, when the design changed and when an answer came; whether the last change followed close upon another */
  changed: number;
  answered: number;
  quick: boolean;
}

/**
 * Resolves at once after a single change, and in a stream of them in its first pause, or when it has gone on too long.
 * As long as it waits it does something at each change, where there is something to do.
 *
 * @param meanwhile null: nothing to do so far
 */
async function stoodStill(
  pace: { readonly current: Pace },
  meanwhile: () => ((design: Design) => Promise<void>) | null,
): Promise<void> {
  let done: Design | null = null;
  for (;;) {
    const { design, changed, answered, quick } = pace.current;
    const work = meanwhile();
    // What is told roughly all the while is told in full once the hand rests.
    const latest = work ? Number.POSITIVE_INFINITY : answered + LONGEST;
    const left = Math.min(changed + STILL, latest) - performance.now();
    if (!quick || left <= 0) return;
    if (work && done !== design) {
      done = design;
      await work(design);
    } else await new Promise((r) => setTimeout(r, work ? Math.min(left, FRAME) : left));
  }
}

/**
 * The evaluation of a design. What is slow is worked out beside the page after the first time: until it is there what
 * stood before the change goes on standing, named in `waiting`. Only the newest change is asked for. What this browser
 * worked out of the same design before is taken over.
 *
 * @param place craft, version and state, as text
 * @param stream of changes that the last one belongs to; undefined: it stands by itself
 */
export function useEvaluation(
  design: Design,
  context: EvaluationContext,
  place: string,
  stream: string | undefined,
): Evaluation {
  const standing = useRef<{ design: Design; evaluation: Evaluation } | null>(null);
  const [answered, again] = useReducer((n: number) => n + 1, 0);
  const whole = useRef<{ at: number; stream: string | undefined }>({ at: 0, stream: undefined });
  const step = useRef(false);
  const rough = useRef<{ design: Design; answers: Answers } | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer that came is found where results are remembered
  const evaluation = useMemo(() => {
    const kept = standing.current ? null : answersFor(design);
    const now = performance.now();
    step.current =
      standing.current !== null &&
      stream !== undefined &&
      stream === whole.current.stream &&
      now < whole.current.at + FOLLOWS;
    if (!step.current) whole.current = { at: now, stream };
    return evaluate(
      design,
      context,
      undefined,
      standing.current
        ? { standing: standing.current, step: step.current, rough: rough.current }
        : kept && { answers: kept },
    );
  }, [design, context, answered]);
  useEffect(() => {
    if (!step.current) return;
    // The next step brings the rest; after the last one it is asked for.
    const timer = setTimeout(again, FOLLOWS);
    return () => clearTimeout(timer);
  });
  const wanted = useRef<Design | null>(null);
  const asking = useRef(false);
  const waits = useRef(evaluation);
  waits.current = evaluation;
  const pace = useRef<Pace>({ design, changed: 0, answered: 0, quick: false });
  useEffect(() => {
    standing.current = { design, evaluation };
    if (pace.current.design !== design) {
      const at = performance.now();
      pace.current = { ...pace.current, design, changed: at, quick: at - pace.current.changed < STILL };
    }
    if (evaluation.waiting.length === 0) return;
    wanted.current = design;
    if (asking.current) return;
    asking.current = true;
    const askRough = async (of: Design) => {
      try {
        rough.current = { design: of, answers: await askSlow((slow) => slow.rough(of)) };
        again();
      } catch {
        // What stood before goes on standing.
      }
    };
    void (async () => {
      while (wanted.current) {
        await stoodStill(pace, () => (hasRough(waits.current) ? askRough : null));
        const asked: Design = wanted.current;
        wanted.current = null;
        try {
          const answers = await askSlow((slow) => slow.answers(asked));
          standing.current = { design: asked, evaluation: evaluate(asked, context, undefined, { answers }) };
        } catch {
          // Without a worker it is worked out here.
          standing.current = null;
        }
        rough.current = null;
        pace.current = { ...pace.current, answered: performance.now() };
        again();
      }
      asking.current = false;
    })();
  }, [design, evaluation, context]);
  useEffect(
    // What a step left standing may rest on the design before.
    () => (step.current ? undefined : keepAnswers(place, design, evaluation)),
    [place, design, evaluation],
  );
  return evaluation;
}
