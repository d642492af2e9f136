import type { Battery, Regulator, Unit } from "../../design/schema";
import { supportOf } from "../../design/support";
import { type Air, GRAVITY, type Medium, USUAL_HUMIDITY, air } from "../air/air";
import { water } from "../water/water";
import { coldCapacity, coldFactor, openCircuit } from "../energy/battery";
import type { DutyPhase, Pack } from "../energy/endurance";
import { type Drive, type Source, solveState } from "./state";
import type { Driven, InputKey, InputValues } from "./inputs";
import { dutyOf, scaledMap, taughtOf, windingOf } from "./learned";
import { aroundFactor, mapPastBodies } from "./around/factor";
import { kindOf } from "./kinds/models";
import { levelDragAt } from "./levelDrag";
import { mainUnits } from "./mainUnits";
import { AT_REST, flownByThrottle, holdsLevel, slowestOn } from "./onWings";
import { type MeasuredCurve, measuredCurveOf, voltageExponent } from "./measured/curve";
import type { MeasuredPropulsor } from "./measured/declares";
import { type Propeller, propellerMapOf, variedMap } from "./propeller";
import type { ShaftMap } from "./shaft";

/**
 * Steady power (W) that a regulator draws from its pack: what hangs on it, through its efficiency; a linear one draws
 * its load's current at the pack's voltage.
 */
export function regulatorPower(regulator: Regulator, packVoltage: number): number {
  const current = regulator.loads.reduce((s, l) => s + l.current, 0);
  return regulator.kind === "linear" ? current * packVoltage : (current * regulator.voltage) / regulator.efficiency;
}

export interface UnitSetup {
  unit: Unit;
  drive: Drive;
  /** highest throttle, 0 to 1 */
  limit: number;
  /** diameter of the circle that its tips run on, m; null where nothing whirls in the open, or nobody knows */
  tips: number | null;
  /** its open propeller; null where it is something else */
  propeller: Propeller | null;
  /** of what is on its shaft as modelled, before what a stand taught */
  map: ShaftMap;
  /** what it works in */
  medium: Medium;
}
export interface PackSetup {
  battery: Battery;
  pack: Pack;
  /** pack at the start of a run */
  start: Source;
  /** Indices of the drives that it feeds. */
  units: number[];
  phases: DutyPhase[];
}

/** Drives and packs in plain numbers, ready for the solvers. */
export interface PowerSetup {
  units: UnitSetup[];
  packs: PackSetup[];
  medium: Air;
  /** Indices of the drives whose thrust the craft is judged by: those that lift it, or those that push it along. */
  main: number[];
  /** weight, N; null while the mass is not known */
  weight: number | null;
  /** N that hold it back through the air at a speed (m/s, above nought); null while not known */
  drag: ((speed: number) => number) | null;
  /** drag coefficient times area of what stands in the wind, m²; null while not known */
  dragArea: number | null;
  /** what carrying the weight costs is in that drag: there is no level flight at no speed */
  onWings: boolean;
  /** What the duty asks for and the design does not tell; null when all is there. */
  dutyNeeds: "mass" | "drag area" | null;
  hasDuty: boolean;
}

/** Coldest water that is assumed where nobody says how warm it is, °C. */
const COLD_WATER = 4;
/** How warm the water is, °C: that of the air where nobody says. */
export const waterTemperature = (e: Driven["brief"]["environment"]): number =>
  e.waterTemperature ?? Math.max(COLD_WATER, e.airTemperature);
/** The water that drives stand in. */
export const waterOf = (e: Driven["brief"]["environment"]): Medium => water(waterTemperature(e), e.water ?? "fresh");

/**
 * The map of a shape: the one next to it where that is the same; a little different one as its difference from that.
 */
function mapNear(shape: Propeller, medium: Medium, near: UnitSetup | null): ShaftMap {
  const was = near?.propeller;
  if (!near || !was) return propellerMapOf(shape, medium);
  const same = (Object.keys(shape) as (keyof Propeller)[]).every((k) => shape[k] === was[k]);
  return same ? near.map : variedMap(near.map, was, shape, medium);
}

/** Whether a drive stands in water. */
const worksWet = (unit: Unit): boolean =>
  unit.propulsor && !kindOf(unit.propulsor).inFluid
    ? unit.propulsor.kind === "screw drum" && unit.propulsor.on === "water"
    : unit.surroundings === "in water";

/** The air that a craft works in. */
const airOf = (e: Driven["brief"]["environment"]): Air =>
  air(e.altitude, e.airTemperature, e.humidity ?? USUAL_HUMIDITY);
