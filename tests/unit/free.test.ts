import { describe, expect, it } from "vitest";
import { differenceOf, foretell, lineOf, meaningOf, pointsText, readPoints } from "../../core/bench/free";
import { type Free, freeSchema } from "../../core/design/bench";
import { seededRandom } from "../../core/numeric/random";
import { differenceText, foretoldText, lineText, meaningText, own } from "../../core/wording/free";

const pairs = (list: readonly (readonly [number, number])[]) => list.map(([x, y]) => ({ x, y }));
const alone = (list: readonly number[]) => list.map((y) => ({ x: null, y }));

/** F. J. Anscombe, "Graphs in Statistical Analysis" (1973), first set. */
const ANSCOMBE = pairs([
  [10, 8.04],
  [8, 6.95],
  [13, 7.58],
  [9, 8.81],
  [11, 8.33],
  [14, 9.96],
  [6, 7.24],
  [4, 4.26],
  [12, 10.84],
  [7, 4.82],
  [5, 5.68],
]);
/** Semi-major axes (AU) and periods (years) of the planets, handbook values: Kepler's third law. */
const PLANETS = pairs([
  [0.387, 0.241],
  [0.723, 0.615],
  [1, 1],
  [1.524, 1.881],
  [5.203, 11.86],
  [9.537, 29.45],
  [19.19, 84.02],
  [30.07, 164.8],
]);
/** Student, "The Probable Error of a Mean" (1908): more sleep by two drugs, h. */
const SLEEP = {
  first: alone([0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0, 2]),
  second: alone([1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4]),
};

describe("a line through readings of one's own", () => {
  it("is that of Anscombe's first set: 3.000 + 0.500 x, ± 0.118, scatter 1.237", () => {
    const line = lineOf(ANSCOMBE, "both plain");
    expect(line.status).toBe("fitted");
    expect(line.intercept).toBeCloseTo(3.0001, 3);
    expect(line.slope).toBeCloseTo(0.5001, 3);
    expect(line.slopeSd).toBeCloseTo(0.1179, 3);
    expect(line.scatter).toBeCloseTo(1.2366, 3);
    expect(line.freedom).toBe(9);
  });
  it("finds the power of 3/2 between periods and distances of the planets, closely", () => {
    const line = lineOf(PLANETS, "both logarithmic");
    expect(line.slope).toBeCloseTo(1.5, 2);
    expect(line.interval[0]).toBeLessThan(1.5005);
    expect(line.interval[1]).toBeGreaterThan(1.4995);
    expect(line.interval[1] - line.interval[0]).toBeLessThan(0.01);
  });
  it("foretells one more reading with its band, and nothing far from what was read", () => {
    const line = lineOf(PLANETS, "both logarithmic");
    const inside = foretell(line, "both logarithmic", 2.766);
    // Ceres, 2.766 AU: 4.60 years.
    expect(inside?.where).toBe("inside");
    expect(inside?.low).toBeLessThan(4.6);
    expect(inside?.high).toBeGreaterThan(4.6);
    expect(foretell(line, "both logarithmic", 39.5)?.where).toBe("outside");
    expect(foretell(line, "both logarithmic", 1e6)?.where).toBe("too far");
    expect(foretell(line, "both logarithmic", -3)).toBeNull();
    const wide = lineOf(ANSCOMBE, "both plain");
    const at = (x: number) => {
      const f = foretell(wide, "both plain", x);
      return (f?.high ?? 0) - (f?.low ?? 0);
    };
    expect(at(22)).toBeGreaterThan(at(14));
    expect(at(14)).toBeGreaterThan(at(9));
  });
  it("holds one more reading 19 times in 20", () => {
    const random = seededRandom(7);
    let held = 0;
    for (let k = 0; k < 600; k++) {
      const points = Array.from({ length: 7 }, (_, i) => ({ x: i, y: 2 + 0.7 * i + random.normal() }));
      const band = foretell(lineOf(points, "both plain"), "both plain", 8);
      const next = 2 + 0.7 * 8 + random.normal();
      if (band && next >= band.low && next <= band.high) held++;
    }
    expect(held / 600).toBeGreaterThan(0.92);
    expect(held / 600).toBeLessThan(0.98);
  });
  it("is none of two readings, of one x, or of what no logarithm holds", () => {
    expect(
      lineOf(
        pairs([
          [1, 1],
          [2, 2],
        ]),
        "both plain",
      ).status,
    ).toBe("too few");
    expect(
      lineOf(
        pairs([
          [1, 1],
          [1, 2],
          [1, 3],
        ]),
        "both plain",
      ).status,
    ).toBe("x was not varied");
    expect(lineOf(alone([1, 2, 3]), "both plain").status).toBe("x was not varied");
    const some = lineOf(
      pairs([
        [0, 1],
        [-1, 2],
        [1, 3],
        [2, 0],
        [3, 4],
        [4, 5],
      ]),
      "both logarithmic",
    );
    expect(some).toMatchObject({ status: "fitted", left: 3, count: 3 });
  });
  it("readings on a line to the last digit are known to that digit, never exactly", () => {
    const line = lineOf(
      pairs([
        [1, 2.1],
        [2, 4.2],
        [3, 6.3],
      ]),
      "both plain",
    );
    expect(line.slopeSd).toBeCloseTo(0.1 / Math.sqrt(12) / Math.sqrt(2), 6);
    expect(line.interval[1] - line.interval[0]).toBeGreaterThan(0.3);
  });
});

