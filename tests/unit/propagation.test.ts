import { usualState } from "../../core/design/schema";
import { describe, expect, it } from "vitest";
import { seededRandom } from "../../core/numeric/random";
import { evaluate, resultIn, workingOf } from "../../core/evaluate";
import { curveOf, operatingAt } from "../../core/subjects/propulsion/band";
import { propulsion } from "../../core/subjects/propulsion/node";
import { nominalPower, nominalSetup } from "../../core/subjects/propulsion/nominal";
import { inputId, powerInputs } from "../../core/subjects/propulsion/inputs";
import { setUp } from "../../core/subjects/propulsion/setup";
import { changed, quietDesign } from "../support/designs";

describe("uncertainty of the drive", () => {
  it("by differences agrees with sampling over all inputs within 12 %", () => {
    const design = quietDesign();
    design.duty = [];
    const { metrics } = evaluate(design);
    const auw = metrics.auw;
    if (!auw) throw new Error("no mass");
    const inputs = powerInputs(design, auw);
    const random = seededRandom(11);
    const n = 1500;
    const sums = { thrust: [0, 0], current: [0, 0], packVoltage: [0, 0], thrustToWeight: [0, 0] };
    for (let k = 0; k < n; k++) {
      const values = new Map(inputs.map((i) => [inputId(i), i.value + i.sd * random.normal()]));
      const v = nominalPower(setUp(design, values))?.craft;
      if (!v) throw new Error("not solved");
      for (const key of Object.keys(sums) as (keyof typeof sums)[]) {
        sums[key][0] = (sums[key][0] ?? 0) + v[key] / n;
        sums[key][1] = (sums[key][1] ?? 0) + v[key] ** 2 / n;
      }
    }
    for (const key of Object.keys(sums) as (keyof typeof sums)[]) {
      const [m = 0, m2 = 0] = sums[key];
      expect(Math.abs(Math.sqrt(m2 - m * m) / (metrics[key]?.sd ?? 0) - 1), key).toBeLessThan(0.12);
    }
  });
  it("shares of the doubt add up to one, and a guessed Kv leads them", () => {
    const design = changed((d) => void (d.units[0] && (d.units[0].motor.kv.evidence = "guess")));
    const evaluation = evaluate(design);
    const shares = workingOf(design, evaluation, "thrust");
    expect(shares.reduce((s, x) => s + x.share, 0)).toBeCloseTo(1, 9);
    expect(shares[0]?.name).toBe("Kv");
    expect(evaluation.metrics.thrust?.evidence).toBe("guess");
  });
  it("the curve rises from rest to the full-throttle result", () => {
    const curve = curveOf(quietDesign(), "throttle");
    expect(curve[0]?.thrust).toBeCloseTo(0, 6);
    expect(curve.at(-1)?.thrust).toBeCloseTo(evaluate(quietDesign()).metrics.thrust?.value ?? 0, 7);
    for (let i = 1; i < curve.length; i++)
      expect(curve[i]?.thrust ?? 0).toBeGreaterThanOrEqual(curve[i - 1]?.thrust ?? 0);
  });
  it(
    "at the throttle to lift the weight, thrust is the weight: the point read off the curve holds when it " +
      "is solved",
    () => {
      for (const count of [2, 3, 4]) {
        const design = changed((d) => {
          d.states = [usualState("rotors")];
          if (d.units[0]) d.units[0].count = count;
        });
        const { thrustThrottle, auw } = evaluate(design).metrics;
        const point = operatingAt(design, thrustThrottle?.value ?? 0)?.points[0];
        expect(((point?.thrust ?? 0) * count) / ((auw?.value ?? 0) * 9.80665)).toBeCloseTo(1, 3);
        const lead = resultIn(evaluate(design), propulsion);
        expect(lead?.lift?.thrust.at(-1)?.value).toBeCloseTo(lead?.values.thrust.value ?? 0, 7);
      }
    },
  );
});

describe("what the numbers must do", () => {
  const value = (
    change: (d: ReturnType<typeof quietDesign>) => void,
    key: "endurance" | "thrust" | "current" | "rpm",
  ) => {
    const setup = nominalSetup(changed(change), 0.92);
    return (setup && nominalPower(setup)?.craft[key]) ?? Number.NaN;
  };
  const nothing = () => {};
  it("twice the capacity lasts more than twice as long (less sag), and under 2.3 times", () => {
    const ratio =
      value((d) => void (d.batteries[0] && (d.batteries[0].capacity.value = 4.4)), "endurance") /
      value(nothing, "endurance");
    expect(ratio).toBeGreaterThan(1.95);
    expect(ratio).toBeLessThan(2.3);
  });
  it("more cells turn faster; more reduction draws less current", () => {
    expect(value((d) => void (d.batteries[0] && (d.batteries[0].series = 4)), "rpm")).toBeGreaterThan(
      1.15 * value(nothing, "rpm"),
    );
    expect(value((d) => void (d.units[0] && (d.units[0].gear.ratio = 1.5)), "current")).toBeLessThan(
      0.7 * value(nothing, "current"),
    );
  });
  it("one inch more of diameter costs current steeply: between the third and fifth power", () => {
    const more = value((d) => void (d.units[0] && (d.units[0].propeller.diameter.value = 0.2254)), "current") - 0.8;
    const exponent = Math.log(more / (value(nothing, "current") - 0.8)) / Math.log(0.2254 / 0.2);
    // Common practice says 4 to 5 at constant rpm; the motor slows under the load, and the chord stays.
    expect(exponent).toBeGreaterThan(2);
    expect(exponent).toBeLessThan(5);
  });
});
