import { newPhase } from "../../core/design/schema";
import { afterEach, describe, expect, it } from "vitest";
import { EUROS, takeMoney } from "../../core/design/money";
import { evaluate, findingText } from "../../core/evaluate";
import { rollUp } from "../../core/subjects/mass/rollup";
import {
  LAWS,
  genericController,
  genericMotor,
  genericPack,
  motorMassFor,
  propellerMass,
} from "../../core/catalogue/catalogue";
import { dragAreaFrom } from "../../core/subjects/speed/dragArea";
import { nominalPower, nominalSetup } from "../../core/subjects/propulsion/nominal";
import { sizingLoop } from "../../core/sizing/loop";
import { peakEfficiency } from "../../core/subjects/propulsion/motor";
import { type Candidate, type SearchBounds, type SearchResult, dominates, judging } from "../../core/sizing/search";
import type { OwnParts } from "../../core/sizing/searchParts";
import { withChoice } from "../../core/sizing/searchLedger";
import { sizeOf, spaceAround } from "../../core/sizing/searchSpace";
import { packEnergy } from "../../core/subjects/energy/otherPack";
import { UNSCALED, whatIf } from "../../core/sizing/whatIf";
import { tern3 } from "../../scripts/demo/ternDesigns";
import { ternSearch } from "../../scripts/demo/ternSearch";
import { changed, quietDesign } from "../support/designs";
import { type FlatSpace, choiceOf, flatAround, flatChoice, found, spaceOf } from "../support/search";

const bounds: SearchBounds = {
  maxMass: 1.1,
  minEndurance: 900,
  minThrustToWeight: 0.6,
  maxTipMach: 0.65,
  maxCost: null,
  structure: 0.2,
};
const small: FlatSpace = {
  diameter: [0.18, 0.21, 0.24],
  pitchRatio: [0.5, 0.7],
  blades: [2],
  kv: [800, 1100],
  motorMass: [0.06, 0.12],
  ratio: [1],
  series: [2, 3],
  capacity: [1.3, 2.2, 3.5],
  count: [1],
};

const unitId = quietDesign().units[0]?.id ?? "";
const sets = [[unitId]];
const run = (space: FlatSpace, b: SearchBounds = bounds, own?: OwnParts): SearchResult =>
  found({ design: quietDesign(), space: spaceOf([unitId], space), bounds: b, own });
const size = (space: FlatSpace, own?: OwnParts) => sizeOf(quietDesign(), spaceOf([unitId], space), own);

