import { describe, expect, it } from "vitest";
import { fitCurve, fitLinear } from "../../core/numeric/leastSquares";
import { seededRandom } from "../../core/numeric/random";

// NIST Statistical Reference Datasets: Norris (linear, lower difficulty) and Misra1a (nonlinear, lower difficulty),
// with their certified values.
const NORRIS =
  "0.1 0.2 338.8 337.4 118.1 118.2 888.0 884.6 9.2 10.1 228.1 226.5 668.5 666.3 998.5 996.3 449.1 448.6 " +
  "778.9 777.0 559.2 558.2 0.3 0.4 0.1 0.6 778.1 775.5 668.8 666.9 339.3 338.0 448.9 447.5 10.8 11.6 " +
  "557.7 556.0 228.3 228.1 998.0 995.8 888.8 887.6 119.6 120.2 0.3 0.3 0.6 0.3 557.6 556.8 339.3 339.1 " +
  "888.0 887.2 998.5 999.0 778.9 779.0 10.2 11.1 117.6 118.3 228.9 229.2 668.4 669.1 449.2 448.9 0.2 " +
  "0.5";
const MISRA =
  "10.07 77.6 14.73 114.9 17.94 141.1 23.93 190.8 29.61 239.9 35.18 289.0 40.02 332.8 44.82 378.4 50.76 " +
  "434.8 55.05 477.3 61.01 536.8 66.40 593.1 75.47 689.1 81.78 760.0";
const pairs = (text: string) => {
  const n = text.split(" ").map(Number);
  return { y: n.filter((_, i) => i % 2 === 0), x: n.filter((_, i) => i % 2 === 1) };
};

describe("least squares", () => {
  it("meets the certified values of Norris to nine digits", () => {
    const { x, y } = pairs(NORRIS);
    expect(x).toHaveLength(36);
    const fit = fitLinear(
      x.map((v) => [1, v]),
      y,
    );
    const near = (got: number | undefined, want: number) => expect(Math.abs((got ?? 0) / want - 1)).toBeLessThan(1e-9);
    expect(fit.status).toBe("converged");
    near(fit.parameters[0], -0.262323073774029);
    near(fit.parameters[1], 1.00211681802045);
    near(fit.sd[0], 0.232818234301152);
    near(fit.sd[1], 0.429796848199937e-3);
    near(fit.residualSd, 0.884796396144373);
  });
  it.each([
    [500, 0.0001],
    [250, 0.0005],
  ])("meets the certified values of Misra1a to six digits from the start %f, %f", (b1, b2) => {
    const { x, y } = pairs(MISRA);
    const fit = fitCurve((v, [a = 0, b = 0]) => a * (1 - Math.exp(-b * v)), x, y, [b1, b2]);
    const near = (got: number | undefined, want: number) => expect(Math.abs((got ?? 0) / want - 1)).toBeLessThan(1e-6);
    expect(fit.status).toBe("converged");
    near(fit.parameters[0], 2.389421291841e2);
    near(fit.parameters[1], 5.5015643181e-4);
    near(fit.sd[0], 2.7070075241);
    near(fit.sd[1], 7.2668688436e-6);
    near(fit.residualSd, 1.018787633e-1);
  });
  it("both methods agree where the model is linear", () => {
    const random = seededRandom(4);
    const x = Array.from({ length: 30 }, (_, i) => i / 10);
    const y = x.map((v) => 2 - 0.7 * v + 0.3 * v * v + 0.05 * random.normal());
    const linear = fitLinear(
      x.map((v) => [1, v, v * v]),
      y,
    );
    const curve = fitCurve((v, [a = 0, b = 0, c = 0]) => a + b * v + c * v * v, x, y, [1, 1, 1]);
    for (let k = 0; k < 3; k++) {
      expect(curve.parameters[k]).toBeCloseTo(linear.parameters[k] ?? 0, 7);
      expect(curve.sd[k]).toBeCloseTo(linear.sd[k] ?? 0, 5);
    }
  });
  it("says so when there is too little, or when parameters cannot be told apart", () => {
    expect(fitLinear([[1, 2]], [3]).status).toBe("tooFew");
    expect(
      fitLinear(
        [1, 2, 3, 4].map((v) => [v, 2 * v]),
        [1, 2, 3, 4],
      ).status,
    ).toBe("singular");
    expect(fitCurve((v, [a = 0]) => a * v, [1], [1], [1]).status).toBe("tooFew");
  });
});
