import { GRAVITY } from "../air/air";

/** Slip up to which fins go on giving more, rad (common practice: they stall beyond). */
export const MOST_SLIP = (15 * Math.PI) / 180;
/** What a side force by the lattice may be more than it is told (judgement, as each derivative sideways). */
const METHOD = 1.2;
/** Most that an outline pushed aside may take for its area and the pressure across (Hoerner 1965, from memory). */
const MOST_DRAG = 1.4;

/** What may bend the way of a craft that cannot bank freely. */
export interface Bending {
  /** kg, and m/s at which it turns */
  mass: number;
  speed: number;
  /** kg/m³ */
  density: number;
  /** side force of its surfaces for a radian of slip over ½ρV², m², 0 or more */
  side: number;
  /** outline from the side, m² */
  outline: number;
  /** N that it pushes with at the most */
  thrust: number;
  /** rad of bank at which a tip touches */
  bank: number;
  /** slip that a radian of rudder holds in free air; null: no rudder, or its nose turns into no side wind by itself */
  slips: number | null;
  /** rad that the rudder travels; 0: there is none */
  travel: number;
}

/** The tightest turn of a craft that cannot bank freely. */
export interface FlatTurn {
  /** m that it turns no tighter than at that speed */
  radius: number;
  speed: number;
  /** N that bend its way: its side, the thrust that points inwards, the bank */
  forces: { side: number; thrust: number; bank: number };
}

/** N across the way at a slip, rad: of its side and of its thrust, at most. */
function across(b: Bending, slip: number): { side: number; thrust: number } {
  const pressure = (b.density * b.speed ** 2) / 2;
  return {
    side: pressure * (METHOD * b.side * slip + MOST_DRAG * b.outline * Math.sin(slip) ** 2),
    thrust: b.thrust * Math.sin(slip),
  };
}

/**
 * The radius that no turn with so little slip goes below: what pushes it aside is m·V²/R. Its side at 15° of slip, full
 * thrust that points inwards by that, and the bank at which a tip touches. A bound, and no estimate: each is taken at
 * its most, whatever turns the nose (rudder, wash, drives).
 *
 * Source: equations of motion, steady turn (Etkin; Nelson). Range: in the air, nothing touches, 15° of slip at most.
 */
export function tightest(b: Bending): FlatTurn {
  const forces = { ...across(b, MOST_SLIP), bank: b.mass * GRAVITY * Math.tan(b.bank) };
  const all = forces.side + forces.thrust + forces.bank;
  return { radius: (b.mass * b.speed ** 2) / all, speed: b.speed, forces };
}

/** What of a rudder a turn takes: nothing where the bank does it, so much of it (rad), none that is large enough. */
export type RudderNeed = { need: "none" } | { need: "rudder"; least: number } | { need: "more" } | { need: "open" };

/**
 * The rudder that a turn of a radius (m) takes at the least in free air, with the bank that there is; open where there
 * is no rudder, or the nose turns into no side wind by itself.
 */
export function rudderFor(b: Bending, radius: number): RudderNeed {
  const wanted = (b.mass * b.speed ** 2) / radius - b.mass * GRAVITY * Math.tan(b.bank);
  const at = (slip: number) => {
    const f = across(b, slip);
    return f.side + f.thrust;
  };
  if (wanted <= 0) return { need: "none" };
  if (!(wanted <= at(MOST_SLIP))) return { need: "more" };
  if (b.slips === null) return { need: "open" };
  let [low, high] = [0, MOST_SLIP];
  for (let k = 0; k < 60; k++) {
    const middle = (low + high) / 2;
    if (at(middle) < wanted) low = middle;
    else high = middle;
  }
  return { need: "rudder", least: high / b.slips };
}
