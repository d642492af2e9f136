import { Matrix, SingularValueDecomposition, inverse } from "ml-matrix";

/** How a fit ended, and what it found. `parameters` hold the last values reached even when it did not converge. */
export interface Fit {
  status: "converged" | "iterationLimit" | "singular" | "tooFew";
  parameters: number[];
  /** standard uncertainties, from the scatter of the residuals */
  sd: number[];
  /** covariance matrix of the parameters */
  covariance: number[][];
  /** standard deviation of the residuals, with the degrees of freedom */
  residualSd: number;
  freedom: number;
  iterations: number;
}

const nothing = (status: Fit["status"], parameters: number[], iterations = 0): Fit => ({
  status,
  parameters,
  sd: parameters.map(() => Number.NaN),
  covariance: parameters.map(() => parameters.map(() => Number.NaN)),
  residualSd: Number.NaN,
  freedom: 0,
  iterations,
});

/** Parameters whose columns no longer differ (relative to the largest singular value). */
const SINGULAR = 1e-11;

function finished(jacobian: number[][], residuals: number[], parameters: number[], iterations: number): Fit {
  const freedom = residuals.length - parameters.length;
  const j = new Matrix(jacobian);
  const scale = parameters.map((_, k) => Math.hypot(...j.getColumn(k)) || 1);
  const scaled = new Matrix(jacobian.map((row) => row.map((v, k) => v / (scale[k] ?? 1))));
  const { diagonal } = new SingularValueDecomposition(scaled);
  if (Math.min(...diagonal) < SINGULAR * Math.max(...diagonal)) return nothing("singular", parameters, iterations);
  const residualSd = Math.sqrt(residuals.reduce((s, r) => s + r * r, 0) / freedom);
  const normal = inverse(scaled.transpose().mmul(scaled)).to2DArray();
  const covariance = normal.map((row, a) =>
    row.map((v, b) => (v * residualSd ** 2) / ((scale[a] ?? 1) * (scale[b] ?? 1))),
  );
  return {
    status: "converged",
    parameters,
    sd: covariance.map((row, k) => Math.sqrt(row[k] ?? Number.NaN)),
    covariance,
    residualSd,
    freedom,
    iterations,
  };
}

/**
 * Linear least squares by singular values: y ≈ Σ p_k·x_k, each row of `rows` the x of one observation (put a 1 for a
 * constant).
 * Source: Å. Björck, Numerical Methods for Least Squares Problems (1996). Checked against NIST StRD Norris.
 */
export function fitLinear(rows: readonly (readonly number[])[], y: readonly number[]): Fit {
  const count = rows[0]?.length ?? 0;
  const empty = Array.from({ length: count }, () => Number.NaN);
  if (rows.length <= count) return nothing("tooFew", empty);
  const x = new Matrix(rows.map((r) => [...r]));
  const scale = empty.map((_, k) => Math.hypot(...x.getColumn(k)) || 1);
  const solved = new SingularValueDecomposition(
    new Matrix(rows.map((r) => r.map((v, k) => v / (scale[k] ?? 1)))),
  ).solve(Matrix.columnVector([...y]));
  const parameters = solved.getColumn(0).map((v, k) => v / (scale[k] ?? 1));
  const residuals = rows.map((r, i) => (y[i] ?? 0) - r.reduce((s, v, k) => s + v * (parameters[k] ?? 0), 0));
  return finished(
    rows.map((r) => [...r]),
    residuals,
    parameters,
    1,
  );
}

const STEP = 1e-6;
const LIMIT = 200;

/**
 * Nonlinear least squares by damped Gauss–Newton steps with central differences.
 *
 * @param model value at x for parameters p
 * @param start first guess of the parameters, none of them 0 unless its scale is about 1
 * Source: J. J. Moré, "The Levenberg–Marquardt algorithm" (1978). Checked against NIST StRD Misra1a.
 */
export function fitCurve(
  model: (x: number, p: readonly number[]) => number,
  x: readonly number[],
  y: readonly number[],
  start: readonly number[],
): Fit {
  if (x.length <= start.length) return nothing("tooFew", [...start]);
  const residualsAt = (p: readonly number[]) => x.map((v, i) => (y[i] ?? 0) - model(v, p));
  const sum = (r: readonly number[]) => r.reduce((s, v) => s + v * v, 0);
  const jacobianAt = (p: readonly number[]) =>
    x.map((v) =>
      p.map((value, k) => {
        const h = STEP * Math.max(Math.abs(value), 1e-8);
        const at = (d: number) => model(v, p.with(k, value + d));
        return (at(h) - at(-h)) / (2 * h);
      }),
    );
  let p = [...start];
  let residuals = residualsAt(p);
  let damping = 1e-3;
  for (let turn = 1; turn <= LIMIT; turn++) {
    const jacobian = jacobianAt(p);
    // Columns of one length: parameters may differ by many powers of ten.
    const scale = p.map((_, k) => Math.hypot(...jacobian.map((row) => row[k] ?? 0)) || 1);
    const j = new Matrix(jacobian.map((row) => row.map((v, k) => v / (scale[k] ?? 1))));
    const normal = j.transpose().mmul(j);
    const gradient = j.transpose().mmul(Matrix.columnVector(residuals));
    let moved = false;
    for (let tries = 0; tries < 40 && !moved; tries++) {
      const damped = normal.clone();
      for (let k = 0; k < p.length; k++) damped.set(k, k, normal.get(k, k) * (1 + damping));
      const step = new SingularValueDecomposition(damped)
        .solve(gradient)
        .getColumn(0)
        .map((v, k) => v / (scale[k] ?? 1));
      const next = p.map((v, k) => v + (step[k] ?? 0));
      const there = residualsAt(next);
      const better = sum(there) <= sum(residuals);
      if (!better) {
        damping *= 8;
        if (step.every((s, k) => Math.abs(s) < 1e-13 * Math.abs(p[k] ?? 1)))
          return finished(jacobian, residuals, p, turn);
        continue;
      }
      moved = true;
      damping = Math.max(damping / 8, 1e-12);
      const small = step.every((s, k) => Math.abs(s) <= 1e-10 * Math.abs(next[k] ?? 1));
      p = next;
      residuals = there;
      if (small) return finished(jacobianAt(p), residuals, p, turn);
    }
    if (!moved) return finished(jacobian, residuals, p, turn);
  }
  return { ...finished(jacobianAt(p), residuals, p, LIMIT), status: "iterationLimit" };
}
