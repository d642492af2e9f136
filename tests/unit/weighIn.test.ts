import { describe, expect, it } from "vitest";
import { type Item, type Design, emptyDesign } from "../../core/design/schema";
import { changedSince, ledgerOf, unweigh, weigh, withEvidence } from "../../core/subjects/mass/evidence";
import { reconcile } from "../../core/bench/reconcile";
import { rollUp } from "../../core/subjects/mass/rollup";
import { meanOf, weighIn } from "../../core/bench/weighIn";
import { propagate } from "../../core/numeric/propagate";
import { seededRandom } from "../../core/numeric/random";
import { part, quietDesign } from "../support/designs";

const scale = { resolution: 0.001, error: 0 };
const INCH = 0.0254;
const LB = 0.45359237;

describe("uncertainty of readings", () => {
  // JCGM 100:2008 (GUM) 4.4.3, table 1: twenty temperatures with mean 100.145 °C, s = 1.489 °C, standard uncertainty
  // of the mean 0.333 °C.
  it("meets the worked example of the GUM", () => {
    const t = [
      96.9, 98.18, 98.25, 98.61, 99.03, 99.49, 99.56, 99.74, 99.89, 100.07, 100.33, 100.42, 100.68, 100.95, 101.11,
      101.2, 101.57, 101.84, 102.36, 102.72,
    ];
    const m = meanOf(t, 0.01);
    expect(m.value).toBeCloseTo(100.145, 3);
    expect(m.sd).toBeCloseTo(0.333, 3);
  });
  it("one reading is as good as the step of the scale, and calibration adds", () => {
    expect(meanOf([1], 0.001).sd).toBeCloseTo(0.001 / Math.sqrt(12), 9);
    expect(meanOf([1], 0.001, 0.002).sd).toBeCloseTo(Math.hypot(0.001 / Math.sqrt(12), 0.002), 9);
  });
  // GUM 5.1.6: for y = c·X1^p1·X2^p2 relative variances add with the squares of the exponents.
  it("propagates a product of powers as the closed form does", () => {
    const { results } = propagate(
      ([a = 0, b = 0]) => [a ** 2 / b],
      [
        { value: 3, sd: 0.003 },
        { value: 2, sd: 0.004 },
      ],
    );
    expect((results[0]?.sd ?? 0) / (results[0]?.value ?? 1)).toBeCloseTo(Math.hypot(2 * 0.001, 0.002), 6);
  });
});

describe("weigh-ins", () => {
  // Weighing on points (FAA-H-8083-1B, chapter on weighing; the arithmetic by hand): 340 lb at 35 in and 350 + 340 lb
  // at 105 in: 1030 lb, CG (340·35 + 690·105)/1030 = 81.893 in.
  it("two scales, worked by hand", () => {
    const r = weighIn({
      kind: "two-scales",
      scale,
      ruler: 0.0005,
      at: [35 * INCH, 105 * INCH],
      loads: [[340 * LB], [690 * LB]],
    });
    expect((r.mass?.value ?? 0) / LB).toBeCloseTo(1030, 6);
    expect((r.cg.x?.value ?? 0) / INCH).toBeCloseTo(81.893, 3);
  });
  it("three scales: an equal load on each gives the middle of the triangle", () => {
    const r = weighIn({
      kind: "three-scales",
      scale,
      ruler: 0.0005,
      at: [
        { x: 0, y: 0 },
        { x: 0.9, y: -0.3 },
        { x: 0.9, y: 0.3 },
      ],
      loads: [[0.5], [0.5], [0.5]],
    });
    expect(r.cg.x?.value).toBeCloseTo(0.6, 9);
    expect(r.cg.y?.value).toBeCloseTo(0, 9);
  });
  it("level and tilted: a known craft, turned by rotation of coordinates, gives its height back", () => {
    const [x, z, base, angle, m] = [0.42, 0.137, 0.6, 0.3, 2];
    const supportHeight = 0.02;
    // Independent of the formula: rotate CG and rear support about the front support, nose up, and take moments.
    const turned = (dx: number, dz: number) => dx * Math.cos(angle) + dz * Math.sin(angle);
    const rear = (m * turned(x - 0.1, z - supportHeight)) / turned(base, 0);
    const rearLevel = (m * (x - 0.1)) / base;
    const r = weighIn({
      kind: "level-and-tilted",
      scale,
      ruler: 0.0005,
      at: [0.1, 0.7],
      height: supportHeight,
      level: [[m - rearLevel], [rearLevel]],
      tilted: [[m - rear], [rear]],
      angle,
      angleSd: 0.005,
    });
    expect(r.cg.z?.value).toBeCloseTo(z, 9);
    expect(r.cg.x?.value).toBeCloseTo(x, 9);
    expect(r.cg.z?.sd).toBeGreaterThan(0.0005);
  });
  it("knife edge and single parts", () => {
    expect(weighIn({ kind: "knife-edge", ruler: 0.001, places: [0.34, 0.342, 0.338] }).cg.x).toMatchObject({
      value: expect.closeTo(0.34, 9),
      sd: expect.closeTo(Math.hypot(0.001, 0.002 / Math.sqrt(3)), 9),
    });
    expect(weighIn({ kind: "parts", scale, parts: [{ itemId: "a", loads: [0.1, 0.102] }] }).parts[0]).toMatchObject({
      itemId: "a",
      value: expect.closeTo(0.101, 9),
    });
  });
  it("says what makes it doubtful", () => {
    expect(weighIn({ kind: "total", scale, loads: [1] }).doubts).toContain("one-reading");
    expect(weighIn({ kind: "total", scale, loads: [1, 1.05] }).doubts).toContain("scatter");
    expect(weighIn({ kind: "two-scales", scale, ruler: 0.001, at: [0.3, 0.31], loads: [[1], [1]] }).doubts).toContain(
      "supports-close",
    );
    expect(weighIn({ kind: "two-scales", scale, ruler: 0.001, at: [0.3, 0.6], loads: [[1], [0]] }).doubts).toContain(
      "outside-supports",
    );
    const tilt = {
      kind: "level-and-tilted" as const,
      scale,
      ruler: 0.001,
      at: [0, 0.5] as [number, number],
      height: 0,
      angleSd: 0.01,
    };
    expect(weighIn({ ...tilt, level: [[1], [1]], tilted: [[1], [1.2]], angle: 0.1 }).doubts).toEqual(
      expect.arrayContaining(["load-changed", "little-tilt"]),
    );
  });
});

