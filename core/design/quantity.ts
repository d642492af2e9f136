import type { Evidence } from "./evidence";
import type { Dimension } from "./units";

/** One input of a computed result, as "show working" lists it. */
export interface WorkingInput {
  name: string;
  value: number;
  sd: number;
  dimension: Dimension;
  evidence: Evidence;
}

/** How a result came about. The formula, source and range are worded from `method` (core/wording/methods.ts). */
export interface Working {
  method: string;
  inputs: WorkingInput[];
  /** Conditions outside the method's stated range, as sentences. Empty when inside. */
  outside: string[];
}

/** A computed result: SI value, standard uncertainty (1 sigma), dimension and evidence. */
export interface Quantity {
  value: number;
  sd: number;
  dimension: Dimension;
  evidence: Evidence;
  working?: Working;
}
