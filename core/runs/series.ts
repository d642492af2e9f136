import type { CraftFile, Lap } from "../design/craftFile";
import { type Change, kindsOf } from "../lineage/difference";
import { type Welch, repeatsNeeded, tQuantile, welch } from "../numeric/welch";

/** A lap of a course with where it stands. */
export interface SeriesLap extends Lap {
  run: number;
  version: string;
  date: string;
}

/** All laps of a course, in the order in which they were driven: by run, then as they stand. */
export const lapsOf = (file: Pick<CraftFile, "runs">, course: string): SeriesLap[] =>
  file.runs
    .filter((r) => r.course === course && r.course !== "")
    .toSorted((a, b) => Date.parse(a.date) - Date.parse(b.date) || a.number - b.number)
    .flatMap((r) => r.laps.map((lap) => ({ ...lap, run: r.number, version: r.version, date: r.date })));

/** Courses that have laps, and the quantities measured on them. */
export function coursesOf(file: Pick<CraftFile, "runs">): { course: string; versions: string[]; metrics: string[] }[] {
  const names = [...new Set(file.runs.filter((r) => r.course !== "" && r.laps.length > 0).map((r) => r.course))];
  return names.map((course) => {
    const laps = lapsOf(file, course);
    return {
      course,
      versions: [...new Set(laps.map((l) => l.version))],
      metrics: [...new Set(laps.flatMap((l) => Object.keys(l.values)))],
    };
  });
}

/** Per what a quantity is compared: as it is, for each unit of distance, of time, or of charge. */
export type Per = "lap" | "distance" | "minute" | "charge";
const PER_METRIC: Record<Exclude<Per, "lap">, string> = { distance: "distance", minute: "lapTime", charge: "charge" };

/** The quantity of one lap; null when it, or what it is divided by, was not measured. */
export function lapValue(lap: Lap, metric: string, per: Per): number | null {
  const value = lap.values[metric];
  if (value === undefined) return null;
  if (per === "lap") return value;
  const by = lap.values[PER_METRIC[per]];
  if (by === undefined || !(by > 0)) return null;
  return value / (per === "minute" ? by / 60 : by);
}

/** A pack below this share of the usual start voltage is a low one (3.6 of 3.85 to 4.2 V a cell; common practice). */
const LOW_PACK = 0.93;

/**
 * Laps that should not be compared with the others, and why: a pack that was low at the start, or what a person left
 * out.
 */
export function lapDoubts(laps: readonly Lap[], lowest: number | null = null): ("low-pack" | "left-out" | null)[] {
  const volts = laps
    .flatMap((l) => (l.out === "" && l.startVoltage !== null ? [l.startVoltage] : []))
    .sort((a, b) => a - b);
  const usual = volts[Math.floor(volts.length / 2)] ?? null;
  const limit = lowest ?? (usual === null ? null : LOW_PACK * usual);
  return laps.map((l) =>
    l.out !== "" ? "left-out" : limit !== null && l.startVoltage !== null && l.startVoltage < limit ? "low-pack" : null,
  );
}

export type Confounder =
  | { kind: "wind"; from: number; to: number }
  | { kind: "pack"; only: string; version: string }
  | { kind: "pilot"; from: string; to: string }
  | { kind: "changes"; count: number }
  | { kind: "days" };

export interface SeriesComparison {
  counted: { from: SeriesLap[]; to: SeriesLap[] };
  /** laps left out, with why */
  left: { lap: SeriesLap; why: "low-pack" | "left-out" | "no-value" }[];
  result: Welch | null;
  /** the same with the low packs in */
  withAll: Welch | null;
  /** 95 % interval of the difference as a share of the first mean */
  share: { value: number; interval: [number, number] } | null;
  verdict: "clear" | "unclear" | "too-few";
  /** on each side, to settle it; null when it is settled or cannot be said */
  more: number | null;
  confounders: Confounder[];
}

/** Means of wind further apart than this (m/s), and clear of chance, are named. */
const WIND = 1;

