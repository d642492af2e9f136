import type { HeldUpBy } from "../design/schema";

export const HELD_UP_WORD: Record<HeldUpBy, string> = {
  wings: "wings",
  rotors: "rotors",
  hull: "hull",
  gas: "gas",
  cushion: "cushion",
  ground: "wheels or screws",
  flapping: "flapping",
  submerged: "displacement, submerged",
};

export const FIRST_ANSWER: Record<HeldUpBy, string> = {
  rotors: "P = W·√(W/A / 2ρ) / FM (momentum theory)",
  flapping: "P = W·√(W/A / 2ρ) / FM on the swept disc",
  wings: "P = W·v / (L/D) / η",
  hull: "P = W·(R/W)·v / η",
  gas: "P = ½ρv³·C·V^⅔ / η, V = m / 1.0557 kg/m³",
  cushion: "P = W·e·√(2p/ρ) / η, times propulsion",
  ground: "P = W·(R/W)·v / η",
  submerged: "P = ½ρv³·C·V^⅔ / η",
};
