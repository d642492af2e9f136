import { standingOnly } from "../propulsion/covered";
import { supportOf } from "../../design/support";
import type { Evidence } from "../../design/evidence";
import { type Outcome, type View, subject } from "../../subject";
import { byLoadAlone, strangeLoads } from "../energy/load";
import { type FlightResult, ONLY_WINGS, flight } from "../flight/node";
import { mass } from "../mass/node";
import type { LevelDrag } from "../propulsion/levelDrag";
import { waterDragDoubt } from "../speed/inWater";
import { DRIVEN } from "../propulsion/node";
import { flownByThrottle } from "../propulsion/onWings";

export interface DemandResult {
  /**
   * The craft's mass (kg), where a phase asks for multiples of the weight or for a speed on wings; else null, so that
   * a change of mass changes nothing here.
   */
  mass: { value: number; sd: number; evidence: Evidence } | null;
  /** What holds it back in level flight on its wings, where a phase asks for a speed. */
  levelDrag: LevelDrag | null;
  /** What that mass leaves out, and loads that were taken of another craft, as sentences. */
  incomplete: string[];
  /** The duty is held by what the packs give alone: whatever drives it may be. */
  byLoad: boolean;
}

/** What is said where wings carry a craft of which nobody knows what that costs. */
const NO_LIFT_COST = "what carrying the weight costs is not in its drag: its wings are not described, or not solved";

type Asked = View<
  | "states"
  | "gasLift"
  | "duty"
  | "dragArea"
  | "waterDragArea"
  | "waterDragAt"
  | "units"
  | "batteries"
  | "conductors"
  | "regulators"
  | "brief.environment"
>;

/**
 * What holds the craft back where its duty states a throttle on wings. Nothing where it is computed as standing: also
 * while only a part of its drag is known, for with that it would fly too fast and draw too little.
 */
function byThrottle(view: Asked, flown: Outcome<FlightResult>): LevelDrag | null {
  if (flown.status !== "solved" || !flown.result.whole) return null;
  const { levelDrag, slowest } = flown.result;
  return slowest !== null && flownByThrottle(view, slowest.value).length > 0 ? levelDrag : null;
}

/** What holds the craft back at the speeds that its duty asks for. */
function heldBack(
  view: Asked,
  flown: Outcome<FlightResult>,
): Outcome<{ levelDrag: LevelDrag | null; incomplete: string[] }> {
  const asked = view.duty.filter((p) => p.by === "speed");
  const held = supportOf(view);
  const onWings = held.ways.includes("wings");
  const standing = standingOnly(view);
  if (asked.length === 0) return { status: "solved", result: { levelDrag: byThrottle(view, flown), incomplete: [] } };
  if (!held.airDrag && !held.waterDrag)
    return {
      status: "not covered",
      because:
        "the duty asks for a speed, and drag on the ground and half in the water is not computed so far: state " +
        "the phase by throttle, thrust, or a mean current",
    };
  if (standing !== null) return { status: "not covered", because: `the duty asks for a speed, and ${standing}` };
  if (onWings && flown.status === "solved" && flown.result.inWater)
    return {
      status: "not covered",
      because:
        "the duty asks for a speed, and what pods, struts and spray cost on foils is not computed so " +
        "far: state the phase by throttle, thrust, or a mean current",
    };
  if (onWings && flown.status === "solved") {
    const { levelDrag, slowest, touches, whole } = flown.result;
    if (!levelDrag || slowest === null)
      return { status: "missing", needs: [flown.result.at ? "a trim that flies level" : "mass and CG"] };
    const stall = flown.result.values.stallSpeed?.value ?? 0;
    const slow = asked.find((p) => p.value < stall);
    if (slow)
      return {
        status: "not covered",
        because: `the duty asks in “${slow.name}” for a speed below its stall speed: it does not fly there`,
      };
    const low = touches && asked.find((p) => p.value < slowest.value);
    const touching = low
      ? `the duty asks in “${low.name}” for a speed at which it flies so nose up that “${touches.name}” ` +
        "touches the ground"
      : null;
    // How high it flies is not known so well: what is slower by less than twice its doubt may be flown.
    if (touching !== null && low && low.value < slowest.value - 2 * slowest.sd)
      return { status: "not covered", because: touching };
    const incomplete = [...(touching === null ? [] : [touching]), ...(whole ? [] : [ONLY_WINGS])];
    return { status: "solved", result: { levelDrag, incomplete } };
  }
  if (held.waterDrag) {
    if (view.waterDragArea === null) return { status: "missing", needs: ["drag area in water"] };
    const doubts = asked.flatMap((p) => {
      const doubt = waterDragDoubt(view, p.value);
      return doubt === null ? [] : `“${p.name}”: ${doubt}`;
    });
    return { status: "solved", result: { levelDrag: null, incomplete: doubts } };
  }
  if (view.dragArea === null) return { status: "missing", needs: ["drag area"] };
  return { status: "solved", result: { levelDrag: null, incomplete: onWings ? [NO_LIFT_COST] : [] } };
}

/** What the duty asks of the drives beyond what stands in it: the weight, when a phase is stated in multiples of it. */
export const demand = subject({
  name: "demand",
  reads: [...DRIVEN, "duty", "dragArea", "waterDragArea", "waterDragAt"],
  needs: [mass, flight],
  compute(view, of): Outcome<DemandResult> {
    if (view.duty.length === 0) return { status: "missing", needs: ["duty"] };
    const back = heldBack(view, of(flight));
    if (back.status !== "solved") return back;
    const { levelDrag } = back.result;
    const ledger = of(mass);
    const byLoad = byLoadAlone(view.duty);
    const strange = [
      ...back.result.incomplete,
      ...strangeLoads(view.duty, view, ledger.status === "solved" ? ledger.result.mass : null),
    ];
    if (!levelDrag && !view.duty.some((p) => p.by === "thrustToWeight"))
      return { status: "solved", result: { mass: null, levelDrag, incomplete: strange, byLoad } };
    if (ledger.status !== "solved") return { status: "missing", needs: ["mass"] };
    const m = ledger.result;
    return {
      status: "solved",
      result: {
        mass: { value: m.mass, sd: m.massSd, evidence: m.evidence },
        levelDrag,
        incomplete: [...strange, ...m.incomplete],
        byLoad,
      },
    };
  },
});
