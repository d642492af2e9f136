import type { UnitHabit } from "../design/units";
import type { PackState, RankReason } from "../faults/rank";
import type { Finding } from "../subject";
import { findingText } from "../evaluate";

const PACK: Record<PackState, string> = {
  "began low": "the pack was not full at the start",
  cold: "the pack was cold",
  sagged: "the pack sagged under load",
  "ended flat": "the pack ended below its floor",
  held: "the pack was full and held its volts",
};
const name = (n: number) => `F-${String(n).padStart(2, "0")}`;

/**
 * Why a suspect stands where it stands, as a sentence. The findings are those of the version that the fault was seen
 * on.
 */
export function reasonText(reason: RankReason, findings: readonly Finding[], habit: UnitHabit): string {
  switch (reason.why) {
    case "changed":
      return `up: ${reason.kind} changed in this version`;
    case "repaired":
      return `up: mended after ${name(reason.fault)}, and no run has proven it`;
    case "unverified":
      return `up: ${reason.part} has not run in the open yet as it is`;
    case "pack":
      return `${reason.effect > 0 ? "up" : "down"}: ${PACK[reason.state]}`;
    case "read":
      return (
        `up: ${reason.drive} ${reason.odd === "hotter" ? "was hotter than its like" : reason.odd} in that ` +
        "run's readings"
      );
    case "before":
      return `up: it was this in ${name(reason.fault)}`;
    case "finding": {
      const finding = findings.find((f) => f.code === reason.code);
      return `${reason.effect > 0 ? "up" : "down"}: ${finding ? findingText(finding, habit) : reason.code}`;
    }
  }
}
