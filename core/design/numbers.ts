import type { Dimension } from "./units";

/** Pages of the workshop, in the order in which builders work. */
export const PAGES = ["brief", "layout", "power", "stability", "bench", "runs", "faults", "versions"] as const;
export type Page = (typeof PAGES)[number];

/** Everything that is said of one computed number, once. */
export interface QuantityDef {
  label: string;
  dimension: Dimension;
  page: Page;
  /** How it is computed, in words that an engineer can check. */
  formula: string;
  source: string;
  range: string;
}

/** Keeps the names of a subject's numbers as types. */
export const numbers = <const T extends Record<string, QuantityDef>>(defs: T): T => defs;
