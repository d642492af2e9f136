import { learnFrom } from "../../core/bench/learn";
import { packFrom } from "../../core/bench/learnPack";
import { PLAIN } from "../../core/bench/calibration";
import { readSweep } from "../../core/bench/sweep";
import type { ThrustReading } from "../../core/design/thrustTest";
import type { Design, Unit } from "../../core/design/schema";
import { air } from "../../core/subjects/air/air";
import { solveChain } from "../../core/subjects/propulsion/chain";
import { scaledMap } from "../../core/subjects/propulsion/learned";
import { propellerMap } from "../../core/subjects/propulsion/propeller";
import { calm, reading, rig, shownFor } from "./sweeps";

/**
 * A drive that is not what is entered: its propeller pushes and takes other than the model says, its Kv is off, its
 * controller has a dead band.
 */
export const TRUTH = { thrust: 0.88, torque: 1.12, kv: 0.97, dead: 0.06 };
export function measuredOn(unit: Unit, withRpm = true, truth = TRUTH): ThrustReading[] {
  const { propeller: p, motor, controller, gear } = unit;
  const map = propellerMap(
    {
      diameter: p.diameter.value,
      pitch: p.pitch.value,
      blades: p.blades,
      chord: p.chord.value,
      liftFactor: 1,
      dragFactor: 1,
    },
    { ...air(0, 15), density: 1.225 },
  );
  const drive = {
    count: 1,
    motor: {
      kv: motor.kv.value * truth.kv,
      resistance: motor.resistance.value,
      noLoadCurrent: motor.noLoadCurrent.value,
    },
    controllerResistance: controller.resistance.value,
    pathResistance: 0,
    ratio: gear.ratio,
    gearEfficiency: gear.efficiency.value,
    propeller: scaledMap(map, truth.thrust, truth.torque),
  };
  return Array.from({ length: 21 }, (_, i) => i / 20).map((u) => {
    const duty = u <= truth.dead ? 0 : (u - truth.dead) / (1 - truth.dead);
    const solved = solveChain(drive, { openCircuit: 12.2, resistance: 0.03, otherLoad: 0 }, duty);
    if (solved.status !== "converged" || duty === 0)
      return reading(u, { scale: shownFor(0, rig()), voltage: 12.2, current: 0, rpm: 0 });
    const { thrust, packVoltage, packCurrent, rpm } = solved.point;
    return reading(u, {
      scale: shownFor(thrust, rig()),
      voltage: packVoltage,
      current: packCurrent,
      rpm: withRpm ? rpm : null,
    });
  });
}
export const resultOf = (readings: ThrustReading[], unit: Unit) =>
  readSweep({ rig: rig(), air: calm, readings }, { scale: PLAIN, voltage: PLAIN, current: PLAIN }, unit);
export const learn = (unit: Unit, readings: ThrustReading[]) =>
  learnFrom(unit, null, resultOf(readings, unit), 3, "Test", 0.005, 0.01);

/** The design after its first drive was on the stand and what that taught was taken over. */
export function takenOver(design: Design): Design {
  const [unit] = design.units;
  const lesson = unit && learn(unit, measuredOn(unit));
  const battery = design.batteries.find((b) => b.id === unit?.batteryId);
  if (!unit || !lesson?.ok || !battery) throw new Error("nothing was learned");
  const sag = resultOf(measuredOn(unit), unit).resistance;
  const pack = packFrom(design, unit.id, battery, sag, calm.temperature, 3);
  if (!pack) throw new Error("nothing was learned of the pack");
  return {
    ...design,
    units: design.units.map((u) => (u === unit ? { ...u, learned: lesson.learned } : u)),
    batteries: design.batteries.map((b) => (b === battery ? { ...b, cellResistance: pack.cellResistance } : b)),
  };
}
