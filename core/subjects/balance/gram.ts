import type { BallastSpot, Design } from "../../design/schema";
import { ballastSpots, isBallast } from "../mass/ballast";
import { leverage } from "./lever";

/** What mass costs along a craft: the counterweight that each gram asks for. */
export interface GramPrice {
  /** Where the counterweight sits. */
  spot: BallastSpot;
  /** Where the CG is held, m aft of datum: at the nearest edge of its window when it is outside, else where it is. */
  heldAt: number;
  /** Grams at the spot for each gram at a place (m); negative where a gram saves some. */
  at: (x: number) => number;
}

/**
 * The one price of a gram, wherever it is told. The counterweight sits at the spot that is chosen; unasked, where
 * ballast is already, else where it would have to go: in front of a CG that is
 * too far back or inside its window (mass creeps aft: common practice), behind one that is too far forward.
 *
 * @param cg of the craft as it is, m
 * @param spotId of a ballast spot; null: unasked
 * @returns null when the design has no place for a counterweight
 */
export function gramPrice(design: Design, cg: number, spotId: string | null = null): GramPrice | null {
  const spots = ballastSpots(design);
  const window = design.brief.targets.find((t) => t.metric === "cgX" && t.comparison === "between");
  const heldAt = window?.upper === undefined ? cg : Math.min(Math.max(cg, window.value), window.upper);
  const lead = design.items.find((i) => isBallast(i) && i.mass !== null);
  const near = (x: number) => spots.toSorted((a, b) => Math.abs(a.place.x - x) - Math.abs(b.place.x - x))[0];
  const ends = spots.toSorted((a, b) => a.place.x - b.place.x);
  const spot = spots.find((s) => s.id === spotId) ?? (lead ? near(lead.place.x) : cg < heldAt ? ends.at(-1) : ends[0]);
  return spot ? { spot, heldAt, at: (x) => leverage(heldAt, x, spot.place.x) } : null;
}
