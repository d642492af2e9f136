import { type Evidence, computedFrom } from "../../design/evidence";
import type { Battery, Design, Unit } from "../../design/schema";
import { remembering } from "../../numeric/memo";
import type { OperatingPoint, Unsolved } from "./chain";
import type { EnduranceResult } from "../energy/endurance";
import {
  type Nominal,
  type PackValues,
  type PowerKey,
  type PowerValues,
  type UnitValues,
  dragAt,
  enduranceOf,
  indices,
  mainThrottle,
  missingOf,
  nominalPower,
  pitchSpeed,
  solveAll,
  thrustOf,
} from "./nominal";
import { propellerLoad } from "./propeller";
import { type InputValues, type PowerInput, type PowerSetup, inputId, powerInputs, setUp } from "./setup";

export interface SolvedUnit {
  unit: Unit;
  battery: Battery;
  values: UnitValues;
  sd: UnitValues;
  point: OperatingPoint;
  /** Share of the blade beyond its stall angle, standing at the throttle limit. */
  stalled: number;
  evidence: Evidence;
}
export interface SolvedPack {
  battery: Battery;
  values: PackValues;
  sd: PackValues;
  endurance: EnduranceResult | null;
  evidence: Evidence;
}

export interface At {
  /** One for each drive, in the design's order. */
  points: OperatingPoint[];
  sd: Partial<Record<keyof OperatingPoint, number>>[];
}

export interface CurvePoint {
  /** throttle 0 to 1, or speed in m/s */
  x: number;
  /** of the drives that the craft is judged by, N */
  thrust: number;
  thrustSd: number;
  /** motor current of the leading drive, A */
  current: number;
  currentSd: number;
  /** thrust for each watt from the packs, N/W */
  economy: number;
  economySd: number;
}

export interface PowerResult {
  values: PowerValues;
  sd: PowerValues;
  units: SolvedUnit[];
  packs: SolvedPack[];
  /** Index of the drive that the craft's single-drive results are of. */
  lead: number;
  main: number[];
  /** Share of the variance of a result that each input causes, 0 to 1; largest first. */
  shares: (key: PowerKey) => { input: PowerInput; share: number }[];
  evidence: Evidence;
  inputs: PowerInput[];
  /** Against throttle, standing; made when first asked for. */
  curve: () => CurvePoint[];
  /** Against speed at full throttle, from standing to where the thrust is gone; made when asked for. */
  speedCurve: () => CurvePoint[];
  /** The endurance that ends the run: of the pack that is spent first. */
  endurance: EnduranceResult | null;
  dutyNeeds: PowerSetup["dutyNeeds"];
  solved: boolean;
  /** All drives of `which` (default: all) at a share of their throttle limits and a speed, with standard uncertainties; the others stand still. */
  at: (throttle: number, speed?: number, which?: readonly number[]) => At | null;
  /** Throttle (share of the limits, 0 to 1) at which the main drives push this thrust (N) at this speed; null when they cannot. */
  throttleFor: (thrust: number, speed?: number) => number | null;
  /** N at a speed (m/s); null without a drag area. */
  drag: (speed: number) => number | null;
}

export type PowerOutcome = { status: "solved"; result: PowerResult } | { status: "missing"; missing: ("drive" | "pack")[] } | { status: "failed"; reason: Unsolved };

const CURVE = Array.from({ length: 21 }, (_, i) => i / 20);
/** Steps of the discharge when only the change of endurance with an input is wanted. */
const COARSE = 6;
/** With more drives than this the steps are fewer still: each drive brings eight uncertain inputs. */
const MANY = 2;

/** A value made when it is first asked for. */
function once<T>(make: () => T): () => T {
  let held: { value: T } | null = null;
  return () => {
    held ??= { value: make() };
    return held.value;
  };
}

/** Every scalar of a result under one name, so that one loop gives all uncertainties. */
function flat(n: Nominal): Map<string, number> {
  const out = new Map<string, number>(Object.entries(n.craft));
  n.units.forEach((u, i) => {
    for (const [k, v] of Object.entries(u)) out.set(`u${i}.${k}`, v);
  });
  n.packs.forEach((p, i) => {
    for (const [k, v] of Object.entries(p)) out.set(`p${i}.${k}`, v);
  });
  return out;
}

