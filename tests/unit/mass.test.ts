import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { emptyDesign } from "../../core/design/schema";
import { ballastFor, leverage, shiftFor } from "../../core/subjects/balance/lever";
import { rollUp } from "../../core/subjects/mass/rollup";
import { seededRandom } from "../../core/numeric/random";
import { part } from "../support/designs";

const craft = (items: ReturnType<typeof part>[]) => ({ ...emptyDesign("wings" as const), items });
const LB = 0.45359237;
const INCH = 0.0254;

describe("weight and balance handbook", () => {
  // FAA-H-8083-1B, Aircraft Weight and Balance Handbook, chapter 2 (figures from memory; each also follows by hand):
  // worked example of finding the CG with four weights on a lever
  // (weights 100 lb at 50 in, 100 lb at 90 in, 200 lb at 150 in: CG 110 in aft of the datum).
  it("finds the CG of the lever example", () => {
    const at = (lb: number, inches: number, id: string) =>
      part({ id, mass: { value: lb * LB, evidence: "measured" }, place: { x: inches * INCH, y: 0, z: 0 } });
    const r = rollUp(craft([at(100, 50, "a"), at(100, 90, "b"), at(200, 150, "c")]));
    expect(r && r.cg.x / INCH).toBeCloseTo(110, 9);
    expect(r && r.mass / LB).toBeCloseTo(400, 9);
  });
  // Same handbook, weight-shift formula: weight shifted / total weight = change of CG / distance shifted. 100 of 400
  // lb by 20 in: 5 in.
  it("shifts the CG as the shift formula says", () => {
    const shift = shiftFor(400, 110, 115, { mass: 100, at: 90, range: { from: 0, to: 200 } });
    expect(shift.to).toBeCloseTo(110, 9);
    expect(shift.inRange).toBe(true);
  });
  // Same handbook, ballast formula: ballast = total × distance needed / (ballast arm − desired CG).
  // Hand-worked: 1876 lb at 32.2 in, desired 33.0 in, ballast at 228 in: 1876·0.8/195 = 7.696 lb.
  it("finds the ballast of the ballast formula", () => {
    expect(ballastFor(1876, 32.2, 33, 228)).toBeCloseTo(7.696, 3);
    expect(ballastFor(1876, 32.2, 33, 20)).toBeNull();
  });
});

describe("inertia of solids (closed forms, Meriam & Kraige, Dynamics, table D/4)", () => {
  it("box: m(b² + c²)/12", () => {
    const r = rollUp(
      craft([
        part({
          id: "a",
          mass: { value: 2, evidence: "measured" },
          size: { x: 0.6, y: 0.3, z: 0.2 },
          place: { x: 5, y: 1, z: 2 },
        }),
      ]),
    );
    expect(r?.inertia.roll).toBeCloseTo((2 * (0.09 + 0.04)) / 12, 12);
    expect(r?.inertia.pitch).toBeCloseTo((2 * (0.36 + 0.04)) / 12, 12);
    expect(r?.inertia.yaw).toBeCloseTo((2 * (0.36 + 0.09)) / 12, 12);
  });
  it("dumb-bell: 2·m·r² about the middle, nothing about its own axis", () => {
    const r = rollUp(
      craft([
        part({
          id: "a",
          mirrored: true,
          quantity: 2,
          mass: { value: 1, evidence: "measured" },
          place: { x: 0, y: 0.5, z: 0 },
        }),
      ]),
    );
    expect(r?.inertia.roll).toBeCloseTo(0.5, 12);
    expect(r?.inertia.pitch).toBeCloseTo(0, 12);
    expect(r?.cg.y).toBeCloseTo(0, 12);
  });
  it("a box cut in eight has the inertia of the whole box", () => {
    const whole = rollUp(
      craft([part({ id: "w", mass: { value: 8, evidence: "measured" }, size: { x: 0.4, y: 0.6, z: 0.2 } })]),
    );
    const eighth = [-1, 1].flatMap((i) =>
      [-1, 1].flatMap((j) =>
        [-1, 1].map((k) =>
          part({
            id: `p${i}${j}${k}`,
            mass: { value: 1, evidence: "measured" },
            size: { x: 0.2, y: 0.3, z: 0.1 },
            place: { x: i * 0.1, y: j * 0.15, z: k * 0.05 },
          }),
        ),
      ),
    );
    const cut = rollUp(craft(eighth));
    for (const axis of ["roll", "pitch", "yaw"] as const)
      expect(cut?.inertia[axis]).toBeCloseTo(whole?.inertia[axis] ?? 0, 12);
  });
});

const items = fc.array(
  fc.record({
    m: fc.double({ min: 0.001, max: 5, noNaN: true }),
    x: fc.double({ min: -2, max: 2, noNaN: true }),
    y: fc.double({ min: -1, max: 1, noNaN: true }),
    z: fc.double({ min: -1, max: 1, noNaN: true }),
    n: fc.integer({ min: 1, max: 5 }),
  }),
  { minLength: 1, maxLength: 12 },
);
const toParts = (list: { m: number; x: number; y: number; z: number; n: number }[]) =>
  list.map((p, i) =>
    part({
      id: `p${i}`,
      quantity: p.n,
      mass: { value: p.m, evidence: "measured" },
      place: { x: p.x, y: p.y, z: p.z },
      size: { x: 0.1, y: 0.05, z: 0.02 },
    }),
  );