describe("readings far from one", () => {
  const scaled = (by: number) => [1, 2, 3, 4].map((x, k) => ({ x, y: ([1, 2.1, 2.9, 4.2][k] ?? 0) * by }));
  it.each([1e-9, 1e-7, 1e-3, 1e6, 1e10])("times %s say the same: the last digit written goes with them", (by) => {
    const [one, line] = [lineOf(scaled(1), "both plain"), lineOf(scaled(by), "both plain")];
    expect(line.slope / by).toBeCloseTo(one.slope, 6);
    expect(line.slopeSd / by).toBeCloseTo(one.slopeSd, 6);
    const few = (list: number[]) => alone(list.map((v) => Number((v * by).toPrecision(3))));
    expect(differenceOf(few([1, 1.1, 0.9]), few([5, 5.1, 4.9]), "both plain").status).toBe("told");
  });
  it("parallel lines without scatter have one slope, whatever the last bits say", () => {
    for (const k of [0.1, 0.3, 1 / 3, 2, 7.7]) {
      const line = (by: number) => [1, 2, 3, 4, 5].map((x) => ({ x, y: Number((k * x + by).toFixed(6)) }));
      expect(differenceOf(line(0), line(1), "both plain")).toMatchObject({ status: "told", changes: false, at: null });
    }
  });
  it("beyond what can be reckoned with are no readings", () => {
    expect(readPoints("1 1e300").problems).toHaveLength(1);
    const of = (y: number) => ({ conditions: [{ name: "", points: [{ x: null, y }] }] });
    const given = {
      question: "",
      x: { name: "", unit: "" },
      y: { name: "", unit: "" },
      of: "its own",
      axes: "both plain",
    };
    expect(freeSchema.safeParse({ ...given, ...of(1e300) }).success).toBe(false);
    expect(freeSchema.safeParse({ ...given, ...of(1e11) }).success).toBe(true);
  });
});

