import type { Known } from "../../design/evidence";
import { GRAVITY } from "../air/air";
import type { FlightSaid } from "../surfaces/declares";

/**
 * Share of what a stretched cord holds that reaches the craft: rubber, its own mass, the line, the rail (judgement).
 */
export const RETURNED = { value: 0.7, sd: 0.1 };
/** How well a pull is read off a luggage scale, and a stretch paced, share (common practice). */
const READ = { pull: 0.05, stretch: 0.03 };

/**
 * Speed (m/s) at which a stretched cord lets a craft go: m·V²/2 = η·F·x/2 − m·g·h, the pull taken to grow straight
 * with the stretch. Rubber pulls harder than that at half of its stretch: it is rather faster.
 *
 * @param pull at full stretch, N, more than 0
 * @param stretch beyond its slack length, m, more than 0
 * @param rise of the craft while it is pulled, m
 * @param mass of the craft, kg, more than 0
 * @returns null where the cord does not lift it that high
 */
export function releasedBy(pull: number, stretch: number, rise: number, mass: number): Known | null {
  const speed = (returned: number, f: number, x: number) => {
    const left = (returned * f * x) / mass - 2 * GRAVITY * rise;
    return left > 0 ? Math.sqrt(left) : Number.NaN;
  };
  const value = speed(RETURNED.value, pull, stretch);
  if (!Number.isFinite(value)) return null;
  // V²/2 goes straight with each: dV = d(V²)/2V.
  const got = (RETURNED.value * pull * stretch) / mass;
  const share = Math.hypot(RETURNED.sd / RETURNED.value, READ.pull, READ.stretch);
  return {
    value,
    sd: (got * share) / (2 * value),
    evidence: "calculated",
    note: `cord of ${pull.toFixed(0)} N over ${stretch.toFixed(1)} m`,
  };
}

/** The speed at which it is let go: as it was read or said, else what its cord gives it; null: neither is known. */
export function launchSpeedOf(
  { launch, launchSpeed, cord }: Pick<FlightSaid, "launch" | "launchSpeed" | "cord">,
  mass: number | null,
): Known | null {
  if (launchSpeed || launch !== "rail or bungee" || !cord || mass === null) return launchSpeed;
  const { pull, stretch, rise } = cord;
  return pull === null || stretch === null ? null : releasedBy(pull, stretch, rise, mass);
}
