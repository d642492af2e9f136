import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { applyPatch } from "../../core/design/patch";
import { type Design, emptyDesign } from "../../core/design/schema";
import { ballastFor, leverage } from "../../core/subjects/balance/lever";
import { alternatives, balance, packMassFor, planPatch } from "../../core/subjects/balance/solver";
import { outOfEnvelope, overlaps } from "../../core/subjects/mass/clash";
import { ALLOWANCE, growthOf } from "../../core/subjects/mass/growth";
import { rollUp } from "../../core/subjects/mass/rollup";
import { attachedTo, moveItem, movingMass } from "../../core/subjects/mass/tree";
import { walkBack } from "../../core/subjects/balance/walkBack";
import { type WalkBack, type WalkBackRecord, newWalkBack } from "../../core/design/schema";
import { seededRandom } from "../../core/numeric/random";
import { TUNE_LINE } from "../../core/wording/walkBack";
import { part, changed, quietDesign } from "../support/designs";

const known = (value: number) => ({ value, evidence: "measured" as const });
const at = (x: number) => ({ low: x, high: x });

/** A random craft with a sliding pack and two ballast spots. */
const crafts = fc
  .record({
    parts: fc.array(
      fc.record({
        m: fc.double({ min: 0.02, max: 0.5, noNaN: true }),
        x: fc.double({ min: 0, max: 1, noNaN: true }),
        y: fc.double({ min: -0.2, max: 0.2, noNaN: true }),
      }),
      {
        minLength: 2,
        maxLength: 8,
      },
    ),
    slide: fc.double({ min: 0.01, max: 0.2, noNaN: true }),
    goal: fc.double({ min: -0.08, max: 0.08, noNaN: true }),
  })
  .map(({ parts, slide, goal }) => {
    const design: Design = {
      ...emptyDesign("wings"),
      items: parts.map((p, i) => part({ id: `p${i}`, mass: known(p.m), place: { x: p.x, y: p.y, z: 0.1 } })),
    };
    const first = design.items[0];
    if (first) first.slide = { from: first.place.x - slide, to: first.place.x + slide };
    design.ballastSpots = [
      { id: "nose", name: "nose", place: { x: -0.5, y: 0, z: 0.05 }, most: 20 },
      { id: "tail", name: "tail", place: { x: 1.5, y: 0, z: 0.05 }, most: 20 },
    ];
    return { design, goal: (rollUp(design)?.cg.x ?? 0) + goal };
  });
const spots = ["nose", "tail"];

