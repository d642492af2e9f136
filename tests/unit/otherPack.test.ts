import fc from "fast-check";
import { coldFactor } from "../../core/subjects/energy/battery";
import { cellResistanceFrom } from "../../core/subjects/energy/loadTest";
import { describe, expect, it } from "vitest";
import { CHEMISTRY } from "../../core/subjects/energy/battery";
import { solveChain } from "../../core/subjects/propulsion/chain";
import { endurance } from "../../core/subjects/energy/endurance";
import { nominalSetup } from "../../core/subjects/propulsion/nominal";
import { conductorRise, regulatorHeat, temperatureRise } from "../../core/subjects/propulsion/heat";
import { capacityFor, meanCellVoltage, otherPack, packEnergy } from "../../core/subjects/energy/otherPack";
import { quietDesign } from "../support/designs";

const a = { chemistry: "lipo" as const, series: 3, capacity: 2.2 };

describe("one timed run predicts another pack", () => {
  it("by energy: twice the watt-hours last twice as long, whatever the volts", () => {
    const r = otherPack(a, { by: "energy", joules: 60000 }, 600, { chemistry: "lipo", series: 6, capacity: 2.2 }, 0.8);
    if (r.status !== "predicted") throw new Error(r.status);
    expect(r.power).toBeCloseTo(100, 9);
    expect(r.usable).toBeCloseTo(packEnergy({ ...a, series: 6 }, 1, 0.2) / 100, 6);
    const half = otherPack(a, { by: "energy", joules: 60000 }, 600, a, 0.8);
    expect(half.status === "predicted" && r.seconds / half.seconds).toBeCloseTo(2, 9);
  });
  it("agrees with the integrated discharge of the other pack within its stated doubt", () => {
    const setup = nominalSetup(quietDesign(), 0.92);
    if (!setup) throw new Error("no setup");
    const { drive } = setup.units[0] as (typeof setup.units)[number];
    // At constant thrust the drive draws nearly constant power on 3 and on 4 cells.
    const on = (series: number, capacity: number) =>
      endurance(
        [{ drive, limit: 1 }],
        { chemistry: "lipo", series, capacity, resistance: 0.02, usable: 0.8, startCharge: 1, otherLoad: 3 },
        [{ share: 1, drives: [0], by: { thrust: 2.6 }, speed: 0 }],
      ).seconds;
    const r = otherPack(
      a,
      { by: "charge", ampereHours: 0.8 * 2.2 },
      on(3, 2.2),
      { chemistry: "lipo", series: 4, capacity: 3 },
      0.8,
    );
    if (r.status !== "predicted") throw new Error(r.status);
    expect(Math.abs(r.seconds - on(4, 3))).toBeLessThan(2 * r.sd);
  });
  it("refuses to tell charge from voltage on flat chemistries, and what cannot be", () => {
    const volts = { by: "voltage" as const, restingBefore: 13.2, restingAfter: 13.0 };
    expect(otherPack({ chemistry: "lifepo4", series: 4, capacity: 2 }, volts, 600, a, 0.8).status).toBe("flat");
    expect(otherPack({ chemistry: "nimh", series: 10, capacity: 2 }, volts, 600, a, 0.8).status).toBe("flat");
    expect(otherPack(a, { by: "charge", ampereHours: 5 }, 600, a, 0.8)).toMatchObject({
      status: "impossible",
      why: "more than it holds",
    });
    expect(otherPack(a, { by: "voltage", restingBefore: 16.8, restingAfter: 15 }, 600, a, 0.8)).toMatchObject({
      status: "impossible",
      why: "voltage off its curve",
    });
    expect(otherPack(a, { by: "charge", ampereHours: 1 }, 0, a, 0.8).status).toBe("impossible");
    expect(otherPack(a, { by: "voltage", restingBefore: 12.6, restingAfter: 11.4 }, 600, a, 0.8).status).toBe(
      "predicted",
    );
  });
  it("the capacity for a time gives that time back", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 900, noNaN: true }),
        fc.double({ min: 60, max: 7200, noNaN: true }),
        fc.integer({ min: 1, max: 8 }),
        (power, seconds, series) => {
          const capacity = capacityFor(power, seconds, "liion", series, 0.8);
          expect(packEnergy({ chemistry: "liion", series, capacity }, 1, 0.2) / power).toBeCloseTo(seconds, 4);
        },
      ),
    );
  });
  it("mean cell voltages lie where such cells lie (common practice), six chemistries", () => {
    const band = {
      lipo: [3.7, 3.95],
      lihv: [3.75, 4.1],
      liion: [3.55, 3.85],
      lifepo4: [3.2, 3.35],
      nimh: [1.22, 1.32],
      lead: [2, 2.1],
    } as const;
    expect(Object.keys(band).sort()).toEqual(Object.keys(CHEMISTRY).sort());
    for (const [c, [low, high]] of Object.entries(band)) {
      const mean = meanCellVoltage(c as keyof typeof band, 1, 0.2);
      expect(mean, c).toBeGreaterThan(low);
      expect(mean, c).toBeLessThan(high);
    }
  });
});

