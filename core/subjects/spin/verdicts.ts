import { plain } from "../../wording/format";
import { verdict } from "../../subject";
import { HALF, type Turning } from "../axes/inFlight";
import { advice, figure, percent } from "../say";
import { spin } from "./node";

const page = { page: "stability" as const };
/** rad/s at which it turns by itself when the throttle is opened at once, from which on care is wanted (judgement). */
const FAST = Math.PI / 2;

/** Opening the throttle at once turns the craft: its rotors take their momentum from it. */
const spinKicks = verdict<{ axis: Turning; rate: number }>({
  find(see) {
    const result = see.result(spin);
    return (result?.kicks ?? [])
      .filter((k) => Math.abs(k.rate) > FAST)
      .map((k) => ({
        ...page,
        severity: "care" as const,
        about: `spin ${k.axis}`,
        params: { axis: k.axis, rate: k.rate },
        figure: figure("turned in a second", Math.abs(k.rate), k.sd, "angle", "calculated", FAST),
      }));
  },
  remedies: () => [
    advice("Open the throttle over a second or more; two rotors that turn against one another store nothing together"),
  ],
  says: (p, habit) =>
    `Opened at once, the throttle turns it about ${p.axis} at ` +
    `${plain(Math.abs(p.rate), "angle", habit)} a second while nothing answers`,
});

/** Turned by hand, it goes another way than it is told. */
const spinPrecesses = verdict<{ turned: Turning; pushed: Turning; share: number }>({
  find(see) {
    const result = see.result(spin);
    return (result?.pushes ?? []).flatMap((p) => {
      const share = p.answer === null || p.answer <= 0 ? null : Math.abs(p.moment) / p.answer;
      if (share === null || share <= HALF) return [];
      return [
        {
          ...page,
          severity: "care" as const,
          about: `precession ${p.turned} ${p.pushed}`,
          params: { turned: p.turned, pushed: p.pushed, share },
          figure: figure(
            "share of what answers",
            share,
            (share * p.sd) / Math.abs(p.moment),
            "percent",
            "calculated",
            HALF,
          ),
        },
      ];
    });
  },
  remedies: () => [
    advice("Smaller or lighter blades, or a second rotor that turns the other way; turn it slowly until it is tried"),
  ],
  says: (p) =>
    `Turned briskly about ${p.turned}, its rotors push it about ${p.pushed} with ${percent(p.share)} of ` +
    "what answers there",
});

export const verdicts = { "spin-kicks": spinKicks, "spin-precesses": spinPrecesses };
