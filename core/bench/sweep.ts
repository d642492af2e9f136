import { tQuantile } from "../numeric/welch";
import type { ThrustReading, ThrustTest } from "../design/thrustTest";
import type { Unit } from "../design/schema";
import { type Fit, fitLinear } from "../numeric/leastSquares";
import { median } from "../numeric/median";
import { corrected } from "./calibration";
import { type Corrections, sharedThrustError, thrustFrom } from "./rig";
import { type SweepSuspect, slipOf, suspectsOf } from "./suspects";

/** Gas constant of dry air, J/(kg·K), and the density of the standard atmosphere at sea level, kg/m³. */
const R_AIR = 287.05287;
export const STANDARD_DENSITY = 1.225;

/** Density (kg/m³) of the air at the stand. */
export const densityAt = ({ temperature, pressure }: ThrustTest["air"]): number =>
  pressure / (R_AIR * (temperature + 273.15));

export type Direction = "up" | "down" | "top" | "rest";

/** One reading in plain units, corrected; null where it was not read. */
export interface SweepPoint {
  /** index among the readings */
  index: number;
  t: number | null;
  throttle: number;
  /** N */
  thrust: number | null;
  voltage: number | null;
  current: number | null;
  /** W, electrical */
  power: number | null;
  rpm: number | null;
  temperature: number | null;
  noise: number | null;
  /** which sweep, from 0 */
  sweep: number;
  direction: Direction;
  /** Why a person left it out; empty: they did not. */
  out: string;
  /** Thrust that its neighbours lead one to expect, N, when this reading stands far off; null when it does not. */
  expected: number | null;
}

/** Means at one throttle. sd: of the mean, with what all readings share. */
export interface Level {
  throttle: number;
  count: number;
  thrust: number;
  thrustSd: number;
  voltage: number | null;
  current: number | null;
  power: number | null;
  rpm: number | null;
}

export interface SweepResult {
  points: SweepPoint[];
  /** over all sweeps and both ways */
  levels: Level[];
  up: Level[];
  down: Level[];
  sweeps: number;
  /** kg/m³ */
  density: number;
  /** Plateau at the top, N, with its sd; of each sweep; loss from the first sweep to the last, as a share. */
  top: { value: number; sd: number; each: number[]; fade: number | null };
  /** Throttle at which it starts turning on the way up and stops on the way down. */
  /** `sd`: that it lies somewhere between the last throttle at which nothing happened and the first at which it did */
  deadBand: { start: number | null; stop: number | null; mean: number; sd: number; by: "rpm" | "thrust" } | null;
  /** Throttle above which nothing more comes; null: it rises to the end. */
  saturation: number | null;
  /** T(u) = T_max·((1 − e)·u + e·u²). `range`: 95 % interval of e. */
  curve: { tMax: number; e: number; eSd: number; range: number; status: Fit["status"] };
  maxUseful: number;
  idle: number | null;
  /** Where the thrust is half of the top. */
  half: { throttle: number; thrust: number; power: number | null; merit: number | null } | null;
  /** Rising minus falling at the throttle nearest one half, N. */
  hysteresis: { throttle: number; value: number; sd: number } | null;
  /** Thrust over speed²: how it changes from the middle speed to the top one, as a share, with its sd. */
  constancy: { change: number; sd: number } | null;
  /** Resistance of pack and leads from the sag, Ω. */
  resistance: { value: number; sd: number; volts: number } | null;
  temperature: { highest: number; rise: number; perMinute: number | null } | null;
  noise: number | null;
  highest: { current: number | null; rpm: number | null };
  missing: Partial<Record<"thrust" | "voltage" | "current" | "rpm", number>>;
  /** Thrust at rest, last minus first, N. */
  zeroDrift: number | null;
  suspects: SweepSuspect[];
}

const meanOf = (list: readonly number[]) =>
  list.length > 0 ? list.reduce((s, x) => s + x, 0) / list.length : Number.NaN;
