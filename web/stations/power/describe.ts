import { supportOf } from "../../../core/design/support";
import type { Battery, Design, Unit } from "../../../core/design/schema";

const guess = (value: number) => ({ value, evidence: "guess" as const });

/** Tip speed of a screw near the surface that does not make the water boil yet, m/s, and volts of the usual pack. */
const QUIET_TIPS = 12;
const USUAL_VOLTS = 11;

/**
 * A drive whose propeller nobody knows yet, as it would begin in water: a small screw of three blades for this mass,
 * and a motor slow enough for it (common practice of small displacement craft). Null where somebody knows its size:
 * that stays.
 *
 * @param kg all-up mass
 */
export function asScrew(
  { propeller: p, propulsor, motor, measured, learned }: Unit,
  kg: number,
): Pick<Unit, "propeller" | "motor"> | null {
  if (propulsor || measured || learned || [p.diameter, p.pitch, p.chord].some((k) => k.evidence !== "guess"))
    return null;
  const diameter = Math.round(45 * Math.cbrt(kg)) / 1000;
  const rpm = (60 * QUIET_TIPS) / (Math.PI * diameter);
  return {
    propeller: {
      diameter: guess(diameter),
      pitch: guess(diameter),
      blades: 3,
      chord: guess(Math.round(diameter * 350) / 1000),
    },
    motor: motor.kv.evidence === "guess" ? { ...motor, kv: guess(Math.round(rpm / USUAL_VOLTS / 10) * 10) } : motor,
  };
}

/**
 * A drive and a pack to begin with, all guesses, sized to the craft's mass so that the first answer is not absurd.
 * Generic figures: Kv and
 * propeller for about half the weight in thrust (common practice).
 */
export function firstDrive(design: Design, mass: number | null): { unit: Unit; battery: Battery } {
  const kg = mass ?? design.brief.targets.find((t) => t.metric === "auw")?.value ?? 1;
  const diameter = Math.round(0.2 * Math.sqrt(kg) * 1000) / 1000;
  const pack = design.items.find((i) => /batter|pack|accu/i.test(i.name));
  const propeller = design.items.find((i) => /prop|rotor/i.test(i.name));
  return {
    battery: {
      id: "b1",
      name: "Pack",
      itemId: pack?.id ?? null,
      chemistry: "lipo",
      series: 3,
      capacity: guess(2.2),
      cellResistance: guess(0.008),
      cRating: 25,
      usable: 0.8,
      startCharge: 1,
      otherLoad: 3,
    },
    unit: {
      id: "d1",
      name: "Drive",
      count: 1,
      batteryId: "b1",
      propellerItemId: propeller?.id ?? null,
      learned: null,
      measured: null,
      places: [],
      copiesBecause: "",
      propulsor: null,
      around: [],
      motorItemId: null,
      controllerItemId: null,
      direction: supportOf(design).onThrust && !supportOf(design).beats ? "up" : "ahead",
      tilt: 0,
      throttleLimit: 1,
      reversible: false,
      surroundings: null,
      spin: "clockwise",
      motor: {
        kv: guess(Math.round(200 / diameter)),
        resistance: guess(0.06),
        noLoadCurrent: guess(0.8),
        maxCurrent: 25,
      },
      controller: { resistance: guess(0.004), maxCurrent: 30, maxCells: 4 },
      gear: { ratio: 1, efficiency: { value: 1, evidence: "measured", sd: 0 } },
      propeller: {
        diameter: guess(diameter),
        pitch: guess(Math.round(diameter * 550) / 1000),
        blades: 2,
        chord: guess(Math.round(diameter * 105) / 1000),
      },
    },
  };
}
