import { correctionsFor } from "../bench/rig";
import { readSweep } from "../bench/sweep";
import type { CraftFile } from "../design/craftFile";
import { weighIn } from "../bench/weighIn";
import { lapDoubts } from "./series";

/** What was measured of a quantity on one version, all readings together. */
export interface MeasuredOn {
  value: number;
  sd: number;
  count: number;
  /** where from, in words: runs, laps, bench sessions */
  by: string;
}

interface Reading {
  value: number;
  sd: number;
  by: string;
}

const CG = { cgX: "x", cgY: "y", cgZ: "z" } as const;

/** Every reading of a quantity on a version: runs, laps of its courses, weigh-ins and sweeps. */
export function readingsOf(file: Pick<CraftFile, "runs" | "bench">, version: string, metric: string): Reading[] {
  const own = file.runs.filter((r) => r.version === version);
  const runs = own.flatMap((r) => r.metrics.flatMap((m) => (m.metric === metric && m.measured ? [{ value: m.measured.value, sd: m.measured.sd, by: `run ${r.number}` }] : [])));
  const laps = own.flatMap((r) => {
    const doubts = lapDoubts(r.laps);
    return r.laps.flatMap((l, i) => (doubts[i] === null && l.values[metric] !== undefined ? [{ value: l.values[metric] ?? 0, sd: 0, by: `laps of run ${r.number}` }] : []));
  });
  const bench = file.bench
    .filter((b) => b.version === version)
    .flatMap((b): Reading[] => {
      const by = `B-${String(b.number).padStart(2, "0")}`;
      if (b.thrust && metric === "thrust" && b.thrust.readings.length > 0) {
        const { top } = readSweep(b.thrust, correctionsFor(b.thrust.rig, file.bench), b.thrust.drive);
        return Number.isFinite(top.value) ? [{ value: top.value, sd: top.sd, by }] : [];
      }
      if (!b.weighIn) return [];
      const result = weighIn(b.weighIn);
      if (metric === "auw") return result.mass ? [{ ...result.mass, by }] : [];
      const axis = metric in CG ? CG[metric as keyof typeof CG] : null;
      const cg = axis && result.cg[axis];
      return cg ? [{ ...cg, by }] : [];
    });
  return [...runs, ...laps, ...bench];
}

/**
 * All readings of a quantity on a version as one: their mean, with the larger of what the instruments leave and what the readings scatter.
 * @returns null without a reading
 */
export function measuredOn(file: Pick<CraftFile, "runs" | "bench">, version: string, metric: string): MeasuredOn | null {
  const list = readingsOf(file, version, metric);
  const count = list.length;
  if (count === 0) return null;
  const value = list.reduce((s, r) => s + r.value, 0) / count;
  const scatter = count > 1 ? Math.sqrt(list.reduce((s, r) => s + (r.value - value) ** 2, 0) / (count - 1) / count) : 0;
  const instruments = Math.sqrt(list.reduce((s, r) => s + r.sd ** 2, 0)) / count;
  return { value, sd: Math.max(scatter, instruments), count, by: [...new Set(list.map((r) => r.by))].join(", ") };
}
