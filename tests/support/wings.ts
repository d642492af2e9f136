import type { Design, Surface } from "../../core/design/schema";

const DEGREE = Math.PI / 180;
type Given = Partial<Surface> & Pick<Surface, "id">;

/** A flat surface of 1 m on each side, measured; the rest as given. */
export const surface = (given: Given): Surface => ({
  name: given.id,
  medium: "air",
  itemId: null,
  at: { x: 0, y: 0, z: 0 },
  chord: 1,
  incidence: 0,
  mirrored: true,
  panels: [{ span: 1, chord: given.chord ?? 1, sweep: 0, dihedral: 0, twist: 0 }],
  shapeBy: "measured",
  section: { family: "flat plate", zeroLift: null, most: null, drag: null },
  controls: [],
  ...given,
});
/** One stretch of it. */
export const panel = (span: number, chord: number, sweep = 0, dihedral = 0): Surface["panels"][number] => ({
  span,
  chord,
  sweep: sweep * DEGREE,
  dihedral: dihedral * DEGREE,
  twist: 0,
});

export const elevator = (up = 20, down = 15): Surface["controls"][number] => ({
  id: "elevator",
  name: "Elevator",
  does: ["pitch"],
  from: 0,
  to: 1,
  chord: 0.35,
  up: up * DEGREE,
  down: down * DEGREE,
});
const section = (family: Surface["section"]["family"]) => ({ family, zeroLift: null, most: null, drag: null });

/** Gives a craft of about 0.6 m and 0.8 kg a wing, a tail with its elevator, a fin and a body that go with its CG. */
export function winged(d: Design): void {
  d.surfaces = [
    surface({
      id: "wing",
      at: { x: 0.26, y: 0, z: 0.08 },
      chord: 0.22,
      incidence: 3 * DEGREE,
      panels: [panel(0.55, 0.2)],
      section: section("cambered 2 %"),
    }),
    surface({
      id: "tail",
      at: { x: 0.62, y: 0, z: 0.1 },
      chord: 0.12,
      panels: [panel(0.23, 0.1)],
      section: section("symmetric"),
      controls: [elevator()],
    }),
    surface({
      id: "fin",
      mirrored: false,
      at: { x: 0.6, y: 0, z: 0.08 },
      chord: 0.14,
      panels: [panel(0.15, 0.1, 15, 90)],
      section: section("symmetric"),
    }),
  ];
  d.bodies = [
    {
      id: "body",
      name: "body",
      y: 0,
      mirrored: false,
      across: "round",
      shapeBy: "measured",
      frames: [
        { x: 0.03, z: 0.05, width: 0.02, height: 0.02 },
        { x: 0.15, z: 0.05, width: 0.08, height: 0.08 },
        { x: 0.63, z: 0.06, width: 0.03, height: 0.03 },
      ],
    },
  ];
  d.flight = {
    height: null,
    launch: "thrown",
    launchSpeed: { value: 14, evidence: "guess" },
    cord: null,
    rolling: null,
    torque: null,
    steering: null,
    weighedWith: "",
    waterline: null,
    whole: true,
    margin: null,
  };
}
