import { winged } from "../support/wings";
import { describe, expect, it } from "vitest";
import type { Claim, Lap } from "../../core/design/craftFile";
import { METRICS, type MetricKey } from "../../core/design/metrics";
import { difference } from "../../core/lineage/difference";
import { askedOf, reversals, settle, settleClaim } from "../../core/lineage/settle";
import { seededRandom } from "../../core/numeric/random";
import { repeatsFor, welch } from "../../core/numeric/welch";
import { craft, run, version, versionOf } from "../support/records";
import { measuredOn } from "../../core/runs/measured";
import { measureDemo } from "../../server/demo/seed";
import { hiddenSchema } from "../../server/demo/hiddenCraft";
import { readFileSync } from "node:fs";
import { changed, quietDesign } from "../support/designs";
import { demoFile } from "../support/demo";

describe("what a claim asks for", () => {
  it.each([
    ["by 20 %", "force", { kind: "by", share: 0.2, amount: null }],
    ["by 13 g", "mass", { kind: "by", share: null, amount: 0.013 }],
    ["to under 4 N", "force", { kind: "below", limit: 4 }],
    ["under 5° at 14 m/s", "angle", { kind: "below", limit: (5 * Math.PI) / 180 }],
    ["at least 12 min", "time", { kind: "above", limit: 720 }],
    ["over 9,5 N", "force", { kind: "above", limit: 9.5 }],
    ["into 318–344 mm", "length", { kind: "between", low: 0.318, high: 0.344 }],
    ["to none in 10 min", "mass", { kind: "below", limit: 0 }],
    ["a good deal", "force", { kind: "direction" }],
    ["", "force", { kind: "direction" }],
  ] as const)("%s", (text, dimension, wanted) => {
    const asked = askedOf(text, dimension);
    expect(asked.kind).toBe(wanted.kind);
    for (const [k, v] of Object.entries(wanted))
      if (typeof v === "number") expect((asked as unknown as Record<string, number>)[k]).toBeCloseTo(v, 9);
  });
});

describe("a claim held against the numbers", () => {
  const claim = (direction: Claim["direction"], amount: string): Claim => ({
    metric: "thrust",
    direction,
    amount,
    change: "",
  });
  const on = (value: number, sd: number, freedom = Infinity) => ({ value, sd, count: 1, freedom, by: "run 1" });
  // By hand: 10 N to 12.5 N is up by 25 %; with ± 0.2 N each the 20 % asked (2 N) is passed by 0.5 N ± 0.31, odds 0.95.
  it.each<[string, Claim, number, number, "met" | "not met" | "unclear"]>([
    ["clearly more than asked", claim("up", "by 20 %"), 12.5, 0.2, "met"],
    ["just what was asked", claim("up", "by 20 %"), 12.0, 0.2, "unclear"],
    ["less than asked", claim("up", "by 20 %"), 11.0, 0.2, "not met"],
    ["the wrong way", claim("down", ""), 12.5, 0.2, "not met"],
    ["down, as said", claim("down", "by 1 N"), 8.2, 0.2, "met"],
    ["a limit kept", claim("down", "under 9 N"), 8.2, 0.2, "met"],
    ["a limit in the middle of the doubt", claim("down", "under 9 N"), 9.05, 0.4, "unclear"],
    ["no change, as said", claim("same", ""), 10.1, 0.2, "met"],
    ["changed all the same", claim("same", ""), 12, 0.2, "not met"],
  ])("%s", (_, c, after, sd, verdict) => {
    expect(settleClaim(c, on(10, 0.2), on(after, sd), "force").verdict).toBe(verdict);
  });
  it("a limit needs the child alone, a change needs both, nothing needs nothing", () => {
    expect(settleClaim(claim("down", "under 9 N"), null, on(8, 0.1), "force").verdict).toBe("met");
    expect(settleClaim(claim("up", "by 20 %"), null, on(8, 0.1), "force").verdict).toBe("not measured");
    expect(settleClaim(claim("up", "by 20 %"), on(8, 0.1), null, "force").verdict).toBe("not measured");
    expect(settleClaim(claim("up", "by 20 %"), on(10, 0.2), on(12.5, 0.2), "force").odds).toBeCloseTo(0.94, 1);
  });
});

