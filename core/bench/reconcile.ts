import { Matrix, determinant, inverse } from "ml-matrix";
import { type Evidence, magnitudeSd, placeSd } from "../design/evidence";
import { AXES, type Axis, type Design, type Item, type Point } from "../design/schema";
import type { Uncertain } from "../numeric/propagate";
import { type Extent, extent, rollUp } from "../subjects/mass/rollup";

/** What a weigh-in measured of the whole craft: mass and CG along the axes that it can tell. */
export interface Measured {
  mass: Uncertain;
  cg: Partial<Record<Axis, Uncertain>>;
}

/** One entry that may be wrong, and by how much it would have to be. */
export interface Suspect {
  itemId: string;
  what: "mass" | Axis;
  /** kg (all pieces) or m: measured less entered, best estimate */
  by: number;
  /** standard uncertainty of `by` */
  sd: number;
  /** Probability that this one entry is the culprit, given that at most one is. */
  probability: number;
}

export interface Reconciliation {
  /** Measured less ledger, kg. */
  missing: Uncertain;
  /** Where that mass must sit, m; along the measured axes. Empty while the mass agrees. */
  at: Partial<Record<Axis, Uncertain>>;
  /** Steps of the combined uncertainty by which mass and CG differ. */
  steps: { mass: number; cg: Partial<Record<Axis, number>> };
  /**
   * agrees: nothing to find. culprit: one entry stands out. undecided: several explain it equally. position: the
   * missing mass would sit outside the craft, or
   * only the CG differs: something stands elsewhere. unlisted: mass that no entry explains.
   */
  verdict: "agrees" | "culprit" | "undecided" | "position" | "unlisted";
  /** Likeliest first. */
  suspects: Suspect[];
  /** How many of the first suspects explain it about equally. */
  equal: number;
  /** Probability of "nothing is wrong" and of "something that is not in the ledger". */
  nothing: number;
  unlisted: number;
}

/**
 * Prior weight of a slip in a mass or a place known in this way: what was weighed is seldom wrong (common practice).
 */
const MASS_PRIOR: Record<Evidence, number> = { guess: 4, calculated: 2, datasheet: 2, measured: 0.2, proven: 0.1 };
const PLACE_PRIOR: Record<Evidence, number> = { guess: 4, calculated: 1.5, datasheet: 1, measured: 0.1, proven: 0.1 };
/** Typical size of a slip in a place, m, and of a mass that nobody listed, kg (common practice). */
const PLACE_SLIP = 0.035;
const UNLISTED = 0.05;
/** Typical slip in a mass: a third of it, and never less than this, kg. */
const LEAST_MASS_SLIP = 0.03;
/**
 * Spread of a slip about its typical size: small slips are no slips, they are in the entry's own ±; huge ones are
 * rare.
 */
const SLIP_SPREAD = 0.5;
/** A hypothesis counts as equal to the first down to this share of its probability. */
const EQUAL = 1 / 3;

interface Hypothesis {
  suspect: { itemId: string; what: "mass" | Axis } | null;
  weight: number;
  /** Effect of one unit of the slip on (mass, moments), and its typical size. */
  effect: number[];
  slip: number;
  spread?: number[];
}

/** Density of a zero-mean normal vector at d, with covariance C. */
function density(d: Matrix, covariance: Matrix): number {
  const square = d.transpose().mmul(inverse(covariance)).mmul(d).get(0, 0);
  return Math.exp(-square / 2) / Math.sqrt(Math.max(determinant(covariance), 1e-300));
}

const inside = (at: Partial<Record<Axis, Uncertain>>, box: Extent) =>
  AXES.every((axis) => {
    const a = at[axis];
    return !a || (a.value + 2 * a.sd >= box.min[axis] && a.value - 2 * a.sd <= box.max[axis]);
  });

/** Grams and gram-metres, so that the matrices are well conditioned. */
const K = 1000;
type Massed = Item & { mass: NonNullable<Item["mass"]> };

