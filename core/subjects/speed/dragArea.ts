import type { Known } from "../../design/evidence";
import { sdOf } from "../../numeric/doubt";
import { operatingAt } from "../propulsion/band";
import type { Driven } from "../propulsion/inputs";

/**
 * Drag area (m²) from one timed straight run: at a steady speed the drag is the thrust of the drives at that throttle
 * and speed, C_D·A = 2·T(u, v)/(ρ·v²).
 * With a wind the two ways are averaged by whoever timed them. Its doubt: the thrust's, and twice the speed's.
 *
 * @param speed through the air, m/s, > 0, and its standard uncertainty
 * @returns null when the drives give no thrust there (the speed cannot have been held by them)
 */
export function dragAreaFrom(
  design: Driven,
  density: number,
  throttle: number,
  speed: { value: number; sd: number },
): Known | null {
  if (!(speed.value > 0)) return null;
  const at = operatingAt(design, throttle, speed.value, "main");
  if (!at || !(at.thrust.value > 0)) return null;
  const value = (2 * at.thrust.value) / (density * speed.value ** 2);
  return {
    value,
    evidence: "calculated",
    sd: value * Math.hypot(sdOf(at.thrust) / at.thrust.value, (2 * speed.sd) / speed.value),
    note: `from a timed run, ${speed.value.toFixed(1)} m/s at ${Math.round(throttle * 100)} %`,
  };
}
