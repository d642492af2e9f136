import { finite } from "../design/bounds";
import type { Free } from "../design/bench";
import { type Fit, fitLinear } from "../numeric/leastSquares";
import { probabilityByT, tQuantile, welch } from "../numeric/welch";

/*
 * Any number against any other, in the units in which both were read: a straight line on the axes that were chosen,
 * what its slope means where that is known, and whether two conditions differ.
 */

type Point = Free["conditions"][number]["points"][number];
type Axes = Free["axes"];
export type Law = Free["of"];

/** What an exponent tells, with the range in which it is met. */
interface Meaning {
  low: number;
  high: number;
  says: string;
}
/**
 * Exponents of y ∝ xⁿ and what makes them: dry friction takes the same torque at any speed, a viscous film one that
 * grows with it, thrown air or water one that grows with its square (fan laws), power being torque times speed; a
 * propeller's thrust goes with rpm²; the field of one wire falls with its distance, that of two that lead to and fro
 * with the square, that of a magnet with the cube (Biot and Savart). Ranges: common practice.
 */
export const LAWS: Record<Exclude<Law, "its own">, readonly Meaning[]> = {
  "power against rpm": [
    { low: 0.8, high: 1.3, says: "dry friction: bearings, brushes, belts, seals" },
    { low: 1.7, high: 2.2, says: "a viscous film: oil, grease, eddy currents" },
    { low: 2.4, high: 3.2, says: "air or water that is thrown" },
  ],
  "torque against rpm": [
    { low: -0.2, high: 0.3, says: "dry friction: bearings, brushes, belts, seals" },
    { low: 0.7, high: 1.2, says: "a viscous film: oil, grease, eddy currents" },
    { low: 1.4, high: 2.2, says: "air or water that is thrown" },
  ],
  "thrust against rpm": [
    { low: 1.9, high: 2.1, says: "a propeller, rotor or fan that keeps its shape and its flow" },
    { low: 1, high: 1.8, says: "blades that bend or stall, an inlet that starves, or a drive that slips" },
  ],
  "drag against speed": [
    { low: 0.8, high: 1.2, says: "a viscous film, or very slow flow" },
    { low: 1.8, high: 2.1, says: "flow past a body: a drag area that stays" },
    { low: 2.3, high: 6, says: "waves, or a part that comes out, goes under or opens with speed" },
  ],
  "field against distance": [
    { low: -1.2, high: -0.8, says: "one wire by itself: its return runs elsewhere" },
    { low: -2.2, high: -1.8, says: "two wires that lead to and fro" },
    { low: -3.3, high: -2.7, says: "a magnet, or a coil: a motor" },
  ],
};

export const isLogX = (axes: Axes): boolean => axes === "both logarithmic" || axes === "x logarithmic";
export const isLogY = (axes: Axes): boolean => axes === "both logarithmic" || axes === "y logarithmic";

/** A straight line through the points of one condition, on the chosen axes. */
export interface Line {
  status: "fitted" | "too few" | "x was not varied";
  /** Points that count, and those that no logarithm can hold. */
  count: number;
  left: number;
  /** In units of the axes (decades where logarithmic), with its standard uncertainty and 95 % interval. */
  slope: number;
  slopeSd: number;
  interval: [number, number];
  intercept: number;
  scatter: number;
  freedom: number;
  covariance: number[][];
  /** Smallest and largest x that was read, in the unit of x. */
  from: number;
  to: number;
}

const onAxis = (v: number, log: boolean): number => (log ? Math.log10(v) : v);
/** Points that the axes can show, moved onto them; without an x they count where nothing was varied. */
function placed(points: readonly Point[], axes: Axes) {
  const [lx, ly] = [isLogX(axes), isLogY(axes)];
  return points.flatMap(({ x, y }) =>
    (lx && x !== null && !(x > 0)) || (ly && !(y > 0))
      ? []
      : [{ x: x === null ? null : onAxis(x, lx), y: onAxis(y, ly), plainX: x }],
  );
}