/** Nothing; each entry in its mass or in its place along an axis; something that is not in the ledger. */
function whatMayBeWrong({
  items,
  axes,
  massEffect,
  unit,
  box,
  centre,
}: {
  items: readonly Massed[];
  axes: readonly Axis[];
  massEffect: (item: Item) => number[];
  unit: (k: number, size: number) => number[];
  box: Extent;
  centre: Point;
}): Hypothesis[] {
  const hypotheses: Hypothesis[] = [{ suspect: null, weight: 6 * items.length, effect: unit(0, 0), slip: 0 }];
  for (const item of items) {
    const mass = item.mass.value * item.quantity;
    hypotheses.push({
      suspect: { itemId: item.id, what: "mass" },
      weight: MASS_PRIOR[item.mass.evidence],
      effect: massEffect(item),
      slip: Math.max(mass / 3, LEAST_MASS_SLIP),
    });
    axes.forEach((axis, k) => {
      if (axis !== "y" || !item.mirrored)
        hypotheses.push({
          suspect: { itemId: item.id, what: axis },
          weight: PLACE_PRIOR[item.placeEvidence] / axes.length,
          effect: unit(k + 1, K * mass),
          slip: PLACE_SLIP,
        });
    });
  }
  // Something unlisted: a mass of typical size anywhere in the craft's box.
  const middle = axes.map((a) => K * ((box.min[a] + box.max[a]) / 2 - centre[a]));
  hypotheses.push({
    suspect: null,
    weight: 2,
    effect: [K, ...middle],
    slip: UNLISTED,
    spread: axes.map((a) => (K * (box.max[a] - box.min[a])) / Math.sqrt(12)),
  });
  return hypotheses;
}

/** How likely the differences `d` are under a hypothesis, and by how much it would be wrong. */
function judge(h: Hypothesis, covariance: Matrix, d: Matrix) {
  const n = d.rows;

  const c = covariance.clone();
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++)
      c.set(
        i,
        j,
        c.get(i, j) + (h.effect[i] ?? 0) * (h.effect[j] ?? 0) * (h.spread ? h.slip : SLIP_SPREAD * h.slip) ** 2,
      );
  h.spread?.forEach((s, k) => {
    c.set(k + 1, k + 1, c.get(k + 1, k + 1) + (s * h.slip) ** 2);
  });
  const v = Matrix.columnVector(h.effect);
  // Either way round: the slip is as likely up as down.
  const ways = h.slip === 0 || h.spread ? [0] : [h.slip, -h.slip];
  const spread = h.spread ? h.slip : SLIP_SPREAD * h.slip;
  const gain = v
    .transpose()
    .mmul(inverse(c))
    .mul(spread ** 2);
  const sided = ways.map((mean) => {
    const rest = Matrix.sub(d, Matrix.mul(v, mean));
    return { p: density(rest, c) / ways.length, by: mean + gain.mmul(rest).get(0, 0) };
  });
  const best = sided.reduce((a, b) => (b.p > a.p ? b : a));
  return {
    h,
    p: h.weight * sided.reduce((sum, w) => sum + w.p, 0),
    by: best.by,
    sd: spread * Math.sqrt(Math.max(0, 1 - gain.mmul(v).get(0, 0))),
  };
}

/**
 * Holds a weigh-in against the ledger. Measured less predicted mass and first moments (about the predicted CG) form a
 * small vector whose covariance comes from
 * the ledger's and the weigh-in's own uncertainty. Each entry is tried as the one that is wrong, in mass or in place
 * along one measured axis, with a slip of typical
 * size; Bayes' rule ranks them against "nothing is wrong" and "something is not in the ledger". One wrong entry at
 * most is looked for.
 *
 * @returns null when nothing in the ledger has a mass
 * Source: Gaussian model comparison (Bayes); first moments of mass. Prior weights and slips are common practice,
 * stated above.
 */
