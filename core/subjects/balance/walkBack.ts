import { placesUnsaid } from "../mass/placed";
import type { Design, WalkBack, WalkBackRecord } from "../../design/schema";
import { rollUp } from "../mass/rollup";
import { movingMass } from "../mass/tree";

/** On which side of the neutral point a CG lies; "near" within two standard uncertainties of it. */
export type NeutralSide = "ahead" | "near" | "behind" | "unknown";

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
  side: NeutralSide;
  /** What was kept of it, the latest last. */
  records: WalkBackRecord[];
  /**
   * done: a record says go on. next: it may be made now. ahead: one before it is not done. stopped: a record says
   * stop.
   */
  state: "done" | "next" | "ahead" | "stopped";
}

export type WalkBackResult =
  | {
      status: "planned";
      start: number;
      steps: WalkBackStep[] /** Step by which it can no longer be done; null when all can. */;
      endsAt: number | null;
    }
  | { status: "noPlace"; open: string }
  | { status: "noPart" | "noMass" | "wrongWay" | "noRange" };

/**
 * Share of the control travel that a trim may take: beyond it too little is left to catch the craft (common
 * practice).
 */
export const MOST_TRAVEL = 0.5;

/**
 * Whether what was kept of a step lets the next one be made: more than half of the travel gone, or a CG measured
 * behind the stop line (m), is a stop, whatever was ticked.
 */
export const goesOn = (r: WalkBackRecord, stop: number): boolean =>
  r.verdict === "go on" && (r.travel === null || r.travel <= MOST_TRAVEL) && (r.cg === null || r.cg <= stop);

/** The side of the neutral point on which a CG lies. */
export function sideOf(cg: number, neutral: WalkBack["neutral"]): NeutralSide {
  if (!neutral) return "unknown";
  if (Math.abs(cg - neutral.value) <= 2 * neutral.sd) return "near";
  return cg < neutral.value ? "ahead" : "behind";
}

/**
 * Even steps of CG from where it was when the walk began to a stop line behind it, each with the slide of one part,
 * x' = x + (t − cg)·M/m, or with the mass taken out of it,
 * r = M·(cg − t)/(x − t). For a craft that is unstable on purpose: after each step the controller is tuned again and
 * the trim noted before the next.
 *
 * @returns "wrongWay" when the stop line lies ahead of the CG or the part sits behind it and is to be lightened
 */
export function walkBack(design: Design, plan: WalkBack): WalkBackResult {
  const mass = rollUp(design);
  const item = design.items.find((i) => i.id === plan.itemId);
  if (!mass) return { status: "noMass" };
  const [unsaid] = placesUnsaid(design.items, "x");
  if (unsaid !== undefined) return { status: "noPlace", open: unsaid };
  if (!item?.mass) return { status: "noPart" };
  const start = plan.start ?? mass.cg.x;
  if (plan.stop <= start) return { status: "wrongWay" };
  if (plan.by === "slide" && item.slide === null) return { status: "noRange" };
  if (plan.by === "remove" && item.place.x >= mass.cg.x) return { status: "wrongWay" };
  const own = plan.by === "slide" ? movingMass(design.items, item) : item.mass.value * item.quantity;
  const steps: WalkBackStep[] = [];
  let before = plan.by === "slide" ? item.place.x : own;
  let open = true;
  for (let k = 1; k <= plan.steps; k++) {
    const cg = start + ((plan.stop - start) * k) / plan.steps;
    const to =
      plan.by === "slide"
        ? item.place.x + ((cg - mass.cg.x) * mass.mass) / own
        : own - (mass.mass * (mass.cg.x - cg)) / (item.place.x - cg);
    const possible = plan.by === "slide" ? to <= (item.slide?.to ?? Number.NEGATIVE_INFINITY) + 1e-9 : to >= -1e-9;
    const records = plan.records.filter((r) => r.step === k);
    const last = records.at(-1);
    const done = last !== undefined && goesOn(last, plan.stop);
    const state = done ? "done" : !open ? "ahead" : last && last.verdict !== "again" ? "stopped" : "next";
    steps.push({
      number: k,
      cg,
      to,
      by: Math.abs(to - before),
      possible,
      side: sideOf(cg, plan.neutral),
      records,
      state,
    });
    open = open && done;
    before = to;
  }
  return { status: "planned", start, steps, endsAt: steps.find((s) => !s.possible)?.number ?? null };
}
