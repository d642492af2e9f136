import { z } from "zod";

/**
 * What a number can be at all. Not what is plausible: far beyond any craft, and near enough that sums, products and
 * squares of what is entered stay numbers.
 */
const BEYOND = 1e12;
const WORDS = "a number between −1e12 and 1e12";

/** Any number that is one. */
export const finite = z.number().min(-BEYOND, WORDS).max(BEYOND, WORDS);

/** An amount of money: in rupiah and in dinar a motor is some hundred thousand. */
export const amountSchema = finite.min(0, "an amount is zero or more").max(1e9, "an amount up to 1 000 000 000");

/** Number that a record is known by, within what a database column holds. */
export const recordNumber = z.number().int().positive().max(2_000_000_000, "a whole number up to 2 000 000 000");

/** Least and most of each physical quantity that is entered with its evidence, in SI units (capacity A·h, Kv rpm/V). */
export const BOUNDS = {
  mass: [1e-7, 1e5, "kg"],
  capacity: [1e-4, 1e4, "A·h"],
  resistance: [1e-7, 1e3, "Ω"],
  kv: [0.01, 1e6, "rpm/V"],
  current: [1e-6, 1e4, "A"],
  length: [1e-5, 100, "m"],
  area: [1e-8, 1e4, "m²"],
  torque: [1e-7, 1e5, "N·m"],
  any: [1e-12, BEYOND, ""],
} as const satisfies Record<string, readonly [number, number, string]>;
export type Bounded = keyof typeof BOUNDS;
