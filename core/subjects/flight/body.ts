import { girthOf } from "../surfaces/bodyShape";
import type { BodyShape } from "../surfaces/declares";

/**
 * Difference of the apparent-mass factors of a slender body of revolution across and along, k₂ − k₁, by its length over
 * its breadth; 0 for a sphere, 1 for a needle.
 * Source: Lamb, *Hydrodynamics*, 114 (prolate spheroid); used for hulls and fuselages by Munk (NACA TR 184, 1924).
 */
export function apparentMass(fineness: number): number {
  if (fineness <= 1.001) return 0;
  const e = Math.sqrt(1 - 1 / fineness ** 2);
  const l = Math.log((1 + e) / (1 - e));
  const a = ((2 * (1 - e * e)) / e ** 3) * (l / 2 - e);
  const b = 1 / e ** 2 - ((1 - e * e) / (2 * e ** 3)) * l;
  return b / (2 - b) - a / (2 - a);
}

export interface BodyMoments {
  /** moment per rad of angle of attack over ½ρV², nose up, m³ */
  pitch: number;
  /** moment per rad of sideslip over ½ρV², away from the wind, m³ */
  yaw: number;
  /** skin, m² */
  wetted: number;
}

/**
 * What a slender body does at an angle to the flow: a couple that turns it across, without lift. The wash of wings
 * before and behind them is left out, which is why it stands with a third of doubt.
 * Source: Munk, NACA TR 184: dM/dα = ½ρV² · (k₂ − k₁) · (π/2) ∫ w² dx (its volume for a round one).
 * Range: longer than twice its breadth, angles below about 10°.
 */
export function bodyMoments(body: Pick<BodyShape, "frames" | "mirrored" | "across">): BodyMoments {
  const frames = body.frames;
  let [w2, h2, wetted] = [0, 0, 0];
  const square = (a: number, b: number) => (a * a + a * b + b * b) / 3;
  const round = (f: BodyShape["frames"][number]) => girthOf(body.across, f);
  for (let k = 1; k < frames.length; k++) {
    const [a, b] = [frames[k - 1], frames[k]];
    if (!a || !b) continue;
    const dx = b.x - a.x;
    w2 += square(a.width, b.width) * dx;
    h2 += square(a.height, b.height) * dx;
    wetted += ((round(a) + round(b)) / 2) * dx;
  }
  const length = (frames.at(-1)?.x ?? 0) - (frames[0]?.x ?? 0);
  const width = Math.max(...frames.map((f) => f.width), 1e-6);
  const height = Math.max(...frames.map((f) => f.height), 1e-6);
  const sides = body.mirrored ? 2 : 1;
  return {
    pitch: sides * apparentMass(length / width) * (Math.PI / 2) * w2,
    yaw: sides * apparentMass(length / height) * (Math.PI / 2) * h2,
    wetted: sides * wetted,
  };
}
