import { probabilityWithin } from "../../numeric/normal";
import { METRICS } from "../../design/metrics";
import type { Patch } from "../../design/patch";
import { AXES, type Axis, type Item, type Target } from "../../design/schema";
import { ballastFor, leverage } from "../../subjects/mass/balance";
import { ballastItem, ballastSpots, isBallast } from "../../subjects/mass/ballast";
import { type Alternative, alternatives, planPatch, reachOf, shortestSlide } from "../../subjects/mass/balanceSolver";
import { rollUp } from "../../subjects/mass/rollup";
import { movingMass, slideSteps } from "../../subjects/mass/tree";
import { type Finding, type Remedy, type Rule, type RuleInput, figureOf } from "../types";

const CG_METRIC = { x: "cgX", y: "cgY", z: "cgZ" } as const;
const windowOf = (input: RuleInput, axis: Axis): Target | undefined => input.design.brief.targets.find((t) => t.metric === CG_METRIC[axis] && t.comparison === "between");

/** One alternative of the solver as a remedy; null for what no single sentence says. */
function asRemedy(input: RuleInput, { plan }: Alternative): Remedy | null {
  const patch = planPatch(input.design, plan);
  const move = plan.moves[0];
  const ballast = plan.ballast[0];
  const name = input.design.items.find((i) => i.id === move?.itemId)?.name ?? "";
  if (plan.moves.length > 1 || plan.ballast.length > 1 || (move && move.axis === "z")) return null;
  if (move && ballast)
    return move.axis === "x" ? { code: "slide-and-ballast", params: { item: name, by: move.to - move.from, mass: ballast.mass, spot: ballast.spot.name }, patch } : null;
  if (move?.axis === "x") return { code: "move-part", params: { item: name, by: move.to - move.from, to: move.to }, patch };
  if (move) return { code: "move-part-across", params: { item: name, by: move.to - move.from }, patch };
  return ballast ? { code: "add-ballast", params: { mass: ballast.mass, x: ballast.spot.place.x, y: ballast.spot.place.y }, patch } : null;
}

/** Up to three ways to bring the CG along one axis to `goal`, the others left as they are: by sliding, by ballast, by both. */
function waysTo(input: RuleInput, axis: Axis, goal: number): Remedy[] {
  const { design, mass } = input;
  const sliders = design.items.filter((i) => i.slide || i.slideY || i.slideZ).map((i) => i.id);
  // Ballast at whichever single spot takes least: two spots at once say nothing that one does not, unless none is enough alone.
  const all = ballastSpots(design);
  const best = all
    .flatMap((s) => {
      const added = mass ? ballastFor(mass.mass, mass.cg[axis], goal, s.place[axis]) : null;
      return added !== null && added > 0 && added <= s.most ? [{ id: s.id, added }] : [];
    })
    .sort((a, b) => a.added - b.added)
    .slice(0, 1)
    .map((s) => s.id);
  const spots = best.length > 0 ? best : all.map((s) => s.id);
  return alternatives(design, { sliders, spots, goals: { [axis]: { low: goal, high: goal } } }, mass).flatMap((a) => asRemedy(input, a) ?? []);
}

/** CG against its window along x. Outside: stop. Inside with odds under 90 in 100: care. Else clear. */
export const cgWindow: Rule = (input) => {
  const target = windowOf(input, "x");
  const cg = input.metrics.cgX;
  if (!target || !cg || target.upper === undefined) return [];
  const odds = probabilityWithin(cg.value, cg.sd, target.value, target.upper);
  const middle = (target.value + target.upper) / 2;
  const base = { station: "layout" as const, subject: target.id };
  if (cg.value < target.value || cg.value > target.upper) {
    const behind = cg.value > target.upper;
    const limit = behind ? target.upper : target.value;
    return [
      {
        ...base,
        code: "cg-outside",
        severity: "stop",
        params: { side: behind ? "behind" : "ahead", by: Math.abs(cg.value - limit) },
        figure: figureOf("CG", cg, limit),
        remedies: waysTo(input, "x", middle),
      },
    ];
  }
  if (odds < 0.9)
    return [
      {
        ...base,
        code: "cg-doubtful",
        severity: "care",
        params: { odds },
        figure: figureOf("CG", cg, cg.value > middle ? target.upper : target.value),
        remedies: [...(Math.abs(cg.value - middle) > cg.sd ? waysTo(input, "x", middle) : []), { code: "advice", params: { text: "weigh-first" }, patch: null }],
      },
    ];
  return [{ ...base, code: "cg-inside", severity: "clear", params: { odds }, figure: figureOf("CG", cg, cg.value > middle ? target.upper : target.value), remedies: [] }];
};

/** CG outside its window in height, when the brief states one. */
export const cgVertical: Rule = (input) => {
  const target = windowOf(input, "z");
  const cg = input.metrics.cgZ;
  if (!target || !cg || target.upper === undefined || (cg.value >= target.value && cg.value <= target.upper)) return [];
  const above = cg.value > target.upper;
  const limit = above ? target.upper : target.value;
  return [
    {
      code: "cg-vertical",
      severity: target.weight === "must" ? "stop" : "care",
      station: "layout",
      subject: target.id,
      params: { side: above ? "above" : "below", by: Math.abs(cg.value - limit) },
      figure: figureOf("CG height", cg, limit),
      remedies: waysTo(input, "z", (target.value + target.upper) / 2),
    },
  ];
};

