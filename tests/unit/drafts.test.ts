import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { WEIGH_IN_KINDS, type WeighIn } from "../../core/design/bench";
import { throttlesOf, newRig, newThrust, notSafe, STEPS } from "../../web/stations/bench/thrust/thrustDraft";
import { draftOf, finish, newDraft } from "../../web/stations/bench/weigh/weighInDraft";
import { rigSchema, thrustTestSchema } from "../../core/design/thrustTest";
import { quietDesign } from "../support/designs";

const loads = fc.array(fc.double({ min: 0, max: 50, noNaN: true }), { minLength: 1, maxLength: 6 });
const place = fc.double({ min: -2, max: 2, noNaN: true });
const scale = fc.record({ resolution: fc.constantFrom(0.001, 0.0001, 0.005), error: fc.constantFrom(0, 0.001, 0.01) });
const ruler = fc.constantFrom(0.0005, 0.001, 0.002);
const pair = <T>(of: fc.Arbitrary<T>) => fc.tuple(of, of);
const distinct = pair(place).filter(([a, b]) => a !== b);
const triangle = fc
  .tuple(fc.record({ x: place, y: place }), fc.record({ x: place, y: place }), fc.record({ x: place, y: place }))
  .filter(([p, q, r]) => Math.abs((q.x - p.x) * (r.y - p.y) - (r.x - p.x) * (q.y - p.y)) > 1e-3);

const ANY: Record<(typeof WEIGH_IN_KINDS)[number], fc.Arbitrary<WeighIn>> = {
  total: fc.record({ kind: fc.constant("total" as const), scale, loads }),
  parts: fc.record({
    kind: fc.constant("parts" as const),
    scale,
    parts: fc.uniqueArray(fc.record({ itemId: fc.constantFrom("a", "b", "hull"), loads }), {
      selector: (p) => p.itemId,
      minLength: 1,
    }),
  }),
  "two-scales": fc.record({ kind: fc.constant("two-scales" as const), scale, ruler, at: distinct, loads: pair(loads) }),
  "three-scales": fc.record({
    kind: fc.constant("three-scales" as const),
    scale,
    ruler,
    at: triangle,
    loads: fc.tuple(loads, loads, loads),
  }),
  "knife-edge": fc.record({
    kind: fc.constant("knife-edge" as const),
    ruler,
    places: fc.array(place, { minLength: 1, maxLength: 5 }),
  }),
  "level-and-tilted": fc.record({
    kind: fc.constant("level-and-tilted" as const),
    scale,
    ruler,
    at: pair(place),
    height: place,
    level: pair(loads),
    tilted: pair(loads),
    angle: fc.double({ min: 0.06, max: 1, noNaN: true }),
    angleSd: fc.constantFrom(0.005, 0.01),
  }),
};

describe("a weigh-in while it is filled in", () => {
  it.each(WEIGH_IN_KINDS)("%s: opened again and finished, it is what was kept", (kind) => {
    fc.assert(
      fc.property(ANY[kind], (w) => {
        expect(finish(draftOf(w, null))).toEqual({ ok: true, weighIn: w });
      }),
    );
  });
  it.each(WEIGH_IN_KINDS)("%s: begun with nothing read, it says that something is missing", (kind) => {
    const begun = finish(newDraft(kind, { min: { x: 0, y: -0.2, z: 0 }, max: { x: 0.8, y: 0.2, z: 0.1 } }));
    expect(begun.ok).toBe(false);
    if (!begun.ok) expect(begun.why).toMatch(/at least one/);
  });
  it("supports at one place, or in one line, are refused in words", () => {
    const two = newDraft("two-scales", null);
    two.at = [
      { x: 0.3, y: 0 },
      { x: 0.3, y: 0 },
    ];
    two.loads = [[1], [1]];
    expect(finish(two)).toEqual({ ok: false, why: "the two supports stand at one place" });
    const three = newDraft("three-scales", null);
    three.at = [0.1, 0.2, 0.3].map((x) => ({ x, y: 0 }));
    three.loads = [[1], [1], [1]];
    expect(finish(three)).toEqual({ ok: false, why: "the three supports stand in one line" });
  });
});

describe("a sweep while it is planned", () => {
  it("begins with what can be kept as it stands", () => {
    const begun = newThrust(quietDesign());
    expect(thrustTestSchema.safeParse(begun).error).toBeUndefined();
    expect(rigSchema.safeParse(newRig()).error).toBeUndefined();
    expect(newThrust({ ...quietDesign(), units: [] })).toBeNull();
  });
  it("goes up the steps once each, back down if asked, and as often as repeated", () => {
    const plan = {
      steps: [0, 0.5, 1, 0.5],
      down: true,
      repeats: 2,
      samples: 1,
      rest: 0,
      measures: ["thrust" as const],
    };
    expect(throttlesOf(plan)).toEqual([0, 0.5, 1, 0.5, 0, 0, 0.5, 1, 0.5, 0]);
    expect(throttlesOf({ ...plan, down: false, repeats: 1 })).toEqual([0, 0.5, 1]);
    expect(STEPS(4, 0.6)).toEqual([0.15, 0.3, 0.45, 0.6]);
  });
  it("is safe to command only with the list ticked, and above 20 % outdoors or behind a barrier", () => {
    const begun = newThrust(quietDesign());
    if (!begun) throw new Error("no sweep");
    const all = { restraint: true, plane: true, shield: true, distance: true, people: true, cutOff: true };
    expect(notSafe(begun.safety, 0.05)).toBeNull();
    expect(notSafe(begun.safety, 0.15)).toMatch(/whole safety list/);
    expect(notSafe({ ...all, place: "indoors" }, 0.2)).toBeNull();
    expect(notSafe({ ...all, place: "indoors" }, 0.25)).toMatch(/outdoors, or behind a barrier/);
    expect(notSafe({ ...all, place: "behind a barrier" }, 1)).toBeNull();
    expect(notSafe({ ...all, cutOff: false, place: "outdoors" }, 1)).toMatch(/whole safety list/);
  });
});
