import { supportOf } from "../../design/support";
import { findRoot } from "../../numeric/root";
import { type Doubtful, alsoBy, sdOf, sharesOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, subject } from "../../subject";
import { GRAVITY } from "../air/air";
import { inducedOf, lattice } from "../flight/latticeNode";
import { NOT_WHOLE, ONLY_WINGS, resistanceOf } from "../flight/node";
import { mass } from "../mass/node";
import { assumed, notCovered, standingOnly, wetDrive } from "../propulsion/covered";
import { DRIVEN } from "../propulsion/node";
import type { PowerInput } from "../propulsion/inputs";
import { dragAt, missingOf, solveAll, thrustOf } from "../propulsion/nominal";
import type { PowerSetup } from "../propulsion/setup";
import { vary } from "../propulsion/vary";
import { inputsOf, knownBy, shapesOutside } from "../propulsion/words";

export interface SpeedResult {
  /** m/s at which full thrust meets the drag of an area */
  speed: Doubtful;
  inputs: PowerInput[];
  /** how thrust less drag goes with the speed there, N per m/s: negative */
  slope: number;
  density: number;
  /** Drag area of wings and bodies where none was entered, m²; null where one was. */
  wings: { area: number; sd: number } | null;
}

/** Name of the drag of wings and bodies among what moves the speed. */
const WINGS = "/wings";
/** Beyond this speed no search is made, m/s. */
const FASTEST = 120;

/**
 * How fast the craft goes at full throttle against its drag area alone: where its thrust meets it. Its weight has no
 * part in it, so that no mass that is typed solves anything.
 */
export const areaSpeed = subject({
  name: "areaSpeed",
  cost: "slow",
  reads: [...DRIVEN, "dragArea", "surfaces", "bodies"],
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
    const shaped = view.dragArea === null && supportOf(view).ways.includes("wings") && view.surfaces.length > 0;
    const wings = shaped ? resistanceOf(view.surfaces, view.bodies, null) : null;
    if (view.dragArea === null && !wings)
      return { status: "missing", needs: ["drag area, or wings and bodies described"] };
    const { inputs, base, others } = vary(view);
    const along = base.units[base.main[0] ?? 0]?.unit.direction;
    if (along !== "ahead" && along !== "astern") return { status: "not covered", because: "no drive pushes ahead" };
    let near: Parameters<typeof solveAll>[4] = null;
    const dragOf = (setup: PowerSetup, v: number) =>
      wings ? (setup.medium.density / 2) * v * v * wings.area : (dragAt(setup, v) ?? 0);
    const surplus = (setup: PowerSetup, v: number, from = near) => {
      const s = solveAll(setup, 1, v, base.main, from);
      if (setup === base && s.status === "converged") near = s.states;
      return (s.status === "converged" ? thrustOf(setup, s.points, base.main) : 0) - dragOf(setup, v);
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
    const { density } = base.medium;
    if (wings) by[WINGS] = ((density / 2) * v * v * wings.sd) / slope;
    return {
      status: "solved",
      result: { speed: { value: v, by }, inputs, slope, density, wings: wings && { area: wings.area, sd: wings.sd } },
    };
  },
});

/** Share of the thrust that drag due to lift may take before a straight line from the drag area no longer holds. */
const MOST_LIFTED = 0.25;

/** The top speed: that of its drag area, and on described wings less what their lift costs. */
export const speed = subject({
  name: "speed",
  reads: ["states", "gasLift", "units", "flight"],
  needs: [areaSpeed, lattice, mass],
  gives: ["speed"],
  compute(_view, of): Outcome<SpeedResult> {
    const flat = of(areaSpeed);
    if (flat.status !== "solved" || !flat.result.wings) return flat;
    const [wings, ledger] = [of(lattice), of(mass)];
    if (wings.status !== "solved") return wings;
    if (ledger.status !== "solved") return { status: "missing", needs: ["mass"] };
    const { slope, density, speed: s } = flat.result;
    const q = (density / 2) * s.value ** 2;
    const weight = ledger.result.mass * GRAVITY;
    // Of lift by angle of attack alone: trimmed it is a little more.
    const lifted = (inducedOf(wings.result) * weight ** 2) / q;
    if (lifted > MOST_LIFTED * q * flat.result.wings.area)
      return {
        status: "not covered",
        because: "at full throttle it hardly flies: drag due to lift takes the most of its thrust",
      };
    const less = lifted / slope;
    const share = ledger.result.massSd / ledger.result.mass;
    return {
      status: "solved",
      result: { ...flat.result, speed: alsoBy({ value: s.value + less, by: s.by }, "/mass", 2 * share * less) },
    };
  },
  quantities({ speed: s, inputs, wings }, view) {
    const unsaid = assumed(view);
    const incomplete = [
      ...(unsaid === null ? [] : [unsaid]),
      ...(wings && !view.flight.whole ? [NOT_WHOLE] : []),
      ...(wings ? [ONLY_WINGS] : []),
    ];
    return {
      speed: {
        value: s.value,
        sd: sdOf(s),
        dimension: "speed",
        evidence: knownBy(inputs, s),
        ...doubtsOf(shapesOutside(view.units), incomplete),
      },
    };
  },
  working(_key, { inputs, speed: s, wings }, view) {
    const drives = inputsOf(inputs, s, view.units.length > 1);
    if (!wings) return drives;
    const { area: value, sd } = wings;
    const share = sharesOf(s).get(WINGS) ?? 0;
    const drag = { name: "Drag of wings and bodies, method", value, sd, dimension: "area" as const, share };
    return [...drives, { ...drag, evidence: "calculated" as const, source: null }].sort((a, b) => b.share - a.share);
  },
});
