import { findingText } from "../core/evaluate";
import type { CraftFile } from "../core/design/craftFile";
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
): Promise<FieldSheet> {
  const version = file.versions.find((v) => v.label === label);
  if (!version) throw notFound(`There is no version ${label} of ${file.craft.name}.`);
  const judged = await evaluator.judge(version.design);
  return fieldSheet(
    file,
    version,
    judged && {
      endurance: judged.metrics.endurance ?? null,
      findings: judged.findings,
      tip: judged.tip,
      say: (finding) => findingText(finding, habit),
    },
  );
}
