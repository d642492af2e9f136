import { supportOf } from "../../design/support";
import { type Figure, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice } from "../say";
import { type GasResult, MOST_LIFT, gas } from "./node";

/** The gas is said to carry more than any gas does in bodies of that size. */
const gasBeyond = verdict<{ carried: number; most: number }>({
  find(see) {
    const r = see.result(gas);
    const most = MOST_LIFT * (r?.displaced.value ?? 0);
    if (!r || r.carried.value <= most + 2 * MOST_LIFT * r.displaced.sd) return [];
    const figure: Figure = {
      label: "mass that the gas carries",
      value: r.carried.value,
      sd: r.carried.sd,
      dimension: "mass",
      evidence: see.design.gasLift?.evidence ?? "guess",
      limit: most,
    };
    return [
      {
        page: "stability",
        severity: "care",
        about: "gas",
        params: { carried: r.carried.value, most },
        figure,
      },
    ];
  },
  remedies: () => [
    advice("Fill it and weigh down what it lifts; describe the whole envelope as a body, at its true size"),
  ],
  says: (p, habit) =>
    `The gas is said to carry ${plain(p.carried, "mass", habit)}: in bodies of this size none carries ` +
    `more than ${plain(p.most, "mass", habit)}`,
});

const TIPS = 15 * (Math.PI / 180);
/** Its CG lies above its lift, or so far beside the plumb line that it hangs steeply. */
const hangsSteep = verdict<{ rest: number | null }>({
  find(see) {
    const h = see.result(gas)?.hangs;
    if (!h) return [];
    const over = h.over.value <= 0;
    // What else carries it may hold it upright.
    const alone = supportOf(see.design).ways.length === 1;
    if (!over && Math.abs(h.rest?.value ?? 0) < TIPS) return [];
    return [
      {
        page: "stability",
        severity: alone && over && h.over.value + 2 * h.over.sd < 0 ? "stop" : "care",
        about: "hanging",
        params: { rest: h.rest?.value ?? null },
        figure: figureOf(h),
      },
    ];
  },
  remedies: () => [advice("Move what is heavy along under the middle of its gas, or the envelope over the CG")],
  says: (p, habit) =>
    p.rest === null
      ? "Its CG lies above its lift: it turns over and hangs upside down"
      : `By itself it hangs ${plain(Math.abs(p.rest), "angle", habit, 0)} nose ` +
        `${p.rest > 0 ? "up" : "down"}: its CG lies beside the middle of its gas`,
});
const figureOf = (h: NonNullable<GasResult["hangs"]>): Figure =>
  h.rest
    ? { label: "hangs, nose up", ...h.rest, dimension: "angle", evidence: "calculated", limit: TIPS }
    : { label: "lift over its CG", ...h.over, dimension: "length", evidence: "calculated", limit: 0 };

export const verdicts = { "gas-beyond": gasBeyond, "hangs-steep": hangsSteep };
