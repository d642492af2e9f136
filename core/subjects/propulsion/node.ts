import type { Evidence } from "../../design/evidence";
import type { Method, Quantity } from "../../design/quantity";
import { type Doubtful, sdOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, keysOf, subject } from "../../subject";
import type { OperatingPoint } from "./chain";
import { outsideAt, stalledAt } from "./outside";
import { assumed, notCovered, tooNear, unnoted } from "./covered";
import { quantities } from "./declares";
import { type Driven, type PowerInput, inputId } from "./inputs";
import { indices, missingOf, solveAll, thrustOf, unitValuesOf } from "./nominal";
import type { Unit } from "../../design/schema";
import { kindOf } from "./kinds/models";
import { isOpenPropeller } from "./kinds/which";
import { BY_CURVE } from "./measured/curve";
import { liftedByRotors } from "./mainUnits";
import type { PowerSetup } from "./setup";
import { type Varied, spreadOf, vary } from "./vary";
import { inputsOf, knownBy, shapesOutside } from "./words";

/** What the solvers read of a design. */
export const DRIVEN = [
  "states",
  "gasLift",
  "units",
  "batteries",
  "conductors",
  "regulators",
  "brief.environment",
] as const;

/**
 * The numbers of the whole craft standing at its throttle limits. Those of one drive are the leading one's: the first
 * that the craft is judged by.
 */
export type ThrustKey =
  | "thrust"
  | "current"
  | "packCurrent"
  | "packVoltage"
  | "packPower"
  | "rpm"
  | "torque"
  | "motorLoss"
  | "tipMach";
const DRIVE_KEYS = ["thrust", "current", "rpm", "torque", "motorLoss", "tipMach"] as const;
const PACK_KEYS = ["current", "voltage", "power"] as const;
type DriveValues = Record<(typeof DRIVE_KEYS)[number], number>;
type PackValues = Record<(typeof PACK_KEYS)[number], number>;

export interface SolvedDrive {
  id: string;
  name: string;
  count: number;
  batteryId: string;
  /** With everything on its pack at full throttle; thrust of all its like units. */
  values: DriveValues;
  sd: DriveValues;
  point: OperatingPoint;
  /** Share of the blade beyond its stall angle, standing at the throttle limit. */
  stalled: number;
  /** How well its current is known. */
  evidence: Evidence;
  /** By which power of its propeller's diameter its current grows, from the nominal solution. */
  currentByDiameter: number;
}
export interface LoadedPack {
  id: string;
  name: string;
  /** With everything on it at full throttle. */
  values: PackValues;
  sd: PackValues;
  /** How well its current is known. */
  evidence: Evidence;
}

export interface PropulsionResult {
  values: Record<ThrustKey, Doubtful>;
  drives: SolvedDrive[];
  packs: LoadedPack[];
  /** Index of the drive that the craft's single-drive results are of. */
  lead: number;
  /** Indices of the drives that the craft is judged by. */
  main: number[];
  /** Thrust of those against their common throttle, for a craft that hangs on them; null for others. */
  lift: { throttle: number[]; thrust: Doubtful[] } | null;
  inputs: PowerInput[];
  /** Whether every blade element was solved. */
  whole: boolean;
  /** What the numbers rest on and was never said, as sentences. */
  incomplete: string[];
  /**
   * Where a drive leaves the range of its method, as sentences: every number that rests on the drives is outside too.
   */
  outside: string[];
  /** What nobody knows of a measured curve, as sentences: its numbers may be off either way. */
  unknown: string[];
}

const driveValues = (setup: PowerSetup, points: readonly OperatingPoint[], i: number): DriveValues => {
  const { id: _, ...values } = unitValuesOf(setup, points, i);
  return values;
};
const packValues = (setup: PowerSetup, points: readonly OperatingPoint[], k: number): PackValues => {
  const p = setup.packs[k] as PowerSetup["packs"][number];
  const first = points[p.units[0] ?? -1];
  const current = first?.packCurrent ?? p.start.otherLoad / p.start.openCircuit;
  // Where a drive draws nobody knows what, the sag is not known either.
  const voltage = Number.isNaN(current) ? Number.NaN : (first?.packVoltage ?? p.start.openCircuit);
  return { current, voltage, power: voltage * current };
};

