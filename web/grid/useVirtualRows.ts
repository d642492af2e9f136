import { useVirtualizer } from "@tanstack/react-virtual";
import { type RefObject, useEffect, useLayoutEffect, useState } from "react";
import { flushSync } from "react-dom";

/** Lists shorter than this are drawn whole. */
const SHORT = 40;
/** Height of a row until it is drawn, px. */
const ROW = 25;

/** Whether the page is being printed: then all is drawn. */
function usePrinting(): boolean {
  const [printing, setPrinting] = useState(false);
  useEffect(() => {
    const before = () => flushSync(() => setPrinting(true));
    const after = () => setPrinting(false);
    window.addEventListener("beforeprint", before);
    window.addEventListener("afterprint", after);
    return () => {
      window.removeEventListener("beforeprint", before);
      window.removeEventListener("afterprint", after);
    };
  }, []);
  return printing;
}

/**
 * The rows of a long list that are in view, with the room above and below them in px. The list scrolls with the page
 * that it stands in.
 *
 * @param body where the rows are drawn
 */
export function useVirtualRows(count: number, body: RefObject<HTMLElement | null>) {
  const [scroller, setScroller] = useState<HTMLElement | null>(null);
  const [margin, setMargin] = useState(0);
  const printing = usePrinting();
  const whole = count < SHORT || printing || scroller === null;
  // On a phone the page scrolls together with its head.
  useLayoutEffect(() => {
    const page = body.current?.closest<HTMLElement>(".frame-main");
    const scrolls = page && getComputedStyle(page).overflowY !== "visible";
    setScroller((scrolls ? page : page?.closest<HTMLElement>(".frame-scroll")) ?? null);
  }, [body]);
  // What stands above the list grows and shrinks, and the list with it.
  useLayoutEffect(() => {
    if (!scroller) return;
    const look = () => {
      const [at, from] = [body.current?.getBoundingClientRect().top ?? 0, scroller.getBoundingClientRect().top];
      setMargin((was) => (Math.abs(at - from + scroller.scrollTop - was) > 1 ? at - from + scroller.scrollTop : was));
    };
    const seen = new ResizeObserver(look);
    for (const part of scroller.children) seen.observe(part);
    look();
    return () => seen.disconnect();
  }, [scroller, body]);
  const virtual = useVirtualizer({
    count: whole ? 0 : count,
    getScrollElement: () => scroller,
    estimateSize: () => ROW,
    overscan: 12,
    scrollMargin: margin,
  });
  if (whole) return { from: 0, to: count, above: 0, below: 0, show: () => undefined, measure: undefined };
  const items = virtual.getVirtualItems();
  const [first, last] = [items[0], items.at(-1)];
  return {
    from: first?.index ?? 0,
    to: (last?.index ?? -1) + 1,
    above: (first?.start ?? margin) - margin,
    below: virtual.getTotalSize() - ((last?.end ?? margin) - margin),
    measure: virtual.measureElement,
    show: (index: number) => virtual.scrollToIndex(index, { align: "auto" }),
  };
}
