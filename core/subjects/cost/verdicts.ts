import { METRICS } from "../../design/metrics";
import { verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice, missed } from "../say";

/** Cost over the budget. */
const costOver = verdict<{ by: number }>({
  find: (see) =>
    missed(
      see,
      ({ target: { metric } }) => metric === "cost" || metric === "costToBuy",
      "brief",
      (t) => ({ params: { by: Math.abs(t.margin ?? 0) }, label: METRICS[t.target.metric].label }),
    ),
  remedies: () => [advice("Check what you already own")],
  says: (p, habit) => `${plain(p.by, "money", habit)} over the budget`,
});

export const verdicts = { "cost-over": costOver };
