import { type Evidence, type Known, computedFrom, magnitudeSd } from "../../../design/evidence";
import type { Unit } from "../../../design/schema";
import { kindOf } from "../kinds/models";
import type { AT_HULL, Around, AroundKind, AroundOf, EDGES, SHAPES } from "./declares";
import {
  COAXIAL,
  coaxialFactor,
  dragShare,
  grilleLoss,
  groundFactor,
  grown,
  leftBy,
  overlapFactor,
  overlapShare,
  throughLoss,
  throughOpenings,
} from "./formulas";

/** Thrust standing at equal power, over that of the drive by itself, with its standard uncertainty. */
export interface AroundFactor {
  value: number;
  sd: number;
  evidence: Evidence;
}
/** What turns in it, in plain numbers. */
export interface Disc {
  /** m² that its stream passes */
  area: number;
  /** m, of the circle that its tips run on; null where nothing whirls in the open */
  diameter: number | null;
}

/** What tells one kind of surroundings from another: a kind is one entry here, one schema and one drawing. */
interface AroundModel<A> {
  /** its numbers still wanted, as what to do; null: it is told */
  lacks: (a: A, disc: Disc) => string | null;
  factor: (a: A, disc: Disc) => AroundFactor | null;
  /** what it leaves in motion is told too */
  moves: boolean;
  /** where it leaves the range of its method, as what the drive does */
  outside: (a: A, disc: Disc) => string[];
  /** where the drive works, as a sentence goes on after its name */
  where: string;
  /** who takes or gives thrust, as a sentence begins */
  who: string;
  /** it is several that take */
  several?: boolean;
  /** how its share is weighed, and by what */
  weigh: string;
}

/** What a method may be off where wakes meet: this share of what they take (judgement). */
const OFF = 0.25;
const SQRT12 = Math.sqrt(12);

/** Loss coefficient of an opening on its own area, from rounded to sharp edges (from memory, a band). */
const ZETA: Record<(typeof EDGES)[number], readonly [number, number]> = {
  rounded: [1, 1.6],
  sharp: [1.8, 2.7],
  "not said": [1, 2.7],
};
/**
 * Drag coefficient of a body across a stream on the area that it covers: plates and boxes 1.05 to 1.2, round bars and
 * pods 0.4 to 1.1, bodies that lie along it 0.05 to 0.25 (Hoerner 1965, from memory).
 */
const DRAG: Record<(typeof SHAPES)[number], readonly [number, number]> = {
  blunt: [1, 1.3],
  rounded: [0.4, 1.1],
  streamlined: [0.05, 0.25],
  "not said": [0.05, 1.3],
};
/** Openings narrower than this share of the disc: the blades stall, and the formula no longer holds (judgement). */
export const NARROWEST = 0.3;
/** More of a disc covered than this: the stream no longer goes past it as if it were not there (judgement). */
const COVERED = 0.4;

const middle = ([low, high]: readonly [number, number]) => (low + high) / 2;
/** How far a factor moves with each number that was entered, at one standard uncertainty. */
const moved = (known: readonly Known[], at: (values: number[]) => number): number[] => {
  const values = known.map((k) => k.value);
  const here = at(values);
  return known.map((k, i) => at(values.with(i, k.value + magnitudeSd(k))) - here);
};
/** Half of what a number in a band does, as the standard uncertainty of anywhere between. */
const within = (band: readonly [number, number], at: (x: number) => number): number =>
  Math.abs(at(band[0]) - at(band[1])) / SQRT12;

export const openingsOf = (a: AroundOf<"openings">): Known[] => [a.inlet, a.outlet].filter((x) => x !== null);
/** Middle loss of openings with these edges. */
export const zetaOf = (edges: (typeof EDGES)[number]): number => middle(ZETA[edges]);

