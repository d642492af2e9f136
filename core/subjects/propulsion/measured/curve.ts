import type { Method } from "../../../design/quantity";
import { monotone } from "../../../numeric/monotone";
import type { CurveReading, MeasuredPropulsor, PushedOn } from "./declares";
import { LEAST_COMMANDS } from "./declares";

/** What was read at one command, several readings of it as their mean. Of all units read together. */
interface Knot {
  command: number;
  value: number;
  /** of the mean, by how the readings scatter; 0 from one reading */
  sd: number;
}

/** The readings of one kind by command, lowest first; null where fewer than three commands above 0 have one. */
function knotsOf(readings: readonly CurveReading[], key: "force" | "current" | "voltage" | "rpm"): Knot[] | null {
  const by = new Map<number, number[]>();
  for (const r of readings) {
    const value = r[key];
    if (value !== null) by.set(r.command, [...(by.get(r.command) ?? []), value]);
  }
  if ([...by.keys()].filter((c) => c > 0).length < LEAST_COMMANDS) return null;
  return [...by]
    .map(([command, values]) => {
      const value = values.reduce((s, v) => s + v, 0) / values.length;
      const scatter =
        values.length > 1 ? Math.sqrt(values.reduce((s, v) => s + (v - value) ** 2, 0) / (values.length - 1)) : 0;
      return { command, value, sd: scatter / Math.sqrt(values.length) };
    })
    .toSorted((a, b) => a.command - b.command);
}

/** With no command nothing is pushed and nothing drawn, whether that was read or not. */
const fromRest = (knots: readonly Knot[]): readonly Knot[] =>
  knots[0]?.command === 0 ? knots : [{ command: 0, value: 0, sd: 0 }, ...knots];

const through = (knots: readonly Knot[]) =>
  monotone(
    knots.map((k) => k.command),
    knots.map((k) => k.value),
  );

/**
 * By which power of the voltage the force goes. In a fluid it goes with the square of the speed, and that with less
 * than the voltage, since motor and pack sag: 1.6 to 2. On the ground with the torque while it does not slip, and not
 * at all once it does: 0 to 1. Uniform in between (common practice and judgement, docs/physics.md).
 */
const VOLTAGE: Record<"fluid" | "ground", { from: number; to: number }> = {
  fluid: { from: 1.6, to: 2 },
  ground: { from: 0, to: 1 },
};
const uniform = ({ from, to }: { from: number; to: number }) => ({
  value: (from + to) / 2,
  sd: (to - from) / Math.sqrt(12),
});
export const voltageExponent = (on: PushedOn) => uniform(VOLTAGE[on === "the ground" ? "ground" : "fluid"]);

/** What a measured propulsor rests on beyond its readings. Factors are 1 and the gap 0 where nothing is varied. */
export interface Around {
  forceFactor: number;
  currentFactor: number;
  /** standard deviations by which the curve stands off between its points */
  gap: number;
  voltageExponent: number;
  /** density of what it works in over that in which it was measured */
  density: number;
}

/** How the numbers of a drive that its curve tells are come by. */
export const BY_CURVE: Method = {
  formula: "monotone curve through its readings × (V/V then)^k × (ρ/ρ then)^0.85, of one unit × how many there are",
  source:
    "Readings; F. N. Fritsch and R. E. Carlson (1980) between them. k 1.6 to 2 in air or water, 0 to 1 on the ground.",
  range: "Standing, up to the highest command that was measured, where it was measured.",
};

/** One unit of a measured propulsor, in plain numbers for the solvers. */
export interface MeasuredCurve {
  /** N, one unit, at a command and the rail's voltage (V). */
  force(command: number, rail: number): number;
  /** A from the pack, one unit. 0 where it was not read: then `draws` is false. */
  current(command: number, rail: number): number;
  /** rpm as it was read at this command, scaled; NaN where it was not. */
  rpm(command: number, rail: number): number;
  /** Whether what it draws is known. */
  draws: boolean;
  /** Highest command that was measured. */
  top: number;
}

/**
 * The curve of one unit as the solvers take it. Between readings it is monotone where they are. Beyond the highest
 * command it stays as it was there: nobody has seen more. Force scales with density and with a power of the voltage;
 * current so that power goes with force to the power of 1.5 in a fluid, and with force on the ground.
 *
 * @param packResistance Ω of the pack that feeds it now: by it the volts under load are told from those at rest, where
 *   only these were noted (the same pack is assumed, which the form says)
 */
