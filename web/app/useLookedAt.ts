import { useCallback, useEffect, useReducer } from "react";
import { useSearchParams } from "react-router";
import { stateOf } from "../../core/design/inState";
import { type Design, type State, usualState } from "../../core/design/schema";

/**
 * The state of the craft that is looked at: the one that the address names, else the one that was looked at last in
 * this window, of whichever version; the first where this version has no such state.
 */
export function useLookedAt(slug: string, design: Design): { state: State; look: (id: string) => void } {
  const [search, setSearch] = useSearchParams();
  const key = `ultraform-state ${slug}`;
  const asked = search.get("state");
  const [, again] = useReducer((n: number) => n + 1, 0);
  useEffect(() => {
    if (asked !== null) sessionStorage.setItem(key, asked);
  }, [asked, key]);
  const look = useCallback(
    (id: string) => {
      sessionStorage.setItem(key, id);
      again();
      setSearch(
        (now) => {
          const next = new URLSearchParams(now);
          if (next.has("state")) next.set("state", id);
          return next;
        },
        { replace: true },
      );
    },
    [key, setSearch],
  );
  const state = stateOf(design, asked ?? sessionStorage.getItem(key)) ?? NO_STATE;
  return { state, look };
}
const NO_STATE = usualState("ground");
