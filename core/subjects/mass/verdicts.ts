import { balanceAlong } from "../balance/known";
import { supportOf } from "../../design/support";
import { type Found, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { gramPrice } from "../balance/gram";
import { shortestSlide } from "../balance/solver";
import { LIGHTEN, advice, askFor, figure, graveness, missed, percent, set } from "../say";
import { isBallast } from "./ballast";
import { growthOf } from "./growth";
import { weakHold } from "./held";
import { mass } from "./node";
import { rollUp } from "./rollup";
import { slideSteps } from "./tree";
import type { See } from "../../subject";

/** The AUW target when it is missed by more than it allows. */
const overLimit = ({ targets }: See) =>
  targets.find(
    (t) => t.target.metric === "auw" && t.status === "missed" && t.target.comparison === "atMost" && t.predicted,
  );

/** A plain miss of the AUW target. */
const massOver = verdict<{ by: number }>({
  find(see) {
    const t = overLimit(see);
    const open = see.result(mass)?.withoutMass.length ?? 0;
    if (!t?.predicted || (open > 0 && see.design.items.length > open)) return [];
    return [
      {
        page: "brief",
        severity: graveness(t),
        about: t.target.id,
        params: { by: t.predicted.value - t.target.value },
        figure: figureOf("AUW", t.predicted, t.target.value),
      },
    ];
  },
  remedies(see, _found, h) {
    const t = overLimit(see);
    return t?.predicted
      ? [askFor(t.target.id, "mass", t.predicted.value, t.predicted.value + t.predicted.sd, h), LIGHTEN]
      : [];
  },
  says: (p, h) => `${plain(p.by, "mass", h)} over the mass limit`,
});

/** Known masses alone reach the limit while parts still have none: nothing is left for them. */
const nothingLeft = verdict<{ by: number; open: number }>({
  find(see) {
    const t = overLimit(see);
    const open = see.result(mass)?.withoutMass.length ?? 0;
    if (!t?.predicted || open === 0 || see.design.items.length <= open) return [];
    return [
      {
        page: "brief",
        severity: "stop",
        about: t.target.id,
        params: { by: t.predicted.value - t.target.value, open },
        figure: figureOf("AUW", t.predicted, t.target.value),
      },
    ];
  },
  remedies(see, _found, h) {
    const t = overLimit(see);
    return t?.predicted ? [askFor(t.target.id, "mass", t.predicted.value, t.predicted.value + t.predicted.sd, h)] : [];
  },
  says: (p, h) =>
    `${plain(p.by, "mass", h)} over the limit, and ${p.open} ` +
    `${p.open === 1 ? "part still has" : "parts still have"} no mass`,
});

/**
 * Lightest skin that small craft are built of, kg per m² of a part's largest face: thin foam sheet (common practice).
 */
const LIGHTEST = 0.05;
/** A part nobody sized says nothing of its mass. */
const UNSIZED = 0.02;

/** What the AUW limit leaves for the parts that have no mass yet, and the least that they can plausibly weigh. */
function leftForOpen(see: See) {
  const t = see.targets.find((x) => x.target.metric === "auw" && x.target.comparison === "atMost");
  const ledger = see.result(mass);
  if (!t || !ledger || ledger.withoutMass.length === 0) return null;
  const open = see.design.items.filter((i) => i.mass === null);
  const least = open.reduce((sum, { size, quantity }) => {
    const faces = [size.x * size.y, size.x * size.z, size.y * size.z];
    return sum + (Math.max(size.x, size.y, size.z) > UNSIZED ? quantity * Math.max(...faces) * LIGHTEST : 0);
  }, 0);
  return {
    target: t.target,
    left: t.target.value - ledger.mass,
    open: open.length,
    first: open[0]?.name ?? "",
    least,
    ledger,
  };
}

/** What is left below the limit for parts without a mass: a remainder, not a pass. */
const leftOver = verdict<{ left: number; open: number; first: string }>({
  find(see) {
    const at = leftForOpen(see);
    if (!at || at.left <= 0 || at.left < at.least) return [];
    return [
      {
        page: "brief",
        severity: "note",
        about: at.target.id,
        params: { left: at.left, open: at.open, first: at.first },
        figure: null,
      },
    ];
  },
  remedies: () => [advice("Weigh it, or enter an estimate with a ±")],
  says: (p, h) =>
    `${plain(p.left, "mass", h)} are left for ` +
    `${p.open === 1 ? p.first : `${p.open} parts without a mass, ${plain(p.left / p.open, "mass", h)} each`}: ` +
    "the mass limit stays open",
});

/** The remainder is less than the lightest skin over what is still to be built. */
const notFeasible = verdict<{ left: number; least: number; first: string }>({
  find(see) {
    const at = leftForOpen(see);
    if (!at || at.left <= 0 || at.left >= at.least) return [];
    return [
      {
        page: "brief",
        severity: at.target.weight === "must" ? "stop" : "care",
        about: at.target.id,
        params: { left: at.left, least: at.least, first: at.first },
        figure: figure("left below the limit", at.left, at.ledger.massSd, "mass", at.ledger.evidence, at.least),
      },
    ];
  },
  remedies: () => [LIGHTEN],
  says: (p, h) =>
    `Not feasible: ${plain(p.left, "mass", h)} are left for ${p.first}, and a skin of that size alone ` +
    `takes ${plain(p.least, "mass", h)}`,
});

/** Heavier or lighter than the gas carries, by more than the brief allows. */
const netMassOff = verdict<{ by: number; heavy: boolean }>({
  find: (see) =>
    missed(
      see,
      (t) => t.target.metric === "netMass",
      "layout",
      (t, p) => ({
        params: { by: Math.abs(t.margin ?? 0), heavy: t.target.comparison === "atMost" || p.value > t.target.value },
        label: "beyond what the gas carries",
      }),
    ),
  remedies: (_see, { params: p }) => (p.heavy ? [LIGHTEN] : [advice("Add trim weight, or let gas off")]),
  says: (p, h) => `${plain(p.by, "mass", h)} too ${p.heavy ? "heavy" : "light"} for the gas that carries it`,
});

/** Some parts have no mass yet: every sum leaves them out. */
const massMissing = verdict<{ count: number; first: string }>({
  find(see) {
    const ledger = see.result(mass);
    const open = ledger ? ledger.withoutMass : see.design.items.map((i) => i.id);
    const first = see.design.items.find((i) => i.id === open[0]);
    if (!first) return [];
    return [
      {
        page: "layout",
        severity: ledger ? "care" : "stop",
        about: "items",
        params: { count: open.length, first: first.name },
        figure: null,
      },
    ];
  },
  remedies: () => [advice("Weigh it, or enter an estimate with a ±")],
  says: (p) =>
    p.count === 1
      ? `${p.first} has no mass: every sum leaves it out`
      : `${p.count} parts have no mass (${p.first}, …) and are left out of all totals`,
});

/**
 * Growth alarm: 20 % over what was planned, or over the version it came from where nothing was planned (common
 * practice).
 */
const GROWTH_ALARM = 0.2;

const growth = verdict<{ share: number; from: string; expected: number }>({
  find({ design, metrics, parentMass }) {
    const auw = metrics.auw;
    if (!auw) return [];
    const { planned, share: overPlan, expected } = growthOf(design);
    const reference = planned !== null ? { label: "planned", mass: planned } : parentMass;
    if (!reference) return [];
    const share = overPlan ?? auw.value / reference.mass - 1;
    if (share <= GROWTH_ALARM) return [];
    return [
      {
        page: "layout",
        severity: "care",
        about: "auw",
        params: { share, from: reference.label, expected },
        figure: figureOf("AUW", auw, reference.mass * (1 + GROWTH_ALARM)),
      },
    ];
  },
  remedies: () => [LIGHTEN],
  says: (p, h) =>
    `${percent(p.share)} heavier than ` +
    `${p.from}${p.expected > 0.0005 ? `, and ${plain(p.expected, "mass", h)} more to expect` : ""}`,
});

/** Share of AUW that one part may come out heavier than foreseen before it is said (common practice). */
const SURPRISE = 0.015;

/**
 * The heaviest surprise: one part over what was planned or predicted for it, and what that costs at the
 * counterweight.
 */
const surprise = verdict<{
  item: string;
  by: number;
  against: "planned" | "predicted";
  counter: number | null;
  spot: string;
}>({
  find(see) {
    const { design, metrics } = see;
    const worst = growthOf(design).surprises[0];
    const item = design.items.find((i) => i.id === worst?.id);
    if (!worst || !item?.mass || !metrics.auw || worst.by <= SURPRISE * metrics.auw.value) return [];
    const cg = balanceAlong(see, "x")?.cg.x;
    const price = cg === undefined ? null : gramPrice(design, cg);
    const counter = price ? price.at(item.place.x) * worst.by : 0;
    return [
      {
        page: "layout",
        severity: "note",
        about: item.id,
        params: {
          item: item.name,
          by: worst.by,
          against: worst.against,
          counter: counter > 0.002 ? counter : null,
          spot: price?.spot.name ?? "",
        },
        figure: {
          label: "over",
          value: worst.by,
          sd: 0,
          dimension: "mass",
          evidence: item.mass.evidence,
          limit: SURPRISE * metrics.auw.value,
        },
      },
    ];
  },
  remedies: () => [advice("Find out why it came out heavy first")],
  says: (p, h) =>
    `${p.item} came out ${plain(p.by, "mass", h)} over what was ` +
    `${p.against}${p.counter !== null ? `: it costs ${plain(p.counter, "mass", h)} more at the ${p.spot}` : ""}`,
});

/** Share of AUW that may be there for balance alone (common practice). */
const BALLAST_SHARE = 0.08;

/** Dead weight for balance out of proportion. The remedy slides a part instead, when one reaches. */
const ballastShare = verdict<{ share: number; mass: number }>({
  find(see): Found<{ share: number; mass: number }>[] {
    const share = see.metrics.ballastShare;
    const ledger = see.result(mass);
    // A craft that must sink, or hang still in the air, is trimmed by weight: that is no dead weight.
    const trimmed = supportOf(see.design).weighedOff;
    if (!share || share.value <= BALLAST_SHARE || !ledger || trimmed) return [];
    return [
      {
        page: "layout",
        severity: "care",
        about: "ballast",
        params: { share: share.value, mass: ledger.ballast },
        figure: figureOf("Ballast's share of AUW", share, BALLAST_SHARE),
      },
    ];
  },
  remedies(see, { params }, h) {
    const { design } = see;
    const all = balanceAlong(see, "x");
    const dead = design.items.filter(isBallast);
    const without = { ...design, items: design.items.filter((i) => !dead.includes(i)) };
    const rest = rollUp(without);
    const slide = rest && all && shortestSlide(without, rest, all.cg.x);
    const item = design.items.find((i) => i.id === slide?.itemId);
    if (!slide || !item) return [LIGHTEN];
    const by = slide.to - item.place.x;
    return [
      {
        code: "drop-ballast",
        text:
          `Take out ${plain(params.mass, "mass", h)} and move ${item.name} ` +
          `${plain(Math.abs(by), "length", h, 0)} ${by < 0 ? "forward" : "aft"} instead`,
        patch: { set: slideSteps(design.items, item, "x", by), addItems: [], removeItems: dead.map((d) => d.id) },
      },
    ];
  },
  says: (p, h) => `${plain(p.mass, "mass", h)} is there for balance alone, ${percent(p.share)} of the craft`,
});

/**
 * Share of the all-up weight above which packs are out of proportion for this way of being held up (common practice).
 */
const PACK_SHARE = 0.45;
const packShare = verdict<{ share: number }>({
  find({ metrics: { packShare: share } }) {
    if (!share || share.value <= PACK_SHARE) return [];
    return [
      {
        page: "power",
        severity: "care",
        about: "packs",
        params: { share: share.value },
        figure: figureOf("packs' share of AUW", share, PACK_SHARE),
      },
    ];
  },
  remedies: () => [LIGHTEN],
  says: (p) => `Packs are ${percent(p.share)} of the whole craft`,
});

/** The propeller entry of the ledger and the drive count different numbers of propellers. */
const countDiffers = verdict<{ drive: number; ledger: number; item: string; itemId: string }>({
  find: ({ design }) =>
    design.units.flatMap((unit): Found<{ drive: number; ledger: number; item: string; itemId: string }>[] => {
      const item = design.items.find((i) => i.id === unit.propellerItemId);
      if (!item || item.quantity === unit.count) return [];
      return [
        {
          page: "layout",
          severity: "care",
          about: unit.id,
          params: { drive: unit.count, ledger: item.quantity, item: item.name, itemId: item.id },
          figure: {
            label: "propellers",
            value: item.quantity,
            sd: 0,
            dimension: "count",
            evidence: "datasheet",
            limit: unit.count,
          },
        },
      ];
    }),
  remedies: (_see, { params: p }) => [
    {
      code: "set-quantity",
      text: `Set ${p.item} to ${p.drive}`,
      patch: set(["items", `#${p.itemId}`, "quantity"], p.drive),
    },
  ],
  says: (p) => `The drive has ${p.drive} propellers, the ledger ${p.ledger}`,
});

export const verdicts = {
  "mass-over": massOver,
  "nothing-left": nothingLeft,
  "left-over": leftOver,
  "not-feasible": notFeasible,
  "net-mass-off": netMassOff,
  "mass-missing": massMissing,
  growth,
  surprise,
  "ballast-share": ballastShare,
  "pack-share": packShare,
  "count-differs": countDiffers,
  "weak-hold": weakHold,
};