describe("sizing search", () => {
  const result = run(small);
  it("tries every combination, and accounts for each", () => {
    expect(result.tried).toBe(size(small));
    expect(size(small)).toBe(144);
    const knocked = Object.values(result.knocked).reduce((a, b) => a + b, 0);
    expect(result.pareto.length).toBeGreaterThan(1);
    expect(knocked + result.pareto.length).toBeLessThanOrEqual(result.tried);
  });
  it("finds what plain nested loops over the same models find", () => {
    const all: Candidate[] = [];
    for (const diameter of small.diameter)
      for (const pitchRatio of small.pitchRatio)
        for (const kv of small.kv)
          for (const motorMass of small.motorMass)
            for (const series of small.series)
              for (const capacity of small.capacity) {
                const judged = judging({ design: quietDesign(), sets, bounds })(
                  choiceOf({ diameter, pitchRatio, blades: 2, kv, motorMass, ratio: 1, series, capacity, count: 1 }),
                  6,
                );
                if (judged && judged.knock === null) all.push(judged.candidate);
              }
    const front = all.filter((c) => !all.some((o) => dominates(o, c)));
    const keys = (list: Candidate[]) =>
      list.map((c) => JSON.stringify(Object.entries(flatChoice(c.choice)).sort())).sort();
    expect(keys(result.pareto)).toEqual(keys(front));
  });
  it("a candidate applied gives its row again within 0.1 %", () => {
    for (const c of result.pareto.slice(0, 5)) {
      const { metrics } = evaluate(withChoice(quietDesign(), sets, c.choice, bounds.structure));
      expect(Math.abs((metrics.auw?.value ?? 0) / c.auw - 1)).toBeLessThan(1e-3);
      expect(Math.abs((metrics.endurance?.value ?? 0) / c.endurance - 1)).toBeLessThan(1e-3);
      expect(Math.abs((metrics.thrustToWeight?.value ?? 0) / c.thrustToWeight - 1)).toBeLessThan(1e-3);
    }
  });
  it("judges by plain numbers what the design made of a choice gives, whatever it came from", () => {
    const judge = judging({ design: quietDesign(), sets, bounds });
    for (const diameter of [0.24, 0.18])
      for (const count of [1, 2])
        for (const ratio of [1, 2.2]) {
          const choice = choiceOf({
            diameter,
            pitchRatio: 0.6,
            blades: 3,
            kv: 1000,
            motorMass: 0.09,
            ratio,
            series: 3,
            capacity: 2,
            count,
          });
          const made = withChoice(quietDesign(), sets, choice, bounds.structure);
          const mass = rollUp(made)?.mass ?? 0;
          const setup = nominalSetup(made, mass);
          const whole = setup && nominalPower(setup);
          const judged = judge(choice, 24);
          expect(judged?.candidate.auw).toBeCloseTo(mass, 9);
          expect(judged?.candidate.thrust).toBeCloseTo(whole?.craft.thrust ?? 0, 5);
          expect(judged?.candidate.current).toBeCloseTo(whole?.units[0]?.current ?? 0, 5);
          if (judged && !Number.isNaN(judged.candidate.endurance))
            expect(judged.candidate.endurance / (whole?.craft.endurance ?? 0)).toBeCloseTo(1, 4);
        }
  });
  it("a larger structure factor raises the mass of a drive that is heavier than the one it replaces", () => {
    const heavy = choiceOf({
      diameter: 0.24,
      pitchRatio: 0.5,
      blades: 2,
      kv: 800,
      motorMass: 0.3,
      ratio: 1,
      series: 3,
      capacity: 6,
      count: 1,
    });
    const mass = (structure: number) => rollUp(withChoice(quietDesign(), sets, heavy, structure))?.mass ?? 0;
    expect(mass(0.3)).toBeGreaterThan(mass(0.1));
    expect(mass(0.1)).toBeGreaterThan(mass(0));
  });
  it("applied twice, the structure does not grow twice", () => {
    const c = result.pareto[0];
    if (!c) throw new Error("none");
    const once = withChoice(quietDesign(), sets, c.choice, 0.2);
    expect(rollUp(withChoice(once, sets, c.choice, 0.2))?.mass).toBeCloseTo(rollUp(once)?.mass ?? 0, 9);
  });
  it("says what knocked out the rest, and the nearest, when nothing holds", () => {
    const none = run({ ...small, capacity: [1.3] }, { ...bounds, minEndurance: 1e5 });
    expect(none.pareto).toEqual([]);
    expect(none.nearest?.misses).toBe("endurance");
    expect(Object.values(none.knocked).reduce((a, b) => a + b, 0)).toBe(none.tried);
  });
  it("holds to a bound on the pack current and on tip speed", () => {
    const drawn = result.pareto.map((c) => c.current);
    const limit = (Math.min(...drawn) + Math.max(...drawn)) / 2;
    const bound = run(small, { ...bounds, maxCurrent: limit });
    expect(Math.max(...bound.pareto.map((c) => c.current))).toBeLessThanOrEqual(limit);
    expect(bound.knocked["pack current"] ?? 0).toBeGreaterThan(result.knocked["pack current"] ?? 0);
    expect(run(small, { ...bounds, maxTipMach: 0.1 }).knocked["tip speed"]).toBeGreaterThan(0);
  });
  it("starts around the drive that is there", () => {
    const space = flatAround(quietDesign(), [unitId]);
    expect(space.kv).toContain(1000);
    expect(size(space)).toBeLessThan(60_000);
    expect(
      spaceAround(
        changed((d) => void (d.units = [])),
        sets,
      ),
    ).toBeNull();
  });
});