/** Decimals to which a number is written: 3.20 has one, 2.5e-7 eight. */
function decimalsOf(v: number): number {
  const [mantissa = "", exponent = "0"] = v.toExponential(11).split("e");
  return (
    mantissa
      .replace("-", "")
      .replace(/\.?0+$/, "")
      .replace(".", "").length -
    1 -
    Number(exponent)
  );
}

/**
 * Scatter that readings have at least, on their axis: they were written down to some digit, and are anywhere within it
 * (uniform: its step over √12). Readings that lie on a line to the last digit are not known better than that.
 */
function leastScatter(points: readonly { y: number }[], axes: Axes): number {
  const plain = points.map((p) => (isLogY(axes) ? 10 ** p.y : p.y));
  const step = 10 ** -Math.max(0, ...plain.map(decimalsOf)) / Math.sqrt(12);
  if (!isLogY(axes)) return step;
  const middle = plain.toSorted((x, y) => x - y)[Math.floor(plain.length / 2)] ?? 1;
  return step / (middle * Math.LN10);
}

/**
 * The line of one condition by least squares. Three points at least, at two places of x at least; scatter from the
 * points themselves.
 */
export function lineOf(points: readonly Point[], axes: Axes): Line {
  const all = placed(points, axes);
  const at = all.flatMap((p) => (p.x === null ? [] : [{ x: p.x, y: p.y, plain: p.plainX as number }]));
  const xs = at.map((p) => p.plain);
  const none = (status: Line["status"]): Line => ({
    status,
    count: all.length,
    left: points.length - all.length,
    slope: Number.NaN,
    slopeSd: Number.NaN,
    interval: [Number.NaN, Number.NaN],
    intercept: Number.NaN,
    scatter: Number.NaN,
    freedom: 0,
    covariance: [],
    from: xs.length > 0 ? Math.min(...xs) : Number.NaN,
    to: xs.length > 0 ? Math.max(...xs) : Number.NaN,
  });
  if (new Set(at.map((p) => p.x)).size < 2) return none(all.length < 3 ? "too few" : "x was not varied");
  if (at.length < 3) return none("too few");
  const fit = fitLinear(
    at.map((p) => [1, p.x]),
    at.map((p) => p.y),
  );
  const [intercept = Number.NaN, slope = Number.NaN] = fit.parameters;
  if (fit.status !== "converged") return none("x was not varied");
  const scatter = Math.max(fit.residualSd, leastScatter(at, axes));
  const mean = at.reduce((s, p) => s + p.x, 0) / at.length;
  const spread = at.reduce((s, p) => s + (p.x - mean) ** 2, 0);
  const slopeSd = scatter / Math.sqrt(spread);
  const reach = tQuantile(0.95, fit.freedom) * slopeSd;
  return {
    ...none("fitted"),
    count: at.length,
    slope,
    slopeSd,
    interval: [slope - reach, slope + reach],
    intercept,
    scatter,
    freedom: fit.freedom,
    covariance: [
      [scatter ** 2 * (1 / at.length + mean ** 2 / spread), (-(scatter ** 2) * mean) / spread],
      [(-(scatter ** 2) * mean) / spread, scatter ** 2 / spread],
    ],
  };
}

/** Variance of the line itself at a place of the axis. */
const lineVariance = ({ covariance: c }: Pick<Line, "covariance">, x: number): number =>
  (c[0]?.[0] ?? 0) + 2 * x * (c[0]?.[1] ?? 0) + x * x * (c[1]?.[1] ?? 0);

export interface Foretold {
  value: number;
  /** Where one more reading would stand, 19 times in 20. */
  low: number;
  high: number;
  /** Inside of what was read, outside of it, or so far outside that the line says nothing. */
  where: "inside" | "outside" | "too far";
}
/** How far beyond its points, as a share of their span on the axis, a line is still asked (judgement). */
const BEYOND = 1;

