import type { Crash } from "./run";

/** How a run ended, as a person says it. */
export const OUTCOMES = ["passed", "partly", "failed", "aborted"] as const;

/** Least and most of what may be read of a drive: A, rpm, °C. */
export const DRIVE_READ = { current: [0, 1e4], rpm: [0, 1e6], temperature: [-60, 400] } as const;

/** What is secured after a crash, in the order in which it must be. */
export const EVIDENCE_STEPS = ["safe", "log", "photographs", "unmoved", "suspects"] as const;

/** What was seen to before and after a crash: nothing yet. */
export const newCrash = (): Crash => ({
  steps: { safe: false, log: false, photographs: false, unmoved: false, suspects: false },
  notes: "",
});
