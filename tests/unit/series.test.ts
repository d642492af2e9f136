import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Run, type Lap, runSchema } from "../../core/design/craftFile";
import { difference } from "../../core/lineage/difference";
import { repeatsNeeded, tQuantile, welch } from "../../core/numeric/welch";
import { guessLaps, lowPackIn, readLaps } from "../../core/runs/lapTable";
import { type SeriesLap, compareSeries, coursesOf, lapsOf, lapValue } from "../../core/runs/series";
import { changed, quietDesign } from "../support/designs";

describe("difference of two means", () => {
  // Student (1908): hours of sleep gained by ten patients with two drugs; Welch's values as published in many
  // textbooks.
  it("is Welch's on Student's sleep data", () => {
    const a = [0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0, 2];
    const b = [1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4];
    const r = welch(a, b);
    expect(r?.t).toBeCloseTo(1.8608, 4);
    expect(r?.freedom).toBeCloseTo(17.776, 3);
    expect(r?.p).toBeCloseTo(0.0794, 4);
    expect(r?.interval[0]).toBeCloseTo(-0.2055, 4);
    expect(r?.interval[1]).toBeCloseTo(3.3655, 4);
  });
  // Two-sided 95 % t quantiles as in any statistical table.
  it.each([
    [1, 12.706],
    [2, 4.303],
    [5, 2.571],
    [10, 2.228],
    [30, 2.042],
    [120, 1.98],
  ])("t for %d degrees of freedom is %f", (freedom, t) => {
    expect(tQuantile(0.95, freedom)).toBeCloseTo(t, 3);
  });
  it("turns round with its sides, and says nothing of too little", () => {
    const numbers = fc.array(fc.double({ min: -100, max: 100, noNaN: true }), { minLength: 3, maxLength: 12 });
    fc.assert(
      fc.property(numbers, numbers, (a, b) => {
        const [x, y] = [welch(a, b), welch(b, a)];
        if (!x || !y) return;
        expect(x.difference).toBeCloseTo(-y.difference, 9);
        expect(x.p).toBeCloseTo(y.p, 9);
        expect(x.interval[0]).toBeLessThanOrEqual(x.interval[1]);
      }),
    );
    expect(welch([1], [2, 3])).toBeNull();
    expect(welch([1, 1], [2, 2])).toBeNull();
  });
  it("names the repeats that would settle it: with that many the interval is clear of zero", () => {
    const spread = (mean: number, n: number) => Array.from({ length: n }, (_, i) => mean + (i % 2 ? 1 : -1));
    const w = welch(spread(0, 6), spread(0.8, 6));
    const n = w && repeatsNeeded(w);
    if (!n) throw new Error("settled");
    expect(n).toBeGreaterThan(6);
    const later = welch(spread(0, n + 2), spread(0.8, n + 2));
    expect((later?.interval[0] ?? -1) > 0).toBe(true);
    expect(repeatsNeeded(later as NonNullable<typeof later>)).toBeNull();
  });
});

describe("units of a list of laps", () => {
  const first = (text: string, unit?: string) => {
    const reading = guessLaps(text);
    if (unit !== undefined) for (const c of reading.columns) if (c.role === "metric") c.unit = unit;
    return readLaps(text, reading);
  };
  // 1 W·h = 3600 J, 1 km/h = 1/3.6 m/s: by definition of the units. Charge is stored in A·h.
  it.each([
    ["energy Wh", "energyUsed", "2.5", 9000],
    ["charge (mAh)", "charge", "1000", 1],
    ["speed km/h", "speed", "36", 10],
    ["lap time [min]", "lapTime", "1.5", 90],
  ])("%s", (header, metric, cell, stored) => {
    const table = first(`lap,version,${header}\n1,A,${cell}\n2,A,${cell}\n`);
    expect(table.laps[0]?.values[metric]).toBeCloseTo(stored, 6);
  });
  it("a header without a unit is taken in the one shown beside it, which can be changed", () => {
    const text = "lap,version,Energy\n1,A,2\n2,B,3\n";
    const shown = guessLaps(text).columns[2]?.unit;
    expect(shown).not.toBe("");
    expect(first(text, "Wh").laps.map((l) => l.values.energyUsed)).toEqual([7200, 10_800]);
    expect(first(text, "J").laps.map((l) => l.values.energyUsed)).toEqual([2, 3]);
  });
});

