import { type Design, usualState } from "../../../core/design/schema";
import { quietDesign } from "../designs";
import { panel, surface, winged } from "../wings";
import { type RuleCase, known, unit } from "./change";

/** A craft afloat with propellers abreast that push ahead, each way or one way. */
const afloat =
  (reversible: boolean, change: (d: Design) => void = () => {}) =>
  (d: Design) => {
    d.states = [usualState("hull")];
    const u = unit(d);
    u.count = 2;
    u.direction = "ahead";
    u.tilt = 0;
    u.reversible = reversible;
    u.places = [-0.15, 0.15].map((y) => ({ at: { x: 0.6, y, z: 0.2 }, toward: { x: -1, y: 0, z: 0 } }));
    change(d);
  };
const one = afloat(true, (d) => {
  const u = unit(d);
  u.count = 1;
  const cg = d.items.reduce((s, i) => s + (i.mass?.value ?? 0) * i.place.y, 0);
  u.places = [{ at: { x: 0.6, y: cg, z: 0.2 }, toward: { x: -1, y: 0, z: 0 } }];
});
/** The same with a rudder behind it. */
const steered = (d: Design) => {
  afloat(false)(d);
  const other = quietDesign();
  winged(other);
  const fin = other.surfaces.at(-1);
  if (!fin) throw new Error("no fin");
  fin.controls = [{ id: "r", name: "Rudder", does: ["yaw"], from: 0, to: 1, chord: 0.4, up: 0.4, down: 0.4 }];
  d.surfaces = [fin];
};

/** A craft on a cushion behind one propeller, its air rudder so far beside the middle. */
const ruddered = (beside: number) => (d: Design) => {
  one(d);
  d.states = [usualState("cushion")];
  unit(d).surroundings = "in air";
  d.surfaces = [
    surface({
      id: "rudder",
      at: { x: 0.66, y: (unit(d).places[0]?.at.y ?? 0) + beside, z: 0.17 },
      chord: 0.08,
      mirrored: false,
      panels: [panel(0.06, 0.08, 0, 90)],
      controls: [{ id: "r", name: "Rudder", does: ["yaw"], from: 0, to: 1, chord: 1, up: 0.4, down: 0.4 }],
    }),
  ];
};

/** A thrust line above the CG, on wings. */
const tall = (z: number) => (d: Design) => {
  winged(d);
  const u = unit(d);
  u.direction = "ahead";
  u.count = 1;
  u.places = [{ at: { x: 0.1, y: 0, z }, toward: { x: -1, y: 0, z: 0 } }];
};

/** A wing with much dihedral and ailerons of so much travel, in a wind. */
const leaning = (travel: number) => (d: Design) => {
  winged(d);
  d.brief.environment.wind = 8;
  // Nothing but the middle for the thrust, and no torque: what is left of the roll control is all of it.
  d.units = [];
  d.duty = [];
  const wing = d.surfaces.find((s) => s.id === "wing");
  if (!wing) throw new Error("no wing");
  wing.panels = [{ span: 0.55, chord: 0.2, sweep: 0, dihedral: 0.25, twist: 0 }];
  wing.controls = [
    { id: "a", name: "Aileron", does: ["roll"], from: 0.5, to: 1, chord: 0.25, up: travel, down: travel },
  ];
};

/** Floating on gas, with drives on both sides. */
const onGas = (sideways: boolean) => (d: Design) => {
  afloat(true)(d);
  d.states = [usualState("gas")];
  d.gasLift = known(1);
  if (!sideways) return;
  const u = unit(d);
  u.count = 3;
  u.places = [...u.places, { at: { x: 0.35, y: 0, z: 0.1 }, toward: { x: 0, y: 1, z: 0 } }];
};

/** Rules of what commands each axis. */
export const AXES_CASES: RuleCase[] = [
  ["steers-by-thrust", afloat(false), steered],
  ["steers-by-thrust", afloat(true), afloat(true, (d) => void (d.states = [usualState("ground")]))],
  ["nothing-steers", one, afloat(true)],
  ["steers-by-wash", ruddered(0), ruddered(0.5)],
  ["still-rudder", ruddered(0.5), ruddered(0)],
  ["no-sway", onGas(false), onGas(true)],
  ["axis-lost", tall(0.9), tall(0.1)],
  ["gust-beyond", leaning(0.08), leaning(0.5)],
];
