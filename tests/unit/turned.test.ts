import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Item, type Point, newItem } from "../../core/design/schema";
import { bodySchema } from "../../core/design/schema";
import { panel, surface } from "../support/wings";
import { ellipse } from "../../web/drawing/marks";
import { covarianceOn, facesOf, linesOfBody, outlinesOf, projector, turnedBy } from "../../web/drawing/turned";

const dot = (a: Point, b: Point) => a.x * b.x + a.y * b.y + a.z * b.z;
const cross = (a: Point, b: Point): Point => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});
const angle = () => fc.double({ min: -20, max: 20, noNaN: true });
const eyes = fc.record({ around: angle(), above: fc.double({ min: -Math.PI / 2, max: Math.PI / 2, noNaN: true }) });
const points = fc.record({ x: angle(), y: angle(), z: angle() });
const part = (change: Partial<Item> = {}) =>
  newItem({ id: "a", name: "A", place: { x: 1, y: 0.2, z: 0.3 }, size: { x: 0.4, y: 0.2, z: 0.1 }, ...change });

describe("the craft seen from anywhere", () => {
  it("right, up and away are an orthonormal frame, right-handed towards the eye", () => {
    fc.assert(
      fc.property(eyes, (eye) => {
        const { right, up, away } = projector(eye);
        for (const v of [right, up, away]) expect(dot(v, v)).toBeCloseTo(1, 9);
        expect(dot(right, up)).toBeCloseTo(0, 9);
        expect(dot(right, away)).toBeCloseTo(0, 9);
        expect(dot(up, away)).toBeCloseTo(0, 9);
        // Body axes are right-handed (aft × starboard = up): so are right × up = towards the eye.
        const towards = cross(right, up);
        expect(dot(towards, away)).toBeCloseTo(-1, 9);
      }),
    );
  });
  it("a distance is what it shows across and away: nothing is stretched", () => {
    fc.assert(
      fc.property(eyes, points, points, (eye, a, b) => {
        const p = projector(eye);
        const [u, v] = [p.at(a), p.at(b)];
        expect(Math.hypot(u.x - v.x, u.y - v.y, u.depth - v.depth)).toBeCloseTo(
          Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z),
          6,
        );
      }),
    );
  });
  it("from port it is the side view, from ahead the front view, from above the top view", () => {
    const aft = { x: 1, y: 0, z: 0 };
    const starboard = { x: 0, y: 1, z: 0 };
    const up = { x: 0, y: 0, z: 1 };
    const seen = (around: number, above: number, p: Point) => {
      const { x, y } = projector({ around, above }).at(p);
      return [x, y].map((v) => Math.round(v * 1e9) / 1e9 + 0);
    };
    // Nose left.
    expect([seen(Math.PI / 2, 0, aft), seen(Math.PI / 2, 0, up)]).toEqual([
      [1, 0],
      [0, 1],
    ]);
    // Starboard left.
    expect([seen(0, 0, starboard), seen(0, 0, up)]).toEqual([
      [-1, 0],
      [0, 1],
    ]);
    expect(seen(Math.PI / 2, Math.PI / 2, aft)).toEqual([1, 0]);
    expect(Math.abs(seen(Math.PI / 2, Math.PI / 2, starboard)[1] ?? 0)).toBe(1);
  });
  it("can be turned all the way round, and no further up than straight above", () => {
    fc.assert(
      fc.property(eyes, angle(), angle(), (eye, around, above) => {
        const next = turnedBy(eye, { around, above });
        expect(next.around).toBeGreaterThanOrEqual(0);
        expect(next.around).toBeLessThanOrEqual(2 * Math.PI);
        expect(Math.abs(next.above)).toBeLessThanOrEqual(Math.PI / 2);
      }),
    );
    expect(turnedBy({ around: 0.1, above: 0 }, { around: -0.2 }).around).toBeCloseTo(2 * Math.PI - 0.1, 9);
  });
});