describe("a list of laps from elsewhere", () => {
  const laps = (text: string) => readLaps(text, guessLaps(text)).laps.map((l) => ({ ...l.values, wind: l.wind }));
  it("has its wind and its times in whatever language; a time without a unit is no hour and a half", () => {
    const times = [
      { lapTime: 94.8, wind: 3 },
      { lapTime: 93.2, wind: 4 },
    ];
    expect(laps("Runde;Version;Zeit;Wind m/s\n1;A;94,8;3\n2;B;1:33,2;4")).toEqual(times);
    expect(laps("tour,version,temps,vent (m/s)\n1,A,94.8,3\n2,B,93.2,4")).toEqual(times);
    expect(laps("vuelta;versión;tiempo s;viento m/s\n1;A;94,8;3\n2;B;93,2;4")).toEqual(times);
    expect(laps("lap,version,time\n1,A,1.58\n2,B,1.6")).toMatchObject([{ lapTime: 94.8 }, { lapTime: 96 }]);
    expect(laps("Runde;Version;Tempo km/h\n1;A;36\n2;B;18")).toMatchObject([{ speed: 10 }, { speed: 5 }]);
  });
});

describe("a list of laps as users have it", () => {
  const text = readFileSync(new URL("../samples/runs-gannet.csv", import.meta.url), "utf8");
  const table = readLaps(text, guessLaps(text));
  const laps = table.laps.map(({ line: _, ...l }): SeriesLap => ({ ...l, run: 1, date: "2026-05-01" }));
  const compared = compareSeries(laps, "A", "B", "energyUsed", "lap", [], lowPackIn(text));
  const near = (got: number | undefined, want: number) =>
    expect(Math.abs((got ?? Number.NaN) / want - 1)).toBeLessThan(1e-3);

  it("is understood, and what is refused or doubtful is named by its line", () => {
    expect(table.reading.columns.map((c) => c.role)).toEqual([
      "label",
      "version",
      "metric",
      "wind",
      "pack",
      "startVoltage",
      "metric",
      "remark",
    ]);
    expect(table.versions).toEqual(["A", "B"]);
    expect(table.reports.filter((r) => r.severity === "error").map((r) => r.line)).toEqual([14, 23]);
    expect(table.reports.filter((r) => r.severity === "warning").map((r) => r.line)).toEqual([11, 21, 27]);
    expect(["A", "B"].map((v) => table.laps.filter((l) => l.version === v).length)).toEqual([12, 12]);
  });
  // The truth that the file was made from: Welch without the three laps on a low pack, and with them.
  it("gives the difference that it was made with", () => {
    const wh = (j: number | undefined) => (j ?? Number.NaN) / 3600;
    const { result, withAll, share } = compared;
    near(wh(result?.a.mean), 3.4293);
    near(wh(result?.b.mean), 3.132909);
    near(wh(result?.a.sd), 0.06133161);
    near(result?.t, -11.75719);
    near(result?.freedom, 17.99153);
    near(wh(result?.difference), -0.2963909);
    near(wh(result?.interval[0]), -0.3493555);
    near(wh(result?.interval[1]), -0.2434263);
    near((share?.value ?? 0) * 100, -8.642898);
    near((share?.interval[0] ?? 0) * 100, -10.10983);
    near((share?.interval[1] ?? 0) * 100, -7.175968);
    near(withAll?.t, -6.806593);
    near(withAll?.freedom, 21.98913);
    expect(compared.verdict).toBe("clear");
    expect(compared.left.map((l) => l.lap.label)).toEqual(["8", "17", "22"]);
  });
  it("without a limit said, a pack 7 % under the usual one is low all the same", () => {
    expect(compareSeries(laps, "A", "B", "energyUsed", "lap", []).left.map((l) => l.lap.label)).toEqual([
      "8",
      "17",
      "22",
    ]);
  });
});

