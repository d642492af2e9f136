import { METRICS } from "../../design/metrics";
import { outOfEnvelope } from "../../subjects/mass/clash";
import { growthOf } from "../../subjects/mass/growth";
import { slideSteps } from "../../subjects/mass/tree";
import { type Rule, figureOf } from "../types";
import { costOfGram } from "./balance";

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

/** Growth alarm: 20 % over what was planned, or over the version it came from where nothing was planned (common practice). */
const GROWTH_ALARM = 0.2;

export const growth: Rule = ({ design, metrics, parentMass }) => {
  const auw = metrics.auw;
  if (!auw) return [];
  const { planned, share: overPlan, expected } = growthOf(design);
  const reference = planned !== null ? { label: "planned", mass: planned } : parentMass;
  if (!reference) return [];
  const share = overPlan ?? auw.value / reference.mass - 1;
  if (share <= GROWTH_ALARM) return [];
  return [
    {
      code: "growth",
      severity: "care",
      station: "layout",
      subject: "auw",
      params: { share, from: reference.label, expected },
      figure: figureOf("AUW", auw, reference.mass * (1 + GROWTH_ALARM)),
      remedies: [{ code: "advice", params: { text: "lighten" }, patch: null }],
    },
  ];
};

/** Share of AUW that one part may come out heavier than foreseen before it is said (common practice). */
const SURPRISE = 0.015;

/** The heaviest surprise: one part over what was planned or predicted for it, and what that costs in the nose. */
export const surprise: Rule = (input) => {
  const { design, metrics } = input;
  const worst = growthOf(design).surprises[0];
  const item = design.items.find((i) => i.id === worst?.id);
  if (!worst || !item?.mass || !metrics.auw || worst.by <= SURPRISE * metrics.auw.value) return [];
  const cost = costOfGram(input, item.place.x);
  const atNose = cost === null ? null : cost * worst.by;
  return [
    {
      code: "surprise",
      severity: "note",
      station: "layout",
      subject: item.id,
      params: { item: item.name, by: worst.by, against: worst.against, atNose: atNose !== null && atNose > 0.002 ? atNose : null },
      figure: { label: "over", value: worst.by, sd: 0, dimension: "mass", evidence: item.mass.evidence, limit: SURPRISE * metrics.auw.value },
      remedies: [{ code: "advice", params: { text: "find-why" }, patch: null }],
    },
  ];
};

/** Share of AUW that may rest on masses nobody has weighed (common practice). */
const UNWEIGHED = 0.35;

/** Too much of the craft has not been weighed; named is the part that blurs the CG most. */
export const unweighed: Rule = ({ design, mass }) => {
  if (!mass) return [];
  const open = design.items.filter((i) => i.mass && i.mass.evidence !== "measured" && i.mass.evidence !== "proven");
  const share = open.reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity, 0) / mass.mass;
  const blur = (id: string) => mass.items.find((i) => i.id === id)?.blurX ?? 0;
  const first = open.reduce<(typeof open)[number] | null>((worst, i) => (worst === null || blur(i.id) > blur(worst.id) ? i : worst), null);
  if (!first || share <= UNWEIGHED) return [];
  return [
    {
      code: "unweighed",
      severity: "note",
      station: "layout",
      subject: "items",
      params: { share, first: first.name },
      figure: { label: "not weighed", value: share, sd: 0, dimension: "percent", evidence: "calculated", limit: UNWEIGHED },
      remedies: [{ code: "advice", params: { text: "weigh-first" }, patch: null }],
    },
  ];
};

/** Parts that reach out of the envelope; the remedy moves the worst one inside when it fits. */
export const outsideEnvelope: Rule = ({ design }) => {
  const out = outOfEnvelope(design);
  const worst = out[0];
  const item = design.items.find((i) => i.id === worst?.id);
  const { envelope } = design;
  if (!worst || !item || !envelope) return [];
  const { axis } = worst;
  const fits = item.size[axis] <= envelope.max[axis] - envelope.min[axis];
  const low = envelope.min[axis] + item.size[axis] / 2;
  const high = envelope.max[axis] - item.size[axis] / 2;
  const to = Math.min(Math.max(item.place[axis], low), high);
  return [
    {
      code: "outside-envelope",
      severity: "care",
      station: "layout",
      subject: item.id,
      params: { item: item.name, by: worst.by, axis, others: out.length - 1 },
      figure: {
        label: METRICS[axis === "x" ? "length" : axis === "y" ? "width" : "height"].label,
        value: worst.by,
        sd: 0,
        dimension: "length",
        evidence: item.placeEvidence,
        limit: 0,
      },
      remedies: fits
        ? [
            {
              code: "move-inside",
              params: { item: item.name, by: to - item.place[axis], axis },
              patch: {
                set: slideSteps(design.items, item, axis, to - item.place[axis]),
                addItems: [],
              },
            },
          ]
        : [{ code: "advice", params: { text: "smaller-inside" }, patch: null }],
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

export const layoutRules: Rule[] = [slideOutside, massMissing, growth, surprise, unweighed, outsideEnvelope, countDiffers];
