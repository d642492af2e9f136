import type { Design } from "../../../core/design/schema";
import type { FootShape } from "../../../core/subjects/stance/declares";
import { type RuleCase, item, unit } from "./change";

export const foot = (id: string, x: number, y: number, z = 0, more: Partial<FootShape> = {}): FootShape => ({
  id,
  name: id,
  itemId: null,
  at: { x, y, z },
  mirrored: y !== 0,
  placeBy: "measured",
  ...more,
});
/** Wheels abreast ahead and behind its CG. */
const onWheels =
  (fore: number, aft: number, half: number, change: (d: Design) => void = () => {}) =>
  (d: Design) => {
    d.feet = [foot("fore", fore, half, -0.04), foot("aft", aft, half, -0.04)];
    change(d);
  };
const tall = (d: Design) => {
  for (const i of d.items) i.place.z += 0.3;
};
const strong = (z: number) => (d: Design) => {
  item(d, "prop").place.z = z;
  unit(d).count = 2;
};

/** Rules of how it stands on the ground. */
export const STANCE_CASES: RuleCase[] = [
  ["stands-not", onWheels(0.35, 0.6, 0.1), onWheels(0.1, 0.6, 0.1)],
  ["tips-slope", onWheels(0.1, 0.6, 0.04, tall), onWheels(0.1, 0.6, 0.1)],
  ["tips-thrust", onWheels(0.26, 0.6, 0.1, strong(0.3)), onWheels(0.05, 0.6, 0.1)],
  [
    "tips-wind",
    onWheels(0.1, 0.6, 0.1, (d) => void (d.brief.environment.wind = 39)),
    onWheels(0.1, 0.6, 0.1, (d) => void (d.brief.environment.wind = 1)),
  ],
];
