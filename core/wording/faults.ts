import type { RankReason } from "../faults/rank";
import type { Finding } from "../verdicts/types";
import { findingText } from "./findings";

/** Why a suspect stands where it stands, as a sentence. The findings are those of the version that the fault was seen on. */
export function reasonText(reason: RankReason, findings: readonly Finding[]): string {
  if (reason.why === "changed") return `up: ${reason.kind} changed in this version`;
  const finding = findings.find((f) => f.code === reason.code);
  return `${reason.effect > 0 ? "up" : "down"}: ${finding ? findingText(finding) : reason.code}`;
}
