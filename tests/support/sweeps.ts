import { type Rig, type ThrustReading, type ThrustTest, emptyReading } from "../../core/design/thrustTest";
import { seededRandom } from "../../core/numeric/random";

const meter = (step: number, error: number) => ({ step, error, session: null });
export const rig = (change: Partial<Rig> = {}): Rig => ({
  kind: "lever",
  thrustArm: 0.21,
  scaleArm: 0.14,
  armSd: 0.0005,
  reads: "more",
  tare: 0.0313,
  counterweight: 0,
  check: null,
  scale: meter(0.0001, 0.003),
  voltage: meter(0.01, 0.003),
  current: meter(0.01, 0.01),
  rpm: meter(1, 0.001),
  ...change,
});
export const calm: ThrustTest["air"] = { temperature: 15, pressure: 101_325 };
export const reading = (throttle: number, change: Partial<ThrustReading> = {}): ThrustReading => ({
  ...emptyReading(throttle),
  ...change,
});
/** What the scale of this stand shows of a thrust (N), by moments worked backwards. */
export const shownFor = (thrust: number, r: Rig): number =>
  r.tare + (r.reads === "more" ? 1 : -1) * (thrust / 9.80665) * (r.kind === "lever" ? r.thrustArm / r.scaleArm : 1);

/** Readings of a curve with known top and exponent, up and down, with noise on the thrust (N). */
export function syntheticSweep(
  seed: number,
  { top = 12, e = 0.7, noise = 0.06, steps = 20, samples = 3, r = rig() } = {},
): ThrustReading[] {
  const random = seededRandom(seed);
  const up = Array.from({ length: steps + 1 }, (_, i) => i / steps);
  return [...up, ...up.slice(0, -1).reverse()].flatMap((u) =>
    Array.from({ length: samples }, () =>
      reading(u, { scale: shownFor(top * ((1 - e) * u + e * u * u) + noise * random.normal(), r) }),
    ),
  );
}
