import type { HeldUpBy } from "../design/schema";
import { GRAVITY, air } from "../subjects/air/air";

/** The numbers that a new craft starts from. */
export interface FirstQuestion {
  heldUpBy: HeldUpBy;
  /** highest all-up mass, kg */
  massLimit: number;
  /** mass of what must be aboard already (radio, payload, parts on hand), kg */
  massOnHand: number;
  /** s */
  duration: number;
  /** m/s to cruise, skim, sail, crawl or hold a current at; left out: what such craft usually do */
  speed?: number | null;
  /** W that radio, servos, camera and lights draw all the time; left out: what small craft usually carry */
  steadyLoad?: number | null;
}

/**
 * A first answer with its band: best value and a standard uncertainty as a factor (lognormal: value ×/÷ factor, two
 * times in three).
 */
export interface Banded {
  value: number;
  factor: number;
}

export interface FirstAnswer {
  /** Power at the propulsors' shafts that keeps the craft up or going, W. */
  power: Banded;
  /** Energy that the pack must hold, J. */
  packEnergy: Banded;
  /** kg */
  packMass: Banded;
  /** What is left for structure and drive, kg; negative: the numbers cannot hold together. */
  remainder: number;
  remainderSd: number;
  assumptions: { name: string; value: number; factor: number; unit: string }[];
  /** Name of the rule that gives the power, worded in core/wording. */
  method: HeldUpBy;
}

interface Assumption {
  name: string;
  value: number;
  factor: number;
  unit: string;
  /** Exponent with which the power grows with it. */
  exponent: number;
}

const a = (name: string, value: number, factor: number, unit: string, exponent: number): Assumption => ({
  name,
  value,
  factor,
  unit,
  exponent,
});

/**
 * Generic figures of small craft, each with its spread: common practice, no single source. Power follows from them in
 * closed form:
 * rotors and flapping P = W·√(DL/2ρ)/FM, the ideal hover power T^1.5/√(2ρA) with disc loading DL = W/A; all others P =
 * D·v/η with the drag D as a share of the weight, or for gas ½ρv²·C·(m/1.0557)^⅔ on the envelope's volume to the
 * two-thirds; cushion: escaping air.
 */
const RULES: Record<HeldUpBy, Assumption[]> = {
  rotors: [a("disc loading", 70, 1.8, "N/m²", 0.5), a("figure of merit with motor", 0.5, 1.2, "", -1)],
  flapping: [a("loading of the swept disc", 25, 1.6, "N/m²", 0.5), a("figure of merit with drive", 0.3, 1.4, "", -1)],
  wings: [
    a("cruise speed", 11, 1.4, "m/s", 1),
    a("lift-to-drag ratio", 6, 1.5, "", -1),
    a("propeller and motor efficiency", 0.5, 1.2, "", -1),
  ],
  hull: [
    a("speed", 2, 1.5, "m/s", 1),
    a("resistance as share of weight", 0.06, 1.8, "", 1),
    a("propeller and motor efficiency", 0.35, 1.3, "", -1),
  ],
  gas: [
    a("speed", 2.5, 1.4, "m/s", 3),
    a("drag coefficient on volume^⅔, with fins and gondola", 0.1, 1.5, "", 1),
    a("propeller and motor efficiency", 0.15, 1.5, "", -1),
  ],
  cushion: [
    a("cushion loading", 60, 1.5, "N/m²", 0.5),
    a("escape area as share of cushion area", 0.06, 1.6, "", 1),
    a("fan and motor efficiency", 0.22, 1.3, "", -1),
    a("propulsion on top of lift", 4, 1.4, "×", 1),
  ],
  ground: [
    a("speed", 1, 1.6, "m/s", 1),
    a("resistance as share of weight", 0.25, 1.8, "", 1),
    a("drive efficiency", 0.4, 1.3, "", -1),
  ],
  submerged: [
    a("speed", 0.6, 1.4, "m/s", 3),
    a("drag coefficient on volume^⅔, an open frame", 0.8, 1.6, "", 1),
    a("propeller and motor efficiency", 0.25, 1.3, "", -1),
  ],
};