describe("what a slope means", () => {
  const spun = (power: number, scatter = 0.01) => {
    const random = seededRandom(3);
    return [1000, 1500, 2200, 3300, 5000, 7500].map((x) => ({
      x,
      y: (x / 1000) ** power * Math.exp(scatter * random.normal()),
    }));
  };
  it.each([
    [1, /dry friction/],
    [2, /viscous film/],
    [3, /thrown/],
  ])("power that grows as rpm to the power of %s", (power, says) => {
    const line = lineOf(spun(power), "both logarithmic");
    const meanings = meaningOf(line, "both logarithmic", "power against rpm");
    expect(meanings?.map((m) => m.says)).toEqual([expect.stringMatching(says)]);
  });
  it("is left open where the readings tell two laws alike, and where they tell none", () => {
    const test = { axes: "both logarithmic", of: "power against rpm" } as const;
    const rough = lineOf(spun(2.2, 0.5), "both logarithmic");
    expect(meaningText(rough, test)).toMatch(/^Not told apart/);
    expect(meaningText(lineOf(spun(1.5), "both logarithmic"), test)).toMatch(/none that is known/);
    expect(meaningText(lineOf(spun(3), "both plain"), { ...test, axes: "both plain" })).toMatch(/logarithmic axes/);
    expect(meaningText(lineOf(spun(3), "both logarithmic"), { ...test, of: "its own" })).toBe("");
  });
  it("the field of two wires falls with the square of the distance (Biot and Savart, summed)", () => {
    // Two long wires 2 mm apart, 10 A to and fro: µT at 20 to 100 mm.
    const field = (d: number) => (0.2 * 10) / (d - 0.001) - (0.2 * 10) / (d + 0.001);
    const line = lineOf(
      [0.02, 0.03, 0.045, 0.07, 0.1].map((d) => ({ x: d * 1000, y: Number(field(d).toPrecision(4)) })),
      "both logarithmic",
    );
    expect(line.slope).toBeCloseTo(-2, 2);
    expect(meaningOf(line, "both logarithmic", "field against distance")?.[0]?.says).toMatch(/to and fro/);
  });
});

describe("two conditions", () => {
  it("of one number each differ as Student's sleep data do: 1.58, not told apart (Welch: −0.21 to 3.37)", () => {
    const d = differenceOf(SLEEP.first, SLEEP.second, "both plain");
    expect(d.status).toBe("not told apart");
    expect(d.value).toBeCloseTo(1.58, 6);
    expect(d.interval[0]).toBeCloseTo(-0.2055, 2);
    expect(d.interval[1]).toBeCloseTo(3.3655, 2);
    expect(d.sure).toBeCloseTo(1 - 0.0794 / 2, 3);
  });
  const random = seededRandom(11);
  const along = (offset: number, slope: number, n = 8) =>
    Array.from({ length: n }, (_, i) => ({ x: 1 + i, y: 5 + slope * i + offset + 0.1 * random.normal() }));
  it("over the same x are two lines of one slope", () => {
    const d = differenceOf(along(0, 2), along(1, 2), "both plain");
    expect(d).toMatchObject({ status: "told", at: null, changes: false });
    expect(d.interval[0]).toBeLessThan(1);
    expect(d.interval[1]).toBeGreaterThan(1);
    expect(d.interval[1] - d.interval[0]).toBeLessThan(0.5);
  });
  it("whose slopes differ are compared in the middle, and that is said", () => {
    const d = differenceOf(along(0, 2), along(-7, 4), "both plain");
    expect(d).toMatchObject({ changes: true, at: 4.5 });
    expect(Math.abs(d.value)).toBeLessThan(0.3);
  });
  it("read at other x are not compared; nor are two readings", () => {
    expect(
      differenceOf(
        along(0, 2),
        pairs([
          [20, 1],
          [21, 2],
          [22, 3],
        ]),
        "both plain",
      ).status,
    ).toBe("not over the same x");
    expect(
      differenceOf(
        pairs([
          [1, 1],
          [2, 2],
        ]),
        pairs([[1, 2]]),
        "both plain",
      ).status,
    ).toBe("too few");
    expect(differenceOf(alone([3]), alone([4, 4]), "both plain").status).toBe("too few");
  });
  it("is a ratio where y is logarithmic", () => {
    const of = (k: number) => [1, 2, 4, 8, 16].map((x) => ({ x, y: k * x ** 2 * Math.exp(0.02 * random.normal()) }));
    const d = differenceOf(of(1), of(0.5), "both logarithmic");
    expect(d.value).toBeGreaterThan(0.47);
    expect(d.value).toBeLessThan(0.53);
    expect(d.status).toBe("told");
  });
  it("like two readings of one craft, are told apart about once in twenty", () => {
    const again = seededRandom(5);
    const draw = () => pairs(Array.from({ length: 6 }, (_, i) => [i, again.normal()] as const));
    const told = Array.from({ length: 400 }, () => differenceOf(draw(), draw(), "both plain")).filter(
      (d) => d.status === "told",
    ).length;
    expect(told / 400).toBeLessThan(0.1);
  });
  it("that never scatter are known to their last digit", () => {
    const d = differenceOf(alone([3, 3, 3]), alone([4, 4, 4]), "both plain");
    expect(d.interval[1] - d.interval[0]).toBeGreaterThan(0.5);
  });
});

