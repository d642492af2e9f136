import { useEffect, useRef, useState } from "react";
import { type Finding, type Remedy, findingKey } from "../../core/subject";
import { sharedSlow } from "../worker/slow";
import { useDesk } from "./desk";
import { usePreferences } from "./preferences";

/** Time that a design must stand still before remedies are looked for, ms. */
const STILL = 150;

/**
 * What would answer the findings in view, worked out beside the page. Until an answer to the last change is there the
 * one before stands, marked as not current; a part being dragged asks for nothing.
 */
export function useRemedies(findings: readonly Finding[]): { of: (f: Finding) => Remedy[]; current: boolean } {
  const { design, context } = useDesk();
  const { habit } = usePreferences();
  const [answer, setAnswer] = useState<{
    design: unknown;
    habit: string;
    wanted: string;
    list: Record<string, Remedy[]>;
  } | null>(null);
  const wanted = findings.filter((f) => f.severity !== "clear").map(findingKey);
  const keys = wanted.join("\n");
  const asked = useRef({ design, context, habit, wanted });
  asked.current = { design, context, habit, wanted };
  // biome-ignore lint/correctness/useExhaustiveDependencies: the keys stand for the list
  useEffect(() => {
    let over = false;
    const timer = setTimeout(() => {
      const now = asked.current;
      if (now.wanted.length === 0) return;
      sharedSlow()
        .remedies(now.design, now.context, now.habit, now.wanted)
        .then((list) => {
          if (!over) setAnswer({ design: now.design, habit: now.habit, wanted: keys, list });
        })
        // Without remedies the verdicts still stand.
        .catch(() => {});
    }, STILL);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [design, context, habit, keys]);
  return {
    of: (f) => answer?.list[findingKey(f)] ?? [],
    current: answer?.design === design && answer.habit === habit && answer.wanted === keys,
  };
}