describe("balance solver", () => {
  it("its plan, applied, brings the CG to the goal; never with more ballast than a single point takes", () => {
    fc.assert(
      fc.property(crafts, ({ design, goal }) => {
        const result = balance(design, { sliders: ["p0"], spots, goals: { x: at(goal) } });
        const now = rollUp(design);
        expect(result.status).toBe("solved");
        if (result.status !== "solved" || !now) return;
        const after = rollUp(applyPatch(design, planPatch(design, result.plan)));
        expect(after?.cg.x).toBeCloseTo(goal, 6);
        expect(after?.cg.x).toBeCloseTo(result.plan.cg.x, 6);
        const single = ballastFor(now.mass, now.cg.x, goal, goal < now.cg.x ? -0.5 : 1.5) ?? 0;
        expect(result.plan.added).toBeLessThanOrEqual(single + 1e-5);
      }),
    );
  });
  it("what was feasible stays so, with no more ballast, when a range widens", () => {
    fc.assert(
      fc.property(crafts, fc.double({ min: 0.001, max: 0.1, noNaN: true }), ({ design, goal }, by) => {
        const question = { sliders: ["p0"], spots, goals: { x: at(goal) } };
        const wider = structuredClone(design);
        const slide = wider.items[0]?.slide;
        if (slide) {
          slide.from -= by;
          slide.to += by;
        }
        const a = balance(design, question);
        const b = balance(wider, question);
        expect(b.status).toBe("solved");
        if (a.status === "solved" && b.status === "solved")
          expect(b.plan.added).toBeLessThanOrEqual(a.plan.added + 1e-5);
      }),
    );
  });
  it("agrees with a search over slide positions (an independent method)", () => {
    fc.assert(
      fc.property(crafts, ({ design, goal }) => {
        const result = balance(design, { sliders: ["p0"], spots, goals: { x: at(goal) } });
        const item = design.items[0];
        if (result.status !== "solved" || !item?.slide) throw new Error(result.status);
        let least = Infinity;
        for (let k = 0; k <= 400; k++) {
          const moved = structuredClone(design);
          if (moved.items[0]) moved.items[0].place.x = item.slide.from + ((item.slide.to - item.slide.from) * k) / 400;
          const r = rollUp(moved);
          if (r)
            for (const place of [-0.5, 1.5])
              least = Math.min(least, ballastFor(r.mass, r.cg.x, goal, place) ?? Infinity);
        }
        expect(result.plan.added).toBeLessThanOrEqual(least + 1e-6);
        expect(result.plan.added).toBeGreaterThan(least - 0.01);
      }),
      { numRuns: 40 },
    );
  });
  it("meets goals along three axes at once", () => {
    const design = quietDesign();
    design.ballastSpots = [
      { id: "n", name: "nose", place: { x: 0, y: 0, z: 0.02 }, most: 1 },
      { id: "p", name: "port", place: { x: 0.4, y: -0.1, z: 0.02 }, most: 1 },
      { id: "s", name: "starboard", place: { x: 0.4, y: 0.1, z: 0.2 }, most: 1 },
    ];
    const hull = design.items[0];
    if (hull) hull.place.y = 0.01;
    const result = balance(design, {
      sliders: ["pack"],
      spots: ["n", "p", "s"],
      goals: { x: at(0.29), y: at(0), z: { low: 0.05, high: 0.06 } },
    });
    if (result.status !== "solved") throw new Error(result.status);
    const after = rollUp(applyPatch(design, planPatch(design, result.plan)));
    expect(after?.cg.x).toBeCloseTo(0.29, 5);
    expect(after?.cg.y).toBeCloseTo(0, 5);
    expect(after?.cg.z).toBeGreaterThanOrEqual(0.05 - 1e-6);
    expect(after?.cg.z).toBeLessThanOrEqual(0.06 + 1e-6);
  });
  it("says plainly what is out of reach, and the nearest that can be had", () => {
    const design = quietDesign();
    const goal = 0.2;
    const result = balance(design, { sliders: ["pack"], spots: [], goals: { x: at(goal) } });
    if (result.status !== "infeasible") throw new Error(result.status);
    // The pack at the end of its range, by hand: M·x = 0.92 kg with the pack from 0.22 to 0.10 m.
    const now = rollUp(design);
    const nearest = (now?.cg.x ?? 0) - (0.2 * 0.12) / 0.92;
    expect(Math.abs(result.nearest.cg.x - nearest)).toBeLessThan(0.0006);
    expect(Math.abs((result.miss.x ?? 0) - (nearest - goal))).toBeLessThan(0.0006);
  });
  it("offers slide, ballast and both, each to the same place", () => {
    const design = quietDesign();
    const pack = design.items[1];
    if (pack) pack.place.x = 0.36;
    const list = alternatives(design, { sliders: ["pack"], spots: ["nose"], goals: { x: at(0.3) } });
    expect(list.map((a) => a.kind)).toEqual(["slide only", "ballast only", "half slide, rest ballast"]);
    for (const { plan } of list) expect(rollUp(applyPatch(design, planPatch(design, plan)))?.cg.x).toBeCloseTo(0.3, 6);
  });
  it("a pack of another mass balances too, when it lies on the right side", () => {
    const design = quietDesign();
    const found = packMassFor(design, 0.29);
    expect(found?.mass).toBeGreaterThan(0.2);
    const item = design.items[1];
    if (item && found) item.mass = known(found.mass);
    expect(rollUp(design)?.cg.x).toBeCloseTo(0.29, 9);
    expect(packMassFor(quietDesign(), 0.1)).toBeNull();
  });
});

