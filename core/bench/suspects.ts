import type { Unit } from "../design/schema";
import { fitLinear } from "../numeric/leastSquares";
import type { Level } from "./sweep";

/** Something about the stand or the drive that the readings themselves give away. */
export type SweepSuspect =
  | { kind: "spike"; count: number }
  | { kind: "zero-moved"; drift: number }
  /** at rest the stand shows a thrust (N) before the sweep and after it: the scale's reading then is its tare, kg */
  | { kind: "off-tare"; by: number; reading: number }
  | { kind: "meter-low"; merit: number; throttle: number }
  | { kind: "blades-bend"; change: number }
  | { kind: "slip"; change: number }
  | { kind: "friction"; value: number }
  | { kind: "fades"; share: number };

/**
 * Electrical figure of merit that no small drive reaches standing still: beyond it the current (or the lever) is
 * misread. Common practice: 0.3 to 0.65.
 */
const TOO_GOOD = 0.8;

/**
 * What the readings of a sweep give away. Limits are judgement; each is tested against the faults of the simulated
 * stand.
 */
export function suspectsOf(s: {
  levels: readonly Level[];
  spikes: number;
  /** N */
  top: number;
  /** thrust of one step of the scale, N */
  step: number;
  zeroDrift: number | null;
  /** first reading at rest: thrust by the tare entered, N, and what the scale showed, kg */
  atRest: { thrust: number; reading: number } | null;
  merit: (thrust: number, power: number | null) => number | null;
  constancy: { change: number; sd: number } | null;
  slip: number | null;
  hysteresis: { value: number; sd: number } | null;
  fade: number | null;
}): SweepSuspect[] {
  const { levels, spikes, top, step, zeroDrift, atRest, merit, constancy, slip, hysteresis, fade } = s;
  const suspects: SweepSuspect[] = [];
  if (spikes > 0) suspects.push({ kind: "spike", count: spikes });
  if (zeroDrift !== null && Math.abs(zeroDrift) > Math.max(0.015 * top, 3 * step))
    suspects.push({ kind: "zero-moved", drift: zeroDrift });
  if (atRest !== null && Math.abs(atRest.thrust) > Math.max(0.015 * top, 3 * step))
    suspects.push({ kind: "off-tare", by: atRest.thrust, reading: atRest.reading });
  const best = levels
    .filter((l) => l.thrust > 0.2 * top)
    .flatMap((l) => {
      const m = merit(l.thrust, l.power);
      return m === null ? [] : [{ merit: m, throttle: l.throttle }];
    })
    .toSorted((x, y) => y.merit - x.merit)[0];
  if (best && best.merit > TOO_GOOD) suspects.push({ kind: "meter-low", ...best });
  if (constancy && constancy.change < -0.06 && constancy.change < -3 * constancy.sd)
    suspects.push({ kind: "blades-bend", change: constancy.change });
  if (slip !== null && slip < -0.05) suspects.push({ kind: "slip", change: slip });
  if (hysteresis && Math.abs(hysteresis.value) > Math.max(0.02 * top, 3 * hysteresis.sd))
    suspects.push({ kind: "friction", value: hysteresis.value });
  if (fade !== null && fade > 0.03) suspects.push({ kind: "fades", share: fade });
  return suspects;
}

/**
 * How much slower the propeller turns at the top than it should beside the rest of the sweep, as a share: a belt, a
 * collet or a grub screw that slips under load. From speed, voltage and
 * current follows the duty that the controller must have given, u²·V = u·n/Kv + I·R; it grows evenly with the
 * throttle (common practice), and under a slip it seems to fall behind. An
 * error of Kv tilts the line and does not bend it.
 */
export function slipOf(
  levels: readonly Level[],
  full: number,
  dead: number,
  drive: Pick<Unit, "motor" | "controller" | "gear">,
): number | null {
  const resistance = drive.motor.resistance.value + drive.controller.resistance.value;
  const list = levels.flatMap((l) => {
    if (l.rpm === null || l.voltage === null || l.current === null || l.throttle <= dead + 0.08 || l.throttle > full)
      return [];
    const back = (l.rpm * drive.gear.ratio) / drive.motor.kv.value;
    return [
      {
        throttle: l.throttle,
        duty: (back + Math.sqrt(back * back + 4 * l.voltage * Math.max(0, l.current) * resistance)) / (2 * l.voltage),
      },
    ];
  });
  if (list.length < 8) return null;
  const lower = list.slice(0, Math.ceil(list.length * 0.55));
  const line = fitLinear(
    lower.map((l) => [1, l.throttle]),
    lower.map((l) => l.duty),
  );
  if (line.status !== "converged") return null;
  const upper = list.slice(-3);
  const expected = upper.map((l) => (line.parameters[0] ?? 0) + (line.parameters[1] ?? 0) * l.throttle);
  return upper.reduce((s, l, i) => s + l.duty / (expected[i] ?? 1) - 1, 0) / upper.length;
}
