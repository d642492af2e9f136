import { magnitudeSd } from "../../design/evidence";
import { supportOf } from "../../design/support";
import type { Sure } from "../../numeric/doubt";
import { type Outcome, solved, subject } from "../../subject";
import { GRAVITY } from "../air/air";
import { gustThatStalls } from "../axes/gust";
import { balance } from "../balance/node";
import { type Righting, floats } from "../floats/node";
import type { Strip } from "../flight/elements";
import { type LatticeResult, lattice } from "../flight/latticeNode";
import { NOT_WHOLE, flight, slowestOnFoils } from "../flight/node";
import { mass } from "../mass/node";
import type { MassResult } from "../mass/rollup";
import type { BodyShape } from "../surfaces/declares";
import { lifts } from "../surfaces/planform";

export interface WavesResult {
  /** m, crest over trough, and from crest to crest */
  height: number;
  length: number;
  /** m/s at which the crests go, and s from one to the next at a place */
  celerity: number;
  period: number;
  foils: OnFoils | null;
  hull: OnHull | null;
}

/** What waves do to a craft on its foils that keeps its height, at its slowest without waves of its own. */
export interface OnFoils {
  /** m/s */
  speed: number;
  /** m/s that the water goes up and down at its main foil, and what of that stalls it */
  flow: number;
  stalls: number;
  /** lift that comes and goes, over the weight; and N·m about the CG: waves from ahead, and from the side */
  lift: Sure;
  pitch: Sure;
  roll: Sure;
  /** crests that it meets in a second, running against them */
  meets: number;
  /** m of water over the foil that runs least deep */
  cover: Sure;
  /** What those numbers rest on and nobody said. */
  open: string[];
}

/** What waves do to a craft that lies on its hull. */
export interface OnHull {
  /** rad that the water's surface leans at the most */
  slope: number;
  /** m from the water to the lowest edge of its hull, held level; null: how deep it lies is not known */
  freeboard: Sure | null;
  /** s in which it rocks once by itself, in small swings; null: how the water holds it is not known, or it does not */
  rocks: Sure | null;
}

/** Inertia with the water that goes along as a hull rolls, over that of the craft (common practice: 1.1 to 1.4). */
const GOES_ALONG = { value: 1.25, sd: 0.09 };
/** s of one roll: 2π·√(I·a/(m·g·GM)); null where the water does not surely turn it back. */
function rocking({ inertia, inertiaSd }: MassResult, roll: Righting): Sure | null {
  const { stiff } = roll;
  if (!(stiff.value - stiff.sd > 0) || !(inertia.roll > 0)) return null;
  const value = 2 * Math.PI * Math.sqrt((GOES_ALONG.value * inertia.roll) / stiff.value);
  const shares = [inertiaSd.roll / inertia.roll, stiff.sd / stiff.value, GOES_ALONG.sd / GOES_ALONG.value];
  return { value, sd: (value * Math.hypot(...shares)) / 2 };
}

/** Height over length from which waves break (Michell 1893: 0.142). */
export const BREAKS = 0.142;
/**
 * Doubt of what a flow does that differs from foil to foil, share of it (judgement: each strip is taken to lift as in
 * an even flow; how lift lags behind a flow that changes, which takes some of it, is left out).
 */
const METHOD = 0.25;

/** Circular frequency of deep-water waves of this length (m), 1/s: ω² = g·k (Airy 1845; any textbook). */
export const waveRate = (length: number): number => Math.sqrt((2 * Math.PI * GRAVITY) / length);

/**
 * Amplitude of what strips give in a wave, over ½ρV² for each radian of the flow at the surface: |Σ Sᵢ·arm·e^(−k·dᵢ)·
 * e^(i·k·sᵢ)|, each strip in the flow of its own depth and place (quasi-steady strips in an Airy wave).
 *
 * @param waterline height of the water over the baseline, m
 * @param at place of a strip along the way that the wave goes, m
 * @param arm what its lift turns at, m; one for the lift itself
 */
export function inWave(
  { strips, model }: Pick<LatticeResult, "strips" | "model">,
  { length, waterline }: { length: number; waterline: number },
  at: (s: Strip) => number,
  arm: (s: Strip) => number,
): number {
  const k = (2 * Math.PI) / length;
  let [re, im] = [0, 0];
  for (const [i, s] of strips.entries()) {
    const lift = (model.strips[i]?.alpha ?? 0) * s.chord * s.width * Math.abs(s.ty);
    const by = lift * arm(s) * Math.exp(-k * Math.max(0, waterline - s.z));
    re += by * Math.cos(k * at(s));
    im += by * Math.sin(k * at(s));
  }
  return Math.hypot(re, im);
}