describe("held to parts of one's own", () => {
  const known = (value: number) => ({ value, evidence: "measured" as const });
  const common = { mass: known(0.08), price: 20, notes: "" };
  const motor = (name: string, kv: number, resistance: number) => ({
    kind: "motor" as const,
    ...common,
    name,
    kv: known(kv),
    resistance: known(resistance),
    noLoadCurrent: known(0.8),
    maxCurrent: 25,
  });
  const own: OwnParts = {
    motor: [motor("Slow", 850, 0.07), motor("Fast", 1150, 0.05)],
    propeller: [0.2, 0.23].map((d) => ({
      kind: "propeller",
      ...common,
      mass: known(0.012),
      price: 5,
      name: `P${d}`,
      diameter: known(d),
      pitch: known(0.55 * d),
      blades: 2,
      chord: known(0.02),
    })),
    controller: [
      {
        kind: "controller",
        ...common,
        mass: known(0.03),
        name: "small",
        resistance: known(0.005),
        maxCurrent: 20,
        maxCells: 4,
      },
      {
        kind: "controller",
        ...common,
        mass: known(0.045),
        name: "large",
        resistance: known(0.004),
        maxCurrent: 40,
        maxCells: 4,
      },
    ],
  };
  const free: SearchBounds = { ...bounds, maxMass: null, minEndurance: null, minThrustToWeight: null };
  const held = run(small, free, own);
  it("goes through those only, and counts them", () => {
    expect(size(small, own)).toBe(2 * 2 * 6);
    expect(held.tried).toBe(24);
    for (const candidate of held.pareto) {
      const choice = flatChoice(candidate.choice);
      expect(["Slow", "Fast"]).toContain(choice.own?.motor?.name);
      expect(choice.diameter).toBe(choice.own?.propeller?.diameter.value);
      // 25 A of motor: the lighter controller carries 20 A only.
      expect(choice.own?.controller?.name).toBe("large");
    }
    expect(run(small, free, { motor: [] }).tried).toBe(0);
  });
  it(
    "judges by their own figures and prices; applied, they are in the drive and the ledger with their " + "evidence",
    () => {
      const c = held.pareto.find((p) => p.endurance > 0);
      if (!c) throw new Error("none");
      const made = withChoice(quietDesign(), sets, c.choice, bounds.structure);
      expect(made.units[0]?.motor).toEqual({
        kv: known(flatChoice(c.choice).kv),
        resistance: flatChoice(c.choice).own?.motor?.resistance,
        noLoadCurrent: known(0.8),
        maxCurrent: 25,
      });
      const item = made.items.find((i) => i.id === made.units[0]?.motorItemId);
      expect(item?.mass).toMatchObject({ value: expect.closeTo(0.125, 9), evidence: "measured" });
      const { metrics } = evaluate(made);
      expect(Math.abs((metrics.endurance?.value ?? 0) / c.endurance - 1)).toBeLessThan(1e-3);
      expect(Math.abs((metrics.auw?.value ?? 0) / c.auw - 1)).toBeLessThan(1e-3);
      expect(c.cost?.least).toBeGreaterThan(45);
    },
  );
  it("knocks out what the strongest controller cannot carry", () => {
    const weak = own.controller?.slice(0, 1).map((k) => ({ ...k, maxCurrent: 3 }));
    expect(run(small, free, { ...own, controller: weak }).knocked.controller ?? 0).toBeGreaterThan(0);
  });
});

it("the demo's Tern has in its third version a drive that its search left among those that nothing beats", () => {
  const { tried, pareto } = found(ternSearch);
  expect(tried).toBe(162);
  const drive = tern3.units[0];
  const there = pareto.find((candidate) => {
    const choice = flatChoice(candidate.choice);
    return (
      choice.kv === drive?.motor.kv.value &&
      choice.ratio === drive.gear.ratio &&
      choice.diameter === drive.propeller.diameter.value &&
      Math.abs(choice.pitchRatio * choice.diameter - drive.propeller.pitch.value) < 1e-4 &&
      choice.motorMass === tern3.items.find((i) => i.id === "motor")?.mass?.value
    );
  });
  expect(there?.thrustToWeight ?? 0).toBeGreaterThan(0.8);
});

