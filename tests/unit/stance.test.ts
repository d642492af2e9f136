import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { inState } from "../../core/design/inState";
import { type Design, plainState, usualState } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { sdOf } from "../../core/numeric/doubt";
import { restOn } from "../../core/subjects/stance/feet";
import { overWord, stance } from "../../core/subjects/stance/node";
import { changed } from "../support/designs";
import { foot } from "../support/rules/stance";
import { winged } from "../support/wings";

const CG = { x: 0.3, y: 0, z: 0.1 };
const box = (long: number, wide: number) =>
  [-1, 1].flatMap((a) => [-1, 1].map((b) => ({ x: CG.x + (a * long) / 2, y: (b * wide) / 2, z: 0 })));
const inside = (feet: Parameters<typeof restOn>[0], cg = CG) =>
  Object.fromEntries(
    (restOn(feet, cg)?.edges ?? []).map((e) => [
      overWord(e.out, { ahead: { x: -1, y: 0, z: 0 }, starboard: { x: 0, y: 1, z: 0 }, upright: true }),
      e.inside,
    ]),
  );
const result = (d: Design) => {
  const r = resultIn(evaluate(d), stance);
  if (!r) throw new Error(JSON.stringify(evaluate(d).outcomes.stance));
  return r;
};

describe("a rigid craft on its feet", () => {
  it("on four feet: half of the stance to each side", () => {
    expect(inside(box(0.4, 0.3))).toEqual({
      "the nose": expect.closeTo(0.2, 9),
      "the tail": expect.closeTo(0.2, 9),
      "the port side": expect.closeTo(0.15, 9),
      "the starboard side": expect.closeTo(0.15, 9),
    });
  });
  it("on a nose wheel and two main wheels tips over the slanting edge first (statics of a triangle)", () => {
    // Nose at 0, mains at 0.4 and ±0.15; CG 0.1 ahead of the mains.
    const feet = [
      { x: 0, y: 0, z: 0 },
      { x: 0.4, y: 0.15, z: 0 },
      { x: 0.4, y: -0.15, z: 0 },
    ];
    const found = inside(feet);
    // Distance of (0.3, 0) from the line through (0, 0) and (0.4, 0.15).
    expect(found["the nose and starboard side"] ?? found["the starboard side"]).toBeCloseTo(
      (0.3 * 0.15) / Math.hypot(0.4, 0.15),
      9,
    );
    expect(found["the tail"]).toBeCloseTo(0.1, 9);
  });
  it("on two main wheels and a tail skid stands nose up by the height over the length", () => {
    const rest = restOn(
      [
        { x: 0.2, y: 0.15, z: 0 },
        { x: 0.2, y: -0.15, z: 0 },
        { x: 0.8, y: 0, z: 0.12 },
      ],
      CG,
    );
    expect(Math.asin(-(rest?.up.x ?? 0))).toBeCloseTo(Math.atan2(0.12, 0.6), 9);
  });
  it("rests on the three of five feet that no other reaches under, wherever they are", () => {
    const f = (x: number, y: number, z: number) => ({ x, y, z });
    // The middle pair hangs lower: it rests on them and on the end to which the CG leans.
    const feet = [f(0, 0, 0.05), f(0.3, 0.2, 0), f(0.3, -0.2, 0), f(0.6, 0, 0.05)];
    const up = (x: number) => restOn(feet, { x, y: 0, z: 0.1 })?.up.x ?? 0;
    expect(up(0.2)).toBeGreaterThan(0);
    expect(up(0.4)).toBeLessThan(0);
    expect(restOn([f(0, 0, 0), f(1, 0, 0), f(2, 0, 0)], CG)).toBeNull();
    expect(restOn([f(0, 0, 0), f(1, 1, 0)], CG)).toBeNull();
  });
  it("mirrored or turned round it stands as well", () => {
    const any = fc.array(
      fc.record({
        x: fc.integer({ min: -20, max: 20 }).map((n) => n / 20),
        y: fc.integer({ min: -20, max: 20 }).map((n) => n / 20),
        z: fc.constantFrom(0, 0.1),
      }),
      { minLength: 3, maxLength: 6 },
    );
    const least = (r: ReturnType<typeof restOn>) => (r ? Math.min(...r.edges.map((e) => e.inside)) : null);
    fc.assert(
      fc.property(any, (feet) => {
        const here = least(restOn(feet, CG));
        const there = least(
          restOn(
            feet.map((p) => ({ ...p, y: -p.y })),
            CG,
          ),
        );
        if (here === null || there === null) expect(there).toBe(here);
        else expect(there).toBeCloseTo(here, 6);
      }),
      { numRuns: 60 },
    );
  });
});

