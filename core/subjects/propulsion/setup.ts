import { type Evidence, magnitudeSd } from "../../design/evidence";
import type { Battery, Design, Regulator, Unit } from "../../design/schema";
import type { Dimension } from "../../design/units";
import { type Air, GRAVITY, air } from "../air/air";
import { remembering } from "../../numeric/memo";
import { coldFactor, openCircuit } from "../energy/battery";
import type { Drive, Source } from "./chain";
import type { DutyPhase, Pack } from "../energy/endurance";
import { dutyOf, scaledMap, taughtOf } from "./learned";
import { type Propeller, type PropellerMap, propellerMap } from "./propeller";

export const INPUT_KEYS = [
  "kv",
  "motorResistance",
  "noLoadCurrent",
  "controllerResistance",
  "gearEfficiency",
  "diameter",
  "pitch",
  "chord",
  "bladeLift",
  "bladeDrag",
  "kvFactor",
  "thrustFactor",
  "torqueFactor",
  "capacity",
  "cellResistance",
  "cellVoltage",
  "mass",
  "dragArea",
] as const;
export type InputKey = (typeof INPUT_KEYS)[number];

/** One uncertain number that the power chain rests on. */
export interface PowerInput {
  key: InputKey;
  /** Drive or pack that it belongs to; empty for what the whole craft or the method has. */
  of: string;
  /** Name of that drive or pack. */
  name: string;
  value: number;
  sd: number;
  evidence: Evidence;
  dimension: Dimension;
}

/** Values of inputs, by `inputId`. */
export type InputValues = ReadonlyMap<string, number>;
export const inputId = (input: { of: string; key: InputKey }): string => `${input.of}/${input.key}`;

/** Stated errors of the methods (1 sigma): section lift ± 6 %, section drag ± 20 %, open-circuit curve ± 0.03 V a cell (docs/physics.md). */
const METHOD = { bladeLift: 0.06, bladeDrag: 0.2, cellVoltage: 0.03 };

type Entered = { value: number; sd?: number; evidence: Evidence; note?: string };

/**
 * Share of the doubt about a drive's own figures that a sweep leaves: its factors make up for their errors at the voltage and standing still; elsewhere a quarter stays (judgement).
 */
const LEFT = 0.25;

function unitInputs(unit: Unit): PowerInput[] {
  const taught = taughtOf(unit);
  if (!taught) return enteredInputs(unit);
  const evidence = taught.exact ? ("measured" as const) : ("calculated" as const);
  const factor = (key: InputKey, f: { value: number; sd: number }): PowerInput => ({
    key,
    of: unit.id,
    name: unit.name,
    value: f.value,
    sd: f.sd,
    evidence,
    dimension: "ratio",
  });
  return [
    ...enteredInputs(unit).map((i) => (taught.exact ? { ...i, sd: LEFT * i.sd, evidence } : i)),
    factor("kvFactor", taught.kv),
    factor("thrustFactor", taught.thrust),
    factor("torqueFactor", taught.torque),
  ];
}

function enteredInputs(unit: Unit): PowerInput[] {
  const input = (key: InputKey, known: Entered, dimension: Dimension, sd = magnitudeSd(known)): PowerInput => ({
    key,
    of: unit.id,
    name: unit.name,
    value: known.value,
    sd,
    evidence: known.evidence,
    dimension,
  });
  const { motor, controller, gear, propeller } = unit;
  const { efficiency } = gear;
  return [
    input("kv", motor.kv, "kv"),
    input("motorResistance", motor.resistance, "resistance"),
    input("noLoadCurrent", motor.noLoadCurrent, "current"),
    input("controllerResistance", controller.resistance, "resistance"),
    // The doubt about a gear's efficiency lies in what it loses, not in what it passes on.
    input("gearEfficiency", efficiency, "percent", efficiency.sd ?? magnitudeSd({ ...efficiency, value: 1 - efficiency.value })),
    // Propellers are stamped with diameter and pitch: a guess is a misread stamp, not a quarter of the size.
    input("diameter", propeller.diameter, "length", propeller.diameter.sd ?? sizeSd(propeller.diameter, 0.03)),
    input("pitch", propeller.pitch, "length", propeller.pitch.sd ?? sizeSd(propeller.pitch, 0.1)),
    input("chord", propeller.chord, "length"),
  ];
}

const packInputs = (battery: Battery): PowerInput[] =>
  (
    [
      ["capacity", battery.capacity, "capacity"],
      ["cellResistance", battery.cellResistance, "resistance"],
    ] as const
  ).map(([key, known, dimension]) => ({ key, of: battery.id, name: battery.name, value: known.value, sd: magnitudeSd(known), evidence: known.evidence, dimension }));

