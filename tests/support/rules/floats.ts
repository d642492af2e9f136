import { type BodyShape, type Design, usualState } from "../../../core/design/schema";
import { rollUp } from "../../../core/subjects/mass/rollup";
import { type RuleCase, unit } from "./change";

/** A box of this size as a hull, its middle along so far behind the CG, its bottom on the baseline. */
export const box = (
  long: number,
  wide: number,
  high: number,
  x: number,
  across: BodyShape["across"] = "box",
): BodyShape => ({
  id: "hull",
  name: "Hull",
  y: 0,
  mirrored: false,
  across,
  shapeBy: "measured",
  frames: [-0.5, 0, 0.5].map((t) => ({ x: x + t * long, z: high / 2, width: wide, height: high })),
});

/** Put on a hull of this size. */
export const onHull =
  (long: number, wide: number, high: number, behind = 0, across: BodyShape["across"] = "box") =>
  (d: Design) => {
    const at = rollUp(d)?.cg;
    if (!at) throw new Error("no CG");
    d.states = [usualState("hull")];
    unit(d).surroundings = "in air";
    d.bodies = [box(long, wide, high, at.x + behind, across)];
  };

/** On such a hull, in waves so high (m). */
const inWaves = (waveHeight: number) => (d: Design) => {
  onHull(0.6, 0.1, 0.06)(d);
  Object.assign(d.brief.environment, { waveHeight, waveLength: 3 });
};

/** On a hull that draws 33 mm, with a screw so high over its bottom (m). */
const withScrew = (z: number) => (d: Design) => {
  onHull(0.6, 0.1, 0.06)(d);
  const u = unit(d);
  u.surroundings = "in water";
  u.propeller.diameter.value = 0.04;
  u.places = [{ at: { x: 0.5, y: 0, z }, toward: { x: -1, y: 0, z: 0 } }] as typeof u.places;
  u.count = 1;
};

/** On a hull that rocks once in two fifths of a second, in waves so long (m). */
const rocking = (waveLength: number) => (d: Design) => {
  onHull(0.6, 0.14, 0.06)(d);
  Object.assign(d.brief.environment, { waveHeight: 0.01, waveLength });
};

/** Rules of what floats on its hull. */
export const FLOAT_CASES: RuleCase[] = [
  ["wave-washes", inWaves(0.3), inWaves(0.01)],
  ["wave-rocks", rocking(0.26), rocking(8)],
  ["screw-surfaces", withScrew(0.01), withScrew(-0.03)],
  ["rolls-over", onHull(0.9, 0.05, 0.12), onHull(0.6, 0.2, 0.06)],
  ["goes-under", onHull(0.6, 0.05, 0.02), onHull(0.6, 0.1, 0.05)],
  ["trims-away", onHull(0.6, 0.1, 0.05, 0.06), onHull(0.6, 0.1, 0.05)],
];
