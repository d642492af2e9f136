import type { Run } from "../../../core/design/craftFile";

export const OUTCOME: Record<Run["outcome"], { word: string; colour: string }> = {
  passed: { word: "Passed", colour: "text-clear" },
  partly: { word: "Partly successful", colour: "text-care" },
  failed: { word: "Failed", colour: "text-stop" },
  aborted: { word: "Aborted", colour: "text-care" },
};
export const faultName = (n: number) => `F-${String(n).padStart(2, "0")}`;
/** Minutes and seconds, as a stop-watch shows them. */
export const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, "0")}`;
