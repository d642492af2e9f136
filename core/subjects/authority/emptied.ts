import { supportOf } from "../../design/support";
import { type Outcome, subject } from "../../subject";
import { notCovered } from "../propulsion/covered";
import { indices, missingOf, solveAll } from "../propulsion/nominal";
import { DRIVEN } from "../propulsion/node";
import { plainSetup } from "../propulsion/vary";

export interface EmptiedResult {
  /** share of its thrust at full throttle that each drive has left with the usable charge of its pack spent */
  left: number[];
  /** charge of the emptiest pack then, 0 to 1 */
  charge: number;
}

/** What full throttle gives at the end of the usable charge, of craft that hang on their drives or fly on wings. */
export const emptied = subject({
  name: "emptied",
  cost: "slow",
  reads: DRIVEN,
  compute(view): Outcome<EmptiedResult> {
    const { onThrust, ways } = supportOf(view);
    if (!onThrust && !ways.includes("wings"))
      return { status: "not covered", because: "it does not hang on its drives, nor fly on wings" };
    const missing = missingOf(view);
    if (missing.length > 0) return { status: "missing", needs: missing };
    const because = notCovered(view);
    if (because !== null) return { status: "not covered", because };
    const batteries = view.batteries.map((b) => ({ ...b, startCharge: Math.max(0, b.startCharge - b.usable) }));
    const [full, empty] = [view, { ...view, batteries }].map((v) => {
      const setup = plainSetup(v);
      return solveAll(setup, 1, 0, indices(setup));
    });
    if (full?.status !== "converged" || empty?.status !== "converged")
      return { status: "failed", reason: "the drives were not solved on an emptied pack" };
    const left = full.points.map((p, i) => (p.thrust > 0 ? Math.max(0, empty.points[i]?.thrust ?? 0) / p.thrust : 0));
    const used = view.units.flatMap((u) => batteries.filter((b) => b.id === u.batteryId));
    return { status: "solved", result: { left, charge: Math.min(...used.map((b) => b.startCharge)) } };
  },
});
