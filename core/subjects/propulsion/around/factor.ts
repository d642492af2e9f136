import { type Evidence, computedFrom, magnitudeSd } from "../../../design/evidence";
import type { Unit } from "../../../design/schema";
import { kindOf } from "../kinds/models";
import type { Around, EDGES } from "./declares";

/** Thrust standing at equal power, over that of the drive by itself, with its standard uncertainty. */
export interface AroundFactor {
  value: number;
  sd: number;
  evidence: Evidence;
}

/** From T^1.5·κ = constant at one power: what an induced-power factor κ leaves of the thrust. */
const leftBy = (kappa: number): number => kappa ** (-2 / 3);

/** Loss coefficient of an opening on its own area, from rounded to sharp edges (from memory, a band). */
const ZETA: Record<(typeof EDGES)[number], readonly [number, number]> = {
  rounded: [1, 1.6],
  sharp: [1.8, 2.7],
  "not said": [1, 2.7],
};

/**
 * Thrust at equal power of a disc whose flow must pass openings: (1 + K/4)^(−2/3) with K = Σ ζ·(A_disc/A_open)². An
 * actuator with a loss in its stream (momentum theory); 1 where nothing is in its way.
 *
 * @param areas open areas in line, m²
 */
export const throughOpenings = (disc: number, areas: readonly number[], zeta: number): number =>
  (1 + areas.reduce((k, a) => k + zeta * (disc / a) ** 2, 0) / 4) ** (-2 / 3);

/** Share of a disc's area that another of its size overlaps, their axes a spacing apart (both in the same unit). */
export function overlapShare(spacing: number, diameter: number): number {
  const x = Math.min(1, Math.max(0, spacing / diameter));
  return (2 / Math.PI) * (Math.acos(x) - x * Math.sqrt(1 - x * x));
}

/** Induced-power factor of overlapping discs: 1 + (√2 − 1)·m (Leishman, Principles of Helicopter Aerodynamics). */
export const overlapFactor = (share: number): number => 1 + (Math.SQRT2 - 1) * Math.min(1, share);

/**
 * Induced-power factor of a coaxial pair: 1.2808 with the lower disc in the contracted wake of the upper, √2 at worst
 * (Leishman).
 */
export const COAXIAL = { from: 1.2808, to: Math.SQRT2 };

/** What a method may be off where wakes meet: this share of what they take (judgement). */
const OFF = 0.25;

/** Openings narrower than this share of the disc: the blades stall, and the formula no longer holds (judgement). */
export const NARROWEST = 0.3;

/** Area that a unit breathes through, m²; null where that has no meaning. */
export const faceOf = ({ propeller, propulsor }: Pick<Unit, "propeller" | "propulsor">): number | null =>
  propulsor ? kindOf(propulsor).face(propulsor) : (Math.PI / 4) * propeller.diameter.value ** 2;
type Known = { value: number; evidence: Evidence; sd?: number };
export const openingsOf = (around: Around): Known[] =>
  around.kind === "openings" ? [around.inlet, around.outlet].filter((a) => a !== null) : [];

/** What is around a drive leaves so much of its thrust; null while nothing of it is entered. */
export function aroundFactor(unit: Pick<Unit, "propeller" | "propulsor" | "around">): AroundFactor | null {
  const { around } = unit;
  if (!around) return null;
  if (around.kind === "coaxial") {
    const [best, worst] = [leftBy(COAXIAL.from), leftBy(COAXIAL.to)];
    const value = (best + worst) / 2;
    return { value, sd: Math.hypot((best - worst) / Math.sqrt(12), (OFF / 2) * (1 - value)), evidence: "calculated" };
  }
  if (around.kind === "overlap") {
    const { spacing: axes } = around;
    const { propulsor } = unit;
    const diameter = propulsor ? kindOf(propulsor).tips(propulsor) : unit.propeller.diameter.value;
    if (axes === null || diameter === null) return null;
    const left = (spacing: number) => leftBy(overlapFactor(around.neighbours * overlapShare(spacing, diameter)));
    const value = left(axes.value);
    const moved = left(Math.max(0, axes.value - magnitudeSd(axes)));
    return {
      value,
      sd: Math.hypot(OFF * (1 - value), value - moved),
      evidence: computedFrom([axes.evidence]),
    };
  }
  const areas = openingsOf(around);
  if (areas.length === 0) return null;
  const disc = faceOf(unit);
  if (disc === null) return null;
  const [low, high] = ZETA[around.edges];
  const values = areas.map((a) => a.value);
  const middle = (low + high) / 2;
  const value = throughOpenings(disc, values, middle);
  const byEdge = (throughOpenings(disc, values, low) - throughOpenings(disc, values, high)) / Math.sqrt(12);
  const byArea = areas.map((a, k) => throughOpenings(disc, values.with(k, a.value + magnitudeSd(a)), middle) - value);
  return {
    value,
    sd: Math.hypot(byEdge, ...byArea, (OFF / 2) * (1 - value)),
    evidence: computedFrom(areas.map((a) => a.evidence)),
  };
}

/** Whether what is around a drive is entered so far that its thrust can be told. */
export const aroundTold = (unit: Pick<Unit, "surroundings" | "around" | "propeller" | "propulsor">): boolean => {
  const { around, surroundings } = unit;
  if (!around) return false;
  const fits =
    surroundings === "boxed or ducted"
      ? around.kind === "openings"
      : surroundings === "overlapped or coaxial" && around.kind !== "openings";
  return fits && aroundFactor({ ...unit, around }) !== null;
};

/** Open area (m²) of each opening in line that would leave this share of the thrust, edges as they are. */
export function areaFor(unit: Pick<Unit, "propeller" | "propulsor" | "around">, share: number): number | null {
  const { around } = unit;
  if (around?.kind !== "openings") return null;
  const n = openingsOf(around).length;
  const [low, high] = ZETA[around.edges];
  const k = 4 * (share ** (-3 / 2) - 1);
  const disc = faceOf(unit);
  return n === 0 || disc === null ? null : disc * Math.sqrt((n * (low + high)) / 2 / k);
}
