import type { Medium } from "../air/air";

/** What a propulsor takes and gives on its shaft, as a function of its rpm and of the speed along its thrust. */
export interface ShaftMap {
  /** Thrust (N) and torque (N·m) at this rpm and speed along the axis (m/s). */
  at(rpm: number, speed?: number): Pair;
  /** The torque alone, N·m: what a solver asks for at every step. */
  torque(rpm: number, speed?: number): number;
  /** Whether it was solved at every point. */
  solved: boolean;
}
export type Pair = { thrust: number; torque: number };

const MAP_POINTS = 34;
const SPEEDS = 14;
const SLOW_POINTS = 7;

export const mix = (a: Pair, b: Pair, t: number): Pair => ({
  thrust: a.thrust + (b.thrust - a.thrust) * t,
  torque: a.torque + (b.torque - a.torque) * t,
});

/** Fastest turning (rpm) that a map of this size is made for: tips at the speed of sound, or at what water allows. */
export const fastestRpm = (diameter: number, medium: Medium): number =>
  ((medium.fastest ?? 1.05 * medium.soundSpeed) * 60) / (Math.PI * diameter);

/** Where a map has its points: up to an rpm, and to an advance ratio v/(nD) beyond which the last one is used. */
export interface MapSpan {
  /** m */
  diameter: number;
  maxRpm: number;
  lastAdvance: number;
}

/**
 * Precomputes a turning propulsor for the chain solver. Thrust and torque divided by rpm² change slowly (only through
 * Reynolds number and Mach) at one advance ratio, so they are interpolated linearly in log rpm; across advance ratio by
 * parabolas. The moving part is made when it is first asked for. Interpolation error of a propeller standing below 0.3
 * % up to tip Mach 0.78, 0.1 % below 0.55; moving below 1.5 % of the standing thrust (tested against the direct
 * solution).
 */
export function tabulated(
  load: (speed: number, rpm: number) => Pair & { solved: boolean },
  { diameter, maxRpm, lastAdvance }: MapSpan,
): ShaftMap {
  const minRpm = maxRpm / 100;
  const span = Math.log(100);
  let solved = true;
  const point = (rpm: number, advance: number): Pair => {
    const found = load((advance * diameter * rpm) / 60, rpm);
    // Past its pitch speed single elements may windmill without a root: they count as nothing there.
    if (advance === 0) solved &&= found.solved;
    return { thrust: found.thrust / rpm ** 2, torque: found.torque / rpm ** 2 };
  };
  const column = (count: number, advance: number) =>
    Array.from({ length: count }, (_, i) => point(minRpm * Math.exp((i * span) / (count - 1)), advance));
  const along = (list: Pair[], rpm: number): Pair => {
    const place = Math.min(Math.max((Math.log(rpm / minRpm) / span) * (list.length - 1), 0), list.length - 1);
    const i = Math.min(Math.floor(place), list.length - 2);
    return mix(list[i] as Pair, list[i + 1] as Pair, place - i);
  };
  const standing = column(MAP_POINTS, 0);
  let moving: Pair[][] | null = null;
  const at = (rpm: number, speed = 0): Pair => {
    if (!(rpm > 0)) return { thrust: 0, torque: 0 };
    const n2 = rpm * rpm;
    if (speed <= 0) {
      const p = along(standing, rpm);
      return { thrust: p.thrust * n2, torque: p.torque * n2 };
    }
    moving ??= Array.from({ length: SPEEDS }, (_, k) =>
      k === 0 ? standing : column(SLOW_POINTS, (k * lastAdvance) / (SPEEDS - 1)),
    );
    const place = Math.min((speed * 60) / (rpm * diameter) / lastAdvance, 1) * (SPEEDS - 1);
    const k = Math.min(Math.max(Math.round(place), 1), SPEEDS - 2);
    const t = place - k;
    const [a, b, c] = [k - 1, k, k + 1].map((j) => along(moving?.[j] as Pair[], rpm)) as [Pair, Pair, Pair];
    // Parabola through three neighbouring advance ratios.
    const through = (y: (p: Pair) => number) => y(b) + (t * (y(c) - y(a))) / 2 + (t * t * (y(c) - 2 * y(b) + y(a))) / 2;
    return { thrust: through((p) => p.thrust) * n2, torque: through((p) => p.torque) * n2 };
  };
  const standingTorque = Float64Array.from(standing, (p) => p.torque);
  const perStep = (MAP_POINTS - 1) / span;
  const torque = (rpm: number, speed = 0): number => {
    if (speed > 0) return at(rpm, speed).torque;
    if (!(rpm > 0)) return 0;
    const place = Math.min(Math.max(Math.log(rpm / minRpm) * perStep, 0), MAP_POINTS - 1);
    const i = Math.min(Math.floor(place), MAP_POINTS - 2);
    const a = standingTorque[i] as number;
    return (a + ((standingTorque[i + 1] as number) - a) * (place - i)) * rpm * rpm;
  };
  return { at, torque, solved };
}
