import type { Design, WalkBack } from "../../design/schema";
import { rollUp } from "../mass/rollup";
import { movingMass } from "../mass/tree";

export interface WalkBackStep {
  number: number;
  /** CG of this step, m aft of datum */
  cg: number;
  /** Place of the part after this step (m), or mass left of it (kg). */
  to: number;
  /** What this step alone moves (m) or takes out (kg). */
  by: number;
  /** Whether the part can do it: inside its range, or with mass left. */
  possible: boolean;
}

export type WalkBackResult =
  | { status: "planned"; start: number; steps: WalkBackStep[] /** Step by which it can no longer be done; null when all can. */; endsAt: number | null }
  | { status: "noPart" | "noMass" | "wrongWay" | "noRange" };

/**
 * Even steps of CG from where it is to a stop line behind it, each with the slide of one part, x' = x + (t − cg)·M/m, or with the mass taken out of it,
 * r = M·(cg − t)/(x − t). For a craft that is unstable on purpose: after each step the controller is tuned again and the trim noted before the next.
 *
 * @returns "wrongWay" when the stop line lies ahead of the CG or the part sits behind it and is to be lightened
 */
export function walkBack(design: Design, plan: WalkBack): WalkBackResult {
  const mass = rollUp(design);
  const item = design.items.find((i) => i.id === plan.itemId);
  if (!mass) return { status: "noMass" };
  if (!item?.mass) return { status: "noPart" };
  if (plan.stop <= mass.cg.x) return { status: "wrongWay" };
  if (plan.by === "slide" && item.slide === null) return { status: "noRange" };
  if (plan.by === "remove" && item.place.x >= mass.cg.x) return { status: "wrongWay" };
  const own = plan.by === "slide" ? movingMass(design.items, item) : item.mass.value * item.quantity;
  const steps: WalkBackStep[] = [];
  let before = plan.by === "slide" ? item.place.x : own;
  for (let k = 1; k <= plan.steps; k++) {
    const cg = mass.cg.x + ((plan.stop - mass.cg.x) * k) / plan.steps;
    const to = plan.by === "slide" ? item.place.x + ((cg - mass.cg.x) * mass.mass) / own : own - (mass.mass * (mass.cg.x - cg)) / (item.place.x - cg);
    const possible = plan.by === "slide" ? to <= (item.slide?.to ?? Number.NEGATIVE_INFINITY) + 1e-9 : to >= -1e-9;
    steps.push({ number: k, cg, to, by: Math.abs(to - before), possible });
    before = to;
  }
  return { status: "planned", start: mass.cg.x, steps, endsAt: steps.find((s) => !s.possible)?.number ?? null };
}
