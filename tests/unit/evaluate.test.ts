import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { HELD_UP_BY, emptyDesign } from "../../core/design/schema";
import { evaluate, measureNext } from "../../core/evaluate";
import { firstAnswer } from "../../core/sizing/firstAnswer";
import { normalCdf, probabilityWithin } from "../../core/numeric/normal";
import { findRoot } from "../../core/numeric/root";
import { miss } from "../../core/runs/miss";
import { show } from "../../core/wording/format";
import { changed, quietDesign } from "../support/designs";

describe("evaluate", () => {
  it("never throws on an incomplete design, whatever holds it up", () => {
    for (const kind of HELD_UP_BY) {
      const e = evaluate(emptyDesign(kind));
      expect(e.metrics.auw).toBeUndefined();
      expect(e.outcomes.propulsion?.status).toBe("missing");
    }
    const partial = changed((d) => {
      d.batteries = [];
      d.items = d.items.slice(0, 1);
    });
    expect(evaluate(partial).metrics.auw?.value).toBeCloseTo(0.5, 9);
    expect(evaluate(partial).metrics.thrust).toBeUndefined();
  });
  it("never throws on random numbers that the schema accepts", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 1e5, noNaN: true }),
        fc.double({ min: 1e-4, max: 100, noNaN: true }),
        fc.double({ min: 0.01, max: 3, noNaN: true }),
        fc.double({ min: 1e-6, max: 10, noNaN: true }),
        (kv, r, d, m) => {
          const design = changed((x) => {
            const u = x.units[0];
            if (!u) return;
            u.motor.kv.value = kv;
            u.motor.resistance.value = r;
            u.propeller.diameter.value = d;
            if (x.items[0]?.mass) x.items[0].mass.value = m;
          });
          const e = evaluate(design);
          expect(e.metrics.auw?.value).toBeGreaterThan(0);
        },
      ),
      { numRuns: 40 },
    );
  });
  it("is no better known than its weakest input", () => {
    expect(evaluate(quietDesign()).metrics.auw?.evidence).toBe("calculated");
    const guessed = changed((d) => void (d.items[1]?.mass && (d.items[1].mass.evidence = "guess")));
    expect(evaluate(guessed).metrics.auw?.evidence).toBe("guess");
    expect(evaluate(guessed).metrics.thrust?.evidence).toBe("calculated");
  });
  it("holds targets against predictions: met, missed and open, with margin and odds", () => {
    const design = changed((d) => {
      d.brief.targets = [
        { id: "a", metric: "auw", comparison: "atMost", value: 1, weight: "must" },
        { id: "b", metric: "auw", comparison: "atMost", value: 0.9, weight: "must" },
        { id: "c", metric: "speed", comparison: "atLeast", value: 10, weight: "must" },
      ];
    });
    const [a, b, c] = evaluate(design).targets;
    expect(a?.status).toBe("met");
    expect(a?.margin).toBeCloseTo(0.08, 9);
    expect(b?.status).toBe("missed");
    expect((a?.odds ?? 0) > 0.99 && (b?.odds ?? 1) < 0.01).toBe(true);
    expect(c).toMatchObject({ status: "open", margin: null, odds: null });
  });
  it("puts what removes most doubt first", () => {
    const design = changed((d) => {
      for (const i of d.items) if (i.mass && (i.id === "tail" || i.id === "hull")) i.mass.evidence = "guess";
    });
    const next = measureNext(design, evaluate(design)).filter((n) => n.metric === "cgX");
    expect(next[0]?.of).toEqual({ kind: "mass", item: "tail" });
    expect((next[0]?.sdAfter ?? 1) < (next[0]?.sdNow ?? 0)).toBe(true);
  });
});

