import { blankAround } from "../../core/subjects/propulsion/around/declares";
import { usualState } from "../../core/design/schema";
import { describe, expect, it } from "vitest";
import type { Run } from "../../core/design/craftFile";
import { newPhase } from "../../core/design/schema";
import { evaluate, findingText, remediesFor } from "../../core/evaluate";
import { applyPatch } from "../../core/design/patch";
import { loadOfRun } from "../../core/runs/load";
import { openCircuit } from "../../core/subjects/energy/battery";
import { discharge } from "../../core/subjects/energy/endurance";
import { dutyOfLoad } from "../../core/subjects/energy/load";
import { otherPack, packEnergy } from "../../core/subjects/energy/otherPack";
import { changed, quietDesign } from "../support/designs";

const pack = {
  chemistry: "lipo" as const,
  series: 3,
  capacity: 2.2,
  resistance: 0.03,
  usable: 0.8,
  startCharge: 1,
  otherLoad: 3,
};

describe("a phase that is held by what the pack gives", () => {
  it("by a current lasts the usable charge over it, whatever the voltage", () => {
    const run = discharge([], pack, [{ share: 1, drives: [], by: { current: 8 }, speed: 0 }]);
    expect(run.seconds).toBeCloseTo((0.8 * 2.2 * 3600) / 8, 6);
    expect(run.ampereHours).toBeCloseTo(0.8 * 2.2, 9);
  });
  it("by a power gives the energy of the pack less what its resistance keeps: held against a fine sum", () => {
    const power = 90;
    const run = discharge([], pack, [{ share: 1, drives: [], by: { power }, speed: 0 }]);
    const N = 20_000;
    let seconds = 0;
    for (let k = 0; k < N; k++) {
      const open = 3 * openCircuit("lipo", 1 - (0.8 * (k + 0.5)) / N);
      let current = power / open;
      for (let n = 0; n < 60; n++) current = power / (open - 0.03 * current);
      seconds += (0.8 * 2.2 * 3600) / N / current;
    }
    expect(run.seconds / seconds).toBeCloseTo(1, 3);
    expect(run.joules / run.seconds).toBeCloseTo(power, 6);
  });
  it("ends at the cells' floor where the pack sags below it, and at once where it cannot give so much", () => {
    expect(discharge([], pack, [{ share: 1, drives: [], by: { current: 60 }, speed: 0 }]).endedBy).toBe("floor");
    expect(discharge([], pack, [{ share: 1, drives: [], by: { power: 5000 }, speed: 0 }])).toMatchObject({
      seconds: 0,
      endedBy: "floor",
    });
  });
});

