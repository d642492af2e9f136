import { type Evidence, magnitudeSd } from "../../design/evidence";
import type { Battery, Design, Unit } from "../../design/schema";
import type { Dimension } from "../../design/units";
import { taughtOf } from "./learned";
import { aroundFactor, hullOf } from "./around/factor";
import { kindInputs, kindOf } from "./kinds/models";
import { INDUCED_OFF, type LevelDrag } from "./levelDrag";
import { doubtOf, voltageExponent } from "./measured/curve";
import type { MeasuredPropulsor } from "./measured/declares";
import { WARM_WINDING } from "./motor";

/**
 * What the solvers read of a design: the duty and the drag area only where they are asked for. Of a craft on wings what
 * holds it back in level flight stands in place of the area: known once its wings are solved.
 */
export type Driven = Pick<Design, "states" | "gasLift" | "units" | "batteries" | "conductors" | "regulators"> & {
  brief: Pick<Design["brief"], "environment">;
  levelDrag?: LevelDrag | null;
} & Partial<Pick<Design, "duty" | "dragArea" | "waterDragArea">>;

export const INPUT_KEYS = [
  "kv",
  "motorResistance",
  "noLoadCurrent",
  "controllerResistance",
  "gearEfficiency",
  "diameter",
  "pitch",
  "chord",
  "kvFactor",
  "thrustFactor",
  "torqueFactor",
  "movingFactor",
  "capacity",
  "cellResistance",
  "cellVoltage",
  "mass",
  "dragArea",
  "waterDragArea",
  "induced",
  "load",
  "forceFactor",
  "currentFactor",
  "curveGap",
  "voltageExponent",
  "aroundFactor",
] as const;
/** One of these, or a number of the propulsor's own kind. */
export type InputKey = (typeof INPUT_KEYS)[number] | `propulsor.${string}`;

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
  /** of a number of the propulsor's own kind, as shown */
  label?: string;
}

/** Values of inputs, by `inputId`. */
export type InputValues = ReadonlyMap<string, number>;
export const inputId = (input: { of: string; key: InputKey }): string => `${input.of}/${input.key}`;

/**
 * Stated errors of the methods (1 sigma): thrust of a drive that was never on a stand ± 10 %, its torque ± 15 %, each
 * drive by itself; open-circuit curve ± 0.03 V a cell (docs/physics.md).
 * What the method gets wrong of one propeller it need not get wrong of another.
 */
const METHOD = { thrust: 0.1, torque: 0.15, cellVoltage: 0.03 };
/**
 * The same of a screw in water: sections are thicker, blades wider, and a hull, a guard or the surface is never far
 * (judgement).
 */
const IN_WATER = { thrust: 0.2, torque: 0.25 };
/** Share by which a motor's Kv differs from what is printed (common practice: 3 to 5 %). */
const PRINTED_KV = 0.04;

type Entered = { value: number; sd?: number; evidence: Evidence; note?: string };

/**
 * Share of the doubt about a drive's own figures that a sweep leaves: its factors make up for their errors at the
 * voltage and standing still; elsewhere a quarter stays (judgement).
 */
const LEFT = 0.25;

function unitInputs(unit: Unit): PowerInput[] {
  const taught = taughtOf(unit);
  const evidence = taught?.exact ? ("measured" as const) : ("calculated" as const);
  const factor = (key: InputKey, f: { value: number; sd: number }, by: Evidence = evidence): PowerInput => ({
    key,
    of: unit.id,
    name: unit.name,
    value: f.value,
    sd: f.sd,
    evidence: by,
    dimension: "ratio",
  });
  const method = unit.propulsor ? kindOf(unit.propulsor).doubt : unit.surroundings === "in water" ? IN_WATER : METHOD;
  const around = unit.measured?.asBuilt ? null : aroundFactor(unit);
  const beside = around ? [factor("aroundFactor", around, around.evidence)] : [];
  if (unit.measured) return [...measuredInputs(unit, unit.measured), ...beside];
  // What a hull does in motion is known less well than what it does at the bollard.
  const going = hullOf(unit)?.sd ?? 0;
  if (!taught)
    return [
      ...enteredInputs(unit),
      ...beside,
      ...(going > 0 ? [factor("movingFactor", { value: 1, sd: going }, "calculated")] : []),
      factor("thrustFactor", { value: 1, sd: method.thrust }),
      factor("torqueFactor", { value: 1, sd: method.torque }),
    ];
  return [
    ...enteredInputs(unit).map((i) => (taught.exact ? { ...i, sd: LEFT * i.sd, evidence } : i)),
    ...beside,
    factor("kvFactor", taught.kv),
    factor("thrustFactor", taught.thrust),
    factor("torqueFactor", taught.torque),
    // A sweep that stood still tells nothing of the same propeller moving.
    factor("movingFactor", { value: 1, sd: Math.hypot(method.thrust, going) }, "calculated"),
  ];
}

