import { sdOf } from "../../numeric/doubt";
import { figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice, percent } from "../say";
import { stance } from "./node";

const page = { page: "stability" as const };

/** The CG stands beside its feet: put down, it falls over. */
const standsNot = verdict<{ over: string; beside: number }>({
  find(see) {
    const result = see.result(stance);
    const worst = result?.worst.slope;
    if (!worst || worst.edge.inside >= 0) return [];
    return [
      {
        ...page,
        severity: "stop",
        about: "stands",
        params: { over: worst.over, beside: -worst.edge.inside },
        figure: null,
      },
    ];
  },
  remedies: (_see, { params }, h) => [
    advice(
      `Feet ${plain(params.beside, "length", h, h === "metric" ? 0 : 2)} or more farther out towards ` +
        `${params.over}, or the CG the other way`,
    ),
  ],
  says: (p, h) =>
    `Put down it falls over ${p.over}: its CG is ` +
    `${plain(p.beside, "length", h, h === "metric" ? 0 : 2)} outside its feet`,
});

/** Slope on which a craft that stands so badly is not left alone (judgement). */
const SHALLOW = (10 * Math.PI) / 180;
const tipsSlope = verdict<{ over: string; slope: number }>({
  find(see) {
    const result = see.result(stance);
    const quantity = see.metrics.tipSlope;
    if (!result || !quantity || quantity.value < 0 || quantity.value > SHALLOW) return [];
    return [
      {
        ...page,
        severity: "care",
        about: "slope",
        params: { over: result.worst.slope.over, slope: quantity.value },
        figure: figureOf("slope that tips it over", quantity, SHALLOW),
      },
    ];
  },
  remedies: (_see, { params }) => [advice(`Feet farther out towards ${params.over}, or the CG lower`)],
  says: (p, h) => `A slope of ${plain(p.slope, "angle", h)} tips it over ${p.over}`,
});

/** Share of what the weight holds beyond which full throttle is no longer safe on the ground (judgement). */
const MUCH = 0.7;
/** Full throttle tips it over while it stands. */
const tipsThrust = verdict<{ over: string; held: number; rolling: number }>({
  find(see) {
    const result = see.result(stance);
    const known = result?.over.filter((o) => o.held && o.rolling) ?? [];
    if (known.length === 0) return [];
    const worst = known.reduce((w, o) => ((o.held?.value ?? 0) > (w.held?.value ?? 0) ? o : w));
    const { held, rolling } = worst;
    if (!held || !rolling || held.value <= MUCH) return [];
    return [
      {
        ...page,
        severity: rolling.value > 1 ? "stop" : "care",
        about: "thrust",
        params: { over: worst.over, held: held.value, rolling: rolling.value },
        figure: {
          label: "of what its weight holds",
          value: held.value,
          sd: sdOf(held),
          dimension: "percent",
          evidence: "calculated",
          limit: MUCH,
        },
      },
    ];
  },
  remedies: (see, { params }, h) => {
    const worst = see.result(stance)?.over.find((o) => o.over === params.over);
    const out = worst ? worst.edge.inside * (params.held / MUCH - 1) : 0;
    const throttle = MUCH / params.held;
    return [
      ...(throttle > 0.15 ? [advice(`Not more than ${percent(throttle)} of full thrust while it stands`)] : []),
      ...(out > 0
        ? [
            advice(
              `Feet ${plain(out, "length", h, h === "metric" ? 0 : 2)} farther out towards ` +
                `${params.over}, or the thrust line lower`,
            ),
          ]
        : []),
    ];
  },
  says: (p) =>
    p.rolling > 1
      ? `Full throttle tips it over ${p.over} even while it rolls: ${percent(p.rolling)} of what its weight holds`
      : p.held > 1
        ? `Full throttle tips it over ${p.over} as long as it cannot roll: ${percent(p.held)} of what its ` +
          `weight holds, ${percent(p.rolling)} rolling`
        : `Full throttle takes ${percent(p.held)} of what keeps it from going over ${p.over} while it cannot roll`,
});

/** The worst wind of the brief tips it over where it stands. */
const tipsWind = verdict<{ over: string; from: number; wind: number }>({
  find(see) {
    const result = see.result(stance);
    const quantity = see.metrics.tipWind;
    const { wind } = see.design.brief.environment;
    const at = result?.worst.wind;
    if (!at || !quantity || wind === 0 || wind < quantity.value - quantity.sd) return [];
    return [
      {
        ...page,
        severity: "care",
        about: "wind",
        params: { over: at.over, from: quantity.value, wind },
        figure: figureOf("side wind that tips it over", quantity, wind),
      },
    ];
  },
  remedies: () => [advice("Hold it, or turn it into the wind, until it goes; a wider stance or a lower CG")],
  says: (p, h) =>
    `${plain(p.wind, "speed", h, 1)} of side wind may tip it over ${p.over} where it stands: about ` +
    `${plain(p.from, "speed", h, 1)} do`,
});

export const verdicts = {
  "stands-not": standsNot,
  "tips-slope": tipsSlope,
  "tips-thrust": tipsThrust,
  "tips-wind": tipsWind,
};