/**
 * Compares two versions over a course: the difference of the means with its 95 % interval (Welch), laps with a low
 * pack left out, and what else differed between them and could be the cause.
 *
 * @param lowest start voltage (V) below which a pack counts as low; null: 7 % below the usual one
 */
export function compareSeries(
  laps: readonly SeriesLap[],
  from: string,
  to: string,
  metric: string,
  per: Per,
  changes: readonly Change[],
  lowest: number | null = null,
): SeriesComparison {
  const doubts = lapDoubts(laps, lowest);
  const left: SeriesComparison["left"] = [];
  const counted = { from: [] as SeriesLap[], to: [] as SeriesLap[] };
  const kept = { from: [] as number[], to: [] as number[] };
  const all = { from: [] as number[], to: [] as number[] };
  laps.forEach((lap, i) => {
    const side = lap.version === from ? "from" : lap.version === to ? "to" : null;
    if (!side) return;
    const value = lapValue(lap, metric, per);
    const why = doubts[i] ?? (value === null ? "no-value" : null);
    if (value !== null && why !== "left-out") all[side].push(value);
    if (why !== null || value === null) left.push({ lap, why: why ?? "no-value" });
    else {
      counted[side].push(lap);
      kept[side].push(value);
    }
  });
  const result = welch(kept.from, kept.to);
  const base = result?.a.mean ?? 0;
  // A ratio of two means: the doubt of the first enters too (delta method).
  const ratio = result && base !== 0 ? result.b.mean / base : null;
  const relative =
    result && ratio !== null
      ? Math.sqrt((result.b.sd ** 2 / result.b.count + ratio ** 2 * (result.a.sd ** 2 / result.a.count)) / base ** 2) *
        tQuantile(0.95, result.freedom)
      : 0;
  const clear = result !== null && (result.interval[0] > 0 || result.interval[1] < 0);
  return {
    counted,
    left,
    result,
    withAll: welch(all.from, all.to),
    share: ratio === null ? null : { value: ratio - 1, interval: [ratio - 1 - relative, ratio - 1 + relative] },
    verdict: result === null ? "too-few" : clear ? "clear" : "unclear",
    more: result && repeatsNeeded(result),
    confounders: confoundersOf(counted.from, counted.to, changes),
  };
}

function confoundersOf(a: readonly SeriesLap[], b: readonly SeriesLap[], changes: readonly Change[]): Confounder[] {
  const out: Confounder[] = [];
  const winds = [a, b].map((l) => l.flatMap((x) => x.wind ?? []));
  const wind = welch(winds[0] ?? [], winds[1] ?? []);
  if (wind && Math.abs(wind.difference) > WIND && wind.p < 0.05)
    out.push({ kind: "wind", from: wind.a.mean, to: wind.b.mean });
  const packs = [a, b].map((l) => [...new Set(l.map((x) => x.pack).filter(Boolean))]);
  for (const [side, other] of [
    [0, 1],
    [1, 0],
  ] as const) {
    const only = packs[side]?.length === 1 ? packs[side]?.[0] : undefined;
    if (only === undefined || (packs[other]?.length ?? 0) === 0 || packs[other]?.includes(only)) continue;
    out.push({ kind: "pack", only, version: (side === 0 ? a : b)[0]?.version ?? "" });
    break;
  }
  const pilots = [a, b].map((l) => [...new Set(l.map((x) => x.pilot).filter(Boolean))]);
  if (pilots[0]?.length === 1 && pilots[1]?.length === 1 && pilots[0][0] !== pilots[1][0])
    out.push({ kind: "pilot", from: pilots[0][0] ?? "", to: pilots[1][0] ?? "" });
  const days = [a, b].map((l) => new Set(l.map((x) => x.date.slice(0, 10))));
  if (a.length > 0 && b.length > 0 && ![...(days[0] ?? [])].some((d) => days[1]?.has(d))) out.push({ kind: "days" });
  const kinds = kindsOf(changes.filter((c) => c.kind !== "brief"));
  const subjects = new Set(changes.filter((c) => c.kind !== "brief").map((c) => c.subject));
  if (subjects.size > 1 && kinds.size > 0) out.push({ kind: "changes", count: subjects.size });
  return out;
}
