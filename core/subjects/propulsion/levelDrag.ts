import type { Evidence } from "../../design/evidence";

/**
 * Drag of level flight on wings: what stands in the wind, and what carrying the weight costs. D = q·(A + c0) + c1·W +
 * c2·W²/q with q = ½ρv².
 */
export interface LevelDrag {
  /** drag area of what stands in the wind, m² */
  area: { value: number; sd: number; evidence: Evidence };
  /** drag due to lift at no load, m² */
  c0: number;
  /** the part that goes with the load */
  c1: number;
  /** the part that goes with its square, 1/m² */
  c2: number;
  /**
   * most that the wings carry over ½ρv² in level flight, m²: to the stall, or till something touches the ground; null
   * where nobody knows
   */
  carries: number | null;
}

/**
 * Share by which drag due to lift is off that a lattice gives: bodies, gaps and what the sections add with lift are
 * not in it (judgement).
 */
export const INDUCED_OFF = 0.1;

/**
 * N of drag in level flight. @param q ½ρv², Pa, above nought; @param weight N
 *
 * @param more factor on what lift costs
 */
export const levelDragAt = (
  { c0, c1, c2 }: Pick<LevelDrag, "c0" | "c1" | "c2">,
  area: number,
  q: number,
  weight: number,
  more = 1,
): number => q * (area + c0) + more * (c1 * weight + (c2 * weight ** 2) / q);