const scatterOf = (list: readonly number[]) => {
  const m = meanOf(list);
  return list.length > 1 ? Math.sqrt(list.reduce((s, x) => s + (x - m) ** 2, 0) / (list.length - 1)) : 0;
};
const present = <T>(x: T | null): x is T => x !== null;

/** Consecutive readings at one throttle. */
interface Station {
  throttle: number;
  points: SweepPoint[];
}

function stationsOf(points: SweepPoint[]): Station[] {
  const stations: Station[] = [];
  for (const p of points) {
    const last = stations.at(-1);
    if (last && Math.abs(last.throttle - p.throttle) < 1e-9) last.points.push(p);
    else stations.push({ throttle: p.throttle, points: [p] });
  }
  return stations;
}

/** Tells up from down, and one sweep from the next: a sweep begins where the throttle starts rising again. */
function markLegs(stations: Station[]): number {
  let sweep = 0;
  stations.forEach((s, k) => {
    const before = stations[k - 1]?.throttle;
    const after = stations[k + 1]?.throttle;
    const rising = after === undefined ? before === undefined || before < s.throttle : after > s.throttle;
    const risen = before === undefined ? rising : before < s.throttle;
    const direction: Direction = risen && rising ? "up" : !risen && !rising ? "down" : risen ? "top" : "rest";
    if (direction === "rest" && before !== undefined) sweep++;
    for (const p of s.points) Object.assign(p, { direction, sweep });
  });
  return sweep + 1;
}

/**
 * Readings whose thrust stands far off those beside them: 8 robust standard deviations and 3 % of the top with
 * several readings at a throttle, else 8 % off the line between its neighbours.
 */
function markSpikes(stations: Station[], top: number): void {
  const usable = (s: Station | undefined) =>
    s?.points.flatMap((p) => (p.out === "" && p.thrust !== null ? [p.thrust] : [])) ?? [];
  const deviations = stations.flatMap((s) => {
    const m = median(usable(s));
    return usable(s).map((v) => Math.abs(v - m));
  });
  const noise = 1.4826 * median(deviations);
  stations.forEach((s, k) => {
    const values = usable(s);
    for (const p of s.points) {
      if (p.thrust === null || p.out !== "") continue;
      if (values.length >= 3) {
        const expected = median(values);
        if (Math.abs(p.thrust - expected) > Math.max(8 * noise, 0.03 * top)) p.expected = expected;
        continue;
      }
      const [earlier, later] = [stations[k - 1]?.throttle, stations[k + 1]?.throttle];
      // Where the throttle turns round, both neighbours lie on one side.
      if (earlier === undefined || later === undefined || (earlier - s.throttle) * (later - s.throttle) > 0) continue;
      const [before, after] = [stations[k - 1], stations[k + 1]].map((n) => median(usable(n)));
      if (before === undefined || after === undefined || Number.isNaN(before) || Number.isNaN(after)) continue;
      const expected = (before + after) / 2;
      // A knee between unlike neighbours is no spike.
      if (Math.abs(p.thrust - expected) > Math.max(0.08 * top, 0.75 * Math.abs(after - before))) p.expected = expected;
    }
  });
}

function levelsOf(points: readonly SweepPoint[], step: number, shared: number): Level[] {
  const by = new Map<number, SweepPoint[]>();
  for (const p of points)
    if (p.out === "" && p.expected === null && p.thrust !== null)
      by.set(p.throttle, [...(by.get(p.throttle) ?? []), p]);
  return [...by.entries()]
    .sort((a, b) => a[0] - b[0])
    .map(([throttle, list]) => {
      const thrusts = list.flatMap((p) => p.thrust ?? []);
      const thrust = meanOf(thrusts);
      const mean = (of: (p: SweepPoint) => number | null) => {
        const known = list.map(of).filter(present);
        return known.length > 0 ? meanOf(known) : null;
      };
      return {
        throttle,
        count: list.length,
        thrust,
        thrustSd: Math.sqrt(
          Math.max(scatterOf(thrusts) ** 2 / thrusts.length, step ** 2 / 12) + (shared * thrust) ** 2,
        ),
        voltage: mean((p) => p.voltage),
        current: mean((p) => p.current),
        power: mean((p) => p.power),
        rpm: mean((p) => (p.rpm !== null && p.rpm > 0 ? p.rpm : null)),
      };
    });
}

