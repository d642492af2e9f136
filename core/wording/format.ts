import type { Dimension, UnitHabit } from "../design/units";
import { DISPLAY, spanToDisplay, toDisplay } from "../design/units";

/** Digits after the point that a shown value carries by default. */
const DIGITS: Partial<Record<Dimension, number>> = {
  length: 1,
  mass: 0,
  force: 2,
  torque: 3,
  voltage: 2,
  current: 1,
  power: 0,
  rotation: 0,
  ratio: 2,
  percent: 0,
  time: 1,
  stopwatch: 2,
  temperature: 1,
  warmth: 0,
  volume: 2,
  angle: 1,
  capacity: 2,
  resistance: 1,
  kv: 0,
  money: 0,
  density: 3,
  area: 2,
  loading: 1,
  inertia: 4,
  energy: 1,
  count: 0,
  speed: 1,
  pressure: 0,
  distance: 0,
};

/**
 * Digits after the point for a value with this uncertainty (both in shown units): the ± keeps two digits below 3,
 * else one.
 */
function digitsFor(sd: number, fallback: number): number {
  if (!(sd > 0)) return fallback;
  const leading = Math.floor(Math.log10(sd));
  const two = sd / 10 ** leading < 3 ? 1 : 0;
  return Math.max(0, Math.min(6, two - leading));
}

/** Groups of three digits apart by a thin no-break space; a true minus sign. */
function digits(value: number, places: number): string {
  const [whole = "", part] = Math.abs(value).toFixed(places).split(".");
  const grouped = whole.length > 4 ? whole.replace(/\B(?=(\d{3})+$)/g, "\u202f") : whole;
  const negative = value < 0 && Number(Math.abs(value).toFixed(places)) !== 0;
  return `${negative ? "−" : ""}${grouped}${part ? `.${part}` : ""}`;
}

export interface Shown {
  value: string;
  sd: string | null;
  unit: string;
}

/** Digits after the point without a ± to tell them: an ounce-inch is the hundredth part of a newton metre. */
const placesOf = (dimension: Dimension, habit: UnitHabit): number =>
  dimension === "torque" && habit === "imperial" ? 1 : (DIGITS[dimension] ?? 2);

/** A quantity as it is shown: value and ± rounded alike, in the unit of the user's habit. */
export function show(value: number, sd: number | null, dimension: Dimension, habit: UnitHabit): Shown {
  if (!Number.isFinite(value)) return { value: value > 0 ? "∞" : "—", sd: null, unit: DISPLAY[habit][dimension] };
  // A way of kilometres that is known to hundreds of metres is shown in hundreds.
  const off = sd === null ? 0 : spanToDisplay(sd, dimension, habit);
  const whole = dimension === "distance" && off >= 100 ? 10 ** Math.floor(Math.log10(off) - 1) : 1;
  const round = (x: number) => (whole > 1 ? Math.round(x / whole) * whole : x);
  const v = round(toDisplay(value, dimension, habit));
  const s = sd === null ? null : round(off);
  const places =
    s === null || s === 0
      ? habit === "imperial" && (dimension === "mass" || dimension === "length")
        ? 2
        : placesOf(dimension, habit)
      : digitsFor(s, placesOf(dimension, habit));
  return {
    value: digits(v, places),
    sd: s === null || s === 0 ? null : digits(s, places),
    unit: DISPLAY[habit][dimension],
  };
}

/** An uncertainty by itself, with two significant digits below 3 and one above. */
export function showSd(sd: number, dimension: Dimension, habit: UnitHabit): string {
  const s = spanToDisplay(sd, dimension, habit);
  return digits(s, digitsFor(s, placesOf(dimension, habit)));
}

/** Value and unit in one string, without the ±. */
export function plain(value: number, dimension: Dimension, habit: UnitHabit, places?: number): string {
  const v = toDisplay(value, dimension, habit);
  const d =
    places ??
    (habit === "imperial" && (dimension === "mass" || dimension === "length") ? 2 : placesOf(dimension, habit));
  const unit = DISPLAY[habit][dimension];
  return `${digits(v, d)}${unit === "" || unit === "°" ? unit : `\u00a0${unit}`}`;
}

/** From a least to a most with its unit, or the one number that both are; empty for null. */
export function rangeText(
  range: { least: number; most: number } | null,
  dimension: Dimension,
  habit: UnitHabit,
  places?: number,
): string {
  if (range === null) return "";
  // Small amounts of money are no whole ones.
  const shown = places ?? (dimension === "money" && range.least < 10 && range.least % 1 !== 0 ? 2 : undefined);
  const [least, most] = [plain(range.least, dimension, habit, shown), plain(range.most, dimension, habit, shown)];
  return least === most ? least : `${least.split("\u00a0")[0]}–${most}`;
}

/** The same value in the other habit's unit; null where both show it alike. */
export function inOtherUnits(value: number, dimension: Dimension, habit: UnitHabit): string | null {
  const other = habit === "metric" ? "imperial" : "metric";
  return DISPLAY[habit][dimension] === DISPLAY[other][dimension] ? null : plain(value, dimension, other);
}
