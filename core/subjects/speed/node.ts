import { supportOf } from "../../design/support";
import { findRoot } from "../../numeric/root";
import { type Doubtful, sdOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, subject } from "../../subject";
import { assumed, notCovered, standingOnly, wetDrive } from "../propulsion/covered";
import { DRIVEN } from "../propulsion/node";
import type { PowerInput } from "../propulsion/inputs";
import { dragAt, missingOf, solveAll, thrustOf } from "../propulsion/nominal";
import type { PowerSetup } from "../propulsion/setup";
import { vary } from "../propulsion/vary";
import { inputsOf, knownBy, shapesOutside } from "../propulsion/words";

export interface SpeedResult {
  /** m/s at which full thrust meets the drag */
  speed: Doubtful;
  inputs: PowerInput[];
}

/** Beyond this speed no search is made, m/s. */
const FASTEST = 120;

/** How fast the craft goes at full throttle: where its thrust meets its drag. */
export const speed = subject({
  name: "speed",
  cost: "slow",
  reads: [...DRIVEN, "dragArea"],
  gives: ["speed"],
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
    if (view.dragArea === null) return { status: "missing", needs: ["drag area"] };
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
    return { status: "solved", result: { speed: { value: v, by }, inputs } };
  },
  quantities({ speed: s, inputs }, view) {
    const unsaid = assumed(view);
    return {
      speed: {
        value: s.value,
        sd: sdOf(s),
        dimension: "speed",
        evidence: knownBy(inputs, s),
        ...doubtsOf(shapesOutside(view.units), unsaid === null ? [] : [unsaid]),
      },
    };
  },
  working: (_key, result, view) => inputsOf(result.inputs, result.speed, view.units.length > 1),
});