const openings: AroundModel<AroundOf<"openings">> = {
  lacks: (a) =>
    openingsOf(a).length === 0 ? "enter the openings that its flow passes, choose ducted fan if it is one" : null,
  factor(a, { area }) {
    const known = openingsOf(a);
    const band = ZETA[a.edges];
    const at = (zeta: number) => (areas: number[]) => throughOpenings(area, areas, zeta);
    const values = known.map((k) => k.value);
    const value = at(middle(band))(values);
    const sd = Math.hypot(
      within(band, (z) => at(z)(values)),
      ...moved(known, at(middle(band))),
      (OFF / 2) * (1 - value),
    );
    return { value, sd, evidence: computedFrom(known.map((k) => k.evidence)) };
  },
  moves: false,
  outside: (a, { area }) =>
    openingsOf(a).some((o) => o.value < NARROWEST * area)
      ? [`breathes through less than ${Math.round(100 * NARROWEST)} % of its disc`]
      : [],
  where: "works in a box or duct",
  who: "its openings",
  several: true,
  weigh: "Weigh it with the lid on and with the lid off, 10 min",
};

const grille: AroundModel<AroundOf<"grille">> = {
  lacks: (a) => (a.open === null ? "enter how much of its grille is open" : null),
  factor({ open }) {
    if (!open) return null;
    const at = ([f = 1]: number[]) => throughLoss(grilleLoss(Math.min(1, Math.max(0.02, f))));
    const value = at([open.value]);
    return { value, sd: Math.hypot(...moved([open], at), OFF * (1 - value)), evidence: computedFrom([open.evidence]) };
  },
  moves: false,
  outside: ({ open }) =>
    open && open.value < NARROWEST ? [`has a grille of which less than ${Math.round(100 * NARROWEST)} % is open`] : [],
  where: "works behind a grille or guard",
  who: "its grille",
  weigh: "Weigh it with the grille and without it, 10 min",
};

const overlap: AroundModel<AroundOf<"overlap">> = {
  lacks: (a) => (a.spacing === null ? "enter how far apart the axes are" : null),
  factor({ spacing, neighbours }, { diameter }) {
    if (!spacing || diameter === null) return null;
    const left = (d: number) => leftBy(overlapFactor(neighbours * overlapShare(Math.max(0, d), diameter)));
    const value = left(spacing.value);
    const sd = Math.hypot(OFF * (1 - value), value - left(spacing.value - magnitudeSd(spacing)));
    return { value, sd, evidence: computedFrom([spacing.evidence]) };
  },
  moves: false,
  outside: () => [],
  where: "overlaps another",
  who: "discs that overlap",
  several: true,
  weigh: "Weigh one alone and all together, 10 min",
};

const coaxial: AroundModel<AroundOf<"coaxial">> = {
  lacks: () => null,
  factor({ spacing }, { diameter }) {
    const [best, worst] = [leftBy(COAXIAL.from), leftBy(COAXIAL.to)];
    if (!spacing || diameter === null) {
      const value = (best + worst) / 2;
      return { value, sd: Math.hypot((best - worst) / SQRT12, (OFF / 2) * (1 - value)), evidence: "calculated" };
    }
    const at = ([d = 0]: number[]) => leftBy(coaxialFactor(d, diameter / 2));
    const value = at([spacing.value]);
    return {
      value,
      sd: Math.hypot(...moved([spacing], at), (OFF / 2) * (1 - value)),
      evidence: computedFrom([spacing.evidence]),
    };
  },
  moves: false,
  outside: () => [],
  where: "shares its axis with another",
  who: "a partner on its axis",
  weigh: "Weigh one alone and both together, 10 min",
};

