import { supportOf } from "../../design/support";
import type { Remedy, See } from "../../subject";
import { figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import type { Turning } from "../axes/inFlight";
import { advice, percent, set } from "../say";
import { type WindResult, wind } from "./node";

type Flow = WindResult["flow"];

const page = { page: "stability" as const };

/** Share of its thrust that holding a place may take: the rest is for gusts and hands (judgement). */
const MOST = 0.85;
/** The same of what a craft pushes with ahead: water and ground hold it back besides. */
const MOST_AHEAD = 0.5;
/** Wind over the top speed from which on care is wanted (common practice: two thirds). */
const NEAR = 2 / 3;

/** Plan for less of it: the brief's worst wind, or current, as it is held. */
const lessWind = (to: number, habit: Parameters<typeof plain>[2], flow: Flow = "wind"): Remedy => ({
  code: "less-wind",
  text: `Plan for no more than ${plain(to, "speed", habit, 1)} of ${flow}`,
  patch: set(["brief", "environment", flow], to),
});
const tenth = (v: number) => Math.floor(10 * v) / 10;

/** Its own speed is below the wind, or near it. */
const windBeyond = verdict<{ top: number; wind: number; flow: Flow }>({
  find(see) {
    const { madeGood: made, speed: top } = see.metrics;
    // Under water it is the current that carries it off.
    const flow: Flow = supportOf(see.design).waterDrag ? "current" : "wind";
    const worst = see.design.brief.environment[flow] ?? 0;
    if (!made || !top || worst <= NEAR * top.value) return [];
    const sure = made.value < 0 && !made.unknown && !made.incomplete;
    return [
      {
        ...page,
        severity: sure ? "stop" : "care",
        about: `worst ${flow}`,
        params: { top: top.value, wind: worst, flow },
        figure: figureOf("made good into it", made, 0),
      },
    ];
  },
  remedies: (_see, { params }, habit) => [
    lessWind(tenth(NEAR * params.top), habit, params.flow),
    advice(
      `More pitch or fewer square centimetres in the ${params.flow}; start ` +
        `${params.flow === "wind" ? "upwind" : "upstream"} of where it must come back to`,
    ),
  ],
  says: (p, habit) =>
    p.wind > p.top
      ? `The worst ${p.flow}, ${plain(p.wind, "speed", habit, 1)}, is faster than it is: it is carried off at full ` +
        "throttle"
      : `The worst ${p.flow}, ${plain(p.wind, "speed", habit, 1)}, is ${percent(p.wind / p.top)} of its top ` +
        "speed: little is left to come back with",
});

/** What holding a place takes of the thrust. */
const windHolds = verdict<{ share: number; wind: number; flow: Flow; hover: boolean; most: number }>({
  find(see) {
    const result = see.result(wind);
    const share = see.metrics.windShare;
    // Where its speed against the wind is known, that tells more.
    if (!result?.held || result.held.kind === "wings" || !share || see.metrics.madeGood) return [];
    const hover = result.held.kind === "hover";
    const most = hover ? MOST : MOST_AHEAD;
    if (share.value <= most) return [];
    return [
      {
        ...page,
        severity: share.value > 1 && !share.unknown ? "stop" : "care",
        about: `worst ${result.flow}`,
        params: { share: share.value, wind: result.wind, flow: result.flow, hover, most },
        figure: figureOf("share of its thrust", share, most),
      },
    ];
  },
  remedies(see: See, { params }, habit) {
    const standing = see.metrics.hoverShare?.value ?? 0;
    // The push goes with the square of the wind; a craft that hovers has its weight to carry besides.
    const factor = params.hover
      ? Math.sqrt(Math.max(0, (params.most / standing) ** 2 - 1) / Math.max(1e-9, (params.share / standing) ** 2 - 1))
      : params.most / params.share;
    const to = tenth(params.wind * Math.sqrt(factor));
    return [
      ...(to > 0 ? [lessWind(to, habit, params.flow)] : []),
      advice(`More thrust, or less area in the ${params.flow}: take off or cover what stands out`),
    ];
  },
  says: (p, habit) =>
    p.hover
      ? `Holding its place in ${plain(p.wind, "speed", habit, 1)} of wind takes ${percent(p.share)} of its hardest unit`
      : `${plain(p.wind, "speed", habit, 1)} of ${p.flow} from ahead takes ${percent(p.share)} of its thrust, ` +
        "before anything else holds it back",
});

/** A side wind turns it, and what answers is less. */
const windTurns = verdict<{ axis: Turning; share: number | null; wind: number; flow: Flow }>({
  find(see) {
    const result = see.result(wind);
    if (!result?.held || result.held.kind === "wings") return [];
    return result.held.lines
      .filter((l) => l.word === "lost")
      .map((l) => ({
        ...page,
        severity: "care" as const,
        about: `${result.flow} ${l.axis}`,
        params: { axis: l.axis, share: l.share, wind: result.wind, flow: result.flow },
        figure: null,
      }));
  },
  remedies: (_see, { params }) => [
    advice(
      params.axis === "yaw"
        ? "The middle of the side area nearer the CG: a fin at the other end, or the drives farther apart"
        : `The CG nearer the middle of what the ${params.flow} meets; less area there, or more that answers`,
    ),
  ],
  says: (p, habit) =>
    `${plain(p.wind, "speed", habit, 1)} of ${p.flow} turns it about ${p.axis} with ` +
    `${p.share === null ? "all" : percent(p.share)} of what answers there`,
});

export const verdicts = {
  "wind-beyond": windBeyond,
  "wind-holds": windHolds,
  "wind-turns": windTurns,
};
