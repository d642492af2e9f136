/** A number with its standard uncertainty. */
export interface Uncertain {
  value: number;
  sd: number;
}

/**
 * First-order propagation of independent errors through any smooth function, by central differences of one standard
 * deviation.
 *
 * @param f of the inputs' values, in their order; several results at once
 * @returns each result with its standard uncertainty, and the covariance matrix of the results
 * Source: JCGM 100:2008 (GUM), 5.1.2 and 5.2.2, with numerical sensitivities.
 */
export function propagate(
  f: (values: number[]) => number[],
  inputs: readonly Uncertain[],
): { results: Uncertain[]; covariance: number[][] } {
  const values = inputs.map((i) => i.value);
  const centre = f(values);
  const covariance = centre.map(() => centre.map(() => 0));
  inputs.forEach(({ value, sd }, k) => {
    if (!(sd > 0)) return;
    const at = (shift: number) => f(values.map((v, i) => (i === k ? value + shift : v)));
    const up = at(sd);
    const down = at(-sd);
    const half = centre.map((_, i) => ((up[i] ?? 0) - (down[i] ?? 0)) / 2);
    covariance.forEach((row, i) => {
      half.forEach((h, j) => {
        row[j] = (row[j] ?? 0) + (half[i] ?? 0) * h;
      });
    });
  });
  return { results: centre.map((value, i) => ({ value, sd: Math.sqrt(covariance[i]?.[i] ?? 0) })), covariance };
}
