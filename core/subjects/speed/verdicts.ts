import { type Found, figureOf, verdict } from "../../subject";
import { LIGHTEN, times } from "../say";

/** A target of top speed that is missed. */
const speedShort = verdict<{ factor: number }>({
  find: ({ targets }) =>
    targets
      .filter((t) => t.target.metric === "speed" && t.status === "missed" && t.target.comparison === "atLeast")
      .flatMap((t): Found<{ factor: number }>[] =>
        t.predicted
          ? [
              {
                page: "power",
                severity: t.target.weight === "must" ? "stop" : "care",
                about: t.target.id,
                params: { factor: t.target.value / t.predicted.value },
                figure: figureOf("top speed", t.predicted, t.target.value),
              },
            ]
          : [],
      ),
  remedies: () => [LIGHTEN],
  says: (p) => `Too slow: ${times(p.factor)} the speed is asked`,
});

export const verdicts = { "speed-short": speedShort };
