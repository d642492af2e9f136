import { describe, expect, it } from "vitest";
import { inState } from "../../core/design/inState";
import { type Design, usualState } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { axes } from "../../core/subjects/axes/node";
import { heldText, shiftedText } from "../../core/wording/axes";
import { floats } from "../../core/subjects/floats/node";
import { waterOf } from "../../core/subjects/propulsion/setup";
import { demoFile } from "../support/demo";
import { quietDesign } from "../support/designs";
import { box, onHull } from "../support/rules/floats";

const afloat = (change: (d: Design) => void) => {
  const d = quietDesign();
  change(d);
  const e = evaluate(d, {}, null);
  return {
    r: resultIn(e, floats),
    outcome: e.outcomes.floats,
    mass: e.metrics.auw?.value ?? Number.NaN,
    density: waterOf(d.brief.environment).density,
    find: (code: string) => e.findings.find((f) => f.code === code),
  };
};

describe("a hull held level", () => {
  it("lies as deep as its mass of water: a box by its area (Archimedes)", () => {
    const { r, mass, density } = afloat(onHull(0.6, 0.1, 0.05));
    expect(r?.level?.draught.value).toBeCloseTo(mass / (density * 0.6 * 0.1), 5);
    expect(r?.most.value).toBeCloseTo(density * 0.6 * 0.1 * 0.05, 4);
    expect(r?.level?.behind?.value).toBeCloseTo(0, 5);
  });
  it("a tube that weighs half of what it displaces lies with its axis in the water's surface", () => {
    const half = afloat(onHull(0.6, 0.1, 0.1, 0, "round"));
    // Of the mass as it is: the length at which half of the tube displaces it.
    const long = half.mass / (half.density * (Math.PI / 8) * 0.01);
    const { r } = afloat(onHull(long, 0.1, 0.1, 0, "round"));
    expect(r?.level?.water.value).toBeCloseTo(0.05, 3);
  });
  it("two alike lie half as deep, each on its side; in salt water less deep by the densities", () => {
    const one = afloat(onHull(0.6, 0.1, 0.05)).r?.level?.draught.value ?? 0;
    const two = afloat((d) => {
      onHull(0.6, 0.1, 0.05)(d);
      for (const b of d.bodies) Object.assign(b, { y: 0.2, mirrored: true });
    }).r?.level?.draught.value;
    expect(two).toBeCloseTo(one / 2, 5);
    const salt = afloat((d) => {
      onHull(0.6, 0.1, 0.05)(d);
      d.brief.environment.water = "sea";
    });
    expect((salt.r?.level?.draught.value ?? 0) / one).toBeCloseTo(
      afloat(onHull(0.6, 0.1, 0.05)).density / salt.density,
      4,
    );
  });
  it("that is too small goes under: a stop where that is sure, and nothing is told of its draught", () => {
    const under = afloat(onHull(0.6, 0.05, 0.02));
    expect(under.r?.level).toBeNull();
    expect(under.find("goes-under")?.severity).toBe("stop");
    const { mass, density } = under;
    const hardly = afloat(onHull(0.6, 0.1, (0.99 * mass) / (density * 0.06)));
    expect(hardly.find("goes-under")?.severity).toBe("care");
    expect(afloat(onHull(0.6, 0.1, 0.05)).find("goes-under")).toBeUndefined();
  });
  it("settles by the bow where the water's middle lies behind its CG", () => {
    expect(afloat(onHull(0.6, 0.1, 0.05, 0.06)).r?.level?.behind?.value).toBeCloseTo(0.06, 5);
    expect(afloat(onHull(0.6, 0.1, 0.05, 0.06)).find("trims-away")?.params).toMatchObject({
      behind: expect.closeTo(0.06, 4),
    });
    expect(afloat(onHull(0.6, 0.1, 0.05, -0.06)).r?.level?.behind?.value).toBeCloseTo(-0.06, 5);
  });
});

