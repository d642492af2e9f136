import { GRAVITY, type Medium, saturation } from "../air/air";

export const WATERS = ["fresh", "sea"] as const;
export type Water = (typeof WATERS)[number];

/** Salt of open ocean, g/kg. */
const OCEAN = 35;

/**
 * Water near the surface, 0 to 40 °C.
 *
 * @param temperature °C
 * Density of fresh water: G. S. Kell, J. Chem. Eng. Data 20 (1975); what salt adds: linear part of the 1980 equation
 * of state of seawater (UNESCO) at 35 g/kg, within 0.3 kg/m³.
 * Viscosity: 2.414e-5·10^(247.8/(T − 140)), within 2.5 % of IAPWS; of sea water 8 % more. Speed of sound: linear
 * about 1482 m/s at 20 °C.
 */
export function water(temperature: number, kind: Water): Medium {
  const t = Math.min(Math.max(temperature, 0), 40);
  const kell =
    (999.83952 +
      16.945176 * t -
      7.9870401e-3 * t ** 2 -
      46.170461e-6 * t ** 3 +
      105.56302e-9 * t ** 4 -
      280.54253e-12 * t ** 5) /
    (1 + 16.87985e-3 * t);
  const salt = kind === "sea" ? OCEAN * (0.8 - 0.0025 * (t - 10)) : 0;
  const viscosity = 2.414e-5 * 10 ** (247.8 / (t + 273.15 - 140));
  return {
    density: kell + (kind === "sea" ? salt - 0.6 : 0),
    viscosity: viscosity * (kind === "sea" ? 1.08 : 1),
    soundSpeed: 1482 + 3 * (t - 20) + (kind === "sea" ? 40 : 0),
    fastest: FASTEST,
  };
}

/** Tip speed beyond which no small screw works, m/s: the end of its map. */
const FASTEST = 45;

/** Pressure of the air over the water, Pa. */
const AIR = 101_325;

/**
 * Tip speed (m/s) at which a screw at this depth (m) begins to cavitate: where the suction on its back, taken as so
 * many times the dynamic pressure of the tip, reaches the vapour pressure.
 * σ = (p − p_v)/(½ρV²) = 0.9 at the tip of a lightly loaded section; small screws near the surface begin between 12
 * and 18 m/s (common practice).
 */
export function cavitatesFrom(depth: number, temperature: number, medium: Medium): number {
  return Math.sqrt(
    (2 * (AIR + medium.density * GRAVITY * depth - saturation(temperature))) / (medium.density * BEGINS),
  );
}
const BEGINS = 0.9;
