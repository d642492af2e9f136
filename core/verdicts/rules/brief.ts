import { METRICS } from "../../design/metrics";
import type { TargetResult } from "../../design/targets";
import { type Finding, type Rule, figureOf } from "../types";

const missed = (targets: TargetResult[], ...metrics: string[]) => targets.filter((t) => t.status === "missed" && metrics.includes(t.target.metric));
const severityOf = (t: TargetResult) => (t.target.weight === "must" ? ("stop" as const) : ("care" as const));

/** Known masses alone reach the limit while parts still have none: nothing is left for them. Else a plain miss of the AUW target. */
export const massLimit: Rule = ({ targets, mass, design }) =>
  missed(targets, "auw").flatMap((t): Finding[] => {
    if (!t.predicted || t.target.comparison !== "atMost") return [];
    const by = t.predicted.value - t.target.value;
    const base = { station: "brief" as const, subject: t.target.id, figure: figureOf("AUW", t.predicted, t.target.value) };
    const asking = {
      code: "ask-for" as const,
      params: { metric: "auw" as const, value: t.predicted.value },
      patch: {
        set: [{ path: ["brief", "targets", `#${t.target.id}`, "value"], value: t.predicted.value + t.predicted.sd }],
        addItems: [],
      },
    };
    const open = mass?.withoutMass.length ?? 0;
    if (open > 0 && design.items.length > open) return [{ ...base, code: "nothing-left", severity: "stop", params: { by, open }, remedies: [asking] }];
    return [{ ...base, code: "mass-over", severity: severityOf(t), params: { by }, remedies: [asking, { code: "advice", params: { text: "lighten" }, patch: null }] }];
  });

/** Length, width or height beyond its limit. */
export const sizeLimit: Rule = ({ targets }) =>
  missed(targets, "length", "width", "height").flatMap((t): Finding[] =>
    t.predicted
      ? [
          {
            code: "size-over",
            severity: severityOf(t),
            station: "brief",
            subject: t.target.id,
            params: { metric: t.target.metric, by: Math.abs(t.margin ?? 0) },
            figure: figureOf(METRICS[t.target.metric].label, t.predicted, t.target.value),
            remedies: [{ code: "advice", params: { text: "shorten" }, patch: null }],
          },
        ]
      : [],
  );

/** Cost over the budget. */
export const budget: Rule = ({ targets }) =>
  missed(targets, "cost", "costToBuy").flatMap((t): Finding[] =>
    t.predicted
      ? [
          {
            code: "cost-over",
            severity: severityOf(t),
            station: "brief",
            subject: t.target.id,
            params: { by: Math.abs(t.margin ?? 0) },
            figure: figureOf(METRICS[t.target.metric].label, t.predicted, t.target.value),
            remedies: [{ code: "advice", params: { text: "cheaper" }, patch: null }],
          },
        ]
      : [],
  );

/** No target at all, or none for where the CG must be. */
export const targetsMissing: Rule = ({ design }) => {
  const { targets } = design.brief;
  const which = targets.length === 0 ? "all" : targets.some((t) => t.metric === "cgX") ? null : "window";
  if (!which || (which === "window" && design.heldUpBy === "gas")) return [];
  return [
    {
      code: "targets-missing",
      severity: "note",
      station: "brief",
      subject: which,
      params: { which },
      figure: null,
      remedies: [{ code: "advice", params: { text: "set-targets" }, patch: null }],
    },
  ];
};

/** A must target that looks met, or nearly so, with odds between 10 and 90 in 100, on a number that is no better than a guess. */
export const restsOnGuess: Rule = ({ targets }) =>
  targets
    .filter((t) => t.predicted?.evidence === "guess" && t.odds !== null && t.odds > 0.1 && t.odds < 0.9 && t.target.metric !== "cgX")
    .flatMap((t): Finding[] =>
      t.predicted
        ? [
            {
              code: "rests-on-guess",
              severity: "note",
              station: METRICS[t.target.metric].station,
              subject: t.target.id,
              params: { metric: t.target.metric },
              figure: figureOf(METRICS[t.target.metric].label, t.predicted, t.target.value),
              remedies: [{ code: "advice", params: { text: "measure-one" }, patch: null }],
            },
          ]
        : [],
    );

export const briefRules: Rule[] = [massLimit, sizeLimit, budget, targetsMissing, restsOnGuess];