describe("what it rests on", () => {
  it("of a craft that no hull carries, without a described one, or with a part without mass nothing is told", () => {
    expect(afloat(() => {}).outcome?.status).toBe("not covered");
    expect(afloat((d) => void (d.states = [usualState("submerged")])).outcome?.status).toBe("not covered");
    expect(afloat((d) => void (d.states = [usualState("hull")])).outcome).toMatchObject({ status: "missing" });
    const guessed = afloat((d) => {
      onHull(0.6, 0.1, 0.05)(d);
      for (const b of d.bodies) b.shapeBy = "guess";
    });
    expect(guessed.outcome).toMatchObject({ status: "missing" });
    // One float that is a guess may be what holds it up: too small a hull beside it is no stop.
    const partly = afloat((d) => {
      onHull(0.6, 0.05, 0.02)(d);
      d.bodies.push({ ...box(0.6, 0.2, 0.1, 0.3), id: "float", name: "Float", shapeBy: "guess" });
    });
    expect(partly.outcome).toMatchObject({ needs: ["the shape of Float: it is a guess"] });
    expect(partly.find("goes-under")).toBeUndefined();
    const massless = afloat((d) => {
      onHull(0.6, 0.1, 0.05)(d);
      const [item] = d.items;
      if (item) item.mass = null;
    });
    expect(massless.outcome?.status).not.toBe("solved");
  });
  it("beside wings or rotors that share the weight nothing is told of it", () => {
    const shared = afloat((d) => {
      onHull(0.6, 0.05, 0.02)(d);
      d.states[0]?.heldUpBy.push("rotors");
    });
    expect(shared.outcome?.status).toBe("not covered");
    expect(shared.find("goes-under")).toBeUndefined();
  });
  it("a part without a place leaves the trim open, not the draught", () => {
    const { r, find } = afloat((d) => {
      onHull(0.6, 0.1, 0.05, 0.06)(d);
      const [item] = d.items;
      if (item) item.unplaced = ["x"];
    });
    expect(r?.level?.draught.value).toBeGreaterThan(0);
    expect(r?.level?.behind).toBeNull();
    expect(find("trims-away")).toBeUndefined();
  });
  it("that it floats upright stays open whatever it displaces", () => {
    const said = (change: (d: Design) => void) => afloat(change).find("support-open")?.params;
    expect(said(onHull(0.6, 0.1, 0.05))).toMatchObject({ hull: true });
    expect(said((d) => void (d.states = [usualState("hull")]))).toMatchObject({ hull: false });
  });
  it("the trimaran of the demo floats on its hulls, the lowest foil apart", () => {
    const d = demoFile("gannet").versions.at(-1)?.design;
    const state = d?.states[0];
    if (!d || !state) throw new Error("no state");
    const e = evaluate(inState(d, state.id), {}, null);
    const r = resultIn(e, floats);
    expect(r?.level?.draught.value).toBeGreaterThan(0.02);
    expect(r?.level?.draught.value).toBeLessThan(0.084);
    expect(e.findings.map((f) => f.code)).not.toContain("goes-under");
  });
  it("a hull that is turned into another of its size displaces the same", () => {
    const long = afloat((d) => {
      onHull(0.6, 0.1, 0.05)(d);
      d.bodies = [box(0.3, 0.2, 0.05, d.bodies[0]?.frames[1]?.x ?? 0)];
    });
    expect(long.r?.level?.draught.value).toBeCloseTo(afloat(onHull(0.6, 0.1, 0.05)).r?.level?.draught.value ?? 0, 5);
  });
});

describe("a screw under a hull", () => {
  const deep = (z: number, more: (d: Design) => void = () => {}) =>
    afloat((d) => {
      onHull(0.6, 0.1, 0.06)(d);
      const [u] = d.units;
      if (!u) return;
      u.surroundings = "in water";
      u.count = 1;
      u.propeller.diameter.value = 0.04;
      u.places = [{ at: { x: 0.5, y: 0, z }, toward: { x: -1, y: 0, z: 0 } }];
      more(d);
    });
  // By hand: it draws m/(ρ·0.6·0.1); the tips of a screw of 40 mm stand 20 mm over its shaft.
  it("runs as deep as the draught less its shaft and its radius", () => {
    const { r, find } = deep(0.002);
    const water = r?.level?.water.value ?? Number.NaN;
    const told = find("screw-surfaces");
    expect(told?.params).toMatchObject({ over: expect.closeTo(water - 0.002 - 0.02, 6), out: false });
    expect(water - 0.022).toBeLessThan(0.01);
    expect(deep(-0.03).find("screw-surfaces")).toBeUndefined();
  });
  it("a tip out of the water is a caution, all of it out a stop", () => {
    const water = deep(0).r?.level?.water.value ?? Number.NaN;
    expect(deep(water).find("screw-surfaces")).toMatchObject({ severity: "care", params: { out: false } });
    expect(deep(water + 0.03).find("screw-surfaces")).toMatchObject({ severity: "stop", params: { out: true } });
  });
  it("a trough of the waves counts, one in the air does not, nor one that nobody placed", () => {
    const wavy = deep(-0.03, (d) => Object.assign(d.brief.environment, { waveHeight: 0.12, waveLength: 4 }));
    expect(wavy.find("screw-surfaces")?.severity).toBe("care");
    expect(deep(0.05, (d) => d.units.forEach((u) => void (u.surroundings = "in air"))).find("screw-surfaces")).toBe(
      undefined,
    );
  });
});

