import { useEffect, useState } from "react";

const waiting: (() => void)[] = [];
let going = false;
function next(): void {
  const work = waiting.shift();
  going = work !== undefined;
  if (!work) return;
  work();
  setTimeout(next);
}

/**
 * A value that the charts of a page take over one after the other, each in a turn of its own: painting several anew at
 * once holds up the keys. The first value is there at once.
 */
export function useInTurn<T>(value: T): T {
  const [shown, setShown] = useState(value);
  useEffect(() => {
    if (shown === value) return;
    const take = () => setShown(value);
    waiting.push(take);
    if (!going) {
      going = true;
      setTimeout(next);
    }
    return () => {
      const at = waiting.indexOf(take);
      if (at >= 0) waiting.splice(at, 1);
    };
  }, [shown, value]);
  return shown;
}