/** What radio, servos, camera and lights of a small craft draw, W (common practice). */
const STEADY = a("steady load", 2, 2, "W", 0);
/** Lightest pack in common use, kg. */
const LEAST_PACK = 0.008;
/** A speed that was asked for is meant to a tenth. */
const ASKED = 1.1;

/**
 * Resistance of a hull as a share of its weight by its volumetric Froude number v/√(g·∇^⅓): afloat, half way, planing
 * above about 3 (the regimes after Savitsky and Brown 1976, from memory; the shares common practice).
 */
function hullShare(mass: number, speed: number): Assumption {
  const froude = speed / Math.sqrt(GRAVITY * Math.cbrt(mass / 1000));
  return froude > 3
    ? a("resistance as share of weight, planing", 0.2, 1.5, "", 1)
    : froude > 1
      ? a("resistance as share of weight, half planing", 0.12, 1.6, "", 1)
      : a("resistance as share of weight, afloat", 0.05, 1.8, "", 1);
}

const USABLE = 0.8;
/** Specific energy of a generic lithium-polymer pack, J/kg, and its spread (common practice). */
const SPECIFIC_ENERGY = { value: 150 * 3600, factor: 1.2 };

function powerAtMass(kind: HeldUpBy, mass: number, get: (i: number) => number): number {
  const weight = mass * GRAVITY;
  const rho = air(0).density;
  switch (kind) {
    case "rotors":
    case "flapping":
      return (weight * Math.sqrt(get(0) / (2 * rho))) / get(1);
    case "wings":
      return (weight * get(0)) / get(1) / get(2);
    case "hull":
    case "ground":
      return (weight * get(1) * get(0)) / get(2);
    case "gas":
      return (0.5 * rho * get(0) ** 3 * get(1) * (mass / 1.0557) ** (2 / 3)) / get(2);
    case "submerged":
      return (0.5 * 1000 * get(0) ** 3 * get(1) * (mass / 1000) ** (2 / 3)) / get(2);
    case "cushion":
      // Flow through the escape area at √(2p/ρ), times the pressure: W·e·√(2p/ρ).
      return (weight * get(1) * Math.sqrt((2 * get(0)) / rho) * get(3)) / get(2);
  }
}

/**
 * First answer from three numbers, at the mass limit. A band of a factor of two is honest here: nothing of the craft
 * is known yet.
 * @param q massLimit > 0, massOnHand ≥ 0, duration > 0
 */
export function firstAnswer(q: FirstQuestion): FirstAnswer {
  const own = RULES[q.heldUpBy].map((r) =>
    r.unit === "m/s" && q.speed != null && q.speed > 0 ? { ...r, value: q.speed, factor: ASKED } : r,
  );
  const rules =
    q.heldUpBy === "hull" ? own.map((r, k) => (k === 1 ? hullShare(q.massLimit, own[0]?.value ?? 1) : r)) : own;
  const steady = q.steadyLoad != null ? { ...STEADY, value: Math.max(0, q.steadyLoad), factor: ASKED } : STEADY;
  const power = powerAtMass(q.heldUpBy, q.massLimit, (i) => rules[i]?.value ?? 1);
  const spread = Math.hypot(...rules.map((r) => r.exponent * Math.log(r.factor)));
  const drawn = power + steady.value;
  const energy = (drawn * q.duration) / USABLE;
  const packMass = Math.max(LEAST_PACK, energy / SPECIFIC_ENERGY.value);
  const energySpread = Math.hypot(power * spread, steady.value * Math.log(steady.factor)) / drawn;
  const packSpread = Math.hypot(energySpread, Math.log(SPECIFIC_ENERGY.factor));
  return {
    power: { value: power, factor: Math.exp(spread) },
    packEnergy: { value: energy, factor: Math.exp(energySpread) },
    packMass: { value: packMass, factor: Math.exp(packSpread) },
    remainder: q.massLimit - q.massOnHand - packMass,
    remainderSd: packMass * packSpread,
    assumptions: [
      ...[...rules, steady].map(({ name, value, factor, unit }) => ({ name, value, factor, unit })),
      { name: "pack", value: 150, factor: SPECIFIC_ENERGY.factor, unit: "W·h/kg" },
    ],
    method: q.heldUpBy,
  };
}