describe("scatter", () => {
  const claim = (amount: string): Claim => ({ metric: "lapTime", direction: "down", amount, change: "" });
  const lap = (label: string, lapTime: number): Lap => ({
    label,
    values: { lapTime },
    wind: null,
    pack: "",
    startVoltage: null,
    pilot: "",
    remark: "",
    out: "",
  });
  const file = (one: number[], two: number[], zero: number[] = []) =>
    craft(
      [version("v0", null), version("v1", "v0"), version("v2", "v1", { claims: [claim("")] })],
      (
        [
          ["v0", zero],
          ["v1", one],
          ["v2", two],
        ] as const
      ).flatMap(([label, times], i) =>
        times.length > 0
          ? [run(i + 1, label, 4, { course: "bay", laps: times.map((t, k) => lap(`${label}-${k}`, t)) })]
          : [],
      ),
    );
  const settled = (...of: Parameters<typeof file>) =>
    settle(file(...of), versionOf(file(...of), "v2"), () => "time")[0];
  it("of one lap each nobody knows: unclear, never met at odds 1", () => {
    expect(settled([60], [59.9])).toMatchObject({
      verdict: "unclear",
      odds: null,
      why: expect.stringMatching(/measured once/),
    });
  });
  it("is learned from repeats of any version of the craft, and then one lap each is held against it", () => {
    expect(settled([60], [59.9], [60.4, 59.1, 61, 59.6])).toMatchObject({ verdict: "unclear", why: null });
    expect(settled([60], [48], [60.4, 59.1, 61, 59.6])?.verdict).toBe("met");
  });
  it("gives the same odds as Welch's test on the same laps", () => {
    const [a, b] = [
      [60, 61.5, 59.2, 60.8],
      [58.1, 57.4, 59.6, 58.3],
    ];
    const w = welch(a, b);
    const s = settled(a, b);
    // One-sided: the share of Student's distribution on the claimed side.
    expect(s?.odds).toBeCloseTo(1 - (w?.p ?? 0) / 2, 2);
  });
  it("two like versions are met about as often as chance says, a tenth, and not half of the time", () => {
    const random = seededRandom(7);
    let met = 0;
    for (let k = 0; k < 300; k++) {
      const laps = () => Array.from({ length: 3 }, () => 60 + random.normal());
      if (settled(laps(), laps())?.verdict === "met") met++;
    }
    expect(met / 300).toBeLessThan(0.16);
  });
  it("tells before the trip how many repeats would settle a change as large as claimed", () => {
    expect(repeatsFor(2, 2)).toBe(4);
    expect(repeatsFor(0.01, 2)).toBeNull();
    const f = craft(
      [version("v0", null), version("v1", "v0", { claims: [claim("by 2 s")] })],
      [run(1, "v0", 4, { laps: [lap("a", 60), lap("b", 61), lap("c", 59)] })],
    );
    expect(settle(f, versionOf(f, "v1"), () => "time")[0]).toMatchObject({ verdict: "not measured", repeats: 4 });
  });
});

describe("credit", () => {
  it(
    "is given to none of several changes; the cheapest reversals come first, and better knowledge is no " + "change",
    () => {
      const two = changed((d) => {
        const [first, second] = d.items;
        if (first) first.place.x += 0.02;
        if (second?.mass) second.mass.evidence = "proven";
        const [unit] = d.units;
        if (unit) {
          unit.propeller.pitch.value *= 1.1;
          unit.gear.ratio *= 1.2;
        }
        d.items.push({ ...structuredClone(d.items[0] as (typeof d.items)[number]), id: "new", name: "Fence" });
      });
      const list = reversals(difference(quietDesign(), two));
      expect(list.map((r) => r.subject)).toEqual(["hull", "drive", "Fence"]);
      expect(list.map((r) => r.minutes)).toEqual([10, 25, 60]);
      expect(reversals(difference(quietDesign(), quietDesign()))).toEqual([]);
    },
  );
});

describe("the demo's Tern", () => {
  const hidden = hiddenSchema.parse(
    (JSON.parse(readFileSync(new URL("../../demo/hidden.json", import.meta.url), "utf8")) as Record<string, unknown>)
      .tern,
  );
  const file = measureDemo(demoFile("tern"), hidden);
  const dimension = (m: string) => (m in METRICS ? METRICS[m as MetricKey].dimension : "force");
  const of = (label: string) => ({ label, state: "usual", first: true });
  it("has measured what its claims are about, from runs and from the bench", () => {
    expect(measuredOn(file, of("v3"), "thrust")?.count).toBeGreaterThan(0);
    expect(measuredOn(file, of("v4"), "thrust")?.by).toContain("B-05");
    expect(measuredOn(file, of("v4"), "auw")?.count).toBeGreaterThan(2);
    expect(measuredOn(file, of("v1"), "nothing")).toBeNull();
  });
  it("settles each claim by what was measured, and says where nothing was", () => {
    const verdicts = Object.fromEntries(
      file.versions.map((v) => [v.label, settle(file, v, dimension).map((s) => s.verdict)]),
    );
    expect(verdicts).toEqual({
      v1: [],
      v2: ["unclear"],
      v3: ["unclear"],
      v3b: ["unclear"],
      v4: ["unclear", "not measured"],
      v5: ["not measured"],
    });
  });
});

describe("one thing under two names", () => {
  it("a pack and its entry, a wing and its entry are one change", () => {
    const from = quietDesign();
    winged(from);
    const [pack] = from.batteries;
    const wing = from.surfaces[0];
    if (!pack || !wing) throw new Error("no pack");
    Object.assign(pack, { itemId: "pack", name: "3 cells" });
    wing.itemId = "hull";
    const to = structuredClone(from);
    for (const i of to.items) if (i.mass && (i.id === "pack" || i.id === "hull")) i.mass.value *= 1.2;
    for (const b of to.batteries) b.capacity.value *= 1.2;
    for (const s of to.surfaces) if (s.id === "wing") s.chord *= 1.1;
    expect(reversals(difference(from, to)).length).toBe(4);
    expect(
      reversals(difference(from, to), to)
        .map((r) => r.subject)
        .sort(),
    ).toEqual([pack.name, "hull"].sort());
  });
});
