import type { LatticeResult } from "../flight/latticeNode";
import { stripLine, trimmed } from "../flight/model";

/** Force to starboard and moments (starboard down, nose to starboard) of one cause, over ½ρV². */
export interface Sideways {
  /** m², m³ and m³ for an angle; one m more of each for a rate over the speed */
  y: number;
  l: number;
  n: number;
}
/** What a craft answers sideways about its CG: to wind from starboard (rad), to rolling and to yawing (rate over V). */
export interface Derivatives {
  beta: Sideways;
  p: Sideways;
  r: Sideways;
}

/** Reaction about the origin, m² and m³ over ½ρV², as force and moments about a CG in the plane of symmetry. */
export function about(r: { y: number; mx: number; mz: number }, cg: { x: number; z: number }): Sideways {
  return { y: r.y, l: -(r.mx + cg.z * r.y), n: -(r.mz - cg.x * r.y) };
}
const plus = (a: Sideways, b: Sideways, by: number): Sideways => ({
  y: a.y + by * b.y,
  l: a.l + by * b.l,
  n: a.n + by * b.n,
});

/**
 * Derivatives sideways of a craft in level flight. Wind from the side, rolling and yawing by the lattice, moved to the
 * CG; the bodies turn away from the wind. What the lattice of small angles leaves out goes by strips: yawing, the wing
 * on the outside is faster and lifts more (C_l,r = C_L/4 of an elliptic wing) and its profile drags more; rolling, the
 * lift of the wing that goes down leans forward (C_n,p = −C_L/8).
 *
 * @param load W/½ρV², m²
 * @param profile drag coefficient of the surfaces by themselves, over their area
 * @returns null where nothing trims it
 * Source: strip theory and its limits for an elliptic wing (Etkin, Dynamics of Flight; McCormick; from memory).
 */
export function derivativesOf(
  l: LatticeResult,
  cg: { x: number; z: number },
  load: number,
  profile: number,
): Derivatives | null {
  const trim = trimmed(l.model, cg.x);
  if (!trim) return null;
  const beta = about(l.beta, cg);
  // A rate about the CG is that about the origin, and the side wind that its distance makes.
  const p = plus(about(l.roll, cg), beta, -cg.z);
  const r = plus(about(l.yaw, cg), beta, cg.x);
  let [lifted, dragged] = [0, 0];
  for (const [i, s] of l.strips.entries()) {
    const { at0, per } = stripLine(l.model, trim, i);
    const area = s.chord * s.width;
    lifted += s.y ** 2 * (at0 + per * load) * area * s.ty;
    dragged += s.y ** 2 * profile * area;
  }
  return {
    beta: { ...beta, n: beta.n - l.bodyYaw },
    p: { ...p, n: p.n - lifted },
    r: { ...r, l: r.l + 2 * lifted, n: r.n - 2 * dragged },
  };
}
