import { computedFrom } from "../../design/evidence";
import { type Doubtful, sdOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, solved, subject } from "../../subject";
import { demand } from "../demand/node";
import { assumed, notCovered } from "../propulsion/covered";
import { DRIVEN } from "../propulsion/node";
import type { PowerInput } from "../propulsion/inputs";
import { missingOf } from "../propulsion/nominal";
import type { PackSetup, PowerSetup } from "../propulsion/setup";
import { vary } from "../propulsion/vary";
import { inputsOf, shapesOutside } from "../propulsion/words";
import { type DischargeStates, type EnduranceResult, discharge } from "./endurance";

export interface PackRun {
  id: string;
  name: string;
  /** s until it is spent, by what moves it */
  endurance: Doubtful;
  /** lowest voltage under load along the run, V; null when nothing was drawn */
  lowest: number | null;
  endedBy: EnduranceResult["endedBy"];
  trace: EnduranceResult["trace"];
}
export interface EnergyResult {
  /** One for each pack, in the design's order. */
  packs: PackRun[];
  /** Index of the pack that is spent first, whose end is the run's. */
  first: number;
  inputs: PowerInput[];
}

const runOf = (setup: PowerSetup, p: PackSetup, along: DischargeStates | null = null) =>
  discharge(
    p.units.flatMap((i) => {
      const u = setup.units[i];
      return u ? [{ drive: u.drive, limit: u.limit }] : [];
    }),
    p.pack,
    p.phases,
    undefined,
    along,
  );

/** How long the packs last at the duty. */
export const energy = subject({
  name: "energy",
  reads: [...DRIVEN, "duty", "dragArea"],
  needs: [demand],
  gives: ["endurance"],
  compute(view, of): Outcome<EnergyResult> {
    const missing = missingOf(view);
    if (missing.length > 0) return { status: "missing", needs: missing };
    const because = notCovered(view);
    if (because !== null) return { status: "not covered", because };
    const asked = of(demand);
    if (asked.status !== "solved") return asked;
    const { inputs, base, others } = vary(view, asked.result.mass);
    const packs = base.packs.map((p, k): PackRun => {
      const { states, ...here } = runOf(base, p);
      const own = new Set([p.battery.id, ...p.units.flatMap((i) => base.units[i]?.unit.id ?? [])]);
      const by: Record<string, number> = {};
      if (Number.isFinite(here.seconds))
        for (const { id, of: whose, setup } of others) {
          const there = setup.packs[k];
          // What belongs to another pack or its drives leaves this one as it is.
          if (!there || (whose !== "" && !own.has(whose))) continue;
          const d = runOf(setup, there, states).seconds - here.seconds;
          if (Number.isFinite(d) && d !== 0) by[id] = d;
        }
      return {
        id: p.battery.id,
        name: p.battery.name,
        endurance: { value: here.seconds, by },
        lowest: here.trace.length > 0 ? Math.min(...here.trace.map((t) => t.voltage)) : null,
        endedBy: here.endedBy,
        trace: here.trace,
      };
    });
    const first = packs.reduce((least, p, i) => (p.endurance.value < (packs[least]?.endurance.value ?? Infinity) ? i : least), 0);
    if (packs[first]?.endedBy === "notSolved") return { status: "failed", reason: "notSolved" };
    return { status: "solved", result: { packs, first, inputs } };
  },
  quantities(result, view, of) {
    const run = result.packs[result.first];
    // A pack that nothing is drawn from lasts for ever: that is no number.
    if (!run || !Number.isFinite(run.endurance.value)) return {};
    const unsaid = assumed(view);
    const incomplete = [...(unsaid === null ? [] : [unsaid]), ...(solved(of(demand))?.incomplete ?? [])];
    return {
      endurance: {
        value: run.endurance.value,
        sd: sdOf(run.endurance),
        dimension: "time",
        evidence: computedFrom(result.inputs.filter((i) => i.key !== "mass" && i.key !== "dragArea").map((i) => i.evidence)),
        ...doubtsOf(shapesOutside(view.units), incomplete),
      },
    };
  },
  working: (_key, result, view) => inputsOf(result.inputs, result.packs[result.first]?.endurance ?? { value: 0, by: {} }, view.units.length > 1),
});
