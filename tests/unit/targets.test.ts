import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Quantity } from "../../core/design/quantity";
import type { Target } from "../../core/design/schema";
import { LOST, SURE, acceptedRange, judgeTargets, undecided } from "../../core/design/targets";

const target = (change: Partial<Target>): Target => ({
  id: "t",
  metric: "auw",
  comparison: "atMost",
  value: 1,
  weight: "must",
  ...change,
});
const quantity = (value: number, sd = 0, more: Partial<Quantity> = {}): Quantity => ({
  value,
  sd,
  dimension: "mass",
  evidence: "calculated",
  ...more,
});
const judged = (t: Target, q: Quantity | undefined, why?: (k: string) => string | null) => {
  const [r] = judgeTargets([t], q ? { auw: q } : {}, why);
  if (!r) throw new Error("not judged");
  return r;
};

describe("a target held against what is predicted", () => {
  it.each([
    ["atMost", 1, undefined, 0.9, "met", 0.1],
    ["atMost", 1, undefined, 1, "met", 0],
    ["atMost", 1, undefined, 1.1, "missed", -0.1],
    ["atLeast", 1, undefined, 1.1, "met", 0.1],
    ["atLeast", 1, undefined, 0.9, "missed", -0.1],
    ["between", 1, 2, 1.5, "met", 0.5],
    ["between", 1, 2, 1.9, "met", 0.1],
    ["between", 1, 2, 2.25, "missed", -0.25],
    ["between", 1, 2, 0.75, "missed", -0.25],
    ["between", 1, undefined, 9, "met", 8],
  ] as const)("%s %s (to %s): %s is %s", (comparison, value, upper, is, status, margin) => {
    const r = judged(target({ comparison, value, upper } as Partial<Target>), quantity(is));
    expect(r.status).toBe(status);
    expect(r.margin).toBeCloseTo(margin, 9);
  });
  it("on the limit within what is lost in writing it down is met; beyond it is missed", () => {
    expect(judged(target({ value: 2 }), quantity(2.0009)).status).toBe("met");
    expect(judged(target({ value: 2 }), quantity(2.0011)).status).toBe("missed");
  });
  it("odds are those of a normal about the prediction", () => {
    // Φ(1) = 0.8413, Φ(2) = 0.9772 (any table of the normal distribution).
    expect(judged(target({}), quantity(0.9, 0.1)).odds).toBeCloseTo(0.8413, 4);
    expect(judged(target({}), quantity(1.2, 0.1)).odds).toBeCloseTo(1 - 0.9772, 4);
    expect(
      judged(target({ comparison: "between", value: 1, upper: 2 } as Partial<Target>), quantity(1.5, 0.5)).odds,
    ).toBeCloseTo(0.6827, 4);
  });
  it("never met, never missed where nothing predicts it: open, with the reason that is known", () => {
    expect(judged(target({}), undefined)).toMatchObject({ status: "open", odds: null, margin: null });
    expect(judged(target({}), undefined, () => "Fin without a mass").because).toBe("Fin without a mass");
  });
  it("what leaves something out cannot be met, but can be missed already", () => {
    const short = { incomplete: ["Fin without a mass"] };
    expect(judged(target({}), quantity(0.5, 0.01, short))).toMatchObject({
      status: "open",
      because: "Fin without a mass",
      odds: null,
    });
    expect(judged(target({}), quantity(1.5, 0.01, short)).status).toBe("missed");
  });
  it("what is outside its method cannot be met; what nobody knows is open either way", () => {
    expect(judged(target({}), quantity(0.5, 0, { outside: ["tips too fast"] })).because).toBe(
      "outside its method: tips too fast",
    );
    expect(judged(target({}), quantity(1.5, 0, { unknown: ["a curve that falls"] })).status).toBe("open");
    expect(judged(target({}), quantity(0.5, 0, { unknown: ["a curve that falls"] })).status).toBe("open");
  });
  it("is met exactly where its margin is not below zero, and its odds are beyond a half there", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("atMost", "atLeast", "between"),
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        fc.double({ min: 0, max: 5, noNaN: true }),
        fc.double({ min: 0.05, max: 15, noNaN: true }),
        fc.double({ min: 1e-6, max: 2, noNaN: true }),
        (comparison, value, more, is, sd) => {
          const t = target({
            comparison,
            value,
            upper: comparison === "between" ? value + more : undefined,
          } as Partial<Target>);
          const r = judged(t, quantity(is, sd));
          expect(r.status === "met").toBe((r.margin ?? -1) >= 0);
          if (comparison !== "between" && Math.abs(is / value - 1) > 1e-3)
            expect((r.odds ?? 0) >= 0.5).toBe(r.status === "met");
          const { low, high } = acceptedRange(t);
          expect(low).toBeLessThanOrEqual(high);
        },
      ),
    );
  });
  it("is undecided between lost and sure", () => {
    expect([LOST, 0.5, 0.89].map(undecided)).toEqual([false, true, true]);
    expect([0.05, SURE, 1, null].map(undecided)).toEqual([false, false, false, false]);
  });
});