describe("attached parts", () => {
  const pod = () => {
    const design = quietDesign();
    design.items.push(
      part({ id: "cam", parentId: "pack", mass: known(0.05), place: { x: 0.24, y: 0.01, z: 0.09 } }),
      part({ id: "lens", parentId: "cam", mass: known(0.01) }),
    );
    return design;
  };
  it("move as one, and count as one mass", () => {
    const design = pod();
    const pack = design.items[1];
    if (!pack) throw new Error("no pack");
    expect(attachedTo(design.items, "pack").map((i) => i.id)).toEqual(["cam", "lens"]);
    expect(movingMass(design.items, pack)).toBeCloseTo(0.26, 12);
    moveItem(design, "pack", { x: 0.01, y: 0.002 });
    expect(design.items.find((i) => i.id === "cam")?.place).toEqual({ x: 0.25, y: 0.012, z: 0.09 });
  });
  it("a circle of attachments is refused", () => {
    const design = pod();
    expect(() =>
      applyPatch(design, { set: [{ path: ["items", "#pack", "parentId"], value: "lens" }], addItems: [] }),
    ).toThrow(/attached/);
  });
});

describe("walk-back", () => {
  const plan = newWalkBack({ stop: 0.33, steps: 4, itemId: "pack", by: "slide" });
  it("reaches the stop line in even steps of CG", () => {
    const design = quietDesign();
    const r = walkBack(design, plan);
    if (r.status !== "planned") throw new Error(r.status);
    for (const step of r.steps) {
      const moved = structuredClone(design);
      if (moved.items[1]) moved.items[1].place.x = step.to;
      expect(rollUp(moved)?.cg.x).toBeCloseTo(step.cg, 9);
    }
    expect(r.steps.at(-1)?.cg).toBeCloseTo(0.33, 12);
  });
  it("taking mass out of the nose does the same, and says from which step it is used up", () => {
    const design = quietDesign();
    const motor = walkBack(design, newWalkBack({ stop: 0.34, steps: 8, itemId: "motor", by: "remove" }));
    if (motor.status !== "planned") throw new Error(motor.status);
    const step = motor.steps[0];
    const lighter = structuredClone(design);
    if (lighter.items[2] && step) lighter.items[2].mass = known(step.to);
    expect(rollUp(lighter)?.cg.x).toBeCloseTo(step?.cg ?? 0, 9);
    const far = walkBack(design, newWalkBack({ stop: 0.4, steps: 8, itemId: "motor", by: "remove" }));
    expect(far.status === "planned" && far.endsAt).toBeGreaterThan(1);
  });
  const kept = (step: number, change: Partial<WalkBackRecord> = {}): WalkBackRecord => ({
    step,
    date: "2026-11-27",
    cg: null,
    tune: "",
    trim: "",
    travel: 0.2,
    verdict: "go on",
    ...change,
  });
  const states = (records: WalkBackRecord[]) => {
    const r = walkBack(quietDesign(), { ...plan, records });
    return r.status === "planned" ? r.steps.map((s) => s.state) : [];
  };
  it("one step at a time: the next is open only when the one before was kept and says go on", () => {
    expect(states([])).toEqual(["next", "ahead", "ahead", "ahead"]);
    expect(states([kept(1)])).toEqual(["done", "next", "ahead", "ahead"]);
    expect(states([kept(1), kept(2, { verdict: "again" })])).toEqual(["done", "next", "ahead", "ahead"]);
    expect(states([kept(1), kept(2, { verdict: "stop" })])).toEqual(["done", "stopped", "ahead", "ahead"]);
    // More than half of the travel gone is a stop, whatever was ticked.
    expect(states([kept(1), kept(2, { travel: 0.6 })])).toEqual(["done", "stopped", "ahead", "ahead"]);
    // So is a CG that was measured behind the stop line.
    expect(states([kept(1, { cg: plan.stop + 0.001 })])).toEqual(["stopped", "ahead", "ahead", "ahead"]);
    expect(states([kept(1), kept(2, { verdict: "stop" }), kept(2)])).toEqual(["done", "done", "next", "ahead"]);
  });
  it("once begun, its steps stay where they were though the craft has moved on", () => {
    const begun = { ...plan, start: rollUp(quietDesign())?.cg.x ?? 0 };
    const before = walkBack(quietDesign(), begun);
    const moved = changed((d) => {
      const pack = d.items.find((i) => i.id === "pack");
      if (pack) pack.place.x += 0.05;
    });
    const after = walkBack(moved, begun);
    if (before.status !== "planned" || after.status !== "planned") throw new Error("not planned");
    expect(after.steps.map((s) => s.cg)).toEqual(before.steps.map((s) => s.cg));
    // Where the part must stand for a step does not depend on where it stands now.
    for (const [i, s] of after.steps.entries()) expect(s.to).toBeCloseTo(before.steps[i]?.to ?? 0, 9);
  });
  it(
    "knows on which side of the neutral point each step lies, and advises no lower gain behind it or " +
      "where nobody knows",
    () => {
      const side = (neutral: WalkBack["neutral"]) => {
        const r = walkBack(quietDesign(), { ...plan, neutral });
        return r.status === "planned" ? r.steps.map((s) => s.side) : [];
      };
      expect(new Set(side(null))).toEqual(new Set(["unknown"]));
      const cgs = side({ value: 0.315, sd: 0.002, evidence: "measured" });
      expect(cgs[0]).toBe("ahead");
      expect(cgs.at(-1)).toBe("behind");
      expect(new Set(side({ value: 0.315, sd: 0.1, evidence: "guess" }))).toEqual(new Set(["near"]));
      expect(TUNE_LINE.behind).toMatch(/least gain/);
      expect(TUNE_LINE.unknown).toMatch(/least/);
      expect(TUNE_LINE.behind).not.toMatch(/gains? first|lower the gain/);
    },
  );
  it("refuses what cannot be: a stop line ahead, a fixed part, mass behind the CG", () => {
    expect(walkBack(quietDesign(), { ...plan, stop: 0.1 }).status).toBe("wrongWay");
    expect(walkBack(quietDesign(), { ...plan, itemId: "hull" }).status).toBe("noRange");
    expect(walkBack(quietDesign(), { ...plan, itemId: "tail", by: "remove" }).status).toBe("wrongWay");
    expect(walkBack(quietDesign(), { ...plan, itemId: "nobody" }).status).toBe("noPart");
  });
});

