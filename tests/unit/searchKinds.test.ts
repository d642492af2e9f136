import { describe, expect, it } from "vitest";
import { newPhase, type Design } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import { AIMS, bestOf } from "../../core/sizing/rank";
import { type Candidate, type SearchBounds, dominates, judging } from "../../core/sizing/search";
import type { Choice } from "../../core/sizing/searchParts";
import { withChoice } from "../../core/sizing/searchLedger";
import { type SearchSpace, choices, setsOf, sizeOf, spaceAround } from "../../core/sizing/searchSpace";
import { UNSCALED, knobsOf, whatIf } from "../../core/sizing/whatIf";
import { rollUp } from "../../core/subjects/mass/rollup";
import { nominalPower, nominalSetup } from "../../core/subjects/propulsion/nominal";
import { changed, part } from "../support/designs";
import { EVERY_KIND, kindAs, measuredTo as known } from "../support/kinds";
import { measuredAs, readOff } from "../support/curves";
import { type FlatSpace, choiceOf, flatAround, flatChoice, found, spaceOf } from "../support/search";

const FREE: SearchBounds = {
  ...{ maxMass: null, minEndurance: null, minThrustToWeight: null, maxTipMach: 1, maxCost: null },
  structure: 0.2,
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
const setsIn = (d: Design) => [ids(d)];
const run = (d: Design, space: FlatSpace, bounds: SearchBounds = FREE) =>
  found({ design: d, space: spaceOf(ids(d), space), bounds });
const each = (d: Design, s: FlatSpace) => [...choices(d, spaceOf(ids(d), s))];
const thin = (s: FlatSpace): FlatSpace => ({
  ...s,
  ...{ kv: s.kv.slice(0, 2), motorMass: s.motorMass.slice(0, 1), series: s.series.slice(-1) },
  capacity: s.capacity.slice(1, 3),
});

describe("a search over every kind that has a model", () => {
  it.each(EVERY_KIND.map((p) => [p.kind, p] as const))(
    "%s: another size is another thing, and what is judged is what the design made of it gives",
    (_, propulsor) => {
      const design = withKind(propulsor);
      const space = flatAround(design, ids(design));
      expect(space.diameter.length).toBeGreaterThan(2);
      const judge = judging({ design, sets: setsIn(design), bounds: FREE });
      const list = each(design, { ...thin(space), series: [2], capacity: [2] });
      const thrusts = new Set<string>();
      for (const choice of list) {
        const made = withChoice(design, setsIn(design), choice, FREE.structure);
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
    const choice = (diameter: number) =>
      choiceOf({
        ...{ diameter, pitchRatio: 0.075 / 0.07, blades: 10, kv: 3000, motorMass: 0.05, ratio: 1 },
        ...{ series: 3, capacity: 2, count: 1 },
      });
    const at = (d: number) => withChoice(design, setsIn(design), choice(d), 0).units[0]?.propulsor;
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
    const space = flatAround(design, ids(design));
    const of = (d: Design) => run(d, { ...thin(space), diameter: [0.07], pitchRatio: [1.07] });
    expect(of(design).unweighed).toEqual([]);
    const without = withKind(kindAs("ducted fan"), (d) => {
      if (d.units[0]) d.units[0].propellerItemId = null;
    });
    expect(of(without).unweighed).toEqual([design.units[0]?.name]);
  });
  it("what rests on a wheel goes with the weight, so that more mass alone takes no grip away", () => {
    const design = withKind(kindAs("wheel"));
    const space = flatAround(design, ids(design));
    const judge = judging({ design, sets: setsIn(design), bounds: FREE });
    // A motor strong enough to spin the wheel: what it pushes is its grip.
    const base = { ...flatChoice(each(design, space)[0] as Choice), kv: 600, motorMass: 0.3, ratio: 12, series: 4 };
    const [light, heavy] = [2, 12].map((capacity) => judge(choiceOf({ ...base, capacity }))?.candidate);
    expect(heavy?.auw ?? 0).toBeGreaterThan(1.2 * (light?.auw ?? 0));
    expect((heavy?.thrustToWeight ?? 0) / (light?.thrustToWeight ?? 1)).toBeCloseTo(1, 2);
  });
  it("time is open, not short, where nobody can tell what a drive draws", () => {
    const design = withKind(kindAs("wheel"), (d) => {
      d.duty = [newPhase({ id: "p", name: "go", seconds: 60, repeats: 1, by: "throttle", value: 0.5, unitIds: [] })];
    });
    const space = flatAround(design, ids(design));
    const found = run(design, thin(space), { ...FREE, minEndurance: 3600 });
    expect(found.noTime).toMatch(/on the ground/);
    expect(found.knocked.endurance).toBeUndefined();
    expect(found.pareto.length).toBeGreaterThan(0);
    expect(found.pareto.every((c) => Number.isNaN(c.endurance))).toBe(true);
  });
  it("names nothing that leaves the range of its method", () => {
    const design = withKind(kindAs("ducted fan"));
    const space = flatAround(design, ids(design));
    const found = run(design, { ...thin(space), pitchRatio: [1.07, 2.4] });
    expect(found.knocked["outside the method"] ?? 0).toBeGreaterThan(0);
    for (const { choice } of found.pareto) expect(flatChoice(choice).pitchRatio).toBe(1.07);
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
      ...thin(flatAround(design, ids(design))),
      kv: [300, 4000],
      series: [4],
      capacity: [5],
    };
    const found = run(design, space, { ...FREE, maxTipMach: 1 });
    for (const { choice } of found.pareto) {
      const e = evaluate(withChoice(design, setsIn(design), choice, FREE.structure));
      expect(e.metrics.thrust?.outside ?? []).toEqual([]);
    }
    // A motor and a pack that stand what it draws: nothing else is wrong with it.
    const strong = { kv: 4000, motorMass: 1, pitchRatio: 0.4, diameter: 0.03, capacity: 30 };
    const fast = choiceOf({ ...flatChoice(each(design, space)[0] as Choice), ...strong });
    const made = evaluate(withChoice(design, setsIn(design), fast, FREE.structure));
    expect((made.metrics.thrust?.outside ?? []).join()).toMatch(/may cavitate/);
    const judged = judging({ design, sets: setsIn(design), bounds: { ...FREE, maxTipMach: 1 } })(fast);
    expect(judged?.knock).toBe("outside the method");
  });
  it("begins with a motor of the rating that is there where none is listed, and says that it comes on top", () => {
    const design = changed((d) => {
      const [unit] = d.units;
      if (!unit) return;
      unit.motor.maxCurrent = 2.4;
      unit.motorItemId = null;
      d.items = d.items.filter((i) => i.role !== "motor");
      d.units.push({ ...structuredClone(unit), id: "second", name: "Second", propellerItemId: null });
    });
    const space = flatAround(design, ["second"]);
    // 2.4 A on three cells are 28 W: a motor of some 7 g at 4 W/g, not one of 80 g.
    for (const kg of space.motorMass) expect(kg).toBeLessThan(0.02);
    const result = found({ design, space: spaceOf(["second"], thin(space)), bounds: FREE });
    expect(result.unlisted).toEqual(["Second"]);
    const listed = changed(() => {});
    expect(run(listed, thin(flatAround(listed, ids(listed)))).unlisted).toEqual([]);
  });
  it("names the parts that no AUW of it has in it", () => {
    const design = changed((d) => void d.items.push(part({ id: "canopy", name: "Canopy", mass: null })));
    const space = thin(flatAround(design, ids(design)));
    expect(run(design, space).massless).toEqual(["Canopy"]);
  });
  it("time is open where a speed is asked for and nothing tells the drag, and no candidate is short of it", () => {
    const design = changed((d) => {
      d.dragArea = null;
      d.duty = [newPhase({ id: "p", name: "go", seconds: 60, repeats: 1, by: "speed", value: 9, unitIds: [] })];
    });
    const space = thin(flatAround(design, ids(design)));
    const found = run(design, space, { ...FREE, minEndurance: 3600 });
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
    const space = flatAround(design, ids(design));
    expect(space.kv).toHaveLength(1);
    expect(space.diameter).toHaveLength(1);
    const judge = judging({ design, sets: setsIn(design), bounds: FREE });
    let seen = 0;
    for (const choice of each(design, space)) {
      const made = withChoice(design, setsIn(design), choice, FREE.structure);
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
    const space = flatAround(design, ids(design));
    const both = each(design, { ...thin(space), shrouds: ["open", "in a duct"] });
    expect(both.length).toBe(2 * each(design, thin(space)).length);
    const judge = judging({ design, sets: setsIn(design), bounds: FREE });
    const open = both.find((c) => !flatChoice(c).shroud);
    const ducted = both.find(
      (c) => flatChoice(c).shroud === "in a duct" && c.drives[0]?.diameter === open?.drives[0]?.diameter,
    );
    if (!open || !ducted) throw new Error("none");
    const [a, b] = [judge(open)?.candidate, judge(ducted)?.candidate];
    expect(b?.auw ?? 0).toBeGreaterThan(a?.auw ?? 0);
    const made = withChoice(design, setsIn(design), ducted, FREE.structure);
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
    const space = thin(flatAround(two, ids(two)));
    const found = run(two, space);
    const [c] = bestOf(found.pareto, ["stronger"], 1);
    if (!c) throw new Error("none");
    const made = withChoice(two, setsIn(two), c.choice, FREE.structure);
    expect(made.units.map((u) => u.motor.kv.value)).toEqual([0, 1].map(() => flatChoice(c.choice).kv));
    const { metrics } = evaluate(made);
    expect(metrics.auw?.value).toBeCloseTo(c.auw, 6);
    expect((metrics.thrustToWeight?.value ?? 0) / c.thrustToWeight).toBeCloseTo(1, 3);
    expect(c.cost?.least ?? 0).toBeGreaterThan(0);
  });
});

describe("drives of unlike kinds together", () => {
  /** The second drive has a fan in a duct, on a pack of its own or on the first one's; the third is as the first. */
  const unlike = (ownPack: boolean) =>
    changed((d) => {
      const [first] = d.units;
      const [battery] = d.batteries;
      if (!first || !battery) return;
      const copy = (id: string, name: string) => ({
        ...structuredClone(first),
        ...{ id, name, propellerItemId: null, motorItemId: null, controllerItemId: null },
      });
      if (ownPack) d.batteries.push({ ...structuredClone(battery), id: "b2", name: "Second pack", itemId: null });
      d.units.push(
        { ...copy("fan", "Fan"), propulsor: kindAs("ducted fan"), ...(ownPack ? { batteryId: "b2" } : {}) },
        copy("third", "Third"),
      );
    });
  it("like ones are one set, the others sets of their own, or each by itself", () => {
    const design = unlike(false);
    const [a] = ids(design);
    expect(setsOf(design, ids(design))).toEqual([[a, "third"], ["fan"]]);
    expect(setsOf(design, ids(design), true)).toEqual([[a], ["fan"], ["third"]]);
  });
  it.each([
    [false, 1],
    [true, 2],
  ])("all of them are tried with all, and each comes true (a pack of its own: %s)", (ownPack, packs) => {
    const design = unlike(ownPack);
    const sets = setsOf(design, ids(design));
    const around = spaceAround(design, sets);
    if (!around) throw new Error("no space");
    expect(around.packs).toHaveLength(packs);
    const few = { ...around, packs: around.packs.map((p) => ({ series: [3], capacity: p.capacity.slice(0, 2) })) };
    const judge = judging({ design, sets, bounds: FREE });
    const list = [...choices(design, few)];
    expect(list).toHaveLength(sizeOf(design, few));
    expect(list).toHaveLength(9 * 9 * 2 ** packs);
    let seen = 0;
    for (const choice of list.filter((_, k) => k % 37 === 0)) {
      const judged = judge(choice, 24)?.candidate;
      if (!judged) continue;
      seen++;
      const made = withChoice(design, sets, choice, FREE.structure);
      const [first, fan, third] = made.units;
      expect(third?.motor).toEqual(first?.motor);
      expect([first?.motor.kv.value, fan?.motor.kv.value]).toEqual(choice.drives.map((d) => d.kv));
      expect(fan?.propulsor).toMatchObject({ diameter: { value: choice.drives[1]?.diameter } });
      expect(made.batteries.map((b) => b.capacity.value)).toEqual(choice.packs.map((p) => p.capacity));
      expect(rollUp(made)?.mass).toBeCloseTo(judged.auw, 9);
      const { metrics } = evaluate(made);
      expect(metrics.auw?.value).toBeCloseTo(judged.auw, 9);
      expect(metrics.thrust?.value ?? Number.NaN).toBeCloseTo(judged.thrust, 4);
      if (!Number.isNaN(judged.endurance)) expect((metrics.endurance?.value ?? 0) / judged.endurance).toBeCloseTo(1, 3);
    }
    expect(seen).toBeGreaterThan(2);
  });
  it("finds what plain nested loops over both sets and their packs find, and accounts for each", () => {
    const design = unlike(false);
    const sets = setsOf(design, ids(design));
    const around = spaceAround(design, sets) as SearchSpace;
    const all = { ...around, packs: around.packs.map((p) => ({ ...p, series: [3] })) };
    const together = found({ design, space: all, bounds: FREE });
    expect(together.tried).toBe(243);
    const judge = judging({ design, sets, bounds: FREE });
    const [own, fan] = all.sets.map(({ space: s }) =>
      s.diameter.flatMap((diameter) =>
        s.kv.map((kv) => ({
          ...{ diameter, kv, pitchRatio: s.pitchRatio[0] ?? 0, blades: s.blades[0] ?? 0, ratio: s.ratio[0] ?? 0 },
          ...{ motorMass: s.motorMass[0] ?? 0, count: s.count[0] ?? 0 },
        })),
      ),
    );
    const held: Candidate[] = [];
    let knocked = 0;
    for (const a of own ?? [])
      for (const b of fan ?? [])
        for (const capacity of all.packs[0]?.capacity ?? []) {
          const judged = judge({ drives: [a, b], packs: [{ series: 3, capacity }] }, 6);
          if (judged?.knock === null) held.push(judged.candidate);
          else knocked++;
        }
    expect(held.length).toBeGreaterThan(5);
    expect(Object.values(together.knocked).reduce((x, y) => x + y, 0)).toBe(knocked);
    const front = held.filter((c) => !held.some((o) => dominates(o, c)));
    expect(together.front).toBe(front.length);
    const named = (list: readonly Candidate[]) =>
      list
        .map(({ choice: { drives, packs } }) =>
          [...drives.flatMap((d) => [d.diameter, d.kv]), packs[0]?.capacity].join(" "),
        )
        .sort();
    expect(named(together.pareto)).toEqual(named(front));
  });
  it("another pack must not burn the drive that stays on it", () => {
    const design = unlike(false);
    const fan = [["fan"]];
    const space = spaceAround(design, fan) as SearchSpace;
    const [choice] = choices(design, space);
    if (!choice) throw new Error("none");
    const bounds = { ...FREE, maxTipMach: 2 };
    const on = (d: Design, series: number, capacity = 30) =>
      judging({ design: d, sets: fan, bounds })({ ...choice, packs: [{ series, capacity }] });
    const strong = structuredClone(design);
    for (const u of strong.units) Object.assign(u.motor, { maxCurrent: 500 });
    for (const u of strong.units) Object.assign(u.controller, { maxCurrent: 500, maxCells: 12 });
    expect(on(strong, 6)?.knock).not.toBe("too much for a drive that stays");
    const weak = structuredClone(strong);
    for (const u of weak.units.slice(0, 1)) u.controller.maxCells = 4;
    expect(on(weak, 6)?.knock).toBe("too much for a drive that stays");
    const hot = structuredClone(strong);
    for (const u of hot.units.slice(0, 1)) u.motor.maxCurrent = 25;
    expect(on(hot, 6)?.knock).toBe("too much for a drive that stays");
    // What is too much already today is no fault of the pack.
    for (const u of hot.units.slice(0, 1)) u.motor.maxCurrent = 1;
    const { series, capacity } = design.batteries[0] as Design["batteries"][number];
    expect(on(hot, series, capacity.value)?.knock).not.toBe("too much for a drive that stays");
  });
  it("parts of one entry that both had become entries of their own", () => {
    const design = unlike(false);
    const motor = part({ id: "motors", name: "Motors", mass: known(0.08), quantity: 3 });
    design.items.push(motor);
    for (const u of design.units) u.motorItemId = "motors";
    const sets = setsOf(design, ids(design));
    const [choice] = choices(design, spaceAround(design, sets) as SearchSpace);
    if (!choice) throw new Error("none");
    const made = withChoice(design, sets, choice, 0);
    const judged = judging({ design, sets, bounds: { ...FREE, structure: 0 } })(choice);
    expect(rollUp(made)?.mass).toBeCloseTo(judged?.candidate.auw ?? 0, 9);
    const [first, fan, third] = made.units;
    expect(third?.motorItemId).toBe(first?.motorItemId);
    expect(fan?.motorItemId).not.toBe(first?.motorItemId);
    expect(made.items.find((i) => i.id === first?.motorItemId)?.quantity).toBe(
      (first?.count ?? 0) + (third?.count ?? 0),
    );
  });
  it("one that is known by its curve keeps its parts while the other is searched", () => {
    const design = unlike(false);
    const [unit] = design.units;
    if (unit) unit.measured = measuredAs(readOff(design, [0, 0.25, 0.5, 0.75, 1]));
    const sets = setsOf(design, [ids(design)[0] as string, "fan"]);
    expect(sets).toHaveLength(2);
    const space = spaceAround(design, sets) as SearchSpace;
    const [choice] = choices(design, space);
    if (!choice) throw new Error("none");
    const made = withChoice(design, sets, choice, FREE.structure);
    expect(made.units[0]?.motor).toEqual(design.units[0]?.motor);
    expect(made.units[1]?.motor.kv.value).toBe(choice.drives[1]?.kv);
    expect(judging({ design, sets, bounds: FREE })(choice)?.candidate.auw).toBeCloseTo(rollUp(made)?.mass ?? 0, 9);
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
