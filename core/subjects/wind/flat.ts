import { GRAVITY } from "../air/air";

/** Slip and rudder up to which fins and flaps go on giving more, rad (common practice: they stall beyond). */
export const MOST_SLIP = (15 * Math.PI) / 180;
export const MOST_RUDDER = (25 * Math.PI) / 180;
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
  /** slip that a radian of rudder holds; null: its nose turns into no side wind by itself, and any may be */
  slips: number | null;
  /** rad that the rudder travels; 0: there is none */
  travel: number;
}

/** The tightest turn of a craft that cannot bank freely. */
export interface FlatTurn {
  /** m that it turns no tighter than at that speed */
  radius: number;
  speed: number;
  /** rad by which the nose points into the turn, and which its rudder holds at the most */
  slip: number;
  /** what keeps the slip from more: its rudder, or that fins stall beyond */
  by: "rudder" | "slip";
  /** N that bend its way: its side, the thrust that points inwards, the bank */
  forces: { side: number; thrust: number; bank: number };
}

/** N across the way at a slip, rad: of its side and of its thrust, at most. */
function across(b: Bending, slip: number): { side: number; thrust: number } {
  const pressure = (b.density * b.speed ** 2) / 2;
  return {
    side: pressure * (b.side * slip + MOST_DRAG * b.outline * Math.sin(slip) ** 2),
    thrust: b.thrust * Math.sin(slip),
  };
}

/**
 * The radius that no turn goes below: what pushes it aside is m·V²/R. Its side at the slip that the rudder can hold (15°
 * at most), full thrust that points inwards by that, and the bank at which a tip touches. A bound, and no estimate: each
 * is taken at its most, and what damps the yaw is left out.
 *
 * Source: equations of motion, steady turn (Etkin; Nelson). Range: in the air, nothing touches.
 */
export function tightest(b: Bending): FlatTurn {
  const held = b.travel === 0 ? 0 : b.slips === null ? MOST_SLIP : b.slips * Math.min(b.travel, MOST_RUDDER);
  const slip = Math.min(MOST_SLIP, held);
  const forces = { ...across(b, slip), bank: b.mass * GRAVITY * Math.tan(b.bank) };
  const all = forces.side + forces.thrust + forces.bank;
  return {
    radius: (b.mass * b.speed ** 2) / all,
    speed: b.speed,
    slip,
    by: held < MOST_SLIP ? "rudder" : "slip",
    forces,
  };
}

/**
 * The rudder that a turn of a radius (m) takes at the least, rad, with the bank that there is; null where no rudder
 * turns it so tight. 0: the bank does it, or its nose is turned by less than can be told.
 */
export function rudderFor(b: Bending, radius: number): number | null {
  const wanted = (b.mass * b.speed ** 2) / radius - b.mass * GRAVITY * Math.tan(b.bank);
  const at = (slip: number) => {
    const f = across(b, slip);
    return f.side + f.thrust;
  };
  if (wanted <= 0) return 0;
  if (!(wanted <= at(MOST_SLIP))) return null;
  let [low, high] = [0, MOST_SLIP];
  for (let k = 0; k < 60; k++) {
    const middle = (low + high) / 2;
    if (at(middle) < wanted) low = middle;
    else high = middle;
  }
  if (b.slips === null) return 0;
  return high / b.slips;
}