/** Share of the craft's width that the CG may sit off the centreline before it is said. Common practice: one per cent. */
const SIDEWAYS_SHARE = 0.01;

/** CG off the centreline by more than 1 % of the width and more than its own doubt. */
export const cgSideways: Rule = (input) => {
  const { mass, box, design } = input;
  const cg = input.metrics.cgY;
  if (!mass || !box || !cg) return [];
  const allowed = SIDEWAYS_SHARE * (box.max.y - box.min.y);
  if (Math.abs(cg.value) <= Math.max(allowed, cg.sd)) return [];
  const remedies: Remedy[] = [];
  const across = design.items
    .flatMap((item) => {
      if (item.mass === null || item.mirrored || item.place.y * cg.value <= 0) return [];
      const by = -(cg.value * mass.mass) / (item.mass.value * item.quantity);
      const y = item.place.y + by;
      const half = item.size.y / 2;
      return y - half >= box.min.y && y + half <= box.max.y ? [{ item, by, y }] : [];
    })
    .sort((a, b) => Math.abs(a.by) - Math.abs(b.by))[0];
  if (across)
    remedies.push({
      code: "move-part-across",
      params: { item: across.item.name, by: across.by },
      patch: { set: [{ path: ["items", `#${across.item.id}`, "place", "y"], value: across.y }], addItems: [] },
    });
  // Ballast at the far edge of the drawing, beside the CG: there it costs least and leaves x alone.
  const side = cg.value > 0 ? box.min.y : box.max.y;
  const ballast = ballastFor(mass.mass, mass.cg.y, 0, side);
  if (ballast !== null && ballast > 0) {
    const place = { x: mass.cg.x, y: side, z: mass.cg.z };
    remedies.push({
      code: "add-ballast",
      params: { mass: ballast, x: place.x, y: side },
      patch: { set: [], addItems: [ballastItem(design, ballast, place, cg.value > 0 ? "port" : "starboard")] },
    });
  }
  return [
    {
      code: "cg-sideways",
      severity: "care",
      station: "layout",
      subject: "cgY",
      params: { side: cg.value > 0 ? "starboard" : "port", by: Math.abs(cg.value) },
      figure: figureOf("CG", cg, Math.sign(cg.value) * allowed),
      remedies,
    },
  ];
};

/** The CG is outside its window and parts may slide, yet none reaches it alone: by how much the best one falls short. */
export const slideShort: Rule = (input) => {
  const { design, mass } = input;
  const target = windowOf(input, "x");
  if (!target || target.upper === undefined || !mass) return [];
  const { x } = mass.cg;
  const edge = x > target.upper ? target.upper : x < target.value ? target.value : null;
  if (edge === null) return [];
  const reaches = design.items.flatMap((item) => {
    const reach = reachOf(design, mass, item.id);
    return reach ? [{ item, end: edge < x ? reach.low : reach.high }] : [];
  });
  const best = reaches.sort((a, b) => Math.abs(a.end - edge) - Math.abs(b.end - edge))[0];
  if (!best || reaches.some((r) => (edge < x ? r.end <= edge : r.end >= edge))) return [];
  const middle = (target.value + target.upper) / 2;
  const widened = structuredClone(design);
  const item = widened.items.find((i) => i.id === best.item.id);
  if (item) item.slide = { from: -100, to: 100 };
  const slide = shortestSlide({ ...widened, items: widened.items.map((i) => (i.id === best.item.id ? i : { ...i, slide: null })) }, mass, middle);
  const half = best.item.size.x / 2;
  const fits = slide && input.box && slide.to - half >= input.box.min.x && slide.to + half <= input.box.max.x;
  const remedies: Remedy[] = fits
    ? [
        {
          code: "widen-slide",
          params: { item: best.item.name, to: slide.to },
          patch: {
            set: [
              { path: ["items", `#${best.item.id}`, "slide", edge < x ? "from" : "to"], value: slide.to },
              ...slideSteps(design.items, best.item, "x", slide.to - best.item.place.x),
            ],
            addItems: [],
          },
        },
      ]
    : [{ code: "advice", params: { text: "weigh-first" }, patch: null }];
  return [
    {
      code: "slide-short",
      severity: "care",
      station: "layout",
      subject: best.item.id,
      params: { item: best.item.name, reach: best.end, by: Math.abs(best.end - edge) },
      figure: { label: "CG reached", value: best.end, sd: mass.cgSd.x, dimension: "length", evidence: mass.cgEvidence, limit: edge },
      remedies,
    },
  ];
};

/** Names that tell the sides of a pair. */
const SIDES: readonly [RegExp, RegExp][] = [
  [/\bleft\b/i, /\bright\b/i],
  [/\bport\b/i, /\bstarboard\b/i],
  [/\bL$/, /\bR$/],
];

