import type { Quantity } from "../../design/quantity";
import { supportOf } from "../../design/support";
import { findRoot } from "../../numeric/root";
import { type Doubtful, sdOf } from "../../numeric/doubt";
import { type Outcome, type View, doubtsOf, subject } from "../../subject";
import { NOT_WHOLE, ONLY_WINGS } from "../flight/node";
import { powered } from "../powered/node";
import { assumed, notCovered, standingOnly, wetDrive } from "../propulsion/covered";
import { DRIVEN } from "../propulsion/node";
import type { PowerInput } from "../propulsion/inputs";
import { FASTEST, dragAt, missingOf, solveAll, thrustOf } from "../propulsion/nominal";
import type { PowerSetup } from "../propulsion/setup";
import { vary } from "../propulsion/vary";
import { inputsOf, knownBy, shapesOutside } from "../propulsion/words";
import { waterDragDoubt } from "./inWater";

export interface SpeedResult {
  /** m/s at which full thrust meets the drag */
  speed: Doubtful;
  inputs: PowerInput[];
  /** the drag is that of described wings and bodies, and of what carrying the weight costs */
  wings: boolean;
  /** why it does not go so, as a sentence; null where nothing says so */
  touching: string | null;
}

/**
 * How fast the craft goes at full throttle against its drag area alone: where its thrust meets it. Its weight has no
 * part in it, so that no mass that is typed solves anything.
 */
export const areaSpeed = subject({
  name: "areaSpeed",
  cost: "slow",
  reads: [...DRIVEN, "dragArea", "waterDragArea", "waterDragAt"],
  compute(view): Outcome<SpeedResult> {
    const missing = missingOf(view);
    if (missing.length > 0) return { status: "missing", needs: missing };
    const { waterDrag, airDrag } = supportOf(view);
    const because =
      notCovered(view) ??
      (waterDrag || (airDrag && !wetDrive(view))
        ? null
        : "what holds it back is neither the air nor the water that it swims in: that is not computed so far");
    if (because !== null) return { status: "not covered", because };
    const standing = standingOnly(view);
    if (standing !== null) return { status: "not covered", because: standing };
    if (waterDrag && view.waterDragArea === null) return { status: "missing", needs: ["drag area in water"] };
    if (!waterDrag && view.dragArea === null)
      return { status: "missing", needs: ["drag area, or wings and bodies described"] };
    const { inputs, base, others } = vary(view);
    const along = base.units[base.main[0] ?? 0]?.unit.direction;
    if (along !== "ahead" && along !== "astern") return { status: "not covered", because: "no drive pushes ahead" };
    let near: Parameters<typeof solveAll>[4] = null;
    const surplus = (setup: PowerSetup, v: number, from = near) => {
      const s = solveAll(setup, 1, v, base.main, from);
      if (setup === base && s.status === "converged") near = s.states;
      return (s.status === "converged" ? thrustOf(setup, s.points, base.main) : 0) - (dragAt(setup, v) ?? 0);
    };
    let high = 2;
    while (surplus(base, high) > 0 && high < FASTEST) high *= 1.6;
    const found = findRoot((v) => surplus(base, v), 0, high, 1e-3, 60);
    if (found.status !== "converged") return { status: "failed", reason: found.status };
    const v = found.x;
    const here = surplus(base, v);
    const slope = (surplus(base, v * 1.01) - here) / (0.01 * v);
    surplus(base, v);
    const by: Record<string, number> = {};
    for (const { id, setup } of others) {
      const d = (surplus(setup, v) - here) / -slope;
      if (Number.isFinite(d) && d !== 0) by[id] = d;
    }
    const touching = waterDrag ? waterDragDoubt(view, v) : null;
    return { status: "solved", result: { speed: { value: v, by }, inputs, wings: false, touching } };
  },
});

/** What carries it along where it stands still in it, m/s: the wind, under water the current; 0 where none is named. */
function carriedBy(view: View<"states" | "gasLift" | "brief.environment">): number {
  const { waterDrag, weighedOff } = supportOf(view);
  const { wind, current } = view.brief.environment;
  return !waterDrag ? wind : weighedOff ? (current ?? 0) : 0;
}

/** The top speed: on described wings that of level flight, else that of the drag area. */
export const speed = subject({
  name: "speed",
  reads: ["states", "gasLift", "units", "dragArea", "surfaces", "flight", "brief.environment"],
  needs: [areaSpeed, powered],
  gives: ["speed", "madeGood"],
  compute(view, of): Outcome<SpeedResult> {
    const flown = of(powered);
    const shaped = supportOf(view).ways.includes("wings") && view.surfaces.length > 0;
    // Wings that wait for something: what is known is the area alone.
    if (!shaped || (flown.status === "missing" && view.dragArea !== null)) return of(areaSpeed);
    if (flown.status !== "solved") return flown;
    const { top, touching, inputs } = flown.result;
    return top
      ? { status: "solved", result: { speed: top, inputs, wings: true, touching } }
      : { status: "failed", reason: "full throttle does not hold it level" };
  },
  quantities({ speed: s, inputs, wings, touching }, view): Partial<Record<"speed" | "madeGood", Quantity>> {
    const unsaid = assumed(view);
    const incomplete = [
      ...(unsaid === null ? [] : [unsaid]),
      ...(touching === null ? [] : [touching]),
      ...(wings && !view.flight.whole ? [NOT_WHOLE] : []),
      ...(wings && view.dragArea === null ? [ONLY_WINGS] : []),
    ];
    const top: Quantity = {
      value: s.value,
      sd: sdOf(s),
      dimension: "speed",
      evidence: knownBy(inputs, s),
      ...doubtsOf(shapesOutside(view.units), incomplete),
    };
    const flow = carriedBy(view);
    // No wind named is no calm.
    return flow > 0 ? { speed: top, madeGood: { ...top, value: s.value - flow } } : { speed: top };
  },
  lacks: (key, _result, view) => {
    if (key !== "madeGood") return null;
    const { waterDrag, weighedOff } = supportOf(view);
    return !waterDrag
      ? "no worst wind is named in Brief"
      : weighedOff
        ? "no worst current is named in Brief"
        : "a wind does not carry a hull off as it does what flies in it: it stands there as a share of its thrust";
  },
  working: (_key, { inputs, speed: s }, view) => inputsOf(inputs, s, view.units.length > 1),
});
