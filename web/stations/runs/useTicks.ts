import { today } from "../../app/dates";
import { useState } from "react";

/** Ticks of one list on one day, kept in the browser: a new day starts with an empty list. */
export function useTicks(key: string): [ticks: ReadonlySet<string>, tick: (id: string) => void, clear: () => void] {
  const stored = `ticks/${key}/${today()}`;
  const read = (): string[] => {
    try {
      const held: unknown = JSON.parse(localStorage.getItem(stored) ?? "[]");
      return Array.isArray(held) ? held.filter((x) => typeof x === "string") : [];
    } catch {
      return [];
    }
  };
  const [, again] = useState(0);
  const ticks = new Set(read());
  const put = (list: string[]) => {
    localStorage.setItem(stored, JSON.stringify(list));
    again((n) => n + 1);
  };
  const tick = (id: string) => {
    const now = read();
    put(now.includes(id) ? now.filter((x) => x !== id) : [...now, id]);
  };
  return [ticks, tick, () => put([])];
}
