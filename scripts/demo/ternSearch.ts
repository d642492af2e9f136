import type { SearchTask } from "../../core/sizing/search";
import { tern2 } from "./ternDesigns";

/**
 * What Tern's builder asked the search before its third version: motors, gears and propellers at hand, on the pack
 * that is there. The 180 mm are what the pylon leaves room for.
 */
export const ternSearch: SearchTask = {
  design: tern2,
  space: {
    sets: [
      {
        unitIds: ["d1"],
        space: {
          diameter: [0.16, 0.17, 0.18],
          pitchRatio: [0.5, 0.55, 0.611],
          blades: [2],
          kv: [1400, 1650, 1900],
          motorMass: [0.118, 0.131],
          ratio: [1, 1.2, 1.4],
          count: [1],
        },
      },
    ],
    packs: [{ series: [3], capacity: [3] }],
  },
  bounds: {
    maxMass: 1.5,
    minEndurance: 15 * 60,
    minThrustToWeight: 0.8,
    maxTipMach: 0.6,
    maxCost: null,
    maxCurrent: null,
    structure: 0.2,
  },
};