/** The uncertain inputs of all drives and packs of a design, with the errors of the methods. `mass` is the craft's, kg. */
export function powerInputs(design: Design, mass: { value: number; sd: number; evidence: Evidence } | null): PowerInput[] {
  const method = (key: InputKey, value: number, sd: number, dimension: Dimension): PowerInput => ({ key, of: "", name: "", value, sd, evidence: "calculated", dimension });
  const { dragArea } = design;
  return [
    ...design.units.flatMap(unitInputs),
    method("bladeLift", 1, METHOD.bladeLift, "ratio"),
    method("bladeDrag", 1, METHOD.bladeDrag, "ratio"),
    ...design.batteries.flatMap(packInputs),
    method("cellVoltage", 0, METHOD.cellVoltage, "voltage"),
    ...(mass ? [{ key: "mass" as const, of: "", name: "", value: mass.value, sd: mass.sd, evidence: mass.evidence, dimension: "mass" as const }] : []),
    ...(dragArea
      ? [{ key: "dragArea" as const, of: "", name: "", value: dragArea.value, sd: magnitudeSd(dragArea), evidence: dragArea.evidence, dimension: "area" as const }]
      : []),
  ];
}

function sizeSd(known: { value: number; evidence: Evidence }, guess: number): number {
  const share = known.evidence === "guess" ? guess : known.evidence === "datasheet" ? guess / 3 : 0.005;
  return known.value * share;
}

const maps = remembering<PropellerMap>(200);

/** The map of a propeller in this air, remembered: most uncertain inputs leave it as it is. */
export const rememberedMap = (prop: Propeller, medium: Air): PropellerMap => maps(JSON.stringify([prop, medium]), () => propellerMap(prop, medium));

/** Steady power (W) that a regulator draws from its pack: what hangs on it, through its efficiency; a linear one draws its load's current at the pack's voltage. */
export function regulatorPower(regulator: Regulator, packVoltage: number): number {
  const current = regulator.loads.reduce((s, l) => s + l.current, 0);
  return regulator.kind === "linear" ? current * packVoltage : (current * regulator.voltage) / regulator.efficiency;
}

export interface UnitSetup {
  unit: Unit;
  drive: Drive;
  /** highest throttle, 0 to 1 */
  limit: number;
  /** m */
  diameter: number;
  propeller: Propeller;
}
export interface PackSetup {
  battery: Battery;
  pack: Pack;
  /** pack at the start of a run */
  start: Source;
  /** Indices of the drives that it feeds. */
  units: number[];
  phases: DutyPhase[];
}

/** Drives and packs in plain numbers, ready for the solvers. */
export interface PowerSetup {
  units: UnitSetup[];
  packs: PackSetup[];
  medium: Air;
  /** Indices of the drives whose thrust the craft is judged by: those that lift it, or those that push it along. */
  main: number[];
  /** weight, N; null while the mass is not known */
  weight: number | null;
  /** m²; null while not known */
  dragArea: number | null;
  /** What the duty asks for and the design does not tell; null when all is there. */
  dutyNeeds: "mass" | "drag area" | null;
  hasDuty: boolean;
}

/** The drives that a craft is judged by: those that push up when it is held up by them, else those that push ahead, else astern, else all. */
function mainUnits(design: Design): number[] {
  const lifted = design.heldUpBy === "rotors" || design.heldUpBy === "flapping";
  const indices = design.units.map((_, i) => i);
  const along = (wanted: readonly string[]) => indices.filter((i) => wanted.includes(design.units[i]?.direction ?? ""));
  const first = [lifted ? ["up"] : ["ahead"], ["ahead"], ["astern"]].map(along).find((found) => found.length > 0);
  return first ?? indices;
}

