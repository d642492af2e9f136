import type { Known } from "../../design/evidence";
import { sdOf } from "../../numeric/doubt";
import { operatingAt } from "../propulsion/band";
import type { FlightResult } from "../flight/node";
import type { Driven } from "../propulsion/inputs";
import { INDUCED_OFF, type LevelDrag, levelDragAt } from "../propulsion/levelDrag";
import { waterOf } from "../propulsion/setup";

/** What carrying its weight costs a craft on its wings; null where they are not solved, or other things carry it. */
export const liftCost = (
  flown: Pick<FlightResult, "levelDrag" | "weight"> | null,
): { levelDrag: LevelDrag; weight: number } | null =>
  flown?.levelDrag ? { levelDrag: flown.levelDrag, weight: flown.weight } : null;

/**
 * Drag area (m²) from one timed straight run: at a steady speed the drag is the thrust of the drives at that throttle
 * and speed, C_D·A = 2·T(u, v)/(ρ·v²).
 * With a wind the two ways are averaged by whoever timed them. Its doubt: the thrust's, and twice the speed's.
 *
 * @param speed through the air, m/s, > 0, and its standard uncertainty
 * @param lift on described wings: what carrying the weight (N) costs is no part of the area
 * @returns null when the drives give no thrust there (the speed cannot have been held by them)
 */
export function dragAreaFrom(
  design: Driven,
  density: number,
  throttle: number,
  speed: { value: number; sd: number },
  lift: { levelDrag: LevelDrag; weight: number } | null = null,
): Known | null {
  if (!(speed.value > 0)) return null;
  const at = operatingAt(design, throttle, speed.value, "main");
  if (!at || !(at.thrust.value > 0)) return null;
  const q = (density / 2) * speed.value ** 2;
  const all = at.thrust.value / q;
  const lifted = lift ? levelDragAt(lift.levelDrag, 0, q, lift.weight) / q : 0;
  const value = all - lifted;
  if (!(value > 0)) return null;
  return {
    value,
    evidence: "calculated",
    sd: Math.hypot((all * sdOf(at.thrust)) / at.thrust.value, (all * 2 * speed.sd) / speed.value, INDUCED_OFF * lifted),
    note: `from a timed run, ${speed.value.toFixed(1)} m/s at ${Math.round(throttle * 100)} %`,
  };
}

/** How well a pull is read off a luggage scale while something is towed, as a share (common practice). */
const TOWED = 0.05;

/**
 * Drag area in water (m²) of what swims, from one timed straight run under its own drives, as in the air; or from the
 * pull (N) with which it was towed at that speed, C_D·A = 2F/(ρ·v²): that needs no model of the drives.
 *
 * @param speed through the water, m/s, > 0, and its standard uncertainty
 * @param by throttle that it was held by, or the pull of the line
 * @returns null when the drives give no thrust there
 */
export function waterDragAreaFrom(
  design: Driven,
  by: { throttle: number } | { pull: number },
  speed: { value: number; sd: number },
): Known | null {
  const { density } = waterOf(design.brief.environment);
  if ("throttle" in by) return dragAreaFrom(design, density, by.throttle, speed);
  if (!(by.pull > 0) || !(speed.value > 0)) return null;
  const value = by.pull / ((density / 2) * speed.value ** 2);
  return {
    value,
    evidence: "measured",
    sd: value * Math.hypot(TOWED, (2 * speed.sd) / speed.value),
    note: `towed at ${speed.value.toFixed(1)} m/s`,
  };
}