describe("what was measured outranks what was computed", () => {
  const load = { by: "current" as const, value: 8, sd: 0.24, seconds: 300, note: "run 3" };
  const mass = evaluate(quietDesign()).metrics.auw?.value ?? 0;
  const held = (change: (d: ReturnType<typeof quietDesign>) => void = () => {}) =>
    changed((d) => {
      d.duty = [dutyOfLoad(load, d, mass)];
      change(d);
    });
  it("in the number, its ± and how it is known", () => {
    const { endurance, meanCurrent } = evaluate(held()).metrics;
    expect(endurance?.value).toBeCloseTo((0.8 * 2.2 * 3600) / 8, 3);
    expect(endurance?.evidence).toBe("calculated");
    expect((endurance?.sd ?? 0) / (endurance?.value ?? 1)).toBeGreaterThan(0.02);
    expect(meanCurrent?.value).toBeCloseTo(8, 9);
  });
  it("in the verdict and its remedy: the pack that is proposed lasts at the current that was read", () => {
    const design = held();
    const e = evaluate(design);
    const short = e.findings.find((f) => f.code === "endurance-short");
    if (!short) throw new Error("silent");
    const wanted = design.brief.targets.find((t) => t.metric === "endurance")?.value ?? 0;
    const fit = remediesFor(design, e, short).find((r) => r.patch);
    const after = fit?.patch && applyPatch(design, fit.patch);
    const capacity = after?.batteries[0]?.capacity.value ?? 0;
    expect(capacity).toBeGreaterThan((8 * wanted) / 3600 / 0.8);
    expect(capacity).toBeLessThan(((8 * wanted) / 3600 / 0.8) * 1.1);
  });
  it("not for another craft: other drives, cells or mass make it open, never met", () => {
    const easy = (change: (d: ReturnType<typeof quietDesign>) => void) => {
      const design = held((d) => {
        const t = d.brief.targets.find((x) => x.metric === "endurance");
        if (t) t.value = 60;
        change(d);
      });
      return evaluate(design).targets.find((t) => t.target.metric === "endurance");
    };
    expect(easy(() => {})?.status).toBe("met");
    const drive = easy((d) => void (d.units[0] && (d.units[0].propeller.diameter.value = 0.25)));
    expect(drive).toMatchObject({ status: "open", because: expect.stringMatching(/other drives or cells/) });
    expect(easy((d) => void (d.batteries[0] && (d.batteries[0].series = 4)))?.status).toBe("open");
    const heavy = easy((d) => void (d.items[0]?.mass && (d.items[0].mass.value += 0.2)));
    expect(heavy).toMatchObject({ status: "open", because: expect.stringMatching(/another mass, lighter by 18 %/) });
    // A larger pack of the same cells is no other craft as long as its mass stays within a twentieth.
    expect(easy((d) => void (d.batteries[0] && (d.batteries[0].capacity.value = 3)))?.status).toBe("met");
  });
  it("for drives that are not computed at all: in a duct, a minute in the tub is enough", () => {
    const wet = changed((d) => {
      d.states = [usualState("submerged")];
      for (const u of d.units) u.around = [blankAround("openings")];
    });
    const open = evaluate(wet);
    expect(open.metrics.endurance).toBeUndefined();
    const asked = open.findings.find((f) => f.code === "lasting-open");
    expect(asked && findingText(asked, "metric")).toMatch(/not computed/);
    expect(asked && remediesFor(wet, open, asked)[0]?.text).toMatch(/one minute in the tub/);
    wet.duty = [dutyOfLoad(load, wet, mass)];
    const told = evaluate(wet);
    expect(told.metrics.endurance?.value).toBeCloseTo((0.8 * 2.2 * 3600) / 8, 3);
    expect(told.metrics.thrust).toBeUndefined();
    // And the pack that is proposed is one that lasts at that current.
    const short = told.findings.find((f) => f.code === "endurance-short");
    const fit = short && remediesFor(wet, told, short).find((r) => r.code === "fit-pack");
    const capacity = (fit?.patch && applyPatch(wet, fit.patch).batteries[0]?.capacity.value) ?? 0;
    const wanted = wet.brief.targets.find((t) => t.metric === "endurance")?.value ?? 0;
    expect((capacity * 0.8 * 3600) / 8 / wanted).toBeCloseTo(1.01, 2);
  });
  it("of a craft with several packs is open until it says whose it was", () => {
    const two = (unitIds: string[]) =>
      changed((d) => {
        const [b] = d.batteries;
        const [u] = d.units;
        if (b) d.batteries.push({ ...structuredClone(b), id: "second", itemId: null });
        if (u)
          d.units.push({ ...structuredClone(u), id: "d2", name: "other", batteryId: "second", propellerItemId: null });
        d.duty = [{ ...dutyOfLoad(load, d, mass), unitIds }];
        for (const t of d.brief.targets) if (t.metric === "endurance") t.value = 60;
      });
    const target = (unitIds: string[]) => evaluate(two(unitIds)).targets.find((t) => t.target.metric === "endurance");
    expect(target([])).toMatchObject({ status: "open", because: expect.stringMatching(/of which pack/) });
    expect(target(["d"])?.status).toBe("met");
  });
  it("a mean current that nobody measured is a guess of a quarter", () => {
    const design = changed((d) => void (d.duty = [newPhase({ id: "c", name: "cruise", by: "current", value: 8 })]));
    const { endurance } = evaluate(design).metrics;
    expect(endurance?.evidence).toBe("guess");
    expect((endurance?.sd ?? 0) / (endurance?.value ?? 1)).toBeGreaterThan(0.2);
  });
});

