import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Design, designSchema } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import {
  anglesOf,
  byAngles,
  overlapOf,
  placedUnits,
  pushOf,
  recount,
  towardOf,
  meanWay,
} from "../../core/subjects/propulsion/placed";
import { changed } from "../support/designs";

const first = (d: Design) => {
  const [unit] = d.units;
  if (!unit) throw new Error("no drive");
  return unit;
};
const O = { x: 0, y: 0, z: 0 };
const at = (x: number, y: number, z: number) => ({ x, y, z });
/** One newton at a place, pushing that way: its moment about the origin. */
const momentOf = (place: typeof O, toward: typeof O) => {
  const design = changed((d) => void (first(d).places = [{ at: place, toward }]));
  const push = pushOf(design, [{ drive: 0, thrust: 1 }], O);
  if (!push) throw new Error("not placed");
  return push;
};

describe("one newton at a known place", () => {
  // Signs of the model: pitch nose up is plus y, yaw nose to starboard minus z, roll starboard down minus x.
  it("pushed ahead above the CG pitches the nose down, to starboard of it turns the nose to port", () => {
    expect(momentOf(at(0, 0, 1), at(-1, 0, 0)).moment).toEqual({ x: 0, y: -1, z: 0 });
    expect(momentOf(at(0, 1, 0), at(-1, 0, 0)).moment.z).toBe(1);
  });
  it("pushed up ahead of the CG lifts the nose, to starboard of it lifts that side", () => {
    expect(momentOf(at(-1, 0, 0), at(0, 0, 1)).moment.y).toBe(1);
    expect(momentOf(at(0, 1, 0), at(0, 0, 1)).moment.x).toBe(1);
  });
  it("has a length of 1 whatever was entered, and falls along its line without a change of moment", () => {
    fc.assert(
      fc.property(
        fc.tuple(...Array.from({ length: 7 }, () => fc.double({ min: -1, max: 1, noNaN: true }))),
        ([x = 0, y = 0, z = 0, a = 0, b = 0, c = 0, s = 0]) => {
          fc.pre(Math.hypot(a, b, c) > 0.2);
          const here = momentOf(at(x, y, z), at(a, b, c));
          const n = Math.hypot(a, b, c);
          expect(Math.hypot(here.force.x, here.force.y, here.force.z)).toBeCloseTo(1, 9);
          const there = momentOf(at(x + (s * a) / n, y + (s * b) / n, z + (s * c) / n), at(a, b, c));
          for (const k of ["x", "y", "z"] as const) expect(there.moment[k]).toBeCloseTo(here.moment[k], 9);
        },
      ),
    );
  });
});