/** What a drive works in. */
export const mediumOf = (unit: Unit, e: Driven["brief"]["environment"]): Medium =>
  worksWet(unit) ? waterOf(e) : airOf(e);

/** Push (N) of one unit by which a thrust is shared out among unlike drives: that of its full speed without sag. */
function fullPush({ drive, unit }: Pick<UnitSetup, "drive" | "unit">, batteries: readonly Battery[]): number {
  const pack = batteries.find((b) => b.id === unit.batteryId);
  const volts = pack ? pack.series * openCircuit(pack.chemistry, pack.startCharge) : 0;
  if (drive.measured) return drive.measured.force(1, volts);
  const found = solveState([{ drive: { ...drive, count: 1 }, throttle: 1 }], {
    openCircuit: volts,
    resistance: 0,
    otherLoad: 0,
  });
  return found.status === "converged" ? drive.propeller.at((found.speeds[0] ?? 0) / drive.ratio).thrust : 0;
}

/** What stands in the place of a propeller that is none: a measured curve tells what it pushes. */
const NO_PROPELLER: ShaftMap = {
  at: () => ({ thrust: Number.NaN, torque: Number.NaN }),
  torque: () => Number.NaN,
  solved: true,
};

/** One unit of a measured propulsor where the craft works, with what its pack's resistance does to the volts then. */
function measuredOf(
  m: MeasuredPropulsor,
  unit: Unit,
  v: (of: string, key: InputKey, fallback: number) => number,
  here: { air: Medium; water: Medium; packs: readonly Battery[] },
): MeasuredCurve {
  const pack = here.packs.find((b) => b.id === unit.batteryId);
  const now = m.on === "air" ? here.air.density : here.water.density;
  return measuredCurveOf(
    m,
    {
      forceFactor: v(unit.id, "forceFactor", 1) * (m.asBuilt ? 1 : v(unit.id, "aroundFactor", 1)),
      currentFactor: v(unit.id, "currentFactor", 1),
      gap: v(unit.id, "curveGap", 0),
      voltageExponent: v(unit.id, "voltageExponent", voltageExponent(m.on).value),
      density: m.density === null ? 1 : now / m.density,
    },
    pack ? pack.series * v(pack.id, "cellResistance", pack.cellResistance.value) : 0,
  );
}

/** The section model as it is; another one is only what a simulated craft really has. */
const PLAIN_BLADE = { lift: 1, drag: 1 };

/** What every part of a set-up is read from. */
interface Given {
  design: Driven;
  medium: Air;
  wet: Medium;
  /** value of an uncertain input of one thing; the stated one where none is given */
  v: (of: string, key: InputKey, stated: number) => number;
  /** resistance (Ω) in the path of a pack, or of one drive on it */
  inPath: (batteryId: string, unitId: string | null) => number;
}

function givenBy(design: Driven, values: InputValues): Given {
  const { environment } = design.brief;
  return {
    design,
    medium: airOf(environment),
    wet: waterOf(environment),
    v: (of, key, stated) => values.get(`${of}/${key}`) ?? stated,
    inPath: (batteryId, unitId) =>
      design.conductors
        .filter((c) => c.batteryId === batteryId && c.unitId === unitId)
        .reduce((s, c) => s + c.resistance, 0),
  };
}

