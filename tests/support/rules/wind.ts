import { type Design, usualState } from "../../../core/design/schema";
import { type RuleCase, item, known, unit } from "./change";
import { middle } from "./hover";

const inWind =
  (wind: number, craft: (d: Design) => void) =>
  (d: Design): void => {
    craft(d);
    d.brief.environment.wind = wind;
  };
/** Carried by gas, two fans abreast that push ahead. */
const blimp = (d: Design) => {
  d.states = [usualState("gas")];
  d.gasLift = known(1);
  d.dragArea = known(0.05);
  const u = unit(d);
  u.count = 2;
  u.direction = "ahead";
  u.tilt = 0;
  u.reversible = true;
  u.places = [-0.15, 0.15].map((y) => ({ at: { x: 0.6, y, z: 0.2 }, toward: { x: -1, y: 0, z: 0 } }));
};
/** A large part far behind everything else, on an envelope that is described. */
const tall = (d: Design) => {
  blimp(d);
  d.bodies = [
    {
      id: "envelope",
      name: "Envelope",
      across: "round",
      y: 0,
      mirrored: false,
      shapeBy: "measured",
      frames: [0, 0.5, 1].map((x) => ({ x, z: 0.3, width: 0.4, height: 0.4 })),
    },
  ];
  const i = item(d, "tail");
  i.size = { x: 1, y: 0.2, z: 2 };
  i.place = { x: 2.5, y: 0, z: 0.08 };
};

/** Rules of what the wind does. */
export const WIND_CASES: RuleCase[] = [
  ["wind-beyond", inWind(39, blimp), inWind(1, blimp)],
  ["wind-holds", inWind(38, middle()), inWind(1, middle())],
  ["wind-turns", inWind(30, tall), inWind(0.5, tall)],
];