describe("where units are", () => {
  it("angles and vectors are the same thing", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3.1, max: 3.1, noNaN: true }),
        fc.double({ min: -1.5, max: 1.5, noNaN: true }),
        (turned, raised) => {
          const back = anglesOf(byAngles(turned, raised));
          expect(back.turned).toBeCloseTo(turned, 9);
          expect(back.raised).toBeCloseTo(raised, 9);
        },
      ),
    );
    expect(byAngles(0, 0)).toEqual(towardOf({ direction: "ahead", tilt: 0 }));
    expect(anglesOf(towardOf({ direction: "up", tilt: 0 }))).toEqual({ turned: 0, raised: Math.PI / 2 });
    expect(anglesOf(towardOf({ direction: "starboard", tilt: 0 })).turned).toBeCloseTo(Math.PI / 2, 12);
  });
  it("follows the entry of the ledger, of a mirrored one on both sides, until each is placed by itself", () => {
    const mirrored = changed((d) => {
      first(d).count = 2;
      const item = d.items.find((i) => i.id === "prop");
      if (item) Object.assign(item, { mirrored: true, quantity: 2, place: at(0.1, 0.2, 0.05) });
    });
    expect(placedUnits(mirrored, 0).map((u) => u.at.y)).toEqual([0.2, -0.2]);
    expect(
      placedUnits(
        changed((d) => void (first(d).propellerItemId = null)),
        0,
      ),
    ).toEqual([]);
  });
  it("a place for each of the like units, or none; a direction has a length", () => {
    const issues = (change: (d: Design) => void) =>
      designSchema
        .safeParse(changed(change))
        .error?.issues.map((i) => i.message)
        .join() ?? "";
    const place = { at: O, toward: at(-1, 0, 0) };
    expect(issues((d) => void (first(d).places = [place]))).toBe("");
    expect(issues((d) => void (first(d).places = [place, place]))).toMatch(/as many places/);
    expect(issues((d) => void (first(d).places = [{ at: O, toward: O }]))).toMatch(/has a length/);
  });
  it(
    "another number of units keeps those that are placed, mirrors the last, and the word follows the " + "directions",
    () => {
      const unit = first(changed((d) => void (first(d).places = [{ at: at(0.1, 0.2, 0), toward: at(0, 0.6, 0.8) }])));
      recount(unit, 2);
      expect(unit.places[1]).toEqual({ at: at(0.1, -0.2, 0), toward: at(0, -0.6, 0.8) });
      expect(meanWay(unit.places.map((p) => p.toward))).toEqual({ direction: "up", tilt: 0 });
      recount(unit, 1);
      expect(unit.places).toHaveLength(1);
      expect(meanWay([byAngles(Math.PI, 0)]).direction).toBe("astern");
      expect(meanWay([byAngles(0.7, 0)]).direction).toBe("ahead");
      const canted = meanWay([byAngles(0.3, 0.2), byAngles(-0.3, 0.2)]);
      expect(canted.direction).toBe("ahead");
      expect(canted.tilt).toBeCloseTo(Math.atan2(Math.sin(0.2), Math.cos(0.2) * Math.cos(0.3)), 9);
    },
  );
  it("discs overlap that look the same way, near one another, less than a diameter apart", () => {
    const u = (x: number, y: number, toward = at(-1, 0, 0)) => ({ drive: 0, k: 0, at: at(x, y, 0), toward, share: 1 });
    expect(overlapOf(u(0, 0), u(0, 0.15), 0.2)).toBeCloseTo(0.05, 9);
    expect(overlapOf(u(0, 0), u(0.03, 0), 0.2)).toBeCloseTo(0.2, 9);
    expect(overlapOf(u(0, 0), u(0.5, 0), 0.2)).toBe(0);
    expect(overlapOf(u(0, 0), u(0, 0.1, at(0, 0, 1)), 0.2)).toBe(0);
  });
});

describe("full thrust and the CG", () => {
  const line = (change: (d: Design) => void) =>
    evaluate(changed(change)).findings.find((f) => f.code === "thrust-line")?.params as
      | { shift: number; arm: number }
      | undefined;
  const high = (d: Design) => {
    const item = d.items.find((i) => i.id === "prop");
    if (item) item.place.z = 0.15;
  };
  it("is the same from the ledger and placed by hand", () => {
    const [a, b] = [
      line(high),
      line((d) => {
        high(d);
        const item = d.items.find((i) => i.id === "prop");
        if (item) first(d).places = [{ at: { ...item.place }, toward: at(-1, 0, 0) }];
      }),
    ];
    expect(b?.shift).toBeCloseTo(a?.shift ?? 0, 12);
    expect(b?.arm).toBeCloseTo(a?.arm ?? 0, 12);
  });
  it("above the CG it pitches the nose down when it pushes ahead, and up when astern", () => {
    expect(line(high)?.shift ?? 0).toBeGreaterThan(0);
    const astern = line((d) => {
      high(d);
      first(d).direction = "astern";
    });
    expect(astern?.shift ?? 0).toBeLessThan(0);
    expect(astern?.arm ?? 0).toBeGreaterThan(0);
  });
  it("of two drives at unlike heights is the one of both together, not that of the first", () => {
    const two = (d: Design) => {
      high(d);
      d.items.push({ ...structuredClone(d.items.find((i) => i.id === "prop") ?? fail()), id: "low", name: "low" });
      const low = d.items.find((i) => i.id === "low");
      const cg = evaluate(changed(high)).metrics.cgZ?.value ?? 0;
      if (low) low.place.z = 2 * cg - 0.15;
      d.units.push({ ...structuredClone(first(d)), id: "d2", name: "second", propellerItemId: "low" });
    };
    expect(Math.abs(line(two)?.arm ?? 0)).toBeLessThan(0.01);
  });
});
function fail(): never {
  throw new Error("no propeller");
}
