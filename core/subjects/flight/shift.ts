import { neutralPoint } from "./model";
import type { LatticeResult } from "./latticeNode";
import { type At, trimAt } from "./trim";

/** Level flight at one speed with the CG somewhere. */
export interface WithCg {
  /** m aft of the datum */
  cg: number;
  /** static margin, as a share of the mean chord; null where an angle of attack makes no lift */
  margin: number | null;
  /** of the pitch control, nose up positive, rad; null without one */
  command: number | null;
  /** whether the control reaches that far; null without one */
  reached: boolean | null;
}

/**
 * What other places of the CG ask of the trim at one speed: everything else as it is, the mass too.
 *
 * @param speed m/s, above the stall
 * @param travel of the pitch control each way, rad; null without one
 * @param places of the CG, m aft of the datum
 */
export function withCgAt(
  l: LatticeResult,
  at: At,
  speed: number,
  travel: { up: number; down: number } | null,
  places: readonly number[],
): WithCg[] {
  const np = neutralPoint(l.model);
  return places.flatMap((cg): WithCg[] => {
    const t = trimAt(l, { ...at, cg }, speed);
    if (!t) return [];
    return [
      {
        cg,
        margin: np === null ? null : (np - cg) / l.mac,
        command: t.command,
        reached: t.command === null || !travel ? null : t.command <= travel.up && -t.command <= travel.down,
      },
    ];
  });
}

/**
 * How far the CG may move for one radian of the pitch control at a speed, m aft per rad of nose down: what a change of
 * reflex, or of the neutral of an elevator, is worth. Null without a pitch control.
 */
export function cgPerCommand(l: LatticeResult, at: At, speed: number): number | null {
  const step = 0.01 * l.mac;
  const [a, b] = [at.cg - step, at.cg + step].map((cg) => trimAt(l, { ...at, cg }, speed)?.command ?? null);
  return a === null || b === null || a === undefined || b === undefined || a === b ? null : (2 * step) / (a - b);
}
