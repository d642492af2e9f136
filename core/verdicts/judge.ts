import { balanceRules } from "./rules/balance";
import { benchRules } from "./rules/bench";
import { briefRules } from "./rules/brief";
import { layoutRules } from "./rules/layout";
import { packRules } from "./rules/pack";
import { pathRules } from "./rules/path";
import { powerRules } from "./rules/power";
import { type Finding, type Rule, type RuleInput, bySeverity } from "./types";

/** Every rule. To add one: write it in the file of its station, list it there, and word its code in core/wording/findings.ts. */
export const RULES: Rule[] = [...briefRules, ...balanceRules, ...layoutRules, ...powerRules, ...packRules, ...pathRules, ...benchRules];

/** All findings, worst first. */
export function judge(input: RuleInput): Finding[] {
  return RULES.flatMap((rule) => rule(input)).sort(bySeverity);
}