/** One entry of like units in plain numbers. */
function unitSetUp(
  { design, medium, wet, v, inPath }: Given,
  unit: Unit,
  near: UnitSetup | null,
  blade: { lift: number; drag: number },
): UnitSetup {
  const { motor, controller, gear, propeller, propulsor } = unit;
  const taught = taughtOf(unit);
  const beside = unit.measured?.asBuilt ? 1 : (aroundFactor(unit)?.value ?? 1);
  const shape: Propeller = {
    diameter: v(unit.id, "diameter", propeller.diameter.value),
    pitch: v(unit.id, "pitch", propeller.pitch.value),
    blades: propeller.blades,
    chord: v(unit.id, "chord", propeller.chord.value),
    liftFactor: blade.lift,
    dragFactor: blade.drag,
  };
  const around = mediumOf(unit, design.brief.environment);
  const measured =
    unit.measured && measuredOf(unit.measured, unit, v, { air: medium, water: wet, packs: design.batteries });
  const map = measured
    ? NO_PROPELLER
    : propulsor
      ? kindOf(propulsor).map(propulsor, (key, stated) => v(unit.id, `propulsor.${key}`, stated), around)
      : mapNear(shape, around, near);
  return {
    unit,
    tips: measured ? null : propulsor ? kindOf(propulsor).tips(propulsor) : shape.diameter,
    map,
    medium: around,
    limit: unit.throttleLimit,
    propeller: measured || propulsor ? null : shape,
    drive: {
      count: unit.count,
      motor: {
        kv: v(unit.id, "kv", motor.kv.value) * (taught ? v(unit.id, "kvFactor", taught.kv.value) : 1),
        resistance: v(unit.id, "motorResistance", motor.resistance.value) * windingOf(unit),
        noLoadCurrent: v(unit.id, "noLoadCurrent", motor.noLoadCurrent.value),
      },
      controllerResistance: v(unit.id, "controllerResistance", controller.resistance.value),
      pathResistance: inPath(unit.batteryId, unit.id),
      ratio: gear.ratio,
      gearEfficiency: Math.min(1, v(unit.id, "gearEfficiency", gear.efficiency.value)),
      propeller: scaledMap(
        measured ? map : mapPastBodies(map, unit, around.density),
        v(unit.id, "thrustFactor", taught?.thrust.value ?? 1) * v(unit.id, "aroundFactor", beside),
        v(unit.id, "torqueFactor", taught?.torque.value ?? 1),
        v(unit.id, "movingFactor", 1),
      ),
      ...(taught?.throttle ? { duty: dutyOf(taught.throttle) } : {}),
      ...(measured ? { measured } : {}),
    },
  };
}

/** What a pack gives at the start of a run, and holds. */
function packSetUp({ design, v, inPath }: Given, battery: Battery): Omit<PackSetup, "units" | "phases"> {
  const { packTemperature } = design.brief.environment;
  const cells = battery.series;
  const offset = v("", "cellVoltage", 0);
  const open = (openCircuit(battery.chemistry, battery.startCharge) + offset) * cells;
  const resistance =
    cells *
      v(battery.id, "cellResistance", battery.cellResistance.value) *
      coldFactor(battery.chemistry, packTemperature) +
    inPath(battery.id, null);
  const otherLoad =
    battery.otherLoad +
    design.regulators.filter((r) => r.batteryId === battery.id).reduce((s, r) => s + regulatorPower(r, open), 0);
  const capacity = v(battery.id, "capacity", battery.capacity.value) * coldCapacity(battery.chemistry, packTemperature);
  const { chemistry, usable, startCharge } = battery;
  return {
    battery,
    pack: { chemistry, series: cells, capacity, resistance, usable, startCharge, otherLoad, offset },
    start: { openCircuit: open, resistance, otherLoad },
  };
}

/** What the phases of the duty ask of the drives on one pack. */
function phasesOn(
  { design, medium, v }: Given,
  battery: Battery,
  units: readonly UnitSetup[],
  craft: Pick<PowerSetup, "weight" | "drag">,
): DutyPhase[] {
  const { duty = [], levelDrag = null } = design;
  const least = levelDrag && craft.weight !== null ? slowestOn(levelDrag, craft.weight, medium.density) : null;
  const flown = least === null ? [] : flownByThrottle(design, least);
  const cycle = duty.reduce((s, p) => s + p.seconds * p.repeats, 0);
  const own = units.flatMap((u, i) => (u.unit.batteryId === battery.id ? [i] : []));
  const byDisc = units.every((u) => u.propeller !== null);
  const strength = (i: number) => {
    const u = units[i];
    if (!u) return 0;
    return u.unit.count * (byDisc ? (u.propeller?.diameter ?? 0) ** 2 : fullPush(u, design.batteries));
  };
  const all = (indices: readonly number[]) => indices.reduce((s, i) => s + strength(i), 0);
  return duty.map((p): DutyPhase => {
    const chosen =
      p.unitIds.length > 0
        ? units.flatMap((u, i) => (p.unitIds.includes(u.unit.id) ? [i] : []))
        : p.by === "throttle"
          ? units.map((_, i) => i)
          : mainUnits(design);
    const here = chosen.filter((i) => own.includes(i));
    // A thrust asked of drives on several packs is shared out by their disc area.
    const part = chosen.length === 0 ? 0 : here.length === chosen.length ? 1 : all(here) / all(chosen);
    const share = (p.seconds * p.repeats) / cycle;
    if (p.by === "current" || p.by === "power") {
      const value = v(p.id, "load", p.value) * (chosen.length > 0 ? part : battery === design.batteries[0] ? 1 : 0);
      return { share, drives: [], by: p.by === "current" ? { current: value } : { power: value }, speed: 0 };
    }
    const thrust =
      p.by === "thrust"
        ? p.value
        : p.by === "thrustToWeight"
          ? p.value * (craft.weight ?? 0)
          : p.by === "speed" && p.value > 0
            ? (craft.drag?.(p.value) ?? 0)
            : 0;
    const speed = p.by === "speed" ? p.value : 0;
    const drives = here.map((i) => own.indexOf(i));
    if (p.by !== "throttle") return { share, drives, by: { thrust: thrust * part }, speed };
    const by = { throttle: p.value };
    const { drag } = craft;
    if (!drag || least === null || here.length === 0 || !flown.includes(p)) return { share, drives, by, speed };
    return { share, drives, by, speed: least, onWings: { drag: (v) => drag(v) * part, flown: "level" } };
  });
}

