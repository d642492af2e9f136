import type { Unit } from "../design/schema";
import type { OperatingPoint } from "./chain";

/** Temperature rise over the air at which motors and controllers are commonly rated to work lastingly, K (common practice), and how far the estimate may be off. */
const RATED_RISE = { motor: 60, controller: 50 };
export const RISE_BAND = 0.35;

/**
 * Steady temperature rise (K) of motor and controller by a lumped model: heat leaves in proportion to the rise, and the rise is the rated one at the rated current. So a motor at
 * ΔT = 60 K · loss / (I_max²·R + I0·V_emf), a controller at 50 K · (I/I_max)². Reached after minutes; cooling as the rating assumes (moving air). Common practice, ± 35 %.
 */
export function temperatureRise(point: OperatingPoint, unit: Unit): { motor: number; controller: number } {
  const rated = unit.motor.maxCurrent ** 2 * unit.motor.resistance.value + unit.motor.noLoadCurrent.value * (point.motorRpm / unit.motor.kv.value);
  return {
    motor: rated > 0 ? (RATED_RISE.motor * point.motorLoss) / rated : 0,
    controller: RATED_RISE.controller * (point.current / unit.controller.maxCurrent) ** 2,
  };
}