type Body = AroundOf<"body behind" | "body before">;
/** Where the stream may have grown to at a body, from and to. */
function reach({ kind, gap }: Body, radius: number): [number, number] {
  const sign = kind === "body behind" ? 1 : -1;
  if (!gap) return sign > 0 ? [0, 1] : [-1, 0];
  const [near, far] = [gap.value - magnitudeSd(gap), gap.value + magnitudeSd(gap)].map(
    (z) => sign * grown(Math.max(0, z), radius),
  ) as [number, number];
  return [near, far];
}
const radiusOf = ({ area, diameter }: Disc) => (diameter === null ? Math.sqrt(area / Math.PI) : diameter / 2);

/** Middle drag area of a body over the disc, and how far the stream has grown at it. */
function bodyAt(a: Body, disc: Disc): { cover: number; k: number } {
  return {
    cover: (middle(DRAG[a.shape]) * (a.area?.value ?? 0)) / disc.area,
    k: middle(reach(a, radiusOf(disc))),
  };
}
/** What a body leaves in motion over what it leaves standing: V over the induced speed is `ahead`. */
export function bodyMoving(a: Body, disc: Disc, ahead: number): number {
  const { cover, k } = bodyAt(a, disc);
  return Math.max(0, 1 - dragShare(cover, k, ahead)) / (1 - Math.min(0.99, dragShare(cover, k)));
}

const body = (words: Pick<AroundModel<Body>, "where" | "who">): AroundModel<Body> => ({
  lacks: (a) => (a.area === null ? "enter how much of its disc the body covers" : null),
  factor(a, disc) {
    if (!a.area) return null;
    const { cover, k } = bodyAt(a, disc);
    const left = (c: number, at: number) => Math.max(0.01, 1 - dragShare(c, at));
    const value = left(cover, k);
    const perCover = cover / middle(DRAG[a.shape]);
    return {
      value,
      sd: Math.hypot(
        within(DRAG[a.shape], (c) => left(c * perCover, k)),
        within(reach(a, radiusOf(disc)), (at) => left(cover, at)),
        (1 - value) * (magnitudeSd(a.area) / a.area.value),
        OFF * (1 - value),
      ),
      evidence: computedFrom([
        a.area.evidence,
        ...(a.gap ? [a.gap.evidence] : []),
        ...(a.shape === "not said" || !a.gap ? (["guess"] as const) : []),
      ]),
    };
  },
  moves: true,
  outside: (a, { area }) =>
    (a.area?.value ?? 0) > COVERED * area
      ? [`has a body over more than ${Math.round(100 * COVERED)} % of its disc`]
      : [],
  weigh: "Weigh it with the body in place and without it, 10 min",
  ...words,
});

const ground: AroundModel<AroundOf<"ground">> = {
  lacks: (a) => (a.height === null ? "enter how high its disc is over the ground" : null),
  factor({ height }, disc) {
    if (!height) return null;
    const radius = radiusOf(disc);
    // Nearer than half a radius it is outside, and no more is counted than there.
    const at = ([z = 0]: number[]) => groundFactor(Math.max(radius / 2, z), radius);
    const value = at([height.value]);
    return {
      value,
      sd: Math.hypot(...moved([height], at), OFF * (value - 1)),
      evidence: computedFrom([height.evidence]),
    };
  },
  moves: false,
  outside: ({ height }, disc) =>
    height && height.value < radiusOf(disc) / 2 ? ["is nearer to the ground than half of its radius"] : [],
  where: "works near the ground",
  who: "the ground",
  weigh: "Weigh it at its height and far from the ground, 10 min",
};

/**
 * Share of its pull at the bollard that the hull takes back, as the screw draws past it (thrust deduction, from and to;
 * common practice for tugs and small craft, from memory).
 */
const DEDUCTION: Record<Exclude<(typeof AT_HULL)[number], "not said">, readonly [number, number]> = {
  "clear of it": [0.01, 0.04],
  "close behind it": [0.03, 0.12],
  "in a tunnel": [0.08, 0.2],
};

/**
 * The same as it goes, and the share by which the water runs slower at the screw than past the hull (wake; from and
 * to; common practice for small craft and ships, from memory).
 */
