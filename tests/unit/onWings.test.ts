import { describe, expect, it } from "vitest";
import type { Design, Phase } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { demand } from "../../core/subjects/demand/node";
import { newPhase } from "../../core/subjects/energy/declares";
import { energy } from "../../core/subjects/energy/node";
import { flight } from "../../core/subjects/flight/node";
import { powered } from "../../core/subjects/powered/node";
import { enduranceOf, nominalSetup, solveAll, thrustOf } from "../../core/subjects/propulsion/nominal";
import { slowestOn } from "../../core/subjects/propulsion/onWings";
import { setUp } from "../../core/subjects/propulsion/setup";
import { changed } from "../support/designs";
import { winged } from "../support/wings";

const phase = (value: number, more: Partial<Phase> = {}): Phase =>
  newPhase({ id: `t${value}`, name: `${value}`, seconds: 60, by: "throttle", value, ...more });
const flying = (duty: Phase[], change: (d: Design) => void = () => {}) =>
  changed((d) => {
    winged(d);
    d.duty = duty;
    d.dragArea = { value: 0.008, evidence: "measured" };
    change(d);
  });
const table = (d: Design) => resultIn(evaluate(d), powered)?.points ?? [];
const flownOf = (d: Design) => resultIn(evaluate(d), energy)?.flown ?? [];