describe("first answer", () => {
  it("holds the craft that people build in its band (published power loadings and common practice)", () => {
    const powerOf = (heldUpBy: (typeof HELD_UP_BY)[number], massLimit: number, speed: number | null = null) =>
      firstAnswer({ heldUpBy, massLimit, massOnHand: 0, duration: 600, speed }).power;
    const within = (p: { value: number; factor: number }, wanted: number, what: string) => {
      // Two bands wide: nineteen craft of twenty.
      expect(wanted, `${what}: ${p.value.toFixed(1)} W`).toBeGreaterThan(p.value / p.factor ** 2);
      expect(wanted, `${what}: ${p.value.toFixed(1)} W`).toBeLessThan(p.value * p.factor ** 2);
      expect(p.factor).toBeLessThan(3.2);
    };
    within(powerOf("cushion", 0.8), 100, "a cushion craft of 0.8 kg");
    // Hover of small multi-rotors, 120 to 180 W/kg (common practice).
    within(powerOf("rotors", 1), 150, "a craft of 1 kg on rotors");
    // Level flight of a foam sport model, 40 to 60 W/kg at the motor (common practice).
    within(powerOf("wings", 1), 50, "a winged craft of 1 kg");
    within(powerOf("hull", 1.5, 8), 90, "a planing boat of 1.5 kg at 8 m/s");
    within(powerOf("gas", 0.4), 4, "an indoor airship of 0.4 kg");
    within(powerOf("submerged", 5), 15, "a small open-frame underwater craft of 5 kg");
    within(powerOf("ground", 2), 12, "a crawler of 2 kg");
  });
  it("a speed that is asked counts, and so does a steady load", () => {
    const q = { heldUpBy: "submerged" as const, massLimit: 5, massOnHand: 0, duration: 3600 };
    expect(firstAnswer({ ...q, speed: 1.2 }).power.value / firstAnswer({ ...q, speed: 0.6 }).power.value).toBeCloseTo(
      8,
      6,
    );
    expect(
      firstAnswer({ ...q, steadyLoad: 22 }).packEnergy.value - firstAnswer({ ...q, steadyLoad: 2 }).packEnergy.value,
    ).toBeCloseTo((20 * 3600) / 0.8, 3);
    expect(firstAnswer({ ...q, speed: 0.6 }).power.factor).toBeLessThan(firstAnswer(q).power.factor);
  });
  it("for rotors is the ideal hover power over the figure of merit: T^1.5/√(2ρA)/FM", () => {
    const a = firstAnswer({ heldUpBy: "rotors", massLimit: 1, massOnHand: 0.3, duration: 600 });
    const weight = 9.80665;
    const area = weight / 70;
    expect(a.power.value).toBeCloseTo(weight ** 1.5 / Math.sqrt(2 * 1.225 * area) / 0.5, 4);
    expect(a.packEnergy.value).toBeCloseTo(((a.power.value + 2) * 600) / 0.8, 6);
    expect(a.packMass.value).toBeCloseTo(a.packEnergy.value / (150 * 3600), 9);
    expect(a.remainder).toBeCloseTo(1 - 0.3 - a.packMass.value, 9);
  });
  it("is negative when more is on hand than the limit allows", () => {
    expect(firstAnswer({ heldUpBy: "hull", massLimit: 0.5, massOnHand: 0.6, duration: 60 }).remainder).toBeLessThan(0);
  });
  it("grows with time and with mass, for every way of being held up, and always has a band", () => {
    for (const heldUpBy of HELD_UP_BY) {
      const q = { heldUpBy, massLimit: 1, massOnHand: 0.2, duration: 600 };
      const a = firstAnswer(q);
      expect(firstAnswer({ ...q, duration: 1200 }).packEnergy.value).toBeCloseTo(2 * a.packEnergy.value, 6);
      expect(a.packMass.value).toBeGreaterThanOrEqual(0.008);
      expect(firstAnswer({ ...q, massLimit: 2 }).power.value).toBeGreaterThan(a.power.value);
      expect(a.power.factor).toBeGreaterThan(1.15);
    }
  });
});

describe("numerics", () => {
  it("normal distribution against tables (Abramowitz & Stegun table 26.1)", () => {
    for (const [z, p] of [
      [0, 0.5],
      [1, 0.8413447461],
      [1.96, 0.9750021049],
      [-2.5, 0.0062096653],
    ] as const)
      expect(Math.abs(normalCdf(z) - p)).toBeLessThan(1e-7);
    expect(probabilityWithin(0, 1, -1, 1)).toBeCloseTo(0.6826894921, 6);
    expect(probabilityWithin(5, 0, 4, 6)).toBe(1);
  });
  it("root finder says how it ended", () => {
    const root = findRoot((x) => x ** 3 - 2, 0, 2, 1e-12);
    expect(root.status === "converged" && root.x).toBeCloseTo(Math.cbrt(2), 10);
    expect(findRoot((x) => x * x + 1, -1, 1, 1e-9).status).toBe("noBracket");
    expect(findRoot(() => Number.NaN, 0, 1, 1e-9).status).toBe("notFinite");
    expect(findRoot((x) => Math.sign(x - 0.3) * Math.abs(x - 0.3) ** 0.01, 0, 1, 1e-18, 5).status).toBe(
      "iterationLimit",
    );
  });
  it("miss in steps of the combined uncertainty", () => {
    expect(miss({ value: 10, sd: 3 }, { value: 15, sd: 4 })).toEqual({ steps: 1, verdict: "agrees" });
    expect(miss({ value: 10, sd: 3 }, { value: 16, sd: 4 })?.verdict).toBe("doubtful");
    expect(miss({ value: 10, sd: 3 }, { value: -1, sd: 4 })?.verdict).toBe("disagrees");
    expect(miss({ value: 1, sd: 0 }, { value: 2, sd: 0 })).toBeNull();
  });
  it("value and ± are shown to the same digit", () => {
    expect(show(0.3473, 0.0033, "length", "metric")).toEqual({ value: "347", sd: "3", unit: "mm" });
    expect(show(0.3473, 0.0013, "length", "metric")).toEqual({ value: "347.3", sd: "1.3", unit: "mm" });
    expect(show(-0.0004, null, "length", "metric").value).toBe("−0.4");
  });
});
