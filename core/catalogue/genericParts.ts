import Papa from "papaparse";
import type { Design } from "../design/schema";
import type { ShelfPart } from "../design/shelf";
import type { Dimension } from "../design/units";
import { CHEMISTRY, type Chemistry } from "../subjects/energy/battery";
import { LAWS, genericController, genericMotor, genericPack, genericPropeller, propellerMass } from "./catalogue";
import { putInLedger } from "./ledgerEntry";

/** Kinds of generic part, and what each is listed over. */
export const GENERIC_KINDS = ["motor", "controller", "pack", "propeller", "servo"] as const;
export type GenericKind = (typeof GENERIC_KINDS)[number];

/** What a list of generic parts is asked for; each kind uses some of it. */
export interface GenericWish {
  /** rpm/V */
  kv: number;
  chemistry: Chemistry;
  series: number;
  blades: number;
  /** pitch over diameter */
  pitchRatio: number;
}

/** One figure of a generic part, with the standard deviation of its law as a share. */
export interface Figure {
  label: string;
  value: number;
  dimension: Dimension;
  band: number;
}
export type GenericPart = {
  /** What it is listed by: kg, A, A·h or m. */
  size: number;
  name: string;
  /** kg, with its band as a share */
  mass: number;
  massBand: number;
  figures: Figure[];
} & (
  | { kind: "motor"; motor: ReturnType<typeof genericMotor> }
  | { kind: "controller"; controller: ReturnType<typeof genericController>["controller"] }
  | { kind: "pack"; battery: ReturnType<typeof genericPack>["battery"] }
  | { kind: "propeller"; diameter: number; pitch: number; blades: number }
  | { kind: "servo" }
);

const MOTOR_MASSES = [0.012, 0.02, 0.035, 0.06, 0.1, 0.16, 0.25, 0.4, 0.65];
const RATINGS = [8, 12, 20, 30, 45, 60, 80, 120];
const CAPACITIES = [0.3, 0.5, 0.85, 1.3, 2.2, 3.3, 5, 8];
const DIAMETERS = [0.075, 0.1, 0.127, 0.15, 0.178, 0.203, 0.23, 0.254, 0.3, 0.35, 0.4];
const SERVO_MASSES = [0.004, 0.009, 0.013, 0.022, 0.045, 0.06];

const grams = (kg: number) => `${Math.round(kg * 1000)} g`;

/** Generic parts of one kind in usual sizes, by the laws of `catalogue.ts`. */
export function genericParts(kind: GenericKind, wish: GenericWish): GenericPart[] {
  switch (kind) {
    case "motor":
      return MOTOR_MASSES.map((mass) => {
        const motor = genericMotor(wish.kv, mass);
        return {
          kind,
          motor,
          size: mass,
          name: `Motor, ${Math.round(wish.kv)} rpm/V, ${grams(mass)}`,
          mass,
          massBand: 0,
          figures: [
            {
              label: "lasting power",
              value: LAWS.motorPower.value * mass,
              dimension: "power",
              band: LAWS.motorPower.band,
            },
            {
              label: "resistance",
              value: motor.resistance.value,
              dimension: "resistance",
              band: 2 * LAWS.motorConstant.band,
            },
            {
              label: "no-load current",
              value: motor.noLoadCurrent.value,
              dimension: "current",
              band: LAWS.noLoad.band,
            },
            { label: "most current", value: motor.maxCurrent, dimension: "current", band: LAWS.motorHeat.band },
          ],
        };
      });
    case "controller":
      return RATINGS.map((rating) => {
        const { controller, mass } = genericController(rating, Math.max(wish.series, 4));
        return {
          kind,
          controller,
          size: rating,
          name: `Controller, ${rating} A`,
          mass,
          massBand: LAWS.controllerMass.band,
          figures: [
            { label: "most current", value: rating, dimension: "current", band: 0 },
            {
              label: "resistance",
              value: controller.resistance.value,
              dimension: "resistance",
              band: LAWS.controllerResistance.band,
            },
          ],
        };
      });
    case "pack":
      return CAPACITIES.map((capacity) => {
        const { battery, energy, mass } = genericPack(wish.chemistry, wish.series, capacity);
        const { specificEnergy } = CHEMISTRY[wish.chemistry];
        return {
          kind,
          battery,
          size: capacity,
          name: `Pack, ${wish.series} cells, ${capacity} A·h`,
          mass,
          massBand: specificEnergy.sd / specificEnergy.value,
          figures: [
            { label: "capacity", value: capacity, dimension: "capacity", band: 0.05 },
            { label: "energy", value: energy * 3600, dimension: "energy", band: 0.05 },
            { label: "each cell", value: battery.cellResistance.value, dimension: "resistance", band: 0.3 },
            { label: "most current", value: battery.cRating * capacity, dimension: "current", band: 0.3 },
          ],
        };
      });
    case "propeller":
      return DIAMETERS.map((diameter) => ({
        kind,
        diameter,
        pitch: wish.pitchRatio * diameter,
        blades: wish.blades,
        size: diameter,
        name: `Propeller, ${Math.round(diameter * 1000)} mm, ${wish.blades} blades`,
        mass: propellerMass(diameter, wish.blades),
        massBand: LAWS.propellerMass.band,
        figures: [
          { label: "diameter", value: diameter, dimension: "length", band: 0 },
          { label: "pitch", value: wish.pitchRatio * diameter, dimension: "length", band: 0 },
          { label: "widest chord", value: LAWS.chord.value * diameter, dimension: "length", band: LAWS.chord.band },
        ],
      }));
    case "servo":
      return SERVO_MASSES.map((mass) => {
        const torque = LAWS.servoTorque.value * mass;
        return {
          kind,
          size: mass,
          name: `Servo, ${grams(mass)}`,
          mass,
          massBand: 0,
          figures: [
            { label: "stall torque", value: torque, dimension: "torque", band: LAWS.servoTorque.band },
            {
              label: "stall current",
              value: 0.4 + LAWS.servoStall.value * torque,
              dimension: "current",
              band: LAWS.servoStall.band,
            },
          ],
        };
      });
  }
}

