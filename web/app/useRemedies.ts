import { useEffect, useRef, useState } from "react";
import { type Finding, type Remedy, findingKey } from "../../core/subject";
import { answersOf } from "../../core/evaluate";
import { askSlow } from "../worker/slow";
import { useCalmDesk, useDeskActions } from "./desk";
import { usePreferences } from "./preferences";

/** ms that a search for remedies may take: some of them size a drive anew. */
const LONGEST = 60_000;
/** Time that a design must stand still before remedies are looked for, ms. */
const STILL = 150;

/**
 * What would answer the findings in view, worked out beside the page. Until an answer to the last change is there the
 * one before stands, marked as not current; a part being dragged asks for nothing.
 */
export function useRemedies(findings: readonly Finding[]): { of: (f: Finding) => Remedy[]; current: boolean } {
  const { design: entered, seen: design, context, evaluation } = useCalmDesk("frame");
  const { now } = useDeskActions();
  const { habit } = usePreferences();
  const [answer, setAnswer] = useState<{
    design: unknown;
    habit: string;
    wanted: string;
    list: Record<string, Remedy[]>;
  } | null>(null);
  const wanted = findings.filter((f) => f.severity !== "clear").map(findingKey);
  const keys = wanted.join("\n");
  const asked = useRef({ design, entered, context, habit, wanted, evaluation });
  asked.current = { design, entered, context, habit, wanted, evaluation };
  // biome-ignore lint/correctness/useExhaustiveDependencies: the keys stand for the list
  useEffect(() => {
    let over = false;
    const timer = setTimeout(() => {
      const { wanted: findings, ...of } = asked.current;
      // Something is on its way: it is asked when it stands.
      if (findings.length === 0 || now() !== of.entered) return;
      const answers = of.evaluation.waiting.length === 0 ? answersOf(of.evaluation) : null;
      const { design, context, habit } = of;
      askSlow((slow) => slow.remedies({ design, context, habit, answers }, findings), LONGEST)
        .then((list) => {
          if (!over) setAnswer({ design: of.design, habit: of.habit, wanted: keys, list });
        })
        // Without remedies the verdicts still stand.
        .catch(() => {});
    }, STILL);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [design, context, habit, keys, now]);
  return {
    of: (f) => answer?.list[findingKey(f)] ?? [],
    current: answer?.design === design && answer.habit === habit && answer.wanted === keys,
  };
}
