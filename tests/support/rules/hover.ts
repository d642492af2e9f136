import { type Design, usualState } from "../../../core/design/schema";
import { type RuleCase, item, known, unit } from "./change";

/** Four units that push up, on arms about a place along the craft, strong enough for its weight. */
const quad =
  (x: number, spins: "half each" | "clockwise" = "half each", count = 4) =>
  (d: Design) => {
    d.states = [usualState("rotors")];
    const u = unit(d);
    u.count = count;
    u.direction = "up";
    u.tilt = 0;
    u.spin = spins;
    u.reversible = false;
    u.places = Array.from({ length: count }, (_, k) => {
      const a = (2 * Math.PI * k) / count;
      return { at: { x: x - 0.25 * Math.cos(a), y: 0.25 * Math.sin(a), z: 0.08 }, toward: { x: 0, y: 0, z: 1 } };
    });
  };
const at = (d: Design) =>
  d.items.reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity * i.place.x, 0) /
  d.items.reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity, 0);
/** Four units about its CG. */
export const middle =
  (change: (d: Design) => void = () => {}) =>
  (d: Design) => {
    quad(at(d))(d);
    change(d);
  };

/** Two rotors on one axis that blow over a pair of vanes, with the CG so far (m) beside the line of their thrust. */
export function onItsTail(d: Design, beside: number): void {
  const mass = d.items.reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity, 0);
  const z = d.items.reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity * i.place.z, 0) / mass;
  quad(at(d))(d);
  const u = unit(d);
  u.count = 2;
  u.direction = "ahead";
  u.places = [0, 0.05].map((x) => ({ at: { x, y: 0, z: z + beside }, toward: { x: -1, y: 0, z: 0 } }));
  d.surfaces = [
    {
      id: "vanes",
      name: "Vanes",
      medium: "air",
      itemId: null,
      at: { x: 0.62, y: 0.005, z },
      chord: 0.05,
      incidence: 0,
      mirrored: true,
      panels: [{ span: 0.09, chord: 0.05, sweep: 0, dihedral: 0, twist: 0 }],
      shapeBy: "measured",
      section: { family: "symmetric", zeroLift: null, most: null, drag: null },
      controls: [{ id: "v", name: "Vane", does: ["pitch"], from: 0, to: 1, chord: 1, up: 0.5, down: 0.5 }],
    },
  ];
}

const corners = (...newtons: number[]) =>
  middle((d) => {
    for (const [k, p] of unit(d).places.entries()) p.weighed = known(newtons[k] ?? 5);
  });

/** Rules of craft that hang on their drives. */
export const HOVER_CASES: RuleCase[] = [
  ["corners-unequal", corners(5, 5, 5, 4.2), corners(5, 5, 5.05, 5)],
  ["level-lost", (d) => quad(at(d) + 0.2)(d), middle()],
  [
    "unit-hard",
    (d) => {
      item(d, "hull").mass = known(1.45);
      quad(at(d) + 0.03)(d);
    },
    (d) => {
      item(d, "hull").mass = known(1.45);
      quad(at(d))(d);
    },
  ],
  ["weak-emptied", middle((d) => void (item(d, "hull").mass = known(1.35))), middle()],
  [
    "axis-bare",
    (d) => {
      quad(at(d))(d);
      // All on one axis.
      unit(d).places = unit(d).places.map((p) => ({ ...p, at: { ...p.at, x: at(d), y: 0 } }));
    },
    middle(),
  ],
  ["torque-unheld", (d) => quad(at(d), "clockwise")(d), middle()],
  ["vane-short", (d) => onItsTail(d, 0.04), (d) => onItsTail(d, 0)],
  ["axis-thin", (d) => quad(at(d) + 0.11)(d), middle()],
  ["one-unit-dead", middle(), (d) => quad(at(d), "half each", 8)(d)],
];
