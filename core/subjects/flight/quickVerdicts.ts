import { verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice } from "../say";
import { lifts, planformOf, stationsOf } from "../surfaces/planform";
import { lattice } from "./latticeNode";
import { commandPerG } from "./pullUp";
import { figureBare, onWings, page } from "./see";

/** Share of the pitch travel that hands move without meaning to, and the g that it may pull then (judgement). */
const TWITCH = { share: 0.1, most: 2 };
/** So large, or with so little margin, that a twitch of the hand is felt at once when it flies fast. */
export const twitchy = verdict<{ speed: number; g: number }>({
  find(see) {
    const result = onWings(see);
    const l = see.result(lattice);
    const top = see.metrics.speed;
    // Near the ground it cannot pull up for long: what it does there is told of its heights.
    if (!result?.at || !l || !result.travel || !top || top.unknown || see.design.flight.height) return [];
    const speed = top.value;
    const load = result.at.weight / ((result.at.density * speed ** 2) / 2);
    const per = commandPerG(l, result.at.cg, load, speed);
    // What must be held back is told of its CG.
    if (per === null || !(per > 0)) return [];
    const g = (TWITCH.share * Math.min(result.travel.up, result.travel.down)) / per;
    if (!(g > TWITCH.most)) return [];
    return [
      {
        ...page,
        severity: "care",
        about: "twitchy",
        params: { speed, g },
        figure: figureBare("weights for a tenth of the travel", g, TWITCH.most, "ratio"),
      },
    ];
  },
  remedies: () => [advice("Less travel for fast flight, a softer middle, or the CG farther forward")],
  says: (p, habit) =>
    `At ${plain(p.speed, "speed", habit, 0)} a tenth of the pitch travel pulls ` +
    `${p.g < 9.95 ? p.g.toFixed(1) : "over 10"} × its weight more: it is twitchy when fast`,
});

/**
 * Length of a side over its mean chord, and speed, from which a surface that nobody stiffened may flutter
 * (judgement).
 */
const LONG = 4;
const FAST = 20;
/** A long surface at speed: how stiff it is nobody said, and nothing here computes it. */
export const mayFlutter = verdict<{ surface: string; speed: number; long: number }>({
  find(see) {
    const top = see.metrics.speed;
    const result = onWings(see);
    if (!result || result.inWater || !top || top.value < FAST) return [];
    return see.design.surfaces.filter(lifts).flatMap((s) => {
      const side = stationsOf(s).at(-1)?.along ?? 0;
      const { area } = planformOf(s);
      const chord = area / (side * (s.mirrored ? 2 : 1) || 1);
      const long = chord > 0 ? side / chord : 0;
      return long < LONG
        ? []
        : [
            {
              ...page,
              severity: "note" as const,
              about: s.id,
              params: { surface: s.name, speed: top.value, long },
              figure: null,
            },
          ];
    });
  },
  remedies: () => [
    advice("Twist and bend it by hand, take the play out of its controls, and go faster in small steps only"),
  ],
  says: (p, habit) =>
    `“${p.surface}” is ${p.long.toFixed(1)} chords long a side: whether it is stiff enough for ` +
    `${plain(p.speed, "speed", habit, 0)} is not known; soft ones flutter`,
});