function solve(design: Design, mass: { value: number; sd: number; evidence: Evidence } | null): PowerOutcome {
  const inputs = powerInputs(design, mass);
  const values = new Map(inputs.map((i) => [inputId(i), i.value]));
  const base = setUp(design, values);
  const all = indices(base);
  const full = solveAll(base, 1, 0, all);
  if (full.status !== "converged") return { status: "failed", reason: full.status };
  const nominal = nominalPower(base);
  const few = base.units.length > MANY ? COARSE / 2 : COARSE;
  const coarse = nominalPower(base, few);
  if (!nominal || !coarse) return { status: "failed", reason: "notFinite" };
  const [flatNominal, flatCoarse] = [flat(nominal), flat(coarse)];
  const with1 = (input: PowerInput): InputValues => new Map([...values, [inputId(input), input.value + input.sd]]);
  const perturbed = inputs.filter((i) => i.sd > 0).map((input) => ({ input, setup: setUp(design, with1(input)) }));
  const deltas = perturbed.map(({ input, setup }) => {
    const there = nominalPower(setup, few);
    const flatThere = there && flat(there);
    const delta = (k: string) => {
      const d = flatThere ? (flatThere.get(k) ?? Number.NaN) - (flatCoarse.get(k) ?? Number.NaN) : 0;
      // The coarse steps are off by a share: the change is scaled by it.
      const scaled = k.endsWith("endurance") ? (d * (flatNominal.get(k) ?? 0)) / (flatCoarse.get(k) ?? 1) : d;
      return Number.isFinite(scaled) ? scaled : 0;
    };
    return { input, delta };
  });
  const spread = (k: string) => Math.hypot(...deltas.map((d) => d.delta(k)));
  const sdOf = <T extends object>(of: T, prefix: string): T => Object.fromEntries(Object.keys(of).map((k) => [k, spread(prefix + k)])) as T;
  const sd = sdOf(nominal.craft, "");

  const setups = perturbed.map((p) => p.setup);
  const at: PowerResult["at"] = (throttle, speed = 0, which = all) => {
    const here = solveAll(base, throttle, speed, which);
    if (here.status !== "converged") return null;
    const others = setups.flatMap((s) => {
      const r = solveAll(s, throttle, speed, which);
      return r.status === "converged" ? [r.points] : [];
    });
    return {
      points: here.points,
      sd: here.points.map((point, i) => {
        const out: Partial<Record<keyof OperatingPoint, number>> = {};
        for (const k of Object.keys(point) as (keyof OperatingPoint)[]) out[k] = Math.hypot(...others.map((o) => (o[i]?.[k] ?? point[k]) - point[k]));
        return out;
      }),
    };
  };
  const curvePoint = (x: number, throttle: number, speed: number): CurvePoint | null => {
    const read = (setup: PowerSetup) => {
      const s = solveAll(setup, throttle, speed, base.main);
      if (s.status !== "converged") return null;
      const power = setup.packs.reduce((sum, p) => {
        const first = s.points[p.units[0] ?? -1];
        return sum + (first ? first.packVoltage * first.packCurrent : 0);
      }, 0);
      const thrust = thrustOf(setup, s.points, base.main);
      return [thrust, s.points[base.main[0] ?? 0]?.current ?? 0, power > 0 ? thrust / power : 0] as const;
    };
    const here = read(base);
    if (!here) return null;
    const others = setups.flatMap((s) => {
      const r = read(s);
      return r ? [r] : [];
    });
    const [thrustSd, currentSd, economySd] = [0, 1, 2].map((k) => Math.hypot(...others.map((o) => (o[k] ?? 0) - (here[k] ?? 0)))) as [number, number, number];
    return { x, thrust: here[0], thrustSd, current: here[1], currentSd, economy: here[2], economySd };
  };
  const evidenceOf = (ids: readonly string[]) => computedFrom(inputs.filter((i) => i.of !== "" && ids.includes(i.of)).map((i) => i.evidence));
  const packs = base.packs.map(
    (p, i): SolvedPack => ({
      battery: p.battery,
      values: nominal.packs[i] as PackValues,
      sd: sdOf(nominal.packs[i] as PackValues, `p${i}.`),
      endurance: enduranceOf(base, p),
      evidence: evidenceOf([p.battery.id, ...p.units.flatMap((k) => base.units[k]?.unit.id ?? [])]),
    }),
  );
  const units = base.units.map((u, i): SolvedUnit => {
    const point = full.points[i] as OperatingPoint;
    return {
      unit: u.unit,
      battery: design.batteries.find((b) => b.id === u.unit.batteryId) as Battery,
      values: nominal.units[i] as UnitValues,
      sd: sdOf(nominal.units[i] as UnitValues, `u${i}.`),
      point,
      stalled: propellerLoad(u.propeller, base.medium, 0, point.rpm).stalled,
      evidence: evidenceOf([u.unit.id, u.unit.batteryId]),
    };
  });
  return {
    status: "solved",
    result: {
      values: nominal.craft,
      sd,
      units,
      packs,
      lead: base.main[0] ?? 0,
      main: base.main,
      shares: (k) => deltas.map(({ input, delta }) => ({ input, share: sd[k] > 0 ? (delta(k) / sd[k]) ** 2 : 0 })).sort((a, b) => b.share - a.share),
      evidence: computedFrom(inputs.filter((i) => i.key !== "mass" && i.key !== "dragArea").map((i) => i.evidence)),
      inputs,
      curve: once(() => CURVE.flatMap((x) => curvePoint(x, x, 0) ?? [])),
      speedCurve: once(() => {
        const top = Number.isFinite(nominal.craft.speed) ? 1.3 * nominal.craft.speed : pitchSpeed(base);
        return Array.from({ length: 17 }, (_, i) => (i * top) / 16).flatMap((v) => curvePoint(v, 1, v) ?? []);
      }),
      endurance: packs.reduce<EnduranceResult | null>((least, p) => (p.endurance && (least === null || p.endurance.seconds < least.seconds) ? p.endurance : least), null),
      dutyNeeds: base.dutyNeeds,
      solved: base.units.every((u) => u.drive.propeller.solved),
      at,
      throttleFor: (thrust, speed) => mainThrottle(base, thrust, speed),
      drag: (speed) => dragAt(base, speed),
    },
  };
}

const outcomes = remembering<PowerOutcome>(60);

/**
 * Everything the power chain says about a design, with first-order uncertainty by one-sided differences over all inputs.
 * Remembered by its inputs, so that dragging a part (which changes none of them) costs nothing.
 *
 * @param mass the craft's all-up mass (kg); null while no part has one
 */
export function evaluatePower(design: Design, mass: { value: number; sd: number; evidence: Evidence } | null): PowerOutcome {
  const missing = missingOf(design);
  if (missing.length > 0) return { status: "missing", missing };
  const key = JSON.stringify([design.heldUpBy, design.units, design.batteries, design.conductors, design.regulators, design.duty, design.dragArea, design.brief.environment, mass]);
  return outcomes(key, () => solve(design, mass));
}
