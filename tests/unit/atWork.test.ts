import { describe, expect, it } from "vitest";
import { evaluate } from "../../core/evaluate";
import { air, saturation } from "../../core/subjects/air/air";
import { rollUp } from "../../core/subjects/mass/rollup";
import { motorAt, noLoadAt } from "../../core/subjects/propulsion/motor";
import { changed, part, quietDesign } from "../support/designs";

describe("humid air", () => {
  it("weighs what CIPM-2007 says at 20 °C, 101 325 Pa and a half, within 0.05 %", () => {
    // Picard et al., Metrologia 45 (2008), with the usual 400 µmol/mol of carbon dioxide: 1.1992 kg/m³ (from memory).
    expect(air(0, 20, 0.5).density / 1.1992).toBeCloseTo(1, 3);
  });
  it("saturates as the steam tables say: 611.2 Pa at 0 °C, 2339 Pa at 20 °C, 7384 Pa at 40 °C", () => {
    // IAPWS-95 saturation pressures over water.
    for (const [t, p] of [
      [0, 611.2],
      [20, 2339],
      [40, 7384],
    ] as const)
      expect(saturation(t) / p).toBeCloseTo(1, 2);
  });
  it("is lighter the wetter and warmer it is: over a warm marsh by 2 %", () => {
    expect(air(0, 35, 1).density / air(0, 35, 0).density).toBeGreaterThan(0.975);
    expect(air(0, 35, 1).density / air(0, 35, 0).density).toBeLessThan(0.985);
    const thrust = (humidity: number) =>
      evaluate(changed((d) => Object.assign(d.brief.environment, { airTemperature: 35, humidity }))).metrics.thrust
        ?.value ?? 0;
    expect(thrust(1)).toBeLessThan(thrust(0));
  });
  it("has a ± where nobody read a thermometer, a barometer or a hygrometer", () => {
    expect(evaluate(quietDesign()).metrics.airDensity?.sd ?? 0).toBeGreaterThan(0.01);
  });
});

describe("a motor at work", () => {
  const motor = { kv: 1000, resistance: 0.05, noLoadCurrent: 1 };
  it("draws its stated no-load current at 10 V, less when it turns slower and more when faster", () => {
    expect(noLoadAt(motor, 10_000)).toBeCloseTo(1, 12);
    expect(noLoadAt(motor, 20_000)).toBeCloseTo(1.5, 12);
    expect(noLoadAt(motor, 0)).toBeCloseTo(0.5, 12);
    expect(motorAt(motor, 0, 20_000).current).toBeCloseTo(1.5, 12);
  });
  it(
    "has a warm winding: 20 % more resistance cost what they cost, and a stand's figures are taken as " +
      "they were fitted",
    () => {
      const loss = (share: number) => {
        const e = evaluate(
          changed((d) => {
            if (d.units[0]) d.units[0].motor.resistance.value *= share;
          }),
        );
        return e.metrics.thrust?.value ?? 0;
      };
      // A winding that was cold in the calculation would give the thrust of one a sixth lower in resistance.
      expect(loss(1 / 1.2) / loss(1)).toBeGreaterThan(1.005);
    },
  );
});

describe("a hollow part", () => {
  const inertia = (hollow: boolean, size: { x: number; y: number; z: number }) =>
    rollUp({
      items: [part({ id: "a", mass: { value: 1, evidence: "measured" }, place: { x: 0, y: 0, z: 0 }, size, hollow })],
    })?.inertia;
  it("turns like a shell: a hollow cube has 5/3 of the inertia of a solid one", () => {
    // Handbook: solid cube m·a²/6, thin hollow cube 5·m·a²/18.
    const cube = { x: 0.3, y: 0.3, z: 0.3 };
    expect(inertia(false, cube)?.roll).toBeCloseTo(0.09 / 6, 12);
    for (const axis of ["roll", "pitch", "yaw"] as const)
      expect(inertia(true, cube)?.[axis]).toBeCloseTo((5 * 0.09) / 18, 12);
  });
  it("agrees with a shell summed up in small tiles", () => {
    const size = { x: 0.8, y: 0.2, z: 0.1 };
    const n = 60;
    let [mass, roll] = [0, 0];
    for (const [u, v, w] of [
      ["x", "y", "z"],
      ["x", "z", "y"],
      ["y", "z", "x"],
    ] as const)
      for (let i = 0; i < n; i++)
        for (let j = 0; j < n; j++)
          for (const side of [-1, 1]) {
            const at = { x: 0, y: 0, z: 0 };
            at[u] = size[u] * ((i + 0.5) / n - 0.5);
            at[v] = size[v] * ((j + 0.5) / n - 0.5);
            at[w] = (side * size[w]) / 2;
            const dm = (size[u] * size[v]) / n ** 2;
            mass += dm;
            roll += dm * (at.y ** 2 + at.z ** 2);
          }
    expect((inertia(true, size)?.roll ?? 0) / (roll / mass)).toBeCloseTo(1, 3);
  });
});

describe("the share of packs", () => {
  it("is as uncertain as the pack itself, when it is a guess", () => {
    const design = changed((d) => {
      const pack = d.items.find((i) => i.id === "pack");
      if (pack) pack.mass = { value: 0.2, evidence: "guess" };
    });
    const share = evaluate(design).metrics.packShare;
    const other = (kg: number) => kg / (0.72 + kg);
    const sd = evaluate(design).metrics.auw?.sd ?? 0;
    expect(share?.value).toBeCloseTo(other(0.2), 9);
    expect((share?.sd ?? 0) / ((other(0.2 + sd) - other(0.2 - sd)) / 2)).toBeCloseTo(1, 1);
  });
});