describe("overlaps and envelope", () => {
  const box = (id: string, x: number, more = {}) =>
    part({ id, place: { x, y: 0, z: 0 }, size: { x: 0.1, y: 0.1, z: 0.1 }, ...more });
  it("names boxes that share space, not a fit, not what a shell holds, not what hangs on it", () => {
    const design = { ...emptyDesign("hull" as const), items: [box("a", 0), box("b", 0.09), box("c", 0.189)] };
    expect(overlaps(design)).toMatchObject([{ a: "a", b: "b", depth: expect.closeTo(0.01, 9) }]);
    expect(overlaps({ ...design, items: [box("a", 0, { hollow: true }), box("b", 0.05)] })).toEqual([]);
    expect(overlaps({ ...design, items: [box("a", 0), box("b", 0.05, { parentId: "a" })] })).toEqual([]);
    expect(
      overlaps({
        ...design,
        items: [
          box("a", 0, { mirrored: true, place: { x: 0, y: 0.3, z: 0 } }),
          box("b", 0, { place: { x: 0, y: -0.3, z: 0 } }),
        ],
      }),
    ).toHaveLength(1);
  });
  it("finds the same pairs whether one part moved or the list is new, and those that every pair of boxes gives", () => {
    const random = seededRandom(7);
    const one = (k: number) =>
      box(`p${k}`, random.uniform(), {
        place: { x: random.uniform(), y: random.uniform() - 0.5, z: random.uniform() * 0.3 },
        size: { x: 0.1 + 0.2 * random.uniform(), y: 0.1, z: 0.1 * random.uniform() },
        mirrored: random.uniform() < 0.3,
        hollow: random.uniform() < 0.1,
        unplaced: random.uniform() < 0.1 ? ["y"] : [],
        parentId: k > 3 && random.uniform() < 0.2 ? `p${k - 3}` : null,
      });
    /** Every half of every part against every other. */
    const byHand = (items: Design["items"]) =>
      items.flatMap((a, i) =>
        items.slice(i + 1).flatMap((b) => {
          if ([a, b].some((p) => p.hollow || p.unplaced.length > 0 || p.size.z <= 0.002)) return [];
          const up = (p: typeof a): string[] => {
            const on = items.find((o) => o.id === p.parentId);
            return on ? [on.id, ...up(on)] : [];
          };
          if (up(a).includes(b.id) || up(b).includes(a.id)) return [];
          const halves = (p: typeof a) => (p.mirrored ? [p.place.y, -p.place.y] : [p.place.y]);
          const along = (p: number, q: number, s: number, t: number) =>
            Math.min(p + s / 2, q + t / 2) - Math.max(p - s / 2, q - t / 2);
          const deepest = Math.max(...halves(a).flatMap((p) => halves(b).map((q) => along(p, q, a.size.y, b.size.y))));
          const depth = Math.min(
            deepest,
            along(a.place.x, b.place.x, a.size.x, b.size.x),
            along(a.place.z, b.place.z, a.size.z, b.size.z),
          );
          return depth > 0.002 ? [`${a.id} ${b.id} ${depth.toFixed(9)}`] : [];
        }),
      );
    let items = Array.from({ length: 40 }, (_, k) => one(k));
    let found = 0;
    for (let step = 0; step < 60; step++) {
      const k = Math.floor(random.uniform() * items.length);
      items = items.map((i, n) => (n === k || n === k + 1 ? { ...one(n), parentId: i.parentId } : i));
      const after = overlaps({ items });
      expect(after).toEqual(overlaps({ items: structuredClone(items) }));
      expect(after.map((o) => `${o.a} ${o.b} ${o.depth.toFixed(9)}`).sort()).toEqual(byHand(items).sort());
      found += after.length;
    }
    expect(found).toBeGreaterThan(500);
  });
  it("measures how far a part reaches out", () => {
    const design = {
      ...emptyDesign("hull" as const),
      items: [box("a", 0.5), box("b", 0.98)],
      envelope: { min: { x: 0, y: -1, z: -1 }, max: { x: 1, y: 1, z: 1 } },
    };
    expect(outOfEnvelope(design)).toMatchObject([{ id: "b", axis: "x", by: expect.closeTo(0.03, 9) }]);
  });
});

describe("growth and leverage", () => {
  it("expects growth by evidence, none of what is weighed", () => {
    const design = {
      ...emptyDesign("wings" as const),
      items: [
        part({ id: "a", mass: { value: 1, evidence: "guess" } }),
        part({ id: "b", mass: known(1), planned: 0.8 }),
      ],
    };
    const g = growthOf(design);
    expect(g.expected).toBeCloseTo(ALLOWANCE.guess, 12);
    expect(g.surprises).toMatchObject([{ id: "b", by: expect.closeTo(0.2, 12), against: "planned" }]);
    // Maturity order of mass-properties practice (AIAA S-120): the less mature, the larger the allowance.
    expect(ALLOWANCE.guess).toBeGreaterThan(ALLOWANCE.calculated);
    expect(ALLOWANCE.calculated).toBeGreaterThan(ALLOWANCE.datasheet);
    expect(ALLOWANCE.measured).toBe(0);
  });
  it("a gram twice as far behind the CG as the nose is ahead costs two grams there", () => {
    expect(leverage(0.3, 0.9, 0)).toBeCloseTo(2, 12);
  });
});
