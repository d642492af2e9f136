/**
 * Probability that a standard normal variable is at most z. Absolute error below 1e-7 (measured against tables in the
 * tests).
 * Source: Abramowitz and Stegun, Handbook of Mathematical Functions, 26.2.17.
 */
export function normalCdf(z: number): number {
  if (z < -38) return 0;
  if (z > 38) return 1;
  const t = 1 / (1 + 0.2316419 * Math.abs(z));
  const poly = t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  const tail = (Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)) * poly;
  return z >= 0 ? 1 - tail : tail;
}

/**
 * Probability (0 to 1) that a normal quantity with this mean and standard deviation lies in [low, high]; either end
 * may be infinite.
 */
export function probabilityWithin(mean: number, sd: number, low: number, high: number): number {
  if (!(sd > 0)) return mean >= low && mean <= high ? 1 : 0;
  return Math.max(0, normalCdf((high - mean) / sd) - normalCdf((low - mean) / sd));
}
