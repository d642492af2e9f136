import { numbers } from "../../design/numbers";

const SOURCE =
  "Roots of the linear equations sideways, with derivatives by vortex lattice and strips (Etkin; " +
  "Nelson; checked against a published general-aviation example, from memory).";
const RANGE =
  "Level flight at 1.3 × the stall speed, far above the ground, controls held, small angles; each " +
  "derivative ± 20 % by its method, mass along the craft's own axes.";

/** The numbers of a craft on its wings that is left to itself sideways. */
export const quantities = numbers({
  leanGrowth: {
    label: "Spiral: growth of a lean in a second",
    dimension: "percent",
    page: "stability",
    formula:
      "λ of the straight root that grows most, a second; above nought a lean doubles in ln 2 / λ, below it halves",
    source: SOURCE,
    range: RANGE,
  },
  swingDamping: {
    label: "Swing: damping",
    dimension: "ratio",
    page: "stability",
    formula: "ζ = −Re λ / |λ| of the swinging pair of roots",
    source: SOURCE,
    range: RANGE,
  },
});
