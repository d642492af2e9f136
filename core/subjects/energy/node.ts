import type { Quantity } from "../../design/quantity";
import type { Design, Phase } from "../../design/schema";
import type { Dimension } from "../../design/units";
import { type Doubtful, sdOf, through } from "../../numeric/doubt";
import { type Outcome, doubtsOf, solved, subject } from "../../subject";
import { demand } from "../demand/node";
import { assumed, drawUnknown, notCovered, unnoted } from "../propulsion/covered";
import { DRIVEN } from "../propulsion/node";
import { aloft, keepsUp } from "../powered/keepsUp";
import { powered } from "../powered/node";
import type { PowerInput } from "../propulsion/inputs";
import { missingOf } from "../propulsion/nominal";
import type { PackSetup, PowerSetup } from "../propulsion/setup";
import type { OnWings } from "../propulsion/onWings";
import { vary } from "../propulsion/vary";
import { inputsOf, knownBy, shapesOutside } from "../propulsion/words";
import { type DischargeStates, type EnduranceResult, discharge } from "./endurance";

export interface PackRun {
  id: string;
  name: string;
  /** s until it is spent, mean W and mean A until then, by what moves them */
  endurance: Doubtful;
  meanPower: Doubtful;
  meanCurrent: Doubtful;
  /** lowest voltage under load along the run, V; null when nothing was drawn */
  lowest: number | null;
  endedBy: EnduranceResult["endedBy"];
  trace: EnduranceResult["trace"];
  /** m through the air until then, where every phase has its speed from the duty or from what its throttle flies */
  metres: Doubtful | null;
  /** s from when on a throttle that is flown level on wings holds it level no longer; null where it does all along */
  sinksFrom: number | null;
}
/** How a phase that states a throttle is flown on wings, as the run begins. */
export interface FlownPhase {
  id: string;
  /** m/s */
  speed: number;
  flown: OnWings["flown"];
  /** whether that throttle holds it level at all */
  holds: boolean;
}
export interface EnergyResult {
  /** One for each pack, in the design's order. */
  packs: PackRun[];
  /** Index of the pack that is spent first, whose end is the run's. */
  first: number;
  inputs: PowerInput[];
  flown: FlownPhase[];
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

/** The drives that some phase of the duty works, as far as it works them. */
const workingIn = ({ units, duty }: Pick<Design, "units" | "duty">) =>
  units.flatMap((u) => {
    const own = duty.filter((p) => p.unitIds.length === 0 || p.unitIds.includes(u.id));
    if (own.length === 0) return [];
    // A thrust that is asked for is found where it was measured, or not at all.
    const most = Math.max(0, ...own.map((p) => (p.by === "throttle" ? Math.min(p.value, u.throttleLimit) : 0)));
    return [{ ...u, throttleLimit: most }];
  });

/** How long the packs last at the duty. */
export const energy = subject({
  name: "energy",
  cost: "slow",
  reads: [...DRIVEN, "duty", "dragArea", "waterDragArea"],
  needs: [demand, powered, keepsUp],
  gives: ["endurance", "meanPower", "meanCurrent", "range", "energyPerDistance"],
  compute(view, of): Outcome<EnergyResult> {
    const asked = of(demand);
    // What the packs were found to give needs no drive that can be computed.
    const byLoad = asked.status === "solved" && asked.result.byLoad;
    const missing = missingOf(view).filter((m) => !byLoad || m === "pack");
    if (missing.length > 0 || view.batteries.length === 0)
      return { status: "missing", needs: missing.length > 0 ? missing : ["pack"] };
    const because = byLoad ? null : notCovered(view);
    if (because !== null) return { status: "not covered", because };
    if (asked.status !== "solved") return asked;
    const unread = byLoad ? [] : drawUnknown({ units: workingIn(view) });
    if (unread.length > 0) return { status: "missing", needs: unread };
    const { inputs, base, others } = vary({ ...view, levelDrag: asked.result.levelDrag }, asked.result.mass);
    const flown: FlownPhase[] = [];
    const packs = base.packs.map((p, k): PackRun => {
      const { states, ...here } = runOf(base, p);
      for (const [j, phase] of p.phases.entries()) {
        const id = view.duty[j]?.id ?? "";
        const first = states[0]?.[j];
        if (phase.onWings && first && !flown.some((f) => f.id === id))
          flown.push({ id, speed: first.speed, flown: phase.onWings.flown, holds: first.holds });
      }
      const own = new Set([
        p.battery.id,
        ...p.units.flatMap((i) => base.units[i]?.unit.id ?? []),
        ...view.duty.map((phase) => phase.id),
      ]);
      const means = (r: EnduranceResult) => ({
        seconds: r.seconds,
        power: r.joules / r.seconds,
        current: (r.ampereHours * 3600) / r.seconds,
        metres: r.metres,
      });
      const at = means(here);
      const by: Record<keyof typeof at, Record<string, number>> = {
        seconds: {},
        power: {},
        current: {},
        metres: {},
      };
      if (Number.isFinite(here.seconds))
        for (const { id, of: whose, setup } of others) {
          const there = setup.packs[k];
          // What belongs to another pack or its drives leaves this one as it is.
          if (!there || (whose !== "" && !own.has(whose))) continue;
          const moved = means(runOf(setup, there, states));
          for (const key of ["seconds", "power", "current", "metres"] as const) {
            const d = moved[key] - at[key];
            if (Number.isFinite(d) && d !== 0) by[key][id] = d;
          }
        }
      return {
        id: p.battery.id,
        name: p.battery.name,
        endurance: { value: at.seconds, by: by.seconds },
        meanPower: { value: at.power, by: by.power },
        meanCurrent: { value: at.current, by: by.current },
        lowest: here.trace.length > 0 ? Math.min(...here.trace.map((t) => t.voltage)) : null,
        endedBy: here.endedBy,
        trace: here.trace,
        sinksFrom: sinksFrom(p.phases, states, here.trace),
        metres: p.phases.every((f) => f.speed > 0) ? { value: at.metres, by: by.metres } : null,
      };
    });
    const first = packs.reduce(
      (least, p, i) => (p.endurance.value < (packs[least]?.endurance.value ?? Infinity) ? i : least),
      0,
    );
    if (packs[first]?.endedBy === "notSolved") return { status: "failed", reason: "notSolved" };
    return { status: "solved", result: { packs, first, inputs, flown } };
  },
  quantities(result, view, of) {
    const run = result.packs[result.first];
    // A pack that nothing is drawn from lasts for ever: that is no number.
    if (!run || !Number.isFinite(run.endurance.value)) return {};
    const asked = solved(of(demand));
    const unsaid = asked?.byLoad ? null : assumed(view);
    const measured = asked?.byLoad ? [] : unnoted({ units: workingIn(view) });
    const incomplete = [
      ...(unsaid === null ? [] : [unsaid]),
      ...(asked?.incomplete ?? []),
      ...aloft(view.duty, run.endurance.value, of),
      ...(run.sinksFrom === null ? [] : [sinksAfter(run.sinksFrom)]),
    ];
    const rest = doubtsOf(asked?.byLoad ? [] : shapesOutside(view.units), incomplete, measured);
    const q = (d: Doubtful, dimension: Dimension): Quantity => ({
      value: d.value,
      sd: sdOf(d),
      dimension,
      evidence: knownBy(result.inputs, d),
      ...rest,
    });
    const { endurance, meanPower, meanCurrent } = run;
    const speed = speedOf(run, view.duty);
    // A pack that is spent at once has no mean.
    const means = Number.isFinite(meanPower.value) && Number.isFinite(meanCurrent.value);
    return {
      endurance: q(endurance, "time"),
      ...(means ? { meanPower: q(meanPower, "power"), meanCurrent: q(meanCurrent, "current") } : {}),
      ...(speed === null || !means
        ? {}
        : {
            range: q(rangeOf(run, view.duty, speed), "distance"),
            energyPerDistance: q(perDistance(result.packs, speed), "energyPerDistance"),
          }),
    };
  },
  working(key, result, view) {
    const run = result.packs[result.first];
    const nothing: Doubtful = { value: 0, by: {} };
    const of = !run
      ? nothing
      : key === "meanPower"
        ? run.meanPower
        : key === "meanCurrent"
          ? run.meanCurrent
          : key === "energyPerDistance"
            ? perDistance(result.packs, speedOf(run, view.duty) ?? 1)
            : key === "range"
              ? rangeOf(run, view.duty, speedOf(run, view.duty) ?? 1)
              : run.endurance;
    return inputsOf(result.inputs, of, view.units.length > 1);
  },
});

/** When a phase that flies level on wings begins to sink: its throttle stays, and the pack's volts do not. */
function sinksFrom(
  phases: PackSetup["phases"],
  states: DischargeStates,
  trace: EnduranceResult["trace"],
): number | null {
  const k = states.findIndex((here) => phases.some((p, j) => p.onWings?.flown === "level" && here[j]?.holds === false));
  return k < 0 ? null : (trace[k]?.seconds ?? 0);
}
const sinksAfter = (seconds: number): string =>
  `from about ${Math.round(seconds / 60)} min on, as the pack empties, the throttle that is stated ` +
  "holds it level no longer";

/** Mean speed over the ground of one cycle, m/s; null while a phase does not say its own, or nothing moves. */
function meanSpeed(duty: readonly Phase[]): number | null {
  let [metres, seconds] = [0, 0];
  for (const p of duty) {
    const speed = p.groundSpeed ?? (p.by === "speed" ? p.value : null);
    if (speed === null) return null;
    metres += speed * p.seconds * p.repeats;
    seconds += p.seconds * p.repeats;
  }
  return metres > 0 ? metres / seconds : null;
}

/** The same where phases that state a throttle tell it by the speed that they fly at. */
const speedOf = (run: PackRun, duty: readonly Phase[]): number | null =>
  meanSpeed(duty) ?? (run.metres && run.metres.value > 0 ? run.metres.value / run.endurance.value : null);
/** m over the ground at a mean speed that is stated, else through still air at the speeds that the throttles fly at. */
const rangeOf = (run: PackRun, duty: readonly Phase[], speed: number): Doubtful =>
  meanSpeed(duty) === null && run.metres ? run.metres : through(run.endurance, run.endurance.value * speed, speed);

/** J that all packs give for each metre at a speed. */
function perDistance(packs: readonly PackRun[], speed: number): Doubtful {
  const giving = packs.filter((p) => Number.isFinite(p.meanPower.value));
  const by: Record<string, number> = {};
  for (const p of giving) for (const [id, d] of Object.entries(p.meanPower.by)) by[id] = (by[id] ?? 0) + d / speed;
  return { value: giving.reduce((s, p) => s + p.meanPower.value, 0) / speed, by };
}
