import type { Quantity } from "../../design/quantity";
import { supportOf } from "../../design/support";
import { findRoot } from "../../numeric/root";
import { type Doubtful, sdOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, subject } from "../../subject";
import { NOT_WHOLE, ONLY_WINGS } from "../flight/node";
import { powered } from "../powered/node";
import { assumed, notCovered, standingOnly, wetDrive } from "../propulsion/covered";
import { DRIVEN } from "../propulsion/node";
import type { PowerInput } from "../propulsion/inputs";
import { FASTEST, dragAt, missingOf, solveAll, thrustOf } from "../propulsion/nominal";
import type { PowerSetup } from "../propulsion/setup";
import { vary } from "../propulsion/vary";
import { inputsOf, knownBy, shapesOutside } from "../propulsion/words";

export interface SpeedResult {
  /** m/s at which full thrust meets the drag */
  speed: Doubtful;
  inputs: PowerInput[];
  /** the drag is that of described wings and bodies, and of what carrying the weight costs */
  wings: boolean;
  /** why it is not flown so, as a sentence; null where nothing says so */
  touching: string | null;
}

/**
 * How fast the craft goes at full throttle against its drag area alone: where its thrust meets it. Its weight has no
 * part in it, so that no mass that is typed solves anything.
 */
export const areaSpeed = subject({
  name: "areaSpeed",
  cost: "slow",
  reads: [...DRIVEN, "dragArea"],
  compute(view): Outcome<SpeedResult> {
    const missing = missingOf(view);
    if (missing.length > 0) return { status: "missing", needs: missing };
    const because =
      notCovered(view) ??
      (supportOf(view).airDrag && !wetDrive(view)
        ? null
        : "what holds it back is not the air: drag in water and on the ground are not computed so far");
    if (because !== null) return { status: "not covered", because };
    const standing = standingOnly(view);
    if (standing !== null) return { status: "not covered", because: standing };
    if (view.dragArea === null) return { status: "missing", needs: ["drag area, or wings and bodies described"] };
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
    return { status: "solved", result: { speed: { value: v, by }, inputs, wings: false, touching: null } };
  },
});

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
    const { wind } = view.brief.environment;
    // No wind named is no calm.
    return wind > 0 ? { speed: top, madeGood: { ...top, value: s.value - wind } } : { speed: top };
  },
  lacks: (key) => (key === "madeGood" ? "no worst wind is named in Brief" : null),
  working: (_key, { inputs, speed: s }, view) => inputsOf(inputs, s, view.units.length > 1),
});
