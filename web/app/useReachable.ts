import { type RefObject, useEffect } from "react";

/** What scrolls sideways by itself when it is wider than its place. */
const SIDEWAYS = ".wide, .overflow-x-auto";

/**
 * Lets the keyboard reach what scrolls sideways: what is wider than its place takes the focus, so that the arrow keys
 * move it; what fits is no stop on the way.
 */
export function useReachable(within: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const all = within.current;
    if (!all) return;
    let waiting = 0;
    const look = () => {
      waiting = 0;
      for (const e of all.querySelectorAll<HTMLElement>(SIDEWAYS))
        if (e.scrollWidth > e.clientWidth + 1) e.tabIndex = 0;
        else e.removeAttribute("tabindex");
    };
    const soon = () => {
      waiting ||= window.setTimeout(look, 200);
    };
    const seen = new MutationObserver(soon);
    seen.observe(all, { childList: true, subtree: true });
    window.addEventListener("resize", soon);
    look();
    return () => {
      clearTimeout(waiting);
      seen.disconnect();
      window.removeEventListener("resize", soon);
    };
  }, [within]);
}