describe("properties of the roll-up", () => {
  it("does not depend on the order of the parts", () => {
    fc.assert(
      fc.property(items, (list) => {
        const a = rollUp(craft(toParts(list)));
        const b = rollUp(craft(toParts(list).toReversed()));
        expect(b?.mass).toBeCloseTo(a?.mass ?? 0, 9);
        expect(b?.cg.x).toBeCloseTo(a?.cg.x ?? 0, 9);
        expect(b?.cgSd.x).toBeCloseTo(a?.cgSd.x ?? 0, 9);
        expect(b?.inertia.yaw).toBeCloseTo(a?.inertia.yaw ?? 0, 8);
      }),
    );
  });
  it("moving all parts moves the CG as much and changes no inertia", () => {
    fc.assert(
      fc.property(items, fc.double({ min: -3, max: 3, noNaN: true }), (list, by) => {
        const a = rollUp(craft(toParts(list)));
        const b = rollUp(craft(toParts(list.map((p) => ({ ...p, x: p.x + by })))));
        expect((b?.cg.x ?? 0) - (a?.cg.x ?? 0)).toBeCloseTo(by, 9);
        expect(b?.inertia.pitch).toBeCloseTo(a?.inertia.pitch ?? 0, 7);
      }),
    );
  });
  it("ballast and shift both bring the CG to the same target", () => {
    fc.assert(
      fc.property(items, fc.double({ min: -0.4, max: 0.4, noNaN: true }), (list, by) => {
        const parts = toParts(list);
        const a = rollUp(craft(parts));
        const first = parts[0];
        if (!a || !first?.mass) return;
        const target = a.cg.x + by;
        const place = by < 0 ? -4 : 4;
        const ballast = ballastFor(a.mass, a.cg.x, target, place);
        expect(ballast).not.toBeNull();
        if (ballast) {
          const b = rollUp(
            craft([
              ...parts,
              part({ id: "ballast", mass: { value: ballast, evidence: "measured" }, place: { x: place, y: 0, z: 0 } }),
            ]),
          );
          expect(b?.cg.x).toBeCloseTo(target, 9);
        }
        const shift = shiftFor(a.mass, a.cg.x, target, {
          mass: first.mass.value * first.quantity,
          at: first.place.x,
          range: null,
        });
        const moved = parts.map((p) => (p.id === first.id ? { ...p, place: { ...p.place, x: shift.to } } : p));
        expect(rollUp(craft(moved))?.cg.x).toBeCloseTo(target, 6);
      }),
    );
  });
  it("a gram in the tail and its leverage at the nose leave the CG where it was", () => {
    const parts = toParts([{ m: 1, x: 0.3, y: 0, z: 0, n: 1 }]);
    const grams = leverage(0.3, 0.8, 0) * 0.001;
    const r = rollUp(
      craft([
        ...parts,
        part({ id: "t", mass: { value: 0.001, evidence: "measured" }, place: { x: 0.8, y: 0, z: 0 } }),
        part({ id: "n", mass: { value: grams, evidence: "measured" }, place: { x: 0, y: 0, z: 0 } }),
      ]),
    );
    expect(r?.cg.x).toBeCloseTo(0.3, 12);
  });
});

describe("uncertainty by linear propagation against sampling", () => {
  it("agrees within 5 % for mass, CG x and z", () => {
    const parts = [
      part({
        id: "a",
        mass: { value: 0.4, evidence: "datasheet" },
        place: { x: 0.1, y: 0.02, z: 0.05 },
        placeEvidence: "datasheet",
        quantity: 2,
      }),
      part({
        id: "b",
        mass: { value: 0.2, evidence: "guess", sd: 0.02 },
        place: { x: 0.7, y: -0.05, z: 0.2 },
        placeEvidence: "datasheet",
        placeSd: 0.01,
      }),
      part({ id: "c", mass: { value: 0.3, evidence: "measured" }, place: { x: 0.35, y: 0, z: 0.1 } }),
    ];
    const linear = rollUp(craft(parts));
    const random = seededRandom(7);
    const places = [0.002, 0.01, 0.0005];
    const masses = [0.4 * 0.08, 0.02, 0.3 * 0.01];
    const n = 20000;
    const sums = { m: 0, m2: 0, x: 0, x2: 0, z: 0, z2: 0, xz: 0 };
    for (let k = 0; k < n; k++) {
      const r = rollUp(
        craft(
          parts.map((p, i) => ({
            ...p,
            mass: { value: (p.mass?.value ?? 0) + (masses[i] ?? 0) * random.normal(), evidence: "measured" as const },
            place: {
              x: p.place.x + (places[i] ?? 0) * random.normal(),
              y: p.place.y,
              z: p.place.z + (places[i] ?? 0) * random.normal(),
            },
          })),
        ),
      );
      if (!r) continue;
      sums.m += r.mass / n;
      sums.m2 += r.mass ** 2 / n;
      sums.x += r.cg.x / n;
      sums.x2 += r.cg.x ** 2 / n;
      sums.z += r.cg.z / n;
      sums.z2 += r.cg.z ** 2 / n;
      sums.xz += (r.cg.x * r.cg.z) / n;
    }
    expect(Math.sqrt(sums.m2 - sums.m ** 2) / (linear?.massSd ?? 0)).toBeCloseTo(1, 1);
    expect(Math.abs(Math.sqrt(sums.x2 - sums.x ** 2) / (linear?.cgSd.x ?? 0) - 1)).toBeLessThan(0.05);
    expect(Math.abs(Math.sqrt(sums.z2 - sums.z ** 2) / (linear?.cgSd.z ?? 0) - 1)).toBeLessThan(0.05);
    expect(Math.abs((sums.xz - sums.x * sums.z) / (linear?.cov.xz ?? 1) - 1)).toBeLessThan(0.1);
  });
});
