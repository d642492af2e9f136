import { type Evidence, computedFrom } from "../design/evidence";
import type { Battery, Design, Unit } from "../design/schema";
import { remembering } from "../numeric/memo";
import { findRoot } from "../numeric/root";
import { type OperatingPoint, type Unsolved, solvePack, throttleForThrust } from "./chain";
import { type EnduranceResult, endurance } from "./endurance";
import { propellerLoad } from "./propeller";
import { type InputKey, type InputValues, type PackSetup, type PowerInput, type PowerSetup, inputId, powerInputs, setUp } from "./setup";

/** The scalar results of the whole craft standing still at its throttle limits. Those of one drive are the leading one's: the first that the craft is judged by. */
export interface PowerValues {
  thrust: number;
  current: number;
  packCurrent: number;
  packVoltage: number;
  packPower: number;
  rpm: number;
  torque: number;
  motorLoss: number;
  tipMach: number;
  thrustToWeight: number;
  thrustThrottle: number;
  endurance: number;
  speed: number;
}
export type PowerKey = keyof PowerValues;

/** Results of one drive with everything on its pack at full throttle; thrust of all its like units. */
export interface UnitValues {
  thrust: number;
  current: number;
  rpm: number;
  torque: number;
  motorLoss: number;
  tipMach: number;
}
/** Results of one pack with everything on it at full throttle; endurance at the duty. */
export interface PackValues {
  current: number;
  voltage: number;
  power: number;
  endurance: number;
}

export interface Nominal {
  craft: PowerValues;
  units: UnitValues[];
  packs: PackValues[];
}

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
  /** The run of the pack that is spent first, were it colder (°C) or its resistance grown by a factor. */
  endureWith: (change: { packTemperature?: number; resistanceFactor?: number }) => EnduranceResult | null;
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

type Solved = { status: "converged"; points: OperatingPoint[] } | { status: Unsolved };

/** Every pack solved with the drives of `which` at `throttle` of their limits, the others at rest; points in the design's order. */
function solveAll(setup: PowerSetup, throttle: number, speed: number, which: readonly number[]): Solved {
  const points: OperatingPoint[] = [];
  for (const { start, units } of setup.packs) {
    const commands = units.flatMap((i) => {
      const unit = setup.units[i];
      return unit ? [{ drive: unit.drive, throttle: which.includes(i) ? throttle * unit.limit : 0 }] : [];
    });
    // A drive at rest beside one that works leaves the single-drive solution as it is.
    const working = commands.filter((c) => c.throttle > 0);
    const solved = solvePack(working.length > 0 ? working : commands, start, speed);
    if (solved.status !== "converged") return solved;
    const resting = working.length < commands.length && working.length > 0 ? solved.points[0] : null;
    let k = 0;
    units.forEach((i, j) => {
      const at = commands[j];
      if (!at) return;
      if (resting && at.throttle === 0) points[i] = still(resting);
      else points[i] = solved.points[k++] as OperatingPoint;
    });
  }
  return { status: "converged", points };
}

/** A drive at rest on a pack that others load. */
const still = (other: OperatingPoint): OperatingPoint => ({
  ...other,
  throttle: 0,
  pathLoss: 0,
  controllerIn: 0,
  controllerLoss: 0,
  motorVoltage: 0,
  current: 0,
  motorIn: 0,
  motorLoss: 0,
  motorRpm: 0,
  motorTorque: 0,
  shaftPower: 0,
  gearLoss: 0,
  rpm: 0,
  torque: 0,
  propellerPower: 0,
  thrust: 0,
});

/** A value made when it is first asked for. */
function once<T>(make: () => T): () => T {
  let held: { value: T } | null = null;
  return () => {
    held ??= { value: make() };
    return held.value;
  };
}

const indices = (setup: PowerSetup) => setup.units.map((_, i) => i);
const thrustOf = (setup: PowerSetup, points: readonly OperatingPoint[], which: readonly number[]) =>
  which.reduce((s, i) => s + (points[i]?.thrust ?? 0) * (setup.units[i]?.drive.count ?? 0), 0);
const dragAt = (setup: PowerSetup, speed: number) => (setup.dragArea === null ? null : 0.5 * setup.medium.density * speed ** 2 * setup.dragArea);
const enduranceOf = (setup: PowerSetup, p: PackSetup, steps?: number): EnduranceResult | null =>
  p.phases.length === 0
    ? null
    : endurance(
        p.units.flatMap((i) => {
          const u = setup.units[i];
          return u ? [{ drive: u.drive, limit: u.limit }] : [];
        }),
        p.pack,
        p.phases,
        steps,
      );

/** Throttle (share of the limits) at which the main drives push `thrust` at `speed`; null when they cannot. On one pack exactly; on several by a common throttle. */
function mainThrottle(setup: PowerSetup, thrust: number, speed = 0): number | null {
  const [first] = setup.main;
  const pack = setup.packs.find((p) => first !== undefined && p.units.includes(first));
  if (!pack) return null;
  if (setup.main.every((i) => pack.units.includes(i)) && setup.main.every((i) => setup.units[i]?.limit === 1))
    return throttleForThrust(
      setup.main.flatMap((i) => setup.units[i]?.drive ?? []),
      pack.start,
      thrust,
      1,
      speed,
    );
  const total = (u: number) => {
    const s = solveAll(setup, u, speed, setup.main);
    return s.status === "converged" ? thrustOf(setup, s.points, setup.main) : s.status === "windmilling" ? -1e-6 : Number.NaN;
  };
  if (!(total(1) >= thrust)) return null;
  const found = findRoot((u) => total(u) - thrust, 0, 1, 1e-5, 60);
  return found.status === "converged" ? found.x : null;
}