describe("what tips it over", () => {
  const wheels = (change: (d: Design) => void = () => {}) =>
    changed((d) => {
      d.feet = [foot("fore", 0.1, 0.1, -0.04), foot("aft", 0.6, 0.1, -0.04)];
      change(d);
    });
  it("a slope of atan(track/2h): the static stability factor of road vehicles", () => {
    const d = wheels();
    const e = evaluate(d);
    const h = (e.metrics.cgZ?.value ?? 0) + 0.04;
    const factor = 0.2 / (2 * h);
    expect(Math.tan(e.metrics.tipSlope?.value ?? 0)).toBeCloseTo(factor, 9);
    expect(result(d).turn).toBeCloseTo(factor, 9);
    expect(result(d).worst.slope.over).toMatch(/side/);
  });
  it("full thrust, held: thrust times height against weight times way; rolling: only its way above the CG", () => {
    const d = wheels();
    const e = evaluate(d);
    const [t, w] = [e.metrics.thrust?.value ?? 0, (e.metrics.auw?.value ?? 0) * 9.80665];
    const way = (e.metrics.cgX?.value ?? 0) - 0.1;
    const nose = result(d).over.find((o) => o.over === "the nose");
    // The propeller is 0.052 m above the baseline, the ground 0.04 m below it.
    expect(nose?.held?.value).toBeCloseTo((t * 0.092) / (w * way), 6);
    expect(nose?.rolling?.value).toBeCloseTo((t * (0.052 - (e.metrics.cgZ?.value ?? 0))) / (w * way), 6);
    expect(sdOf(nose?.held ?? { value: 0, by: {} })).toBeGreaterThan(0.05 * (nose?.held?.value ?? 0));
    // It pulls ahead: over its tail it is held all the better.
    expect(result(d).over.find((o) => o.over === "the tail")?.held?.value ?? 1).toBeLessThan(0);
  });
  it("a side wind: ½ρV²·C·A·h against W·d", () => {
    const d = wheels();
    const e = evaluate(d);
    const { wind } = result(d).worst;
    const v = wind?.wind?.value ?? 0;
    const side = e.metrics.sideArea?.value ?? 0;
    // The outline is of boxes: its middle by their areas, for none hides another in part here.
    const push = 0.5 * (e.metrics.airDensity?.value ?? 0) * v ** 2 * 1.1 * side;
    const holds = (e.metrics.auw?.value ?? 0) * 9.80665 * (wind?.edge.inside ?? 0);
    const middle = holds / push - 0.04;
    expect(middle).toBeGreaterThan(0.03);
    expect(middle).toBeLessThan(0.07);
    expect(e.metrics.tipWind?.value).toBe(v);
  });
  it(
    "by another way: turned about the edge by that slope, every mass with it, the CG stands plumb over " + "the edge",
    () => {
      const d = wheels();
      const { edge, slope } = result(d).worst.slope;
      const [s, c] = [Math.sin(slope.value), Math.cos(slope.value)];
      const sign = Math.sign(edge.out.y);
      let [aside, mass] = [0, 0];
      for (const i of d.items) {
        const kg = (i.mass?.value ?? 0) * i.quantity;
        // Beside the edge, outward, and over the ground; then both turned over it.
        const [out, up] = [sign * (i.place.y - edge.from.y), i.place.z - edge.from.z];
        aside += kg * (out * c + up * s);
        mass += kg;
      }
      expect(aside / mass).toBeCloseTo(0, 9);
    },
  );
  it("what is not known is told, and nothing that rests on it is met", () => {
    const d = wheels((x) => {
      x.items.push({ ...structuredClone(x.items[0] as Design["items"][number]), id: "more", name: "more", mass: null });
      x.brief.targets.push({ id: "t", metric: "tipSlope", comparison: "atLeast", value: 0.1, weight: "must" });
    });
    expect(result(d).doubts.join()).toMatch(/more/);
    expect(evaluate(d).targets.find((t) => t.target.id === "t")?.status).toBe("open");
    const flown = wheels(winged);
    expect(result(flown).windDoubts.join()).toMatch(/not counted as wings/);
    expect(evaluate(flown).metrics.tipWind?.incomplete?.join()).toMatch(/not counted as wings/);
  });
  it("a CG outside its feet falls over; at the very edge any slope does", () => {
    const out = evaluate(changed((d) => void (d.feet = [foot("fore", 0.4, 0.1), foot("aft", 0.6, 0.1)])));
    expect(out.findings.find((f) => f.code === "stands-not")?.severity).toBe("stop");
    expect(out.metrics.tipSlope?.value).toBeLessThan(0);
    expect(out.metrics.tipWind).toBeUndefined();
  });
  it("is open without feet, with two of them, or while a part has no place", () => {
    const status = (change: (d: Design) => void) => evaluate(changed(change)).outcomes.stance;
    expect(status(() => {})).toMatchObject({ status: "missing", needs: ["where it touches the ground"] });
    expect(status((d) => void (d.feet = [foot("one", 0.3, 0.1)]))).toMatchObject({
      status: "missing",
      needs: [expect.stringMatching(/three points/)],
    });
    expect(
      status((d) => {
        d.feet = [foot("fore", 0.1, 0.1), foot("aft", 0.6, 0.1)];
        if (d.items[0]) d.items[0].unplaced = ["z"];
      }),
    ).toMatchObject({ status: "missing", needs: [expect.stringMatching(/place: hull/)] });
  });
  it("without drives the slope stands and the throttle is open", () => {
    const r = result(wheels((d) => void (d.units = [])));
    expect(r.because).toBe("no drive is described");
    expect(r.over.every((o) => o.held === null)).toBe(true);
  });
  it("in a state goes where its part goes, and is gone with it", () => {
    const d = wheels((x) => {
      x.states = [
        usualState("wings"),
        { ...plainState("low", "gear down", ["wings"]), moved: [{ id: "tail", by: { x: 0, y: 0, z: -0.1 } }] },
        { ...plainState("bare", "no tail", ["wings"]), without: ["tail"] },
      ];
      x.feet = [foot("fore", 0.1, 0.1, -0.04), foot("aft", 0.6, 0.1, -0.04, { itemId: "tail" })];
    });
    expect(inState(d, "low").feet.map((f) => f.at.z)).toEqual([-0.04, expect.closeTo(-0.14, 9)]);
    expect(inState(d, "bare").feet.map((f) => f.id)).toEqual(["fore"]);
    expect(inState(d, "usual").feet).toBe(d.feet);
  });
  it("one that hovers along its axis stands on its tail, and goes over belly or back", () => {
    const d = changed((x) => {
      x.states = [usualState("rotors")];
      const [u] = x.units;
      if (!u) return;
      u.count = 2;
      u.places = [-0.1, 0.1].map((y) => ({ at: { x: 0.05, y, z: 0.05 }, toward: { x: -1, y: 0, z: 0 } }));
      x.feet = [foot("belly", 0.75, 0.12, -0.05), foot("back", 0.75, 0.12, 0.17)];
    });
    const r = result(d);
    expect(r.rest.upright).toBe(false);
    expect(r.rest.height).toBeCloseTo(0.75 - (evaluate(d).metrics.cgX?.value ?? 0), 9);
    expect(r.over.map((o) => o.over).sort()).toEqual(["the back", "the belly", "the port side", "the starboard side"]);
    // Full thrust takes it up, and over no edge.
    expect(r.because).toMatch(/lifts off/);
    expect(evaluate(d).findings.map((f) => f.code)).not.toContain("tips-thrust");
    expect(evaluate({ ...d, states: [usualState("wings")] }).outcomes.stance).toMatchObject({
      status: "not covered",
      because: expect.stringMatching(/none of its feet are below it/),
    });
    const belly = r.over.find((o) => o.over === "the belly");
    expect(belly?.edge.inside).toBeCloseTo((evaluate(d).metrics.cgZ?.value ?? 0) + 0.05, 9);
  });
});
