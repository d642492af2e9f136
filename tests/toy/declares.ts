import { magnitude } from "../../design/evidence";
import { field } from "../../design/fields";
import { numbers } from "../../design/numbers";

export const quantities = numbers({
  sideForce: {
    label: "Side force in the worst wind",
    dimension: "force",
    page: "layout",
    formula: "½ρv²·A",
    source: "Definition of dynamic pressure.",
    range: "Flat sides.",
  },
});
export const shape = {
  sideArea: field(magnitude("area").nullable().default(null), { label: "side area", dimension: "area" }),
};
