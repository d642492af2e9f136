import { findRoot } from "../../../numeric/root";
import type { Medium } from "../../air/air";
import { LIFT_SLOPE, ZERO_LIFT, section } from "../section";

/** A rotor whose blades run around an axis across the flow, in plain numbers. */
export interface Cycloid {
  blades: number;
  /** m */
  radius: number;
  /** of a blade, m */
  span: number;
  /** m */
  chord: number;
  /** greatest pitch to either side, rad */
  amplitude: number;
}

const STEPS = 32;

/**
 * Thrust and torque of a cycloidal rotor that stands still: blade elements around one turn in the mean stream through
 * it, whose strength is that of an actuator as wide as the rotor, T = 2ρ·(2R·b)·v². Blades of finite span: slope and
 * induced drag after Prandtl; symmetrical sections; curvature of the path, the second pass through the wake of the
 * first and the force across the thrust are left out.
 *
 * Valid: standing, pitch up to 60°, blades that do not touch.
 * Source: momentum theory of the cyclogiro (Wheatley, NACA TN 467, 1933); sections as for propellers.
 */
export function cycloidLoad(
  rotor: Cycloid,
  medium: Medium,
  rpm: number,
  factors = { drag: 1 },
): { thrust: number; torque: number; through: number; solved: boolean } {
  const omega = (rpm * 2 * Math.PI) / 60;
  if (!(omega > 0)) return { thrust: 0, torque: 0, through: 0, solved: true };
  const runs = omega * rotor.radius;
  const aspect = rotor.span / rotor.chord;
  const lift = 1 / (1 + LIFT_SLOPE / (Math.PI * aspect));
  const re = (medium.density * runs * rotor.chord) / medium.viscosity;
  const mach = runs / medium.soundSpeed;
  const face = 2 * rotor.radius * rotor.span;
  const around = (through: number) => {
    let [thrust, torque] = [0, 0];
    for (let k = 0; k < STEPS; k++) {
      const s = Math.abs(Math.sin(((k + 0.5) * 2 * Math.PI) / STEPS));
      const phi = Math.atan2(through * s, runs);
      const w2 = (through * s) ** 2 + runs ** 2;
      const { cl, cd } = section(rotor.amplitude * s - phi + ZERO_LIFT, re, mach, 0, lift, factors.drag);
      const drag = cd + (factors.drag * cl ** 2) / (Math.PI * 0.9 * aspect);
      const q = (0.5 * medium.density * w2 * rotor.chord * rotor.span * rotor.blades) / STEPS;
      thrust += q * (cl * Math.cos(phi) - drag * Math.sin(phi)) * s;
      torque += q * (cl * Math.sin(phi) + drag * Math.cos(phi)) * rotor.radius;
    }
    return { thrust, torque };
  };
  const found = findRoot(
    (v) => around(v).thrust - 2 * medium.density * face * v * v,
    0,
    runs * Math.tan(Math.min(rotor.amplitude, 1.2)) + 1e-9,
    runs * 1e-9,
  );
  if (found.status !== "converged") return { thrust: 0, torque: 0, through: 0, solved: false };
  return { ...around(found.x), through: found.x, solved: true };
}

/**
 * Pull of one blade outwards, m·ω²·R (N), and its bending moment as a beam held at both ends of its span, F·b/8 (N·m).
 */
export function bladePull(mass: number, radius: number, span: number, rpm: number): { pull: number; bending: number } {
  const pull = mass * ((rpm * 2 * Math.PI) / 60) ** 2 * radius;
  return { pull, bending: (pull * span) / 8 };
}
