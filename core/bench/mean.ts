/** What several readings say of one number: their mean with the doubt of it. */
export interface Mean {
  value: number;
  sd: number;
  n: number;
}

/**
 * The mean of readings by hand. Two or three tell little of their own scatter: it is never taken to be less than half
 * of what is usual.
 *
 * @param one how well a single reading is known, as a share of it
 * @param floor what no repeat takes away, as a share: the same hand, the same tape
 */
export function meanOf(values: readonly number[], one: number, floor: number): Mean | null {
  const n = values.length;
  if (n === 0) return null;
  const value = values.reduce((s, v) => s + v, 0) / n;
  const scatter = n > 1 ? Math.sqrt(values.reduce((s, v) => s + (v - value) ** 2, 0) / (n - 1)) : 0;
  const each = n > 3 ? scatter : Math.max(scatter, one * value * (n === 1 ? 1 : 0.5));
  return { value, sd: Math.hypot(each / Math.sqrt(n), floor * value), n };
}
