import { useState } from "react";
import { useSearchParams } from "react-router";

/** Drives that stand still, by id, as the address has them. */
export const stillIn = (still: string): Set<string> => new Set(still.split(".").filter(Boolean));

/** Throttle, speed and drives at work, kept in the address; a slider that is being moved counts before it is let go. */
export function useWorkingPoint() {
  const [search, setSearch] = useSearchParams();
  const [live, setLive] = useState<number | null>(null);
  const put = (change: Record<string, string | null>) =>
    setSearch(
      (s) => {
        for (const [k, v] of Object.entries(change)) v === null ? s.delete(k) : s.set(k, v);
        return s;
      },
      // Another sheet is a step that Back takes back; a slider is none.
      { replace: !("sheet" in change || "of" in change) },
    );
  const asked = Number(search.get("throttle") ?? Number.NaN);
  const throttle = live ?? (Number.isFinite(asked) ? Math.min(1, Math.max(0, asked / 100)) : 1);
  const still = search.get("idle") ?? "";
  const commit = () => {
    if (live !== null) put({ throttle: String(Math.round(throttle * 100)) });
    setLive(null);
  };
  return {
    throttle,
    speed: Math.max(0, Number(search.get("speed") ?? 0) || 0),
    still,
    idle: stillIn(still),
    search,
    put,
    setLive,
    commit,
  };
}
export type WorkingPoint = ReturnType<typeof useWorkingPoint>;