/**
 * Where the drives leave the range of the method standing at full throttle, each with its name where there are
 * several.
 */
function outsideOf(view: Driven, setup: PowerSetup, drives: readonly SolvedDrive[]): string[] {
  const name = (d: SolvedDrive) => (drives.length > 1 ? `${d.name}: ` : "");
  return [
    ...shapesOutside(view.units),
    ...drives.flatMap((d, i) => {
      const u = setup.units[i];
      return u ? outsideAt(u, d.values.rpm).map((said) => name(d) + said) : [];
    }),
  ];
}

/**
 * Throttles at which the thrust of a craft that hangs on its drives is worked out, so that a change of its weight
 * needs no solution.
 */
const LIFT_POINTS = 17;

function compute(view: Driven): Outcome<PropulsionResult> {
  const missing = missingOf(view);
  if (missing.length > 0) return { status: "missing", needs: missing };
  const because = notCovered(view);
  if (because !== null) return { status: "not covered", because };
  const varied = vary(view);
  const { base, others, inputs } = varied;
  const all = indices(base);
  const full = solveAll(base, 1, 0, all);
  if (full.status !== "converged") return { status: "failed", reason: full.status };
  const apart = base.main.length === base.units.length;
  const alone = apart ? full : solveAll(base, 1, 0, base.main);
  if (alone.status !== "converged") return { status: "failed", reason: alone.status };
  const lead = base.main[0] ?? 0;
  const leadPack = base.packs.findIndex((p) => p.units.includes(lead));
  const craft = (setup: PowerSetup, points: readonly OperatingPoint[], thrust: number): Record<ThrustKey, number> => {
    const d = driveValues(setup, points, lead);
    const p = packValues(setup, points, leadPack);
    return { ...d, thrust, packCurrent: p.current, packVoltage: p.voltage, packPower: p.power };
  };
  // A changed input moves the state a little: it is followed from there.
  const changed = others.map(({ id, setup }) => {
    const s = solveAll(setup, 1, 0, all, full.states);
    const a = apart ? s : solveAll(setup, 1, 0, base.main, alone.states);
    return s.status === "converged" && a.status === "converged"
      ? { id, setup, points: s.points, thrust: thrustOf(setup, a.points, base.main) }
      : { id, setup, points: null, thrust: 0 };
  });
  const spread = <K extends string>(
    here: Record<K, number>,
    there: (setup: PowerSetup, points: readonly OperatingPoint[], thrust: number) => Record<K, number>,
  ) =>
    spreadOf(
      here,
      changed.map((c) => ({ id: c.id, values: c.points && there(c.setup, c.points, c.thrust) })),
    );
  const sds = <K extends string>(of: Record<K, Doubtful>) =>
    Object.fromEntries(Object.entries(of).map(([k, d]) => [k, sdOf(d as Doubtful)])) as Record<K, number>;
  const drives = base.units.map((u, i): SolvedDrive => {
    const values = driveValues(base, full.points, i);
    const point = full.points[i] as OperatingPoint;
    const doubt = spread(values, (s, p) => driveValues(s, p, i));
    const size = inputs.find((x) => x.of === u.unit.id && x.key === "diameter");
    return {
      id: u.unit.id,
      name: u.unit.name,
      count: u.unit.count,
      batteryId: u.unit.batteryId,
      values,
      sd: sds(doubt),
      point,
      stalled: stalledAt(u, point.rpm),
      evidence: knownBy(inputs, doubt.current),
      currentByDiameter:
        size && size.sd > 0 ? ((doubt.current.by[inputId(size)] ?? 0) / values.current) * (size.value / size.sd) : 0,
    };
  });
  const packs = base.packs.map(({ battery }, k): LoadedPack => {
    const values = packValues(base, full.points, k);
    const doubt = spread(values, (s, p) => packValues(s, p, k));
    return {
      id: battery.id,
      name: battery.name,
      values,
      sd: sds(doubt),
      evidence: knownBy(inputs, doubt.current),
    };
  });
  return {
    status: "solved",
    result: {
      values: spread(craft(base, full.points, thrustOf(base, alone.points, base.main)), craft),
      drives,
      packs,
      lead,
      main: base.main,
      lift: liftedByRotors(view) ? liftCurve(varied, alone.states) : null,
      inputs,
      whole: base.units.every((u) => u.drive.propeller.solved),
      incomplete: [assumed(view)].filter((s) => s !== null),
      outside: [...outsideOf(view, base, drives), ...tooNear(view.units)],
      unknown: unnoted(view),
    },
  };
}

