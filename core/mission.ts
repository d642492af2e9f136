import { everyState, phaseState, spansStates, wholeTargets } from "./design/inState";
import type { Quantity } from "./design/quantity";
import type { Design, State } from "./design/schema";
import { type TargetResult, judgeTargets } from "./design/targets";
import { evaluate } from "./evaluate";
import { doubtsOf, whyNone } from "./subject";

/** How long a craft lasts in one of its states, by the phases of its duty that are in it. */
export interface InState {
  state: Pick<State, "id" | "name">;
  /** share of the cycle that is spent in it, 0 to 1 */
  share: number;
  /** s, as if it stayed in it; null: not known */
  endurance: Quantity | null;
}
export type Mission =
  | { status: "solved"; endurance: Quantity; states: InState[] }
  | { status: "open"; because: string; states: InState[] };

/**
 * How long a craft lasts whose duty goes through several states: each takes its share of the charge, so that of the
 * cycle shares wₛ and the endurances Eₛ of each state by itself T = 1/Σ(wₛ/Eₛ). Exact where a state draws the same
 * current whatever the pack still holds; the voltage that falls meanwhile moves it by a few percent (tested against
 * the discharge of one duty with both phases). The doubts of the states are taken as going
 * together: the pack is the same.
 * Null where the duty is of one state alone.
 */
export function missionOf(design: Design): Mission | null {
  if (!spansStates(design)) return null;
  const cycle = design.duty.reduce((s, p) => s + p.seconds * p.repeats, 0);
  const states: InState[] = [];
  let because: string | null = null;
  const [outside, incomplete, unknown] = [new Set<string>(), new Set<string>(), new Set<string>()];
  for (const { state, design: own } of everyState(design)) {
    const seconds = design.duty.reduce(
      (s, p) => (phaseState(design, p) === state.id ? s + p.seconds * p.repeats : s),
      0,
    );
    if (seconds === 0) continue;
    const { metrics, outcomes } = evaluate(own);
    const endurance = metrics.endurance ?? null;
    states.push({ state: { id: state.id, name: state.name }, share: seconds / cycle, endurance });
    if (!endurance || !(endurance.value > 0)) {
      const energy = outcomes.energy;
      because ??=
        `in ${state.name} it is not known how long it ` +
        `lasts${energy && whyNone(energy) ? `: ${whyNone(energy)}` : ""}`;
      continue;
    }
    for (const o of endurance.outside ?? []) outside.add(o);
    for (const o of endurance.incomplete ?? []) incomplete.add(o);
    for (const o of endurance.unknown ?? []) unknown.add(o);
  }
  if (because !== null) return { status: "open", because, states };
  const rate = (of: (e: Quantity) => number) =>
    states.reduce((s, { share, endurance }) => s + (endurance ? share * of(endurance) : 0), 0);
  const value = 1 / rate((e) => 1 / e.value);
  return {
    status: "solved",
    endurance: {
      value,
      sd: value ** 2 * rate((e) => e.sd / e.value ** 2),
      dimension: "time",
      evidence: "calculated",
      ...doubtsOf([...outside], [...incomplete], [...unknown]),
    },
    states,
  };
}

/** What is asked of the whole duty over its states, held against the mission; empty where the duty is of one state. */
export function wholeDuty(design: Design, mission: Mission | null): TargetResult[] {
  const targets = wholeTargets(design);
  if (!mission || targets.length === 0) return [];
  return judgeTargets(targets, mission.status === "solved" ? { endurance: mission.endurance } : {}, () =>
    mission.status === "open" ? mission.because : null,
  );
}
