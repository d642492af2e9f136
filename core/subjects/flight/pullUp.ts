import { GRAVITY } from "../air/air";
import type { LatticeResult } from "./latticeNode";
import { trimmed } from "./model";

/**
 * Pitch command that one g more takes in a steady pull-up, rad: lift = (n − 1)·W more, no moment, while it turns nose
 * up at g·(n − 1)/V. Negative: it must be held back. Null without a pitch control, or where nothing balances it.
 *
 * @param cg m aft of the datum
 * @param load W/½ρV², m²
 * @param speed m/s, above 0
 * Source: elevator angle per g (Etkin, Dynamics of Flight; from memory), with the damping of the lattice.
 */
export function commandPerG(
  { model, pitch }: Pick<LatticeResult, "model" | "pitch">,
  cg: number,
  load: number,
  speed: number,
): number | null {
  const trim = trimmed(model, cg);
  if (!trim?.command) return null;
  const about = (r: { z: number; my: number }) => ({ z: r.z, m: r.my + cg * r.z });
  const alpha = about(model.alpha);
  const turned = about(pitch);
  // A rate about the CG is that about the datum, less the angle that its distance makes.
  const q = { z: turned.z - cg * alpha.z, m: turned.m - cg * alpha.m };
  let [z, m] = [0, 0];
  for (const [k, c] of model.controls.entries()) {
    const by = about(c.reaction);
    z += (trim.signs[k] ?? 0) * by.z;
    m += (trim.signs[k] ?? 0) * by.m;
  }
  const rate = GRAVITY / speed ** 2;
  const det = alpha.z * m - z * alpha.m;
  if (Math.abs(det) < 1e-12) return null;
  const [lift, moment] = [load - q.z * rate, -q.m * rate];
  return (alpha.z * moment - alpha.m * lift) / det;
}