export function reconcile(design: Design, measured: Measured): Reconciliation | null {
  const ledger = rollUp(design);
  const box = extent(design);
  if (!ledger || !box) return null;
  // Along an axis along which a part has no place nothing is predicted that could be held against.
  const axes = AXES.filter((a) => measured.cg[a] !== undefined && ledger.placed[a]);
  const centre = ledger.cg;
  const length = Math.max(...AXES.map((a) => box.max[a] - box.min[a]));
  const n = 1 + axes.length;
  const items = design.items.filter((i): i is Massed => i.mass !== null);
  const arm = (place: Point, axis: Axis, item: Item) =>
    (axis === "y" && item.mirrored ? 0 : place[axis]) - centre[axis];
  const massEffect = (item: Item) => [K, ...axes.map((a) => K * arm(item.place, a, item))];

  const covariance = Matrix.zeros(n, n);
  const addOuter = (effect: number[], sd: number) => {
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++)
        covariance.set(i, j, covariance.get(i, j) + (effect[i] ?? 0) * (effect[j] ?? 0) * sd * sd);
  };
  const unit = (k: number, size: number) => Array.from({ length: n }, (_, i) => (i === k ? size : 0));
  for (const item of items) {
    addOuter(massEffect(item), magnitudeSd(item.mass) * item.quantity);
    const sd = placeSd(item.placeEvidence, length, item.placeSd);
    axes.forEach((axis, k) => {
      if (axis !== "y" || !item.mirrored) addOuter(unit(k + 1, K * item.mass.value * item.quantity), sd);
    });
  }
  addOuter([K, ...axes.map((a) => K * ((measured.cg[a]?.value ?? 0) - centre[a]))], measured.mass.sd);
  axes.forEach((a, k) => {
    addOuter(unit(k + 1, K * measured.mass.value), measured.cg[a]?.sd ?? 0);
  });

  const deltaMass = measured.mass.value - ledger.mass;
  const d = Matrix.columnVector([
    K * deltaMass,
    ...axes.map((a) => K * measured.mass.value * ((measured.cg[a]?.value ?? 0) - centre[a])),
  ]);

  const hypotheses = whatMayBeWrong({ items, axes, massEffect, unit, box, centre });
  const judged = hypotheses.map((h) => judge(h, covariance, d));
  const total = judged.reduce((s, j) => s + j.p, 0) || 1;
  const suspects = judged
    .flatMap(({ h, p, by, sd }): Suspect[] => (h.suspect ? [{ ...h.suspect, by, sd, probability: p / total }] : []))
    .sort((a, b) => b.probability - a.probability);
  const nothing = (judged[0]?.p ?? 0) / total;
  const unlisted = (judged.at(-1)?.p ?? 0) / total;
  const first = suspects[0]?.probability ?? 0;
  const equal = suspects.filter((s) => s.probability >= first * EQUAL).length;

  const massSd = Math.hypot(ledger.massSd, measured.mass.sd);
  const massSteps = massSd > 0 ? deltaMass / massSd : 0;
  const cgSteps: Partial<Record<Axis, number>> = {};
  for (const axis of axes) {
    const m = measured.cg[axis];
    if (m) cgSteps[axis] = (m.value - centre[axis]) / Math.hypot(m.sd, ledger.cgSd[axis]);
  }
  const at: Partial<Record<Axis, Uncertain>> = {};
  const massDiffers = Math.abs(massSteps) > 2;
  if (massDiffers)
    axes.forEach((axis, k) => {
      const offset = d.get(k + 1, 0) / (K * deltaMass);
      const variance =
        covariance.get(k + 1, k + 1) - 2 * offset * covariance.get(0, k + 1) + offset ** 2 * covariance.get(0, 0);
      at[axis] = { value: centre[axis] + offset, sd: Math.sqrt(Math.max(0, variance)) / Math.abs(K * deltaMass) };
    });
  const cgDiffers = Object.values(cgSteps).some((s) => Math.abs(s) > 2);
  const verdict: Reconciliation["verdict"] =
    !massDiffers && !cgDiffers && nothing > 0.5
      ? "agrees"
      : (massDiffers && !inside(at, box)) || (!massDiffers && cgDiffers)
        ? "position"
        : unlisted > first
          ? "unlisted"
          : equal > 1
            ? "undecided"
            : "culprit";
  return {
    missing: { value: deltaMass, sd: massSd },
    at,
    steps: { mass: massSteps, cg: cgSteps },
    verdict,
    suspects,
    equal,
    nothing,
    unlisted,
  };
}
