import { z } from "zod";
import { BOUNDS, type Bounded } from "./bounds";
import type { Dimension } from "./units";

/** How a number is known, from worst to best. */
export const EVIDENCE = ["guess", "datasheet", "calculated", "measured", "proven"] as const;
export const evidenceSchema = z.enum(EVIDENCE);
export type Evidence = z.infer<typeof evidenceSchema>;

/** Rank of an evidence level, 0 (guess) to 4 (proven). */
export const rank = (level: Evidence): number => EVIDENCE.indexOf(level);

/** The weakest of several levels; "proven" for an empty list (nothing to doubt). */
export function weakest(levels: readonly Evidence[]): Evidence {
  return levels.reduce<Evidence>((worst, level) => (rank(level) < rank(worst) ? level : worst), "proven");
}

/**
 * Evidence of a result computed from inputs: calculated, unless an input is weaker, in which case it is no better
 * known than that input.
 */
export function computedFrom(inputs: readonly Evidence[]): Evidence {
  return weakest([...inputs, "calculated"]);
}

/** Share of a number's variance below which nobody would call the number badly known for it (judgement). */
const BEARS = 0.05;

/**
 * Evidence of a computed number, by what it really rests on: no better known than the worst inputs that together
 * cause a twentieth of its variance
 * or more. What hardly moves it (the guessed resistance of a pack under a thrust read on the stand) does not make it
 * a guess; many small guesses do.
 *
 * @param inputs shares of the variance, 0 to 1, as `sharesOf` gives them; without any doubt at all every input counts
 */
export function evidenceByShare(inputs: readonly { evidence: Evidence; share: number }[]): Evidence {
  if (!inputs.some((i) => i.share > 0)) return computedFrom(inputs.map((i) => i.evidence));
  let sum = 0;
  for (const level of EVIDENCE) {
    if (level === "calculated") break;
    for (const i of inputs) if (i.evidence === level) sum += i.share;
    if (sum >= BEARS) return level;
  }
  return "calculated";
}

function known(value: z.ZodNumber, most: number) {
  const uncertainty = z
    .number()
    .nonnegative()
    .max(most)
    .optional()
    .describe("standard uncertainty (1 sigma), same unit as value");
  return z
    .object({
      value,
      evidence: evidenceSchema,
      sd: uncertainty,
      note: z.string().max(500).optional().describe("where the number came from"),
    })
    .refine((k) => k.evidence !== "calculated" || k.sd !== undefined, {
      message: "a calculated value needs its own ± : it has no default",
      path: ["sd"],
    });
}

/** A positive magnitude with its evidence, within what its quantity can be at all. */
export function magnitude(of: Bounded) {
  const [least, most, unit] = BOUNDS[of];
  const words = `between ${least} and ${most} ${unit}`.trim();
  return known(z.number().positive().min(least, words).max(most, words), most);
}
export const magnitudeSchema = magnitude("any");

const BY_DIMENSION: Partial<Record<Dimension, Bounded>> = {
  mass: "mass",
  capacity: "capacity",
  resistance: "resistance",
  length: "length",
  kv: "kv",
  current: "current",
  area: "area",
  torque: "torque",
};
const positive = new Map<Bounded, z.ZodNumber>();
/** What a field for a positive value of a dimension accepts. */
export function positiveOf(dimension: Dimension): z.ZodNumber {
  const of = BY_DIMENSION[dimension] ?? "any";
  const known = positive.get(of) ?? magnitude(of).shape.value;
  positive.set(of, known);
  return known;
}
/** The same that may also be zero. */
export const magnitudeOrZero = (of: Bounded) =>
  known(
    z.number().nonnegative().max(BOUNDS[of][1], `from 0 to ${BOUNDS[of][1]} ${BOUNDS[of][2]}`.trim()),
    BOUNDS[of][1],
  );

/** A value that a person entered, with how it is known. SI units (see docs/format.md). */
export type Known = z.infer<typeof magnitudeSchema>;

/**
 * Default relative standard uncertainty of a positive magnitude by evidence level (common practice;
 * docs/uncertainty.md).
 */
const RELATIVE: Record<Exclude<Evidence, "calculated">, number> = {
  guess: 0.25,
  datasheet: 0.08,
  measured: 0.01,
  proven: 0.02,
};

/**
 * Standard uncertainty of a positive magnitude, in the unit of its value: as entered, or the default of its evidence
 * level.
 */
export function magnitudeSd(known: Known): number {
  if (known.sd !== undefined) return known.sd;
  return known.evidence === "calculated" ? 0 : Math.abs(known.value) * RELATIVE[known.evidence];
}

/**
 * Standard uncertainty of a place along one axis, m. A guess is 2 % of the craft's length, a drawing 2 mm, a
 * measurement 0.5 mm.
 */
export function placeSd(evidence: Evidence, craftLength: number, own: number | undefined): number {
  if (own !== undefined) return own;
  if (evidence === "guess") return 0.02 * craftLength;
  if (evidence === "measured" || evidence === "proven") return 0.0005;
  return 0.002;
}
