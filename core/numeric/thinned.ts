/** A point of a line in a plane. */
export interface Flat {
  a: number;
  b: number;
}
/**
 * Which points of a line are kept so that none that is left out stands farther off than allowed (Douglas & Peucker).
 */
export function keptOf(points: readonly Flat[], allowed: number): number[] {
  const keep = new Set([0, points.length - 1]);
  const stack: [number, number][] = [[0, points.length - 1]];
  for (let range = stack.pop(); range; range = stack.pop()) {
    const [from, to] = range;
    const [p, q] = [points[from], points[to]];
    if (!p || !q || to - from < 2) continue;
    const [da, db] = [q.a - p.a, q.b - p.b];
    const long = Math.hypot(da, db);
    let [worst, at] = [allowed, -1];
    for (let k = from + 1; k < to; k++) {
      const c = points[k] ?? p;
      const off = long === 0 ? Math.hypot(c.a - p.a, c.b - p.b) : Math.abs(da * (c.b - p.b) - db * (c.a - p.a)) / long;
      if (off > worst) [worst, at] = [off, k];
    }
    if (at < 0) continue;
    keep.add(at);
    stack.push([from, at], [at, to]);
  }
  return [...keep].toSorted((a, b) => a - b);
}
/** Fewest points that keep within what is allowed; where they are more than can be held, as many as can be. */
export function thinned<T>(points: readonly T[], flat: (p: T) => Flat, allowed: number, most: number): T[] {
  const flats = points.map(flat);
  for (let by = allowed; ; by = by * 1.3 || 1e-6) {
    const found = keptOf(flats, by);
    if (found.length <= most) return found.flatMap((k) => points[k] ?? []);
  }
}
