import { LOST, SURE } from "../../design/targets";
import { sdOf } from "../../numeric/doubt";
import { normalCdf } from "../../numeric/normal";
import { type See, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { stop } from "../flight/see";
import { LIGHTEN, advice, chance, percent, set, times } from "../say";
import { keepsUp, lastsBeyond } from "./keepsUp";
import { powered } from "./node";

const page = { page: "stability" as const };
/** Level flight under power, where every part of the craft that it rests on is told. */
const told = (see: See) => (see.design.flight.whole ? see.result(powered) : null);

/** Full throttle holds it level at no speed, or not surely. */
const sinks = verdict<{ odds: number; lacks: number; speed: number }>({
  find(see) {
    const result = told(see);
    if (!result) return [];
    const { speed, is } = result.surplus;
    const sd = sdOf(is);
    const odds = sd > 0 ? normalCdf(is.value / sd) : is.value >= 0 ? 1 : 0;
    if (odds >= SURE) return [];
    return [
      {
        ...page,
        severity: odds < LOST ? stop(see) : "care",
        about: "level",
        params: { odds, lacks: -is.value, speed },
        figure: {
          ...{ label: "thrust less drag", value: is.value, sd, dimension: "force" as const },
          ...{ evidence: "calculated" as const, limit: 0 },
        },
      },
    ];
  },
  remedies: () => [
    advice("More pitch or voltage where thrust runs out with speed, more disc where it is short at once"),
    LIGHTEN,
  ],
  says: (p, h) =>
    p.lacks > 0
      ? `Full throttle does not hold it level: at best, at ${plain(p.speed, "speed", h)}, ` +
        `${plain(p.lacks, "force", h)} are missing`
      : `Only a ${chance(p.odds)} chance that full throttle holds it level`,
});

/** Rise for each length flown below which it neither clears a hedge nor turns tightly (judgement). */
const LITTLE = 0.1;
const climbsLittle = verdict<{ rate: number; rise: number }>({
  find(see) {
    const result = told(see);
    const rate = see.metrics.climbRate;
    if (!result?.climb || !rate) return [];
    const rise = rate.value / result.climb.speed;
    if (rise >= LITTLE || rate.value <= 0) return [];
    return [
      {
        ...page,
        severity: "care",
        about: "climb",
        params: { rate: rate.value, rise },
        figure: figureOf("best climb", rate, LITTLE * result.climb.speed),
      },
    ];
  },
  remedies: () => [advice("A propeller or cell more; turns wide and shallow"), LIGHTEN],
  says: (p, h) =>
    `Climbs ${plain(p.rate, "speed", h)} at full throttle, ${percent(p.rise)} of the way flown: little ` +
    "to turn or clear anything with",
});

/** The duty is flown with less than keeps it up. */
const dutySinks = verdict<{ share: number | null; rate: number | null; least: number | null }>({
  find(see) {
    const result = see.result(keepsUp);
    if (!result?.sinks) return [];
    const { sinks: s, least } = result;
    return [
      {
        page: "power",
        severity: "care",
        about: "duty",
        params: { share: s.by === "rotors" ? s.share : null, rate: s.by === "wings" ? s.rate : null, least },
        figure: null,
      },
    ];
  },
  remedies(see, { params }) {
    const phase = see.design.duty.find((p) => p.by === "throttle");
    if (params.least === null || !phase || see.design.duty.length !== 1)
      return [
        advice("State the duty by what it really flies with: a multiple of the weight, a speed, or a measured current"),
      ];
    const value = Math.min(1, Math.ceil(100 * params.least) / 100);
    return [
      {
        code: "duty-level",
        text: `State “${phase.name}” at ${percent(value)} throttle`,
        patch: set(["duty", `#${phase.id}`, "value"], value),
      },
    ];
  },
  says: (p, h) =>
    p.share !== null
      ? `The duty as stated pushes ${percent(p.share)} of the weight: it does not stay up so long`
      : `The duty as stated does not keep it up: on the mean it sinks ${plain(p.rate ?? 0, "speed", h)}`,
});

/** The duty lasts longer than it can fly level: its thrust is one standing. */
const dutyBeyond = verdict<{ factor: number; speed: number }>({
  find(see) {
    const [result, time] = [told(see), see.metrics.endurance];
    if (!result?.time || !time || !lastsBeyond(see.design.duty, time.value, result)) return [];
    return [
      {
        page: "power",
        severity: "care",
        about: "duty",
        params: { factor: time.value / result.time.is.value, speed: result.time.speed },
        figure: figureOf("endurance", time, result.time.is.value),
      },
    ];
  },
  remedies(see, { params }, h) {
    const phase = see.design.duty.find((p) => p.by === "thrust" || p.by === "thrustToWeight");
    if (!phase) return [advice("State the duty by the speed at which it is flown")];
    const speed = Math.round(10 * params.speed) / 10;
    return [
      {
        code: "duty-speed",
        text: `State “${phase.name}” by its speed: ${plain(speed, "speed", h)}`,
        patch: {
          set: [
            { path: ["duty", `#${phase.id}`, "by"], value: "speed" },
            { path: ["duty", `#${phase.id}`, "value"], value: speed },
          ],
          addItems: [],
        },
      },
    ];
  },
  says: (p) =>
    `The duty as stated lasts ${times(p.factor)} its longest level flight: standing, thrust costs less than in flight`,
});

export const verdicts = {
  "level-short": sinks,
  "climbs-little": climbsLittle,
  "duty-sinks": dutySinks,
  "duty-beyond": dutyBeyond,
};
