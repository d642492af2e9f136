import type { Patch } from "../../design/patch";
import type { Item, Target } from "../../design/schema";
import { probabilityWithin } from "../../numeric/normal";
import { ballastFor, shiftFor } from "../../mass/balance";
import { type Remedy, type Rule, type RuleInput, figureOf } from "../types";

const windowOf = (input: RuleInput): Target | undefined => input.design.brief.targets.find((t) => t.metric === "cgX" && t.comparison === "between");

/** Ballast goes in as a part of its own, so that the ledger shows what it costs. */
function ballastPatch(input: RuleInput, mass: number, x: number, y: number): Patch {
  const taken = new Set(input.design.items.map((i) => i.id));
  let n = 1;
  while (taken.has(`ballast-${n}`)) n++;
  const z = input.box ? (input.box.min.z + input.box.max.z) / 2 : 0;
  return {
    set: [],
    addItems: [
      {
        id: `ballast-${n}`,
        name: "Ballast",
        group: "Ballast",
        quantity: 1,
        mass: { value: mass, evidence: "datasheet" },
        place: { x, y, z },
        placeEvidence: "datasheet",
        size: { x: 0.02, y: 0.02, z: 0.01 },
        mirrored: false,
        slide: null,
        cost: null,
        source: "have",
      },
    ],
  };
}

/** x between which ballast can sit: as the design says, or the ends of the drawing. */
function ballastEnds(input: RuleInput): { foremost: number; aftmost: number } | null {
  if (input.design.ballastPlaces) return input.design.ballastPlaces;
  return input.box ? { foremost: input.box.min.x, aftmost: input.box.max.x } : null;
}

const movable = (items: Item[]) => items.filter((i) => i.slide !== null && i.mass !== null);

/** Ways to bring the CG along x to `target`: the slide that moves least, and ballast at the better end. */
function waysTo(input: RuleInput, target: number): Remedy[] {
  const { mass, design } = input;
  if (!mass) return [];
  const shifts = movable(design.items)
    .map((item) => {
      const own = (item.mass?.value ?? 0) * item.quantity;
      return { item, ...shiftFor(mass.mass, mass.cg.x, target, { mass: own, at: item.place.x, range: item.slide }) };
    })
    .filter((s) => s.inRange)
    .sort((a, b) => Math.abs(a.to - a.item.place.x) - Math.abs(b.to - b.item.place.x));
  const remedies: Remedy[] = shifts.slice(0, 1).map(({ item, to }) => ({
    code: "move-part",
    params: { item: item.name, by: to - item.place.x, to },
    patch: { set: [{ path: ["items", `#${item.id}`, "place", "x"], value: to }], addItems: [] },
  }));
  const ends = ballastEnds(input);
  if (ends) {
    const x = target < mass.cg.x ? ends.foremost : ends.aftmost;
    const ballast = ballastFor(mass.mass, mass.cg.x, target, x);
    if (ballast !== null && ballast > 0) remedies.push({ code: "add-ballast", params: { mass: ballast, x, y: 0 }, patch: ballastPatch(input, ballast, x, 0) });
  }
  return remedies;
}

/** CG against its window along x. Outside: stop. Inside with odds under 90 in 100: care. Else clear. */
export const cgWindow: Rule = (input) => {
  const target = windowOf(input);
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
        remedies: waysTo(input, middle),
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
        remedies: [...(Math.abs(cg.value - middle) > cg.sd ? waysTo(input, middle) : []), { code: "advice", params: { text: "weigh-first" }, patch: null }],
      },
    ];
  return [{ ...base, code: "cg-inside", severity: "clear", params: { odds }, figure: figureOf("CG", cg, cg.value > middle ? target.upper : target.value), remedies: [] }];
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
  const side = cg.value > 0 ? box.min.y : box.max.y;
  const ballast = ballastFor(mass.mass, mass.cg.y, 0, side);
  if (ballast !== null && ballast > 0)
    remedies.push({ code: "add-ballast", params: { mass: ballast, x: mass.cg.x, y: side }, patch: ballastPatch(input, ballast, mass.cg.x, side) });
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

/** A part that stands where its own slide range does not reach. */
export const slideOutside: Rule = ({ design }) =>
  design.items.flatMap((item) => {
    if (!item.slide) return [];
    const { from, to } = item.slide;
    const x = item.place.x;
    if (x >= from - 1e-6 && x <= to + 1e-6) return [];
    const nearest = x < from ? from : to;
    return [
      {
        code: "slide-outside" as const,
        severity: "care" as const,
        station: "layout" as const,
        subject: item.id,
        params: { item: item.name, by: Math.abs(x - nearest) },
        figure: { label: "place", value: x, sd: 0, dimension: "length" as const, evidence: item.placeEvidence, limit: nearest },
        remedies: [
          {
            code: "move-into-range" as const,
            params: { item: item.name, to: nearest },
            patch: { set: [{ path: ["items", `#${item.id}`, "place", "x"], value: nearest }], addItems: [] },
          },
        ],
      },
    ];
  });

/** Some parts have no mass yet: every sum leaves them out. */
export const massMissing: Rule = ({ design, mass }) => {
  const open = mass ? mass.withoutMass : design.items.map((i) => i.id);
  const first = design.items.find((i) => open.includes(i.id));
  if (!first) return [];
  return [
    {
      code: "mass-missing",
      severity: mass ? "care" : "stop",
      station: "layout",
      subject: "items",
      params: { count: open.length, first: first.name },
      figure: null,
      remedies: [{ code: "advice", params: { text: "weigh-parts" }, patch: null }],
    },
  ];
};

/** Growth alarm: 20 % over the version it came from (common practice). */
const GROWTH_ALARM = 0.2;

export const growth: Rule = ({ metrics, parentMass }) => {
  const auw = metrics.auw;
  if (!auw || !parentMass) return [];
  const share = auw.value / parentMass.mass - 1;
  if (share <= GROWTH_ALARM) return [];
  return [
    {
      code: "growth",
      severity: "care",
      station: "layout",
      subject: "auw",
      params: { share, from: parentMass.label },
      figure: figureOf("AUW", auw, parentMass.mass * (1 + GROWTH_ALARM)),
      remedies: [{ code: "advice", params: { text: "lighten" }, patch: null }],
    },
  ];
};

/** The propeller entry of the ledger and the drive count different numbers of propellers. */
export const countDiffers: Rule = ({ design }) =>
  design.units.flatMap((unit) => {
    const item = design.items.find((i) => i.id === unit.propellerItemId);
    if (!item || item.quantity === unit.count) return [];
    return [
      {
        code: "count-differs" as const,
        severity: "care" as const,
        station: "layout" as const,
        subject: unit.id,
        params: { drive: unit.count, ledger: item.quantity },
        figure: { label: "propellers", value: item.quantity, sd: 0, dimension: "count" as const, evidence: "datasheet" as const, limit: unit.count },
        remedies: [
          {
            code: "set-quantity" as const,
            params: { item: item.name, quantity: unit.count },
            patch: { set: [{ path: ["items", `#${item.id}`, "quantity"], value: unit.count }], addItems: [] },
          },
        ],
      },
    ];
  });

export const layoutRules: Rule[] = [cgWindow, cgSideways, slideOutside, massMissing, growth, countDiffers];
