/** The middle of a list, the mean of the two middle ones of an even one; NaN of an empty one. */
export const median = (list: readonly number[]): number => {
  const s = list.toSorted((a, b) => a - b);
  const k = s.length >> 1;
  return s.length === 0 ? Number.NaN : s.length % 2 ? (s[k] ?? 0) : ((s[k - 1] ?? 0) + (s[k] ?? 0)) / 2;
};
