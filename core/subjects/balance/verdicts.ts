import { balanceAlong } from "./known";
import type { Patch } from "../../design/patch";
import { AXES, type Axis, type Item } from "../../design/schema";
import { LOST, SURE } from "../../design/targets";
import type { UnitHabit } from "../../design/units";
import { probabilityWithin } from "../../numeric/normal";
import { type Remedy, type See, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { extent } from "../extent/node";
import { flight } from "../flight/node";
import { ballastItem, ballastSpots } from "../mass/ballast";
import { mass } from "../mass/node";
import { slideSteps } from "../mass/tree";
import { advice, chance } from "../say";
import { ballastFor } from "./lever";
import { balance } from "./node";
import { type Limits, cgLimits, windowOfWings, wingsOpen } from "./window";
import { addBallast } from "./sentences";
import { partVerdicts } from "./partVerdicts";
import { lighterBallast, swapTo } from "./rearrange";
import { type Alternative, alternatives, planPatch, reachOf, shortestSlide } from "./solver";

const CG_METRIC = { x: "cgX", y: "cgY", z: "cgZ" } as const;
const WEIGH_FIRST = advice("Weigh the part that matters most first (see below)");

const movePart = (item: string, by: number, h: UnitHabit) =>
  `Move ${item} ${plain(Math.abs(by), "length", h, 0)} ${by < 0 ? "forward" : "aft"}`;
const moveAcross = (item: string, by: number, h: UnitHabit) =>
  `Move ${item} ${plain(Math.abs(by), "length", h, 0)} to ${by > 0 ? "starboard" : "port"}`;
const moveUp = (item: string, by: number, h: UnitHabit) =>
  `Move ${item} ${plain(Math.abs(by), "length", h, 0)} ${by > 0 ? "up" : "down"}`;
const moveAlong = { x: movePart, y: moveAcross, z: moveUp };

/** One alternative of the solver as a remedy; null for what no single sentence says. */
function asRemedy({ design }: See, { plan }: Alternative, axis: Axis, h: UnitHabit): Remedy | null {
  const patch = planPatch(design, plan);
  const move = plan.moves[0];
  const ballast = plan.ballast[0];
  const name = design.items.find((i) => i.id === move?.itemId)?.name ?? "";
  if (plan.moves.length > 1 || plan.ballast.length > 1) return null;
  if (move && ballast)
    return {
      code: "slide-and-ballast",
      text:
        `${moveAlong[move.axis](name, move.to - move.from, h)} and add ${plain(ballast.mass, "mass", h)} ` +
        `at the ${ballast.spot.name}`,
      patch,
    };
  if (move) return { code: MOVES[move.axis], text: moveAlong[move.axis](name, move.to - move.from, h), patch };
  if (!ballast) return null;
  const { place } = ballast.spot;
  const text =
    axis === "z"
      ? `Add ${plain(ballast.mass, "mass", h)} at the ${ballast.spot.name}, z ${plain(place.z, "length", h, 0)}`
      : addBallast(ballast.mass, place.x, place.y, h);
  return { code: "add-ballast", text, patch };
}
const MOVES = { x: "move-part", y: "move-part-across", z: "move-part-up" };

/**
 * Ways to bring the CG along one axis to `goal`, the others left as they are: by taking a part off, by sliding, by
 * ballast, by both; and by two parts that change places.
 */
function waysTo(see: See, axis: Axis, goal: number, h: UnitHabit): Remedy[] {
  const { design } = see;
  const all = balanceAlong(see, axis);
  if (!all) return [];
  const sliders = design.items.filter((i) => i.slide || i.slideY || i.slideZ).map((i) => i.id);
  // Ballast at whichever single spot takes least: two spots at once say nothing that one does not, unless none is
  // enough alone.
  // Nose and tail say nothing of a height: there only places that were named.
  const places = axis === "z" ? design.ballastSpots : ballastSpots(design);
  const best = places
    .flatMap((s) => {
      const added = all ? ballastFor(all.mass, all.cg[axis], goal, s.place[axis]) : null;
      return added !== null && added > 0 && added <= s.most ? [{ id: s.id, added }] : [];
    })
    .sort((a, b) => a.added - b.added)
    .slice(0, 1)
    .map((s) => s.id);
  const spots = best.length > 0 ? best : places.map((s) => s.id);
  return alternatives(design, { sliders, spots, goals: { [axis]: { low: goal, high: goal } } }, all).flatMap(
    (a) => asRemedy(see, a, axis, h) ?? [],
  );
}

/** The ways that take nothing new aboard: what is there for balance alone comes off, or two parts change places. */
function waysWithout(
  see: See,
  { axis, goal, inside }: { axis: Axis; goal: number; inside: { low: number; high: number } },
  h: UnitHabit,
): Remedy[] {
  const all = balanceAlong(see, ...AXES);
  if (!all) return [];
  const off = lighterBallast(see.design, all, axis, goal);
  const swap = swapTo(see.design, all, axis, goal, inside);
  return [
    ...(off
      ? [
          {
            code: "take-off",
            text:
              off.left > 0 ? `Take ${plain(off.by, "mass", h)} of ${off.item.name} off` : `Take ${off.item.name} off`,
            patch:
              off.left > 0
                ? {
                    set: [{ path: ["items", `#${off.item.id}`, "mass", "value"], value: off.left / off.item.quantity }],
                    addItems: [],
                  }
                : { set: [], addItems: [], removeItems: [off.item.id] },
          },
        ]
      : []),
    ...(swap
      ? [
          {
            code: "swap-parts",
            text: `Let ${swap.a.name} and ${swap.b.name} change places`,
            patch: {
              set: [...placeSteps(see.design, swap.a, swap.b), ...placeSteps(see.design, swap.b, swap.a)],
              addItems: [],
            },
          },
        ]
      : []),
  ];
}
/** What moves a part, and what hangs on it, to where another one sits. */
const placeSteps = (design: See["design"], part: Item, to: Item): Patch["set"] =>
  AXES.flatMap((axis) => slideSteps(design.items, part, axis, to.place[axis] - part.place[axis]));

/** The CG and its limits, when both are there. */
function againstWindow(see: See, axis: Axis = "x") {
  const limits = cgLimits(see.design, see.result(flight), axis);
  const cg = see.metrics[CG_METRIC[axis]];
  if (!limits || !cg) return null;
  const { low, high } = limits;
  const behind = low === -Infinity || cg.value > (low + high) / 2;
  // The nearest edge with room for the doubt; in a narrow window its middle.
  const doubt = Math.hypot(cg.sd, behind ? limits.sd.high : limits.sd.low);
  const room = Math.min(MARGIN * doubt, (high - low) / 2);
  return {
    limits,
    cg,
    behind,
    aim: behind ? high - room : low + room,
    inside: { low: low + room, high: high - room },
    limit: behind ? high : low,
    outside: cg.value < low || cg.value > high,
    doubt,
    odds: probabilityWithin(cg.value, doubt, low, high),
  };
}
type Against = NonNullable<ReturnType<typeof againstWindow>>;
const waysInto = (see: See, at: Against, axis: Axis, h: UnitHabit): Remedy[] => [
  ...waysTo(see, axis, at.aim, h),
  ...waysWithout(see, { axis, goal: at.aim, inside: at.inside }, h),
];
const base = { page: "layout" as const };
/** Distance from the edge of the window, in standard uncertainties, that a remedy aims at: inside by 90 in 100. */
const MARGIN = 1.35;

/** What the CG is to be within, in words. */
const WITHIN = { window: "its window", "stop line": "its stop line", wings: "what its wings need" } as const;

/** CG outside its limits along an axis. A window that is itself a guess never stops. */
const outsideAlong = (axis: "x" | "z") => (see: See) => {
  const at = againstWindow(see, axis);
  if (!at?.outside || at.odds >= LOST) return [];
  return [
    {
      ...base,
      severity: at.limits.guess || !at.limits.must ? ("care" as const) : ("stop" as const),
      about: at.limits.about,
      params: { beyond: at.behind, by: Math.abs(at.cg.value - at.limit), limit: at.limits.by },
      figure: figureOf(axis === "x" ? "CG" : "CG height", at.cg, at.limit),
    },
  ];
};
/** CG that is neither surely inside its limits nor surely outside along an axis. */
const doubtfulAlong = (axis: "x" | "z") => (see: See) => {
  const at = againstWindow(see, axis);
  if (!at || at.odds >= SURE || (at.outside && at.odds < LOST)) return [];
  return [
    {
      ...base,
      severity: "care" as const,
      about: at.limits.about,
      params: { odds: at.odds, limit: at.limits.by },
      figure: figureOf(axis === "x" ? "CG" : "CG height", at.cg, at.limit),
    },
  ];
};
const intoAlong = (axis: "x" | "z") => (see: See, h: UnitHabit) => {
  const at = againstWindow(see, axis);
  return at ? waysInto(see, at, axis, h) : [];
};
/** Measured first; then the ways, where a place is surely inside. */
const measureFirst = (axis: "x" | "z") => (see: See, h: UnitHabit) => {
  const at = againstWindow(see, axis);
  if (!at) return [];
  const helps = probabilityWithin(at.aim, at.doubt, at.limits.low, at.limits.high) >= SURE;
  return [WEIGH_FIRST, ...(helps ? waysInto(see, at, axis, h) : [])];
};

type Outside = { beyond: boolean; by: number; limit: Limits["by"] };
const cgOutside = verdict<Outside>({
  find: outsideAlong("x"),
  remedies: (see, _found, h) => intoAlong("x")(see, h),
  says: (p, h) =>
    `CG sits ${plain(p.by, "length", h)} ${p.beyond ? "behind" : "ahead of"} ` +
    `${p.limit === "stop line" && !p.beyond ? WITHIN.window : WITHIN[p.limit]}`,
});

type Odds = { odds: number; limit: Limits["by"] };
const cgDoubtful = verdict<Odds>({
  find: doubtfulAlong("x"),
  remedies: (see, _found, h) => measureFirst("x")(see, h),
  says: (p) =>
    p.limit === "stop line"
      ? `Only a ${chance(p.odds)} chance that the CG is ahead of its stop line`
      : `Only a ${chance(p.odds)} chance that the CG is in ` +
        `${p.limit === "wings" ? "the range that its wings need" : "range"}`,
});

/** Unstable on purpose, and nowhere is written how far back the CG may go. */
const noStopLine = verdict<Record<string, never>>({
  find: ({ design }) =>
    design.schools.balance === "unstable on purpose" && !design.walkBack && design.items.length > 0
      ? [{ ...base, severity: "care", about: "walkBack", params: {}, figure: null }]
      : [],
  remedies: () => [advice("Write down a stop line for the CG in Layout, Move the CG back")],
  says: () => "Unstable on purpose, and no stop line for the CG: nothing says how far back is too far",
});

const IS_IN = { window: "in range", "stop line": "ahead of its stop line", wings: "where its wings need it" } as const;
/**
 * Whether a CG that a stated window allows lies where the wings do not hold it: that is not clear, whoever stated it.
 */
function againstWings(see: See, { cg, limits }: Against): boolean {
  const wings =
    limits.by === "window" && see.design.schools.balance === "stable"
      ? windowOfWings(see.design, see.result(flight))
      : null;
  return wings !== null && (cg.value < wings.low || cg.value > wings.high);
}

/** CG inside its limits: clear only when every part has a mass, for what has none bears on it. */
const cgInside = verdict<Odds>({
  find(see) {
    const at = againstWindow(see);
    if (
      !at ||
      at.outside ||
      at.odds < SURE ||
      (at.cg.incomplete?.length ?? 0) > 0 ||
      // A window without a foremost CG is none that it could be in.
      (at.limits.by === "wings" && (at.limits.guess || at.limits.low === Number.NEGATIVE_INFINITY)) ||
      againstWings(see, at)
    )
      return [];
    return [
      {
        ...base,
        severity: "clear",
        about: at.limits.about,
        params: { odds: at.odds, limit: at.limits.by },
        figure: figureOf("CG", at.cg, at.limit),
      },
    ];
  },
  says: (p) => `CG is ${IS_IN[p.limit]}, ${chance(p.odds)} chance`,
});

/** CG inside its limits while parts have no mass yet: nothing is said to hold. */
const cgOpen = verdict<{ open: string; limit: Limits["by"] }>({
  find(see) {
    const at = againstWindow(see);
    const open =
      at?.cg.incomplete?.[0] ?? (at?.limits.by === "wings" ? (wingsOpen(see.design) ?? undefined) : undefined);
    if (!at || at.outside || open === undefined) return [];
    return [
      {
        ...base,
        severity: "note",
        about: at.limits.about,
        params: { open, limit: at.limits.by },
        figure: null,
      },
    ];
  },
  remedies: () => [advice("Weigh it, or enter an estimate with a ±")],
  says: (p) => `Whether the CG is ${p.limit === "window" ? "inside its window" : IS_IN[p.limit]} is open: ${p.open}`,
});

/** CG outside its window in height, when the brief states one. */
const cgVertical = verdict<Outside>({
  find: outsideAlong("z"),
  remedies: (see, _found, h) => intoAlong("z")(see, h),
  says: (p, h) => `CG sits ${plain(p.by, "length", h)} ${p.beyond ? "above" : "below"} its window in height`,
});
const cgHeightDoubtful = verdict<Odds>({
  find: doubtfulAlong("z"),
  remedies: (see, _found, h) => measureFirst("z")(see, h),
  says: (p) => `Only a ${chance(p.odds)} chance that the height of the CG is in range`,
});

/**
 * Share of the craft's width that the CG may sit off the centreline before it is said. Common practice: one per cent.
 */
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
    const [all, box, cg] = [balanceAlong(see, ...AXES), see.result(extent), see.metrics.cgY];
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
  const all = balanceAlong(see, "x");
  const at = againstWindow(see);
  if (!at || !all) return null;
  const { x } = all.cg;
  const edge = at.outside ? at.limit : null;
  if (edge === null) return null;
  const reaches = design.items.flatMap((item) => {
    const reach = reachOf(design, all, item);
    return reach ? [{ item, end: edge < x ? reach.low : reach.high }] : [];
  });
  const best = reaches.toSorted((a, b) => Math.abs(a.end - edge) - Math.abs(b.end - edge))[0];
  if (!best || reaches.some((r) => (edge < x ? r.end <= edge : r.end >= edge))) return null;
  return { all, aim: at.aim, edge, best, x };
}

