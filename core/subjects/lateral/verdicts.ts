import { type See, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice } from "../say";
import { lateral } from "./node";

const page = { page: "stability" as const };

/**
 * Time in which a lean doubles: below 4 s hands are always busy with it, above 20 s hardly anybody notices (Level 3 and
 * Level 1 of MIL-F-8785C, from memory; written for people aboard, the hands are the same).
 */
const DOUBLES = { busy: 4, noticed: 20 };
const growthIn = (seconds: number) => Math.LN2 / seconds;

/** Left to itself it leans further and further, and turns. */
const spirals = verdict<{ seconds: number; busy: boolean }>({
  find(see: See) {
    const lean = see.metrics.leanGrowth;
    const result = see.result(lateral);
    if (!lean || !result) return [];
    // What the wind turns away by itself is told of its fins.
    if (result.derivatives.beta.n < 0) return [];
    // Within its doubt it may as well come back by itself.
    if (lean.value - lean.sd <= growthIn(DOUBLES.noticed)) return [];
    const busy = lean.value > growthIn(DOUBLES.busy);
    const seconds = Math.LN2 / lean.value;
    return [
      {
        ...page,
        severity: busy ? ("care" as const) : ("note" as const),
        about: "spiral",
        params: { seconds, busy },
        figure: figureOf("growth of a lean in a second", lean, growthIn(busy ? DOUBLES.busy : DOUBLES.noticed)),
      },
    ];
  },
  remedies: () => [advice("More dihedral, or a smaller fin: it turns into a slip more than it rolls out of it")],
  says: (p, habit) =>
    `Left alone a lean doubles in ${plain(p.seconds, "stopwatch", habit, p.seconds < 10 ? 1 : 0)} at ` +
    `1.3 × its stall speed: ${p.busy ? "it must be flown all the time" : "it spirals in slowly"}`,
});

/** Damping of the swing: MIL-F-8785C asks for 0.08, and for 0.02 at the least (from memory). */
const DAMPED = { good: 0.08, least: 0.02 };

/** Its nose swings from side to side, and it hardly dies down. */
const swings = verdict<{ damping: number; grows: boolean }>({
  find(see: See) {
    const swing = see.metrics.swingDamping;
    if (!swing || see.result(lateral) === null) return [];
    // Within its doubt it may as well die down in time.
    if (swing.value + swing.sd >= DAMPED.good) return [];
    const bad = swing.value < DAMPED.least;
    return [
      {
        ...page,
        severity: bad ? ("care" as const) : ("note" as const),
        about: "swing",
        params: { damping: swing.value, grows: swing.value < 0 },
        figure: figureOf("damping of its swing", swing, bad ? DAMPED.least : DAMPED.good),
      },
    ];
  },
  remedies: () => [advice("A larger fin, or one farther aft; less dihedral")],
  says: (p) =>
    p.grows
      ? "It swings from side to side, more each time, at 1.3 × its stall speed"
      : "Its nose swings from side to side and settles slowly at 1.3 × its stall speed",
});

export const verdicts = {
  spirals,
  swings,
};