/** Value of a quantity where the thrust first reaches `wanted`, between two levels. */
function where(levels: readonly Level[], wanted: number, of: (l: Level) => number | null): number | null {
  for (let k = 1; k < levels.length; k++) {
    const [a, b] = [levels[k - 1], levels[k]];
    if (!a || !b || !(a.thrust < wanted && b.thrust >= wanted)) continue;
    const [va, vb] = [of(a), of(b)];
    return va === null || vb === null ? null : va + ((vb - va) * (wanted - a.thrust)) / (b.thrust - a.thrust);
  }
  return null;
}

/** Levels within this share of the highest are the plateau. */
const PLATEAU = 0.01;
/** Without rpm the drive counts as turning when it pushes this share of its top. */
const PUSHES = 0.02;

/** What was read, corrected, in the order in which it was. */
function pointsOf({ rig, readings }: Pick<ThrustTest, "rig" | "readings">, corrections: Corrections): SweepPoint[] {
  return readings.map((r: ThrustReading, index): SweepPoint => {
    const voltage = r.voltage === null ? null : corrected(r.voltage, corrections.voltage);
    const current = r.current === null ? null : corrected(r.current, corrections.current);
    return {
      index,
      t: r.t,
      throttle: r.throttle,
      thrust: r.scale === null ? null : thrustFrom(rig, r.scale, corrections.scale),
      voltage,
      current,
      power: voltage === null || current === null ? null : voltage * current,
      rpm: r.rpm,
      temperature: r.temperature,
      noise: r.noise,
      sweep: 0,
      direction: "up",
      out: r.out,
      expected: null,
    };
  });
}

/** Where it begins to turn, and where it stops; by the thrust where no rpm was read. */
function deadBandOf(
  points: readonly SweepPoint[],
  stations: readonly Station[],
  levels: readonly Level[],
  top: number,
): SweepResult["deadBand"] {
  const hasRpm = points.some((p) => p.rpm !== null && p.rpm > 0);
  const turns = (direction: Direction) => {
    const list = stations.filter(
      (s) =>
        s.throttle > 0 &&
        s.points[0]?.direction === direction &&
        s.points.some((p) => (hasRpm ? (p.rpm ?? 0) > 0 : (p.thrust ?? 0) > PUSHES * top)),
    );
    return list.length > 0 ? Math.min(...list.map((s) => s.throttle)) : null;
  };
  const thrustStart = hasRpm ? null : (levels.find((l) => l.thrust > PUSHES * top)?.throttle ?? null);
  const [start, stop] = hasRpm ? [turns("up"), turns("down")] : [thrustStart, thrustStart];
  const starts = [start, stop].filter(present);
  const below = levels.findLast((l) => l.throttle < Math.min(...starts))?.throttle;
  return starts.length > 0 && below !== undefined
    ? {
        start,
        stop,
        mean: meanOf(starts),
        // Anywhere in the gap alike: its width over √12, each way by itself.
        sd: (Math.min(...starts) - below) / Math.sqrt(12 * starts.length),
        by: hasRpm ? ("rpm" as const) : ("thrust" as const),
      }
    : null;
}

