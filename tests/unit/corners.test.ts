import { describe, expect, it } from "vitest";
import type { Design } from "../../core/design/schema";
import { evaluate, findingText } from "../../core/evaluate";
import type { AuthorityResult } from "../../core/subjects/authority/node";
import { cornersOf, placedUnits, pushOf, recount } from "../../core/subjects/propulsion/placed";
import { changed } from "../support/designs";
import { middle } from "../support/rules/hover";

const quad = (newtons: (number | null)[], sd?: number) =>
  changed(
    middle((d: Design) => {
      for (const [k, p] of (d.units[0]?.places ?? []).entries()) {
        const value = newtons[k];
        if (value) p.weighed = { value, evidence: "measured", ...(sd === undefined ? {} : { sd }) };
      }
    }),
  );
const found = (d: Design) => evaluate(d).findings.find((f) => f.code === "corners-unequal");
const level = (d: Design) => {
  const o = evaluate(d).outcomes.authority;
  if (o?.status !== "solved") throw new Error("not solved");
  return o.result as AuthorityResult;
};

describe("units that were weighed one by one", () => {
  it("count each with its share of their mean; the drive pushes what it pushed", () => {
    const d = quad([5, 5, 5, 4]);
    expect(placedUnits(d, 0).map((u) => u.share)).toEqual([5, 5, 5, 4].map((n) => expect.closeTo(n / 4.75, 9)));
    const push = pushOf(d, [{ drive: 0, thrust: 20 }], { x: 0, y: 0, z: 0 });
    expect(push?.force.z).toBeCloseTo(20, 9);
    expect(evaluate(d).metrics.thrust?.value).toBe(evaluate(quad([])).metrics.thrust?.value);
  });
  it(
    "level by statics: a weak corner and the one across from it carry what the others leave, each by its " +
      "own throttle",
    () => {
      const d = quad([5, 5, 5, 4]);
      const r = level(d);
      const lift = r.units.map((u, k) => u.most * (r.holding.shares?.[k] ?? 0));
      const about = (pick: (u: (typeof r.units)[number]) => number) =>
        r.units.reduce((s, u, k) => s + (lift[k] ?? 0) * pick(u), 0);
      const total = lift.reduce((s, v) => s + v, 0);
      const e = evaluate(d);
      expect(total).toBeCloseTo((e.metrics.auw?.value ?? 0) * 9.80665, 3);
      expect(about((u) => u.at.x) / total).toBeCloseTo(e.metrics.cgX?.value ?? 0, 4);
      expect(about((u) => u.at.y)).toBeCloseTo(0, 6);
      // Lift and both moments leave one throttle free: the weak unit's, and it is the hardest.
      expect(r.hardest?.value).toBeGreaterThan(r.alike ?? 9);
    },
  );
  it("unequal ones are said, with what they eat; the same within their doubt are not", () => {
    const d = quad([5, 5, 5, 4]);
    const f = found(d);
    expect(f?.severity).toBe("care");
    expect(f && findingText(f, "metric")).toMatch(
      /unit 4 pushes 16 % less than the mean of its like: holding level takes \d+ % of the hardest unit, \d+ % if all were alike/,
    );
    expect(found(quad([5, 5, 5, 4.9]))).toBeUndefined();
    // A scale that is no better than the difference tells none.
    expect(found(quad([5, 5, 5, 4], 0.6))).toBeUndefined();
  });
  it("count alike until all of them are weighed; a new one is not taken for weighed", () => {
    const some = quad([5, 5, null, 4]);
    expect(cornersOf(some.units[0] ?? { places: [] })).toBeNull();
    expect(placedUnits(some, 0).map((u) => u.share)).toEqual([1, 1, 1, 1]);
    const five = structuredClone(quad([5, 5, 5, 4]));
    const [u] = five.units;
    if (!u) throw new Error("no drive");
    recount(u, 5);
    expect(u.places[4]?.weighed).toBeUndefined();
    expect(cornersOf(u)).toBeNull();
  });
  it("of a craft pushed along, move the line of thrust toward the strong side", () => {
    const d = changed((x) => {
      const [u] = x.units;
      if (!u) return;
      u.count = 2;
      u.places = [-0.2, 0.2].map((y) => ({
        at: { x: 0.5, y, z: 0.1 },
        toward: { x: -1, y: 0, z: 0 },
        weighed: { value: y > 0 ? 6 : 4, evidence: "measured" as const },
      }));
    });
    const push = pushOf(d, [{ drive: 0, thrust: 10 }], { x: 0, y: 0, z: 0.1 });
    // 6 N to starboard and 4 N to port of 10 N, 0.2 m out: 0.4 N·m turning the nose to port (plus z).
    expect(push?.moment.z).toBeCloseTo(0.2 * (6 - 4), 9);
  });
});