const evidence = "measured" as const;
type Point3 = { x: number; y: number };

/**
 * A 30-part ledger in which every mass was weighed on a 1 g scale and all but six places were measured; those six
 * stand as drawn.
 */
function ledger(seed: number): { design: Design; truth: Design; random: ReturnType<typeof seededRandom> } {
  const random = seededRandom(seed);
  const design = emptyDesign("wings");
  for (let i = 0; i < 30; i++)
    design.items.push(
      part({
        id: `i${i}`,
        mass: { value: 0.02 * Math.exp(random.uniform() * Math.log(15)), evidence, sd: 0.0005 },
        place: { x: random.uniform(), y: (random.uniform() - 0.5) * 0.5, z: random.uniform() * 0.2 },
        placeEvidence: i % 5 === 1 ? "datasheet" : "measured",
      }),
    );
  const truth = structuredClone(design);
  for (const item of truth.items) {
    if (item.mass) item.mass.value += 0.0005 * random.normal();
    const sd = item.placeEvidence === "datasheet" ? 0.002 : 0.0005;
    for (const axis of ["x", "y", "z"] as const) item.place[axis] += sd * random.normal();
  }
  return { design, truth, random };
}

/** Weighs the true craft on three scales of 1 g, three readings each, supports placed to 0.7 mm; its height to 2 mm. */
function weighed(truth: Design, random: ReturnType<typeof seededRandom>) {
  const t = rollUp(truth);
  if (!t) throw new Error("empty");
  const at: [Point3, Point3, Point3] = [
    { x: 0.1, y: 0 },
    { x: 0.9, y: -0.2 },
    { x: 0.9, y: 0.2 },
  ];
  const front = (t.mass * (0.9 - t.cg.x)) / 0.8;
  const starboard = (t.mass - front + (t.mass * t.cg.y) / 0.2) / 2;
  const read = (force: number) =>
    Array.from({ length: 3 }, () => Math.round((force + 0.0004 * random.normal()) * 1000) / 1000);
  const slip = (p: Point3): Point3 => ({ x: p.x + 0.0007 * random.normal(), y: p.y + 0.0007 * random.normal() });
  const result = weighIn({
    kind: "three-scales",
    scale,
    ruler: 0.0007,
    at: [slip(at[0]), slip(at[1]), slip(at[2])],
    loads: [read(front), read(t.mass - front - starboard), read(starboard)],
  });
  if (!result.mass || !result.cg.x) throw new Error("no result");
  return {
    t,
    mass: result.mass,
    cg: { ...result.cg, x: result.cg.x, z: { value: t.cg.z + 0.002 * random.normal(), sd: 0.002 } },
  };
}

