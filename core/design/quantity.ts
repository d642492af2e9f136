import type { Evidence } from "./evidence";
import type { Dimension } from "./units";

/** One input of a computed result, as "show working" lists it. */
export interface WorkingInput {
  name: string;
  value: number;
  sd: number;
  dimension: Dimension;
  evidence: Evidence;
  /** Share of the result's variance that comes from it, 0 to 1. */
  share: number;
  /** What a builder would measure to know it better; null for what belongs to a method. */
  source: { kind: "mass" | "place"; item: string } | { kind: "input"; input: string; drive: string } | null;
}

/** A computed result: SI value, standard uncertainty (1 sigma), dimension and evidence. */
export interface Quantity {
  value: number;
  sd: number;
  dimension: Dimension;
  evidence: Evidence;
  /** Conditions outside the method's stated range, as sentences; left out when inside. */
  outside?: readonly string[];
  /** What the number leaves out, as sentences: a target that it bears on is not met by it. */
  incomplete?: readonly string[];
  /** What it rests on and nobody knows, as sentences: the number may be off either way, by no one knows how much. */
  unknown?: readonly string[];
  /** How this number was come by where that is another way than its usual one. */
  by?: Method;
}
/** How a number is computed: formula, where that is from, and where it holds. */
export interface Method {
  /** what it is called there, where the usual name would be wrong */
  label?: string;
  formula: string;
  source: string;
  range: string;
}
