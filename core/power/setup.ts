import type { Battery, Design, Unit } from "../design/schema";
import { type Evidence, magnitudeSd } from "../design/evidence";
import type { Dimension } from "../design/units";
import { type Air, GRAVITY, air } from "../media/air";
import { coldFactor, openCircuit } from "./battery";
import { remembering } from "../numeric/memo";
import type { Drive, Source } from "./chain";
import type { DutyPhase, Pack } from "./endurance";
import { type Propeller, type PropellerMap, standingMap } from "./propeller";

/** One uncertain number that the power chain rests on. */
export interface PowerInput {
  key: InputKey;
  value: number;
  sd: number;
  evidence: Evidence;
  dimension: Dimension;
}

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
  "capacity",
  "cellResistance",
  "cellVoltage",
  "mass",
] as const;
export type InputKey = (typeof INPUT_KEYS)[number];

/** Stated errors of the methods (1 sigma): section lift ± 6 %, section drag ± 20 %, open-circuit curve ± 0.03 V a cell (docs/physics.md). */
const METHOD = { bladeLift: 0.06, bladeDrag: 0.2, cellVoltage: 0.03 };

/** The inputs of a design's drive with their standard uncertainties. `mass` is the craft's, kg. */
export function powerInputs(unit: Unit, battery: Battery, mass: { value: number; sd: number; evidence: Evidence } | null): PowerInput[] {
  const input = (key: InputKey, known: { value: number; sd?: number; evidence: Evidence; note?: string }, dimension: Dimension): PowerInput => ({
    key,
    value: known.value,
    sd: magnitudeSd(known),
    evidence: known.evidence,
    dimension,
  });
  const { motor, controller, gear, propeller } = unit;
  const efficiency = gear.efficiency;
  // The doubt about a gear's efficiency lies in what it loses, not in what it passes on.
  const lossSd = efficiency.sd ?? magnitudeSd({ ...efficiency, value: 1 - efficiency.value });
  return [
    input("kv", motor.kv, "kv"),
    input("motorResistance", motor.resistance, "resistance"),
    input("noLoadCurrent", motor.noLoadCurrent, "current"),
    input("controllerResistance", controller.resistance, "resistance"),
    { key: "gearEfficiency", value: efficiency.value, sd: lossSd, evidence: efficiency.evidence, dimension: "percent" },
    // Propellers are stamped with diameter and pitch: a guess is a misread stamp, not a quarter of the size.
    { ...input("diameter", propeller.diameter, "length"), sd: propeller.diameter.sd ?? sizeSd(propeller.diameter, 0.03) },
    { ...input("pitch", propeller.pitch, "length"), sd: propeller.pitch.sd ?? sizeSd(propeller.pitch, 0.1) },
    input("chord", propeller.chord, "length"),
    { key: "bladeLift", value: 1, sd: METHOD.bladeLift, evidence: "calculated", dimension: "ratio" },
    { key: "bladeDrag", value: 1, sd: METHOD.bladeDrag, evidence: "calculated", dimension: "ratio" },
    input("capacity", battery.capacity, "capacity"),
    input("cellResistance", battery.cellResistance, "resistance"),
    { key: "cellVoltage", value: 0, sd: METHOD.cellVoltage, evidence: "calculated", dimension: "voltage" },
    ...(mass ? [{ key: "mass" as const, value: mass.value, sd: mass.sd, evidence: mass.evidence, dimension: "mass" as const }] : []),
  ];
}

function sizeSd(known: { value: number; evidence: Evidence }, guess: number): number {
  const share = known.evidence === "guess" ? guess : known.evidence === "datasheet" ? guess / 3 : 0.005;
  return known.value * share;
}

const maps = remembering<PropellerMap>(80);

/** The standing map of a propeller in this air, remembered: most uncertain inputs leave it as it is. */
const rememberedMap = (prop: Propeller, medium: Air): PropellerMap => maps(JSON.stringify([prop, medium]), () => standingMap(prop, medium));

/** A drive and its pack in plain numbers, ready for the solvers. */
export interface PowerSetup {
  drive: Drive;
  pack: Pack;
  medium: Air;
  /** pack at the start of a run */
  start: Source;
  phases: DutyPhase[];
  throttleLimit: number;
  /** weight, N; null while the mass is not known */
  weight: number | null;
  diameter: number;
}

/** Builds the solvers' numbers from a design and values for its uncertain inputs. */
export function setUp(design: Design, unit: Unit, battery: Battery, values: Partial<Record<InputKey, number>>): PowerSetup {
  const v = (key: InputKey, fallback: number) => values[key] ?? fallback;
  const { environment } = design.brief;
  const medium = air(environment.altitude, environment.airTemperature);
  const { motor, controller, gear, propeller } = unit;
  const diameter = v("diameter", propeller.diameter.value);
  const map = rememberedMap(
    {
      diameter,
      pitch: v("pitch", propeller.pitch.value),
      blades: propeller.blades,
      chord: v("chord", propeller.chord.value),
      liftFactor: v("bladeLift", 1),
      dragFactor: v("bladeDrag", 1),
    },
    medium,
  );
  const pack: Pack = {
    chemistry: battery.chemistry,
    series: battery.series,
    capacity: v("capacity", battery.capacity.value),
    resistance: battery.series * v("cellResistance", battery.cellResistance.value) * coldFactor(battery.chemistry, environment.packTemperature),
    usable: battery.usable,
    startCharge: battery.startCharge,
    otherLoad: battery.otherLoad,
  };
  const mass = values.mass;
  const weight = mass === undefined ? null : mass * GRAVITY;
  return {
    drive: {
      count: unit.count,
      motor: {
        kv: v("kv", motor.kv.value),
        resistance: v("motorResistance", motor.resistance.value),
        noLoadCurrent: v("noLoadCurrent", motor.noLoadCurrent.value),
      },
      controllerResistance: v("controllerResistance", controller.resistance.value),
      ratio: gear.ratio,
      gearEfficiency: Math.min(1, v("gearEfficiency", gear.efficiency.value)),
      propeller: map,
    },
    pack,
    medium,
    start: {
      openCircuit: (openCircuit(battery.chemistry, battery.startCharge) + v("cellVoltage", 0)) * battery.series,
      resistance: pack.resistance,
      otherLoad: battery.otherLoad,
    },
    phases: design.duty.flatMap((p): DutyPhase[] => {
      if (p.by === "throttle") return [{ share: p.share, throttle: p.value }];
      if (p.by === "thrust") return [{ share: p.share, thrust: p.value }];
      return weight === null ? [] : [{ share: p.share, thrust: p.value * weight }];
    }),
    throttleLimit: unit.throttleLimit,
    weight,
    diameter,
  };
}