describe("a part seen", () => {
  it("shows at most three faces, those turned towards the eye, each on its box", () => {
    fc.assert(
      fc.property(eyes, (eye) => {
        const view = projector(eye);
        const item = part();
        const faces = facesOf(item, view);
        expect(faces.length).toBeLessThanOrEqual(3);
        expect(faces.length).toBeGreaterThanOrEqual(1);
        for (const f of faces) {
          expect(f.points).toHaveLength(4);
          expect(f.depth).toBeLessThanOrEqual(view.at(item.place).depth + 1e-9);
          for (const p of f.points)
            for (const axis of ["x", "y", "z"] as const)
              expect(Math.abs(Math.abs(p[axis] - item.place[axis]) - item.size[axis] / 2)).toBeLessThan(1e-9);
        }
      }),
    );
  });
  it("covers on the sheet what a box covers: the area of its faces as they are turned (Cauchy)", () => {
    fc.assert(
      fc.property(eyes, (eye) => {
        const view = projector(eye);
        const { size } = part();
        const area = facesOf(part(), view).reduce((sum, { points }) => {
          const at = points.map((p) => view.at(p));
          const twice = at.reduce((s, p, k) => {
            const q = at[(k + 1) % at.length] ?? p;
            return s + p.x * q.y - q.x * p.y;
          }, 0);
          return sum + Math.abs(twice) / 2;
        }, 0);
        const { away } = view;
        const shadow =
          size.y * size.z * Math.abs(away.x) + size.x * size.z * Math.abs(away.y) + size.x * size.y * Math.abs(away.z);
        expect(area).toBeCloseTo(shadow, 8);
      }),
    );
  });
  it("a mirrored one is two boxes, one on each side", () => {
    const faces = facesOf(part({ mirrored: true, quantity: 2 }), projector({ around: 0.9, above: 0.4 }));
    expect(faces).toHaveLength(6);
    expect(Math.min(...faces.flatMap((f) => f.points.map((p) => p.y)))).toBeCloseTo(-0.3, 9);
  });
});

describe("the CG seen", () => {
  it(
    "its ellipse from port is that of the side view, and from anywhere no larger than the longest axis of " +
      "the ellipsoid",
    () => {
      const sd = { x: 0.01, y: 0.004, z: 0.006 };
      const cov = { xz: 2e-5, xy: -1e-5, yz: 5e-6 };
      const side = covarianceOn(projector({ around: Math.PI / 2, above: 0 }), sd, cov);
      expect(side.across).toBeCloseTo(sd.x ** 2, 12);
      expect(side.up).toBeCloseTo(sd.z ** 2, 12);
      expect(side.both).toBeCloseTo(cov.xz, 12);
      // The largest eigenvalue of a symmetric matrix is no more than its trace.
      fc.assert(
        fc.property(eyes, (eye) => {
          const on = covarianceOn(projector(eye), sd, cov);
          const e = ellipse(on.across, on.up, on.both);
          expect(e.major).toBeLessThanOrEqual(
            Math.sqrt(-2 * Math.log(0.1) * (sd.x ** 2 + sd.y ** 2 + sd.z ** 2)) + 1e-9,
          );
          expect(on.across * on.up - on.both ** 2).toBeGreaterThan(-1e-14);
        }),
      );
    },
  );
  it("against draws: the spread on the sheet of points with that covariance", () => {
    const sd = { x: 0.01, y: 0.004, z: 0.006 };
    const view = projector({ around: 0.7, above: 0.5 });
    const on = covarianceOn(view, sd, { xz: 0, xy: 0, yz: 0 });
    // The corners of a box at ± one standard deviation along each axis have just that covariance.
    const corners = [-1, 1].flatMap((x) =>
      [-1, 1].flatMap((y) => [-1, 1].map((z) => view.at({ x: x * sd.x, y: y * sd.y, z: z * sd.z }))),
    );
    const mean = (f: (p: { x: number; y: number }) => number) => corners.reduce((s, p) => s + f(p), 0) / corners.length;
    expect(on.across).toBeCloseTo(
      mean((p) => p.x ** 2),
      12,
    );
    expect(on.up).toBeCloseTo(
      mean((p) => p.y ** 2),
      12,
    );
    expect(on.both).toBeCloseTo(
      mean((p) => p.x * p.y),
      12,
    );
  });
});

describe("wings and bodies seen", () => {
  it("a mirrored wing has two outlines, a fin one", () => {
    const wing = surface({ id: "w", at: { x: 0.2, y: 0, z: 0 }, chord: 0.2, panels: [panel(0.5, 0.1)] });
    const [port, starboard] = outlinesOf(wing);
    expect(outlinesOf({ ...wing, mirrored: false })).toHaveLength(1);
    expect(port?.map((p) => p.y)).toEqual(starboard?.map((p) => -p.y + 0));
  });
  it.each(["round", "box"] as const)("a %s body is drawn by frames of its own width and height", (across) => {
    const body = bodySchema.parse({
      id: "b",
      name: "Hull",
      y: 0,
      mirrored: false,
      across,
      shapeBy: "measured",
      frames: [
        { x: 0, z: 0.1, width: 0.1, height: 0.2 },
        { x: 1, z: 0.1, width: 0.3, height: 0.4 },
      ],
    });
    const { closed, open } = linesOfBody(body);
    expect(closed).toHaveLength(2);
    for (const [k, ring] of closed.entries()) {
      const f = body.frames[k];
      if (!f) throw new Error("no frame");
      const span = (axis: "y" | "z") => Math.max(...ring.map((p) => p[axis])) - Math.min(...ring.map((p) => p[axis]));
      expect(span("y")).toBeCloseTo(f.width, 9);
      expect(span("z")).toBeCloseTo(f.height, 9);
    }
    for (const line of open) expect(line.map((p) => p.x)).toEqual([0, 1]);
  });
});