describe("a throttle on wings", () => {
  it("flies at the speed that it holds level: that of the table of level flight, sought the other way round", () => {
    for (const p of table(flying([phase(0.7)])).filter((x) => x.throttle !== null && x.speed > 11)) {
      const [f] = flownOf(flying([phase(p.throttle ?? 0)]));
      expect(f?.flown).toBe("level");
      // The table takes a full pack; a run looks first half a step into the discharge.
      expect((f?.speed ?? 0) / p.speed).toBeGreaterThan(0.96);
      expect((f?.speed ?? 0) / p.speed).toBeLessThan(1.01);
    }
  });
  it("takes the power of that speed and no longer that of standing still, which is more", () => {
    const [at] = table(flying([phase(0.7)])).filter((p) => (p.throttle ?? 0) > 0.65);
    const design = flying([phase(at?.throttle ?? 0)]);
    const run = resultIn(evaluate(design), energy)?.packs[0];
    expect((run?.trace[0]?.power ?? 0) / (at?.power ?? 1)).toBeGreaterThan(0.9);
    expect((run?.trace[0]?.power ?? 0) / (at?.power ?? 1)).toBeLessThan(1.02);
    // As it was computed before: the same design with nothing that holds it back.
    const setup = nominalSetup(design, null);
    const [pack] = setup?.packs ?? [];
    const standing = setup && pack ? (enduranceOf(setup, pack)?.seconds ?? 0) : 0;
    expect(run?.endurance.value).toBeGreaterThan(1.08 * standing);
  });
  it("pushes there what holds it back, by a solution of its own", () => {
    const design = flying([phase(0.8)]);
    const e = evaluate(design);
    const levelDrag = resultIn(e, demand)?.levelDrag ?? null;
    const mass = e.metrics.auw?.value ?? 0;
    const setup = setUp({ ...design, levelDrag }, new Map([["/mass", mass]]));
    const [f] = flownOf(design);
    // A full pack: the run looks first half a step of charge below it.
    const full = solveAll(setup, 0.8, f?.speed ?? 0, setup.main);
    if (full.status !== "converged") throw new Error(full.status);
    const over = thrustOf(setup, full.points, setup.main) / (setup.drag?.(f?.speed ?? 0) ?? 1);
    expect(over).toBeGreaterThan(1);
    expect(over).toBeLessThan(1.06);
  });
  it("that holds it level on a full pack and not on an emptier one is open: from when on it sinks is said", () => {
    const least = Math.min(...table(flying([phase(0.7)])).flatMap((p) => p.throttle ?? []));
    const barely = evaluate(flying([phase(1.015 * least)]));
    expect(resultIn(barely, energy)?.flown[0]).toMatchObject({ flown: "level", holds: true });
    const run = resultIn(barely, energy)?.packs[0];
    expect(run?.sinksFrom).toBeGreaterThan(0);
    expect(run?.sinksFrom).toBeLessThan(0.9 * (run?.endurance.value ?? 0));
    expect(barely.metrics.endurance?.incomplete?.join()).toMatch(/from about \d+ min on, .* holds it level no longer/);
    expect(barely.targets.find((t) => t.target.metric === "endurance")?.status).not.toBe("met");
    // With more of it nothing is left open.
    const well = evaluate(flying([phase(1.4 * least)]));
    expect(resultIn(well, energy)?.packs[0]?.sinksFrom).toBeNull();
    expect(well.metrics.endurance?.incomplete).toBeUndefined();
  });
  it("gives a distance where nobody stated a speed, and slows as the pack empties", () => {
    const design = flying([phase(0.8)]);
    const e = evaluate(design);
    const [f] = flownOf(design);
    const mean = (e.metrics.range?.value ?? 0) / (e.metrics.endurance?.value ?? 1);
    expect(mean).toBeLessThan(f?.speed ?? 0);
    expect(mean).toBeGreaterThan(0.8 * (f?.speed ?? 0));
    expect(e.metrics.range?.sd).toBeGreaterThan(0);
    // What is stated over the ground stands before it.
    const stated = evaluate(flying([phase(0.8, { groundSpeed: 20 })])).metrics;
    expect(stated.range?.value).toBeCloseTo(20 * (stated.endurance?.value ?? 0), 6);
  });
  it("climbs where the rest of the duty sinks or waits: slower than level, and drawing more", () => {
    const [level] = flownOf(flying([phase(0.9)]));
    const [up] = flownOf(flying([phase(0.9), phase(0)]));
    expect(up).toMatchObject({ flown: "climbing" });
    expect(up?.speed).toBeLessThan(0.9 * (level?.speed ?? 0));
    // At full throttle that is the speed of the fastest climb, which is found from the table of level flight.
    const full = flying([phase(1), phase(0)]);
    const best = resultIn(evaluate(full), powered)?.climb?.speed ?? 0;
    expect((flownOf(full)[0]?.speed ?? 0) / best).toBeGreaterThan(0.95);
    expect((flownOf(full)[0]?.speed ?? 0) / best).toBeLessThan(1.05);
    // One phase that cannot hold it makes climbs of the others too.
    expect(flownOf(flying([phase(0.9), phase(0.2)])).map((f) => f.flown)).toEqual(["climbing", "climbing"]);
  });
  it("that says a speed below the slowest flies not: a run to lift off, or a wait, is as standing", () => {
    const design = flying([phase(0.8, { groundSpeed: 3 })]);
    expect(flownOf(design)).toEqual([]);
    expect(resultIn(evaluate(design), demand)?.levelDrag).toBeNull();
  });
  it("of a craft whose wings are not described, that hangs on rotors too, or floats is as standing", () => {
    const plain = changed((d) => void (d.duty = [phase(0.8)]));
    expect(flownOf(plain)).toEqual([]);
    expect(evaluate(plain).metrics.endurance?.value).toBeGreaterThan(0);
    const both = flying([phase(0.8)], (d) => {
      d.states = d.states.map((s) => ({ ...s, heldUpBy: ["rotors", "wings"] }));
    });
    expect(flownOf(both)).toEqual([]);
  });
  it("is as standing while only its wings are in its drag: so it would fly too fast and draw too little", () => {
    const part = flying([phase(0.8)], (d) => void (d.dragArea = null));
    expect(flownOf(part)).toEqual([]);
    expect(evaluate(part).metrics.endurance?.value).toBeLessThan(
      evaluate(flying([phase(0.8)])).metrics.endurance?.value ?? 0,
    );
    expect(evaluate(part).metrics.endurance?.incomplete).toBeUndefined();
  });
  it("on two packs alike lasts as long as on one of twice the charge", () => {
    const one = flying([phase(0.8)], (d) => {
      for (const u of d.units) u.count = 2;
      for (const b of d.batteries) {
        b.capacity.value *= 2;
        b.cellResistance.value /= 2;
        b.otherLoad = 0;
      }
    });
    const two = flying([phase(0.8)], (d) => {
      const [u] = d.units;
      const [b] = d.batteries;
      if (!u || !b) throw new Error("none");
      b.otherLoad = 0;
      d.batteries = [b, { ...b, id: "b2", itemId: null }];
      d.units = [u, { ...u, id: "u2", batteryId: "b2" }];
      d.regulators = [];
      d.conductors = [];
    });
    for (const d of [one]) d.regulators = d.conductors = [];
    const [a, b] = [one, two].map((d) => evaluate(d).metrics.endurance?.value ?? 0);
    expect((a ?? 0) / (b ?? 1)).toBeCloseTo(1, 2);
  });
  it(
    "below the slowest speed of its wings there is none: that is √(2W/ρ·S·c_most), the stall speed " +
      "(Anderson 1999)",
    () => {
      const e = evaluate(flying([phase(0.8)]));
      const carries = resultIn(e, flight)?.levelDrag?.carries ?? null;
      const v = slowestOn({ carries }, (e.metrics.auw?.value ?? 0) * 9.80665, e.metrics.airDensity?.value ?? 0);
      expect((v ?? 0) / (e.metrics.stallSpeed?.value ?? 1)).toBeCloseTo(1, 3);
      expect(slowestOn({ carries: null }, 10, 1.2)).toBeNull();
    },
  );
});
