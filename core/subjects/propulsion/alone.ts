import type { Battery, Unit } from "../../design/schema";
import { openCircuit } from "../energy/battery";
import { noLoadAt, peakEfficiency, torqueConstant } from "./motor";

/** What a motor gives by itself on a voltage, whatever it turns: before or behind its gearing. */
export interface MotorAlone {
  /** V that it is told for */
  voltage: number;
  /** rpm without a load */
  free: number;
  /** A and N·m held still: for a moment only */
  stallCurrent: number;
  stallTorque: number;
  /** rpm, N·m, A and share of the power where it wastes least */
  best: { rpm: number; torque: number; current: number; efficiency: number };
  /** W at the shaft at its rated current */
  ratedPower: number;
}

/**
 * A motor by itself in the three-constant model, at the end of its gearing: n₀ = (V − I₀·R)·Kv/G, stall at V/R, best
 * at √(V·I₀/R). Winding and controller cold.
 *
 * @param voltage V > 0, at the controller, at full throttle
 */
export function motorAlone(
  { motor, controller, gear }: Pick<Unit, "motor" | "controller" | "gear">,
  voltage: number,
): MotorAlone {
  const [kv, idle] = [motor.kv.value, motor.noLoadCurrent.value];
  const r = motor.resistance.value + controller.resistance.value;
  const { ratio } = gear;
  const passes = gear.efficiency.value;
  const kt = torqueConstant(kv);
  // What it draws without a load grows with its speed: two steps settle it to a thousandth.
  let turns = kv * voltage;
  for (let k = 0; k < 3; k++) turns = kv * (voltage - r * noLoadAt({ kv, noLoadCurrent: idle }, turns));
  const stall = voltage / r;
  const best = peakEfficiency({ kv, resistance: r, noLoadCurrent: idle }, voltage);
  const shaft = (current: number) => ({
    rpm: Math.max(0, kv * (voltage - r * current)),
    torque: Math.max(0, kt * (current - idle)),
  });
  const at = shaft(best.current);
  const rated = shaft(Math.min(motor.maxCurrent, stall));
  return {
    voltage,
    free: Math.max(0, turns) / ratio,
    stallCurrent: stall,
    stallTorque: Math.max(0, kt * (stall - idle)) * ratio * passes,
    best: {
      rpm: at.rpm / ratio,
      torque: at.torque * ratio * passes,
      current: best.current,
      efficiency: best.efficiency * passes,
    },
    ratedPower: (rated.torque * rated.rpm * 2 * Math.PI) / 60,
  };
}

/** Volts of a drive's pack at the start of a run, without sag; null without a pack. */
export function voltsOf(unit: Pick<Unit, "batteryId">, batteries: readonly Battery[]): number | null {
  const pack = batteries.find((b) => b.id === unit.batteryId);
  return pack ? pack.series * openCircuit(pack.chemistry, pack.startCharge) : null;
}

/** Reduction at which a motor that works where it wastes least turns its shaft at `rpm`. */
export const ratioFor = (unit: Pick<Unit, "motor" | "controller" | "gear">, voltage: number, rpm: number): number => {
  const { best } = motorAlone(unit, voltage);
  return (best.rpm * unit.gear.ratio) / rpm;
};
