import { describe, expect, it } from "vitest";
import { newPhase, type Design } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import { AIMS, bestOf } from "../../core/sizing/rank";
import { type Candidate, type SearchBounds, type SearchTask, judging, search } from "../../core/sizing/search";
import { type SearchSpace, choices, spaceAround, withChoice } from "../../core/sizing/searchSpace";
import { UNSCALED, knobsOf, whatIf } from "../../core/sizing/whatIf";
import { rollUp } from "../../core/subjects/mass/rollup";
import { nominalPower, nominalSetup } from "../../core/subjects/propulsion/nominal";
import { changed, part } from "../support/designs";
import { EVERY_KIND, kindAs, measuredTo as known } from "../support/kinds";
import { measuredAs, readOff } from "../support/curves";

const FREE: SearchBounds = {
  ...{ maxMass: null, minEndurance: null, minThrustToWeight: null, maxTipMach: 1, maxCost: null },
  structure: 0.2,
};
const run = (task: SearchTask) => {
  const steps = search(task);
  let next = steps.next();
  while (!next.done) next = steps.next();
  return next.value;
};
/** A craft whose first drive has another thing on its shaft, weighed, and which stands where that works. */
const withKind = (propulsor: Design["units"][number]["propulsor"], change: (d: Design) => void = () => {}) =>
  changed((d) => {
    const [unit] = d.units;
    if (!unit) return;
    unit.propulsor = propulsor;
    for (const s of d.states) s.heldUpBy = ["ground", "hull"];
    change(d);
  });
const ids = (d: Design) => d.units.map((u) => u.id);
const thin = (s: SearchSpace): SearchSpace => ({
  ...s,
  ...{ kv: s.kv.slice(0, 2), motorMass: s.motorMass.slice(0, 1), series: s.series.slice(-1) },
  capacity: s.capacity.slice(1, 3),
});

describe("a search over every kind that has a model", () => {
  it.each(EVERY_KIND.map((p) => [p.kind, p] as const))(
    "%s: another size is another thing, and what is judged is what the design made of it gives",
    (_, propulsor) => {
      const design = withKind(propulsor);
      const space = spaceAround(design, ids(design));
      if (!space) throw new Error("no space");
      expect(space.diameter.length).toBeGreaterThan(2);
      const judge = judging({ design, unitIds: ids(design), bounds: FREE });
      const list = [...choices({ ...thin(space), series: [2], capacity: [2] })];
      const thrusts = new Set<string>();
      for (const choice of list) {
        const made = withChoice(design, ids(design), choice, FREE.structure);
        const mass = rollUp(made)?.mass ?? 0;
        const setup = nominalSetup(made, mass);
        const whole = setup && nominalPower(setup);
        const judged = judge(choice, 24)?.candidate;
        if (!judged) continue;
        expect(judged.auw).toBeCloseTo(mass, 9);
        expect(judged.thrust).toBeCloseTo(whole?.craft.thrust ?? Number.NaN, 5);
        expect(judged.current).toBeCloseTo(whole?.units[0]?.current ?? Number.NaN, 5);
        thrusts.add(judged.thrust.toPrecision(6));
      }
      // As many sizes, as many thrusts at least.
      expect(thrusts.size).toBeGreaterThanOrEqual(space.diameter.length);
    },
  );
  it("the size that is there keeps how it is known; another one is a guess", () => {
    const design = withKind(kindAs("ducted fan"));
    const choice = (diameter: number) => ({
      ...{ diameter, pitchRatio: 0.075 / 0.07, blades: 10, kv: 3000, motorMass: 0.05, ratio: 1 },
      ...{ series: 3, capacity: 2, count: 1 },
    });
    const at = (d: number) => withChoice(design, ids(design), choice(d), 0).units[0]?.propulsor;
    expect(at(0.07)).toEqual(kindAs("ducted fan"));
    const twice = at(0.14);
    expect(twice).toMatchObject({
      diameter: { value: 0.14, evidence: "guess" },
      hub: { value: expect.closeTo(0.06, 9), evidence: "guess" },
      pitch: { value: expect.closeTo(0.15, 9), evidence: "guess" },
      length: expect.closeTo(0.12, 9),
    });
  });
  it("weighs a larger fan as propellers grow, and says of one that is not listed that its mass is left out", () => {
    const design = withKind(kindAs("ducted fan"), (d) => {
      const item = d.items.find((i) => i.id === d.units[0]?.propellerItemId);
      if (item) item.mass = { value: 0.06, evidence: "measured" };
    });
    const space = spaceAround(design, ids(design)) as SearchSpace;
    const of = (d: Design) =>
      run({
        design: d,
        unitIds: ids(d),
        bounds: FREE,
        space: { ...thin(space), diameter: [0.07], pitchRatio: [1.07] },
      });
    expect(of(design).unweighed).toEqual([]);
    const without = withKind(kindAs("ducted fan"), (d) => {
      if (d.units[0]) d.units[0].propellerItemId = null;
    });
    expect(of(without).unweighed).toEqual([design.units[0]?.name]);
  });
  it("what rests on a wheel goes with the weight, so that more mass alone takes no grip away", () => {
    const design = withKind(kindAs("wheel"));
    const space = spaceAround(design, ids(design)) as SearchSpace;
    const judge = judging({ design, unitIds: ids(design), bounds: FREE });
    // A motor strong enough to spin the wheel: what it pushes is its grip.
    const base = { ...([...choices(space)][0] as Candidate["choice"]), kv: 600, motorMass: 0.3, ratio: 12, series: 4 };
    const [light, heavy] = [2, 12].map((capacity) => judge({ ...base, capacity })?.candidate);
    expect(heavy?.auw ?? 0).toBeGreaterThan(1.2 * (light?.auw ?? 0));
    expect((heavy?.thrustToWeight ?? 0) / (light?.thrustToWeight ?? 1)).toBeCloseTo(1, 2);
  });
  it("time is open, not short, where nobody can tell what a drive draws", () => {
    const design = withKind(kindAs("wheel"), (d) => {
      d.duty = [newPhase({ id: "p", name: "go", seconds: 60, repeats: 1, by: "throttle", value: 0.5, unitIds: [] })];
    });
    const space = spaceAround(design, ids(design)) as SearchSpace;
    const found = run({ design, unitIds: ids(design), bounds: { ...FREE, minEndurance: 3600 }, space: thin(space) });
    expect(found.noTime).toMatch(/on the ground/);
    expect(found.knocked.endurance).toBeUndefined();
    expect(found.pareto.length).toBeGreaterThan(0);
    expect(found.pareto.every((c) => Number.isNaN(c.endurance))).toBe(true);
  });
  it("names nothing that leaves the range of its method", () => {
    const design = withKind(kindAs("ducted fan"));
    const space = spaceAround(design, ids(design)) as SearchSpace;
    const found = run({
      design,
      unitIds: ids(design),
      bounds: FREE,
      space: { ...thin(space), pitchRatio: [1.07, 2.4] },
    });
    expect(found.knocked["outside the method"] ?? 0).toBeGreaterThan(0);
    for (const { choice } of found.pareto) expect(choice.pitchRatio).toBe(1.07);
  });
});

