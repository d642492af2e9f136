import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { seededRandom } from "../../core/numeric/random";
import { ellipse } from "../../web/drawing/marks";
import { placeLabels, roundStep, sheetFor } from "../../web/drawing/scale";

const box = (x: number, y: number, z: number) => ({ min: { x: 0, y: -y / 2, z: 0 }, max: { x, y: y / 2, z } });

describe("sheet", () => {
  it.each([
    ["long", box(2, 0.3, 0.2)],
    ["wide", box(0.2, 2, 0.1)],
    ["tall", box(0.2, 0.2, 1.5)],
  ])("a %s craft stands whole on it, both views to one scale", (_name, b) => {
    const s = sheetFor(b, 628, 400);
    expect(s.px(b.min.x)).toBeGreaterThanOrEqual(0);
    expect(s.px(b.max.x)).toBeLessThanOrEqual(628);
    expect(s.py("side", b.max.z)).toBeGreaterThanOrEqual(0);
    expect(s.py("top", b.min.y)).toBeLessThanOrEqual(400);
    expect(s.py("side", b.min.z)).toBeLessThan(s.py("top", b.max.y));
    const perMetre = s.px(1) - s.px(0);
    expect(s.py("side", 0) - s.py("side", 1)).toBeCloseTo(perMetre, 9);
    expect(s.py("top", 0) - s.py("top", 1)).toBeCloseTo(perMetre, 9);
  });
  it("seen from above with the nose to the left, starboard is up the sheet", () => {
    const s = sheetFor(box(1, 1, 0.2), 628, 400);
    expect(s.px(1)).toBeGreaterThan(s.px(0));
    expect(s.py("top", 0.5)).toBeLessThan(s.py("top", -0.5));
  });
  it("steps are 1, 2 or 5 times a power of ten", () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-4, max: 1e5, noNaN: true }), (range) => {
        const step = roundStep(range, 8);
        const lead = step / 10 ** Math.floor(Math.log10(step) + 1e-9);
        expect([1, 2, 5, 10].some((n) => Math.abs(lead - n) < 1e-6)).toBe(true);
        expect(range / step).toBeGreaterThan(3);
        expect(range / step).toBeLessThan(17);
      }),
    );
  });
  it("labels never cover each other and stay on the sheet", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 90 }), fc.integer({ min: 0, max: 90 })), { maxLength: 25 }), (points) => {
        const labels = points.map(([x, y], i) => ({
          data: i,
          candidates: [
            { x, y, w: 12, h: 8 },
            { x: x + 13, y, w: 12, h: 8 },
            { x, y: y + 9, w: 12, h: 8 },
          ],
        }));
        const placed = placeLabels(labels, { x: 0, y: 0, w: 100, h: 100 });
        for (const [i, a] of placed.entries()) {
          expect(a.box.x + a.box.w <= 100 && a.box.y + a.box.h <= 100).toBe(true);
          for (const b of placed.slice(i + 1))
            expect(a.box.x < b.box.x + b.box.w && b.box.x < a.box.x + a.box.w && a.box.y < b.box.y + b.box.h && b.box.y < a.box.y + a.box.h).toBe(false);
        }
      }),
    );
  });
});

describe("ellipse of the CG", () => {
  it("holds nine in ten of sampled places", () => {
    const random = seededRandom(3);
    const [sx, sv, cov] = [0.004, 0.002, 0.000005];
    const e = ellipse(sx * sx, sv * sv, cov);
    let inside = 0;
    const n = 20000;
    for (let i = 0; i < n; i++) {
      const a = random.normal();
      const x = sx * a;
      const v = (cov / sx) * a + Math.sqrt(sv * sv - (cov / sx) ** 2) * random.normal();
      const along = x * Math.cos(e.angle) + v * Math.sin(e.angle);
      const across = -x * Math.sin(e.angle) + v * Math.cos(e.angle);
      if ((along / e.major) ** 2 + (across / e.minor) ** 2 <= 1) inside++;
    }
    expect(inside / n).toBeCloseTo(0.9, 2);
  });
  it("lies along the axes when the errors are independent", () => {
    const e = ellipse(4, 1, 0);
    expect(e.angle).toBeCloseTo(0, 12);
    expect(e.major / e.minor).toBeCloseTo(2, 12);
  });
});

// Contrast after WCAG 2.2, 1.4.3: at least 4.5 to 1 for text.
describe("colour tokens", () => {
  const css = readFileSync(new URL("../../web/styles.css", import.meta.url), "utf8");
  const themes = [...css.matchAll(/name: "(paper|night)";([\s\S]*?)\n\}/g)].map((m) => ({
    name: m[1] ?? "",
    token: (key: string) => new RegExp(`--${key}: (#[0-9a-f]{6});`).exec(m[2] ?? "")?.[1] ?? "",
  }));
  const luminance = (hex: string) => {
    const [r, g, b] = [1, 3, 5].map((i) => {
      const c = Number.parseInt(hex.slice(i, i + 2), 16) / 255;
      return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
    });
    return 0.2126 * (r ?? 0) + 0.7152 * (g ?? 0) + 0.0722 * (b ?? 0);
  };
  const contrast = (a: string, b: string) => {
    const [low, high] = [luminance(a), luminance(b)].sort((p, q) => p - q);
    return ((high ?? 0) + 0.05) / ((low ?? 0) + 0.05);
  };
  it("there are two themes", () => expect(themes.map((t) => t.name)).toEqual(["paper", "night"]));
  it.each(themes)("$name: every text colour reads on every ground", ({ token }) => {
    for (const ink of ["ink", "ink2", "pencil", "accent", "stop", "care", "clear"])
      for (const ground of ["paper", "sheet", "well"]) expect(contrast(token(ink), token(ground)), `${ink} on ${ground}`).toBeGreaterThanOrEqual(4.5);
    expect(contrast(token("on-accent"), token("accent"))).toBeGreaterThanOrEqual(4.5);
    expect(contrast(token("ink"), token("tint-stop"))).toBeGreaterThanOrEqual(4.5);
    expect(contrast(token("clear"), token("tint-clear"))).toBeGreaterThanOrEqual(4.5);
  });
});