/**
 * Thrust of the main drives at throttles from full downwards, each with what every input does to it; ends where the
 * motors no longer turn.
 */
function liftCurve({ base, others }: Varied, full: Parameters<typeof solveAll>[4]): PropulsionResult["lift"] {
  const throttle: number[] = [];
  const thrust: Doubtful[] = [];
  let near = full;
  for (let k = LIFT_POINTS; k >= 1; k--) {
    const u = k / LIFT_POINTS;
    const here = solveAll(base, u, 0, base.main, near);
    if (here.status !== "converged") break;
    near = here.states;
    const there = others.map(({ id, setup }) => {
      const s = solveAll(setup, u, 0, base.main, here.states);
      return { id, values: s.status === "converged" ? { thrust: thrustOf(setup, s.points, base.main) } : null };
    });
    throttle.unshift(u);
    thrust.unshift(spreadOf({ thrust: thrustOf(base, here.points, base.main) }, there).thrust);
  }
  return { throttle, thrust };
}

/** How a number of a drive was come by that is no open propeller told by its parts. */
function methodOf(key: ThrustKey, unit: Unit): Method {
  const usual = quantities[key];
  if (unit.measured) return BY_CURVE;
  const { formula, source, range } = unit.propulsor ? kindOf(unit.propulsor) : usual;
  const own = key === "thrust" || key === "torque";
  const word = unit.propulsor && kindOf(unit.propulsor).word;
  return {
    ...(word ? { label: usual.label.replace("Propeller", word.charAt(0).toUpperCase() + word.slice(1)) } : {}),
    formula: own ? formula : usual.formula,
    source: `Three-constant motor model. ${source}`,
    range,
  };
}

/** Thrust, currents and heat of the drives with everything at full throttle, standing. */
export const propulsion = subject({
  name: "propulsion",
  cost: "slow",
  reads: DRIVEN,
  gives: keysOf(quantities),
  compute,
  quantities(result, view) {
    const out: Partial<Record<ThrustKey, Quantity>> = {};
    const lead = view.units[result.lead];
    for (const key of Object.keys(result.values) as ThrustKey[]) {
      const d = result.values[key];
      if (!Number.isFinite(d.value)) continue;
      out[key] = {
        value: d.value,
        sd: sdOf(d),
        dimension: quantities[key].dimension,
        evidence: knownBy(result.inputs, d),
        ...doubtsOf(result.outside, result.incomplete, result.unknown),
        ...(lead && !isOpenPropeller(lead) ? { by: methodOf(key, lead) } : {}),
      };
    }
    return out;
  },
  working: (key, result, view) => inputsOf(result.inputs, result.values[key as ThrustKey], view.units.length > 1),
});

/** The fastest blade tip of the craft at full throttle, m/s; 0 without drives. */
export function fastestTip(design: Pick<Driven, "units">, result: PropulsionResult | null): number {
  return Math.max(
    0,
    ...(result?.drives ?? []).map((d, i) => {
      const unit = design.units[i];
      if (!unit || unit.measured) return 0;
      const { propulsor: p } = unit;
      const tips = p ? (kindOf(p).tips(p) ?? 0) : unit.propeller.diameter.value;
      return (d.values.rpm / 60) * Math.PI * tips;
    }),
  );
}
