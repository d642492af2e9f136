import type { TestedDrive } from "../design/thrustTest";
import type { Learned, Unit } from "../design/schema";
import { findRoot } from "../numeric/root";
import type { Drive } from "../subjects/propulsion/state";
import { type OperatingPoint, solveChain } from "../subjects/propulsion/chain";
import { noLoadAt, torqueConstant } from "../subjects/propulsion/motor";
import { kindOf } from "../subjects/propulsion/kinds/models";
import { standDrive, standMap } from "./standDrive";
import type { Level, SweepResult } from "./sweep";

export type LearnResult =
  | { ok: true; learned: Learned /** measured over predicted thrust at full throttle before */; before: number }
  | { ok: false; message: string };

/** Part of the top thrust below which a level says little. */
const TELLS = 0.08;
/** Doubt of the drive's own figures (no-load current, resistance) that enters the torque, as a share (judgement). */
const TORQUE_DOUBT = 0.03;
/**
 * Standard uncertainty of a Kv worked out from speed, volts and amps at full duty, and of one left as its maker
 * states it, as shares (common practice).
 */
const KV_READ = 0.005;
const KV_ENTERED = 0.03;
/**
 * Scatter of the thrust factor along the throttle, as a share, where fewer than three levels have a speed to show it
 * (judgement).
 */
const UNSPREAD = 0.03;
/** How well a stand repeats itself from one day to the next, as a share (common practice). */
const REPEATS = 0.01;

type Usable = Level & { voltage: number; current: number };

/** The drive as it was on the stand, and how it is solved there. */
interface TestBench {
  unit: Unit;
  map: ReturnType<typeof standMap>;
  drive: (kv: number, thrust: number, torque: number) => Drive;
  at: (drive: Drive, duty: number, voltage: number) => OperatingPoint | null;
  /** Duty of the strongest level. */
  full: number;
}

type Factors = { kv: number; torque: number; rpm: number | null; kvDoubt: number } | { message: string };

/** Kv and the torque factor from speed, voltage and current read at full duty: n = Kv·(V − I·R). */
function bySpeed({ unit, map }: TestBench, best: Usable, rpm: number, lossy: number): Factors {
  const { motor, gear } = unit;
  const back = best.voltage - best.current * lossy;
  if (!(back > 0))
    return {
      message:
        "The current measured would take more voltage than there was: check the current meter, or the " +
        "motor's resistance.",
    };
  const kv = (rpm * gear.ratio) / back / motor.kv.value;
  const idle = noLoadAt({ kv: motor.kv.value * kv, noLoadCurrent: motor.noLoadCurrent.value }, rpm * gear.ratio);
  const shaft = (best.current - idle) * torqueConstant(motor.kv.value * kv) * gear.ratio * gear.efficiency.value;
  return { kv, torque: shaft / map.torque(rpm), rpm, kvDoubt: KV_READ };
}

/** The torque factor at which the model draws the measured current at the measured voltage; Kv stays as entered. */
function byCurrent({ drive, at, full }: TestBench, best: Usable): Factors {
  const found = findRoot(
    (f) => (at(drive(1, 1, f), full, best.voltage)?.current ?? Number.NaN) * full - best.current,
    0.1,
    6,
    1e-5,
  );
  if (found.status !== "converged")
    return {
      message: "No propeller like this one draws that current on that voltage: check Kv, the gearing and the meters.",
    };
  const rpm = at(drive(1, 1, found.x), full, best.voltage)?.rpm ?? null;
  return { kv: 1, torque: found.x, rpm, kvDoubt: KV_ENTERED };
}

/**
 * Standard uncertainty of the thrust factor from how it spreads over the measured speeds, weighted by thrust, so that
 * the top counts most.
 */
function spreadOfThrust(map: TestBench["map"], usable: readonly Usable[], best: Usable, own: number): number {
  const ratios =
    best.rpm === null
      ? []
      : usable
          .filter((l) => l.rpm !== null && l.thrust > TELLS * best.thrust)
          .map((l) => ({ ratio: l.thrust / map.at(l.rpm ?? 0).thrust, weight: l.thrust }));
  const weights = ratios.reduce((s, r) => s + r.weight, 0);
  const spread =
    ratios.length > 2
      ? Math.sqrt(ratios.reduce((s, r) => s + r.weight * (r.ratio - own) ** 2, 0) / weights)
      : UNSPREAD * own;
  return spread / Math.sqrt(Math.max(1, ratios.length / 3));
}

/** Command → duty at which the corrected model pushes what was measured, at the voltage measured. */
function throttleCurve(
  { at }: TestBench,
  learned: Drive,
  usable: readonly Usable[],
  most: number,
  fullDuty: boolean,
  saturation: number | null,
): Learned["throttle"] {
  const throttle: Learned["throttle"] = [];
  let last = 0;
  for (const l of usable.toSorted((a, b) => a.throttle - b.throttle)) {
    const wanted = Math.max(0, l.thrust);
    const top = at(learned, 1, l.voltage)?.thrust ?? 0;
    const found =
      wanted < TELLS * 0.1 * most
        ? null
        : wanted >= top
          ? { status: "converged" as const, x: 1 }
          : findRoot((u) => (at(learned, u, l.voltage)?.thrust ?? Number.NaN) - wanted, 0, 1, 1e-6);
    const duty = found === null ? 0 : found.status === "converged" ? found.x : l.throttle;
    // Falling readings in the noise at the bottom do not make the curve fall.
    last = Math.max(last, Math.min(1, duty));
    throttle.push({ command: l.throttle, duty: last });
  }
  if ((throttle[0]?.command ?? 1) > 0) throttle.unshift({ command: 0, duty: 0 });
  const final = throttle.at(-1);
  if (final && final.command < 1)
    throttle.push({
      command: 1,
      duty: fullDuty
        ? Math.max(final.duty, saturation === null ? final.duty : 1)
        : Math.min(1, final.duty / final.command),
    });
  return throttle;
}

