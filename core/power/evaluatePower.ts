import { type Evidence, computedFrom } from "../design/evidence";
import type { Battery, Design, Unit } from "../design/schema";
import { remembering } from "../numeric/memo";
import { type ChainResult, type OperatingPoint, solveChain, throttleForThrust } from "./chain";
import { type EnduranceResult, endurance } from "./endurance";
import { propellerLoad } from "./propeller";
import { type InputKey, type PowerInput, type PowerSetup, powerInputs, setUp } from "./setup";

/** The scalar results of a drive standing still at its throttle limit. */
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
}
export type PowerKey = keyof PowerValues;

export interface PowerResult {
  values: PowerValues;
  sd: PowerValues;
  /** Share of the variance of a result that each input causes, 0 to 1. */
  shares: (key: PowerKey) => { key: InputKey; share: number }[];
  evidence: Evidence;
  inputs: PowerInput[];
  point: OperatingPoint;
  curve: { throttle: number; thrust: number; thrustSd: number; current: number; currentSd: number }[];
  endurance: EnduranceResult | null;
  /** Share of the blade beyond its stall angle, standing at the throttle limit. */
  stalled: number;
  solved: boolean;
  /** Operating point at any throttle with standard uncertainties. */
  at: (throttle: number) => { point: OperatingPoint; sd: Partial<Record<keyof OperatingPoint, number>> } | null;
}

export type PowerOutcome =
  | { status: "solved"; result: PowerResult }
  | { status: "missing"; missing: ("drive" | "pack")[] }
  | { status: "failed"; reason: Exclude<ChainResult["status"], "converged"> };

const CURVE = Array.from({ length: 21 }, (_, i) => i / 20);
/** Steps of the discharge when only the change of endurance with an input is wanted. */
const COARSE = 6;

/** All scalar results of one set of numbers; NaN where a result does not apply. Null when the chain has no solution. */
export function nominalPower(setup: PowerSetup, steps?: number): PowerValues | null {
  const solved = solveChain(setup.drive, setup.start, setup.throttleLimit);
  if (solved.status !== "converged") return null;
  const { point } = solved;
  const thrust = point.thrust * setup.drive.count;
  const duty = setup.phases.length > 0 ? endurance(setup.drive, setup.pack, setup.phases, setup.throttleLimit, steps) : null;
  return {
    thrust,
    current: point.current,
    packCurrent: point.packCurrent,
    packVoltage: point.packVoltage,
    packPower: point.packVoltage * point.packCurrent,
    rpm: point.rpm,
    torque: point.torque,
    motorLoss: point.motorLoss,
    tipMach: (point.rpm * Math.PI * setup.diameter) / 60 / setup.medium.soundSpeed,
    thrustToWeight: setup.weight === null ? Number.NaN : thrust / setup.weight,
    thrustThrottle: setup.weight === null ? Number.NaN : (throttleForThrust(setup.drive, setup.start, setup.weight) ?? Number.NaN),
    endurance: duty === null ? Number.NaN : duty.seconds,
  };
}

/** The design's drive as the solvers take it, nominal values; null while drive or pack is missing. */
export function nominalSetup(design: Design, mass: number | null): PowerSetup | null {
  const unit = design.units[0];
  const battery = design.batteries[0];
  if (!unit || !battery) return null;
  return setUp(design, unit, battery, mass === null ? {} : { mass });
}

function solve(design: Design, unit: Unit, battery: Battery, mass: { value: number; sd: number; evidence: Evidence } | null): PowerOutcome {
  const inputs = powerInputs(unit, battery, mass);
  const values = Object.fromEntries(inputs.map((i) => [i.key, i.value])) as Partial<Record<InputKey, number>>;
  const base = setUp(design, unit, battery, values);
  const solved = solveChain(base.drive, base.start, base.throttleLimit);
  if (solved.status !== "converged") return { status: "failed", reason: solved.status };
  const nominal = nominalPower(base);
  const coarse = nominalPower(base, COARSE);
  if (!nominal || !coarse) return { status: "failed", reason: "notFinite" };

  const perturbed = inputs.filter((i) => i.sd > 0).map((input) => ({ key: input.key, setup: setUp(design, unit, battery, { ...values, [input.key]: input.value + input.sd }) }));
  const deltas = perturbed.map(({ key, setup }) => {
    const there = nominalPower(setup, COARSE);
    const delta = (k: PowerKey) => {
      const d = there ? there[k] - coarse[k] : 0;
      return Number.isFinite(d) ? (k === "endurance" ? (d * nominal.endurance) / coarse.endurance : d) : 0;
    };
    return { key, delta };
  });
  const keys = Object.keys(nominal) as PowerKey[];
  const sd = Object.fromEntries(keys.map((k) => [k, Math.hypot(...deltas.map((d) => d.delta(k)))])) as unknown as PowerValues;
  const shares = (k: PowerKey) => deltas.map((d) => ({ key: d.key, share: sd[k] > 0 ? (d.delta(k) / sd[k]) ** 2 : 0 })).sort((a, b) => b.share - a.share);

  const at: PowerResult["at"] = (throttle) => {
    const here = solveChain(base.drive, base.start, throttle);
    if (here.status !== "converged") return null;
    const spread: Partial<Record<keyof OperatingPoint, number>> = {};
    const others = perturbed.flatMap(({ setup }) => {
      const r = solveChain(setup.drive, setup.start, throttle);
      return r.status === "converged" ? [r.point] : [];
    });
    for (const k of Object.keys(here.point) as (keyof OperatingPoint)[]) spread[k] = Math.hypot(...others.map((o) => o[k] - here.point[k]));
    return { point: here.point, sd: spread };
  };
  const load = propellerLoad(
    { diameter: base.diameter, pitch: unit.propeller.pitch.value, blades: unit.propeller.blades, chord: unit.propeller.chord.value, liftFactor: 1, dragFactor: 1 },
    base.medium,
    0,
    solved.point.rpm,
  );
  return {
    status: "solved",
    result: {
      values: nominal,
      sd,
      shares,
      evidence: computedFrom(inputs.filter((i) => i.key !== "mass").map((i) => i.evidence)),
      inputs,
      point: solved.point,
      curve: CURVE.map((throttle) => {
        const here = at(throttle);
        const n = base.drive.count;
        return {
          throttle,
          thrust: (here?.point.thrust ?? 0) * n,
          thrustSd: (here?.sd.thrust ?? 0) * n,
          current: here?.point.current ?? 0,
          currentSd: here?.sd.current ?? 0,
        };
      }),
      endurance: base.phases.length > 0 ? endurance(base.drive, base.pack, base.phases, base.throttleLimit) : null,
      stalled: load.stalled,
      solved: base.drive.propeller.solved && load.solved,
      at,
    },
  };
}

const outcomes = remembering<PowerOutcome>(60);

/**
 * Everything the power chain says about a design standing still, with first-order uncertainty by one-sided differences over all inputs.
 * Remembered by its inputs, so that dragging a part (which changes none of them) costs nothing.
 *
 * @param mass the craft's all-up mass (kg); null while no part has one
 */
export function evaluatePower(design: Design, mass: { value: number; sd: number; evidence: Evidence } | null): PowerOutcome {
  const unit = design.units[0];
  const battery = design.batteries[0];
  if (!unit || !battery) return { status: "missing", missing: [...(unit ? [] : ["drive" as const]), ...(battery ? [] : ["pack" as const])] };
  return outcomes(JSON.stringify([design.units, design.batteries, design.duty, design.brief.environment, mass]), () => solve(design, unit, battery, mass));
}
