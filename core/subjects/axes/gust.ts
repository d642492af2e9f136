/** Slip up to which straight lines hold, rad (common practice: fins stall beyond). */
const MOST_SLIP = (15 * Math.PI) / 180;
/** What a derivative may be more than it is told, by its method (judgement, as of a craft left to itself). */
const METHOD = 1.2;

/** A gust that is held, m/s. */
export interface Gust {
  speed: number;
  /** more is held than can be told: it comes from further aside than the method holds for */
  more: boolean;
}

/**
 * The gust from the side that a control at full travel holds, m/s: the slip whose moment takes what is left of it.
 *
 * @param left N·m that the control has left at the least
 * @param turns m³ by which a radian of slip turns it over ½ρV², about that axis
 * @param pressure ½ρV², Pa
 * @param speed m/s through the air
 * Source: strip and lattice derivatives (Etkin); sudden, steady afterwards, what the craft does meanwhile left out.
 */
export function sideGust(left: number, turns: number, pressure: number, speed: number): Gust {
  const slip = Math.max(0, left) / (pressure * METHOD * Math.abs(turns));
  return slip < MOST_SLIP
    ? { speed: speed * Math.tan(slip), more: false }
    : { speed: speed * Math.tan(MOST_SLIP), more: true };
}

/**
 * The gust from below that stalls it, m/s: w = V·Δα with what is left of its lift, W·((V/V_s)² − 1) = ½ρV²·L_α·Δα.
 *
 * @param lift m² by which a radian lifts over ½ρV²
 * Source: sharp-edged gust (any textbook of flight mechanics; NACA TR 997), nothing of it eased.
 */
export const gustThatStalls = (
  weight: number,
  { speed, stall, pressure, lift }: { speed: number; stall: number; pressure: number; lift: number },
): number => (speed * Math.max(0, weight * ((speed / stall) ** 2 - 1))) / (pressure * lift);
