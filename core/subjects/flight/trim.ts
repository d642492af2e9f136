import { type LevelDrag, levelDragAt } from "../propulsion/levelDrag";
import type { Resistance } from "./inputs";
import type { LatticeResult } from "./latticeNode";
import { type Line, type Trim, trimmed } from "./model";

/** Level flight at one speed. */
export interface TrimPoint {
  /** m/s */
  speed: number;
  /** rad */
  alpha: number;
  /** of the pitch control, nose up positive, rad; null without one */
  command: number | null;
  /** N */
  drag: number;
}

/** Speed at which trim is told, as a multiple of the stall speed (common practice for an approach). */
export const AT_SPEED = 1.3;

/** Drag due to lift over ½ρV² in a trim, m²: c0 + c1·k + c2·k² with the load k = W/½ρV². */
export type Polar = Pick<LevelDrag, "c0" | "c1" | "c2">;
/** Angles and command go straight with the load, and drag with the square of them: three numbers say all of it. */
export function polarOf({ drag, model }: LatticeResult, trim: Trim): Polar {
  let used = 0;
  const size = drag.names.map((name): Line => {
    if (name === "set") return { at0: 1, per: 0 };
    if (name === "alpha") return trim.alpha;
    // Controls of the lattice that are no pitch control stay where they are.
    const index = used < model.controls.length && name.startsWith("control") ? used++ : -1;
    const sign = index < 0 || !trim.command ? 0 : (trim.signs[index] ?? 0);
    return trim.command ? { at0: sign * trim.command.at0, per: sign * trim.command.per } : { at0: 0, per: 0 };
  });
  const out = { c0: 0, c1: 0, c2: 0 };
  for (const [i, row] of drag.form.entries())
    for (const [j, v] of row.entries()) {
      const [a, b] = [size[i] as Line, size[j] as Line];
      out.c0 += v * a.at0 * b.at0;
      out.c1 += v * (a.at0 * b.per + a.per * b.at0);
      out.c2 += v * a.per * b.per;
    }
  return out;
}

export interface At {
  cg: number;
  cgZ: number;
  weight: number;
  density: number;
  resistance: Resistance;
  thrust: number | null;
}

/** Level flight at one speed, with the couple of thrust that equals the drag. */
export function trimAt(l: LatticeResult, at: At, speed: number): TrimPoint | null {
  const q = (at.density * speed ** 2) / 2;
  const load = at.weight / q;
  const plain = trimmed(l.model, at.cg);
  if (!plain) return null;
  const state = (t: NonNullable<typeof plain>) => ({
    alpha: t.alpha.at0 + t.alpha.per * load,
    command: t.command ? t.command.at0 + t.command.per * load : null,
  });
  const first = state(plain);
  const drag = levelDragAt(polarOf(l, plain), at.resistance.area, q, at.weight);
  if (at.thrust === null) return { speed, ...first, drag };
  // Thrust above what holds back pitches the nose down.
  const couple = (-(at.thrust - at.resistance.height) * drag) / at.weight;
  const second = trimmed(l.model, at.cg, couple);
  return second ? { speed, ...state(second), drag } : null;
}