describe("one drive of several", () => {
  const two = changed((d) => {
    const [first] = d.units;
    if (!first) return;
    d.units.push({ ...structuredClone(first), id: "second", name: "Second", propellerItemId: null, motorItemId: null });
  });
  it("is searched, and the other stays as it is", () => {
    const {
      pareto: [c],
    } = found({
      design: two,
      space: spaceOf(["second"], { ...small, capacity: [2.2], series: [3] }),
      bounds: { ...bounds, maxMass: null, minEndurance: null },
    });
    if (!c) throw new Error("none");
    const made = withChoice(two, [["second"]], c.choice, 0.2);
    expect(made.units[0]).toEqual(two.units[0]);
    expect(made.units[1]?.motor.kv.value).toBe(flatChoice(c.choice).kv);
    // Nothing in the ledger was the second drive's: its parts are added, those of the first keep their mass.
    for (const i of two.items.filter((x) => x.id !== two.batteries[0]?.itemId)) expect(made.items).toContainEqual(i);
    expect(Math.abs((evaluate(made).metrics.thrustToWeight?.value ?? 0) / c.thrustToWeight - 1)).toBeLessThan(1e-3);
  });
});

// Bands of common practice for small outrunners, packs and propellers (from memory of many data sheets): a figure
// outside them would be no typical part.
describe("generic parts", () => {
  it.each([
    [1000, 0.1, 0.035, 0.075],
    [1400, 0.03, 0.08, 0.2],
    [400, 0.3, 0.03, 0.1],
  ])(
    "a motor of %f rpm/V and %f kg has a winding of a usual resistance and peaks between 70 and 92 %%",
    (kv, mass, low, high) => {
      const motor = genericMotor(kv, mass);
      expect(motor.resistance.value).toBeGreaterThan(low);
      expect(motor.resistance.value).toBeLessThan(high);
      const { efficiency } = peakEfficiency(
        { kv, resistance: motor.resistance.value, noLoadCurrent: motor.noLoadCurrent.value },
        11.1,
      );
      expect(efficiency).toBeGreaterThan(0.7);
      expect(efficiency).toBeLessThan(0.92);
    },
  );
  it("packs, controllers and propellers weigh what such parts weigh", () => {
    expect(genericPack("lipo", 3, 2.2).mass).toBeGreaterThan(0.14);
    expect(genericPack("lipo", 3, 2.2).mass).toBeLessThan(0.21);
    expect(genericPack("liion", 3, 2.2).mass).toBeLessThan(genericPack("lipo", 3, 2.2).mass);
    expect(genericController(30, 4).mass).toBeCloseTo(0.032, 3);
    expect(propellerMass(0.254, 2)).toBeGreaterThan(0.012);
    expect(propellerMass(0.254, 2)).toBeLessThan(0.03);
    expect(motorMassFor(400)).toBeCloseTo(0.1, 9);
  });
  it("every law carries a band", () => {
    for (const law of [
      LAWS.motorPower,
      LAWS.motorConstant,
      LAWS.noLoad,
      LAWS.motorHeat,
      LAWS.controllerMass,
      LAWS.propellerMass,
    ])
      expect(law.band).toBeGreaterThan(0);
  });
});

