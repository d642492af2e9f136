/** How a bracketed root search ended. Callers must look at `status` before they use `x`. */
export type RootResult =
  | { status: "converged"; x: number; iterations: number }
  | { status: "iterationLimit"; x: number; iterations: number }
  | { status: "noBracket"; low: number; high: number }
  | { status: "notFinite"; at: number };

/**
 * Root of a continuous function inside a bracket, by the Illinois variant of false position with a bisection step
 * whenever the bracket fails to halve in three turns. Never leaves the bracket.
 *
 * @param f continuous on [low, high], with opposite signs at the ends
 * @param tolerance width of the final bracket, in the unit of x
 * Source: M. Dowell and P. Jarratt, "A modified regula falsi method", BIT 11 (1971).
 */
export function findRoot(
  f: (x: number) => number,
  low: number,
  high: number,
  tolerance: number,
  limit = 100,
): RootResult {
  let a = low;
  let b = high;
  let fa = f(a);
  let fb = f(b);
  if (!Number.isFinite(fa)) return { status: "notFinite", at: a };
  if (!Number.isFinite(fb)) return { status: "notFinite", at: b };
  if (fa === 0) return { status: "converged", x: a, iterations: 0 };
  if (fb === 0) return { status: "converged", x: b, iterations: 0 };
  if (fa > 0 === fb > 0) return { status: "noBracket", low: fa, high: fb };
  let side = 0;
  let checkpoint = Math.abs(b - a);
  for (let i = 1; i <= limit; i++) {
    const slow = i % 3 === 0 && Math.abs(b - a) > checkpoint / 2;
    if (i % 3 === 0) checkpoint = Math.abs(b - a);
    let x = slow ? (a + b) / 2 : (a * fb - b * fa) / (fb - fa);
    if (!(x > Math.min(a, b) && x < Math.max(a, b))) x = (a + b) / 2;
    const fx = f(x);
    if (!Number.isFinite(fx)) return { status: "notFinite", at: x };
    if (fx === 0) return { status: "converged", x, iterations: i };
    if (fx > 0 === fb > 0) {
      b = x;
      fb = fx;
      if (side === -1) fa /= 2;
      side = -1;
    } else {
      a = x;
      fa = fx;
      if (side === 1) fb /= 2;
      side = 1;
    }
    if (Math.abs(b - a) < tolerance || Math.abs(fx) < 1e-14) return { status: "converged", x, iterations: i };
  }
  return { status: "iterationLimit", x: (a + b) / 2, iterations: limit };
}
