import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { air } from "../../core/subjects/air/air";
import { type Propeller, propellerLoad, propellerMap } from "../../core/subjects/propulsion/propeller";

const sea = air(0);
const generic = (change: Partial<Propeller> = {}): Propeller => ({
  diameter: 0.254,
  pitch: 0.127,
  blades: 2,
  chord: 0.027,
  liftFactor: 1,
  dragFactor: 1,
  ...change,
});

function coefficients(p: Propeller, rpm = 6000, speed = 0) {
  const n = rpm / 60;
  const load = propellerLoad(p, sea, speed, rpm);
  return {
    ct: load.thrust / (sea.density * n ** 2 * p.diameter ** 4),
    cp: (2 * Math.PI * load.torque) / (sea.density * n ** 2 * p.diameter ** 5),
    load,
  };
}

describe("generic two-blade propeller standing still", () => {
  // Published wind-tunnel surveys of small electric propellers, from memory: a band, not a target.
  it.each([0.4, 0.5, 0.6, 0.7, 0.8])("lies in the published band at pitch/diameter %f", (ratio) => {
    const { ct, cp } = coefficients(generic({ pitch: 0.254 * ratio }));
    expect(ct).toBeGreaterThan(0.075);
    expect(ct).toBeLessThan(0.14);
    expect(cp).toBeGreaterThan(0.025);
    expect(cp).toBeLessThan(0.07);
    const merit = ct ** 1.5 / cp / Math.sqrt(Math.PI / 2);
    // In the middle of the band, not at its top: merit 0.40 to 0.70.
    expect(merit).toBeGreaterThan(0.45);
    expect(merit).toBeLessThan(0.66);
  });
  it.each([0.4, 0.6, 0.8])("gives no thrust at an advance ratio of 1.1 to 1.25 times pitch/diameter %f", (ratio) => {
    const p = generic({ pitch: 0.254 * ratio });
    const n = 100;
    const j =
      Array.from({ length: 400 }, (_, i) => 0.2 + i * 0.005).find(
        (a) => propellerLoad(p, sea, a * n * p.diameter, 6000).thrust < 0,
      ) ?? 0;
    expect(j / ratio).toBeGreaterThan(1.1);
    expect(j / ratio).toBeLessThanOrEqual(1.25 + 1e-9);
  });
});

describe("what moves thrust", () => {
  const base = coefficients(generic()).load.thrust;
  it("a wider chord, more blades, denser air each raise it", () => {
    expect(coefficients(generic({ chord: 0.032 })).load.thrust).toBeGreaterThan(1.03 * base);
    expect(coefficients(generic({ blades: 3 })).load.thrust).toBeGreaterThan(1.1 * base);
    expect(propellerLoad(generic(), air(0, -20), 0, 6000).thrust).toBeGreaterThan(1.08 * base);
  });
  it("Reynolds number moves the coefficient: the same shape at a twentieth of the size is worse", () => {
    const small = { ...generic(), diameter: 0.0254, pitch: 0.0127, chord: 0.0027 };
    const big = coefficients(generic(), 6000);
    const tiny = coefficients(small, 12000);
    expect(tiny.load.reynolds).toBeLessThan(big.load.reynolds / 20);
    expect(tiny.ct).toBeLessThan(0.97 * big.ct);
    expect(tiny.cp / tiny.ct).toBeGreaterThan(1.1 * (big.cp / big.ct));
  });
  it("is continuous through standing still", () => {
    const at = (v: number) => propellerLoad(generic(), sea, v, 6000).thrust;
    expect(Math.abs(at(1e-6) - at(0))).toBeLessThan(1e-4);
    const steps = Array.from({ length: 40 }, (_, i) => at(i * 0.1));
    for (let i = 1; i < steps.length; i++)
      expect(Math.abs((steps[i] ?? 0) - (steps[i - 1] ?? 0))).toBeLessThan(0.03 * base);
  });
  it("every element is solved over the stated range", () => {
    for (const ratio of [0.3, 0.6, 0.9, 1.2])
      for (const blades of [2, 3, 4, 5, 6])
        for (const rpm of [200, 3000, 15000])
          expect(propellerLoad(generic({ pitch: 0.254 * ratio, blades }), sea, 0, rpm).solved).toBe(true);
  });
});

describe("momentum theory", () => {
  // Ideal power of an open disc standing still: T^1.5 / √(2ρA) (Rankine–Froude). No propeller needs less.
  it("is never beaten, over random propellers", () => {
    fc.assert(
      fc.property(
        fc.record({
          d: fc.double({ min: 0.05, max: 0.8, noNaN: true }),
          r: fc.double({ min: 0.3, max: 1.2, noNaN: true }),
          b: fc.integer({ min: 2, max: 6 }),
          c: fc.double({ min: 0.05, max: 0.16, noNaN: true }),
          tip: fc.double({ min: 10, max: 220, noNaN: true }),
        }),
        ({ d, r, b, c, tip }) => {
          const rpm = (tip * 60) / (Math.PI * d);
          const load = propellerLoad(
            { diameter: d, pitch: r * d, blades: b, chord: c * d, liftFactor: 1, dragFactor: 1 },
            sea,
            0,
            rpm,
          );
          const ideal = load.thrust ** 1.5 / Math.sqrt(2 * sea.density * ((Math.PI * d * d) / 4));
          expect(load.torque * ((rpm * 2 * Math.PI) / 60)).toBeGreaterThan(ideal);
        },
      ),
      { numRuns: 2000 },
    );
  });
});

describe("precomputed map", () => {
  it("moving, stays within 1.5 % of the standing thrust of the direct solution", () => {
    for (const ratio of [0.4, 0.7, 1.0]) {
      const p = generic({ pitch: 0.254 * ratio });
      const map = propellerMap(p, sea);
      for (const rpm of [2500, 5000, 9000])
        for (let advance = 0; advance < 1.25 * ratio; advance += 0.06) {
          const speed = (advance * p.diameter * rpm) / 60;
          const standing = map.at(rpm).thrust;
          expect(Math.abs(map.at(rpm, speed).thrust - propellerLoad(p, sea, speed, rpm).thrust)).toBeLessThan(
            0.015 * standing,
          );
        }
    }
  });
  it("interpolates the direct solution within 0.3 %", () => {
    const map = propellerMap(generic(), sea);
    for (let rpm = 300; rpm < 20000; rpm += 417) {
      const direct = propellerLoad(generic(), sea, 0, rpm);
      const fast = map.at(rpm);
      expect(Math.abs(fast.thrust / direct.thrust - 1)).toBeLessThan(3e-3);
      expect(Math.abs(fast.torque / direct.torque - 1)).toBeLessThan(3e-3);
    }
  });
});
