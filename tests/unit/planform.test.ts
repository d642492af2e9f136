import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { planformOf, stationsOf } from "../../core/subjects/surfaces/planform";
import { PATTERNS, RING_PANELS, ringOf, ringPanels, surfaceFrom } from "../../core/subjects/surfaces/patterns";
import { quietDesign } from "../support/designs";
import { panel, surface } from "../support/wings";

const trapezoid = (root: number, tip: number, half: number, sweep = 0) =>
  surface({ id: "w", chord: root, panels: [panel(half, tip, sweep)] });

describe("area, span and mean aerodynamic chord", () => {
  it("of a trapezoid are those of the textbook: (2/3)·c_r·(1+λ+λ²)/(1+λ)", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        fc.double({ min: 0.1, max: 1, noNaN: true }),
        fc.double({ min: 0.1, max: 2, noNaN: true }),
        (root, taper, half) => {
          const p = planformOf(trapezoid(root, taper * root, half));
          expect(p.mac).toBeCloseTo((2 / 3) * root * ((1 + taper + taper ** 2) / (1 + taper)), 9);
          expect(p.area).toBeCloseTo(half * root * (1 + taper), 9);
          expect(p.span).toBeCloseTo(2 * half, 9);
          expect(p.aspect).toBeCloseTo((2 * half) ** 2 / p.plan, 9);
        },
      ),
    );
  });
  it("a worked one: root 300, tip 150, half span 600 mm, swept 20° at its leading edge", () => {
    // By hand: λ 0.5, MAC 233.3 mm, at y = (b/6)(1+2λ)/(1+λ) = 266.7 mm, its leading edge 97.1 mm behind the root's.
    const p = planformOf(trapezoid(0.3, 0.15, 0.6, 20));
    expect(p.mac).toBeCloseTo(0.23333, 5);
    expect(p.macX - trapezoid(0.3, 0.15, 0.6, 20).at.x).toBeCloseTo(0.26667 * Math.tan((20 * Math.PI) / 180), 4);
    expect(p.area).toBeCloseTo(0.27, 9);
    expect(p.aspect).toBeCloseTo(1.44 / 0.27, 6);
  });
  it("do not change when a panel is cut in two", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 0.05, max: 0.5, noNaN: true }),
        fc.integer({ min: -30, max: 40 }),
        (cut, tip, sweep) => {
          const whole = trapezoid(0.4, tip, 1, sweep);
          const middle = 0.4 + cut * (tip - 0.4);
          const parts = surface({
            id: "w",
            chord: 0.4,
            panels: [panel(cut, middle, sweep), panel(1 - cut, tip, sweep)],
          });
          const [a, b] = [planformOf(whole), planformOf(parts)];
          for (const key of ["area", "plan", "span", "mac", "macX", "aspect"] as const)
            expect(b[key], key).toBeCloseTo(a[key], 9);
        },
      ),
    );
  });
  it("in parts tends to the ellipse: MAC 8/(3π) of its root chord", () => {
    const n = 60;
    const edge = (t: number) => Math.sqrt(1 - t * t);
    const at = Array.from({ length: n + 1 }, (_, i) => Math.sin((Math.PI / 2) * (i / n)));
    const p = planformOf(
      surface({
        id: "e",
        chord: 1,
        panels: at.slice(1).map((t, i) => panel(t - (at[i] ?? 0), Math.max(edge(t), 1e-6))),
      }),
    );
    expect(p.mac).toBeCloseTo(8 / (3 * Math.PI), 3);
    expect(p.area).toBeCloseTo(Math.PI / 2, 2);
  });
  it("dihedral leaves the developed area, and takes its cosine of what is seen from above", () => {
    const flat = planformOf(trapezoid(0.3, 0.2, 0.5));
    const bent = planformOf(surface({ id: "w", chord: 0.3, panels: [panel(0.5, 0.2, 0, 30)] }));
    expect(bent.area).toBeCloseTo(flat.area, 9);
    expect(bent.plan).toBeCloseTo(flat.plan * Math.cos(Math.PI / 6), 9);
    expect(bent.span).toBeCloseTo(flat.span * Math.cos(Math.PI / 6), 9);
    const fin = planformOf(surface({ id: "f", mirrored: false, chord: 0.3, panels: [panel(0.5, 0.2, 0, 90)] }));
    expect(fin.plan).toBeCloseTo(0, 9);
    expect(fin.aspect).toBe(0);
    expect(fin.area).toBeCloseTo(0.125, 9);
  });
  it("a single side has half of the area of a pair, and the same chord", () => {
    const [pair, one] = [true, false].map((m) => planformOf({ ...trapezoid(0.3, 0.2, 0.5), mirrored: m }));
    expect(one?.area).toBeCloseTo((pair?.area ?? 0) / 2, 12);
    expect(one?.mac).toBeCloseTo(pair?.mac ?? 0, 12);
  });
  it("cuts follow one another: span by span, swept, bent and twisted", () => {
    const s = surface({
      id: "w",
      chord: 0.3,
      incidence: 0.03,
      panels: [panel(0.4, 0.25, 10, 5), { ...panel(0.3, 0.1, 30, 20), twist: -0.05 }],
    });
    const [root, middle, tip] = stationsOf(s);
    if (!root || !middle || !tip) throw new Error("three cuts");
    expect(root.at).toEqual(s.at);
    expect(middle.at.x - root.at.x).toBeCloseTo(0.4 * Math.tan((10 * Math.PI) / 180), 9);
    expect(middle.at.y).toBeCloseTo(s.at.y + 0.4 * Math.cos((5 * Math.PI) / 180), 9);
    expect(tip.at.z - middle.at.z).toBeCloseTo(0.3 * Math.sin((20 * Math.PI) / 180), 9);
    expect([root, middle, tip].map((c) => c.incidence)).toEqual([0.03, 0.03, expect.closeTo(-0.02, 9)]);
    expect(tip.along).toBeCloseTo(0.7, 12);
  });
});

describe("a ring", () => {
  it("is a closed polygon whose corners lie on its circle", () => {
    for (const n of [6, RING_PANELS, 16]) {
      const s = surface({ id: "r", at: { x: 0, y: 0, z: 0.15 }, chord: 0.1, panels: ringPanels(0.3, 0.1, n) });
      for (const c of stationsOf(s)) expect(Math.hypot(c.at.y, c.at.z)).toBeCloseTo(0.15, 9);
      const last = stationsOf(s).at(-1);
      expect(last?.at.y).toBeCloseTo(0, 9);
      expect(last?.at.z).toBeCloseTo(-0.15, 9);
      expect(ringOf(s)).toBeCloseTo(0.3, 9);
      // Its surface tends to that of the cylinder.
      expect(planformOf(s).area / (Math.PI * 0.3 * 0.1)).toBeGreaterThan(1 - 1.7 / n ** 2);
      expect(planformOf(s).area).toBeLessThan(Math.PI * 0.3 * 0.1);
    }
  });
  it("no other pattern passes for one", () => {
    const d = quietDesign();
    for (const pattern of PATTERNS) {
      const s = surfaceFrom(pattern, d);
      expect(ringOf(s) !== null, pattern).toBe(pattern === "ring");
      expect(planformOf(s).area, pattern).toBeGreaterThan(0);
      expect(s.controls.every((c) => c.does.length > 0 && c.from < c.to)).toBe(true);
    }
  });
});