/**
 * The CG is outside its window and parts may slide, yet none reaches it alone: by how much the best one falls short.
 */
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
        figure: {
          label: "CG reached",
          value: best.end,
          sd: all.cgSd.x,
          dimension: "length",
          evidence: all.cgEvidence.x,
          limit: edge,
        },
      },
    ];
  },
  remedies(see, _found, h) {
    const at = nearestSlide(see);
    const box = see.result(extent);
    if (!at) return [];
    const { design } = see;
    const { all, best, edge, x, aim } = at;
    const free = {
      ...design,
      items: design.items.map((i) =>
        i.id === best.item.id ? { ...i, slide: { from: -100, to: 100 } } : { ...i, slide: null },
      ),
    };
    const slide = shortestSlide(free, all, aim);
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

/** Share of AUW that may rest on masses nobody has weighed (common practice). */
const UNWEIGHED = 0.35;

/** Too much of the craft has not been weighed; named is the part that blurs the CG most. */
const unweighed = verdict<{ share: number; first: string }>({
  find(see) {
    const [ledger, all] = [see.result(mass), see.result(balance)];
    if (!ledger || !all) return [];
    const open = see.design.items.filter(
      (i) => i.mass && i.mass.evidence !== "measured" && i.mass.evidence !== "proven",
    );
    const share = open.reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity, 0) / ledger.mass;
    const blur = new Map(all.items.filter(Boolean).map((i) => [i.id, i.blurX]));
    const first = open.reduce<Item | null>(
      (worst, i) => (worst === null || (blur.get(i.id) ?? 0) > (blur.get(worst.id) ?? 0) ? i : worst),
      null,
    );
    if (!first || share <= UNWEIGHED) return [];
    return [
      {
        ...base,
        severity: "note",
        about: "items",
        params: { share, first: first.name },
        figure: {
          label: "not weighed",
          value: share,
          sd: 0,
          dimension: "percent",
          evidence: "calculated",
          limit: UNWEIGHED,
        },
      },
    ];
  },
  remedies: () => [WEIGH_FIRST],
  says: (p) => `${Math.round(p.share * 100)} % of the mass has not been weighed, ${p.first} first`,
});

export const verdicts = {
  "cg-outside": cgOutside,
  "cg-doubtful": cgDoubtful,
  "no-stop-line": noStopLine,
  "cg-inside": cgInside,
  "cg-open": cgOpen,
  "cg-vertical": cgVertical,
  "cg-height-doubtful": cgHeightDoubtful,
  "cg-sideways": cgSideways,
  "slide-short": slideShort,
  ...partVerdicts,
  unweighed,
};