/**
 * Height of the lowest edge (m over the baseline) of the bodies that stand out of the water: a pod below it has none,
 * nor has a point at an end (lower than half of the body).
 */
function lowestEdge(bodies: readonly BodyShape[], water: number): number | null {
  const edges = bodies.flatMap(({ frames }) => {
    const most = Math.max(...frames.map((f) => f.height));
    const tops = frames.filter((f) => f.height > most / 2).map((f) => f.z + f.height / 2);
    return frames.length > 1 && Math.max(...tops) > water ? tops : [];
  });
  return edges.length > 0 ? Math.min(...edges) : null;
}

const UNSAID = ["waves named in Brief: their height, and from crest to crest"];

/**
 * What waves of the brief do to a craft on its foils, or on its hull: in deep water, regular ones, before it answers.
 */
export const waves = subject({
  name: "waves",
  reads: ["states", "gasLift", "surfaces", "bodies", "flight", "brief.environment"],
  needs: [mass, balance, floats, lattice, flight],
  compute(view, of): Outcome<WavesResult> {
    const support = supportOf(view);
    const foiled = support.ways.includes("wings") && view.surfaces.some((s) => s.medium === "water" && lifts(s));
    if (!foiled && (!support.afloat || support.weighedOff))
      return { status: "not covered", because: "no water's surface carries it" };
    const { waveHeight: height, waveLength: length } = view.brief.environment;
    if (height === undefined || length === undefined) return { status: "missing", needs: UNSAID };
    if (height > BREAKS * length)
      return { status: "failed", reason: "waves break that are higher than a seventh of their length" };
    const rate = waveRate(length);
    const general = { height, length, celerity: (rate * length) / (2 * Math.PI), period: (2 * Math.PI) / rate };
    if (!foiled) {
      const level = solved(of(floats))?.level;
      const edge = level && lowestEdge(view.bodies, level.water.value);
      const freeboard =
        level && typeof edge === "number" ? { value: edge - level.water.value, sd: level.water.sd } : null;
      const held = solved(of(balance));
      const rocks = level?.upright && held ? rocking(held, level.upright.roll) : null;
      return {
        status: "solved",
        result: { ...general, foils: null, hull: { slope: (Math.PI * height) / length, freeboard, rocks } },
      };
    }
    const [wings, flown, at, ledger] = [of(lattice), of(flight), of(balance), of(mass)];
    if (wings.status !== "solved") return wings;
    if (flown.status !== "solved") return flown;
    const f = flown.result;
    const [slowest, stall, waterline] = [slowestOnFoils(f), f.values.stallSpeed?.value, view.flight.waterline];
    if (slowest === null || !stall || !waterline || at.status !== "solved" || ledger.status !== "solved")
      return { status: "missing", needs: ["how slow its foils carry it"] };
    const l = wings.result;
    const { cg } = at.result;
    const k = (2 * Math.PI) / length;
    const surface = (height / 2) * rate;
    const pressure = (f.density * slowest ** 2) / 2;
    const wave = { length, waterline: waterline.value };
    const sure = (value: number): Sure => ({ value, sd: METHOD * value });
    const amplitude = (along: (s: Strip) => number, arm: (s: Strip) => number) =>
      sure(pressure * (surface / slowest) * inWave(l, wave, along, arm));
    const ahead = amplitude(
      (s) => s.x,
      () => 1,
    );
    const lifting = l.strips.filter((s) => Math.abs(s.ty) > 0.5);
    return {
      status: "solved",
      result: {
        ...general,
        hull: null,
        foils: {
          speed: slowest,
          flow: surface * Math.exp(-k * (l.depth ?? 0)),
          stalls: gustThatStalls(f.weight, { speed: slowest, stall, pressure, lift: l.model.alpha.z }),
          lift: { value: ahead.value / f.weight, sd: ahead.sd / f.weight },
          pitch: amplitude(
            (s) => s.x,
            (s) => s.x - cg.x,
          ),
          roll: amplitude(
            (s) => s.y,
            (s) => s.y - cg.y,
          ),
          meets: (general.celerity + slowest) / length,
          cover: { value: waterline.value - Math.max(...lifting.map((s) => s.z)), sd: magnitudeSd(waterline) },
          open: [...(view.flight.whole ? [] : [NOT_WHOLE]), ...ledger.result.incomplete.slice(0, 1)],
        },
      },
    };
  },
});
