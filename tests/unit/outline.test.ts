import { describe, expect, it } from "vitest";
import { type Lines, laidLeft, shapeFromOutline } from "../../core/exchange/outline";
import { panelSchema } from "../../core/subjects/surfaces/declares";
import { planformOf } from "../../core/subjects/surfaces/planform";

const DEG = Math.PI / 180;
const line = (...points: [number, number][]): Lines => [points.map(([a, b]) => ({ a, b }))];
const wing = (lines: Lines, is: "wing" | "half wing" | "fin" = "wing") => {
  const read = shapeFromOutline(lines, is);
  if (!read.ok || read.is !== "surface") throw new Error(read.ok ? "no surface" : read.problem);
  return { ...read.surface, cares: read.cares };
};
/** 1.2 m span, 250 mm root, 150 mm tip, swept 20°, its root at x = 100 mm. */
const lead = 0.6 * Math.tan(20 * DEG);
const swept: [number, number][] = [
  [0.1, 0],
  [0.1 + lead, 0.6],
  [0.1 + lead + 0.15, 0.6],
  [0.35, 0],
];
const whole = line(...swept, ...swept.map(([a, b]): [number, number] => [a, -b]).toReversed(), [0.1, 0]);

describe("a wing from its outline", () => {
  it("of straight edges is the one panel that it is; both sides count as one mirrored surface", () => {
    const w = wing(whole);
    expect(w.at).toEqual({ x: expect.closeTo(0.1, 3), y: 0, z: 0 });
    expect(w.chord).toBeCloseTo(0.25, 3);
    expect(w.mirrored).toBe(true);
    expect(w.panels.length).toBe(1);
    expect(w.panels[0]?.span).toBeCloseTo(0.6, 3);
    expect(w.panels[0]?.chord).toBeCloseTo(0.15, 3);
    expect((w.panels[0]?.sweep ?? 0) / DEG).toBeCloseTo(20, 0);
    expect(w.cares).toEqual([]);
  });
  it("is the same from half of it, whichever end lies below, and whichever way its nose points", () => {
    const half = line(...swept, [0.1, 0]);
    const over = half.map((l) => l.map((p) => ({ a: p.a, b: -p.b })));
    for (const lines of [half, over]) expect(wing(lines, "half wing").panels[0]?.chord).toBeCloseTo(0.15, 3);
    const right = whole.map((l) => l.map((p) => ({ a: -p.a * 1000, b: p.b * 1000 })));
    const up = whole.map((l) => l.map((p) => ({ a: p.b * 1000, b: -p.a * 1000 })));
    for (const [lines, nose] of [
      [right, "right"],
      [up, "up"],
    ] as const) {
      const w = wing(laidLeft(lines, nose, 1e-3));
      expect(w.panels.map((p) => p.chord)).toEqual(wing(whole).panels.map((p) => p.chord));
      expect(w.panels[0]?.sweep).toBeCloseTo(wing(whole).panels[0]?.sweep ?? 0, 6);
    }
  });
  it("of an ellipse has its area and mean chord in few panels (π/4 b c; 8/3π of the root chord)", () => {
    const [b, c] = [1, 0.2];
    const round = Array.from({ length: 721 }, (_, k): [number, number] => {
      const t = (2 * Math.PI * k) / 720;
      return [(c / 2) * Math.cos(t), (b / 2) * Math.sin(t)];
    });
    const w = wing(line(...round));
    expect(w.panels.length).toBeLessThanOrEqual(8);
    expect(w.panels.every((p) => panelSchema.safeParse(p).success)).toBe(true);
    const made = planformOf({ ...w, incidence: 0 });
    expect(made.area / ((Math.PI / 4) * b * c)).toBeCloseTo(1, 1);
    expect(made.mac / ((8 / (3 * Math.PI)) * c)).toBeCloseTo(1, 1);
  });
  it("that differs from side to side says so; a fin stands on its lowest edge", () => {
    const lopsided = line([0, 0], [0.1, 0.5], [0.2, 0.5], [0.2, -0.5], [0, -0.5], [0, 0]);
    expect(wing(lopsided).cares).toEqual(["Its sides differ: the one that is drawn above is taken for both."]);
    const fin = wing(line([0.9, 0.05], [0.95, 0.25], [1.02, 0.25], [1.05, 0.05], [0.9, 0.05]), "fin");
    expect(fin).toMatchObject({ mirrored: false, at: { y: 0 } });
    expect(fin.at.z).toBeCloseTo(0.05, 4);
    expect(fin.panels[0]).toMatchObject({ dihedral: Math.PI / 2 });
    expect(fin.panels[0]?.span).toBeCloseTo(0.2, 3);
  });
});

describe("a body from its outline", () => {
  const cone = line([0, 0], [1, 0.1], [1, -0.1], [0, 0]);
  it("is round, from the side or from above, as few frames as tell it", () => {
    for (const is of ["body from the side", "body from above"] as const) {
      const read = shapeFromOutline(cone, is);
      if (!read.ok || read.is !== "body") throw new Error("no body");
      expect(read.body.across).toBe("round");
      expect(read.body.frames.length).toBe(2);
      expect(read.body.frames.at(-1)).toMatchObject({ x: 1, z: 0 });
      expect(read.body.frames.at(-1)?.width).toBeCloseTo(0.2, 2);
      expect(read.body.frames.at(-1)?.height).toBe(read.body.frames.at(-1)?.width);
      expect(read.cares[0]).toMatch(/as round/);
    }
  });
  it("is refused in words where there is none", () => {
    expect(shapeFromOutline([], "wing")).toMatchObject({ ok: false });
    expect(shapeFromOutline(line([0, 0], [0.5, 0]), "wing")).toMatchObject({ ok: false });
    expect(shapeFromOutline(line([0, 0], [500, 20], [500, -20]), "wing")).toMatchObject({ ok: false });
  });
});