describe("reconciling a weigh-in with the ledger", () => {
  it(
    "names a planted error of 60 g or 40 mm among the top three in at least 80 of 100, with intervals " +
      "that cover as they say",
    () => {
      const tally = { top: 0, mass: 0, cg: 0 };
      for (let seed = 1; seed <= 100; seed++) {
        const { design, truth, random } = ledger(seed);
        // A slip in a mass may be anywhere; one of 40 mm in a place only where nobody measured it.
        const byMass = random.uniform() < 0.5;
        const open = truth.items.filter((i) => byMass || i.placeEvidence !== "measured");
        const culprit = open[Math.floor(random.uniform() * open.length)] as Item;
        if (byMass && culprit.mass) culprit.mass.value += 0.06;
        else culprit.place.x += 0.04;
        const w = weighed(truth, random);
        if (Math.abs(w.mass.value - w.t.mass) <= w.mass.sd) tally.mass++;
        if (Math.abs(w.cg.x.value - w.t.cg.x) <= w.cg.x.sd) tally.cg++;
        const found = reconcile(design, w);
        if (found?.suspects.slice(0, 3).some((s) => s.itemId === culprit.id)) tally.top++;
      }
      expect(tally.top).toBeGreaterThanOrEqual(80);
      for (const covered of [tally.mass, tally.cg]) {
        expect(covered).toBeGreaterThanOrEqual(60);
        expect(covered).toBeLessThanOrEqual(76);
      }
    },
  );
  it("finds nothing in a ledger without an error, in at least 85 of 100", () => {
    let clean = 0;
    for (let seed = 201; seed <= 300; seed++) {
      const { design, truth, random } = ledger(seed);
      if (reconcile(design, weighed(truth, random))?.verdict === "agrees") clean++;
    }
    expect(clean).toBeGreaterThanOrEqual(85);
  });
  const exact = (design: Design) => {
    const t = rollUp(design);
    if (!t) throw new Error("empty");
    const near = (value: number) => ({ value, sd: 0.0005 });
    return { mass: near(t.mass), cg: { x: near(t.cg.x), y: near(t.cg.y), z: near(t.cg.z) } };
  };
  it("estimates the slip that it names", () => {
    const truth = quietDesign();
    const tail = truth.items.at(-1);
    if (tail) tail.mass = { value: 0.14, evidence };
    const found = reconcile(quietDesign(), exact(truth));
    expect(found?.verdict).toBe("culprit");
    expect(found?.suspects[0]).toMatchObject({ itemId: "tail", what: "mass", by: expect.closeTo(0.06, 2) });
    expect(found?.at.x?.value).toBeCloseTo(0.6, 1);
  });
  it("calls several equal explanations undecided", () => {
    const twin = quietDesign();
    twin.items.push(part({ id: "twin", mass: { value: 0.08, evidence }, place: { x: 0.6, y: 0, z: 0.08 } }));
    const truth = structuredClone(twin);
    const tail = truth.items.find((i) => i.id === "tail");
    if (tail) tail.mass = { value: 0.14, evidence };
    const found = reconcile(twin, exact(truth));
    expect(found?.verdict).toBe("undecided");
    expect(found?.equal).toBeGreaterThanOrEqual(2);
    expect(
      found?.suspects
        .slice(0, 2)
        .map((s) => s.itemId)
        .sort(),
    ).toEqual(["tail", "twin"]);
  });
  it("calls a discrepancy that would sit outside the craft, or a CG that differs alone, an error of position", () => {
    const truth = quietDesign();
    const hull = truth.items[0];
    if (hull) hull.place.x += 0.04;
    expect(reconcile(quietDesign(), exact(truth))?.verdict).toBe("position");
    const outside = exact(quietDesign());
    outside.mass.value += 0.03;
    outside.cg.x.value -= 0.06;
    expect(reconcile(quietDesign(), outside)?.verdict).toBe("position");
  });
  it("offers mass that no entry explains as unlisted", () => {
    const truth = quietDesign();
    truth.items.push(part({ id: "stone", mass: { value: 0.05, evidence }, place: { x: 0.45, y: -0.12, z: 0.075 } }));
    const found = reconcile(quietDesign(), exact(truth));
    expect(found?.verdict).toBe("unlisted");
    expect(found?.at.x?.value).toBeCloseTo(0.45, 2);
    expect(found?.at.y?.value).toBeCloseTo(-0.12, 2);
  });
});

describe("evidence in the ledger", () => {
  it("a weighing keeps the prediction beside it, and can be taken back", () => {
    const item = part({ id: "a", mass: { value: 0.1, evidence: "guess" } });
    weigh(item, { value: 0.12, evidence: "measured" });
    weigh(item, { value: 0.121, evidence: "measured" });
    expect([item.predicted?.value, item.mass?.value]).toEqual([0.1, 0.121]);
    unweigh(item);
    expect([item.predicted, item.mass?.value]).toEqual([null, 0.1]);
  });
  it("knows which entries changed since a session", () => {
    const design = quietDesign();
    const tested = ledgerOf(design);
    expect(changedSince(tested, design)).toEqual([]);
    const next = withEvidence(design, {
      entries: [{ itemId: "tail", place: { axis: "x", value: 0.61, sd: 0.001 } }],
      found: [],
    });
    expect(changedSince(tested, next)).toEqual(["tail"]);
    expect(changedSince(tested, { ...design, items: design.items.slice(1) })).toEqual(["hull"]);
  });
});
