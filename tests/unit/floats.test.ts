import { describe, expect, it } from "vitest";
import { inState } from "../../core/design/inState";
import { type Design, usualState } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
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
