import type { Known } from "../../design/evidence";
import type { PowerResult } from "../propulsion/evaluatePower";

/**
 * Drag area (m²) from one timed straight run: at a steady speed the drag is the thrust of the drives at that throttle and speed, C_D·A = 2·T(u, v)/(ρ·v²).
 * With a wind the two ways are averaged by whoever timed them. Its doubt: the thrust's, and twice the speed's.
 *
 * @param speed through the air, m/s, > 0, and its standard uncertainty
 * @returns null when the drives give no thrust there (the speed cannot have been held by them)
 */
export function dragAreaFrom(result: PowerResult, density: number, throttle: number, speed: { value: number; sd: number }): Known | null {
  if (!(speed.value > 0)) return null;
  const at = result.at(throttle, speed.value, result.main);
  if (!at) return null;
  const thrust = result.main.reduce((s, i) => s + (at.points[i]?.thrust ?? 0) * (result.units[i]?.unit.count ?? 0), 0);
  if (!(thrust > 0)) return null;
  const thrustSd = Math.hypot(...result.main.map((i) => (at.sd[i]?.thrust ?? 0) * (result.units[i]?.unit.count ?? 0)));
  const value = (2 * thrust) / (density * speed.value ** 2);
  return {
    value,
    evidence: "calculated",
    sd: value * Math.hypot(thrustSd / thrust, (2 * speed.sd) / speed.value),
    note: `from a timed run, ${speed.value.toFixed(1)} m/s at ${Math.round(throttle * 100)} %`,
  };
}
