import type { Unit } from "../../design/schema";
import type { Medium } from "../air/air";
import { cavitatesFrom } from "../water/water";

/**
 * Depth at which a small craft's screw commonly sits, m, and a temperature for the vapour's pressure, °C: it hardly
 * counts beside that of the air (judgement).
 */
const SHALLOW = 0.1;
const TEMPERATE = 15;

/**
 * Tip speed of a screw (m/s) where it is fast enough for the water to boil on it near the surface, with the speed
 * from which it may; null elsewhere, and in the air.
 */
export function cavitation(
  unit: Pick<Unit, "surroundings">,
  diameter: number,
  rpm: number,
  medium: Medium,
): { tip: number; from: number } | null {
  if (unit.surroundings !== "in water") return null;
  const [tip, from] = [(rpm / 60) * Math.PI * diameter, cavitatesFrom(SHALLOW, TEMPERATE, medium)];
  return tip > from ? { tip, from } : null;
}