describe("readings as they are typed", () => {
  it.each([
    [
      "2400 1.8\n3600\t4.2\n4800; 7.4",
      [
        [2400, 1.8],
        [3600, 4.2],
        [4800, 7.4],
      ],
    ],
    [
      "2400,5 1,8\n-3 −2e-3",
      [
        [2400.5, 1.8],
        [-3, -0.002],
      ],
    ],
    [
      "2400.5,1.8\n1, 2",
      [
        [2400.5, 1.8],
        [1, 2],
      ],
    ],
    [
      "# rpm, W\n\n12\n13",
      [
        [null, 12],
        [null, 13],
      ],
    ],
  ])("%j", (text, wanted) => {
    expect(readPoints(text)).toEqual({ points: wanted.map(([x, y]) => ({ x, y })), problems: [] });
  });
  it("are refused line by line, and what can be read is", () => {
    const { points, problems } = readPoints("12 µT\n2400,18\n1 2 3\n5 6");
    expect(points).toEqual([{ x: 5, y: 6 }]);
    expect(problems).toEqual([
      expect.stringMatching(/^line 1: “µT” is no number/),
      expect.stringMatching(/^line 2: “2400,18” may be one number or two/),
      expect.stringMatching(/^line 3: 3 numbers/),
    ]);
  });
  it("come back as they were", () => {
    const { points } = readPoints("1e-7 3\n5 6.25");
    expect(readPoints(pointsText(points)).points).toEqual(points);
  });
  it("x and y on some lines and y alone on others are asked about: none is left out in silence", () => {
    expect(readPoints("1 2\n3\n4 5").problems).toEqual([
      expect.stringMatching(/some lines have x and y, others y alone/),
    ]);
  });
  it("an absurd list ends in words", () => {
    expect(readPoints("1e999 2").problems).toHaveLength(1);
    expect(readPoints(Array.from({ length: 2100 }, () => "1 2").join("\n")).points).toHaveLength(2000);
  });
});

describe("the words of it", () => {
  const test: Free = freeSchema.parse({
    question: "does the damper help?",
    x: { name: "rpm", unit: "" },
    y: { name: "vibration", unit: "m/s²" },
    of: "its own",
    axes: "both plain",
    conditions: [
      { name: "as it was", points: alone([8.1, 7.9, 8.4, 8]) },
      { name: "with the damper", points: alone([5.2, 5, 5.5, 5.1]) },
    ],
  });
  it("say which is lower, by how much, and between what", () => {
    const [a, b] = test.conditions;
    const text = differenceText(differenceOf(a?.points ?? [], b?.points ?? [], test.axes), test);
    expect(text).toMatch(/^“with the damper” is 2\.9\d? m\/s² below “as it was” \(95 %: −3\.\d+ to −2\.\d+ m\/s²\)$/);
  });
  it("keep to digits that mean something", () => {
    expect(own(0.123456, 0.01)).toBe("0.12");
    expect(own(-1234.5678, 20)).toBe("−1230");
    expect(own(Number.NaN)).toBe("not known");
  });
  it("name what was varied, and what is outside", () => {
    const line = lineOf(ANSCOMBE, "both plain");
    expect(lineText(line, { ...test, x: { name: "load", unit: "N" } })).toMatch(
      /^vibration changes by 0\.5\d* m\/s² for each N of load/,
    );
    const at = foretell(line, "both plain", 20);
    expect(at && foretoldText(at, test)).toMatch(/outside of what was read/);
    const far = foretell(line, "both plain", 200);
    expect(far && foretoldText(far, test)).toMatch(/say nothing there/);
  });
});