/** What a measured curve leaves open: its scale and meter, between its points, and how it goes with the voltage. */
function measuredInputs(unit: Unit, m: MeasuredPropulsor): PowerInput[] {
  const doubt = doubtOf(m, unit.count);
  const exponent = voltageExponent(m.on);
  const input = (key: InputKey, value: number, sd: number, evidence: Evidence): PowerInput => ({
    key,
    of: unit.id,
    name: unit.name,
    value,
    sd,
    evidence,
    dimension: "ratio",
  });
  return [
    input("forceFactor", 1, doubt.force, "measured"),
    input("currentFactor", 1, doubt.current, "measured"),
    input("curveGap", 0, 1, "measured"),
    input("voltageExponent", exponent.value, exponent.sd, "calculated"),
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
  const { motor, controller, gear } = unit;
  const { efficiency } = gear;
  return [
    input(
      "kv",
      motor.kv,
      "kv",
      motor.kv.sd ?? (motor.kv.evidence === "datasheet" ? PRINTED_KV * motor.kv.value : magnitudeSd(motor.kv)),
    ),
    input(
      "motorResistance",
      motor.resistance,
      "resistance",
      Math.hypot(magnitudeSd(motor.resistance), (WARM_WINDING.sd / WARM_WINDING.value) * motor.resistance.value),
    ),
    input("noLoadCurrent", motor.noLoadCurrent, "current"),
    input("controllerResistance", controller.resistance, "resistance"),
    // The doubt about a gear's efficiency lies in what it loses, not in what it passes on.
    input(
      "gearEfficiency",
      efficiency,
      "percent",
      efficiency.sd ?? magnitudeSd({ ...efficiency, value: 1 - efficiency.value }),
    ),
    ...shapeInputs(unit),
  ];
}

/** What is uncertain of the propulsor itself. */
function shapeInputs({ id, name, propeller, propulsor }: Unit): PowerInput[] {
  if (propulsor)
    return kindInputs(propulsor).map(({ key, ...known }) => ({ key: `propulsor.${key}`, of: id, name, ...known }));
  const size = (key: InputKey, known: Entered, sd: number): PowerInput => ({
    key,
    of: id,
    name,
    value: known.value,
    sd,
    evidence: known.evidence,
    dimension: "length",
  });
  return [
    // Propellers are stamped with diameter and pitch: a guess is a misread stamp, not a quarter of the size.
    size("diameter", propeller.diameter, propeller.diameter.sd ?? sizeSd(propeller.diameter, 0.03)),
    size("pitch", propeller.pitch, propeller.pitch.sd ?? sizeSd(propeller.pitch, 0.1)),
    size("chord", propeller.chord, magnitudeSd(propeller.chord)),
  ];
}

const packInputs = (battery: Battery): PowerInput[] =>
  (
    [
      ["capacity", battery.capacity, "capacity"],
      ["cellResistance", battery.cellResistance, "resistance"],
    ] as const
  ).map(([key, known, dimension]) => ({
    key,
    of: battery.id,
    name: battery.name,
    value: known.value,
    sd: magnitudeSd(known),
    evidence: known.evidence,
    dimension,
  }));

/** Share by which a mean current or power is off that nobody measured (judgement). */
export const GUESSED_LOAD = 0.25;

/** The mean currents and powers that phases of the duty are held by. */
const loadInputs = (duty: Design["duty"]): PowerInput[] =>
  duty.flatMap((p): PowerInput[] =>
    p.by === "current" || p.by === "power"
      ? [
          {
            key: "load",
            of: p.id,
            name: p.name,
            value: p.value,
            sd: p.known?.sd ?? GUESSED_LOAD * p.value,
            evidence: p.known?.evidence ?? "guess",
            dimension: p.by,
          },
        ]
      : [],
  );

/**
 * The uncertain inputs of all drives and packs of a design, with the errors of the methods. `mass` is the craft's,
 * kg.
 */
export function powerInputs(
  design: Driven,
  mass: { value: number; sd: number; evidence: Evidence } | null,
): PowerInput[] {
  const method = (key: InputKey, value: number, sd: number, dimension: Dimension): PowerInput => ({
    key,
    of: "",
    name: "",
    value,
    sd,
    evidence: "calculated",
    dimension,
  });
  const { dragArea = null, waterDragArea = null, levelDrag = null, duty = [] } = design;
  const area = levelDrag?.area ?? (dragArea && { ...dragArea, sd: magnitudeSd(dragArea) });
  return [
    ...loadInputs(duty),
    ...design.units.flatMap(unitInputs),
    ...design.batteries.flatMap(packInputs),
    method("cellVoltage", 0, METHOD.cellVoltage, "voltage"),
    ...(mass
      ? [
          {
            key: "mass" as const,
            of: "",
            name: "",
            value: mass.value,
            sd: mass.sd,
            evidence: mass.evidence,
            dimension: "mass" as const,
          },
        ]
      : []),
    ...(area
      ? [
          {
            key: "dragArea" as const,
            of: "",
            name: "",
            value: area.value,
            sd: area.sd,
            evidence: area.evidence,
            dimension: "area" as const,
          },
        ]
      : []),
    ...(waterDragArea
      ? [
          {
            key: "waterDragArea" as const,
            of: "",
            name: "",
            value: waterDragArea.value,
            sd: magnitudeSd(waterDragArea),
            evidence: waterDragArea.evidence,
            dimension: "area" as const,
          },
        ]
      : []),
    ...(levelDrag ? [method("induced", 1, INDUCED_OFF, "ratio")] : []),
  ];
}

function sizeSd(known: { value: number; evidence: Evidence }, guess: number): number {
  const share = known.evidence === "guess" ? guess : known.evidence === "datasheet" ? guess / 3 : 0.005;
  return known.value * share;
}
