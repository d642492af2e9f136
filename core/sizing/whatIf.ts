import type { Design } from "../design/schema";
import { rollUp } from "../subjects/mass/rollup";
import type { LevelDrag } from "../subjects/propulsion/levelDrag";
import { type Nominal, nominalPower, nominalSetup } from "../subjects/propulsion/nominal";

/** What the scaling panel may turn. Factors, except cells, which are added. */
export interface Scaling {
  diameter: number;
  pitch: number;
  kv: number;
  ratio: number;
  mass: number;
  cells: number;
}
export const UNSCALED: Scaling = { diameter: 1, pitch: 1, kv: 1, ratio: 1, mass: 1, cells: 0 };

export interface WhatIf {
  before: Nominal;
  after: Nominal;
}

/**
 * The whole chain before and after a scaling of the first drive, its pack and the craft's mass; null when either has
 * no solution. Masses of parts are not changed: only what is asked.
 *
 * @param levelDrag what holds it back on its wings, where the duty asks for a speed
 */
export function whatIf(design: Design, scaling: Scaling, levelDrag: LevelDrag | null = null): WhatIf | null {
  const mass = rollUp(design)?.mass ?? null;
  const next = structuredClone(design);
  const unit = next.units[0];
  const battery = next.batteries.find((b) => b.id === unit?.batteryId);
  if (!unit || !battery) return null;
  unit.propeller.diameter.value *= scaling.diameter;
  unit.propeller.pitch.value *= scaling.pitch;
  unit.propeller.chord.value *= scaling.diameter;
  unit.motor.kv.value *= scaling.kv;
  // The same iron wound otherwise: resistance with 1/Kv², no-load current with Kv (motor constant and no-load loss
  // stay).
  unit.motor.resistance.value /= scaling.kv ** 2;
  unit.motor.noLoadCurrent.value *= scaling.kv;
  if (scaling.ratio !== 1 && unit.gear.ratio === 1)
    unit.gear.efficiency.value = Math.min(unit.gear.efficiency.value, 0.95);
  unit.gear.ratio *= scaling.ratio;
  battery.series = Math.max(1, battery.series + scaling.cells);
  const setups = [
    nominalSetup({ ...design, levelDrag }, mass),
    nominalSetup({ ...next, levelDrag }, mass === null ? null : mass * scaling.mass),
  ];
  const [before, after] = setups.map((s) => s && nominalPower(s, 12));
  return before && after ? { before, after } : null;
}
