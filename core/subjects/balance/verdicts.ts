import type { Patch } from "../../design/patch";
import { AXES, type Axis, type Item, type Target } from "../../design/schema";
import type { UnitHabit } from "../../design/units";
import { probabilityWithin } from "../../numeric/normal";
import { type Found, type Remedy, type See, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { extent } from "../extent/node";
import { ballastItem, ballastSpots } from "../mass/ballast";
import { mass } from "../mass/node";
import { movingMass, slideSteps } from "../mass/tree";
import { advice, inHundred } from "../say";
import { ballastFor } from "./lever";
import { balance } from "./node";
import { type Alternative, alternatives, planPatch, reachOf, shortestSlide } from "./solver";

const CG_METRIC = { x: "cgX", y: "cgY", z: "cgZ" } as const;
type Window = Target & { upper: number };
const windowOf = (see: See, axis: Axis): Window | undefined =>
  see.design.brief.targets.find((t): t is Window => t.metric === CG_METRIC[axis] && t.comparison === "between" && t.upper !== undefined);
const middleOf = (w: Window) => (w.value + w.upper) / 2;
const WEIGH_FIRST = advice("Weigh what blurs it most (see below)");

const movePart = (item: string, by: number, h: UnitHabit) => `Move ${item} ${plain(Math.abs(by), "length", h, 0)} ${by < 0 ? "forward" : "aft"}`;
const moveAcross = (item: string, by: number, h: UnitHabit) => `Move ${item} ${plain(Math.abs(by), "length", h, 0)} to ${by > 0 ? "starboard" : "port"}`;
const addBallast = (kg: number, x: number, y: number, h: UnitHabit) =>
  `Add ${plain(kg, "mass", h)} at x ${plain(x, "length", h, 0)}${y === 0 ? "" : `, y ${plain(y, "length", h, 0)}`}`;

/** One alternative of the solver as a remedy; null for what no single sentence says. */
function asRemedy({ design }: See, { plan }: Alternative, h: UnitHabit): Remedy | null {
  const patch = planPatch(design, plan);
  const move = plan.moves[0];
  const ballast = plan.ballast[0];
  const name = design.items.find((i) => i.id === move?.itemId)?.name ?? "";
  if (plan.moves.length > 1 || plan.ballast.length > 1 || (move && move.axis === "z")) return null;
  if (move && ballast)
    return move.axis === "x"
      ? { code: "slide-and-ballast", text: `${movePart(name, move.to - move.from, h)} and add ${plain(ballast.mass, "mass", h)} at the ${ballast.spot.name}`, patch }
      : null;
  if (move?.axis === "x") return { code: "move-part", text: movePart(name, move.to - move.from, h), patch };
  if (move) return { code: "move-part-across", text: moveAcross(name, move.to - move.from, h), patch };
  return ballast ? { code: "add-ballast", text: addBallast(ballast.mass, ballast.spot.place.x, ballast.spot.place.y, h), patch } : null;
}

/** Up to three ways to bring the CG along one axis to `goal`, the others left as they are: by sliding, by ballast, by both. */
function waysTo(see: See, axis: Axis, goal: number, h: UnitHabit): Remedy[] {
  const { design } = see;
  const all = see.result(balance);
  const sliders = design.items.filter((i) => i.slide || i.slideY || i.slideZ).map((i) => i.id);
  // Ballast at whichever single spot takes least: two spots at once say nothing that one does not, unless none is enough alone.
  const places = ballastSpots(design);
  const best = places
    .flatMap((s) => {
      const added = all ? ballastFor(all.mass, all.cg[axis], goal, s.place[axis]) : null;
      return added !== null && added > 0 && added <= s.most ? [{ id: s.id, added }] : [];
    })
    .sort((a, b) => a.added - b.added)
    .slice(0, 1)
    .map((s) => s.id);
  const spots = best.length > 0 ? best : places.map((s) => s.id);
  return alternatives(design, { sliders, spots, goals: { [axis]: { low: goal, high: goal } } }, all).flatMap((a) => asRemedy(see, a, h) ?? []);
}

/** The CG and its window, when both are there. */
function againstWindow(see: See, axis: Axis = "x") {
  const target = windowOf(see, axis);
  const cg = see.metrics[CG_METRIC[axis]];
  if (!target || !cg) return null;
  const middle = middleOf(target);
  // The nearest edge with room for the doubt; in a narrow window its middle.
  const room = Math.min(MARGIN * cg.sd, (target.upper - target.value) / 2);
  const aim = cg.value > middle ? target.upper - room : target.value + room;
  return { target, cg, middle, aim, outside: cg.value < target.value || cg.value > target.upper, odds: probabilityWithin(cg.value, cg.sd, target.value, target.upper) };
}
const base = { page: "layout" as const };
/** Odds above which the CG counts as inside its window, and below which as outside (judgement). Between them it is measured first. */
const SURE = 0.9;
const LOST = 0.1;
/** Distance from the edge of the window, in standard uncertainties, that a remedy aims at: inside by 90 in 100. */
const MARGIN = 1.35;

/** CG outside its window along x. */
const cgOutside = verdict<{ side: "behind" | "ahead"; by: number }>({
  find(see) {
    const at = againstWindow(see);
    if (!at?.outside || at.odds >= LOST) return [];
    const behind = at.cg.value > at.target.upper;
    const limit = behind ? at.target.upper : at.target.value;
    return [
      {
        ...base,
        severity: at.target.evidence === "guess" ? "care" : "stop",
        about: at.target.id,
        params: { side: behind ? "behind" : "ahead", by: Math.abs(at.cg.value - limit) },
        figure: figureOf("CG", at.cg, limit),
      },
    ];
  },
  remedies(see, _found, h) {
    const at = againstWindow(see);
    return at ? waysTo(see, "x", at.aim, h) : [];
  },
  says: (p, h) => `CG sits ${plain(p.by, "length", h)} ${p.side} its window`,
});

/** CG that is neither surely inside its window nor surely outside: measured first. */
const cgDoubtful = verdict<{ odds: number }>({
  find(see) {
    const at = againstWindow(see);
    if (!at || at.odds >= SURE || (at.outside && at.odds < LOST)) return [];
    return [
      { ...base, severity: "care", about: at.target.id, params: { odds: at.odds }, figure: figureOf("CG", at.cg, at.cg.value > at.middle ? at.target.upper : at.target.value) },
    ];
  },
  remedies(see, _found, h) {
    const at = againstWindow(see);
    if (!at) return [];
    // Where the doubt is wider than the window no place is surely inside it.
    const helps = probabilityWithin(at.aim, at.cg.sd, at.target.value, at.target.upper) >= SURE;
    return [WEIGH_FIRST, ...(helps ? waysTo(see, "x", at.aim, h) : [])];
  },
  says: (p) => `CG is in its window by ${inHundred(p.odds)} only`,
});

/** CG inside its window: clear only when every part has a mass, for what has none bears on it. */
const cgInside = verdict<{ odds: number }>({
  find(see) {
    const at = againstWindow(see);
    if (!at || at.outside || at.odds < SURE || (at.cg.incomplete?.length ?? 0) > 0) return [];
    return [
      { ...base, severity: "clear", about: at.target.id, params: { odds: at.odds }, figure: figureOf("CG", at.cg, at.cg.value > at.middle ? at.target.upper : at.target.value) },
    ];
  },
  says: (p) => `CG is inside its window, ${inHundred(p.odds)}`,
});

/** CG inside its window while parts have no mass yet: nothing is said to hold. */
const cgOpen = verdict<{ open: string }>({
  find(see) {
    const at = againstWindow(see);
    const open = at?.cg.incomplete?.[0];
    if (!at || at.outside || open === undefined) return [];
    return [{ ...base, severity: "note", about: at.target.id, params: { open }, figure: null }];
  },
  remedies: () => [advice("Weigh it, or enter a guess with its doubt")],
  says: (p) => `Whether the CG is inside its window is open: ${p.open}`,
});

/** CG outside its window in height, when the brief states one. */
const cgVertical = verdict<{ side: "above" | "below"; by: number }>({
  find(see) {
    const at = againstWindow(see, "z");
    if (!at?.outside) return [];
    const above = at.cg.value > at.target.upper;
    const limit = above ? at.target.upper : at.target.value;
    return [
      {
        ...base,
        severity: at.target.weight === "must" ? "stop" : "care",
        about: at.target.id,
        params: { side: above ? "above" : "below", by: Math.abs(at.cg.value - limit) },
        figure: figureOf("CG height", at.cg, limit),
      },
    ];
  },
  remedies(see, _found, h) {
    const at = againstWindow(see, "z");
    return at ? waysTo(see, "z", at.aim, h) : [];
  },
  says: (p, h) => `CG sits ${plain(p.by, "length", h)} ${p.side} its window in height`,
});

/** Share of the craft's width that the CG may sit off the centreline before it is said. Common practice: one per cent. */
const SIDEWAYS_SHARE = 0.01;

/** CG off the centreline by more than 1 % of the width and more than its own doubt. */
const cgSideways = verdict<{ side: "starboard" | "port"; by: number }>({
  find(see) {
    const box = see.result(extent);
    const cg = see.metrics.cgY;
    if (!box || !cg) return [];
    const allowed = SIDEWAYS_SHARE * (box.max.y - box.min.y);
    if (Math.abs(cg.value) <= Math.max(allowed, cg.sd)) return [];
    return [
      {
        ...base,
        severity: "care",
        about: "cgY",
        params: { side: cg.value > 0 ? "starboard" : "port", by: Math.abs(cg.value) },
        figure: figureOf("CG", cg, Math.sign(cg.value) * allowed),
      },
    ];
  },
  remedies(see, _found, h) {
    const { design } = see;
    const [all, box, cg] = [see.result(balance), see.result(extent), see.metrics.cgY];
    if (!all || !box || !cg) return [];
    const remedies: Remedy[] = [];
    const across = design.items
      .flatMap((item) => {
        if (item.mass === null || item.mirrored || item.place.y * cg.value <= 0) return [];
        const by = -(cg.value * all.mass) / (item.mass.value * item.quantity);
        const y = item.place.y + by;
        const half = item.size.y / 2;
        return y - half >= box.min.y && y + half <= box.max.y ? [{ item, by, y }] : [];
      })
      .sort((a, b) => Math.abs(a.by) - Math.abs(b.by))[0];
    if (across)
      remedies.push({
        code: "move-part-across",
        text: moveAcross(across.item.name, across.by, h),
        patch: { set: [{ path: ["items", `#${across.item.id}`, "place", "y"], value: across.y }], addItems: [] },
      });
    // Ballast at the far edge of the drawing, beside the CG: there it costs least and leaves x alone.
    const side = cg.value > 0 ? box.min.y : box.max.y;
    const ballast = ballastFor(all.mass, all.cg.y, 0, side);
    if (ballast !== null && ballast > 0) {
      const place = { x: all.cg.x, y: side, z: all.cg.z };
      remedies.push({
        code: "add-ballast",
        text: addBallast(ballast, place.x, side, h),
        patch: { set: [], addItems: [ballastItem(design, ballast, place, cg.value > 0 ? "port" : "starboard")] },
      });
    }
    return remedies;
  },
  says: (p, h) => `CG sits ${plain(p.by, "length", h)} to ${p.side}`,
});

/** The part that comes nearest to the edge of the window by sliding, when none reaches it. */
function nearestSlide(see: See) {
  const { design } = see;
  const all = see.result(balance);
  const target = windowOf(see, "x");
  if (!target || !all) return null;
  const { x } = all.cg;
  const edge = x > target.upper ? target.upper : x < target.value ? target.value : null;
  if (edge === null) return null;
  const reaches = design.items.flatMap((item) => {
    const reach = reachOf(design, all, item.id);
    return reach ? [{ item, end: edge < x ? reach.low : reach.high }] : [];
  });
  const best = reaches.toSorted((a, b) => Math.abs(a.end - edge) - Math.abs(b.end - edge))[0];
  if (!best || reaches.some((r) => (edge < x ? r.end <= edge : r.end >= edge))) return null;
  return { all, target, edge, best, x };
}

/** The CG is outside its window and parts may slide, yet none reaches it alone: by how much the best one falls short. */
const slideShort = verdict<{ item: string; reach: number; by: number }>({
  find(see) {
    const at = nearestSlide(see);
    if (!at) return [];
    const { all, best, edge } = at;
    return [
      {
        ...base,
        severity: "care",
        about: best.item.id,
        params: { item: best.item.name, reach: best.end, by: Math.abs(best.end - edge) },
        figure: { label: "CG reached", value: best.end, sd: all.cgSd.x, dimension: "length", evidence: all.cgEvidence, limit: edge },
      },
    ];
  },
  remedies(see, _found, h) {
    const at = nearestSlide(see);
    const box = see.result(extent);
    if (!at) return [];
    const { design } = see;
    const { all, best, edge, x, target } = at;
    const free = { ...design, items: design.items.map((i) => (i.id === best.item.id ? { ...i, slide: { from: -100, to: 100 } } : { ...i, slide: null })) };
    const slide = shortestSlide(free, all, middleOf(target));
    const half = best.item.size.x / 2;
    if (!slide || !box || slide.to - half < box.min.x || slide.to + half > box.max.x) return [WEIGH_FIRST];
    return [
      {
        code: "widen-slide",
        text: `Let ${best.item.name} slide to ${plain(slide.to, "length", h, 0)} and move it there`,
        patch: {
          set: [
            { path: ["items", `#${best.item.id}`, "slide", edge < x ? "from" : "to"], value: slide.to },
            ...slideSteps(design.items, best.item, "x", slide.to - best.item.place.x),
          ],
          addItems: [],
        },
      },
    ];
  },
  says: (p, h) => `No slide range reaches the CG window: ${p.item} ends ${plain(p.by, "length", h)} short of it`,
});

/** Names that tell the sides of a pair: a builder's own words are all there is to know it by. */
const SIDES: readonly [RegExp, RegExp][] = [
  [/\bleft\b/i, /\bright\b/i],
  [/\bport\b/i, /\bstarboard\b/i],
  [/\bL$/, /\bR$/],
];

/** Difference of mass, as a share, and of place, m, that a pair may have (common practice). */
const PAIR_MASS = 0.03;
const PAIR_PLACE = 0.002;

/** Parts named left and right (port and starboard, L and R) that differ in mass or do not mirror each other. */
function unequalPairs({ design }: Pick<See, "design">) {
  return design.items.flatMap((a) => {
    const side = SIDES.find(([left]) => left.test(a.name));
    if (!side || !a.mass || a.mirrored) return [];
    const stem = a.name.replace(side[0], "").toLowerCase();
    const b = design.items.find((i) => side[1].test(i.name) && i.name.replace(side[1], "").toLowerCase() === stem);
    if (!b?.mass || b.mirrored) return [];
    const [massA, massB] = [movingMass(design.items, a), movingMass(design.items, b)];
    const differ = Math.abs(massA - massB);
    const apart = Math.hypot(a.place.x - b.place.x, a.place.y + b.place.y, a.place.z - b.place.z);
    const heavy = differ > PAIR_MASS * Math.max(massA, massB);
    return heavy || apart > PAIR_PLACE ? [{ a, b, differ, apart, heavy, lighter: massA < massB ? a : b, most: Math.max(massA, massB), known: a.mass.evidence }] : [];
  });
}
const pairUnequal = verdict<{ a: string; b: string; mass: number; place: number }>({
  find: (see) =>
    unequalPairs(see).map(
      ({ a, b, differ, apart, heavy, most, known }): Found<{ a: string; b: string; mass: number; place: number }> => ({
        ...base,
        severity: "care",
        about: a.id,
        params: { a: a.name, b: b.name, mass: heavy ? differ : 0, place: apart },
        figure: heavy
          ? { label: "difference", value: differ, sd: 0, dimension: "mass", evidence: known, limit: PAIR_MASS * most }
          : { label: "out of mirror", value: apart, sd: 0, dimension: "length", evidence: a.placeEvidence, limit: PAIR_PLACE },
      }),
    ),
  remedies(see, found, h) {
    const pair = unequalPairs(see).find((p) => p.a.id === found.about);
    if (!pair) return [];
    const { a, b, heavy, lighter, differ } = pair;
    const patch: Patch = heavy
      ? { set: [], addItems: [{ ...ballastItem(see.design, differ, lighter.place, lighter.name), parentId: lighter.id }] }
      : { set: AXES.map((axis) => ({ path: ["items", `#${b.id}`, "place", axis], value: axis === "y" ? -a.place.y : a.place[axis] })), addItems: [] };
    return [
      heavy
        ? { code: "add-ballast", text: addBallast(differ, lighter.place.x, lighter.place.y, h), patch }
        : { code: "even-pair", text: `Place ${b.name} at y ${plain(-a.place.y, "length", h, 0)}`, patch },
    ];
  },
  says: (p, h) => `${p.a} and ${p.b} are not a pair: ${p.mass > 0 ? `${plain(p.mass, "mass", h, 1)} apart` : `${plain(p.place, "length", h)} out of mirror`}`,
});

/** A mirrored entry with an odd number of pieces. */
const pairOdd = verdict<{ item: string; quantity: number }>({
  find: ({ design }) =>
    design.items
      .filter((i: Item) => i.mirrored && i.quantity % 2 === 1)
      .map((i) => ({
        ...base,
        severity: "care",
        about: i.id,
        params: { item: i.name, quantity: i.quantity },
        figure: { label: "pieces", value: i.quantity, sd: 0, dimension: "count", evidence: "measured", limit: i.quantity + 1 },
      })),
  remedies: (_see, { about, params: p }) => [
    { code: "set-quantity", text: `Set ${p.item} to ${p.quantity + 1}`, patch: { set: [{ path: ["items", `#${about}`, "quantity"], value: p.quantity + 1 }], addItems: [] } },
  ],
  says: (p) => `${p.item} is a mirrored pair of ${p.quantity} pieces: half of each side cannot be`,
});

/** A part that stands where its own slide range does not reach. */
const slideOutside = verdict<{ item: string; by: number; nearest: number }>({
  find: ({ design }) =>
    design.items.flatMap((item): Found<{ item: string; by: number; nearest: number }>[] => {
      if (!item.slide) return [];
      const { from, to } = item.slide;
      const x = item.place.x;
      if (x >= from - 1e-6 && x <= to + 1e-6) return [];
      const nearest = x < from ? from : to;
      return [
        {
          ...base,
          severity: "care",
          about: item.id,
          params: { item: item.name, by: Math.abs(x - nearest), nearest },
          figure: { label: "place", value: x, sd: 0, dimension: "length", evidence: item.placeEvidence, limit: nearest },
        },
      ];
    }),
  remedies: (_see, { about, params: p }, h) => [
    {
      code: "move-into-range",
      text: `Move ${p.item} to ${plain(p.nearest, "length", h, 0)}`,
      patch: { set: [{ path: ["items", `#${about}`, "place", "x"], value: p.nearest }], addItems: [] },
    },
  ],
  says: (p, h) => `${p.item} stands ${plain(p.by, "length", h)} outside its slide range`,
});

/** Share of AUW that may rest on masses nobody has weighed (common practice). */
const UNWEIGHED = 0.35;

/** Too much of the craft has not been weighed; named is the part that blurs the CG most. */
const unweighed = verdict<{ share: number; first: string }>({
  find(see) {
    const [ledger, all] = [see.result(mass), see.result(balance)];
    if (!ledger || !all) return [];
    const open = see.design.items.filter((i) => i.mass && i.mass.evidence !== "measured" && i.mass.evidence !== "proven");
    const share = open.reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity, 0) / ledger.mass;
    const blur = new Map(all.items.filter(Boolean).map((i) => [i.id, i.blurX]));
    const first = open.reduce<Item | null>((worst, i) => (worst === null || (blur.get(i.id) ?? 0) > (blur.get(worst.id) ?? 0) ? i : worst), null);
    if (!first || share <= UNWEIGHED) return [];
    return [
      {
        ...base,
        severity: "note",
        about: "items",
        params: { share, first: first.name },
        figure: { label: "not weighed", value: share, sd: 0, dimension: "percent", evidence: "calculated", limit: UNWEIGHED },
      },
    ];
  },
  remedies: () => [WEIGH_FIRST],
  says: (p) => `${Math.round(p.share * 100)} % of the mass has not been weighed, ${p.first} first`,
});

export const verdicts = {
  "cg-outside": cgOutside,
  "cg-doubtful": cgDoubtful,
  "cg-inside": cgInside,
  "cg-open": cgOpen,
  "cg-vertical": cgVertical,
  "cg-sideways": cgSideways,
  "slide-short": slideShort,
  "pair-unequal": pairUnequal,
  "pair-odd": pairOdd,
  "slide-outside": slideOutside,
  unweighed,
};
