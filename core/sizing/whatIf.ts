import type { Design, Unit } from "../design/schema";
import { rollUp } from "../subjects/mass/rollup";
import type { LevelDrag } from "../subjects/propulsion/levelDrag";
import { type Nominal, nominalPower, nominalSetup } from "../subjects/propulsion/nominal";
import { outsideAt } from "../subjects/propulsion/outside";
import { shapesOutside } from "../subjects/propulsion/words";
import { shapedOf, sizedKind } from "./otherSize";

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
  /** which drive was scaled */
  drive: number;
  /** where that drive then leaves the range of its method, as sentences */
  outside: string[];
}

/** What may be turned of a drive: of one that is known by its curve alone, the pack and the mass. */
export function knobsOf(unit: Pick<Unit, "measured" | "propulsor" | "propeller">): (keyof Scaling)[] {
  const shaped = shapedOf(unit);
  return [
    ...(shaped ? (["diameter"] as const) : []),
    ...(shaped?.ratio ? (["pitch"] as const) : []),
    ...(shaped ? (["kv", "ratio"] as const) : []),
    ...(["mass", "cells"] as const),
  ];
}

/** What is on a drive's shaft, larger and steeper. */
function scaleShaft(unit: Unit, { diameter, pitch }: Scaling): void {
  const { propulsor, propeller } = unit;
  if (propulsor) {
    const kind = sizedKind(propulsor);
    const ratio = kind.ratio?.of(propulsor) ?? 1;
    unit.propulsor = kind.made(propulsor, diameter, (ratio * pitch) / diameter, kind.blades?.(propulsor) ?? 1);
    return;
  }
  propeller.diameter.value *= diameter;
  propeller.pitch.value *= pitch;
  propeller.chord.value *= diameter;
}

/**
 * The whole chain before and after a scaling of one drive, its pack and the craft's mass; null when either has no
 * solution. Masses of parts are not changed: only what is asked. What rests on a wheel goes with the craft's mass.
 *
 * @param levelDrag what holds it back on its wings, where the duty asks for a speed
 * @param unitId the drive that is scaled; the first where none is named
 */
export function whatIf(
  design: Design,
  scaling: Scaling,
  levelDrag: LevelDrag | null = null,
  unitId?: string,
): WhatIf | null {
  const mass = rollUp(design)?.mass ?? null;
  const next = structuredClone(design);
  const unit = next.units.find((u) => u.id === unitId) ?? next.units[0];
  const battery = next.batteries.find((b) => b.id === unit?.batteryId);
  if (!unit || !battery) return null;
  scaleShaft(unit, scaling);
  for (const u of next.units)
    if (u.propulsor && scaling.mass !== 1)
      u.propulsor = sizedKind(u.propulsor).loaded?.(u.propulsor, scaling.mass) ?? u.propulsor;
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
  const drive = next.units.indexOf(unit);
  const scaled = setups[1]?.units[drive];
  const rpm = after?.units[drive]?.rpm ?? Number.NaN;
  const outside = scaled ? [...shapesOutside([scaled.unit]), ...outsideAt(scaled, rpm)] : [];
  return before && after ? { before, after, drive, outside } : null;
}
