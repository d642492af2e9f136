import { describe, expect, it } from "vitest";
import { evaluate } from "../../core/evaluate";
import { mainOf, volumesOf } from "../../core/subjects/surfaces/volumes";
import { planformOf } from "../../core/subjects/surfaces/planform";
import { changed } from "../support/designs";
import { panel, surface, winged } from "../support/wings";

/** A wing of 2 × 1 m span by 0.2 m chord, whose quarter lies at 0.35. */
const wing = surface({ id: "wing", at: { x: 0.3, y: 0, z: 0 }, chord: 0.2, panels: [panel(1, 0.2)] });
const tail = surface({ id: "tail", at: { x: 1, y: 0, z: 0 }, chord: 0.12, panels: [panel(0.25, 0.12)] });
const fin = surface({ ...tail, id: "fin", mirrored: false, panels: [panel(0.25, 0.12, 0, 90)] });

describe("tail and fin volume", () => {
  it("by hand: S_h·l / S·c̄ and S_v·l / S·b, from quarter chord to quarter chord", () => {
    // 2·0.25·0.12 = 0.06 m², l = 1.03 − 0.35 = 0.68 m, S = 0.4 m², c̄ = 0.2 m, b = 2 m.
    const all = [wing, tail, fin];
    expect(volumesOf(tail, all)?.tail).toBeCloseTo((0.06 * 0.68) / (0.4 * 0.2), 9);
    expect(volumesOf(tail, all)?.fin).toBeCloseTo(0, 9);
    expect(volumesOf(fin, all)?.fin).toBeCloseTo((0.03 * 0.68) / (0.4 * 2), 9);
    expect(volumesOf(wing, all)).toBeNull();
  });
  it("is the same wherever the datum lies, and of whatever size the craft is", () => {
    const move = (s: typeof wing, by: number, k: number) => ({
      ...s,
      at: { x: k * s.at.x + by, y: 0, z: 0 },
      chord: k * s.chord,
      panels: s.panels.map((p) => ({ ...p, span: k * p.span, chord: k * p.chord })),
    });
    const [a, b, c] = [wing, tail, fin].map((s) => move(s, 5, 0.4)) as [typeof wing, typeof wing, typeof wing];
    expect(volumesOf(b, [a, b, c])?.tail).toBeCloseTo(volumesOf(tail, [wing, tail, fin])?.tail ?? 0, 9);
    expect(volumesOf(c, [a, b, c])?.fin).toBeCloseTo(volumesOf(fin, [wing, tail, fin])?.fin ?? 0, 9);
  });
  it("of a V tail is shared: cos²Γ of its area lies, sin²Γ stands (common practice)", () => {
    const vee = surface({ ...tail, id: "vee", panels: [panel(0.25, 0.12, 0, 40)] });
    const got = volumesOf(vee, [wing, vee]);
    const [lying, standing] = [Math.cos((40 * Math.PI) / 180) ** 2, Math.sin((40 * Math.PI) / 180) ** 2];
    expect(got?.tail).toBeCloseTo((lying * 0.06 * 0.68) / (0.4 * 0.2), 9);
    expect(got?.fin).toBeCloseTo((standing * 0.06 * 0.68) / (0.4 * 2), 9);
  });
  it("of a canard is negative, and a fin alone is no wing", () => {
    const canard = surface({ ...tail, id: "canard", at: { x: 0, y: 0, z: 0 } });
    expect(volumesOf(canard, [wing, canard])?.tail).toBeLessThan(0);
    expect(mainOf([fin])).toBeNull();
    expect(volumesOf(fin, [fin])).toBeNull();
  });
});

describe("cube loading", () => {
  const design = changed(winged);
  const { cubeLoading, wingLoading, auw } = evaluate(design).metrics;
  it("is M / S^1.5, by hand from mass and areas; in oz/ft³ the same number (1 oz/ft³ = 1.0012 kg/m³)", () => {
    const area = design.surfaces.filter((s) => s.id !== "fin").reduce((sum, s) => sum + planformOf(s).plan, 0);
    expect((cubeLoading?.value ?? 0) / ((auw?.value ?? Number.NaN) / area ** 1.5)).toBeCloseTo(1, 6);
    expect((wingLoading?.value ?? 0) / ((auw?.value ?? Number.NaN) / area)).toBeCloseTo(1, 6);
    expect(0.028349523 / 0.3048 ** 3).toBeCloseTo(1.0012, 3);
  });
  it("goes half as far again with a doubt of the area as weight per area does", () => {
    const share = (q: typeof cubeLoading) => (q?.sd ?? Number.NaN) / (q?.value ?? Number.NaN);
    expect(share(cubeLoading)).toBeGreaterThan(share(wingLoading));
    expect(share(cubeLoading)).toBeLessThan(1.5 * share(wingLoading) + 1e-9);
  });
});
