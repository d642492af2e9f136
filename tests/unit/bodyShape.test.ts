import { describe, expect, it } from "vitest";
import {
  bodyGives,
  girthOf,
  halfOf,
  heldBelow,
  plainOutline,
  pointAdded,
  pointMoved,
  pointTaken,
  ringOf,
} from "../../core/subjects/surfaces/bodyShape";
import type { BodyShape, Frame } from "../../core/subjects/surfaces/declares";

const frame = (x: number, width: number, height: number, z = 0): Frame => ({ x, z, width, height });
const gives = (across: BodyShape["across"], frames: Frame[], mirrored = false) =>
  bodyGives({ across, frames, mirrored });

describe("what a body holds", () => {
  it("a cylinder, a cone and a box, by their closed forms", () => {
    const tube = gives("round", [frame(0, 0.2, 0.2), frame(1, 0.2, 0.2)]);
    expect(tube.volume / (Math.PI * 0.01)).toBeCloseTo(1, 2);
    expect(tube.skin / (Math.PI * 0.2 + 2 * Math.PI * 0.01)).toBeCloseTo(1, 2);
    const cone = gives("round", [frame(0, 0, 0), frame(1, 0.2, 0.2)]);
    expect(cone.volume / ((Math.PI * 0.01) / 3)).toBeCloseTo(1, 2);
    expect(cone.middle?.x).toBeCloseTo(0.75, 6);
    expect(cone.skin / (Math.PI * 0.1 * Math.hypot(1, 0.1) + Math.PI * 0.01)).toBeCloseTo(1, 2);
    const crate = gives("box", [frame(0, 0.3, 0.1, 0.2), frame(0.5, 0.3, 0.1, 0.2)], true);
    expect(crate.volume).toBeCloseTo(2 * 0.015, 9);
    expect(crate.middle).toEqual({ x: expect.closeTo(0.25, 9), z: expect.closeTo(0.2, 9) });
    expect(crate.skin).toBeCloseTo(2 * (2 * (0.5 * 0.3 + 0.5 * 0.1) + 2 * 0.03), 6);
  });
  it("a wedge from a square to an edge: half of its box, its middle a third from the square", () => {
    const wedge = gives("box", [frame(0, 0.2, 0.2), frame(1, 0.2, 0)]);
    expect(wedge.volume).toBeCloseTo(0.02, 9);
    expect(wedge.middle?.x).toBeCloseTo(1 / 3, 9);
  });
  it("a V of a free section is a triangle; closed level at its top", () => {
    const v = [
      { out: 0, up: -1 },
      { out: 1, up: 1 },
    ];
    const frames = [0, 1].map((x) => ({ ...frame(x, 0.2, 0.1), outline: v }));
    const made = gives("free", frames);
    expect(made.volume / 0.01).toBeCloseTo(1, 3);
    expect(made.middle?.z).toBeCloseTo(-0.05 + (2 / 3) * 0.1, 5);
    expect(girthOf("free", frames[0] as Frame)).toBeCloseTo(2 * Math.hypot(0.1, 0.1) + 0.2, 9);
  });
  it("the ellipse that a free section begins as is near the round one", () => {
    const f = { ...frame(0, 0.3, 0.2), outline: plainOutline() };
    expect(girthOf("free", f) / girthOf("round", f)).toBeCloseTo(1, 1);
    expect(ringOf("round", f).length).toBe(48);
    // Perimeter of an ellipse of 3 by 2: 4 a E(e²), a = 1.5, by its complete elliptic integral (Abramowitz & Stegun
    // 17.3).
    expect(girthOf("round", frame(0, 3, 2))).toBeCloseTo(7.9327, 3);
    expect(girthOf("round", frame(0, 2, 2))).toBeCloseTo(2 * Math.PI, 12);
  });
});

