import { useSyncExternalStore } from "react";

const NARROW = "(width < 640px)";
/** Whether the page is as narrow as a phone. */
export const useNarrow = (): boolean =>
  useSyncExternalStore(
    (changed) => {
      const query = window.matchMedia(NARROW);
      query.addEventListener("change", changed);
      return () => query.removeEventListener("change", changed);
    },
    () => window.matchMedia(NARROW).matches,
  );
