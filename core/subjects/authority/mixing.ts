import { Matrix, pseudoInverse } from "ml-matrix";
import type { Point } from "../../design/schema";
import { type Effect, TURNS, type Thruster, type Turn, effectOf } from "./allocate";

/** How one unit answers: what is added to its throttle for each newton of lift and each newton metre asked. */
export interface Mixed {
  lift: number;
  /** per N·m about each axis; null where nothing commands it */
  turns: Record<Turn, number | null>;
}

/**
 * The allocation of a craft that hangs on its units: of all ways to give a lift and moments about the CG, the one with
 * the least sum of squares of the throttles (pseudo-inverse of what each unit does; Moore and Penrose). Linear: it
 * holds as long as no unit reaches nothing or full, and says nothing of either.
 *
 * @param never axes that no throttle commands, or of which nothing is known
 * @returns null where lift and the other axes cannot be asked of these units by themselves
 */
export function mixingOf(units: readonly Thruster[], cg: Point, never: readonly Turn[]): Mixed[] | null {
  const effects: Effect[] = units.map((u) => effectOf(u, cg));
  const held = TURNS.filter((t) => !never.includes(t));
  const rows = [effects.map((e) => e.z), ...held.map((t) => effects.map((e) => e[t]))];
  const scale = rows.map((r) => Math.hypot(...r));
  if (units.length === 0 || scale.some((s) => !(s > 0))) return null;
  const b = new Matrix(rows.map((r, k) => r.map((v) => v / (scale[k] ?? 1))));
  const mix = pseudoInverse(b);
  const unity = b.mmul(mix);
  // Asked of one, given of one and nothing of the others: else the axes cannot be had apart.
  for (const i of rows.keys())
    for (const j of rows.keys()) if (Math.abs(unity.get(i, j) - (i === j ? 1 : 0)) > 1e-6) return null;
  return units.map((_, k) => {
    const of = (row: number) => mix.get(k, row) / (scale[row] ?? 1);
    const turns = Object.fromEntries(
      TURNS.map((t) => [t, held.includes(t) ? of(1 + held.indexOf(t)) : null]),
    ) as Mixed["turns"];
    return { lift: of(0), turns };
  });
}
