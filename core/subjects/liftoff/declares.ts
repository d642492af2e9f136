import { numbers } from "../../design/numbers";

const NOSE = {
  source:
    "Balance of moments about the hindmost feet of a craft that rolls and speeds up (any textbook of " +
    "flight mechanics).",
  range:
    "Level ground, no wind, feet that do not give; what touches behind by the described bodies and " +
    "surfaces alone. No wash of a propeller over the tail: with one its nose comes up sooner. The " +
    "lattice near its own ground only where a height in flight was said.",
};

/** The numbers of the run along the ground. */
export const quantities = numbers({
  noseUpSpeed: {
    label: "Speed at which the nose comes up",
    dimension: "speed",
    page: "stability",
    formula:
      "least v with q·(M + x·L) − W·d − T·(z_T − h) + D·(z_D − h) − µ·(W − L)·h ≥ 0 about the hindmost " +
      "feet, pitch control full up",
    ...NOSE,
  },
  liftOffSpeed: {
    label: "Lift-off speed",
    dimension: "speed",
    page: "stability",
    formula:
      "the sooner of nose up, as far as what is behind leaves it room for trimmed level flight, and " +
      "carried as it stands, √(2·W / (ρ·L)); not before 1.15 × stall speed (common practice)",
    ...NOSE,
  },
  liftOffRun: {
    label: "Run to lift off",
    dimension: "distance",
    page: "stability",
    formula: "s = ∫ m·v / (T(v) − ½ρv²·A − µ·W) dv, from rest to the lift-off speed",
    source: "Balance of forces along the ground (any textbook of flight mechanics).",
    range: "Level ground, no wind, no lift until it leaves: a wing that carries early rolls easier and drags more.",
  },
});