const GOING: Record<keyof typeof DEDUCTION, { deduction: readonly [number, number]; wake: readonly [number, number] }> =
  {
    "clear of it": { deduction: [0.02, 0.08], wake: [0, 0.08] },
    "close behind it": { deduction: [0.08, 0.2], wake: [0.1, 0.3] },
    "in a tunnel": { deduction: [0.1, 0.25], wake: [0.1, 0.25] },
  };
/**
 * What a hull does to its screw as it goes: share of the speed at which the water meets it, what is left of its push
 * beyond what is left at the bollard, and the doubt of both as a share of the push. Null while it is not said how it
 * stands.
 */
export function hullGoing({ stands }: AroundOf<"hull">): { met: number; left: number; sd: number } | null {
  if (stands === "not said") return null;
  const { deduction, wake } = GOING[stands];
  return {
    met: 1 - middle(wake),
    left: (1 - middle(deduction)) / (1 - middle(DEDUCTION[stands])),
    sd: Math.hypot(
      within(deduction, (t) => t),
      within(wake, (w) => w),
    ),
  };
}

const hull: AroundModel<AroundOf<"hull">> = {
  lacks: (a) => (a.stands === "not said" ? "choose how its screw stands to the hull" : null),
  factor({ stands }) {
    if (stands === "not said") return null;
    const band = DEDUCTION[stands];
    return { value: 1 - middle(band), sd: within(band, (t) => 1 - t), evidence: "calculated" };
  },
  moves: true,
  outside: () => [],
  where: "works at its hull",
  who: "its hull",
  weigh: "Pull the craft at a luggage scale in the water, 10 min",
};

/** A disc that differs by more than this from the one that was weighed is another. */
const OTHER = 0.02;
/** Whether a pair of weighings was of another disc than turns now. */
export const isOfAnother = (a: AroundOf<"weighed">, disc: Disc): boolean =>
  a.disc !== null && Math.abs(disc.area / a.disc - 1) > OTHER;

const weighed: AroundModel<AroundOf<"weighed">> = {
  lacks: (a, disc) =>
    a.alone === null || a.builtIn === null
      ? "enter what it pushes by itself and what it pushes built in"
      : isOfAnother(a, disc)
        ? "weigh it again, by itself and built in: its disc is another than then"
        : null,
  factor({ alone, builtIn }) {
    if (!alone || !builtIn) return null;
    const value = builtIn.value / alone.value;
    const share = (k: Known) => magnitudeSd(k) / k.value;
    const evidence = [alone, builtIn].every((k) => k.evidence === "measured" || k.evidence === "proven");
    return {
      value,
      sd: value * Math.hypot(share(alone), share(builtIn)),
      evidence: evidence ? "measured" : computedFrom([alone.evidence, builtIn.evidence]),
    };
  },
  moves: false,
  outside: () => [],
  where: "is built in",
  who: "what is around it",
  weigh: "Weigh it by itself and built in, 10 min",
};

const MODELS: { [K in AroundKind]: AroundModel<AroundOf<K>> } = {
  openings,
  grille,
  overlap,
  coaxial,
  "body behind": body({ where: "blows on a body behind it", who: "the body behind it" }),
  "body before": body({ where: "draws past a body before it", who: "the body before it" }),
  ground,
  hull,
  weighed,
};
export const aroundModel = (a: Around): AroundModel<Around> => MODELS[a.kind] as unknown as AroundModel<Around>;

/** The disc of one unit; null where nothing passes through it. */
export function discOf({ propeller, propulsor }: Pick<Unit, "propeller" | "propulsor">): Disc | null {
  if (!propulsor) return { area: (Math.PI / 4) * propeller.diameter.value ** 2, diameter: propeller.diameter.value };
  const area = kindOf(propulsor).face(propulsor);
  return area === null ? null : { area, diameter: kindOf(propulsor).tips(propulsor) };
}
