import { usualState } from "../../core/design/schema";
import { describe, expect, it } from "vitest";
import { type Design, newPhase } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import { propellerLoad } from "../../core/subjects/propulsion/propeller";
import { cavitatesFrom, water } from "../../core/subjects/water/water";
import { changed } from "../support/designs";

describe("water", () => {
  it("weighs what the tables say: IAPWS-95 fresh, UNESCO 1980 at 35 g/kg", () => {
    for (const [t, rho] of [
      [4, 999.97],
      [15, 999.1],
      [20, 998.21],
      [30, 995.65],
    ] as const)
      expect(water(t, "fresh").density).toBeCloseTo(rho, 1);
    for (const [t, rho] of [
      [5, 1027.7],
      [15, 1026.0],
      [25, 1023.3],
    ] as const)
      expect(Math.abs(water(t, "sea").density - rho)).toBeLessThan(0.5);
  });
  it("is as thick as the tables say: IAPWS 2008, 1.308, 1.002 and 0.797 mPa·s at 10, 20 and 30 °C", () => {
    for (const [t, mu] of [
      [10, 1.308e-3],
      [20, 1.0016e-3],
      [30, 0.797e-3],
    ] as const)
      expect(water(t, "fresh").viscosity / mu).toBeCloseTo(1, 1);
  });
  it("boils on fast tips near the surface, later deeper down", () => {
    const from = cavitatesFrom(0.1, 15, water(15, "fresh"));
    expect(from).toBeGreaterThan(12);
    expect(from).toBeLessThan(18);
    expect(cavitatesFrom(5, 15, water(15, "fresh"))).toBeGreaterThan(from);
  });
});

describe("a screw at rest in water", () => {
  // Wageningen B-series at J = 0 (Oosterveld and van Oossanen, 1975), read off its charts from memory: a band of a
  // fifth, not a target.
  it.each([
    [3, 0.35, 0.8, 0.31, 0.33],
    [3, 0.5, 0.6, 0.26, 0.24],
    [3, 0.5, 0.8, 0.34, 0.39],
    [4, 0.55, 0.8, 0.35, 0.42],
    [4, 0.55, 1.0, 0.44, 0.64],
  ])("of %i blades, area ratio %f, pitch/diameter %f", (blades, area, ratio, kt, kq) => {
    const [d, n] = [0.24, 10];
    const w = water(15, "fresh");
    // Widest chord of an outline whose mean is about 0.8 of it, over the span outside of the hub.
    const chord = (area * Math.PI * d ** 2) / 4 / blades / (0.44 * d * 0.8);
    const load = propellerLoad(
      { diameter: d, pitch: ratio * d, blades, chord, liftFactor: 1, dragFactor: 1 },
      w,
      0,
      60 * n,
    );
    expect(Math.abs(load.thrust / (w.density * n ** 2 * d ** 4) / kt - 1)).toBeLessThan(0.2);
    expect(Math.abs((10 * load.torque) / (w.density * n ** 2 * d ** 5) / kq - 1)).toBeLessThan(0.2);
  });
});

/** A craft of eight small thrusters under water, as one would enter them. */
const eight = (change: (d: Design) => void = () => {}) =>
  changed((d) => {
    d.states = [usualState("submerged")];
    d.brief.environment.waterTemperature = 12;
    const [unit] = d.units;
    const prop = d.items.find((i) => i.id === "prop");
    if (!unit || !prop) throw new Error("no drive");
    const known = (value: number) => ({ value, evidence: "datasheet" as const });
    Object.assign(unit, {
      count: 8,
      surroundings: "in water",
      motor: { kv: known(500), resistance: known(0.35), noLoadCurrent: known(0.25), maxCurrent: 6 },
      propeller: { diameter: known(0.06), pitch: known(0.045), blades: 3, chord: known(0.018) },
    });
    prop.quantity = 8;
    d.duty = [newPhase({ id: "t", name: "half", by: "throttle", value: 0.5 })];
    change(d);
  });
