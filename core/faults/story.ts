import type { CraftFile, Fault } from "../design/craftFile";

export type Alike = "the same part" | "the same cause" | "the same symptom";

/** What ties a fault to an earlier one; null when nothing does. A part counts most. */
export function alike(a: Omit<Fault, "number">, b: Omit<Fault, "number">): Alike | null {
  const same = (x: string, y: string) => x.trim() !== "" && x.trim().toLowerCase() === y.trim().toLowerCase();
  if (same(a.part, b.part)) return "the same part";
  const shown = (f: Omit<Fault, "number">) => f.suspects.filter((s) => s.state === "ruled in");
  if (a.symptom !== null && a.symptom === b.symptom && shown(a).some((s) => shown(b).some((t) => s.id === t.id)))
    return "the same cause";
  if (same(a.cause, b.cause)) return "the same cause";
  if (a.symptom !== null && a.symptom === b.symptom) return "the same symptom";
  return null;
}

export interface Chapter {
  fault: Fault;
  because: Alike;
  version: string;
  date: string;
  /**
   * seconds run between this fault and the next one of its kind, by the lengths on record; null when none of the runs
   * has one
   */
  ran: number | null;
  /** how many runs lay between */
  runs: number;
}

/**
 * Earlier faults of the same part, cause or symptom, oldest first, with how long each fix held. Symptoms alone count
 * only when nothing nearer does.
 */
export function story(
  file: Pick<CraftFile, "faults" | "runs">,
  fault: Omit<Fault, "number"> & { number?: number },
): Chapter[] {
  const runOf = (n: number | null) => file.runs.find((r) => r.number === n);
  const time = (n: number | null) => Date.parse(runOf(n)?.date ?? "");
  const here = time(fault.run);
  const list = file.faults
    .filter(
      (f) =>
        f.number !== fault.number &&
        (time(f.run) < here || (time(f.run) === here && f.number < (fault.number ?? Infinity))),
    )
    .flatMap((f) => {
      const because = alike(fault, f);
      return because ? [{ fault: f, because }] : [];
    })
    .sort((a, b) => time(a.fault.run) - time(b.fault.run));
  const near = list.filter((l) => l.because !== "the same symptom");
  const kept = near.length > 0 ? near : list;
  return kept.map(({ fault: f, because }, i) => {
    const next = kept[i + 1]?.fault.run;
    const until = next === undefined ? here : time(next);
    const between = file.runs.filter((r) => Date.parse(r.date) > time(f.run) && Date.parse(r.date) <= until);
    const timed = between.filter((r) => r.seconds !== null);
    const run = runOf(f.run);
    return {
      fault: f,
      because,
      version: run?.version ?? "",
      date: run?.date ?? "",
      runs: between.length,
      ran: timed.length > 0 ? timed.reduce((s, r) => s + (r.seconds ?? 0), 0) : null,
    };
  });
}

/**
 * Whether the next weakest in the load path is worth a question: a part failed and something was done about it, and
 * nobody has said what gives way next.
 */
export const asksNextWeakest = (fault: Pick<Fault, "part" | "fix" | "nextWeakest">): boolean =>
  fault.part.trim() !== "" && fault.fix.trim() !== "" && fault.nextWeakest.trim() === "";