/** What the line says at another x, in the units of the axes, with the band of one more reading. Null: no line. */
export function foretell(line: Line, axes: Axes, x: number): Foretold | null {
  if (line.status !== "fitted" || (isLogX(axes) && !(x > 0))) return null;
  const [at, from, to] = [x, line.from, line.to].map((v) => onAxis(v, isLogX(axes))) as [number, number, number];
  const middle = line.intercept + line.slope * at;
  const reach = tQuantile(0.95, line.freedom) * Math.sqrt(line.scatter ** 2 + Math.max(0, lineVariance(line, at)));
  const back = (v: number) => (isLogY(axes) ? 10 ** v : v);
  const off = Math.max(from - at, at - to, 0);
  return {
    value: back(middle),
    low: back(middle - reach),
    high: back(middle + reach),
    where: off === 0 ? "inside" : off <= BEYOND * (to - from) ? "outside" : "too far",
  };
}

/** What a slope on two logarithmic axes tells: the meanings that its 95 % interval meets; none where it meets none. */
export function meaningOf(line: Line, axes: Axes, of: Law): Meaning[] | null {
  if (of === "its own" || axes !== "both logarithmic" || line.status !== "fitted") return null;
  const [low, high] = line.interval;
  return LAWS[of].filter((m) => low <= m.high && high >= m.low);
}

export interface Difference {
  status: "told" | "not told apart" | "too few" | "not over the same x";
  /** B less A, or B over A where y is logarithmic, with its 95 % interval. */
  value: number;
  interval: [number, number];
  /** Probability that it has this sign, 0.5 to 1. */
  sure: number;
  /** x at which it holds; null: at any. */
  at: number | null;
  /** Whether it changes with x. */
  changes: boolean;
}

const SIGNIFICANT = 0.05;
const unknown = (status: Difference["status"]): Difference => ({
  status,
  value: Number.NaN,
  interval: [Number.NaN, Number.NaN],
  sure: Number.NaN,
  at: null,
  changes: false,
});

/** A difference on the axis as it is said: a difference, or a ratio. */
function told(
  size: number,
  error: number,
  freedom: number,
  axes: Axes,
  at: number | null,
  changes: boolean,
): Difference {
  const reach = tQuantile(0.95, freedom) * error;
  const back = (v: number) => (isLogY(axes) ? 10 ** v : v);
  const above = probabilityByT(size, error, freedom, 0, Number.POSITIVE_INFINITY);
  return {
    status: Math.abs(size) > reach ? "told" : "not told apart",
    value: back(size),
    interval: [back(size - reach), back(size + reach)],
    sure: Math.max(above, 1 - above),
    at,
    changes,
  };
}

const probabilityOfNone = (fit: Fit, k: number, least: number): number => {
  const [size, error] = [fit.parameters[k] ?? 0, Math.max(fit.sd[k] ?? 0, least)];
  const above = probabilityByT(size, error, fit.freedom, 0, Number.POSITIVE_INFINITY);
  return 2 * Math.min(above, 1 - above);
};

/**
 * Whether the second condition differs from the first. Where x was varied in both: two lines of one slope, moved
 * against one another (analysis of covariance); where their slopes differ, the difference in the middle of what both
 * have. Where nothing was varied: Welch's difference of the means. Only over x that both were read at.
 */
