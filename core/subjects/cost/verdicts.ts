import { METRICS } from "../../design/metrics";
import { type Found, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice } from "../say";

/** Cost over the budget. */
const costOver = verdict<{ by: number }>({
  find: ({ targets }) =>
    targets
      .filter((t) => t.status === "missed" && (t.target.metric === "cost" || t.target.metric === "costToBuy"))
      .flatMap((t): Found<{ by: number }>[] =>
        t.predicted
          ? [
              {
                page: "brief",
                severity: t.target.weight === "must" ? "stop" : "care",
                about: t.target.id,
                params: { by: Math.abs(t.margin ?? 0) },
                figure: figureOf(METRICS[t.target.metric].label, t.predicted, t.target.value),
              },
            ]
          : [],
      ),
  remedies: () => [advice("Look on the shelf first")],
  says: (p) => `${plain(p.by, "money")} over the budget`,
});

export const verdicts = { "cost-over": costOver };