/**
 * A duty that also sinks, or stands still with its throttle closed, climbs in the phases that hold more than level:
 * all others fly level.
 *
 * @param near the same duty with numbers a little different: it is flown as that is
 */
function climbsOrLevel(
  phases: readonly DutyPhase[],
  { start, units: own }: Pick<PackSetup, "start" | "units">,
  units: readonly UnitSetup[],
  near: readonly DutyPhase[] | null,
): DutyPhase[] {
  const climbs =
    near?.some((p) => p.onWings?.flown === "climbing") ??
    phases.some(({ by, onWings, drives, speed }) => {
      if (!("throttle" in by)) return false;
      if (!onWings) return by.throttle < AT_REST;
      const commands = drives.flatMap((k) => {
        const u = units[own[k] ?? -1];
        return u ? [{ drive: u.drive, throttle: Math.min(by.throttle, u.limit) }] : [];
      });
      return !holdsLevel(commands, start, onWings.drag, speed);
    });
  return phases.map((p) => (climbs && p.onWings ? { ...p, onWings: { ...p.onWings, flown: "climbing" } } : p));
}

/**
 * What holds a craft back: its drag area in the air, and on described wings what carrying its weight costs; of what
 * swims its drag area in the water, and in the air where that is known too.
 */
function dragOf({ design, medium, wet, v }: Given, area: number | null, weight: number | null): PowerSetup["drag"] {
  const { levelDrag = null, waterDragArea = null } = design;
  const q = (speed: number, density = medium.density) => (density / 2) * speed ** 2;
  if (supportOf(design).waterDrag) {
    if (!waterDragArea) return null;
    const under = v("", "waterDragArea", waterDragArea.value);
    return (speed) => q(speed, wet.density) * under + q(speed) * (area ?? 0);
  }
  if (area === null) return null;
  if (!levelDrag) return (speed) => q(speed) * area;
  if (weight === null) return null;
  const more = v("", "induced", 1);
  return (speed) => levelDragAt(levelDrag, area, q(speed), weight, more);
}

/** Builds the solvers' numbers from a design and values for its uncertain inputs (nominal where none is given). */
export function setUp(
  design: Driven,
  values: InputValues,
  near: PowerSetup | null = null,
  blade: { lift: number; drag: number } = PLAIN_BLADE,
): PowerSetup {
  const { duty = [] } = design;
  const given = givenBy(design, values);
  const units = design.units.map((unit, k) => unitSetUp(given, unit, near?.units[k] ?? null, blade));
  const mass = values.get("/mass");
  const weight = mass === undefined ? null : mass * GRAVITY;
  const area = design.levelDrag?.area ?? design.dragArea;
  const dragArea = area ? given.v("", "dragArea", area.value) : null;
  const drag = dragOf(given, dragArea, weight);
  const dutyNeeds =
    duty.some((p) => p.by === "thrustToWeight") && weight === null
      ? ("mass" as const)
      : duty.some((p) => p.by === "speed") && drag === null
        ? ("drag area" as const)
        : null;
  const packs = design.batteries.map((battery, k): PackSetup => {
    const own = units.flatMap((u, i) => (u.unit.batteryId === battery.id ? [i] : []));
    const pack = { ...packSetUp(given, battery), units: own };
    const phases = dutyNeeds === null ? phasesOn(given, battery, units, { weight, drag }) : [];
    return { ...pack, phases: climbsOrLevel(phases, pack, units, near?.packs[k]?.phases ?? null) };
  });
  const main = mainUnits(design);
  return {
    ...{ units, packs, medium: given.medium, main, weight, dragArea, drag, dutyNeeds },
    onWings: design.levelDrag != null,
    hasDuty: duty.length > 0,
  };
}
