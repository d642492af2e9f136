import { magnitudeSd } from "../../design/evidence";
import type { Item, Point } from "../../design/schema";
import type { Sure } from "../../numeric/doubt";
import { GRAVITY } from "../air/air";
import { movingMass } from "./tree";

/** Mass that a servo shifts under way: what that turns the craft with, each way, N·m. */
export interface Shifted {
  names: string[];
  roll: Sure;
  pitch: Sure;
}

/**
 * What shifted masses turn a craft with that is carried at its weight: m·g·Δ, all of them to one side. A part whose
 * mass nobody knows counts as nothing.
 *
 * @param turned takes a vector from body axes to those of hover, z up
 * @returns null where no part is shifted
 */
export function shiftedMass(items: readonly Item[], turned: (p: Point) => Point = (p) => p): Shifted | null {
  const out = { names: [] as string[], roll: { value: 0, sd: 0 }, pitch: { value: 0, sd: 0 } };
  for (const item of items) {
    const [along, across] = [item.shiftX, item.mirrored ? 0 : item.shiftY];
    if (!(along > 0 || across > 0) || !item.mass) continue;
    const kg = movingMass(items, item);
    if (kg <= 0) continue;
    out.names.push(item.name);
    const share = magnitudeSd(item.mass) / item.mass.value;
    for (const way of [turned({ x: along, y: 0, z: 0 }), turned({ x: 0, y: across, z: 0 })])
      for (const [turn, by] of [
        ["pitch", Math.abs(way.x)],
        ["roll", Math.abs(way.y)],
      ] as const) {
        const moment = kg * GRAVITY * by;
        out[turn].value += moment;
        out[turn].sd = Math.hypot(out[turn].sd, share * moment);
      }
  }
  return out.names.length > 0 ? out : null;
}

/** The same about one axis; null where it does nothing there. */
export const shiftedAbout = (shifted: Shifted | null, axis: string): (Sure & { names: string[] }) | null =>
  shifted && (axis === "roll" || axis === "pitch") && shifted[axis].value > 1e-9
    ? { ...shifted[axis], names: shifted.names }
    : null;
