import { numbers } from "../../design/numbers";

/** The numbers of what commands a craft that hangs on its drives. */
export const quantities = numbers({
  hoverShare: {
    label: "Hardest unit in hover, of its thrust",
    dimension: "percent",
    page: "stability",
    formula: "least t with 0 ≤ uᵢ ≤ t, Σ uᵢ·Tᵢ·z = W and no moment about the CG on the axes that the units command",
    source: "Linear programme over the units' thrusts and reaction torques (simplex, yalps package); moments r × F.",
    range:
      "Level, still air, far from ground; a share of full thrust, with everything on its pack. Units do " +
      "not disturb one another beyond what is entered around them.",
  },
});
