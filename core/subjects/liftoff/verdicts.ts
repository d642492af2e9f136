import type { Design } from "../../design/schema";
import { type See, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { stop } from "../flight/see";
import { LIGHTEN, advice, times } from "../say";
import { stance } from "../stance/node";
import { liftoff } from "./node";

const page = { page: "stability" as const };
/** The run of a craft of which every part that it rests on is told. */
const told = (see: See) => (see.design.flight.whole ? see.result(liftoff) : null);

/** Thrust does not bring it to the speed at which it leaves the ground. */
const neverLeaves = verdict<{ speed: number }>({
  find(see) {
    const result = told(see);
    const speed = result?.values.liftOffSpeed?.value;
    if (!result || speed === undefined || result.values.liftOffRun) return [];
    return [{ ...page, severity: stop(see), about: "run", params: { speed }, figure: null }];
  },
  remedies: () => [advice("Start from harder ground, by hand or from a rail; or more thrust"), LIGHTEN],
  says: (p, h) => `Full throttle does not roll it to ${plain(p.speed, "speed", h)}: it does not leave the ground`,
});

/** Feet that stand farthest back. */
const hindmost = (design: Design): Design["feet"] => {
  const back = Math.max(...design.feet.map((f) => f.at.x));
  return design.feet.filter((f) => back - f.at.x < 0.005);
};

/** Over the least speed of lift-off beyond which it is told (judgement). */
const LATE = 1.15;
/** Its nose comes up late, or not at all: it runs on, faster than it need, and leaps when it comes. */
const noseLate = verdict<{
  speed: number | null;
  over: number;
  ahead: number | null;
  touches: string | null;
  clear: number;
}>({
  find(see) {
    const result = told(see);
    if (!result?.leaving) return [];
    const { leaves, nose, steep } = result.leaving;
    // What is behind is in the way, and not what lifts the nose.
    const behind = nose !== null && (steep === null || steep > Math.max(nose, result.least)) ? result.touches : null;
    const over = leaves === null ? Number.POSITIVE_INFINITY : leaves / result.least;
    if (!(over > LATE)) return [];
    const speed = see.metrics.liftOffSpeed;
    return [
      {
        ...page,
        severity: result.surelyNot ? stop(see) : "care",
        about: "nose",
        params: {
          ...{ speed: leaves, over: leaves === null ? 0 : over, ahead: behind ? null : result.feetAhead },
          ...{ touches: behind?.name ?? null, clear: behind?.clear ?? 0 },
        },
        figure: speed ? figureOf("lift-off speed", speed, result.least) : null,
      },
    ];
  },
  remedies(see, { params }, h) {
    if (params.touches !== null)
      return [
        advice(
          "Longer legs, an outline that rises behind them, or a wing set at more of an angle, so that " +
            "it flies as steep as it can stand",
        ),
      ];
    const feet = hindmost(see.design);
    const more = advice(
      "More travel up of the pitch control, a lower line of thrust, or a stance that holds the nose higher",
    );
    if (params.ahead === null || feet.length === 0 || !see.result(stance)) return [more];
    // A whole millimetre, so that it is enough.
    const by = Math.ceil(1000 * params.ahead) / 1000;
    return [
      {
        code: "feet-ahead",
        text:
          `Set ${feet.map((f) => `“${f.name}”`).join(" and ")} ` +
          `${plain(by, "length", h, h === "metric" ? 0 : 2)} farther ahead`,
        patch: {
          set: feet.map((f) => ({ path: ["feet", `#${f.id}`, "at", "x"], value: f.at.x - by })),
          addItems: [],
        },
      },
      more,
    ];
  },
  says(p, h) {
    if (p.touches !== null) {
      const at = `“${p.touches}” touches the ground at ${plain(p.clear, "angle", h)} more nose up`;
      return p.speed === null
        ? `${at}, and so flat nothing carries it: it does not leave the ground`
        : `${at}: it leaves the ground only at ${plain(p.speed, "speed", h)}, ${times(p.over)} the speed ` +
            "at which it could";
    }
    return p.speed === null
      ? "On its run the nose does not come up at full nose up, and as it stands nothing carries it: it " +
          "does not leave the ground"
      : `Its nose comes up late: it leaves the ground at ${plain(p.speed, "speed", h)}, ${times(p.over)} ` +
          "the speed at which it could";
  },
});

export const verdicts = {
  "never-leaves": neverLeaves,
  "nose-late": noseLate,
};
