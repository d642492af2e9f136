import { findingText } from "../core/evaluate";
import type { CraftFile } from "../core/design/craftFile";
import { versionIn } from "../core/design/inState";
import type { UnitHabit } from "../core/design/units";
import { fieldSheet } from "../core/runs/fieldSheet";
import type { FieldSheet } from "../core/runs/sheetShape";
import type { Evaluator } from "./evaluator";
import { notFound } from "./problems";

/** What the page at the site needs of one version, with its design judged in the evaluator's thread. */
export async function sheetOf(
  file: CraftFile,
  label: string,
  habit: UnitHabit,
  evaluator: Evaluator,
  state: string,
): Promise<FieldSheet> {
  const whole = file.versions.find((v) => v.label === label);
  if (!whole) throw notFound(`There is no version ${label} of ${file.craft.name}.`);
  const version = versionIn(whole, state);
  const judged = await evaluator.judge(version.design);
  return fieldSheet(
    file,
    version,
    whole.design.states,
    judged && {
      endurance: judged.metrics.endurance ?? null,
      findings: judged.findings,
      tip: judged.tip,
      say: (finding) => findingText(finding, habit),
    },
  );
}
