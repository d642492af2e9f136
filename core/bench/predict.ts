import type { Unit } from "../design/schema";
import { solveChain } from "../subjects/propulsion/chain";
import { standDrive, standMap } from "./standDrive";
import type { Level } from "./sweep";

export interface PredictedLevel {
  throttle: number;
  /** N */
  thrust: number;
  /** A from the pack */
  current: number;
  /** W */
  power: number;
  rpm: number;
}

/**
 * What the model alone, without anything learned, expects of a drive on the stand: at each throttle on the voltage
 * that was measured there, in that air. Levels without a voltage take `voltage`.
 *
 * @param density kg/m³
 * @param voltage V, of the pack, where none was measured
 */
export function predictLevels(
  unit: Unit,
  levels: readonly Pick<Level, "throttle" | "voltage">[],
  density: number,
  voltage: number,
): PredictedLevel[] {
  // What works in water, in a duct or beside another has no model here to be held against.
  if (unit.propulsor || (unit.surroundings !== null && unit.surroundings !== "in air")) return [];
  if (unit.around.some((a) => a.kind !== "ground" && a.kind !== "body behind" && a.kind !== "body before")) return [];
  const drive = standDrive(unit, standMap(unit, density));
  return levels.flatMap((l) => {
    const volts = l.voltage ?? voltage;
    const solved = solveChain(drive, { openCircuit: volts, resistance: 0, otherLoad: 0 }, l.throttle);
    if (solved.status !== "converged") return [];
    const { thrust, rpm, packCurrent } = solved.point;
    return [{ throttle: l.throttle, thrust, current: packCurrent, power: packCurrent * volts, rpm }];
  });
}
