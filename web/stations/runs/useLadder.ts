import { useMemo } from "react";
import type { Lock } from "../../../core/design/craftFile";
import { ladderOf, ladderState, locksFor, nextStage } from "../../../core/runs/ladder";
import { findingText } from "../../../core/evaluate";
import { lockText } from "../../../core/wording/ladder";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";

/**
 * The ladder of the version in view as it stands on the desk: its rungs, how far each got, and what stands against
 * going up.
 */
export function useLadder() {
  const { file, version, seen: design, evaluation } = useDesk();
  const { habit } = usePreferences();
  return useMemo(() => {
    const own = { ...version, design };
    const state = ladderState(file, own);
    return {
      rungs: ladderOf(own),
      state,
      next: nextStage(state),
      locks: (stage: number): Lock[] => locksFor(file, own, evaluation.findings, stage),
      say: (lock: Lock): string =>
        lockText(lock, (code, subject) => {
          const finding = evaluation.findings.find((f) => f.code === code && f.about === subject);
          return finding && findingText(finding, habit);
        }),
    };
  }, [file, version, design, evaluation.findings, habit]);
}

/** Sentences of the verdicts that say stop, each with an id of its own: checklists and boards begin with them. */
export function useStops(): { id: string; text: string }[] {
  const { evaluation } = useDesk();
  const { habit } = usePreferences();
  return useMemo(
    () =>
      evaluation.findings
        .filter((f) => f.severity === "stop")
        .map((f) => ({ id: `${f.code}-${f.about}`, text: findingText(f, habit) })),
    [evaluation.findings, habit],
  );
}
