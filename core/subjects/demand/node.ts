import { standingOnly } from "../propulsion/covered";
import { supportOf } from "../../design/support";
import type { Evidence } from "../../design/evidence";
import { type Outcome, subject } from "../../subject";
import { byLoadAlone, strangeLoads } from "../energy/load";
import { mass } from "../mass/node";

export interface DemandResult {
  /**
   * The craft's mass (kg), where a phase asks for multiples of the weight; else null, so that a change of mass
   * changes nothing here.
   */
  mass: { value: number; sd: number; evidence: Evidence } | null;
  /** What that mass leaves out, and loads that were taken of another craft, as sentences. */
  incomplete: string[];
  /** The duty is held by what the packs give alone: whatever drives it may be. */
  byLoad: boolean;
}

/** What the duty asks of the drives beyond what stands in it: the weight, when a phase is stated in multiples of it. */
export const demand = subject({
  name: "demand",
  reads: ["states", "gasLift", "duty", "dragArea", "units", "batteries"],
  needs: [mass],
  compute(view, of): Outcome<DemandResult> {
    if (view.duty.length === 0) return { status: "missing", needs: ["duty"] };
    if (view.duty.some((p) => p.by === "speed") && !supportOf(view).airDrag)
      return {
        status: "not covered",
        because:
          "the duty asks for a speed, and drag in water and on the ground are not computed so far: state the phase by throttle, thrust, or a mean current",
      };
    const standing = standingOnly(view);
    if (view.duty.some((p) => p.by === "speed") && standing !== null)
      return { status: "not covered", because: `the duty asks for a speed, and ${standing}` };
    if (view.duty.some((p) => p.by === "speed") && view.dragArea === null)
      return { status: "missing", needs: ["drag area"] };
    const ledger = of(mass);
    const byLoad = byLoadAlone(view.duty);
    const strange = strangeLoads(view.duty, view, ledger.status === "solved" ? ledger.result.mass : null);
    if (!view.duty.some((p) => p.by === "thrustToWeight"))
      return { status: "solved", result: { mass: null, incomplete: strange, byLoad } };
    if (ledger.status !== "solved") return { status: "missing", needs: ["mass"] };
    const m = ledger.result;
    return {
      status: "solved",
      result: {
        mass: { value: m.mass, sd: m.massSd, evidence: m.evidence },
        incomplete: [...strange, ...m.incomplete],
        byLoad,
      },
    };
  },
});
