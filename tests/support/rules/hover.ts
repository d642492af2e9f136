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

/** Rules of craft that hang on their drives. */
export const HOVER_CASES: RuleCase[] = [
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
  [
    "axis-bare",
    (d) => {
      quad(at(d))(d);
      // All on one axis.
      unit(d).places = unit(d).places.map((p) => ({ ...p, at: { ...p.at, x: at(d), y: 0 } }));
    },
    middle(),
  ],
  ["axis-thin", (d) => quad(at(d) + 0.11)(d), middle()],
  ["one-unit-dead", middle(), (d) => quad(at(d), "half each", 8)(d)],
];