describe("distance", () => {
  it("is time by speed, and energy over it; unknown while a phase does not say how fast", () => {
    const design = changed((d) => {
      d.duty = [
        newPhase({ id: "c", name: "cruise", by: "power", value: 60, groundSpeed: 6 }),
        newPhase({ id: "w", name: "wait", by: "power", value: 10, groundSpeed: 0 }),
      ];
      d.brief.targets.push({ id: "far", metric: "range", comparison: "atLeast", value: 9000, weight: "must" });
    });
    const { metrics, targets } = evaluate(design);
    expect(metrics.range?.value).toBeCloseTo((metrics.endurance?.value ?? 0) * 3, 6);
    expect(metrics.energyPerDistance?.value).toBeCloseTo(35 / 3, 6);
    expect(targets.find((t) => t.target.id === "far")?.status).toBe("missed");
    const silent = evaluate(
      changed((d) => void (d.duty = [newPhase({ id: "c", name: "cruise", by: "power", value: 60 })])),
    );
    expect(silent.metrics.range).toBeUndefined();
  });
});

describe("the mean load of a run", () => {
  const run = (metrics: [string, number][], seconds: number | null): Pick<Run, "number" | "metrics" | "seconds"> => ({
    number: 4,
    seconds,
    metrics: metrics.map(([metric, value]) => ({
      metric,
      dimension: "power",
      predicted: null,
      measured: { value, sd: 0, by: "meter" },
    })),
  });
  it("is the most direct that was read, and needs the time where only a sum was", () => {
    expect(loadOfRun(run([["meanPower", 83]], null))).toMatchObject({ by: "power", value: 83 });
    expect(loadOfRun(run([["charge", 0.4]], 360))).toMatchObject({ by: "current", value: 4 });
    expect(loadOfRun(run([["energyUsed", 36_000]], 600))).toMatchObject({ by: "power", value: 60, sd: 2.4 });
    expect(loadOfRun(run([["charge", 0.4]], null))).toBeNull();
    expect(loadOfRun(run([["thrust", 3]], 600))).toBeNull();
  });
});

describe("another pack from a timed run", () => {
  it("is drawn to the same depth, not from full on one side and to the usable share on the other", () => {
    const a = { chemistry: "lipo" as const, series: 3, capacity: 2.2 };
    const b = { chemistry: "lipo" as const, series: 3, capacity: 2.2 };
    // The same pack again lasts as long again.
    const same = otherPack(a, { by: "charge", ampereHours: 2.1 }, 354, b, 0.8);
    expect(same).toMatchObject({ status: "predicted" });
    if (same.status !== "predicted") return;
    expect(same.seconds).toBeCloseTo(354, 3);
    expect(same.depth).toBeCloseTo(2.1 / 2.2, 9);
    expect(same.usable / same.seconds).toBeCloseTo(packEnergy(a, 1, 0.2) / packEnergy(a, 1, 1 - 2.1 / 2.2), 6);
    const energy = otherPack(a, { by: "energy", joules: packEnergy(a, 1, 0.3) }, 300, b, 0.8);
    expect(energy.status === "predicted" && energy.depth).toBeCloseTo(0.7, 4);
    expect(otherPack(a, { by: "energy", joules: 2 * packEnergy(a, 1, 0) }, 300, b, 0.8)).toMatchObject({
      status: "impossible",
      why: "more than it holds",
    });
  });
});
