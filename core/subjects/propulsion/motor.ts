/** A permanent-magnet motor in the three-constant model. */
export interface Motor {
  /** rpm/V */
  kv: number;
  /** Ω */
  resistance: number;
  /** A */
  noLoadCurrent: number;
}

/** Torque constant, N·m/A: Kt = 60/(2π·Kv). */
export const torqueConstant = (kv: number): number => 60 / (2 * Math.PI * kv);

/**
 * Back voltage at which no-load currents are commonly stated, V, and the share of them that grows with it: iron and
 * windage (common practice).
 */
const STATED_AT = 10;
const GROWS = 0.5;

/**
 * No-load current (A) at a speed (rpm): I0·(1 + 0.5·(E/10 V − 1)) with the back voltage E; it holds at 10 V as it is
 * stated.
 */
export const noLoadAt = (motor: Pick<Motor, "kv" | "noLoadCurrent">, rpm: number): number =>
  motor.noLoadCurrent * (1 + GROWS * (rpm / motor.kv / STATED_AT - 1));

/**
 * By how much the winding's resistance has grown at work, 50 K over the 20 °C that it is stated at, and the doubt
 * about that (copper, 0.39 % a kelvin; common practice 20 to 30 %).
 */
export const WARM_WINDING = { value: 1.2, sd: 0.08 };

/** Motor current (A) and terminal voltage (V) that give a shaft torque (N·m) at a speed (rpm). */
export function motorAt(motor: Motor, torque: number, rpm: number): { current: number; voltage: number } {
  const current = torque / torqueConstant(motor.kv) + noLoadAt(motor, rpm);
  return { current, voltage: current * motor.resistance + rpm / motor.kv };
}

/**
 * Current (A) of best efficiency at a fixed terminal voltage, √(V·I0/R), and that efficiency, (1 − √(I0·R/V))².
 * Constant no-load current. Source: D. K. Hohm; any electric-drive text (closed form of the three-constant model).
 */
export function peakEfficiency(motor: Motor, voltage: number): { current: number; efficiency: number } {
  const { resistance: r, noLoadCurrent: i0 } = motor;
  return { current: Math.sqrt((voltage * i0) / r), efficiency: (1 - Math.sqrt((i0 * r) / voltage)) ** 2 };
}
