import type { Battery, Unit } from "../design/schema";
import { CHEMISTRY, type Chemistry, openCircuit } from "../subjects/energy/battery";
import { torqueConstant } from "../subjects/propulsion/motor";

/**
 * Generic parts of no particular make, from scaling laws, for a first idea before anything is on the bench. All
 * figures are common practice (from memory of many
 * published data sheets); the band beside each is one standard deviation as a share. Fit a real part and enter what
 * is stamped on it as soon as it is chosen.
 */
export const LAWS = {
  /** Lasting electrical power of an outrunner in moving air, W for each kg of motor. */
  motorPower: { value: 4000, band: 0.3 },
  /** Motor constant Kt/√R of a 100 g outrunner, N·m/√W, and the exponent with which it grows with mass. */
  motorConstant: { value: 0.0427, exponent: 0.7, band: 0.2 },
  /** No-load current of a 100 g motor of 1000 rpm/V, A; grows with Kv and with mass. */
  noLoad: { value: 1.2, band: 0.3 },
  /** Heat that a motor stands in moving air, W for each kg. */
  motorHeat: { value: 800, band: 0.3 },
  /** Controller: mass for each ampere, kg, on top of 5 g; resistance times rating, Ω·A. */
  controllerMass: { value: 0.0009, band: 0.3 },
  controllerResistance: { value: 0.16, band: 0.4 },
  /** Cell resistance times capacity, Ω·A·h, by chemistry. */
  cellResistance: { lipo: 0.0176, lihv: 0.0185, liion: 0.075, lifepo4: 0.03, nimh: 0.03, lead: 0.06 } satisfies Record<
    Chemistry,
    number
  >,
  /** Lasting C rating by chemistry. */
  cRating: { lipo: 30, lihv: 30, liion: 5, lifepo4: 15, nimh: 8, lead: 3 } satisfies Record<Chemistry, number>,
  /** Mass of a two-blade propeller, kg, over diameter^2.5 in m. */
  propellerMass: { value: 0.6, exponent: 2.5, band: 0.4 },
  /** Widest chord over diameter. */
  chord: { value: 0.105, band: 0.1 },
  /** Servo: stall torque at 6 V, N·m for each kg of servo; stall current, A for each N·m, on top of 0.4 A. */
  servoTorque: { value: 21, band: 0.4 },
  servoStall: { value: 2.2, band: 0.4 },
  /** Prices, €: motor by power, pack by energy, controller by current, propeller by size. */
  price: { motorPerWatt: 0.09, packPerWh: 1.1, controllerPerAmp: 0.8, propellerPerMetre: 30, band: 0.4 },
} as const;

/** Names by which a ledger entry is a motor or a controller (common practice). */

const guess = (value: number, band: number) => ({ value, evidence: "guess" as const, sd: band * value });

/** A generic brushless motor of this Kv (rpm/V) and mass (kg). Valid for about 10 g to 1 kg. */
export function genericMotor(kv: number, mass: number): Unit["motor"] {
  const constant = LAWS.motorConstant.value * (mass / 0.1) ** LAWS.motorConstant.exponent;
  const resistance = (torqueConstant(kv) / constant) ** 2;
  return {
    kv: guess(kv, 0.03),
    resistance: guess(resistance, 2 * LAWS.motorConstant.band),
    noLoadCurrent: guess(LAWS.noLoad.value * (kv / 1000) * (mass / 0.1), LAWS.noLoad.band),
    maxCurrent: Number(Math.sqrt((LAWS.motorHeat.value * mass) / resistance).toPrecision(3)),
  };
}

/** Mass (kg) of a motor for this lasting power (W). */
export const motorMassFor = (power: number): number => power / LAWS.motorPower.value;

/** A generic controller of this rating (A), and its mass (kg). */
export function genericController(rating: number, cells: number): { controller: Unit["controller"]; mass: number } {
  return {
    controller: {
      resistance: guess(LAWS.controllerResistance.value / rating, LAWS.controllerResistance.band),
      maxCurrent: rating,
      maxCells: cells,
    },
    mass: 0.005 + LAWS.controllerMass.value * rating,
  };
}

/** A generic pack, its energy (Wh, at half charge) and its mass (kg) from the specific energy of its chemistry. */
export function genericPack(
  chemistry: Chemistry,
  series: number,
  capacity: number,
): {
  battery: Pick<Battery, "chemistry" | "series" | "capacity" | "cellResistance" | "cRating">;
  energy: number;
  mass: number;
} {
  const energy = series * openCircuit(chemistry, 0.5) * capacity;
  return {
    energy,
    battery: {
      chemistry,
      series,
      capacity: guess(capacity, 0.05),
      cellResistance: guess(LAWS.cellResistance[chemistry] / capacity, 0.3),
      cRating: LAWS.cRating[chemistry],
    },
    mass: energy / CHEMISTRY[chemistry].specificEnergy.value,
  };
}

/**
 * A generic propeller of this size (m): what is stamped on it is a guess until one is chosen, its chord follows the
 * law.
 */
export const genericPropeller = (diameter: number, pitch: number, blades: number): Unit["propeller"] => ({
  diameter: { value: diameter, evidence: "guess" },
  pitch: { value: pitch, evidence: "guess" },
  blades,
  chord: guess(LAWS.chord.value * diameter, LAWS.chord.band),
});

/** Mass (kg) of a generic propeller of this diameter (m) and blade count. */
export const propellerMass = (diameter: number, blades: number): number =>
  LAWS.propellerMass.value * diameter ** LAWS.propellerMass.exponent * (0.5 + 0.25 * blades);

/** Usual prices (€) of one motor (kg), controller (A), propeller (m) and of a pack (Wh). */
export function usualPrices(motorMass: number, rating: number, packEnergyWh: number, diameter: number) {
  const { price } = LAWS;
  return {
    motor: price.motorPerWatt * motorMass * LAWS.motorPower.value,
    controller: price.controllerPerAmp * rating,
    propeller: price.propellerPerMetre * diameter,
    pack: price.packPerWh * packEnergyWh,
  };
}
