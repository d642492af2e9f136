import { useEffect, useMemo, useReducer, useRef } from "react";
import type { Design } from "../../core/design/schema";
import { type Evaluation, type EvaluationContext, evaluate } from "../../core/evaluate";
import { askSlow } from "../worker/slow";

/**
 * The evaluation of a design. What is slow is worked out beside the page after the first time: until it is there what
 * stood before the change goes on standing, named in `waiting`. Only the newest change is asked for.
 */
export function useEvaluation(design: Design, context: EvaluationContext): Evaluation {
  const standing = useRef<{ design: Design; evaluation: Evaluation } | null>(null);
  const [answered, again] = useReducer((n: number) => n + 1, 0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer that came is found where results are remembered
  const evaluation = useMemo(
    () => evaluate(design, context, undefined, standing.current && { standing: standing.current }),
    [design, context, answered],
  );
  const wanted = useRef<Design | null>(null);
  const asking = useRef(false);
  useEffect(() => {
    standing.current = { design, evaluation };
    if (evaluation.waiting.length === 0) return;
    wanted.current = design;
    if (asking.current) return;
    asking.current = true;
    void (async () => {
      while (wanted.current) {
        const asked: Design = wanted.current;
        wanted.current = null;
        try {
          const answers = await askSlow((slow) => slow.answers(asked));
          standing.current = { design: asked, evaluation: evaluate(asked, context, undefined, { answers }) };
        } catch {
          // Without a worker it is worked out here.
          standing.current = null;
        }
        again();
      }
      asking.current = false;
    })();
  }, [design, evaluation, context]);
  return evaluation;
}
