import { GRAVITY } from "../../air/air";

/** A driven wheel on level ground, in plain numbers. */
export interface Wheel {
  /** m */
  radius: number;
  /** what rests on it, kg */
  load: number;
  /** greatest push over load */
  grip: number;
  /** rolling resistance over load */
  rolling: number;
  ground: "firm" | "soft";
}

/** Slip at which 63 % of the grip is there: ground that hardly gives, and ground that shears (common practice). */
const SLIP = { firm: 0.04, soft: 0.2 };
/**
 * Creep below which slip is no longer a share of the wheel's speed, m/s: so that standing still is a limit like any
 * other.
 */
const CREEP = 0.1;

/**
 * Push (N) and torque (N·m) of a wheel that turns at `rpm` on a craft that goes `speed` (m/s). The push grows with the
 * slip as F = µ·N·(1 − e^(−s/k)) and the torque is F·r + c·N·r.
 *
 * Valid: level ground, 0.2 to 1.2 of grip; a stuck wheel digs itself in and is not told by this.
 * Source: M. G. Bekker and Z. Janosi's exponential shear law in J. Y. Wong, Theory of Ground Vehicles (from memory).
 */
export function wheelLoad(wheel: Wheel, speed: number, rpm: number): { thrust: number; torque: number } {
  const rim = ((rpm * 2 * Math.PI) / 60) * wheel.radius;
  const weight = wheel.load * GRAVITY;
  const slip = (rim - speed) / Math.max(Math.abs(rim), Math.abs(speed), CREEP);
  const thrust = Math.sign(slip) * wheel.grip * weight * (1 - Math.exp(-Math.abs(slip) / SLIP[wheel.ground]));
  const rolls = wheel.rolling * weight * Math.tanh(rim / (0.1 * CREEP));
  return { thrust, torque: (thrust + rolls) * wheel.radius };
}