describe("what a search must not hide", () => {
  const screw = () =>
    changed((d) => {
      const [unit] = d.units;
      if (!unit) return;
      unit.surroundings = "in water";
      for (const s of d.states) s.heldUpBy = ["hull"];
      d.brief.environment.water = "fresh";
      unit.propeller = { ...unit.propeller, diameter: known(0.04), pitch: known(0.04), chord: known(0.012) };
    });
  it("drops a screw whose tips the water boils on, as Power calls it outside", () => {
    const design = screw();
    const space = {
      ...thin(spaceAround(design, ids(design)) as SearchSpace),
      kv: [300, 4000],
      series: [4],
      capacity: [5],
    };
    const found = run({ design, unitIds: ids(design), bounds: { ...FREE, maxTipMach: 1 }, space });
    for (const { choice } of found.pareto) {
      const e = evaluate(withChoice(design, ids(design), choice, FREE.structure));
      expect(e.metrics.thrust?.outside ?? []).toEqual([]);
    }
    // A motor and a pack that stand what it draws: nothing else is wrong with it.
    const strong = { kv: 4000, motorMass: 1, pitchRatio: 0.4, diameter: 0.03, capacity: 30 };
    const fast = { ...([...choices(space)][0] as Candidate["choice"]), ...strong };
    const made = evaluate(withChoice(design, ids(design), fast, FREE.structure));
    expect((made.metrics.thrust?.outside ?? []).join()).toMatch(/may cavitate/);
    const judged = judging({ design, unitIds: ids(design), bounds: { ...FREE, maxTipMach: 1 } })(fast);
    expect(judged?.knock).toBe("outside the method");
  });
  it("names the parts that no AUW of it has in it", () => {
    const design = changed((d) => void d.items.push(part({ id: "canopy", name: "Canopy", mass: null })));
    const space = thin(spaceAround(design, ids(design)) as SearchSpace);
    expect(run({ design, unitIds: ids(design), bounds: FREE, space }).massless).toEqual(["Canopy"]);
  });
  it("time is open where a speed is asked for and nothing tells the drag, and no candidate is short of it", () => {
    const design = changed((d) => {
      d.dragArea = null;
      d.duty = [newPhase({ id: "p", name: "go", seconds: 60, repeats: 1, by: "speed", value: 9, unitIds: [] })];
    });
    const space = thin(spaceAround(design, ids(design)) as SearchSpace);
    const found = run({ design, unitIds: ids(design), bounds: { ...FREE, minEndurance: 3600 }, space });
    expect(found.noTime).toMatch(/drag area is not known/);
    expect(found.knocked.endurance).toBeUndefined();
  });
  it("what if says where the scaled drive leaves its method", () => {
    const design = changed(() => {});
    expect(whatIf(design, UNSCALED)?.outside).toEqual([]);
    expect(whatIf(design, { ...UNSCALED, pitch: 2.4 })?.outside.join()).toMatch(/pitch\/diameter/);
  });
});