export function differenceOf(first: readonly Point[], second: readonly Point[], axes: Axes): Difference {
  const [a, b] = [placed(first, axes), placed(second, axes)];
  const varied = (points: typeof a) => new Set(points.flatMap((p) => (p.x === null ? [] : [p.x]))).size > 1;
  const least = leastScatter([...a, ...b], axes) * Math.sqrt(1 / Math.max(1, a.length) + 1 / Math.max(1, b.length));
  if (!varied(a) && !varied(b)) {
    if (a.length < 2 || b.length < 2) return unknown("too few");
    const [means, w] = [
      [a, b].map((c) => c.reduce((s, p) => s + p.y, 0) / c.length),
      welch(
        a.map((p) => p.y),
        b.map((p) => p.y),
      ),
    ];
    const size = w?.difference ?? (means[1] ?? 0) - (means[0] ?? 0);
    return told(size, Math.max(w?.error ?? 0, least), w?.freedom ?? a.length + b.length - 2, axes, null, false);
  }
  const rows = [a, b].flatMap((points, k) => points.flatMap((p) => (p.x === null ? [] : [{ x: p.x, y: p.y, d: k }])));
  const xs = (k: number) => rows.filter((r) => r.d === k).map((r) => r.x);
  if (xs(0).length < 2 || xs(1).length < 2 || rows.length < 5) return unknown("too few");
  const low = Math.max(Math.min(...xs(0)), Math.min(...xs(1)));
  const high = Math.min(Math.max(...xs(0)), Math.max(...xs(1)));
  if (low > high) return unknown("not over the same x");
  const middle = (low + high) / 2;
  const y = rows.map((r) => r.y);
  // Counted from the middle: the difference of the two lines there is one parameter, with or without a common slope.
  const apart = fitLinear(
    rows.map((r) => [1, r.x - middle, r.d, r.d * (r.x - middle)]),
    y,
  );
  // Two slopes are not known better than the last digit leaves them, either.
  const spread = (k: number) => {
    const mean = xs(k).reduce((s, x) => s + x, 0) / xs(k).length;
    return xs(k).reduce((s, x) => s + (x - mean) ** 2, 0);
  };
  const leastTurn = leastScatter([...a, ...b], axes) * Math.sqrt(1 / spread(0) + 1 / spread(1));
  const changes = apart.status === "converged" && probabilityOfNone(apart, 3, leastTurn) < SIGNIFICANT;
  const fit = changes
    ? apart
    : fitLinear(
        rows.map((r) => [1, r.x - middle, r.d]),
        y,
      );
  if (fit.status !== "converged") return unknown("too few");
  const at = isLogX(axes) ? 10 ** middle : middle;
  return told(
    fit.parameters[2] ?? Number.NaN,
    Math.max(fit.sd[2] ?? 0, least),
    fit.freedom,
    axes,
    changes ? at : null,
    changes,
  );
}

/** Readings typed or pasted, one to a line: x and y, or y alone. */
export interface ReadPoints {
  points: Point[];
  /** What could not be read, line by line, with what would be. */
  problems: string[];
}
const NUMBER = /^[+\-−]?(\d+([.,]\d*)?|[.,]\d+)(e[+\-−]?\d+)?$/i;
const MOST = 2000;

/**
 * Reads lines of two numbers, or of one. Parted by blanks, tabs or semicolons; a comma inside a number is a decimal
 * comma, after which a blank parts. Empty lines and lines that begin with # count for nothing.
 */
export function readPoints(text: string): ReadPoints {
  const points: Point[] = [];
  const problems: string[] = [];
  const value = (t: string) => Number(t.replace(",", ".").replace(/−/g, "-"));
  for (const [k, line] of text.split(/\r?\n/).entries()) {
    const bare = line.trim();
    if (bare === "" || bare.startsWith("#")) continue;
    const parted = /^[^\s;]+,[^\s;]+$/.test(bare) && /\./.test(bare) ? bare.split(",") : bare.split(/,\s+|[\s;|]+/);
    const parts = parted.filter((t) => t !== "");
    const odd = parts.find((t) => !NUMBER.test(t) || !finite.safeParse(value(t)).success);
    if (odd !== undefined)
      problems.push(`line ${k + 1}: “${odd.slice(0, 20)}” is no number; units stand in the fields above`);
    else if (parts.length === 1 && /^[+\-−]?\d+,\d+$/.test(bare))
      problems.push(
        `line ${k + 1}: “${bare}” may be one number or two: write ${bare.replace(",", ".")}, or part two by a blank`,
      );
    else if (parts.length > 2) problems.push(`line ${k + 1}: ${parts.length} numbers, where two are read, or one`);
    else if (points.length >= MOST) {
      problems.push(`line ${k + 1}: more than ${MOST} readings`);
      break;
    } else {
      const [first = "", second] = parts;
      points.push(second === undefined ? { x: null, y: value(first) } : { x: value(first), y: value(second) });
    }
  }
  const bare = points.filter((p) => p.x === null).length;
  if (bare > 0 && bare < points.length)
    problems.push("some lines have x and y, others y alone: give each line both, or none of them x");
  return { points, problems };
}

/** The lines that would be read as these points. */
export const pointsText = (points: readonly Point[]): string =>
  points.map((p) => (p.x === null ? String(p.y) : `${p.x} ${p.y}`)).join("\n");
