import type { Bench } from "../design/bench";
import type { Rig } from "../design/thrustTest";
import { GRAVITY } from "../subjects/air/air";
import type { Uncertain } from "../numeric/propagate";
import { type Correction, PLAIN, correctionOf } from "./calibration";

/** Scale arm over thrust arm: what a reading counts of the thrust. 1 on a direct stand. */
export const armRatio = (rig: Pick<Rig, "kind" | "thrustArm" | "scaleArm">): number =>
  rig.kind === "direct" ? 1 : rig.scaleArm / rig.thrustArm;

/**
 * Correction that hanging a known mass on the thrust line implies: true over shown, with its uncertainty from the
 * scale's step. 1 without a check.
 * By moments about the pivot the scale should change by mass · thrust arm / scale arm.
 */
export function checkFactor(rig: Rig): Uncertain {
  if (!rig.check) return { value: 1, sd: 0 };
  const change = Math.abs(rig.check.reading - rig.tare);
  const expected = rig.check.mass / armRatio(rig);
  if (!(change > 0)) return { value: Number.NaN, sd: Number.NaN };
  const value = expected / change;
  // Two readings, each rounded to the step.
  return { value, sd: (value * rig.scale.step * Math.sqrt(2 / 12)) / change };
}

/** The corrections that a stand's instruments take from their calibration sessions. */
export interface Corrections {
  scale: Correction;
  voltage: Correction;
  current: Correction;
}

/** Looks the calibrations of a stand up among the sessions of the craft; an instrument without one reads as it is. */
export function correctionsFor(rig: Rig, sessions: readonly Pick<Bench, "number" | "calibration">[]): Corrections {
  const of = (quantity: "scale" | "voltage" | "current") => {
    const session = sessions.find((s) => s.number === rig[quantity].session);
    const found = session?.calibration?.quantity === quantity ? correctionOf(session.calibration) : null;
    return found?.ok ? found.correction : PLAIN;
  };
  return { scale: of("scale"), voltage: of("voltage"), current: of("current") };
}

/**
 * Thrust (N) from a reading of the scale (kg): moments about the pivot, thrust·a_thrust = (reading − tare)·g·a_scale,
 * towards or away from the scale as the stand is built, times the
 * correction of the check mass and of the scale's own calibration.
 */
export function thrustFrom(rig: Rig, reading: number, scale: Correction = PLAIN): number {
  const sign = rig.reads === "more" ? 1 : -1;
  return sign * (reading - rig.tare) * scale.gain * GRAVITY * armRatio(rig) * checkFactor(rig).value;
}

/**
 * Standard uncertainty of a thrust that is the same for all readings, as a share: the scale's calibration and the
 * arms, or the check mass in place of both.
 */
export function sharedThrustError(rig: Rig, scale: Correction = PLAIN): number {
  if (rig.check) return Math.max(checkFactor(rig).sd / checkFactor(rig).value, 0.002);
  const arms = rig.kind === "direct" ? 0 : Math.hypot(rig.armSd / rig.thrustArm, rig.armSd / rig.scaleArm);
  return Math.hypot(scale === PLAIN ? rig.scale.error : scale.gainSd / scale.gain, arms);
}

/**
 * Standard uncertainty of a current that is the same for all readings, as a share: that of the meter's calibration
 * where it has one, else what is stated of the meter.
 */
export const sharedCurrentError = (rig: Rig, current: Correction = PLAIN): number =>
  current === PLAIN ? rig.current.error : current.gainSd / current.gain;