describe("a drive that is known by its measured curve", () => {
  const design = changed((d) => {
    const [unit] = d.units;
    if (unit) unit.measured = measuredAs(readOff(d, [0, 0.25, 0.5, 0.75, 1]));
  });
  it("keeps its parts; its packs are searched, and judged as the design made of each", () => {
    const space = spaceAround(design, ids(design)) as SearchSpace;
    expect(space.kv).toHaveLength(1);
    expect(space.diameter).toHaveLength(1);
    const judge = judging({ design, unitIds: ids(design), bounds: FREE });
    let seen = 0;
    for (const choice of choices(space)) {
      const made = withChoice(design, ids(design), choice, FREE.structure);
      expect(made.units[0]?.motor).toEqual(design.units[0]?.motor);
      const mass = rollUp(made)?.mass ?? 0;
      const judged = judge(choice, 24)?.candidate;
      if (!judged) continue;
      seen++;
      const setup = nominalSetup(made, mass);
      expect(judged.auw).toBeCloseTo(mass, 9);
      expect(judged.thrust).toBeCloseTo((setup && nominalPower(setup)?.craft.thrust) ?? Number.NaN, 5);
    }
    expect(seen).toBeGreaterThan(3);
  });
});

describe("a propeller in a duct", () => {
  it("is searched beside the open one, heavier, and comes true", () => {
    const design = changed(() => {});
    const space = spaceAround(design, ids(design)) as SearchSpace;
    const both = [...choices({ ...thin(space), shrouds: ["open", "in a duct"] })];
    expect(both.length).toBe(2 * [...choices(thin(space))].length);
    const judge = judging({ design, unitIds: ids(design), bounds: FREE });
    const open = both.find((c) => !c.shroud);
    const ducted = both.find((c) => c.shroud === "in a duct" && c.diameter === open?.diameter);
    if (!open || !ducted) throw new Error("none");
    const [a, b] = [judge(open)?.candidate, judge(ducted)?.candidate];
    expect(b?.auw ?? 0).toBeGreaterThan(a?.auw ?? 0);
    const made = withChoice(design, ids(design), ducted, FREE.structure);
    expect(made.units[0]?.propulsor?.kind).toBe("ducted fan");
    expect(rollUp(made)?.mass).toBeCloseTo(b?.auw ?? 0, 9);
    expect(evaluate(made).metrics.thrust?.value).toBeCloseTo(b?.thrust ?? 0, 5);
  });
});

describe("several drives together", () => {
  const two = changed((d) => {
    const [first] = d.units;
    if (!first) return;
    d.units.push({ ...structuredClone(first), id: "second", name: "Second", propellerItemId: null, motorItemId: null });
  });
  it("get the same parts, each as many as there are, and come true", () => {
    const space = thin(spaceAround(two, ids(two)) as SearchSpace);
    const found = run({ design: two, unitIds: ids(two), bounds: FREE, space });
    const [c] = bestOf(found.pareto, ["stronger"], 1);
    if (!c) throw new Error("none");
    const made = withChoice(two, ids(two), c.choice, FREE.structure);
    expect(made.units.map((u) => u.motor.kv.value)).toEqual([c.choice.kv, c.choice.kv]);
    const { metrics } = evaluate(made);
    expect(metrics.auw?.value).toBeCloseTo(c.auw, 6);
    expect((metrics.thrustToWeight?.value ?? 0) / c.thrustToWeight).toBeCloseTo(1, 3);
    expect(c.cost?.least ?? 0).toBeGreaterThan(0);
  });
});

