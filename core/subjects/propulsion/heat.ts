import type { Regulator, Unit } from "../../design/schema";
import type { UnitHabit } from "../../design/units";
import { plain } from "../../wording/format";
import type { OperatingPoint } from "./chain";
import { windingOf } from "./learned";
import { noLoadAt } from "./motor";
import { regulatorPower } from "./setup";

/**
 * Temperature rise over the air at which motors and controllers are commonly rated to work lastingly, K (common
 * practice), and how far the estimate may be off.
 */
const RATED_RISE = { motor: 60, controller: 50 };
const RISE_BAND = 0.35;

/** A rise (K) with how far its estimate may be off, in the unit of the habit. */
export const riseText = (rise: number, habit: UnitHabit): string =>
  `+${plain(rise, "warmth", habit, 0).split("\u00a0")[0]} ± ${plain(RISE_BAND * rise, "warmth", habit, 0)}`;

/**
 * Steady temperature rise (K) of motor and controller by a lumped model: heat leaves in proportion to the rise, and
 * the rise is the rated one at the rated current. So a motor at
 * ΔT = 60 K · loss / (I_max²·R + I0·V_emf), a controller at 50 K · (I/I_max)². Reached after minutes; cooling as the
 * rating assumes (moving air). Common practice, ± 35 %.
 */
export function temperatureRise(point: OperatingPoint, unit: Unit): { motor: number; controller: number } {
  const { motor } = unit;
  const noLoad = noLoadAt({ kv: motor.kv.value, noLoadCurrent: motor.noLoadCurrent.value }, point.motorRpm);
  const rated =
    motor.maxCurrent ** 2 * motor.resistance.value * windingOf(unit) + noLoad * (point.motorRpm / motor.kv.value);
  return {
    motor: rated > 0 ? (RATED_RISE.motor * point.motorLoss) / rated : 0,
    controller: RATED_RISE.controller * (point.current / unit.controller.maxCurrent) ** 2,
  };
}

/**
 * Rise (K) of a wire, plug, switch or fuse that carries this current (A) lastingly: 30 K at what it is made for, with
 * the square of the current. Common practice, ± 35 %.
 */
export const conductorRise = (current: number, maxCurrent: number): number => 30 * (current / maxCurrent) ** 2;

/** Rise of a small linear regulator without a heat sink, K for each W (common practice). */
const LINEAR_RISE = 40;

/**
 * Heat of a regulator at the usual draw of its loads: what it loses (W) and its steady rise (K). A switching one is
 * taken to rise 50 K at its rated current, in proportion to its loss;
 * a linear one loses the whole difference of voltage. Common practice, ± 35 %.
 *
 * @param packVoltage V, as it stands under load
 */
export function regulatorHeat(regulator: Regulator, packVoltage: number): { loss: number; rise: number } {
  const current = regulator.loads.reduce((s, l) => s + l.current, 0);
  const loss = Math.max(0, regulatorPower(regulator, packVoltage) - current * regulator.voltage);
  return { loss, rise: regulator.kind === "linear" ? LINEAR_RISE * loss : (50 * current) / regulator.maxCurrent };
}
