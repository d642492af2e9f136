import { numbers } from "../../design/numbers";

const LATTICE = {
  source:
    "Vortex lattice of thin surfaces (Katz & Plotkin; Bertin & Smith), bodies by Munk (NACA TR 184), " +
    "ground by images; checked against those in tests.",
  range:
    "Small angles, far below stall, attached flow; no wash of propellers, no bend under load. With the " +
    "method ± 2 % of the mean chord.",
};
const SECTION = {
  source:
    "Lift along the span by vortex lattice, held against each section's greatest lift; sections of " +
    "small craft from published low-speed surveys, from memory (± 10 %).",
  range: "Level flight without thrust, trimmed by the pitch control; the first strip at its limit counts as the stall.",
};

/** The numbers of what wings carry. */
export const quantities = numbers({
  neutralPoint: {
    label: "Neutral point",
    dimension: "length",
    page: "stability",
    formula: "x_n = −M_α / L_α about the datum, all surfaces and bodies",
    ...LATTICE,
  },
  staticMargin: {
    label: "Static margin",
    dimension: "percent",
    page: "stability",
    formula: "(x_n − x_CG) / mean aerodynamic chord of the main wing",
    ...LATTICE,
  },
  cgAft: {
    label: "CG, aft limit",
    dimension: "length",
    page: "stability",
    formula: "x_n − least static margin · mean aerodynamic chord",
    ...LATTICE,
  },
  cgForward: {
    label: "CG, forward limit",
    dimension: "length",
    page: "stability",
    formula:
      "CG at which the slowest flight takes 80 % of the pitch travel; without a pitch control x_n − 25 " +
      "% of the mean chord, with one at most 40 % (judgement)",
    ...LATTICE,
  },
  stallSpeed: {
    label: "Stall speed",
    dimension: "speed",
    page: "stability",
    formula:
      "V_s = √(2·W / (ρ·k)), k = greatest W/½ρV² before a strip is at its greatest lift or the pitch " +
      "control at its stop",
    ...SECTION,
  },
  wingLoading: {
    label: "Wing loading",
    dimension: "loading",
    page: "stability",
    formula: "M / S, S the area of all lifting surfaces as seen from above",
    source: "All-up weight over the area of the described surfaces.",
    range:
      "Any described surfaces that do not stand on edge; a body between wings counts where the wing runs through it.",
  },
  cubeLoading: {
    label: "Cube loading",
    dimension: "density",
    page: "stability",
    formula: "M / S^1.5, S the area of all lifting surfaces as seen from above",
    source:
      "Common practice: a measure of how lively it is that does not grow with its size, as weight per " +
      "area does (a craft twice as large is as lively at eight times the mass). The same number in " +
      "oz/ft³.",
    range:
      "Small craft in air: below 4 floats, 5 to 8 is tame, above 11 fast and heavy on its wings (from " +
      "memory, ± 1). A note, no gate.",
  },
  trimCommand: {
    label: "Pitch control at 1.3 × stall speed",
    dimension: "angle",
    page: "stability",
    formula: "lift = weight and moment about the CG = 0, for angle of attack and pitch control",
    ...LATTICE,
  },
  glideRatio: {
    label: "Best glide ratio",
    dimension: "ratio",
    page: "stability",
    formula: "L/D at its best: ½ / √(C_D0·S · k), D = ½ρV²·C_D0·S + k·W²/½ρV²",
    source:
      "Drag area entered or measured; else profile drag of surfaces and skin of bodies alone. Drag due " +
      "to lift far behind the lattice.",
    range: "Between stall and where propellers and struts hold back more than they do standing.",
  },
  glideSpeed: {
    label: "Speed of the best glide",
    dimension: "speed",
    page: "stability",
    formula: "V at which drag due to lift equals the rest",
    source: "As the best glide ratio.",
    range: "As the best glide ratio.",
  },
  turnRadius: {
    label: "Radius of a turn at 45° of bank",
    dimension: "distance",
    page: "stability",
    formula: "R = v² / (g·tan φ), v = 1.3·v_stall·√n, n = 1 / cos φ",
    source: "Balance of forces in a steady level turn (any textbook of flight mechanics).",
    range:
      "Still air, as fast above the stall of the turn as in slow level flight. Whether its thrust keeps " +
      "it level is told beside it.",
  },
});
