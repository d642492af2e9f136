import type { Design } from "../../design/schema";
import { type Supported, supportOf } from "../../design/support";

/** Share of the speed by which a hull may go faster or slower than where its drag was taken (judgement). */
const NEAR = 0.25;

/**
 * Why the drag area in water of what swims may not hold at a speed (m/s), as a sentence; null where it does. Under
 * water it holds at any; on the surface a hull makes other waves at another speed.
 */
export function waterDragDoubt(design: Supported & Pick<Design, "waterDragAt">, speed: number): string | null {
  if (supportOf(design).weighedOff) return null;
  const { waterDragAt: at } = design;
  if (at === null)
    return "at which speed its drag area in water was taken is not said: a hull makes other waves at another speed";
  return Math.abs(speed / at - 1) > NEAR
    ? "its drag area in water was taken at a speed more than a quarter away from this one: a hull makes other waves " +
        "here"
    : null;
}
