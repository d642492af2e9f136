import { resultIn } from "../../core/evaluate";
import { balance } from "../../core/subjects/balance/node";
import type { CraftFile, Version } from "../../core/design/craftFile";
import type { Page } from "../../core/design/metrics";
import type { Evaluation } from "../../core/evaluate";
import { DISPLAY, type UnitHabit } from "../../core/design/units";
import { plain, showSd } from "../../core/wording/format";
import { isStale } from "../../core/bench/stale";
import type { Outcome, Severity } from "../../core/subject";
import type { PropulsionResult } from "../../core/subjects/propulsion/node";

export interface StationState {
  text: string;
  severity: Severity;
}

/** The live line under each station's name, from the same evaluation as the verdicts. At most 16 characters or so. */
export function stationState(
  station: Page,
  evaluation: Evaluation,
  file: CraftFile,
  version: Version,
  habit: UnitHabit,
): StationState {
  const own = evaluation.findings.filter((f) => f.page === station);
  const worst = own.find((f) => f.severity !== "clear")?.severity ?? "clear";
  const runs = file.runs.filter((r) => r.version === version.label);
  const open = file.faults.filter((f) => f.state === "open");
  const unproven = file.faults.findLast((f) => f.state === "closed");
  switch (station) {
    case "brief": {
      const missed = evaluation.targets.filter((t) => t.status === "missed").length;
      const total = evaluation.targets.length;
      const open = evaluation.targets.filter((t) => t.status === "open").length;
      return {
        text:
          total === 0
            ? "no targets yet"
            : missed > 0
              ? `${missed} of ${total} missed`
              : open > 0
                ? `${total - open} of ${total} met, ${open} open`
                : `${total} of ${total} met`,
        severity: missed > 0 && worst === "clear" ? "care" : open > 0 && worst === "clear" ? "note" : worst,
      };
    }
    case "layout": {
      const at = resultIn(evaluation, balance);
      if (at === null) return { text: "no parts yet", severity: "note" };
      if (own.some((f) => f.code === "cg-outside")) return { text: "CG out of window", severity: "stop" };
      if (!at.placed.x) return { text: "CG open", severity: worst };
      return { text: `CG ± ${showSd(at.cgSd.x, "length", habit)} ${DISPLAY[habit].length}`, severity: worst };
    }
    case "power": {
      const drives = evaluation.outcomes.propulsion as Outcome<PropulsionResult>;
      if (drives.status === "missing") return { text: "no drive yet", severity: "note" };
      if (drives.status === "not covered") return { text: "not covered", severity: "note" };
      if (drives.status === "failed") return { text: "no solution", severity: "stop" };
      return { text: `${plain(drives.result.values.thrust.value, "force", habit, 1)} standing`, severity: worst };
    }
    case "stability": {
      const wings = evaluation.outcomes.lattice;
      const margin = evaluation.metrics.staticMargin;
      const hover = evaluation.metrics.hoverShare;
      if (hover) return { text: `${plain(hover.value, "percent", habit)} of thrust`, severity: worst };
      if (evaluation.outcomes.authority?.status === "solved") return { text: "not held level", severity: worst };
      if (wings?.status === "not covered") return { text: "not covered yet", severity: "note" };
      if (wings?.status === "missing") return { text: "no wing yet", severity: "note" };
      if (wings?.status !== "solved" || !margin) return { text: "open", severity: "note" };
      if (margin.incomplete) return { text: "margin open", severity: worst };
      return { text: `margin ${plain(margin.value, "percent", habit)}`, severity: worst };
    }
    case "bench": {
      const sessions = file.bench.filter((b) => b.version === version.label);
      const stale = sessions.filter((b) => isStale(b, version.design)).length;
      if (sessions.length === 0) return { text: "nothing measured", severity: "note" };
      return stale > 0
        ? { text: `${stale} of ${sessions.length} stale`, severity: "care" }
        : { text: `${sessions.length} ${sessions.length === 1 ? "session" : "sessions"}`, severity: "clear" };
    }
    case "runs":
      if (runs.some((r) => r.crash && Object.values(r.crash.steps).some((done) => !done)))
        return { text: "evidence first", severity: "stop" };
      return {
        text: runs.length === 0 ? "no run yet" : `${runs.length} ${runs.length === 1 ? "run" : "runs"}`,
        severity: runs.at(-1)?.outcome === "failed" ? "care" : "clear",
      };
    case "faults":
      return {
        text:
          open.length === 0
            ? unproven
              ? `F-${String(unproven.number).padStart(2, "0")} wants proof`
              : "none open"
            : open.length === 1
              ? `F-${String(open[0]?.number).padStart(2, "0")} open`
              : `${open.length} open`,
        severity: open.length > 0 || unproven ? "care" : "clear",
      };
    case "versions":
      return {
        text: `${file.versions.length}, ${file.versions.filter((v) => v.frozenAt === null).length} open`,
        severity: "clear",
      };
  }
}
