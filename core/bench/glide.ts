import type { Known } from "../design/evidence";
import type { Glide } from "../design/bench";
import { type Mean, meanOf } from "./mean";

type Pass = Glide["passes"][number];

export interface GlideResult {
  /** distance over height, of passes that went straight; null without one */
  ratio: Mean | null;
  /** m/s along the path; null where nothing was timed */
  speed: Mean | null;
  /** what most passes show of the trim; null where they differ or all are straight */
  trim: Pass["saw"] | null;
}

/** How well a single pass is known, share: height and distance paced, a stop-watch by hand (common practice). */
const ONE = { ratio: 0.12, speed: 0.1 };
/** What no repeat takes away: the same hand, the same tape. */
const FLOOR = { ratio: 0.03, speed: 0.03 };

/**
 * Glide ratio and speed from passes that went straight: distance over height lost, path over time.
 * Range: level ground, still air, counted from where the speed had settled; a pass that was thrown faster than it flies
 * is too long.
 */
export function glideOf({ passes }: Pick<Glide, "passes">): GlideResult {
  const straight = passes.filter((p) => p.saw === "straight");
  const timed = straight.flatMap((p) => (p.seconds === null ? [] : [Math.hypot(p.distance, p.height) / p.seconds]));
  const count = (saw: Pass["saw"]) => passes.filter((p) => p.saw === saw).length;
  const odd = (["dived", "rose and stalled", "turned to port", "turned to starboard"] as const).find(
    (saw) => count(saw) > passes.length / 2,
  );
  return {
    ratio: meanOf(
      straight.map((p) => p.distance / p.height),
      ONE.ratio,
      FLOOR.ratio,
    ),
    speed: meanOf(timed, ONE.speed, FLOOR.speed),
    trim: odd ?? null,
  };
}

/**
 * Drag coefficient times area (m²) without what lift costs, from a glide: D = W·sin γ with tan γ = height/distance,
 * less k·(W·cos γ)²/½ρV².
 *
 * @param induced k of the wings, 1/m²; 0 where they are not described: then what lift costs is in it
 * @returns null where a glide so flat at that speed would leave no drag at all: one of the figures is off
 */
export function dragAreaOfGlide(
  { ratio, speed }: GlideResult,
  weight: number,
  density: number,
  induced: number,
): Known | null {
  if (!ratio || !speed || !(weight > 0)) return null;
  const area = (r: number, v: number) => {
    const q = (density * v * v) / 2;
    const angle = Math.atan(1 / r);
    return (weight * Math.sin(angle)) / q - (induced * (weight * Math.cos(angle)) ** 2) / (q * q);
  };
  const value = area(ratio.value, speed.value);
  if (!(value > 0)) return null;
  const sd = Math.hypot(
    area(ratio.value + ratio.sd, speed.value) - value,
    area(ratio.value, speed.value + speed.sd) - value,
  );
  return {
    value,
    evidence: "measured",
    sd,
    note:
      `from ${ratio.n} ${ratio.n === 1 ? "glide" : "glides"}, ${ratio.value.toFixed(1)} : 1 at ` +
      `${speed.value.toFixed(1)} m/s`,
  };
}
