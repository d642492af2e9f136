import { type Difference, differenceOf } from "../bench/free";
import type { Suspect } from "../design/craftFile";

/**
 * How much what was read changed with a suspect taken away, and how sure that is: Welch's difference of the means, by
 * the scatter of the readings themselves. Null: nothing was read.
 */
export function effectOf({ effect }: Partial<Pick<Suspect, "effect">>): Difference | null {
  if (!effect || (effect.without.length === 0 && effect.with.length === 0)) return null;
  const alone = (list: readonly number[]) => list.map((y) => ({ x: null, y }));
  return differenceOf(alone(effect.without), alone(effect.with), "both plain");
}

/** Whether the readings of a suspect that was ruled in leave open that it has any effect at all. */
export const doubtsItself = (s: Pick<Suspect, "state"> & Partial<Pick<Suspect, "effect">>): boolean =>
  s.state === "ruled in" && effectOf(s)?.status === "not told apart";
