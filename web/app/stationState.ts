import type { CraftFile, Version } from "../../core/design/craftFile";
import type { Station } from "../../core/design/metrics";
import type { Evaluation } from "../../core/evaluate";
import { isStale } from "../../core/bench/stale";
import type { Severity } from "../../core/verdicts/types";

export interface StationState {
  text: string;
  severity: Severity;
}

/** The live line under each station's name, from the same evaluation as the verdicts. At most 16 characters or so. */
export function stationState(station: Station, evaluation: Evaluation, file: CraftFile, version: Version): StationState {
  const own = evaluation.findings.filter((f) => f.station === station);
  const worst = own.find((f) => f.severity !== "clear")?.severity ?? "clear";
  const runs = file.runs.filter((r) => r.version === version.label);
  const open = file.faults.filter((f) => f.state === "open");
  const unproven = file.faults.findLast((f) => f.state === "closed");
  switch (station) {
    case "brief": {
      const missed = evaluation.targets.filter((t) => t.status === "missed").length;
      const total = evaluation.targets.length;
      return {
        text: total === 0 ? "no targets yet" : missed === 0 ? `${total} of ${total} met` : `${missed} of ${total} missed`,
        severity: missed > 0 && worst === "clear" ? "care" : worst,
      };
    }
    case "layout":
      if (evaluation.mass === null) return { text: "no parts yet", severity: "note" };
      if (own.some((f) => f.code === "cg-outside")) return { text: "CG out of window", severity: "stop" };
      return { text: `CG ± ${(evaluation.mass.cgSd.x * 1000).toFixed(1)} mm`, severity: worst };
    case "power":
      if (evaluation.power.status === "missing") return { text: "no drive yet", severity: "note" };
      if (evaluation.power.status === "failed") return { text: "no solution", severity: "stop" };
      return { text: `${evaluation.power.result.values.thrust.toFixed(1)} N standing`, severity: worst };
    case "stability":
      return { text: "planned", severity: "note" };
    case "bench": {
      const sessions = file.bench.filter((b) => b.version === version.label);
      const stale = sessions.filter((b) => isStale(b, version.design)).length;
      if (sessions.length === 0) return { text: "nothing measured", severity: "note" };
      return stale > 0
        ? { text: `${stale} of ${sessions.length} stale`, severity: "care" }
        : { text: `${sessions.length} ${sessions.length === 1 ? "session" : "sessions"}`, severity: "clear" };
    }
    case "runs":
      if (runs.some((r) => r.crash && Object.values(r.crash.steps).some((done) => !done))) return { text: "evidence first", severity: "stop" };
      return { text: runs.length === 0 ? "no run yet" : `${runs.length} ${runs.length === 1 ? "run" : "runs"}`, severity: runs.at(-1)?.outcome === "failed" ? "care" : "clear" };
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
      return { text: `${file.versions.length}, ${file.versions.filter((v) => v.frozenAt === null).length} open`, severity: "clear" };
  }
}