const airy = (d: Design) => {
  const [unit] = d.units;
  if (unit) unit.surroundings = "in air";
};

describe("a drive in water", () => {
  it("pushes a hundred times what it would in the air, and draws what that takes", () => {
    const [wet, dry] = [evaluate(eight()), evaluate(eight(airy))];
    expect((wet.metrics.thrust?.value ?? 0) / (dry.metrics.thrust?.value ?? 1)).toBeGreaterThan(50);
    expect((wet.metrics.current?.value ?? 0) / (dry.metrics.current?.value ?? 1)).toBeGreaterThan(4);
  });
  it("is not safe because it would be in the air: the overloaded motor is found", () => {
    const codes = (d: Design) =>
      evaluate(d)
        .findings.filter((f) => f.severity !== "clear")
        .map((f) => f.code);
    expect(codes(eight(airy))).not.toContain("motor-current");
    expect(codes(eight())).toContain("motor-current");
  });
  it("never needs less than momentum theory: T^1.5/√(2ρA)", () => {
    const e = evaluate(eight());
    const each = (e.metrics.thrust?.value ?? 0) / 8;
    const power = ((e.metrics.torque?.value ?? 0) * (e.metrics.rpm?.value ?? 0) * 2 * Math.PI) / 60;
    expect(power).toBeGreaterThan(each ** 1.5 / Math.sqrt(2 * 999.5 * ((Math.PI * 0.06 ** 2) / 4)));
  });
  it("is told with a wider band than in the air, and endurance with it", () => {
    const rel = (d: Design) => {
      const q = evaluate(d).metrics.thrust;
      return (q?.sd ?? 0) / (q?.value ?? 1);
    };
    expect(rel(eight())).toBeGreaterThan(0.15);
    expect(evaluate(eight()).metrics.endurance).toBeDefined();
  });
  it("pushes more in the sea, by its density, and its speed stays open: drag in water is not computed", () => {
    const sea = evaluate(eight((d) => void (d.brief.environment.water = "sea")));
    const ratio = (sea.metrics.thrust?.value ?? 0) / (evaluate(eight()).metrics.thrust?.value ?? 1);
    expect(ratio).toBeGreaterThan(1.0);
    expect(ratio).toBeLessThan(1.03);
    expect(
      evaluate(eight((d) => void (d.dragArea = { value: 0.01, evidence: "guess" }))).metrics.speed,
    ).toBeUndefined();
  });
  it("whose tips are too fast for the water is outside of its method, and nothing that rests on it is met", () => {
    const fast = evaluate(
      eight((d) => {
        const [unit] = d.units;
        if (unit)
          Object.assign(unit, {
            count: 1,
            motor: {
              ...unit.motor,
              kv: { value: 2500, evidence: "datasheet" },
              resistance: { value: 0.01, evidence: "datasheet" },
            },
          });
        for (const b of d.batteries) b.cellResistance.value = 0.002;
        d.brief.targets = [{ id: "t", metric: "thrust", comparison: "atLeast", value: 1, weight: "must" }];
      }),
    );
    expect(fast.metrics.thrust?.outside?.join()).toMatch(/may cavitate/);
    expect(fast.targets[0]?.status).toBe("open");
  });
  it("beside one in the air: each in its own medium", () => {
    const mixed = eight((d) => {
      const [unit] = d.units;
      if (unit)
        d.units.push({
          ...structuredClone(unit),
          id: "air",
          name: "fan",
          count: 1,
          surroundings: "in air",
          propellerItemId: null,
        });
    });
    const e = evaluate(mixed);
    expect(e.outcomes.propulsion?.status).toBe("solved");
    const values = (
      e.outcomes.propulsion as { result: { drives: { values: { thrust: number } }[] } }
    ).result.drives.map((d) => d.values.thrust);
    expect((values[0] ?? 0) / 8 / (values[1] ?? 1)).toBeGreaterThan(30);
  });
});
