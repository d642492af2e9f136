import { correctionsFor } from "../bench/rig";
import { readSweep } from "../bench/sweep";
import type { CraftFile, Version } from "../design/craftFile";
import type { Design } from "../design/schema";
import { weighIn } from "../bench/weighIn";
import { lapDoubts } from "./series";

/** What was measured of a quantity on one version, all readings together. */
export interface MeasuredOn {
  value: number;
  sd: number;
  count: number;
  /** Degrees of freedom of the ±: Infinity where instruments set it, 0 where nobody knows how far repeats scatter. */
  freedom: number;
  /** where from, in words: runs, laps, bench sessions */
  by: string;
}

interface Reading {
  value: number;
  sd: number;
  by: string;
  /** whether its ± holds how far a repeat would fall from it: a weighing's does, a single pass's does not */
  whole: boolean;
}

/** What does not differ from one run to the next: one reading of it is enough. */
const STANDING: readonly string[] = [
  "auw",
  "auwExpected",
  "netMass",
  "cgX",
  "cgY",
  "cgZ",
  "length",
  "width",
  "height",
  "cost",
  "costToBuy",
  "ballastShare",
  "packShare",
];

/**
 * Least share by which repeats of anything that runs scatter: readings that agree to the digit were rounded
 * (judgement).
 */
const LEAST_SCATTER = 0.003;

const CG = { cgX: "x", cgY: "y", cgZ: "z" } as const;

/** A version in one of its states: what was measured in another tells nothing of this one. */
export interface MeasuredIn {
  label: string;
  state: string;
  /** the bench is of the state that the mass list is of, the first; a thrust of whichever it is */
  first: boolean;
}
/** A version in the state that its design is in, the first one of it where it is as entered. */
export const measuredIn = (
  { label, design }: Pick<Version, "label" | "design">,
  whole: Design = design,
): MeasuredIn => {
  const state = design.states[0]?.id ?? "";
  return { label, state, first: state === whole.states[0]?.id };
};

/** Every reading of a quantity on a version in a state: runs, laps of its courses, weigh-ins and sweeps. */
export function readingsOf(file: Pick<CraftFile, "runs" | "bench">, of: MeasuredIn, metric: string): Reading[] {
  const version = of.label;
  const own = file.runs.filter((r) => r.version === version && r.state === of.state);
  const runs = own.flatMap((r) =>
    r.metrics.flatMap((m) =>
      m.metric === metric && m.measured
        ? [{ value: m.measured.value, sd: m.measured.sd, by: `run ${r.number}`, whole: STANDING.includes(metric) }]
        : [],
    ),
  );
  const laps = own.flatMap((r) => {
    const doubts = lapDoubts(r.laps);
    return r.laps.flatMap((l, i) =>
      doubts[i] === null && l.values[metric] !== undefined
        ? [{ value: l.values[metric] ?? 0, sd: 0, by: `laps of run ${r.number}`, whole: false }]
        : [],
    );
  });
  const bench = file.bench
    .filter((b) => b.version === version)
    .flatMap((b): Reading[] => {
      const by = `B-${String(b.number).padStart(2, "0")}`;
      if (b.thrust && metric === "thrust" && b.thrust.readings.length > 0) {
        const { top } = readSweep(b.thrust, correctionsFor(b.thrust.rig, file.bench), b.thrust.drive);
        return Number.isFinite(top.value) ? [{ value: top.value, sd: top.sd, by, whole: true }] : [];
      }
      if (!b.weighIn || !of.first) return [];
      const result = weighIn(b.weighIn);
      if (metric === "auw") return result.mass ? [{ ...result.mass, by, whole: true }] : [];
      const axis = metric in CG ? CG[metric as keyof typeof CG] : null;
      const cg = axis && result.cg[axis];
      return cg ? [{ ...cg, by, whole: true }] : [];
    });
  return [...runs, ...laps, ...bench];
}

const spread = (values: readonly number[]): number => {
  const mean = values.reduce((s, v) => s + v, 0) / values.length;
  return Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / (values.length - 1));
};

/**
 * How far repeats of a quantity scatter on this craft, learned from every version on which it was repeated: standard
 * deviation and its degrees of freedom; null where nothing was.
 */
export function knownScatter(
  file: Pick<CraftFile, "runs" | "bench" | "versions">,
  metric: string,
): { sd: number; freedom: number } | null {
  let [squares, freedom] = [0, 0];
  for (const { label, design } of file.versions)
    for (const [k, { id }] of design.states.entries()) {
      const values = readingsOf(file, { label, state: id, first: k === 0 }, metric)
        .filter((r) => !r.whole)
        .map((r) => r.value);
      if (values.length < 2) continue;
      squares += (values.length - 1) * spread(values) ** 2;
      freedom += values.length - 1;
    }
  return freedom > 0 ? { sd: Math.sqrt(squares / freedom), freedom } : null;
}

/**
 * All readings of a quantity on a version in a state as one: their mean, with the larger of what the instruments leave
 * and what the readings scatter, or repeats elsewhere on this craft did.
 * @param known how far repeats scatter (`knownScatter`); null: not known
 * @returns null without a reading
 */
export function measuredOn(
  file: Pick<CraftFile, "runs" | "bench">,
  of: MeasuredIn,
  metric: string,
  known: { sd: number; freedom: number } | null = null,
): MeasuredOn | null {
  const list = readingsOf(file, of, metric);
  const count = list.length;
  if (count === 0) return null;
  const values = list.map((r) => r.value);
  const value = values.reduce((s, v) => s + v, 0) / count;
  const instruments = Math.sqrt(list.reduce((s, r) => s + r.sd ** 2, 0)) / count;
  const by = [...new Set(list.map((r) => r.by))].join(", ");
  const own = count > 1 ? { sd: spread(values) / Math.sqrt(count), freedom: count - 1 } : null;
  if (list.every((r) => r.whole))
    return {
      value,
      sd: Math.max(own?.sd ?? 0, instruments),
      count,
      freedom: own && own.sd > instruments ? own.freedom : Infinity,
      by,
    };
  const learned = known && { sd: known.sd / Math.sqrt(count), freedom: known.freedom };
  // Its own repeats speak for themselves; those of other versions stand in where there is only one.
  const scatter = own ?? learned;
  const least = (LEAST_SCATTER * Math.abs(value)) / Math.sqrt(count);
  return { value, sd: Math.max(scatter?.sd ?? 0, instruments, least), count, freedom: scatter?.freedom ?? 0, by };
}