describe("temperature rise", () => {
  it("the rise is the rated one at the rated current, and falls with the loss", () => {
    const setup = nominalSetup(quietDesign(), 0.92);
    const unit = quietDesign().units[0];
    if (!setup || !unit) throw new Error("no setup");
    const drive = setup.units[0]?.drive;
    const pack = setup.packs[0]?.start;
    if (!drive || !pack) throw new Error("no drive");
    const full = solveChain(drive, pack, 1);
    const half = solveChain(drive, pack, 0.5);
    if (full.status !== "converged" || half.status !== "converged") throw new Error("not solved");
    const rated = {
      ...unit,
      motor: { ...unit.motor, maxCurrent: full.point.current },
      controller: { ...unit.controller, maxCurrent: full.point.current },
    };
    // At the rated current the loss is I²R + I0·V_emf: the rise is the rated one.
    expect(temperatureRise(full.point, rated).motor).toBeCloseTo(60, 0);
    expect(temperatureRise(full.point, rated).controller).toBeCloseTo(50, 6);
    expect(temperatureRise(half.point, rated).motor).toBeLessThan(40);
  });
});

describe("heat of the path", () => {
  // By hand. Linear: 0.5 A x (11.1 - 5) V = 3.05 W, 40 K/W. Switching at 85 %: 0.5 x 5 / 0.85 - 2.5 = 0.441 W.
  const rail = (kind: "linear" | "switching") => ({
    id: "r",
    name: "5 V",
    batteryId: "b",
    kind,
    voltage: 5,
    maxCurrent: 2,
    dropout: 1,
    efficiency: 0.85,
    loads: [{ id: "l", name: "x", current: 0.5, peak: 1, minVoltage: 4 }],
  });
  it("a linear regulator burns the difference of voltage, a switching one its inefficiency", () => {
    expect(regulatorHeat(rail("linear"), 11.1).loss).toBeCloseTo(3.05, 9);
    expect(regulatorHeat(rail("linear"), 11.1).rise).toBeCloseTo(122, 9);
    expect(regulatorHeat(rail("switching"), 11.1).loss).toBeCloseTo(2.5 / 0.85 - 2.5, 9);
    expect(regulatorHeat(rail("switching"), 11.1).rise).toBeCloseTo(12.5, 9);
  });
  it("a wire warms with the square of its current", () => {
    expect(conductorRise(20, 20)).toBe(30);
    expect(conductorRise(10, 20)).toBe(7.5);
  });
});

describe("a load test", () => {
  const pack = { chemistry: "lipo", series: 3 } as const;
  // Ohm's law by hand: (12.30 - 11.70) V / (20 A x 3) = 10 mOhm.
  it("gives the resistance of a cell, with the doubt of the meter", () => {
    const r = cellResistanceFrom({ resting: 12.3, loaded: 11.7, current: 20, temperature: 25 }, pack);
    if (!r.ok) throw new Error(r.message);
    expect(r.cellResistance.value).toBeCloseTo(0.01, 9);
    expect(r.pack).toBeCloseTo(0.03, 9);
    expect(r.cellResistance.sd / r.cellResistance.value).toBeCloseTo(Math.hypot((0.01 * Math.SQRT2) / 0.6, 0.03), 9);
  });
  it("taken cold and used cold, sags the pack by what was read", () => {
    const r = cellResistanceFrom({ resting: 12.3, loaded: 11.4, current: 20, temperature: 0 }, pack);
    if (!r.ok) throw new Error(r.message);
    expect(r.cellResistance.value).toBeLessThan(0.9 / 60);
    expect(r.cellResistance.value * coldFactor("lipo", 0) * 3 * 20).toBeCloseTo(0.9, 9);
  });
  it.each([
    [{ resting: 12.3, loaded: 12.4, current: 20 }, /below the resting/],
    [{ resting: 12.3, loaded: 11.7, current: 0 }, /above zero/],
    [{ resting: 16.4, loaded: 15, current: 20 }, /check the cell count/],
    [{ resting: 12.3, loaded: 12.29, current: 1 }, /heavier load/],
    [{ resting: Number.NaN, loaded: 12, current: 1 }, /check the cell count/],
  ])("refuses %o", (test, message) => {
    const r = cellResistanceFrom({ ...test, temperature: 25 }, pack);
    expect(r.ok ? "taken" : r.message).toMatch(message);
  });
});
