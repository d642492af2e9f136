import { type Figure, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice } from "../say";
import { floats } from "./node";

/** All that is described of its hull, wholly under, displaces less than it weighs. */
const goesUnder = verdict<{ most: number; mass: number; sure: boolean }>({
  find(see) {
    const r = see.result(floats);
    if (!r || r.level) return [];
    const sure = r.mass.value - r.mass.sd > r.most.value + 2 * r.most.sd;
    const figure: Figure = {
      label: "mass",
      value: r.mass.value,
      sd: Math.hypot(r.mass.sd, r.most.sd),
      dimension: "mass",
      evidence: "calculated",
      limit: r.most.value,
    };
    const params = { most: r.most.value, mass: r.mass.value, sure };
    return [{ page: "stability", severity: sure ? "stop" : "care", about: "hull under", params, figure }];
  },
  remedies: () => [advice("Describe every hull and float as a body, at its true size; a larger hull, or less weight")],
  says: (p, habit) =>
    `Its described hull displaces ${plain(p.most, "mass", habit)} wholly under and carries ` +
    `${plain(p.mass, "mass", habit)}: it ${p.sure ? "goes" : "may go"} under`,
});

/**
 * Share of the hull's length by which the middle of the water may lie beside the CG before it trims plainly
 * (judgement).
 */
const trimsAway = verdict<{ behind: number }>({
  find(see) {
    const r = see.result(floats)?.level;
    if (!r?.behind) return [];
    const xs = see.design.bodies.flatMap((b) => b.frames.map((f) => f.x));
    const limit = TRIMS * (Math.max(...xs) - Math.min(...xs));
    if (Math.abs(r.behind.value) - r.behind.sd < limit) return [];
    const figure: Figure = {
      label: "middle of the water behind the CG",
      ...r.behind,
      dimension: "length",
      evidence: "calculated",
      limit: Math.sign(r.behind.value) * limit,
    };
    return [{ page: "stability", severity: "care", about: "trim afloat", params: { behind: r.behind.value }, figure }];
  },
  remedies: () => [
    advice("Move the pack toward the middle of what it displaces; float it in a tub before the motor is fitted"),
  ],
  says: (p, habit) =>
    `Level, the water it displaces has its middle ${plain(Math.abs(p.behind), "length", habit)} ` +
    `${p.behind > 0 ? "behind" : "ahead of"} its CG: it settles by the ` +
    `${p.behind > 0 ? "bow" : "stern"}`,
});
const TRIMS = 0.03;

export const verdicts = { "goes-under": goesUnder, "trims-away": trimsAway };
