import type { CraftFile, Plan, Rung, Version } from "../design/craftFile";
import type { State } from "../design/schema";
import { waysOf } from "../design/support";
import { cautionsFor } from "../safety/cautions";
import type { Finding } from "../subject";
import { CAUTION } from "../wording/cautions";
import { lockText, metricName } from "../wording/ladder";
import { fromPlan } from "./board";
import { rowsFor } from "./eachDrive";
import { ladderOf, ladderState, locksFor, nextStage } from "./ladder";
import { marksFor } from "./marks";
import { type FieldRung, type FieldSheet, SHEET_SHAPE } from "./sheetShape";

/** What a design was found to be, as far as the site needs it. */
export interface JudgedForField {
  endurance: { value: number; sd: number } | null;
  findings: readonly Finding[];
  /** fastest tip, m/s */
  tip: number;
  say: (finding: Finding) => string;
}

/**
 * The sheet of one version in the state that its design is in, with what that was found to be; null where it took too
 * long.
 * @param all the states that the craft has
 */
export function fieldSheet(
  file: CraftFile,
  version: Version,
  all: readonly Pick<State, "id" | "name">[],
  judged: JudgedForField | null,
): FieldSheet {
  const [first] = version.design.states;
  const state = { id: first?.id ?? "", name: first?.name ?? "" };
  const last = file.runs.findLast((r) => r.version === version.label) ?? file.runs.at(-1);
  const findings = judged?.findings ?? [];
  const say = (code: string, about: string) => {
    const finding = findings.find((f) => f.code === code && f.about === about);
    return finding && judged?.say(finding);
  };
  const cautions = (plan?: Plan) =>
    cautionsFor(version.design, judged?.tip ?? 0, plan)
      .filter((c) => c.place !== "workshop")
      .map((c) => CAUTION[c.code]);
  const asRung = (rung: Rung): FieldRung => ({
    stage: rung.stage,
    name: rung.name,
    doing: rung.doing,
    abort: rung.abort,
    gates: rung.gates.map((gate) => ({ gate, name: metricName(gate.metric) })),
    locked: [
      ...locksFor(file, version, findings, rung.stage).map((l) => lockText(l, say)),
      ...(judged === null && rung.stage > 1 ? ["the verdicts of this design could not be worked out in time"] : []),
    ],
  });
  return {
    shape: SHEET_SHAPE,
    craft: file.craft.name,
    label: version.label,
    state,
    states: all.map(({ id, name }) => ({ id, name })),
    begin: {
      state: state.id,
      stage: nextStage(ladderState(file, version)),
      place: last?.place ?? "",
      pilot: last?.pilot ?? "",
      conditions: {
        // That of Brief is what it is designed for: how cold it was is read at the site, and limits learn from it.
        airTemperature: null,
        wind: null,
        surface: last?.conditions.surface ?? "",
      },
    },
    plans: file.plans
      .filter((p) => p.version === version.label && p.state === "planned")
      .map((p) => ({ number: p.number, begin: { ...fromPlan(p), state: state.id }, cautions: cautions(p) })),
    rungs: ladderOf(version).map(asRung),
    cautions: cautions(),
    marks: marksFor(waysOf(version.design)),
    drives: rowsFor(version.design.units),
    endurance: judged?.endurance ?? null,
  };
}