/** Builds the solvers' numbers from a design and values for its uncertain inputs (nominal where none is given). */
export function setUp(design: Design, values: InputValues): PowerSetup {
  const v = (of: string, key: InputKey, fallback: number) => values.get(`${of}/${key}`) ?? fallback;
  const { environment } = design.brief;
  const medium = air(environment.altitude, environment.airTemperature);
  const inPath = (batteryId: string, unitId: string | null) =>
    design.conductors.filter((c) => c.batteryId === batteryId && c.unitId === unitId).reduce((s, c) => s + c.resistance, 0);
  const units = design.units.map((unit): UnitSetup => {
    const { motor, controller, gear, propeller } = unit;
    const diameter = v(unit.id, "diameter", propeller.diameter.value);
    const taught = taughtOf(unit);
    const shape: Propeller = {
      diameter,
      pitch: v(unit.id, "pitch", propeller.pitch.value),
      blades: propeller.blades,
      chord: v(unit.id, "chord", propeller.chord.value),
      // A drive that was on the stand has factors of its own in place of the method's.
      liftFactor: taught ? 1 : v("", "bladeLift", 1),
      dragFactor: taught ? 1 : v("", "bladeDrag", 1),
    };
    return {
      unit,
      diameter,
      limit: unit.throttleLimit,
      propeller: shape,
      drive: {
        count: unit.count,
        motor: {
          kv: v(unit.id, "kv", motor.kv.value) * (taught ? v(unit.id, "kvFactor", taught.kv.value) : 1),
          resistance: v(unit.id, "motorResistance", motor.resistance.value),
          noLoadCurrent: v(unit.id, "noLoadCurrent", motor.noLoadCurrent.value),
        },
        controllerResistance: v(unit.id, "controllerResistance", controller.resistance.value),
        pathResistance: inPath(unit.batteryId, unit.id),
        ratio: gear.ratio,
        gearEfficiency: Math.min(1, v(unit.id, "gearEfficiency", gear.efficiency.value)),
        propeller: taught
          ? scaledMap(rememberedMap(shape, medium), v(unit.id, "thrustFactor", taught.thrust.value), v(unit.id, "torqueFactor", taught.torque.value))
          : rememberedMap(shape, medium),
        ...(taught?.throttle ? { duty: dutyOf(taught.throttle) } : {}),
      },
    };
  });
  const mass = values.get("/mass");
  const weight = mass === undefined ? null : mass * GRAVITY;
  const dragArea = design.dragArea ? v("", "dragArea", design.dragArea.value) : null;
  const dutyNeeds =
    design.duty.some((p) => p.by === "thrustToWeight") && weight === null
      ? ("mass" as const)
      : design.duty.some((p) => p.by === "speed") && dragArea === null
        ? ("drag area" as const)
        : null;
  const cycle = design.duty.reduce((s, p) => s + p.seconds * p.repeats, 0);
  const strength = (i: number) => (units[i]?.unit.count ?? 0) * (units[i]?.diameter ?? 0) ** 2;
  const packs = design.batteries.map((battery): PackSetup => {
    const cells = battery.series;
    const open = (openCircuit(battery.chemistry, battery.startCharge) + v("", "cellVoltage", 0)) * cells;
    const resistance =
      cells * v(battery.id, "cellResistance", battery.cellResistance.value) * coldFactor(battery.chemistry, environment.packTemperature) + inPath(battery.id, null);
    const otherLoad = battery.otherLoad + design.regulators.filter((r) => r.batteryId === battery.id).reduce((s, r) => s + regulatorPower(r, open), 0);
    const own = units.flatMap((u, i) => (u.unit.batteryId === battery.id ? [i] : []));
    const pack: Pack = {
      chemistry: battery.chemistry,
      series: cells,
      capacity: v(battery.id, "capacity", battery.capacity.value),
      resistance,
      usable: battery.usable,
      startCharge: battery.startCharge,
      otherLoad,
    };
    const phases =
      dutyNeeds !== null
        ? []
        : design.duty.map((p): DutyPhase => {
            const chosen =
              p.unitIds.length > 0 ? units.flatMap((u, i) => (p.unitIds.includes(u.unit.id) ? [i] : [])) : p.by === "throttle" ? units.map((_, i) => i) : mainUnits(design);
            const here = chosen.filter((i) => own.includes(i));
            // A thrust asked of drives on several packs is shared out by their disc area.
            const part = chosen.length > 0 ? here.reduce((s, i) => s + strength(i), 0) / chosen.reduce((s, i) => s + strength(i), 0) : 0;
            const speed = p.by === "speed" ? p.value : 0;
            const thrust = p.by === "thrust" ? p.value : p.by === "thrustToWeight" ? p.value * (weight ?? 0) : 0.5 * medium.density * speed ** 2 * (dragArea ?? 0);
            return {
              share: (p.seconds * p.repeats) / cycle,
              drives: here.map((i) => own.indexOf(i)),
              by: p.by === "throttle" ? { throttle: p.value } : { thrust: thrust * part },
              speed,
            };
          });
    return { battery, pack, units: own, phases, start: { openCircuit: open, resistance, otherLoad } };
  });
  return { units, packs, medium, main: mainUnits(design), weight, dragArea, dutyNeeds, hasDuty: design.duty.length > 0 };
}