/** T = a·u + b·u² through the means, so that T_max = a + b and e = b/(a + b). */
function curveOf(means: readonly Level[]): SweepResult["curve"] {
  const fit = fitLinear(
    means.map((l) => [l.throttle, l.throttle ** 2]),
    means.map((l) => l.thrust),
  );
  const [a = Number.NaN, b = Number.NaN] = fit.parameters;
  const tMax = a + b;
  const e = b / tMax;
  const cov = fit.covariance;
  // de/da = −b/(a+b)², de/db = a/(a+b)²
  const [da, db] = [-b / tMax ** 2, a / tMax ** 2];
  const eSd = Math.sqrt(
    Math.max(
      0,
      da * da * (cov[0]?.[0] ?? Number.NaN) +
        db * db * (cov[1]?.[1] ?? Number.NaN) +
        2 * da * db * (cov[0]?.[1] ?? Number.NaN),
    ),
  );
  return { tMax, e, eSd, range: tQuantile(0.95, Math.max(1, means.length - 2)) * eSd, status: fit.status };
}

/** Rising against falling, at the throttle nearest one half. */
function hysteresisOf(up: readonly Level[], down: readonly Level[], shared: number): SweepResult["hysteresis"] {
  const both = up.filter((l) => down.some((d) => d.throttle === l.throttle));
  const nearest = both.toSorted((x, y) => Math.abs(x.throttle - 0.5) - Math.abs(y.throttle - 0.5))[0];
  const falling = down.find((d) => d.throttle === nearest?.throttle);
  const own = (l: Level) => Math.sqrt(Math.max(0, l.thrustSd ** 2 - (shared * l.thrust) ** 2));
  return nearest && falling
    ? {
        throttle: nearest.throttle,
        value: nearest.thrust - falling.thrust,
        sd: Math.hypot(own(nearest), own(falling)),
      }
    : null;
}

/** How thrust over speed² changes over the speeds that were read. */
function constancyOf(levels: readonly Level[], top: number): SweepResult["constancy"] {
  const turning = levels.filter((l) => l.rpm !== null && l.thrust > 0.15 * top);
  const shape = fitLinear(
    turning.map((l) => [1, Math.log(l.rpm ?? 1)]),
    turning.map((l) => Math.log(l.thrust / (l.rpm ?? 1) ** 2)),
  );
  const speeds = turning.map((l) => l.rpm ?? 0);
  const reach = speeds.length > 0 ? Math.log(Math.max(...speeds) / median(speeds)) : 0;
  return shape.status === "converged" && turning.length >= 5
    ? { change: (shape.parameters[1] ?? 0) * reach, sd: (shape.sd[1] ?? 0) * reach }
    : null;
}

/** Resistance from the sag: V = V0 − R·I − k·Q, with the charge drawn where times are known. */
function resistanceOf(points: readonly SweepPoint[]): SweepResult["resistance"] {
  const electric = points.filter((p) => p.out === "" && p.voltage !== null && p.current !== null);
  const timed = electric.every((p) => p.t !== null);
  let charge = 0;
  const rows = electric.map((p, k) => {
    const before = electric[k - 1];
    if (timed && before)
      charge += ((p.current ?? 0) + (before.current ?? 0)) * 0.5 * Math.min(30, (p.t ?? 0) - (before.t ?? 0));
    return timed && charge > 0 ? [1, p.current ?? 0, charge] : [1, p.current ?? 0];
  });
  const columns = rows.at(-1)?.length ?? 2;
  const sag = fitLinear(
    rows.map((r) => [...r, 0].slice(0, columns)),
    electric.map((p) => p.voltage ?? 0),
  );
  const currents = electric.map((p) => p.current ?? 0);
  const spread = currents.length > 0 ? Math.max(...currents) - Math.min(...currents) : 0;
  return sag.status === "converged" && spread > 1 && (sag.parameters[1] ?? 0) < 0
    ? {
        value: -(sag.parameters[1] ?? 0),
        sd: sag.sd[1] ?? 0,
        volts: -(sag.parameters[1] ?? 0) * Math.max(...currents),
      }
    : null;
}

