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

/** Motor current (A) and terminal voltage (V) that give a shaft torque (N·m) at a speed (rpm). */
export function motorAt(motor: Motor, torque: number, rpm: number): { current: number; voltage: number } {
  const current = torque / torqueConstant(motor.kv) + motor.noLoadCurrent;
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
