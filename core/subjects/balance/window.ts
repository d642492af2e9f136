import type { Axis, Design, Target } from "../../design/schema";
import { sdOf } from "../../numeric/doubt";
import { type FlightResult, NOT_WHOLE } from "../flight/node";

const CG_METRIC = { x: "cgX", y: "cgY", z: "cgZ" } as const;
type Window = Target & { upper: number };
const statedFor = (design: Pick<Design, "brief">, axis: Axis): Window | undefined =>
  design.brief.targets.find(
    (t): t is Window => t.metric === CG_METRIC[axis] && t.comparison === "between" && t.upper !== undefined,
  );

/** Where the CG shall be along an axis. */
export interface Limits {
  about: string;
  low: number;
  high: number;
  /** standard uncertainty of the two, m */
  sd: { low: number; high: number };
  guess: boolean;
  must: boolean;
  /** what they are */
  by: "window" | "stop line" | "wings";
}
const SHARP = { low: 0, high: 0 };

/** Why a window of the wings is not to be built on yet; null where it is. */
export const wingsOpen = ({
  flight,
  surfaces,
  bodies,
}: Pick<Design, "flight" | "surfaces" | "bodies">): string | null =>
  !flight.whole
    ? NOT_WHOLE
    : [...surfaces, ...bodies].some((s) => s.shapeBy === "guess")
      ? "the shape of its wings and bodies is a guess"
      : null;

/**
 * The window that the wings ask for; null where they are not computed. Where the pitch control trims no CG that is
 * stable, or none is described on foils, there is no foremost one; the aft limit holds all the same.
 */
export function windowOfWings(
  design: Pick<Design, "flight" | "surfaces" | "bodies">,
  flown: Pick<FlightResult, "values"> | null,
): Limits | null {
  const [low, high] = [flown?.values.cgForward, flown?.values.cgAft];
  if (!high) return null;
  const from = low && high.value > low.value ? low : null;
  return {
    about: "wings",
    low: from?.value ?? Number.NEGATIVE_INFINITY,
    high: high.value,
    sd: { low: from ? sdOf(from) : 0, high: sdOf(high) },
    // A wing that was forgotten or guessed shifts it: nothing stops before all are there and known.
    guess: wingsOpen(design) !== null,
    must: true,
    by: "wings",
  };
}

/**
 * Where the CG shall be along an axis: its window, and where that is a guess or was never stated what the wings ask
 * for; for a craft that is unstable on purpose, ahead of the stop line of its walk-back. Null where nothing says it.
 */
export function cgLimits(
  design: Pick<Design, "brief" | "schools" | "walkBack" | "flight" | "surfaces" | "bodies">,
  flown: Pick<FlightResult, "values"> | null,
  axis: Axis,
): Limits | null {
  const target = statedFor(design, axis);
  const { schools, walkBack } = design;
  if (axis === "x" && schools.balance === "unstable on purpose" && walkBack)
    return {
      about: "walkBack",
      low: target?.value ?? -Infinity,
      high: walkBack.stop,
      guess: false,
      must: true,
      sd: SHARP,
      by: "stop line",
    };
  const wings =
    axis === "x" && schools.balance === "stable" && (!target || target.evidence === "guess")
      ? windowOfWings(design, flown)
      : null;
  if (wings) return wings;
  return target
    ? {
        about: target.id,
        low: target.value,
        high: target.upper,
        guess: target.evidence === "guess",
        must: axis === "x" || target.weight === "must",
        sd: SHARP,
        by: "window",
      }
    : null;
}
