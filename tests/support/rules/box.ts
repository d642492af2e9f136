import type { Design } from "../../../core/design/schema";
import type { BoxShape } from "../../../core/subjects/box/declares";
import { type RuleCase, known } from "./change";

export const boxed = (d: Design, more: Partial<BoxShape> = {}): void => {
  d.boxes = [
    {
      id: "tub",
      name: "Tub",
      motors: d.units.map((u) => u.id),
      controllers: d.units.map((u) => u.id),
      packs: d.batteries.map((b) => b.id),
      other: 0,
      surface: known(0.08),
      walls: "thin shell",
      vent: null,
      rise: null,
      ...more,
    },
  ];
};

/** Rules of closed spaces. */
export const BOX_CASES: RuleCase[] = [
  ["hot-box", (d) => boxed(d), (d) => boxed(d, { vent: known(0.02), rise: known(0.3), surface: known(1) })],
];
