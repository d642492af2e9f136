import { finite } from "../../design/bounds";
import { magnitude } from "../../design/evidence";
import { field } from "../../design/fields";
import { numbers } from "../../design/numbers";

/** The numbers of motion through the air. */
export const quantities = numbers({
  speed: {
    label: "Top speed",
    dimension: "speed",
    page: "power",
    formula:
      "v at which T(v) = ½ρv²·C_D·A, all drives ahead at full throttle; on described wings " +
      "T(v) = ½ρv²·A + k·W²/½ρv²; of what swims by the density of the water and its drag area there",
    source: "Drag area entered or from a timed run, else of wings and bodies by their shape; drives as under thrust.",
    range:
      "One drag area at all speeds; propellers moving along their axis, below the advance ratio at " +
      "which thrust is gone. On the surface within a quarter of the speed at which its drag in water was " +
      "taken: a hull makes other waves at another one. How the water runs at a screw behind a hull is as it was then.",
  },
  madeGood: {
    label: "Speed made good into the worst wind",
    dimension: "speed",
    page: "stability",
    formula: "top speed − wind; under water top speed − current",
    source: "Sum of velocities.",
    range:
      "Level, at full throttle, against the steady wind, or current, that the brief calls the worst. Below nought it " +
      "is carried backwards. A hull is not carried off by a wind as what flies in it is.",
  },
});

/** What motion through the air adds to the document. */
export const shape = {
  dragArea: field(
    magnitude("area").nullable().default(null).describe("drag coefficient times area when moving, m²: drag = ½ρv²·it"),
    {
      label: "drag area",
      dimension: "area",
      change: "other",
    },
  ),
  waterDragArea: field(
    magnitude("area").nullable().default(null).describe("the same of what swims, in water, m²: drag = ½ρv²·it"),
    { label: "drag area in water", dimension: "area", change: "other" },
  ),
  waterDragAt: field(
    finite
      .positive("more than zero")
      .max(100, "more than zero, up to 100 m/s")
      .nullable()
      .default(null)
      .describe("speed at which that was taken, m/s: a hull makes other waves at another one; null: not said"),
    { label: "drag area in water taken at", dimension: "speed", change: "other" },
  ),
};
