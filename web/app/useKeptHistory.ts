import { get, set } from "idb-keyval";
import { type Dispatch, type SetStateAction, useEffect, useRef, useState } from "react";
import { designNow } from "../../core/design/openFile";
import { type Design, designSchema } from "../../core/design/schema";
import { sameData } from "../../core/numeric/sameData";
import type { History } from "./desk";

/** Steps that are kept through a reload, each way. */
const KEPT = 20;
/** ms after the last step until they are written down: a dragged part makes many. */
const TOGETHER = 600;

type Kept = Record<"past" | "future", unknown[]> & { present: unknown };

/** A design as an older release may have left it; none where it cannot be read any more. */
function readDesign(left: unknown): Design[] {
  if (typeof left !== "object" || left === null) return [];
  const read = designSchema.safeParse(designNow({ ...left }));
  return read.success ? [read.data] : [];
}

/** Those next to the present that can all be read: a step that is missing would make another of the one beyond it. */
function nearest(left: readonly unknown[], from: "end" | "start"): Design[] {
  const out: Design[] = [];
  for (const one of from === "end" ? left.toReversed() : left) {
    const [design] = readDesign(one);
    if (!design) break;
    out.push(design);
  }
  return from === "end" ? out.reverse() : out;
}

/**
 * What can be taken back lies in the browser too: after a reload it can be taken back as before, as long as what stands
 * is what stood there then.
 *
 * @param ready whether what was left unsaved has been looked for: only then it is known what stands
 */
export function useKeptHistory(
  slug: string,
  label: string,
  history: History,
  setHistory: Dispatch<SetStateAction<History>>,
  ready: boolean,
): void {
  const key = `undo ${slug} ${label}`;
  const [looked, setLooked] = useState<string | null>(null);
  const begun = useRef(history);
  useEffect(() => {
    if (!ready) return;
    let over = false;
    void get<Kept>(key)
      .then((left) => {
        if (over || !left) return;
        setHistory((h) =>
          sameData(readDesign(left.present)[0], h.present)
            ? { ...h, past: nearest(left.past, "end"), future: nearest(left.future, "start") }
            : h,
        );
      })
      .catch(() => {})
      .finally(() => {
        if (!over) setLooked(key);
      });
    return () => {
      over = true;
    };
  }, [key, ready, setHistory]);
  const newest = useRef(history);
  newest.current = history;
  useEffect(() => {
    // Nothing was done yet: what lies there is not written over with nothing.
    if (looked !== key || history === begun.current) return;
    const write = () => {
      const { past, present, future } = newest.current;
      void set(key, { past: past.slice(-KEPT), present, future: future.slice(0, KEPT) }).catch(() => {});
    };
    const timer = setTimeout(write, TOGETHER);
    window.addEventListener("pagehide", write);
    return () => {
      clearTimeout(timer);
      window.removeEventListener("pagehide", write);
    };
  }, [history, looked, key]);
}
