/** A way to bring the CG to a target along one axis. */
export interface Shift {
  /** Place to which the item moves, m. */
  to: number;
  /** Whether that place lies inside the allowed range. */
  inRange: boolean;
}

/**
 * Where one item must sit so that the CG comes to `target`: x' = x + (target − cg)·M / m.
 *
 * @param total mass of the whole craft, kg
 * @param item the item's mass (kg, all pieces, positive), its place (m) and the range in which it may sit (null: fixed)
 * Source: first moment of mass; FAA-H-8083-1 "Aircraft Weight and Balance Handbook", chapter on weight shift.
 */
export function shiftFor(
  total: number,
  cg: number,
  target: number,
  item: { mass: number; at: number; range: { from: number; to: number } | null },
): Shift {
  const to = item.at + ((target - cg) * total) / item.mass;
  return { to, inRange: item.range !== null && to >= item.range.from - 1e-9 && to <= item.range.to + 1e-9 };
}

/**
 * Ballast that brings the CG to `target` when put at `place`: m = M·(target − cg)/(place − target), kg.
 *
 * @returns null when ballast there cannot do it (place on the wrong side of the target, or on it)
 * Source: FAA-H-8083-1, ballast formula: weight × distance needed / distance from ballast to the desired CG.
 */
export function ballastFor(total: number, cg: number, target: number, place: number): number | null {
  const mass = (total * (target - cg)) / (place - target);
  return Number.isFinite(mass) && mass >= 0 ? mass : null;
}

/**
 * Grams of counterweight at `place` that one gram at `at` costs, for a CG held at `cg`. Positive when both lie on
 * opposite sides.
 */
export function leverage(cg: number, at: number, place: number): number {
  return -(at - cg) / (place - cg);
}
