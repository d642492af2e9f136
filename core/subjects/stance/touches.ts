import { type Vector, dot, minus } from "../../numeric/vector";
import type { BodyShape, Surface } from "../surfaces/declares";
import { edgesOf, outlineOf } from "../surfaces/planform";

/** What touches the ground first as the nose comes up, and by how much more of it, rad (0 and up). */
export interface Touches {
  name: string;
  clear: number;
  /** m behind the point that it turns about */
  behind: number;
}

/**
 * Which of the described bodies and surfaces touches the ground first as the craft turns nose up about a point on it.
 * Null where none of them is behind that.
 *
 * @param at on the ground: its hindmost feet, or below its CG in flight; m
 * @param up and ahead, level over that ground; 1 long
 */
export function touchesFirst(
  { surfaces, bodies }: { surfaces: readonly Surface[]; bodies: readonly BodyShape[] },
  at: Vector,
  { up, ahead }: { up: Vector; ahead: Vector },
): Touches | null {
  let first: Touches | null = null;
  const look = (name: string, points: readonly Vector[]) => {
    for (const p of points) {
      const from = minus(p, at);
      const behind = -dot(from, ahead);
      if (!(behind > NEAR)) continue;
      const clear = Math.max(0, Math.atan2(dot(from, up), behind));
      if (!first || clear < first.clear) first = { name, clear, behind };
    }
  };
  for (const b of bodies) look(b.name, edgesOf(b));
  for (const s of surfaces) look(s.name, [...outlineOf(s, 1), ...(s.mirrored ? outlineOf(s, -1) : [])]);
  return first;
}
/** m behind the point that it turns about from which on something can touch. */
const NEAR = 0.005;
