import { type RefObject, useLayoutEffect, useRef, useState } from "react";

/** Width of an element in px, kept up to date, so that a drawing's letters keep their size on every screen. */
export function useWidth<E extends HTMLElement>(start: number): [RefObject<E | null>, number] {
  const ref = useRef<E>(null);
  const [width, setWidth] = useState(start);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const measure = () => setWidth(Math.max(280, Math.round(element.clientWidth)));
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}
