import type { EVIDENCE_STEPS } from "../design/craftFile";

/** What is done after a crash, in its order (common practice). */
export const EVIDENCE_TEXT: Record<(typeof EVIDENCE_STEPS)[number], { title: string; how: string }> = {
  safe: {
    title: "Make it safe",
    how:
      "Throttle off, nobody in the propeller's plane, pack unplugged. A struck lithium pack lies in the " +
      "open, away from people, for half an hour.",
  },
  log: {
    title: "Save the log",
    how: "Logger, receiver, transmitter and cameras: copy before anything is plugged in again or written over.",
  },
  photographs: {
    title: "Photograph it as it lies",
    how: "From all sides, with the marks on the ground and the way that it came.",
  },
  unmoved: {
    title: "Nothing moved or straightened until then",
    how: "Every part picked up after the pictures; what is missing is weighed by what is left.",
  },
  suspects: {
    title: "List the suspects",
    how: "Each person alone first, before anybody agrees on one; then the test that tells them apart.",
  },
};