describe("how the water holds a hull upright", () => {
  const heightOf = (d: Design) => evaluate(d).metrics.cgZ?.value ?? Number.NaN;
  const made = (change: (d: Design) => void) => {
    const d = quietDesign();
    change(d);
    return { d, ...afloat(change) };
  };
  it("a box: GM = T/2 + B²/12T − KG across and T/2 + L²/12T − KG along (Archimedes, wall-sided)", () => {
    const [long, wide] = [0.6, 0.2];
    const { d, r } = made(onHull(long, wide, 0.1));
    const level = r?.level;
    const draught = level?.draught.value ?? Number.NaN;
    const kg = heightOf(d);
    expect(level?.upright?.roll.gm.value).toBeCloseTo(draught / 2 + wide ** 2 / (12 * draught) - kg, 4);
    expect(level?.upright?.pitch.gm.value).toBeCloseTo(draught / 2 + long ** 2 / (12 * draught) - kg, 4);
    const weight = (evaluate(d).metrics.auw?.value ?? 0) * 9.80665;
    const { gm, stiff } = level?.upright?.roll ?? { gm: { value: 0 }, stiff: { value: 1 } };
    expect(stiff.value).toBeCloseTo(weight * gm.value, 9);
  });
  it("a tube has its metacentre in its axis, however deep it lies (every force of it passes there)", () => {
    for (const radius of [0.05, 0.08]) {
      const { d, r } = made(onHull(0.8, 2 * radius, 2 * radius, 0, "round"));
      expect((r?.level?.upright?.roll.gm.value ?? Number.NaN) + heightOf(d)).toBeCloseTo(radius, 3);
    }
  });
  it("two hulls apart: their own widths and the square of their distance (parallel axes)", () => {
    const { d, r } = made((x) => {
      onHull(0.6, 0.06, 0.1)(x);
      for (const b of x.bodies) Object.assign(b, { y: 0.15, mirrored: true });
    });
    const t = r?.level?.draught.value ?? Number.NaN;
    const moment = 2 * ((0.6 * 0.06 ** 3) / 12 + 0.6 * 0.06 * 0.15 ** 2);
    expect(r?.level?.upright?.roll.gm.value).toBeCloseTo(t / 2 + moment / (2 * 0.6 * 0.06 * t) - heightOf(d), 4);
  });
  it("a narrow one with its weight high rolls over, and is a stop; nearly so a caution", () => {
    const tall = afloat(onHull(0.9, 0.05, 0.12));
    expect(tall.r?.level?.upright?.roll.gm.value).toBeLessThan(0);
    expect(tall.r?.level?.upright?.roll.rest).toBeNull();
    expect(tall.find("rolls-over")?.severity).toBe("stop");
    expect(afloat(onHull(0.6, 0.2, 0.06)).find("rolls-over")).toBeUndefined();
  });
  it("a CG beside or behind the middle of the water lies over by its angle: atan(off/GM)", () => {
    const { r } = made((d) => {
      onHull(0.6, 0.2, 0.1, 0.01)(d);
      const motor = d.items.find((i) => i.id === "motor");
      if (motor) motor.place.y = 0.03;
    });
    const { roll, pitch } = r?.level?.upright ?? {};
    const e = evaluate(
      (() => {
        const d = quietDesign();
        const motor = d.items.find((i) => i.id === "motor");
        if (motor) motor.place.y = 0.03;
        return d;
      })(),
    );
    expect(roll?.rest?.value).toBeCloseTo(Math.atan((e.metrics.cgY?.value ?? 0) / (roll?.gm.value ?? 1)), 6);
    expect(roll?.rest?.value ?? 0).toBeGreaterThan(0);
    // The water lies 10 mm behind the CG: the bow settles.
    expect(pitch?.rest?.value).toBeCloseTo(-Math.atan(0.01 / (pitch?.gm.value ?? 1)), 4);
  });
  it("is not told while a part has no height", () => {
    const { r } = made((d) => {
      onHull(0.6, 0.2, 0.1)(d);
      const [item] = d.items;
      if (item) item.unplaced = ["z"];
    });
    expect(r?.level?.upright).toBeNull();
  });
  it("stands on the board, and a shifted mass leans it by that", () => {
    const d = quietDesign();
    onHull(0.6, 0.2, 0.1)(d);
    const pack = d.items.find((i) => i.id === "pack");
    if (pack) pack.shiftY = 0.02;
    const e = evaluate(d);
    const board = resultIn(e, axes);
    if (!board || board.kind === "wings") throw new Error(JSON.stringify(e.outcomes.axes));
    const roll = board.lines.find((l) => l.axis === "roll");
    if (!roll) throw new Error("no line");
    expect(heldText(roll, "metric")).toMatch(/^the water: .* at 10\s?° turn it back/);
    const lean = Math.asin((roll.shifted?.value ?? 0) / (roll.rights?.stiff.value ?? 1));
    expect(shiftedText(roll, "metric")).toContain(`leans it ${Math.round((lean * 180) / Math.PI)}`);
  });
});