function temperatureOf(points: readonly SweepPoint[]): SweepResult["temperature"] {
  const warm = points.filter((p) => p.temperature !== null && p.out === "");
  const temperatures = warm.map((p) => p.temperature ?? 0);
  const trend = fitLinear(
    warm.filter((p) => p.t !== null).map((p) => [1, (p.t ?? 0) / 60]),
    warm.filter((p) => p.t !== null).map((p) => p.temperature ?? 0),
  );
  return temperatures.length > 0
    ? {
        highest: Math.max(...temperatures),
        rise: Math.max(...temperatures) - (temperatures[0] ?? 0),
        perMinute: trend.status === "converged" ? (trend.parameters[1] ?? null) : null,
      }
    : null;
}

/** The zero, first and last. */
function zerosOf(stations: readonly Station[], readings: readonly ThrustReading[]) {
  // A propeller that still runs down is not at rest.
  const still = (p: SweepPoint) => p.thrust !== null && p.out === "" && !((p.rpm ?? 0) > 0);
  const rests = stations.filter((s) => s.throttle === 0 && s.points.some(still));
  const zeroOf = (s: Station | undefined) => median(s?.points.filter(still).map((p) => p.thrust ?? 0) ?? []);
  const zeroDrift = rests.length > 1 ? zeroOf(rests.at(-1)) - zeroOf(rests[0]) : null;

  const scaleAtRest = median(rests[0]?.points.filter(still).map((p) => readings[p.index]?.scale ?? 0) ?? []);
  const atRest = rests.length > 0 ? { thrust: zeroOf(rests[0]), reading: scaleAtRest } : null;
  return { zeroDrift, atRest };
}

/** The most that it pushes, over all sweeps, where throttle stops to add any, and what is lost from sweep to sweep. */
function topOf(
  level: (which: (p: SweepPoint) => boolean) => Level[],
  sweeps: number,
  lastThrottle: number,
): SweepResult["top"] & { saturation: number | null } {
  // Rising readings alone: a pivot that sticks reads otherwise on the way down.
  const rising = level((p) => p.direction === "up" || p.direction === "top");
  const most = Math.max(...rising.map((l) => l.thrust), 0);
  const from = rising.findLast((l) => l.thrust < (1 - PLATEAU) * most)?.throttle ?? -1;
  const saturated = rising.filter((l) => l.throttle > from);
  const saturation =
    saturated.length > 1 && (saturated[0]?.throttle ?? 1) < lastThrottle ? (saturated[0]?.throttle ?? null) : null;
  const topThrottle = saturation ?? saturated[0]?.throttle ?? lastThrottle;
  const each = Array.from({ length: sweeps }, (_, k) =>
    meanOf(level((p) => p.sweep === k && p.throttle >= topThrottle - 1e-9).map((l) => l.thrust)),
  ).filter((v) => !Number.isNaN(v));
  const atTop = level(() => true).filter((l) => l.throttle >= topThrottle - 1e-9);
  const first = each[0];
  return {
    value: each.length > 0 ? meanOf(each) : Number.NaN,
    sd: Math.hypot(
      atTop.length > 0 ? Math.min(...atTop.map((l) => l.thrustSd)) : 0,
      each.length > 1 ? scatterOf(each) / Math.sqrt(each.length) : 0,
    ),
    each,
    fade: each.length > 1 && first ? 1 - (each.at(-1) ?? first) / first : null,
    saturation,
  };
}

/** How many readings lack what else could be read. */
function missingOf(points: readonly SweepPoint[]): SweepResult["missing"] {
  const missing: SweepResult["missing"] = {};
  for (const key of ["thrust", "voltage", "current", "rpm"] as const) {
    const n = points.filter((p) => p[key] === null).length;
    if (n > 0) missing[key] = n;
  }
  return missing;
}

/**
 * Reads a sweep: thrust from the stand, levels, plateau, dead band, saturation, the shape of the thrust curve, what
 * the pack, the blades and the stand itself give away.
 *
 * Every reading counts unless a person left it out or it stands far off (`expected`). Efficiency and figure of merit
 * are electrical: thrust^1.5/√(2ρA) over the power put in
 * (momentum theory). The exponent is fitted to the means of each throttle, sweep and direction; its 95 % interval
 * holds the misfit of the shape too.
 *
 * @param drive what is on the stand, for the figure of merit and for slip; null: neither is told
 */