describe("what else could be the cause", () => {
  const lap = (version: string, value: number, change: Partial<SeriesLap> = {}): SeriesLap => ({
    label: "1",
    values: { energyUsed: value, lapTime: 90, distance: 300 },
    wind: 2,
    pack: "P1",
    startVoltage: 16,
    pilot: "ann",
    remark: "",
    out: "",
    run: 1,
    version,
    date: "2026-05-01T10:00:00Z",
    ...change,
  });
  const series = (b: Partial<SeriesLap> = {}) =>
    [1, 2, 3, 4].flatMap((k) => [lap("v1", 10 + k * 0.1), lap("v2", 9 + k * 0.1, b)]);
  const kinds = (laps: SeriesLap[], changes = difference(quietDesign(), quietDesign())) =>
    compareSeries(laps, "v1", "v2", "energyUsed", "lap", changes).confounders.map((c) => c.kind);
  it.each<[string, Partial<SeriesLap>]>([
    ["pack", { pack: "P2" }],
    ["pilot", { pilot: "ben" }],
    ["days", { date: "2026-05-09T10:00:00Z" }],
  ])("%s", (kind, b) => {
    expect(kinds(series())).toEqual([]);
    expect(kinds(series(b))).toEqual([kind]);
  });
  it("wind, when it differed beyond chance", () => {
    const windy = series().map((l, i) => ({ ...l, wind: l.version === "v2" ? 5 + (i % 3) * 0.2 : 2 + (i % 3) * 0.2 }));
    expect(kinds(windy)).toEqual(["wind"]);
  });
  it("several changes at once", () => {
    const two = changed((d) => {
      for (const i of d.items.slice(0, 2)) i.place.x += 0.01;
    });
    expect(kinds(series(), difference(quietDesign(), two))).toEqual(["changes"]);
  });
  it("per distance, per minute, per charge: divided lap by lap, silent where it was not measured", () => {
    const l: Lap = lap("v1", 12);
    expect(lapValue(l, "energyUsed", "distance")).toBeCloseTo(0.04, 12);
    expect(lapValue(l, "energyUsed", "minute")).toBeCloseTo(8, 12);
    expect(lapValue(l, "energyUsed", "charge")).toBeNull();
    expect(lapValue(l, "nothing", "lap")).toBeNull();
  });
  it("an unclear difference is not called one, and says how many repeats would settle it", () => {
    const noisy = [1, 2, 3].flatMap((k) => [lap("v1", 10 + k), lap("v2", 9.5 + k)]);
    const r = compareSeries(noisy, "v1", "v2", "energyUsed", "lap", []);
    expect(r.verdict).toBe("unclear");
    expect(r.more ?? 0).toBeGreaterThan(3);
    expect(compareSeries(noisy.slice(0, 2), "v1", "v2", "energyUsed", "lap", []).verdict).toBe("too-few");
  });
  it("runs of one course are one series, in their order", () => {
    const run = (number: number, version: string, date: string, course: string, laps: Lap[]): Run =>
      runSchema.parse({
        number,
        version,
        date,
        stage: 5,
        purpose: "",
        place: "",
        pilot: "",
        conditions: { airTemperature: null, wind: null, surface: "" },
        pack: { name: "", restingVoltage: null, endVoltage: null, temperature: null },
        outcome: "passed",
        cautionsRead: true,
        notes: "",
        metrics: [],
        course,
        laps,
      });
    const { run: _r, version: _v, date: _d, ...plain } = lap("v1", 10);
    const runs = [
      run(2, "v2", "2026-05-02T10:00:00Z", "bay", [{ ...plain, label: "b" }]),
      run(1, "v1", "2026-05-01T10:00:00Z", "bay", [{ ...plain, label: "a" }]),
      run(3, "v1", "2026-05-03T10:00:00Z", "", [plain]),
    ];
    expect(lapsOf({ runs }, "bay").map((l) => [l.label, l.version, l.run])).toEqual([
      ["a", "v1", 1],
      ["b", "v2", 2],
    ]);
    expect(coursesOf({ runs })).toEqual([
      { course: "bay", versions: ["v1", "v2"], metrics: ["energyUsed", "lapTime", "distance"] },
    ]);
  });
});
