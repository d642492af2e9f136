import { useEffect, useState } from "react";
import { spansStates } from "../../core/design/inState";
import type { Design } from "../../core/design/schema";
import type { Corridor } from "../../core/corridor";
import type { Mission } from "../../core/mission";
import type { Severity } from "../../core/subject";
import { askSlow } from "../worker/slow";
import { useCalmDesk, useDeskActions } from "./desk";

/** ms that the design must stand still before its other states are worked out. */
const STILL = 400;

/** What is known of all states of a craft together. */
export interface EveryState {
  /** how many verdicts of each kind a state has, by its id */
  tallies: Record<string, Record<Severity, number>>;
  mission: Mission | null;
  /** by the id of the transition */
  corridors: Record<string, Corridor>;
}

/** Asked once for each design, however many places show it. */
const asked = new WeakMap<Design, Promise<EveryState>>();
function found(design: Design): Promise<EveryState> {
  const known = asked.get(design);
  if (known) return known;
  const answer = askSlow((slow) => slow.everyState(design));
  asked.set(design, answer);
  answer.catch(() => asked.delete(design));
  return answer;
}

/**
 * What every state of the craft is found to be, worked out beside the page: null until the first answer. What stood
 * before a change goes on standing, marked as not current, until the next one.
 */
export function useEveryState(): { found: EveryState; current: boolean } | null {
  const { design } = useCalmDesk("frame");
  const { now } = useDeskActions();
  const [answer, setAnswer] = useState<{ design: Design; found: EveryState } | null>(null);
  useEffect(() => {
    let over = false;
    const timer = setTimeout(() => {
      if (now() !== design || (design.states.length < 2 && !spansStates(design))) return;
      found(design)
        .then((all) => {
          if (!over) setAnswer({ design, found: all });
        })
        // Without them a state can be looked at all the same.
        .catch(() => {});
    }, STILL);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [design, now]);
  return answer && { found: answer.found, current: answer.design === design };
}
