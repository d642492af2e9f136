import type { Lock, Plan, Run } from "../design/craftFile";
import type { CheckLine } from "../safety/checklist";

export interface BoardLine {
  id: string;
  state: "go" | "not yet" | "not looked at";
  what: BoardWhat;
}
/** What a line of the board is about, as codes; the words are in core/wording/plan.ts. */
export type BoardWhat =
  | { kind: "lock"; lock: Lock }
  | { kind: "limit"; which: "wind" | "waves" | "current" | "coldest" | "warmest"; limit: number; now: number | null }
  | { kind: "surface"; wanted: string }
  | { kind: "people"; alone: boolean }
  | { kind: "success" }
  | { kind: "safety"; count: number }
  | { kind: "checks"; open: number; of: number };

/**
 * Who must be there at least, by the rung: from the first powered run on one who flies or drives and one who watches
 * (common practice).
 */
const leastPeople = (stage: number) => (stage >= 3 ? 2 : 1);

/** What is go and what is not yet, for a planned run on its day. */
export function board(plan: Plan, locks: readonly Lock[], checks: readonly CheckLine[]): BoardLine[] {
  const out: BoardLine[] = locks.map((lock, i) => ({
    id: `lock-${i}`,
    state: "not yet",
    what: { kind: "lock", lock },
  }));
  const { limits, day } = plan;
  const limit = (
    which: "wind" | "waves" | "current" | "coldest" | "warmest",
    now: number | null,
    over: (now: number, limit: number) => boolean,
  ) => {
    const at = limits[which];
    if (at === null) return;
    out.push({
      id: which,
      state: now === null ? "not looked at" : over(now, at) ? "not yet" : "go",
      what: { kind: "limit", which, limit: at, now },
    });
  };
  limit("wind", day.wind, (n, l) => n > l);
  limit("waves", day.waves, (n, l) => n > l);
  limit("current", day.current, (n, l) => n > l);
  limit("coldest", day.temperature, (n, l) => n < l);
  limit("warmest", day.temperature, (n, l) => n > l);
  if (limits.surface !== "")
    out.push({
      id: "surface",
      state: day.surface === null ? "not looked at" : day.surface === "yes" ? "go" : "not yet",
      what: { kind: "surface", wanted: limits.surface },
    });
  out.push({
    id: "people",
    state: plan.people.length >= (plan.alone ? 1 : leastPeople(plan.stage)) ? "go" : "not yet",
    what: { kind: "people", alone: plan.alone },
  });
  if (plan.stage >= 3)
    out.push({ id: "success", state: plan.success !== "" ? "go" : "not yet", what: { kind: "success" } });
  if (plan.stage >= 2)
    out.push({
      id: "safety",
      state: plan.safety.length > 0 ? "go" : "not yet",
      what: { kind: "safety", count: plan.safety.length },
    });
  const must = checks.filter((c) => c.must);
  const open = must.filter((c) => !plan.ticks.includes(c.id)).length;
  if (must.length > 0)
    out.push({ id: "checks", state: open === 0 ? "go" : "not yet", what: { kind: "checks", open, of: must.length } });
  return out;
}

/** A run may begin when every line is go, or when somebody wrote down why it begins all the same. */
export const mayBegin = (lines: readonly BoardLine[], goneOn: string): boolean =>
  lines.every((l) => l.state === "go") || goneOn.trim() !== "";

/** How a plan begins as a run: what both know. */
export const fromPlan = (
  plan: Plan,
): Pick<Run, "stage" | "purpose" | "place" | "pilot" | "course" | "plan" | "goneOn"> & {
  conditions: Run["conditions"];
} => ({
  stage: plan.stage,
  purpose: plan.question,
  place: plan.place,
  pilot: plan.people[0]?.name ?? "",
  course: plan.course,
  plan: plan.number,
  goneOn: plan.goneOn,
  conditions: { airTemperature: plan.day.temperature, wind: plan.day.wind, surface: plan.limits.surface },
});