export function readSweep(
  test: Pick<ThrustTest, "rig" | "air" | "readings">,
  corrections: Corrections,
  drive: Pick<Unit, "motor" | "controller" | "gear" | "propeller" | "propulsor"> | null,
): SweepResult {
  const diameter = drive && !drive.propulsor ? drive.propeller.diameter.value : null;
  const { rig } = test;
  const density = densityAt(test.air);
  const points = pointsOf(test, corrections);
  const stations = stationsOf(points);
  const sweeps = markLegs(stations);
  const highest = (of: (p: SweepPoint) => number | null) => {
    const list = points.flatMap((p) => (p.out === "" && p.expected === null ? (of(p) ?? []) : []));
    return list.length > 0 ? Math.max(...list) : null;
  };
  markSpikes(
    stations,
    Math.max(
      ...stations.map((s) => median(s.points.flatMap((p) => p.thrust ?? []))).filter((v) => !Number.isNaN(v)),
      0,
    ),
  );

  const step = Math.abs(thrustFrom(rig, rig.tare + rig.scale.step, corrections.scale));
  const shared = sharedThrustError(rig, corrections.scale);
  const level = (which: (p: SweepPoint) => boolean) => levelsOf(points.filter(which), step, shared);
  const levels = level(() => true);
  const up = level((p) => p.direction === "up");
  const down = level((p) => p.direction === "down");
  const lastThrottle = levels.at(-1)?.throttle ?? 0;
  const { saturation, ...atTop } = topOf(level, sweeps, lastThrottle);
  const top = atTop.value;

  const means = Array.from({ length: sweeps }, (_, k) =>
    [...(["up", "down", "top", "rest"] as const)].flatMap((d) => level((p) => p.sweep === k && p.direction === d)),
  ).flat();
  const mostOf = (of: (l: Level) => number | null) =>
    means.reduce<number | null>((m, l) => (of(l) === null ? m : Math.max(m ?? 0, of(l) ?? 0)), null);

  // ---- half of the top
  const halfThrottle = where(levels, top / 2, (l) => l.throttle);
  const halfPower = where(levels, top / 2, (l) => l.power);
  const area = diameter === null ? null : (Math.PI * diameter ** 2) / 4;
  const merit = (thrust: number, power: number | null) =>
    power === null || area === null || !(power > 0) ? null : thrust ** 1.5 / Math.sqrt(2 * density * area) / power;
  const half =
    halfThrottle === null
      ? null
      : { throttle: halfThrottle, thrust: top / 2, power: halfPower, merit: merit(top / 2, halfPower) };

  const deadBand = deadBandOf(points, stations, levels, top);
  const { zeroDrift, atRest } = zerosOf(stations, test.readings);
  const hysteresis = hysteresisOf(up, down, shared);
  const constancy = constancyOf(levels, top);

  const suspects = suspectsOf({
    levels,
    spikes: points.filter((p) => p.expected !== null && p.out === "").length,
    top,
    step,
    zeroDrift,
    atRest,
    merit,
    constancy,
    slip: drive && slipOf(levels, saturation ?? lastThrottle, deadBand?.mean ?? 0, drive),
    hysteresis,
    fade: atTop.fade,
  });

  return {
    points,
    levels,
    up,
    down,
    sweeps,
    density,
    top: atTop,
    deadBand,
    saturation,
    curve: curveOf(means),
    maxUseful: saturation ?? lastThrottle,
    idle: deadBand ? Math.min(1, (deadBand.start ?? deadBand.mean) + 0.02) : null,
    half,
    hysteresis,
    constancy,
    resistance: resistanceOf(points),
    temperature: temperatureOf(points),
    noise: highest((p) => p.noise),
    highest: { current: mostOf((l) => l.current), rpm: mostOf((l) => l.rpm) },
    missing: missingOf(points),
    zeroDrift,
    suspects,
  };
}