describe("the sizing loop", () => {
  const hover = () =>
    changed((d) => {
      d.duty = [
        newPhase({ id: "h", name: "hover", seconds: 60, repeats: 1, by: "thrustToWeight", value: 0.6, unitIds: [] }),
      ];
    });
  it("closes on a mass whose own endurance is the one wanted", () => {
    const loop = sizingLoop(hover(), 900, 0);
    if (!loop) throw new Error("no loop");
    expect(loop.status).toBe("closes");
    const sized = hover();
    const [battery] = sized.batteries;
    const item = sized.items.find((i) => i.id === "pack");
    if (!battery || !item) throw new Error("no pack");
    item.mass = { value: (0.2 * loop.capacity) / 2.2, evidence: "measured" };
    battery.cellResistance = { value: (0.008 * 2.2) / loop.capacity, evidence: "measured" };
    battery.capacity = { value: loop.capacity, evidence: "measured" };
    expect(rollUp(sized)?.mass).toBeCloseTo(loop.mass, 3);
    const setup = nominalSetup(sized, loop.mass);
    expect((setup && nominalPower(setup)?.craft.endurance) ?? 0).toBeGreaterThan(900 * 0.99);
    expect((setup && nominalPower(setup)?.craft.endurance) ?? 0).toBeLessThan(900 * 1.01);
  });
  // By hand: a pack of nominal energy E that lasts t gives E/t on the mean, whatever its chemistry.
  it.each(["lipo", "nimh", "lifepo4"] as const)(
    "names the mean power that the pack's own energy gives: %s",
    (chemistry) => {
      const design = hover();
      const [battery] = design.batteries;
      if (!battery) throw new Error("no pack");
      battery.chemistry = chemistry;
      battery.series = chemistry === "nimh" ? 9 : chemistry === "lifepo4" ? 4 : 3;
      const turn = sizingLoop(design, 600, 0)?.turns.at(-1);
      const energy = packEnergy(
        { chemistry, series: battery.series, capacity: turn?.capacity ?? 0 },
        battery.startCharge,
        battery.startCharge - battery.usable,
      );
      expect(turn?.power ?? 0).toBeGreaterThan(0.97 * (energy / 600));
      expect(turn?.power ?? 0).toBeLessThan(1.03 * (energy / 600));
    },
  );
  it("grows more for a longer time and more structure; turns rise to the end", () => {
    const short = sizingLoop(hover(), 600, 0);
    const long = sizingLoop(hover(), 1800, 0.3);
    expect(long?.growth ?? 0).toBeGreaterThan(short?.growth ?? 0);
    expect(short?.growth ?? 0).toBeGreaterThan(1);
    const masses = long?.turns.map((t) => t.mass) ?? [];
    for (let i = 1; i < masses.length; i++) expect(masses[i]).toBeGreaterThan(masses[i - 1] ?? 0);
  });
  it("asks for no less when it shall last longer, from any pack that it begins with", () => {
    for (const capacity of [0.05, 0.4, 2.2, 9]) {
      const design = hover();
      const [battery] = design.batteries;
      const item = design.items.find((i) => i.id === "pack");
      if (!battery || !item?.mass) throw new Error("no pack");
      item.mass.value *= capacity / battery.capacity.value;
      battery.cellResistance.value *= battery.capacity.value / capacity;
      battery.capacity.value = capacity;
      let before = 0;
      for (const minutes of [0.2, 0.5, 1, 2, 4, 8, 12, 16]) {
        const loop = sizingLoop(design, minutes * 60, 0);
        expect(loop?.status, `${capacity} A·h, ${minutes} min`).toBe("closes");
        expect(loop?.capacity ?? 0).toBeGreaterThanOrEqual(before * (1 - 1e-6));
        before = loop?.capacity ?? 0;
      }
      // What it settles on does not depend on where it began.
      expect(before / (sizingLoop(hover(), 16 * 60, 0)?.capacity ?? 1)).toBeCloseTo(1, 2);
    }
  });
  it("tells a pack that the current sets from one that the energy sets, and both from running away", () => {
    const sprint = sizingLoop(hover(), 5, 0);
    expect(sprint).toMatchObject({ status: "closes", sizedBy: "current" });
    expect(sizingLoop(hover(), 900, 0)).toMatchObject({ status: "closes", sizedBy: "energy" });
    const heavy = changed((d) => {
      d.duty = hover().duty.map((p) => ({ ...p, value: 1 }));
      const hull = d.items.find((i) => i.id === "hull");
      if (hull?.mass) hull.mass.value = 3;
    });
    expect(sizingLoop(heavy, 60, 0)).toMatchObject({ status: "outOfThrust", turns: [] });
  });
  it("does not blame the time where the craft is over its limit without its pack", () => {
    const design = changed((d) => {
      d.duty = hover().duty;
      for (const t of d.brief.targets)
        if (t.metric === "auw" || t.metric === "endurance") t.value = t.metric === "auw" ? 0.6 : 600;
    });
    const e = evaluate(design);
    const pair = e.findings.find((f) => f.code === "pair-excludes");
    expect(pair && findingText(pair, "metric")).toMatch(
      /whatever the time: without its pack the craft already weighs 720/,
    );
  });
  it("says so when it runs away", () => {
    expect(sizingLoop(hover(), 9 * 3600, 1)?.status).toBe("outOfThrust");
    expect(
      sizingLoop(
        changed((d) => void (d.duty = [])),
        600,
        0,
      ),
    ).toBeNull();
  });
});

