import { describe, expect, it } from "vitest";
import { type Design, usualState } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { axes } from "../../core/subjects/axes/node";
import { turning } from "../../core/subjects/turning/node";
import { waterOf } from "../../core/subjects/propulsion/setup";
import { shapeOf, turningOf, unionOf } from "../../core/subjects/wind/silhouette";
import { demoFile } from "../support/demo";
import { changed } from "../support/designs";
import { box } from "../support/rules/floats";
import { rollUp } from "../../core/subjects/mass/rollup";

const rect = (left: number, low: number, width: number, height: number) =>
  shapeOf([
    [left, low],
    [left + width, low],
    [left + width, low + height],
    [left, low + height],
  ]);

describe("what holds against turning", () => {
  it("of a plate about its middle is h·L⁴/32, by hand, and about its end h·L⁴/4", () => {
    expect(turningOf([rect(0, 0, 2, 0.5)], 1)).toBeCloseTo((0.5 * 16) / 32, 9);
    expect(turningOf([rect(0, 0, 2, 0.5)], 0)).toBeCloseTo((0.5 * 16) / 4, 9);
  });
  it("what lies behind something else counts once, and what lies over the water not", () => {
    const one = turningOf([rect(0, 0, 2, 0.5)], 1);
    expect(turningOf([rect(0, 0, 2, 0.5), rect(0, 0.1, 2, 0.2)], 1)).toBeCloseTo(one, 9);
    expect(turningOf([rect(0, 0, 2, 0.5)], 1, 0.25)).toBeCloseTo(one / 2, 9);
    expect(turningOf([rect(0, 0, 2, 0.5)], 1, -1)).toBe(0);
    expect(unionOf([rect(0, 0, 2, 0.5)])?.area).toBeCloseTo(1, 12);
  });
});

/** A hull of 60 × 10 × 6 cm with two propellers abreast in the air, 200 mm apart. */
const twin = (change: (d: Design) => void = () => {}) =>
  changed((d) => {
    const at = rollUp(d)?.cg;
    const [unit] = d.units;
    if (!at || !unit) throw new Error("no CG");
    d.states = [usualState("hull")];
    d.surfaces = [];
    d.bodies = [box(0.6, 0.1, 0.06, at.x)];
    d.items = d.items.map((i) => ({ ...i, size: { x: 0, y: 0, z: 0 } }));
    unit.surroundings = "in air";
    unit.count = 2;
    unit.reversible = true;
    unit.places = [-0.1, 0.1].map((y) => ({ at: { ...at, y }, toward: { x: -1, y: 0, z: 0 } }));
    change(d);
  });
const spot = (d: Design) => {
  const e = evaluate(d);
  return { result: resultIn(e, turning), outcome: e.outcomes.turning, board: resultIn(e, axes), e };
};

describe("how quickly drives turn it on the spot", () => {
  it("a box as a hull: M = ½ρ·C·ω²·T·L⁴/32 of what is under water, and the air above", () => {
    const { result, board, e } = spot(twin());
    if (board?.kind !== "drives" || !result) throw new Error(JSON.stringify(e.outcomes.turning));
    const water = waterOf(twin().brief.environment).density;
    const draught = (e.metrics.auw?.value ?? 0) / (water * 0.06);
    const under = (draught * 0.6 ** 4) / 32;
    const held = water * under + (e.metrics.airDensity?.value ?? 0) * ((0.06 * 0.6 ** 4) / 32 - under);
    expect(result.rate.value ** 2 * 0.55 * held).toBeCloseTo(result.moment.value, 3);
    // A quarter of the drag's doubt and more: half of ± 27 % at the least.
    expect(result.rate.sd / result.rate.value).toBeGreaterThan(0.135);
  });
  it("twice the moment turns √2 as quickly, and more of it in the water less", () => {
    const one = spot(twin()).result?.rate.value ?? 0;
    const wide = spot(
      twin((d) => {
        for (const p of d.units[0]?.places ?? []) p.at.y *= 2;
      }),
    ).result?.rate.value;
    expect((wide ?? 0) / one).toBeCloseTo(Math.SQRT2, 2);
    const heavy = spot(
      twin((d) => {
        for (const i of d.items) if (i.mass) i.mass.value *= 1.5;
      }),
    ).result?.rate.value;
    expect(heavy ?? 9).toBeLessThan(one);
  });
  it("is open while its depth is not known, and not told on the ground, on wings or where nothing turns it", () => {
    expect(spot(twin((d) => void (d.bodies = []))).outcome?.status).toBe("missing");
    expect(spot(twin((d) => void (d.states = [usualState("ground")]))).outcome?.status).toBe("not covered");
    expect(spot(twin((d) => void (d.states = [usualState("wings")]))).outcome?.status).toBe("not covered");
    const one = twin((d) => {
      const [unit] = d.units;
      if (!unit) return;
      unit.count = 1;
      unit.places = unit.places.slice(0, 1).map((p) => ({ ...p, at: { ...p.at, y: 0 } }));
    });
    expect(spot(one).outcome?.status).not.toBe("solved");
  });
  it("the demo's airship turns at tens of degrees a second, as such ships do", () => {
    const { result } = spot(demoFile("lantern").versions.at(-1)?.design as Design);
    const degrees = ((result?.rate.value ?? 0) * 180) / Math.PI;
    expect(degrees).toBeGreaterThan(20);
    expect(degrees).toBeLessThan(400);
  });
});
