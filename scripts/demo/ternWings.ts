import type { BodyShape, Design, Surface } from "../../core/design/schema";
import { deg } from "./parts";

const section = (family: Surface["section"]["family"]) => ({ family, zeroLift: null, most: null, drag: null });
const panel = (span: number, chord: number, sweep: number, dihedral: number): Surface["panels"][number] => ({
  span,
  chord,
  sweep: sweep * deg,
  dihedral: dihedral * deg,
  twist: 0,
});

/** Hull of Tern by its frames, down to where the boom leaves it. */
const hull: BodyShape = {
  id: "hull",
  name: "Hull",
  y: 0,
  mirrored: false,
  across: "box",
  shapeBy: "datasheet",
  frames: [
    { x: 0, z: 0.034, width: 0.03, height: 0.03 },
    { x: 0.095, z: 0.038, width: 0.09, height: 0.052 },
    { x: 0.565, z: 0.04, width: 0.09, height: 0.05 },
    { x: 0.75, z: 0.066, width: 0.016, height: 0.016 },
  ],
};

/**
 * Tern's wing, its fin, and a tailplane of a span and root chord (m): the wing is as it was drawn first, the tail grew
 * with the versions.
 */
export function ternWings(span: number, chord: number): Pick<Design, "surfaces" | "bodies" | "flight"> {
  const one = { medium: "air" as const, mirrored: true, shapeBy: "datasheet" as const, controls: [] };
  return {
    surfaces: [
      {
        ...one,
        id: "wing",
        name: "Wing",
        itemId: "wing",
        at: { x: 0.195, y: 0, z: 0.07 },
        chord: 0.335,
        incidence: 5 * deg,
        panels: [panel(0.163, 0.295, 0, -6)],
        section: section("cambered 4 %"),
      },
      {
        ...one,
        id: "tailplane",
        name: "Tailplane",
        itemId: "tail",
        at: { x: 0.74, y: 0, z: 0.238 },
        chord,
        incidence: -4 * deg,
        panels: [panel(span / 2, 0.8 * chord, 8, 0)],
        section: section("symmetric"),
        controls: [
          {
            id: "elevator",
            name: "Elevator",
            does: ["pitch"],
            from: 0.05,
            to: 0.95,
            chord: 0.35,
            up: 22 * deg,
            down: 15 * deg,
          },
        ],
      },
      {
        ...one,
        id: "fin",
        name: "Fin",
        itemId: "tail",
        mirrored: false,
        at: { x: 0.73, y: 0, z: 0.08 },
        chord: 0.14,
        incidence: 0,
        panels: [panel(0.16, 0.11, 12, 90)],
        section: section("symmetric"),
        controls: [
          {
            id: "rudder",
            name: "Rudder",
            does: ["yaw"],
            from: 0.1,
            to: 0.9,
            chord: 0.35,
            up: 20 * deg,
            down: 20 * deg,
          },
        ],
      },
    ],
    bodies: [hull],
    flight: {
      height: { value: 0.025, evidence: "guess" },
      launch: "skids",
      launchSpeed: { value: 14, evidence: "guess" },
      cord: null,
      rolling: { value: 0.06, evidence: "guess" },
      waterline: null,
      torque: null,
      steering: null,
      weighedWith: "",
      whole: true,
      margin: null,
    },
  };
}