/**
 * The design with a generic part in place of what a drive has: its numbers in the drive or pack, and its mass in the
 * ledger entry that it replaces, as guesses. A part that no single
 * entry stands for is added to the ledger at the CG. What was planned and where it sits stay.
 *
 * @returns `entry`, the ledger entry that carries the mass now
 */
export function fitGeneric(design: Design, unitId: string, part: GenericPart): { design: Design; entry: string } {
  const next = structuredClone(design);
  const unit = next.units.find((u) => u.id === unitId);
  const battery = next.batteries.find((b) => b.id === unit?.batteryId);
  if (part.kind === "motor" && unit) unit.motor = part.motor;
  if (part.kind === "controller" && unit) unit.controller = part.controller;
  if (part.kind === "pack" && battery) Object.assign(battery, part.battery);
  if (part.kind === "propeller" && unit)
    Object.assign(unit, { propeller: genericPropeller(part.diameter, part.pitch, part.blades), propulsor: null });
  const mass = {
    value: part.mass,
    evidence: "guess" as const,
    ...(part.massBand > 0 ? { sd: part.massBand * part.mass } : {}),
  };
  return { entry: putInLedger(next, unit, part.kind, { name: part.name, mass }), design: next };
}

/** A generic part as one for the shelf, all guesses: to be filled in as the real one is read, weighed and measured. */
export function shelfPartOf(part: GenericPart): ShelfPart {
  const mass = {
    value: part.mass,
    evidence: "guess" as const,
    ...(part.massBand > 0 ? { sd: part.massBand * part.mass } : {}),
  };
  const common = { name: part.name, mass, price: null, notes: "generic, by scaling laws" };
  switch (part.kind) {
    case "motor":
      return { kind: "motor", ...common, ...part.motor };
    case "controller":
      return { kind: "controller", ...common, ...part.controller };
    case "pack":
      return { kind: "pack", ...common, ...part.battery, bought: null, cycles: null, readings: [] };
    case "propeller":
      return { kind: "propeller", ...common, ...genericPropeller(part.diameter, part.pitch, part.blades) };
    case "servo": {
      const figure = (k: number) => ({ value: part.figures[k]?.value ?? 0, evidence: "guess" as const });
      return { kind: "servo", ...common, torque: figure(0), voltage: 6, stallCurrent: figure(1), minVoltage: 4.8 };
    }
  }
}

/** A list as CSV, SI units in the headers, each figure with its standard deviation beside it. */
export function genericText(parts: readonly GenericPart[], unitOf: (d: Dimension) => string): string {
  const [first] = parts;
  if (!first) return "";
  const fields = [
    "Part",
    "mass, kg",
    "± mass, kg",
    ...first.figures.flatMap((f) => [`${f.label}, ${unitOf(f.dimension)}`, `± ${f.label}, ${unitOf(f.dimension)}`]),
  ];
  const round = (v: number) => Number(v.toPrecision(4));
  const data = parts.map((p) => [
    p.name,
    round(p.mass),
    round(p.massBand * p.mass),
    ...p.figures.flatMap((f) => [round(f.value), round(f.band * f.value)]),
  ]);
  return Papa.unparse({ fields, data }, { newline: "\n" });
}
