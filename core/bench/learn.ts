import type { TestedDrive } from "../design/bench";
import type { Learned, Unit } from "../design/schema";
import { findRoot } from "../numeric/root";
import type { Drive } from "../subjects/propulsion/state";
import { solveChain } from "../subjects/propulsion/chain";
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
      message: `${unit.name} is a ${kindOf(unit.propulsor).word}: take the sweep as its measured curve, in Power under the drive.`,
    };
  const usable = result.levels.filter(
    (l): l is Level & { voltage: number; current: number } => l.voltage !== null && l.current !== null && l.voltage > 0,
  );
  if (usable.length < 3)
    return {
      ok: false,
      message:
        "To correct the model volts and amps are needed beside the thrust, at three throttles or more. With a scale alone: in Power, under the drive, take the sweep as its measured curve.",
    };
  const topThrottle = result.saturation ?? usable.at(-1)?.throttle ?? 1;
  const full = usable.filter((l) => l.throttle >= topThrottle - 1e-9);
  const best = full.toSorted((a, b) => b.thrust - a.thrust)[0];
  if (!best || !(best.thrust > 0)) return { ok: false, message: "There is no thrust in this sweep." };
  if (best.throttle < 0.6)
    return {
      ok: false,
      message: `The sweep ends at ${Math.round(best.throttle * 100)} % throttle: go up to 60 % or more before taking it over.`,
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

  let kv = 1;
  let torque = 1;
  let rpm = best.rpm;
  let kvDoubt = KV_ENTERED;
  if (rpm !== null && fullDuty) {
    const back = best.voltage - best.current * lossy;
    if (!(back > 0))
      return {
        ok: false,
        message:
          "The current measured would take more voltage than there was: check the current meter, or the motor's resistance.",
      };
    kvDoubt = KV_READ;
    kv = (rpm * gear.ratio) / back / motor.kv.value;
    const shaft =
      (best.current -
        noLoadAt({ kv: motor.kv.value * kv, noLoadCurrent: motor.noLoadCurrent.value }, rpm * gear.ratio)) *
      torqueConstant(motor.kv.value * kv) *
      gear.ratio *
      gear.efficiency.value;
    torque = shaft / map.torque(rpm);
  } else {
    // The torque factor at which the model draws the measured current at the measured voltage.
    const found = findRoot(
      (f) =>
        (at(drive(1, 1, f), fullDuty ? 1 : best.throttle, best.voltage)?.current ?? Number.NaN) *
          (fullDuty ? 1 : best.throttle) -
        best.current,
      0.1,
      6,
      1e-5,
    );
    if (found.status !== "converged")
      return {
        ok: false,
        message: "No propeller like this one draws that current on that voltage: check Kv, the gearing and the meters.",
      };
    torque = found.x;
    rpm = at(drive(1, 1, torque), fullDuty ? 1 : best.throttle, best.voltage)?.rpm ?? null;
  }
  if (rpm === null || !(torque > 0) || !Number.isFinite(torque))
    return {
      ok: false,
      message: "The current measured is below what the motor draws without a load: check the current meter.",
    };
  if (kv < 0.5 || kv > 2)
    return {
      ok: false,
      message: `Speed and voltage measured belong to a motor of ${(motor.kv.value * kv).toFixed(0)} rpm/V, not of ${motor.kv.value.toFixed(0)}: check the pole count of the rpm reading, or Kv.`,
    };

  // Thrust factor: at the measured speeds where there are any, weighted by thrust, so that the top counts most.
  const withSpeed = usable.filter((l) => l.rpm !== null && l.thrust > TELLS * best.thrust);
  const ratios =
    best.rpm === null ? [] : withSpeed.map((l) => ({ ratio: l.thrust / map.at(l.rpm ?? 0).thrust, weight: l.thrust }));
  const own = best.thrust / map.at(rpm).thrust;
  const spread =
    ratios.length > 2
      ? Math.sqrt(
          ratios.reduce((s, r) => s + r.weight * (r.ratio - own) ** 2, 0) / ratios.reduce((s, r) => s + r.weight, 0),
        )
      : UNSPREAD * own;
  if (own < 0.25 || own > 4)
    return {
      ok: false,
      message: `The thrust is ${own.toFixed(2)} times what this propeller gives at that speed: check the lever arms, the scale's unit and the propeller entered.`,
    };
  const thrust = {
    value: own,
    sd: own * Math.hypot(REPEATS, shared, spread / own / Math.sqrt(Math.max(1, ratios.length / 3))),
  };

  const learnedDrive = drive(kv, own, torque);
  const throttle: Learned["throttle"] = [];
  let last = 0;
  for (const l of usable.toSorted((a, b) => a.throttle - b.throttle)) {
    const wanted = Math.max(0, l.thrust);
    const most = at(learnedDrive, 1, l.voltage)?.thrust ?? 0;
    const found =
      wanted < TELLS * 0.1 * best.thrust
        ? null
        : wanted >= most
          ? { status: "converged" as const, x: 1 }
          : findRoot((u) => (at(learnedDrive, u, l.voltage)?.thrust ?? Number.NaN) - wanted, 0, 1, 1e-6);
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
        ? Math.max(final.duty, result.saturation === null ? final.duty : 1)
        : Math.min(1, final.duty / final.command),
    });

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