/** Difference of mass, as a share, and of place, m, that a pair may have (common practice). */
const PAIR_MASS = 0.03;
const PAIR_PLACE = 0.002;

/** Parts named left and right (port and starboard, L and R) that differ in mass or do not mirror each other. */
export const pairUnequal: Rule = ({ design }) =>
  design.items.flatMap((a): Finding[] => {
    const side = SIDES.find(([left]) => left.test(a.name));
    if (!side || !a.mass || a.mirrored) return [];
    const stem = a.name.replace(side[0], "").toLowerCase();
    const b = design.items.find((i) => side[1].test(i.name) && i.name.replace(side[1], "").toLowerCase() === stem);
    if (!b?.mass || b.mirrored) return [];
    const [massA, massB] = [movingMass(design.items, a), movingMass(design.items, b)];
    const differ = Math.abs(massA - massB);
    const apart = Math.hypot(a.place.x - b.place.x, a.place.y + b.place.y, a.place.z - b.place.z);
    const heavy = differ > PAIR_MASS * Math.max(massA, massB);
    if (!heavy && apart <= PAIR_PLACE) return [];
    const lighter = massA < massB ? a : b;
    const patch: Patch = heavy
      ? { set: [], addItems: [{ ...ballastItem(design, differ, lighter.place, lighter.name), parentId: lighter.id }] }
      : { set: AXES.map((axis) => ({ path: ["items", `#${b.id}`, "place", axis], value: axis === "y" ? -a.place.y : a.place[axis] })), addItems: [] };
    return [
      {
        code: "pair-unequal",
        severity: "care",
        station: "layout",
        subject: a.id,
        params: { a: a.name, b: b.name, mass: heavy ? differ : 0, place: apart },
        figure: heavy
          ? { label: "difference", value: differ, sd: 0, dimension: "mass", evidence: a.mass.evidence, limit: PAIR_MASS * Math.max(massA, massB) }
          : { label: "out of mirror", value: apart, sd: 0, dimension: "length", evidence: a.placeEvidence, limit: PAIR_PLACE },
        remedies: [
          heavy
            ? { code: "add-ballast", params: { mass: differ, x: lighter.place.x, y: lighter.place.y }, patch }
            : { code: "even-pair", params: { item: b.name, y: -a.place.y }, patch },
        ],
      },
    ];
  });

/** A mirrored entry with an odd number of pieces. */
export const pairOdd: Rule = ({ design }) =>
  design.items
    .filter((i: Item) => i.mirrored && i.quantity % 2 === 1)
    .map((i) => ({
      code: "pair-odd",
      severity: "care",
      station: "layout",
      subject: i.id,
      params: { item: i.name, quantity: i.quantity },
      figure: { label: "pieces", value: i.quantity, sd: 0, dimension: "count", evidence: "measured", limit: i.quantity + 1 },
      remedies: [
        {
          code: "set-quantity",
          params: { item: i.name, quantity: i.quantity + 1 },
          patch: { set: [{ path: ["items", `#${i.id}`, "quantity"], value: i.quantity + 1 }], addItems: [] },
        },
      ],
    }));

/** Share of AUW that may be there for balance alone (common practice). */
const BALLAST_SHARE = 0.08;

/** Dead weight for balance out of proportion. The remedy slides a part instead, when one reaches. */
export const ballastShare: Rule = ({ design, metrics, mass }) => {
  const share = metrics.ballastShare;
  if (!share || share.value <= BALLAST_SHARE || !mass) return [];
  const dead = design.items.filter(isBallast);
  const without = { ...design, items: design.items.filter((i) => !dead.includes(i)) };
  const rest = rollUp(without);
  const slide = rest && shortestSlide(without, rest, mass.cg.x);
  const item = design.items.find((i) => i.id === slide?.itemId);
  const grams = share.value * mass.mass;
  return [
    {
      code: "ballast-share",
      severity: "care",
      station: "layout",
      subject: "ballast",
      params: { share: share.value, mass: grams },
      figure: figureOf(METRICS.ballastShare.label, share, BALLAST_SHARE),
      remedies:
        slide && item
          ? [
              {
                code: "drop-ballast",
                params: { mass: grams, item: item.name, by: slide.to - item.place.x },
                patch: {
                  set: slideSteps(design.items, item, "x", slide.to - item.place.x),
                  addItems: [],
                  removeItems: dead.map((d) => d.id),
                },
              },
            ]
          : [{ code: "advice", params: { text: "lighten" }, patch: null }],
    },
  ];
};

/** What one gram at a place costs at the foremost or aftmost ballast spot, whichever balances it; null where it costs nothing. */
export function costOfGram(input: Pick<RuleInput, "design" | "mass">, x: number): number | null {
  if (!input.mass) return null;
  const cg = input.mass.cg.x;
  const costs = ballastSpots(input.design)
    .map((s) => leverage(cg, x, s.place.x))
    .filter((l) => l > 0);
  return costs.length > 0 ? Math.min(...costs) : null;
}

export const balanceRules: Rule[] = [cgWindow, cgVertical, cgSideways, slideShort, pairUnequal, pairOdd, ballastShare];
