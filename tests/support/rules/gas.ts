import { type BodyShape, type Design, usualState } from "../../../core/design/schema";
import { rollUp } from "../../../core/subjects/mass/rollup";
import type { RuleCase } from "./change";

/** A round tube of this size, its middle at a place, as an envelope is described. */
export const tube = (long: number, wide: number, at: { x: number; z: number }, id = "envelope"): BodyShape => ({
  id,
  name: id,
  y: 0,
  mirrored: false,
  across: "round",
  shapeBy: "measured",
  frames: [-0.5, 0, 0.5].map((t) => ({ x: at.x + t * long, z: at.z, width: wide, height: wide })),
});

/** Made to float on gas in a tube whose middle lies so far behind and over its CG. */
export const onGas =
  (carried: number, wide: number, { aft = 0, over = 0.3 } = {}, long = 1.5) =>
  (d: Design) => {
    const at = rollUp(d)?.cg;
    if (!at) throw new Error("no CG");
    d.states = [usualState("gas")];
    d.gasLift = { value: carried, evidence: "measured" };
    d.bodies = [tube(long, wide, { x: at.x + aft, z: at.z + over })];
  };

/** Rules of what hangs below its gas. */
export const GAS_CASES: RuleCase[] = [
  ["gas-beyond", onGas(0.5, 0.5), onGas(0.5, 0.7)],
  ["hangs-steep", onGas(0.5, 0.7, { aft: 0.2 }), onGas(0.5, 0.7, { aft: 0.02 })],
  ["hangs-steep", onGas(0.5, 0.7, { over: -0.2 }), onGas(0.5, 0.7)],
];