/** Speed (m/s) at which full thrust meets the drag; NaN without a drag area, or for a craft that is not pushed along. */
function topSpeed(setup: PowerSetup): number {
  const direction = setup.units[setup.main[0] ?? 0]?.unit.direction;
  if (setup.dragArea === null || (direction !== "ahead" && direction !== "astern")) return Number.NaN;
  const surplus = (v: number) => {
    const s = solveAll(setup, 1, v, setup.main);
    return (s.status === "converged" ? thrustOf(setup, s.points, setup.main) : 0) - (dragAt(setup, v) ?? 0);
  };
  let high = 2;
  while (surplus(high) > 0 && high < 120) high *= 1.6;
  const found = findRoot(surplus, 0, high, 1e-3, 60);
  return found.status === "converged" ? found.x : Number.NaN;
}

/** All scalar results of one set of numbers; NaN where a result does not apply. Null when a pack has no solution. */
export function nominalPower(setup: PowerSetup, steps?: number): Nominal | null {
  const everything = solveAll(setup, 1, 0, indices(setup));
  if (everything.status !== "converged") return null;
  const alone = setup.main.length === setup.units.length ? everything : solveAll(setup, 1, 0, setup.main);
  if (alone.status !== "converged") return null;
  const units = everything.points.map((p, i): UnitValues => {
    const u = setup.units[i];
    return {
      thrust: p.thrust * (u?.drive.count ?? 1),
      current: p.current,
      rpm: p.rpm,
      torque: p.torque,
      motorLoss: p.motorLoss,
      tipMach: (p.rpm * Math.PI * (u?.diameter ?? 0)) / 60 / setup.medium.soundSpeed,
    };
  });
  const packs = setup.packs.map((p): PackValues => {
    const first = everything.points[p.units[0] ?? -1];
    const voltage = first?.packVoltage ?? p.start.openCircuit;
    const current = first?.packCurrent ?? p.start.otherLoad / voltage;
    return { current, voltage, power: voltage * current, endurance: enduranceOf(setup, p, steps)?.seconds ?? Number.NaN };
  });
  const lead = setup.main[0] ?? 0;
  const leading = units[lead];
  const pack = packs[setup.packs.findIndex((p) => p.units.includes(lead))];
  const thrust = thrustOf(setup, alone.points, setup.main);
  const lasting = packs.map((p) => p.endurance).filter((s) => !Number.isNaN(s));
  return {
    units,
    packs,
    craft: {
      thrust,
      current: leading?.current ?? Number.NaN,
      packCurrent: pack?.current ?? Number.NaN,
      packVoltage: pack?.voltage ?? Number.NaN,
      packPower: pack?.power ?? Number.NaN,
      rpm: leading?.rpm ?? Number.NaN,
      torque: leading?.torque ?? Number.NaN,
      motorLoss: leading?.motorLoss ?? Number.NaN,
      tipMach: leading?.tipMach ?? Number.NaN,
      thrustToWeight: setup.weight === null ? Number.NaN : thrust / setup.weight,
      thrustThrottle: setup.weight === null ? Number.NaN : (mainThrottle(setup, setup.weight) ?? Number.NaN),
      endurance: lasting.length > 0 ? Math.min(...lasting) : Number.NaN,
      speed: topSpeed(setup),
    },
  };
}

/** The design's drives as the solvers take them, nominal values; null while drive or pack is missing. */
export function nominalSetup(design: Design, mass: number | null): PowerSetup | null {
  if (missingOf(design).length > 0) return null;
  return setUp(design, new Map(mass === null ? [] : [["/mass", mass]]));
}

/** What a design lacks for its drives to be solved: every drive needs the pack that it names. */
function missingOf(design: Design): ("drive" | "pack")[] {
  const fed = design.units.every((u) => design.batteries.some((b) => b.id === u.batteryId));
  return [...(design.units.length > 0 ? [] : ["drive" as const]), ...(design.batteries.length > 0 && fed ? [] : ["pack" as const])];
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
      endureWith: ({ packTemperature, resistanceFactor = 1 }) => {
        const other = structuredClone(design);
        if (packTemperature !== undefined) other.brief.environment.packTemperature = packTemperature;
        for (const b of other.batteries) b.cellResistance.value *= resistanceFactor;
        const changed = setUp(other, new Map([...values].filter(([id]) => !id.endsWith("/cellResistance"))));
        return changed.packs.reduce<EnduranceResult | null>((least, p) => {
          const e = enduranceOf(changed, p);
          return e && (least === null || e.seconds < least.seconds) ? e : least;
        }, null);
      },
      dutyNeeds: base.dutyNeeds,
      solved: base.units.every((u) => u.drive.propeller.solved),
      at,
      throttleFor: (thrust, speed) => mainThrottle(base, thrust, speed),
      drag: (speed) => dragAt(base, speed),
    },
  };
}

/** Speed (m/s) at which a propeller at its standing rpm would only just follow its pitch: where thrust is about gone. */
function pitchSpeed(setup: PowerSetup): number {
  const i = setup.main[0] ?? 0;
  const s = solveAll(setup, 1, 0, setup.main);
  const unit = setup.units[i];
  return s.status === "converged" && unit ? ((s.points[i]?.rpm ?? 0) / 60) * unit.propeller.pitch * 1.15 : 10;
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

export type { InputKey };
