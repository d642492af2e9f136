import { type Figure, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice } from "../say";
import { floats } from "./node";
import { screwDepths } from "./screws";

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

/** Diameters of water over the tips below which a screw commonly draws air under load (common practice). */
const COVERED = 0.25;

/** A screw that stands out of the water, or so near its surface that it draws air; a trough of the waves counts. */
const screwSurfaces = verdict<{ name: string; over: number; out: boolean; trough: number }>({
  find(see) {
    const trough = (see.design.brief.environment.waveHeight ?? 0) / 2;
    return screwDepths(see.design, see.result(floats)?.level ?? null).flatMap(({ name, over, diameter, out }) => {
      const limit = COVERED * diameter;
      if (over.value >= limit + trough) return [];
      const bare = over.value + over.sd < 0;
      const figure: Figure = {
        label: "water over its tips",
        ...over,
        dimension: "length",
        evidence: "calculated",
        limit: limit + trough,
      };
      return [
        {
          page: "stability",
          severity: out && bare ? "stop" : over.value < trough ? "care" : "note",
          about: `screw ${name}`,
          params: { name, over: over.value, out: out && bare, trough },
          figure,
        },
      ];
    });
  },
  remedies: () => [
    advice(
      "Lower it, or a smaller one that turns faster; pull at a luggage scale where it runs: drawn air shows there",
    ),
  ],
  says: (p, habit) =>
    p.out
      ? `${p.name} stands out of the water: nothing that is computed of its push holds`
      : p.over < 0
        ? `The tips of ${p.name} come ${plain(-p.over, "length", habit)} out of the water: it draws air and pushes less`
        : p.over < p.trough
          ? `A trough of the waves bares the tips of ${p.name}, ${plain(p.over, "length", habit)} under water`
          : `The tips of ${p.name} run ${plain(p.over, "length", habit)} under water: under load it may draw air`,
});

/** Its metacentre lies below its CG, or not surely above: held upright it rolls over when it is let go. */
const rollsOver = verdict<{ gm: number; sure: boolean }>({
  find(see) {
    const gm = see.result(floats)?.level?.upright?.roll.gm;
    if (!gm || gm.value - gm.sd >= 0) return [];
    const sure = gm.value + gm.sd < 0;
    const figure: Figure = {
      label: "metacentre over the CG",
      ...gm,
      dimension: "length",
      evidence: "calculated",
      limit: 0,
    };
    return [
      {
        page: "stability",
        severity: sure ? "stop" : "care",
        about: "upright afloat",
        params: { gm: gm.value, sure },
        figure,
      },
    ];
  },
  remedies: () => [
    advice("Describe every hull and float as a body: what is not described holds nothing here"),
    advice("Lower what is heavy, widen the hull where it meets the water, or set floats out to the sides"),
    advice("Float it in a tub with its pack aboard before the motor is fitted: lean it and let go"),
  ],
  says: (p, habit) =>
    p.sure
      ? `By what is described of its hull its CG lies ${plain(-p.gm, "length", habit)} above its metacentre: upright ` +
        "it rolls to one side"
      : "Whether it stays upright is not sure: by what is described of its hull its metacentre lies " +
        `${plain(Math.abs(p.gm), "length", habit)} ${p.gm < 0 ? "below" : "above"} its CG`,
});

export const verdicts = {
  "rolls-over": rollsOver,
  "goes-under": goesUnder,
  "trims-away": trimsAway,
  "screw-surfaces": screwSurfaces,
};
