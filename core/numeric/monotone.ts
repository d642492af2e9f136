/**
 * A curve through points that does not swing beyond them: piecewise cubic with the slopes of Fritsch and Carlson (SIAM
 * J. Numer. Anal. 17, 1980), as Fritsch and Butland weigh them. Where the points rise it rises.
 *
 * @param xs strictly rising, two or more
 * @returns value at x; before the first and behind the last point theirs
 */
export function monotone(xs: readonly number[], ys: readonly number[]): (x: number) => number {
  const n = xs.length;
  const h = Array.from({ length: n - 1 }, (_, k) => (xs[k + 1] as number) - (xs[k] as number));
  const d = h.map((w, k) => ((ys[k + 1] as number) - (ys[k] as number)) / w);
  const slopes = xs.map((_, k) => {
    if (k === 0 || k === n - 1) return end(h, d, k === 0);
    const [before, after] = [d[k - 1] as number, d[k] as number];
    if (before * after <= 0) return 0;
    const [a, b] = [h[k - 1] as number, h[k] as number];
    return (3 * (a + b)) / ((2 * b + a) / before + (b + 2 * a) / after);
  });
  return (x) => {
    if (x <= (xs[0] as number)) return ys[0] as number;
    if (x >= (xs[n - 1] as number)) return ys[n - 1] as number;
    let k = 0;
    while (x > (xs[k + 1] as number)) k++;
    const w = h[k] as number;
    const t = (x - (xs[k] as number)) / w;
    const [y0, y1, m0, m1] = [
      ys[k] as number,
      ys[k + 1] as number,
      (slopes[k] as number) * w,
      (slopes[k + 1] as number) * w,
    ];
    return y0 * (1 + 2 * t) * (1 - t) ** 2 + m0 * t * (1 - t) ** 2 + y1 * t * t * (3 - 2 * t) + m1 * t * t * (t - 1);
  };
}

/** Slope at an end: of the parabola through the three points there, held to what keeps the curve from swinging over. */
function end(h: readonly number[], d: readonly number[], first: boolean): number {
  const [k, next] = first ? [0, 1] : [h.length - 1, h.length - 2];
  const [here, there] = [d[k] as number, d[next]];
  if (there === undefined) return here;
  const [a, b] = [h[k] as number, h[next] as number];
  const slope = ((2 * a + b) * here - a * there) / (a + b);
  if (slope * here <= 0) return 0;
  return here * there <= 0 && Math.abs(slope) > 3 * Math.abs(here) ? 3 * here : slope;
}
