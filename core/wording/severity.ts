import type { Severity } from "../subject";

export const SEVERITY_WORD: Record<Severity, string> = { stop: "Stop", care: "Care", note: "Note", clear: "Clear" };
