import { verdict } from "../../subject";
import { LIGHTEN, missed, times } from "../say";

/** A target of top speed that is missed. */
const speedShort = verdict<{ factor: number }>({
  find: (see) =>
    missed(
      see,
      ({ target: t }) => t.metric === "speed" && t.comparison === "atLeast",
      "power",
      (t, p) => ({ params: { factor: t.target.value / p.value }, label: "top speed" }),
    ),
  remedies: () => [LIGHTEN],
  says: (p) => `Too slow: ${times(p.factor)} the speed is asked`,
});

export const verdicts = { "speed-short": speedShort };