/**
 * What a sweep teaches of a drive. At full duty the measured speed, voltage and current give the motor's true Kv (n =
 * Kv·(V − I·R)) and the propeller's torque; thrust over the model's
 * thrust at the measured speed gives the thrust factor. Then, throttle by throttle, the duty is found at which the
 * model so corrected pushes what was measured at the voltage measured:
 * the thrust curve is the measured one. Without a speed at full duty the model's own is used, and Kv stays as entered.
 *
 * @param shared standard uncertainty that all thrusts share, as a share
 * @param currentError of the current meter, as a share
 */
export function learnFrom(
  unit: Unit,
  battery: TestedDrive["battery"],
  result: SweepResult,
  session: number,
  craft: string,
  shared: number,
  currentError: number,
): LearnResult {
  // A sweep corrects the model of an open propeller: of any other kind its readings are what counts.
  if (unit.propulsor)
    return {
      ok: false,
      message:
        `${unit.name} is a ${kindOf(unit.propulsor).word}: take the sweep as its measured curve, in Power ` +
        "under the drive.",
    };
  const usable = result.levels.filter((l): l is Usable => l.voltage !== null && l.current !== null && l.voltage > 0);
  if (usable.length < 3)
    return {
      ok: false,
      message:
        "To correct the model volts and amps are needed beside the thrust, at three throttles or more. " +
        "With a scale alone: in Power, under the drive, take the sweep as its measured curve.",
    };
  const topThrottle = result.saturation ?? usable.at(-1)?.throttle ?? 1;
  const full = usable.filter((l) => l.throttle >= topThrottle - 1e-9);
  const best = full.toSorted((a, b) => b.thrust - a.thrust)[0];
  if (!best || !(best.thrust > 0)) return { ok: false, message: "There is no thrust in this sweep." };
  if (best.throttle < 0.6)
    return {
      ok: false,
      message:
        `The sweep ends at ${Math.round(best.throttle * 100)} % throttle: go up to 60 % or more before ` +
        "taking it over.",
    };
  const { propeller, motor, controller, gear } = unit;
  const map = standMap(unit, result.density);
  const lossy = motor.resistance.value + controller.resistance.value;
  const fullDuty = best.throttle >= 0.999 || result.saturation !== null;
  const drive = (kv: number, thrust: number, torque: number): Drive => standDrive(unit, map, { kv, thrust, torque });
  const at = (d: Drive, duty: number, voltage: number) => {
    const solved = solveChain(d, { openCircuit: voltage, resistance: 0, otherLoad: 0 }, duty);
    return solved.status === "converged" ? solved.point : null;
  };

  const bench: TestBench = { unit, map, drive, at, full: fullDuty ? 1 : best.throttle };
  const read = best.rpm !== null && fullDuty ? bySpeed(bench, best, best.rpm, lossy) : byCurrent(bench, best);
  if ("message" in read) return { ok: false, message: read.message };
  const { kv, torque, rpm, kvDoubt } = read;
  if (rpm === null || !(torque > 0) || !Number.isFinite(torque))
    return {
      ok: false,
      message: "The current measured is below what the motor draws without a load: check the current meter.",
    };
  if (kv < 0.5 || kv > 2)
    return {
      ok: false,
      message:
        `Speed and voltage measured belong to a motor of ${(motor.kv.value * kv).toFixed(0)} rpm/V, not ` +
        `of ${motor.kv.value.toFixed(0)}: check the pole count of the rpm reading, or Kv.`,
    };

  const own = best.thrust / map.at(rpm).thrust;
  const spread = spreadOfThrust(map, usable, best, own);
  if (own < 0.25 || own > 4)
    return {
      ok: false,
      message:
        `The thrust is ${own.toFixed(2)} times what this propeller gives at that speed: check the lever ` +
        "arms, the scale's unit and the propeller entered.",
    };
  const thrust = {
    value: own,
    sd: own * Math.hypot(REPEATS, shared, spread / own),
  };

  const throttle = throttleCurve(bench, drive(kv, own, torque), usable, best.thrust, fullDuty, result.saturation);
  const predicted = at(drive(1, 1, 1), fullDuty ? 1 : best.throttle, best.voltage)?.thrust ?? Number.NaN;
  return {
    ok: true,
    before: best.thrust / predicted,
    learned: {
      session,
      craft,
      kv: { value: kv, sd: kv * kvDoubt },
      thrust,
      torque: { value: torque, sd: torque * Math.hypot(currentError, TORQUE_DOUBT) },
      throttle: thinned(throttle, 60),
      points: thinned(usable, 60).map((l) => ({
        throttle: l.throttle,
        thrust: l.thrust,
        thrustSd: l.thrustSd,
        voltage: l.voltage,
        current: Math.max(0, l.current),
        rpm: l.rpm,
      })),
      density: result.density,
      of: structuredClone({ motor, controller, gear, propeller, propulsor: null }),
      pack: battery ? { chemistry: battery.chemistry, series: battery.series, capacity: battery.capacity } : null,
    },
  };
}

/** At most `count` of a list, its ends kept. */
const thinned = <T>(list: readonly T[], count: number): T[] =>
  list.length <= count
    ? [...list]
    : Array.from({ length: count }, (_, i) => list[Math.round((i * (list.length - 1)) / (count - 1))] as T);
