import { AIR } from "./symptoms/air";
import { CONTROL } from "./symptoms/control";
import { ELECTRICAL } from "./symptoms/electrical";
import { FIRST } from "./symptoms/first";
import type { Symptom } from "./symptoms/kinds";
import { ROTATING } from "./symptoms/rotating";
import { WATER } from "./symptoms/water";
import { WORKSHOP } from "./symptoms/workshop";

export { GROUPS } from "../design/symptom";
export type { Cause, Symptom } from "./symptoms/kinds";

/**
 * Symptoms with their likely causes in rough order, the test that tells each from the rest, and the fix. Common
 * practice of the field, no
 * single source. Verdicts of the version and recent changes reorder them (rank.ts).
 */
export const SYMPTOMS: Symptom[] = [...FIRST, ...AIR, ...WATER, ...ROTATING, ...ELECTRICAL, ...CONTROL, ...WORKSHOP];
