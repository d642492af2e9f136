import type { CraftFile, Fault, Version } from "../design/craftFile";
import { ladderState, lineOf } from "../runs/ladder";
import type { Finding } from "../subject";
import { debts, tuneStates } from "./tune";

/** Why a build is not simply good, as codes; the words are in core/wording/report.ts. */
export type StatusReason =
  | { kind: "stop" | "care"; code: Finding["code"]; subject: string }
  | {
      kind: "fault";
      fault: number;
      state: "open" | "closed" | "unresolved" | "cured, cause unknown";
      danger: boolean;
      mendedIn: string | null;
    }
  | { kind: "rung"; stage: number; state: "failed" | "unclear" }
  | { kind: "reached"; stage: number }
  | { kind: "debt"; setting: string }
  | { kind: "stale"; group: string }
  | { kind: "stopped"; state: "paused" | "stopped" | "salvaged" };

export interface Status {
  status: "works" | "works with cautions" | "do not build";
  reasons: StatusReason[];
}

/**
 * The version outside this line in which a fault was mended: here it is not. Null when the fix is aboard or there is
 * none.
 */
export const mendedElsewhere = (fault: Pick<Fault, "fix" | "fixVersion">, line: readonly string[]): string | null =>
  fault.fix !== "" && fault.fixVersion !== null && !line.includes(fault.fixVersion) ? fault.fixVersion : null;

/**
 * Rung that must have been passed before anybody else should build it: it ran in the open. Below the second it does
 * not work at all.
 */
const OPEN = 5;
const SHORT = 4;

/** What can honestly be said of a version to somebody who would build it. */
export function statusOf(file: CraftFile, version: Version, findings: readonly Finding[]): Status {
  const state = ladderState(file, version);
  const reached = Math.max(0, ...state.filter((s) => s.state === "passed").map((s) => s.stage));
  const line = lineOf(file.versions, version.label);
  const no: StatusReason[] = findings
    .filter((f) => f.severity === "stop")
    .map((f) => ({ kind: "stop", code: f.code, subject: f.about }));
  const but: StatusReason[] = findings
    .filter((f) => f.severity === "care")
    .map((f) => ({ kind: "care", code: f.code, subject: f.about }));
  for (const f of file.faults) {
    const label = file.runs.find((r) => r.number === f.run)?.version ?? "";
    if (!line.includes(label) || f.state === "proven") continue;
    const reason = {
      kind: "fault" as const,
      fault: f.number,
      state: f.state as Exclude<Fault["state"], "proven">,
      danger: f.severity === "danger",
      mendedIn: mendedElsewhere(f, line),
    };
    (f.severity === "danger" && (f.state === "open" || reason.mendedIn !== null) ? no : but).push(reason);
  }
  if (reached < SHORT) no.push({ kind: "reached", stage: reached });
  else if (reached < OPEN) but.push({ kind: "reached", stage: reached });
  for (const s of state)
    if (s.state === "failed" || s.state === "unclear") but.push({ kind: "rung", stage: s.stage, state: s.state });
  for (const d of debts(file, version))
    but.push({ kind: "debt", setting: [d.setting.group, d.setting.name].filter(Boolean).join(", ") });
  for (const group of new Set(tuneStates(file, version).flatMap((t) => (t.stale.length > 0 ? [t.setting.group] : []))))
    but.push({ kind: "stale", group });
  const { state: fate } = version.fate;
  if (fate === "stopped" || fate === "salvaged") no.push({ kind: "stopped", state: fate });
  else if (fate === "paused") but.push({ kind: "stopped", state: fate });
  return {
    status: no.length > 0 ? "do not build" : but.length > 0 ? "works with cautions" : "works",
    reasons: [...no, ...but],
  };
}
