import { numbers } from "../../design/numbers";

/** The numbers of what the wind does to a craft. */
export const quantities = numbers({
  sideArea: {
    label: "Side area",
    dimension: "area",
    page: "stability",
    formula:
      "area of parts, bodies and surfaces together, as they are seen from the side; what covers another counts once",
    source: "Union of their outlines, cut into strips.",
    range: "Boxes for parts; a wing seen on edge has no thickness. Afloat, what is under water is in it.",
  },
  sideCentre: {
    label: "Middle of the side area",
    dimension: "length",
    page: "stability",
    formula: "x_s = ∫ x dA / A of the side area",
    source: "As the side area.",
    range: "Aft of datum. A side wind pushes there, as long as no part of it works as a wing.",
  },
  windShare: {
    label: "Thrust that holding against the worst wind takes; under water, against the worst current",
    dimension: "percent",
    page: "stability",
    formula: "hovering: the hardest unit's share × √(W² + D²) / W; else D / T, standing; D = ½ρV²·C·A",
    source:
      "Drag of blunt bodies broadside, C = 1.1 ± 0.3: plates 1.17, cubes 1.05, round bodies 0.6 to 1.2 " +
      "(Hoerner 1965, from memory). An entered drag area stands before it where the wind comes from " +
      "ahead.",
    range:
      "Steady wind of the speed that the brief calls the worst. Thrust as in still air; the drag of " +
      "turning rotors is not in it. Under water the current of the brief, in that water, on the whole outline.",
  },
});
