import { type Figure, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice, percent } from "../say";
import { type FoilsResult, foils } from "./node";

const page = { page: "stability" as const };
const figure = ({ drag, thrust }: FoilsResult, needs: number): Figure => ({
  label: "thrust ahead, standing",
  value: thrust?.value ?? 0,
  sd: Math.hypot(thrust?.sd ?? 0, drag.sd),
  dimension: "force",
  evidence: "calculated",
  limit: needs,
});

/** Foils and struts alone take more than it pushes with standing: moving it pushes less. */
const foilsTake = verdict<{ drag: number; thrust: number; speed: number; sure: boolean }>({
  find(see) {
    const r = see.result(foils);
    if (!r?.thrust || r.thrust.value >= r.drag.value) return [];
    // Where they take least at the slowest speed without waves, slower still may be less.
    const slower = r.waves !== null && r.speed <= r.waves * (1 + 1e-9);
    const sure = !slower && r.open.length === 0 && r.thrust.value + r.thrust.sd < r.drag.value - r.drag.sd;
    return [
      {
        ...page,
        severity: sure ? "stop" : "care",
        about: "thrust on the foils",
        params: { drag: r.drag.value, thrust: r.thrust.value, speed: r.speed, sure },
        figure: figure(r, r.drag.value),
      },
    ];
  },
  remedies: () => [advice("Larger foils, or less weight: both let it run slower; more thrust")],
  says: (p, h) =>
    `Its foils take ${plain(p.drag, "force", h)} at the least, at ${plain(p.speed, "speed", h, 1)}: ${
      p.sure ? "it pushes" : "as far as is known it pushes"
    } ${plain(p.thrust, "force", h)} standing, and less moving`,
});

/** It has less thrust than a hull commonly takes before it rises. */
const humpTakes = verdict<{ share: number; below: boolean }>({
  find(see) {
    const r = see.result(foils);
    // A share of a weight that lacks a part is told of nothing.
    if (!r?.thrust || r.open.length > 0 || r.thrust.value < r.drag.value || r.thrust.value >= r.hump.to) return [];
    const below = r.thrust.value < r.hump.from;
    return [
      {
        ...page,
        severity: below ? "care" : "note",
        about: "hump",
        params: { share: (r.thrust.value / r.hump.to) * (1 / 5), below },
        figure: figure(r, r.hump.to),
      },
    ];
  },
  remedies: () => [advice("Pull it at that speed with a luggage scale: what its hull takes decides, 10 min")],
  says: (p) =>
    `It pushes ${percent(p.share)} of its weight: ${
      p.below
        ? "hulls commonly take more before foils lift them"
        : "hulls take an eighth to a fifth before foils lift them"
    }`,
});

export const verdicts = { "foils-take": foilsTake, "hump-takes": humpTakes };
