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
      "v at which T(v) = ½ρv²·C_D·A, all drives ahead at full throttle; on described wings T(v) = ½ρv²·A + k·W²/½ρv²",
    source: "Drag area entered or from a timed run, else of wings and bodies by their shape; drives as under thrust.",
    range:
      "One drag area at all speeds; propellers moving along their axis, below the advance ratio at " +
      "which thrust is gone.",
  },
  madeGood: {
    label: "Speed made good into the worst wind",
    dimension: "speed",
    page: "stability",
    formula: "top speed − wind",
    source: "Sum of velocities.",
    range:
      "Level, at full throttle, against the steady wind that the brief calls the worst. Below nought it " +
      "is carried backwards.",
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
};
