import { GRAVITY } from "../air/air";
import { findRoot } from "../../numeric/root";

/** Of air, J/(kg·K). */
const HEAT_CAPACITY = 1006;
const KELVIN = 273.15;
/** Coefficient of discharge of a vent, with how far it may be off (ASHRAE: 0.65; sharp small ones 0.6). */
export const DISCHARGE = { value: 0.6, sd: 0.1 };

/** What carries heat out of a closed space. */
export interface Ways {
  /** W/K through its walls */
  walls: number;
  /** m², of each of two vents; 0: closed */
  vent: number;
  /** m between them */
  rise: number;
  discharge: number;
}

/** W that leave at a rise of dt over the air outside, at `outside` °C and kg/m³. */
export function leaving(dt: number, { walls, vent, rise, discharge }: Ways, outside: number, density: number): number {
  // Two openings in line count as one of A/√2.
  const flow =
    vent > 0 && rise > 0
      ? discharge * (vent / Math.SQRT2) * Math.sqrt((2 * GRAVITY * rise * dt) / (outside + KELVIN + dt))
      : 0;
  return walls * dt + density * HEAT_CAPACITY * flow * dt;
}

/**
 * Rise (K) of the air in a closed space in which so much turns into heat lastingly (W); null where nothing would carry
 * it out, or it would pass 2000 K.
 */
export function riseOf(heat: number, ways: Ways, outside: number, density: number): number | null {
  if (heat <= 0) return 0;
  const most = 2000;
  if (!(leaving(most, ways, outside, density) > heat)) return null;
  const found = findRoot((dt) => leaving(dt, ways, outside, density) - heat, 0, most, 1e-9);
  return found.status === "converged" ? found.x : null;
}

/** Area (m²) of each of two vents that keeps the rise at dt; 0 where the walls do. */
export function ventFor(heat: number, dt: number, ways: Ways, outside: number, density: number): number {
  const rest = heat - ways.walls * dt;
  const per = leaving(dt, { ...ways, walls: 0, vent: 1 }, outside, density);
  return rest <= 0 ? 0 : rest / per;
}