export function measuredCurveOf(m: MeasuredPropulsor, around: Around, packResistance: number): MeasuredCurve {
  const forces = fromRest(knotsOf(m.readings, "force") ?? []);
  const currents = knotsOf(m.readings, "current");
  const volts = knotsOf(m.readings, "voltage");
  const rpms = knotsOf(m.readings, "rpm");
  const top = forces.at(-1)?.command ?? 0;
  const draws = currents !== null && drawRead(m);
  const one = 1 / m.together;
  const force = through(forces);
  const current = draws ? through(fromRest(currents)) : () => 0;
  const rpm = rpms ? through(fromRest(rpms)) : null;
  const rest = m.restVoltage;
  const loaded = volts ? through(volts) : null;
  // Where the current was not read the sag is unknown, then and now: volts at rest are held against volts at rest.
  const then = (command: number): number | null =>
    loaded && draws
      ? loaded(command)
      : rest === null
        ? null
        : Math.max(0.2 * rest, rest - packResistance * current(command));
  const most = Math.max(...forces.map((k) => k.value));
  /** How far off the curve may be between two points, N: half of the bend that a square law has there. */
  const between = (command: number): number => {
    const k = forces.findIndex((f) => f.command >= command);
    const [a, b] = [forces[k - 1], forces[k]];
    return a && b ? 0.5 * most * (command - a.command) * (b.command - command) : 0;
  };
  const ground = m.on === "the ground";
  const scaled = (command: number, rail: number, power: number): number => {
    const before = then(command);
    return before === null || !(rail > 0) ? 1 : (rail / before) ** power;
  };
  const at = (command: number) => Math.min(Math.max(command, 0), top);
  // Where the motor sags under a denser medium it turns slower: force goes with a little less than the density.
  const density = ground ? 1 : around.density ** DENSITY;
  return {
    force: (command, rail) => {
      const u = at(command);
      return (
        (force(u) + around.gap * between(u)) *
        one *
        around.forceFactor *
        density *
        scaled(u, rail, around.voltageExponent)
      );
    },
    current: (command, rail) => {
      const u = at(command);
      const power = ground ? around.voltageExponent : 1.5 * around.voltageExponent - 1;
      return current(u) * one * around.currentFactor * density * scaled(u, rail, power);
    },
    rpm: rpm
      ? (command, rail) => rpm(at(command)) * scaled(at(command), rail, around.voltageExponent / 2)
      : () => Number.NaN,
    draws,
    top,
  };
}
const DENSITY = 0.85;

const readUpTo = (m: MeasuredPropulsor, key: "current" | "voltage"): boolean => {
  const top = Math.max(...m.readings.map((r) => r.command));
  return knotsOf(m.readings, key)?.at(-1)?.command === top;
};
/** Whether what it draws was read up to its highest command. */
export const drawRead = (m: MeasuredPropulsor): boolean => readUpTo(m, "current");
/** Whether the voltage then is known, so that the curve can be scaled to another. */
export const voltsKnown = (m: MeasuredPropulsor): boolean =>
  m.restVoltage !== null || (drawRead(m) && knotsOf(m.readings, "voltage") !== null);

/** Share by which one unit may differ from its like that was measured (judgement). */
const UNITS_DIFFER = 0.05;
/** Share by which a current read with a usual meter may be off (common practice). */
const METER = 0.03;

/** Standard uncertainties of a measured curve, as shares: what its scale, its scatter and its copies leave open. */
export function doubtOf(m: MeasuredPropulsor, count: number): { force: number; current: number } {
  const forces = knotsOf(m.readings, "force") ?? [];
  const high = forces.filter((k) => k.value > 0.2 * Math.max(...forces.map((f) => f.value)));
  const scatter = high.length > 0 ? Math.hypot(...high.map((k) => k.sd / k.value)) / Math.sqrt(high.length) : 0;
  const copies = m.together < count ? UNITS_DIFFER : 0;
  return { force: Math.hypot(m.scale, scatter, copies), current: Math.hypot(METER, copies) };
}
