import { type Design, usualState } from "../../../core/design/schema";
import { type RuleCase, item, unit } from "./change";
import { middle } from "./hover";

/** Rotors of a hovering craft, with blades of so many kilograms. */
const blades = (mass: number, spin: "clockwise" | "half each") =>
  middle((d: Design) => {
    const u = unit(d);
    u.spin = spin;
    u.propellerItemId = "prop";
    item(d, "prop").mass = { value: mass, evidence: "measured" };
  });

/** Rules of what turning parts store. */
export const SPIN_CASES: RuleCase[] = [
  ["spin-kicks", blades(0.1, "clockwise"), blades(0.1, "half each")],
  [
    "spin-precesses",
    blades(0.1, "clockwise"),
    (d) => {
      blades(0.1, "clockwise")(d);
      d.states = [usualState("hull")];
    },
  ],
];
