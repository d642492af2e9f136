import { numbers } from "../../design/numbers";

const LEVEL = {
  source:
    "Balance of forces in steady flight (any textbook of flight mechanics); drag of wings and bodies " +
    "with drag due to lift far behind the lattice, drives moving as under thrust.",
  range:
    "Still air, level, between 1.2 × stall speed (common practice) and what full throttle holds; thrust " +
    "along the path.",
};

/** The numbers of wings and drives together. */
export const quantities = numbers({
  climbRate: {
    label: "Best climb",
    dimension: "speed",
    page: "stability",
    formula: "max over v of (T(v) − D(v))·v / W, pack as at the start, all drives ahead at full throttle",
    ...LEVEL,
  },
  levelTime: {
    label: "Longest level flight",
    dimension: "time",
    page: "stability",
    formula: "max over v of the time that the packs last with T = D(v): the discharge of the endurance, at that thrust",
    ...LEVEL,
  },
  levelRange: {
    label: "Farthest level flight",
    dimension: "distance",
    page: "stability",
    formula: "max over v of v · (time that the packs last with T = D(v))",
    ...LEVEL,
  },
});
