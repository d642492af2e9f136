import type { Phase } from "../../design/schema";
import { supportOf } from "../../design/support";
import { findRoot } from "../../numeric/root";
import { standingOnly, wetDrive } from "./covered";
import type { Driven } from "./inputs";
import type { LevelDrag } from "./levelDrag";
import { mainUnits } from "./mainUnits";
import { type Command, type PackState, type Source, stateNear, thrustIn } from "./state";

/** What meets the thrust of the drives of one pack while wings carry the craft. */
export interface OnWings {
  /** N that these drives have to overcome at a speed (m/s), in level flight */
  drag: (speed: number) => number;
  /** m/s: where all that the throttle pushes goes into speed, or, in a duty that also sinks or rests, into climb */
  flown: "level" | "climbing";
}

/** Throttle below which a phase is one of rest, or of gliding: it may be on the ground (judgement). */
export const AT_REST = 0.1;

/** Whether what the drives push in flight is known, and all of it is for holding wings in the air that carry alone. */
const carriedSo = (design: Driven): boolean => {
  const along = mainUnits(design).map((i) => design.units[i]?.direction);
  return (
    supportOf(design).onWingsAlone &&
    standingOnly(design) === null &&
    !wetDrive(design) &&
    along.length > 0 &&
    along.every((d) => d === "ahead" || d === "astern")
  );
};

/**
 * The phases that state a throttle and are flown: one that says a speed over the ground below the slowest that wings
 * carry at (a run to lift off, a wait) is not, nor one whose drives do more than push along.
 *
 * @param slowest m/s
 */
export function flownByThrottle(design: Driven, slowest: number): Phase[] {
  const { duty = [], units } = design;
  if (!duty.some((p) => p.by === "throttle") || !carriedSo(design)) return [];
  const main = new Set(mainUnits(design).map((i) => units[i]?.id));
  const pushes = ({ unitIds }: Phase) =>
    units.every((u) => main.has(u.id) || !(unitIds.length === 0 || unitIds.includes(u.id)));
  return duty.filter(
    (p) =>
      p.by === "throttle" && p.value >= AT_REST && (p.groundSpeed === null || p.groundSpeed >= slowest) && pushes(p),
  );
}

/** Slowest that wings carry a weight (N) at in air of a density (kg/m³), m/s; null where no stall ends it. */
export const slowestOn = ({ carries }: Pick<LevelDrag, "carries">, weight: number, density: number): number | null =>
  carries === null || !(carries > 0) ? null : Math.sqrt((2 * weight) / (density * carries));

/** Ratio between the speeds at which it is looked, and how many: from the least up to about ten times it. */
const STEP = 1.12;
const LOOKED = 21;

/**
 * Speed (m/s) at which a throttle flies wings. Level: the fastest at which thrust meets drag, which is the one that it
 * settles at (a little faster the drag has more, a little slower the thrust). Climbing: where (T − D)·v is most. A
 * throttle that holds it level at no speed flies it where it sinks least, which is the same: `holds` is false then.
 *
 * @param least slowest speed that is flown, m/s, above nought
 * @param near a state nearby, with its speed, from which it is followed
 * Source: statics of level flight and of the climb (Anderson 1999); thrust at speed by the drives' own model.
 */
export function speedOnWings(
  commands: readonly Command[],
  source: Source,
  { drag, flown }: OnWings,
  least: number,
  near: (PackState & { speed: number }) | null = null,
): { speed: number; holds: boolean } {
  const over = surplusOf(commands, source, drag, near);
  if (near && flown === "level") {
    const [low, high] = [Math.max(least, near.speed / 1.05), near.speed * 1.05];
    if (over(low) > 0 && over(high) < 0) {
      const found = findRoot(over, low, high, 1e-4, 60);
      if (found.status === "converged") return { speed: found.x, holds: true };
    }
  }
  const looked = lookedAt(over, least);
  const last = looked.findLastIndex((p) => p.over > 0);
  if (flown === "level" && last >= 0) {
    const [a, b] = [looked[last], looked[last + 1]];
    const found = a && b && findRoot(over, a.v, b.v, 1e-4, 60);
    if (found?.status === "converged") return { speed: found.x, holds: true };
  }
  const speed = mostClimb(over, looked, least);
  return { speed, holds: over(speed) > 0 };
}

/** Whether a throttle holds it level at any speed from the least upwards. */
export const holdsLevel = (
  commands: readonly Command[],
  source: Source,
  drag: OnWings["drag"],
  least: number,
): boolean => lookedAt(surplusOf(commands, source, drag), least).some((p) => p.over > 0);

/** Thrust over the drag at a speed, N; each from the state before. */
function surplusOf(
  commands: readonly Command[],
  source: Source,
  drag: OnWings["drag"],
  near: PackState | null = null,
): (speed: number) => number {
  let from = near;
  return (v) => {
    const s = stateNear(commands, source, v, from);
    // What the air drives at this speed pushes nothing (its own drag is left out, as everywhere).
    if (s.status !== "converged") return -drag(v);
    from = s;
    return thrustIn(commands, s, v) - drag(v);
  };
}

const lookedAt = (over: (v: number) => number, least: number) =>
  Array.from({ length: LOOKED }, (_, k) => least * STEP ** k).map((v) => ({ v, over: over(v) }));

/** Where (T − D)·v is most: by golden section beside the best of the speeds that were looked at. */
function mostClimb(over: (v: number) => number, looked: readonly { v: number; over: number }[], least: number): number {
  const climb = (v: number) => over(v) * v;
  const best = looked.reduce((a, b) => (b.over * b.v > a.over * a.v ? b : a)).v;
  const golden = (Math.sqrt(5) - 1) / 2;
  let [low, high] = [Math.max(least, best / STEP), best * STEP];
  for (let k = 0; k < 24; k++) {
    const [c, d] = [high - golden * (high - low), low + golden * (high - low)];
    if (climb(c) < climb(d)) low = c;
    else high = d;
  }
  return (low + high) / 2;
}