describe("what if", () => {
  it("changes nothing when nothing is turned", () => {
    const r = whatIf(quietDesign(), UNSCALED);
    expect(r?.after.craft.thrust).toBeCloseTo(r?.before.craft.thrust ?? 0, 9);
  });
  it("more reduction multiplies torque, not power; a faster winding draws steeply more", () => {
    const geared = whatIf(quietDesign(), { ...UNSCALED, ratio: 1.5 });
    expect(geared?.after.craft.current ?? 0).toBeLessThan(geared?.before.craft.current ?? 0);
    const faster = whatIf(quietDesign(), { ...UNSCALED, kv: 1.2 });
    const exponent = Math.log((faster?.after.craft.current ?? 0) / (faster?.before.craft.current ?? 1)) / Math.log(1.2);
    expect(exponent).toBeGreaterThan(1.8);
    expect(exponent).toBeLessThan(3.2);
  });
  it("heavier, thrust stays and thrust to weight falls with 1/m", () => {
    const r = whatIf(quietDesign(), { ...UNSCALED, mass: 1.25 });
    expect(r?.after.craft.thrust).toBeCloseTo(r?.before.craft.thrust ?? 0, 9);
    expect(r?.after.craft.thrustToWeight).toBeCloseTo((r?.before.craft.thrustToWeight ?? 0) / 1.25, 9);
  });
});

describe("drag area and top speed", () => {
  it("a timed run gives the drag area whose own top speed is that run's", () => {
    const known = dragAreaFrom(quietDesign(), 1.225, 1, { value: 11, sd: 0.3 });
    if (!known) throw new Error("none");
    const speed = evaluate(changed((d) => void (d.dragArea = known))).metrics.speed;
    expect(speed?.value).toBeCloseTo(11, 1);
    expect(speed?.sd).toBeGreaterThan(0.1);
    expect(dragAreaFrom(quietDesign(), 1.225, 0.1, { value: 40, sd: 1 })).toBeNull();
  });
  it("four times the drag area costs speed by less than half (thrust rises as it slows)", () => {
    const at = (area: number) =>
      evaluate(changed((d) => void (d.dragArea = { value: area, evidence: "measured" }))).metrics.speed?.value ?? 0;
    expect(at(0.08)).toBeLessThan(at(0.02));
    expect(at(0.08)).toBeGreaterThan(at(0.02) / 2);
  });
});

describe("what a choice costs", () => {
  afterEach(() => takeMoney(EUROS));
  const free = () => run(small).pareto;
  it("is told from its least to its most by the band of usual prices, and a bound holds at its dearest", () => {
    const all = free();
    for (const c of all) expect((c.cost?.most ?? 0) / (c.cost?.least ?? 1)).toBeCloseTo(1.4 / 0.6, 9);
    const dearest = all.map((c) => c.cost?.most ?? 0).sort((a, b) => a - b);
    const middle = dearest[Math.floor(dearest.length / 2)] ?? 0;
    const bound = run(small, { ...bounds, maxCost: middle });
    expect(bound.knocked.cost).toBeGreaterThan(0);
    expect(bound.pareto.length).toBeGreaterThan(0);
    for (const c of bound.pareto) expect(c.cost?.most ?? Number.NaN).toBeLessThanOrEqual(middle);
  });
  it("is the same choice in another currency, at what a euro is worth there", () => {
    const euros = free();
    takeMoney({ currency: "SEK", perEuro: 11 });
    const kronor = free();
    expect(kronor.map((c) => c.choice)).toEqual(euros.map((c) => c.choice));
    for (const [k, c] of kronor.entries())
      expect(c.cost?.least).toBeCloseTo(11 * (euros[k]?.cost?.least ?? Number.NaN), 6);
  });
  it("is open where nobody said what a euro is worth: no number, and no other sign before the same one", () => {
    takeMoney({ currency: "SEK", perEuro: null });
    const all = free();
    expect(all.length).toBeGreaterThan(0);
    expect(all.every((c) => c.cost === null)).toBe(true);
  });
});
