import { type Supported, supportOf } from "../../design/support";
import type { Driven } from "./inputs";

/** Whether a craft hangs on the thrust of its drives. */
export const liftedByRotors = (design: Supported): boolean => supportOf(design).onThrust;

/**
 * The drives that a craft is judged by: those that push up when it is held up by them, else those that push ahead,
 * else astern, else all.
 */
export function mainUnits(design: Supported & Pick<Driven, "units">): number[] {
  const lifted = liftedByRotors(design);
  const indices = design.units.map((_, i) => i);
  const along = (wanted: readonly string[]) => indices.filter((i) => wanted.includes(design.units[i]?.direction ?? ""));
  const first = [lifted ? ["up"] : ["ahead"], ["ahead"], ["astern"]].map(along).find((found) => found.length > 0);
  return first ?? indices;
}
