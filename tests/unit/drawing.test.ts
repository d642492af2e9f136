import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { seededRandom } from "../../core/numeric/random";
import { ellipse } from "../../web/drawing/marks";
import { ACROSS, type ViewName, placeLabels, sheetFor, snap, ticksIn } from "../../web/drawing/scale";

const box = (x: number, y: number, z: number) => ({ min: { x: 0, y: -y / 2, z: 0 }, max: { x, y: y / 2, z } });

describe("sheet", () => {
  it.each([
    ["long", box(2, 0.3, 0.2)],
    ["wide", box(0.2, 2, 0.1)],
    ["tall", box(0.2, 0.2, 1.5)],
  ])("a %s craft stands whole on it, every choice of views to one scale and clear of each other", (_name, b) => {
    for (const shown of [["side", "top"], ["side", "top", "front"], ["front"], ["top", "front"]] as ViewName[][]) {
      const s = sheetFor(b, 628, 400, shown);
      for (const view of shown) {
        const frame = s.views[view];
        const { axis, sign } = ACROSS[view];
        for (const end of ["min", "max"] as const) {
          expect(s.px(view, b[end][axis])).toBeGreaterThanOrEqual(frame.x - 1e-9);
          expect(s.px(view, b[end][axis])).toBeLessThanOrEqual(frame.x + frame.w + 1e-9);
        }
        expect(frame.x).toBeGreaterThanOrEqual(0);
        expect(frame.x + frame.w).toBeLessThanOrEqual(628);
        expect(frame.y).toBeGreaterThanOrEqual(0);
        expect(frame.y + frame.h).toBeLessThanOrEqual(400);
        expect(sign * (s.px(view, 1) - s.px(view, 0))).toBeCloseTo(s.scale, 9);
        expect(s.py(view, 0) - s.py(view, 1)).toBeCloseTo(s.scale, 9);
        for (const other of shown)
          if (other !== view) {
            const o = s.views[other];
            expect(
              frame.x + frame.w <= o.x || o.x + o.w <= frame.x || frame.y + frame.h <= o.y || o.y + o.h <= frame.y,
              `${view} and ${other}`,
            ).toBe(true);
          }
      }
    }
  });
  it("tall and wide craft get as much of the sheet as long ones", () => {
    for (const b of [box(1, 0.2, 0.1), box(0.1, 1, 0.2), box(0.2, 0.1, 1)])
      expect(sheetFor(b, 628, 400, ["side", "top", "front"]).scale).toBeGreaterThan(230);
  });
  it("zoomed, what was under the pointer stays there", () => {
    const b = box(1, 0.4, 0.2);
    const plain = sheetFor(b, 628, 400);
    const zoomed = sheetFor(b, 628, 400, ["side", "top"], { factor: 3, x: -2 * 100, y: -2 * 50 });
    const x = b.min.x + (100 - plain.px("side", b.min.x)) / plain.scale;
    expect(plain.px("side", x)).toBeCloseTo(100, 9);
    expect(zoomed.px("side", x)).toBeCloseTo(100, 9);
    expect(zoomed.scale).toBeCloseTo(3 * plain.scale, 9);
  });
  it("a dragged part snaps to the nearest face, centre or centreline within reach, else to the grid", () => {
    expect(snap(0.1234, 0.02, [], 0, 0.001)).toMatchObject({ value: expect.closeTo(0.123, 12), at: null });
    expect(snap(0.1234, 0.02, [], 0, 0.005).value).toBeCloseTo(0.125, 12);
    expect(snap(0.1234, 0.02, [0.1], 0.005, 0.001)).toMatchObject({ value: expect.closeTo(0.12, 12), at: 0.1 });
    expect(snap(0.003, 0.02, [0], 0.005, 0.001)).toEqual({ value: 0, at: 0 });
    expect(snap(0.1234, 0.02, [0.1], 0.002, 0.001).at).toBeNull();
  });
  it("seen from above with the nose to the left, starboard is up the sheet", () => {
    const s = sheetFor(box(1, 1, 0.2), 628, 400);
    expect(s.px("side", 1)).toBeGreaterThan(s.px("side", 0));
    expect(s.py("top", 0.5)).toBeLessThan(s.py("top", -0.5));
  });
  it("ticks are whole steps of 1, 2 or 5 times a power of ten of the unit, and lie in their range", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -10, max: 10, noNaN: true }),
        fc.double({ min: 1e-3, max: 10, noNaN: true }),
        fc.constantFrom(0.001, 0.0254),
        (min, range, unit) => {
          const ticks = ticksIn(min, min + range, 8, unit).map((t) => t / unit);
          expect(ticks.length).toBeGreaterThan(2);
          expect(ticks.length).toBeLessThan(18);
          const step = (ticks[1] ?? 0) - (ticks[0] ?? 0);
          const lead = step / 10 ** Math.floor(Math.log10(step) + 1e-6);
          expect([1, 2, 5, 10].some((n) => Math.abs(lead - n) < 1e-3)).toBe(true);
          for (const t of ticks) expect(Math.abs(t / step - Math.round(t / step))).toBeLessThan(1e-3);
          expect(Math.min(...ticks)).toBeGreaterThanOrEqual(min / unit - 1e-6);
          expect(Math.max(...ticks)).toBeLessThanOrEqual((min + range) / unit + 1e-6);
        },
      ),
    );
  });
  it("labels never cover each other and stay on the sheet", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 90 }), fc.integer({ min: 0, max: 90 })), { maxLength: 25 }),
        (points) => {
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
              expect(
                a.box.x < b.box.x + b.box.w &&
                  b.box.x < a.box.x + a.box.w &&
                  a.box.y < b.box.y + b.box.h &&
                  b.box.y < a.box.y + a.box.h,
              ).toBe(false);
          }
        },
      ),
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
      for (const ground of ["paper", "sheet", "well"])
        expect(contrast(token(ink), token(ground)), `${ink} on ${ground}`).toBeGreaterThanOrEqual(4.5);
    expect(contrast(token("on-accent"), token("accent"))).toBeGreaterThanOrEqual(4.5);
    expect(contrast(token("ink"), token("tint-stop"))).toBeGreaterThanOrEqual(4.5);
    expect(contrast(token("clear"), token("tint-clear"))).toBeGreaterThanOrEqual(4.5);
  });
});