describe("what if, of every kind", () => {
  it.each(EVERY_KIND.map((p) => [p.kind, p] as const))(
    "%s: nothing turned changes nothing, a larger one works otherwise",
    (_, propulsor) => {
      const design = withKind(propulsor);
      const [unit] = design.units;
      if (!unit) throw new Error("no drive");
      expect(knobsOf(unit)).toContain("diameter");
      expect(knobsOf(unit).includes("pitch")).toBe(propulsor.kind === "ducted fan" || propulsor.kind === "screw drum");
      const at = (scaling: Partial<typeof UNSCALED>) => whatIf(design, { ...UNSCALED, ...scaling });
      const same = at({});
      expect(same?.after.craft.thrust).toBeCloseTo(same?.before.craft.thrust ?? Number.NaN, 9);
      // What is held by its grip pushes no more: it turns otherwise.
      const larger = at({ diameter: 1.3 });
      const off = (of: "thrust" | "rpm") => (larger?.after.craft[of] ?? 0) / (same?.before.craft[of] ?? 1) - 1;
      expect(Math.max(Math.abs(off("thrust")), Math.abs(off("rpm")))).toBeGreaterThan(1e-3);
    },
  );
  it("a drive on a wheel under more weight grips as much more", () => {
    const design = withKind(kindAs("wheel"), (d) => {
      for (const u of d.units) {
        u.motor.kv.value = 600;
        u.motor.maxCurrent = 200;
        u.gear.ratio = 12;
      }
    });
    const heavy = whatIf(design, { ...UNSCALED, mass: 1.5 });
    expect((heavy?.after.craft.thrustToWeight ?? 0) / (heavy?.before.craft.thrustToWeight ?? 1)).toBeCloseTo(1, 1);
  });
  it("of a measured curve only the pack and the mass are turned", () => {
    const measured = changed((d) => {
      if (d.units[0]) d.units[0].measured = measuredAs(readOff(d, [0, 0.25, 0.5, 0.75, 1]));
    });
    expect(measured.units.flatMap(knobsOf)).toEqual(["mass", "cells"]);
    const more = whatIf(measured, { ...UNSCALED, cells: 1 });
    expect(more?.after.craft.thrust ?? 0).toBeGreaterThan(more?.before.craft.thrust ?? Number.NaN);
  });
  it("scales the drive that is named, and leaves the other", () => {
    const two = changed((d) => {
      const [first] = d.units;
      if (first) d.units.push({ ...structuredClone(first), id: "second" });
    });
    const r = whatIf(two, { ...UNSCALED, kv: 1.2 }, null, "second");
    expect(r?.drive).toBe(1);
    expect(r?.after.units[1]?.rpm ?? 0).toBeGreaterThan(1.02 * (r?.before.units[1]?.rpm ?? 0));
    expect(r?.after.units[0]?.rpm ?? 0).toBeLessThanOrEqual(r?.before.units[0]?.rpm ?? 0);
  });
});

describe("what matters", () => {
  const one = (auw: number, endurance: number, thrustToWeight: number, heat: number, cost: number): Candidate => ({
    ...{ auw, endurance, thrustToWeight, heat, cost: { least: cost, most: cost }, thrust: 1, current: 1 },
    choice: {} as Candidate["choice"],
  });
  const [a, b, c] = [one(1, 600, 0.8, 0.9, 50), one(2, 1800, 1.2, 0.5, 90), one(1.2, 1500, 0.9, 0.6, 55)];
  const list = [a, b, c];
  it("one thing that matters is its plain order", () => {
    expect(bestOf(list, ["lighter"], 3)).toEqual([a, c, b]);
    expect(bestOf(list, ["longer"], 3)).toEqual([b, c, a]);
    expect(bestOf(list, ["stronger"], 1)).toEqual([b]);
    expect(bestOf(list, ["cooler"], 1)).toEqual([b]);
    expect(bestOf(list, ["cheaper"], 1)).toEqual([a]);
  });
  it("several: what is good in all of them comes before what is best in one", () => {
    expect(bestOf(list, ["lighter", "longer"], 1)).toEqual([c]);
    expect(bestOf(list, [], 1)).toEqual([c]);
  });
  it("what nobody can tell counts as the worst, and nothing breaks on one alone", () => {
    const open = { ...c, endurance: Number.NaN, cost: null };
    expect(bestOf([a, open], ["longer"], 2)).toEqual([a, open]);
    for (const aim of AIMS) expect(bestOf([a], [aim], 12)).toEqual([a]);
    expect(bestOf([], [], 12)).toEqual([]);
  });
});