describe("what lies below a height", () => {
  it("of a box is its share; of a cylinder half full, half; of nothing, nothing", () => {
    const crate = {
      across: "box" as const,
      mirrored: true,
      frames: [frame(0, 0.3, 0.1, 0.05), frame(0.5, 0.3, 0.1, 0.05)],
    };
    const wet = heldBelow(crate, 0.04);
    expect(wet.volume).toBeCloseTo(2 * 0.5 * 0.3 * 0.04, 6);
    expect(wet.middle).toEqual({ x: expect.closeTo(0.25, 6), z: expect.closeTo(0.02, 4) });
    expect(wet.waterplane).toBeCloseTo(2 * 0.5 * 0.3, 4);
    const tube = { across: "round" as const, mirrored: false, frames: [frame(0, 0.2, 0.2), frame(1, 0.2, 0.2)] };
    expect(heldBelow(tube, 0).volume / (Math.PI * 0.005)).toBeCloseTo(1, 2);
    // Half a circle: its middle 4r/3π below its diameter.
    expect(heldBelow(tube, 0).middle?.z).toBeCloseTo((-4 * 0.1) / (3 * Math.PI), 3);
    expect(heldBelow(tube, -1)).toEqual({
      ...{ volume: 0, middle: null, waterplane: 0 },
      moments: { along: 0, alongTwice: 0, across: 0 },
    });
    expect(heldBelow(tube, 1).volume).toBeCloseTo(bodyGives(tube).volume, 9);
  });
  it("of a Wigley hull at its waterline: 4/9 L B T, KB 5/8 T, waterplane 2/3 L B (closed forms)", () => {
    const [l, w, d] = [1.2, 0.12, 0.075];
    const frames = Array.from({ length: 21 }, (_, k): Frame => {
      const x = (l * k) / 20;
      const wide = w * (1 - ((2 * x) / l - 1) ** 2);
      const outline = Array.from({ length: 20 }, (_, i) => ({ out: 1 - (1 - i / 19) ** 2, up: (2 * i) / 19 - 1 }));
      return { ...frame(x, wide, d, d / 2), outline };
    });
    const wet = heldBelow({ across: "free", mirrored: false, frames }, d - 1e-9);
    // Straight lines between its points lie inside of it: less than 1 % is lost.
    for (const ratio of [
      wet.volume / ((4 / 9) * l * w * d),
      (wet.middle?.z ?? 0) / ((5 / 8) * d),
      wet.waterplane / ((2 / 3) * l * w),
    ]) {
      expect(ratio).toBeGreaterThan(0.99);
      expect(ratio).toBeLessThan(1.005);
    }
    expect(wet.middle?.x).toBeCloseTo(l / 2, 6);
  });
});

describe("a free section that is drawn", () => {
  const f: Frame = { ...frame(0.4, 0.2, 0.2), outline: [0, 0.5, 1, 0.5, 0].map((out, k) => ({ out, up: k / 2 - 1 })) };
  it("grows with a point that is moved out, and keeps the others where they are", () => {
    const wider = pointMoved(f, 2, { out: 0.2, z: 0 });
    expect([wider.width, wider.height, wider.z]).toEqual([0.4, 0.2, 0]);
    expect(halfOf("free", wider).map((p) => Math.round(p.out * 1e4) / 1e4)).toEqual([0, 0.05, 0.2, 0.05, 0]);
    const lower = pointMoved(f, 0, { out: 0, z: -0.2 });
    expect([lower.height, lower.z]).toEqual([0.3, -0.05]);
    expect(halfOf("free", lower)[2]?.z).toBeCloseTo(0, 6);
  });
  it("stays between its neighbours in height and on its own side", () => {
    const held = pointMoved(f, 2, { out: -0.3, z: 5 });
    expect(halfOf("free", held)[2]).toEqual({ out: 0, z: expect.closeTo(0.05, 6) });
    expect(pointMoved(f, 9, { out: 1, z: 1 })).toBe(f);
  });
  it("takes a point more or less; two stay", () => {
    const more = pointAdded(f, 1);
    expect(more.outline?.length).toBe(6);
    expect(bodyGives({ across: "free", mirrored: false, frames: [more, { ...more, x: 1 }] }).volume).toBeCloseTo(
      bodyGives({ across: "free", mirrored: false, frames: [f, { ...f, x: 1 }] }).volume,
      6,
    );
    expect(pointTaken(more, 2).outline?.length).toBe(5);
    const two = {
      ...f,
      outline: [
        { out: 0, up: -1 },
        { out: 1, up: 1 },
      ],
    };
    expect(pointTaken(two, 0)).toBe(two);
    let full = f;
    for (let k = 0; k < 40; k++) full = pointAdded(full, 0);
    expect(full.outline?.length).toBe(24);
  });
});
