import type { Sure } from "../../numeric/doubt";
import { type Figure, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice, percent } from "../say";
import { type WavesResult, waves } from "./node";

const page = { page: "stability" as const };
/** Share of the weight by which the lift may come and go (judgement: beyond it a craft leaps and drops). */
const MOST_LIFT = 0.5;

const lengthOf = (label: string, is: Sure, limit: number): Figure => ({
  label,
  ...is,
  dimension: "length",
  evidence: "calculated",
  limit,
});

/** Half the height of the waves is more than the water over a foil. */
const uncovers = verdict<{ height: number; cover: number }>({
  find(see) {
    const r = see.result(waves);
    if (!r?.foils || r.height / 2 < r.foils.cover.value) return [];
    const { cover } = r.foils;
    return [
      {
        ...page,
        severity: "care",
        about: "foils in waves",
        params: { height: r.height, cover: cover.value },
        figure: lengthOf("water over its foil", cover, r.height / 2),
      },
    ];
  },
  remedies: () => [advice("Run deeper, on longer struts; in shorter or lower waves; or let it follow the surface")],
  says: (p, habit) =>
    `A trough of waves ${plain(p.height, "length", habit)} high uncovers a foil with ` +
    `${plain(p.cover, "length", habit)} ` +
    "of water over it, unless the craft follows them down",
});

/** What comes and goes of its lift is much of its weight, or stalls its foils. */
const throws = verdict<{ share: number; speed: number; stalls: boolean }>({
  find(see) {
    const r: WavesResult | null = see.result(waves);
    if (!r?.foils || r.foils.open.length > 0) return [];
    const { lift, flow, stalls, speed } = r.foils;
    const beyond = flow >= stalls;
    if (!beyond && lift.value <= MOST_LIFT) return [];
    return [
      {
        ...page,
        severity: "care",
        about: "lift in waves",
        params: { share: lift.value, speed, stalls: beyond },
        figure: {
          label: "lift that comes and goes",
          ...lift,
          dimension: "percent",
          evidence: "calculated",
          limit: MOST_LIFT,
        },
      },
    ];
  },
  remedies: () => [advice("Faster: the same flow turns the foils less; deeper foils; fly in smaller waves first")],
  says: (p, habit) =>
    `At ${plain(p.speed, "speed", habit, 1)} the waves take and give up to ${percent(p.share)} of its weight` +
    `${p.stalls ? ", and stall its foils" : ""}`,
});

/** Half the height of the waves is more than its hull stands over the water. */
const washes = verdict<{ height: number; freeboard: number }>({
  find(see) {
    const r = see.result(waves);
    const freeboard = r?.hull?.freeboard ?? null;
    if (!r || freeboard === null || r.height / 2 <= freeboard.value) return [];
    return [
      {
        ...page,
        severity: "care",
        about: "hull in waves",
        params: { height: r.height, freeboard: freeboard.value },
        figure: lengthOf("lowest edge over the water", freeboard, r.height / 2),
      },
    ];
  },
  remedies: () => [advice("Close its top, or raise the edge where it is lowest; less weight lies higher")],
  says: (p, habit) =>
    `Waves ${plain(p.height, "length", habit)} high wash over an edge ` +
    `${plain(p.freeboard, "length", habit)} above the ` +
    "water, unless the craft rises with them",
});

/** Share by which the waves' period may differ from that of its rocking and still swing it up (judgement). */
const IN_STEP = 0.25;

/** Waves from the side come in step with how it rocks by itself. */
const rocks = verdict<{ own: number; waves: number }>({
  find(see) {
    const r = see.result(waves);
    const own = r?.hull?.rocks;
    if (!r || !own || Math.abs(r.period - own.value) > IN_STEP * own.value + own.sd) return [];
    return [
      {
        page: "stability",
        severity: "care",
        about: "rocking in waves",
        params: { own: own.value, waves: r.period },
        figure: null,
      },
    ];
  },
  remedies: () => [advice("Meet them from ahead or behind; fins or a keel that damp it; another height of the CG")],
  says: (p) =>
    `It rocks once in ${p.own.toFixed(1)} s by itself, and the waves come every ${p.waves.toFixed(1)} s: from the ` +
    "side they may swing it up far beyond what the water leans",
});

export const verdicts = {
  "wave-uncovers": uncovers,
  "wave-throws": throws,
  "wave-washes": washes,
  "wave-rocks": rocks,
};
