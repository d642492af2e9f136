import { type Doubtful, sdOf } from "../../numeric/doubt";
import type { OperatingPoint } from "./chain";
import { standingOnly } from "./covered";
import type { Driven } from "./inputs";
import {
  type SolvedAll,
  dragAt,
  computable,
  indices,
  mainThrottle,
  nominalSetup,
  pitchSpeed,
  solveAll,
  thrustOf,
} from "./nominal";
import type { PowerSetup } from "./setup";
import { spreadOf, vary } from "./vary";

export interface At {
  /** One for each drive, in the design's order. */
  points: OperatingPoint[];
  sd: Partial<Record<keyof OperatingPoint, number>>[];
  /** Thrust of the main drives with all their like units, N. */
  thrust: Doubtful;
}

/**
 * All links of all drives at a share of their throttle limits and a speed (m/s), with standard uncertainties.
 * @param which drives that work (default: all); the others stand still
 * @returns null without drives or a solution
 */
export function operatingAt(
  design: Driven,
  throttle: number,
  speed = 0,
  which: "all" | "main" | readonly number[] = "all",
): At | null {
  if (!computable(design) || (speed > 0 && standingOnly(design) !== null)) return null;
  const { base, others } = vary(design);
  const working = which === "all" ? indices(base) : which === "main" ? base.main : which;
  const here = solveAll(base, throttle, speed, working);
  if (here.status !== "converged") return null;
  const there = others.map(({ id, setup }) => ({
    id,
    setup,
    solved: solveAll(setup, throttle, speed, working, here.states),
  }));
  const near = there.flatMap(({ solved }) => (solved.status === "converged" ? [solved.points] : []));
  return {
    points: here.points,
    sd: here.points.map((point, i) => {
      const out: Partial<Record<keyof OperatingPoint, number>> = {};
      for (const k of Object.keys(point) as (keyof OperatingPoint)[])
        out[k] = Math.hypot(...near.map((o) => (o[i]?.[k] ?? point[k]) - point[k]));
      return out;
    }),
    thrust: spreadOf(
      { thrust: thrustOf(base, here.points, base.main) },
      there.map(({ id, setup, solved }) => ({
        id,
        values: solved.status === "converged" ? { thrust: thrustOf(setup, solved.points, base.main) } : null,
      })),
    ).thrust,
  };
}

/**
 * Throttle (share of the limits, 0 to 1) at which the main drives push this thrust (N) at this speed (m/s); null when
 * they cannot.
 */
export function throttleFor(design: Driven, thrust: number, speed: number): number | null {
  const setup = nominalSetup(design, null);
  return setup && mainThrottle(setup, thrust, speed);
}

export interface CurvePoint {
  /** throttle 0 to 1, or speed in m/s */
  x: number;
  /** of the drives that the craft is judged by, N */
  thrust: number;
  thrustSd: number;
  /** motor current of the leading drive, or what one unit draws where it is known by its curve; NaN: not read, A */
  current: number;
  currentSd: number;
  /** thrust for each watt from the packs, N/W */
  economy: number;
  economySd: number;
  /** drag at that speed, N; null without a drag area */
  drag: number | null;
}

type Read = Record<"thrust" | "current" | "economy", number>;
function read(setup: PowerSetup, solved: SolvedAll, main: readonly number[]): Read | null {
  if (solved.status !== "converged") return null;
  const power = setup.packs.reduce((sum, p) => {
    const first = solved.points[p.units[0] ?? -1];
    return sum + (first ? first.packVoltage * first.packCurrent : 0);
  }, 0);
  const thrust = thrustOf(setup, solved.points, main);
  const lead = solved.points[main[0] ?? 0];
  // Of a measured curve what it draws is known, if it was read, and nothing of its motor.
  const drawn =
    setup.units[main[0] ?? 0]?.drive.measured && lead ? lead.controllerIn / lead.packVoltage : lead?.current;
  return { thrust, current: drawn ?? 0, economy: power > 0 ? thrust / power : 0 };
}

const STEPS = 20;
const SPEEDS = 16;

/**
 * Curves of the drives that the craft is judged by: standing against throttle, or at full throttle against speed,
 * from standing to where the thrust is gone.
 * @param top the craft's top speed, m/s, where it is known
 */
export function curveOf(design: Driven, against: "throttle" | "speed", top: number | null = null): CurvePoint[] {
  if (!computable(design) || (against === "speed" && standingOnly(design) !== null)) return [];
  const { base, others } = vary(design);
  const last = top === null ? pitchSpeed(base) : 1.3 * top;
  const places =
    against === "throttle"
      ? Array.from({ length: STEPS + 1 }, (_, i) => i / STEPS)
      : Array.from({ length: SPEEDS + 1 }, (_, i) => (i * last) / SPEEDS);
  let near: Parameters<typeof solveAll>[4] = null;
  return places.flatMap((x): CurvePoint[] => {
    const [throttle, speed] = against === "throttle" ? [x, 0] : [1, x];
    const solved = solveAll(base, throttle, speed, base.main, near);
    const here = read(base, solved, base.main);
    if (!here || solved.status !== "converged") return [];
    near = solved.states;
    const spread = spreadOf(
      here,
      others.map(({ id, setup }) => ({
        id,
        values: read(setup, solveAll(setup, throttle, speed, base.main, solved.states), base.main),
      })),
    );
    return [
      {
        x,
        thrust: here.thrust,
        thrustSd: sdOf(spread.thrust),
        current: here.current,
        currentSd: sdOf(spread.current),
        economy: here.economy,
        economySd: sdOf(spread.economy),
        drag: dragAt(base, speed),
      },
    ];
  });
}
