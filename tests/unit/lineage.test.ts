import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { GOING, newSuspect } from "../../core/design/craftFile";
import type { Setting } from "../../core/design/schema";
import type { MetricKey } from "../../core/design/metrics";
import { evaluate, workingOf } from "../../core/evaluate";
import { baselineOf, reachedBy } from "../../core/lineage/baseline";
import { guessingRecord, guessingTrend } from "../../core/lineage/guessing";
import { forkOf, reusableParts, spendOf, spendOfBranch } from "../../core/lineage/spend";
import { mendedElsewhere, statusOf } from "../../core/lineage/status";
import { thingKey, thingsChanged } from "../../core/lineage/things";
import { placeTree } from "../../core/lineage/tree";
import { debts, repaid, tuneStates } from "../../core/lineage/tune";
import { rollUp } from "../../core/subjects/mass/rollup";
import { usualLadder } from "../../core/runs/ladders";
import { worthMending } from "../../core/runs/learnt";
import { fieldKit, minutesToGo, readyToTravel, spares } from "../../core/safety/ready";
import { buildReport, statusText } from "../../core/wording/report";
import { changed, part, quietDesign } from "../support/designs";
import { craft, faultOf, run, version, versionOf } from "../support/records";
import { demoFile } from "../support/demo";

const setting = (id: string, kind: Setting["kind"], value: string, change: Partial<Setting> = {}): Setting => ({
  id,
  group: "Controller",
  name: id,
  value,
  kind,
  hides: "",
  ...change,
});

describe("what was changed, thing by thing", () => {
  const from = quietDesign();
  it("each part alone brings its grams and millimetres, checked by hand", () => {
    const to = changed((d) => {
      d.items = d.items.map((i) =>
        i.id === "tail" ? { ...i, mass: { value: 0.1, evidence: "measured" as const } } : i,
      );
      d.items.push(
        part({
          id: "keeper",
          name: "Keeper",
          mass: { value: 0.01, evidence: "guess" },
          place: { x: 0.6, y: 0, z: 0.05 },
        }),
      );
    });
    const { things, total } = thingsChanged(from, to);
    expect(things.map((t) => t.key)).toEqual(["items/#keeper", "items/#tail"]);
    const before = rollUp(from);
    const tail = things.find((t) => t.key === "items/#tail");
    // 20 g more at x = 0.6: the CG goes aft by 0.02·(0.6 − x)/(m + 0.02).
    expect(tail?.mass).toBeCloseTo(0.02, 9);
    expect(tail?.cg).toBeCloseTo((0.02 * (0.6 - (before?.cg.x ?? 0))) / ((before?.mass ?? 0) + 0.02), 9);
    expect(total.mass).toBeCloseTo(0.03, 9);
  });
  it("a part taken out weighs less than nothing; knowing better, planning and pricing are no change", () => {
    const { things } = thingsChanged(
      from,
      changed((d) => {
        d.items = d.items
          .filter((i) => i.id !== "tail")
          .map((i) =>
            i.id === "hull" ? { ...i, cost: 99, planned: 0.4, mass: { value: 0.5, evidence: "proven" as const } } : i,
          );
      }),
    );
    expect(things.map((t) => [t.key, Math.round(t.mass * 1000)])).toEqual([["items/#tail", -80]]);
  });
  it("one drive is one thing, however many of its fields changed", () => {
    const to = changed((d) => {
      const unit = d.units[0];
      if (unit)
        Object.assign(unit, {
          tilt: 0.05,
          gear: { ...unit.gear, ratio: 1.4 },
          propeller: { ...unit.propeller, pitch: { value: 0.12, evidence: "measured" } },
        });
    });
    const { things } = thingsChanged(from, to);
    expect(things.length).toBe(1);
    expect(things[0]?.key).toBe("units/#d");
    expect(things[0]?.changes.length).toBe(3);
    expect(thingKey(["brief", "environment", "wind"])).toBe("brief/environment");
  });
});

type D = ReturnType<typeof quietDesign>;

describe("a tune and what it was made with", () => {
  const gain = setting("g1", "gain", "30 %");
  const link = setting("c1", "channel", "4");
  const file = (mutate: Parameters<typeof changed>[0], trials: Parameters<typeof version>[2] = {}) => {
    const first = changed((d) => {
      d.setup = [gain, link, setting("t1", "trim", "2 mm"), setting("f1", "fail-safe", "off")];
    });
    const second = structuredClone(first);
    mutate(second);
    return craft([version("v1", null, { design: first }), version("v2", "v1", { design: second, ...trials })]);
  };
  const stale = (f: ReturnType<typeof file>, id = "g1") =>
    tuneStates(f, versionOf(f, "v2")).find((t) => t.setting.id === id)?.stale;
  it("stays fresh while nothing that it rests on changes", () => {
    expect(stale(file(() => {}))).toEqual([]);
    expect(stale(file((d) => void (d.brief.purpose = "other")))).toEqual([]);
  });
  it.each([
    [
      "propeller",
      (d: D): void => void ((d.units[0] as { propeller: { pitch: { value: number } } }).propeller.pitch.value = 0.13),
    ],
    ["pack", (d: D): void => void ((d.batteries[0] as { capacity: { value: number } }).capacity.value = 4)],
    ["CG", (d: D): void => void ((d.items.find((i) => i.id === "hull") as { place: { x: number } }).place.x = 0.37)],
    [
      "frame",
      (d: D): void =>
        void d.items.push(
          part({ id: "fin", mass: { value: 0.001, evidence: "measured" }, place: { x: 0.3, y: 0, z: 0.05 } }),
        ),
    ],
    ["signalling", (d: D): void => void (d.setup = d.setup.map((s) => (s.id === "c1" ? { ...s, value: "6" } : s)))],
  ] as const)("turns stale when its %s changes", (cause, mutate) => {
    expect(stale(file(mutate))).toContain(cause);
  });
  it(
    "a channel does not care for the pack, a fail-safe only for signals, and the setting that was changed " +
      "itself is fresh",
    () => {
      const other = file((d) => void ((d.batteries[0] as { capacity: { value: number } }).capacity.value = 4));
      expect(stale(other, "c1")).toEqual([]);
      expect(stale(other, "f1")).toEqual([]);
      const retuned = file((d) => {
        (d.batteries[0] as { capacity: { value: number } }).capacity.value = 4;
        d.setup = d.setup.map((s) => (s.id === "g1" ? { ...s, value: "25 %" } : s));
      });
      expect(stale(retuned)).toEqual([]);
      expect(tuneStates(retuned, versionOf(retuned, "v2")).find((t) => t.setting.id === "g1")).toMatchObject({
        since: "v2",
        before: "30 %",
      });
    },
  );
  it("calm alone does not clear it, calm and rough do, and a bad trial is told", () => {
    const trial = (air: "calm" | "rough", good = true) => ({ group: "Controller", run: 1, air, good, note: "" });
    const at = (trials: ReturnType<typeof trial>[]) => {
      const f = file((d) => void ((d.batteries[0] as { capacity: { value: number } }).capacity.value = 4), { trials });
      return tuneStates(f, versionOf(f, "v2")).find((t) => t.setting.id === "g1");
    };
    expect(at([])).toMatchObject({ tried: "no", stale: ["pack"] });
    expect(at([trial("calm")])).toMatchObject({ tried: "calm only", stale: ["pack"] });
    expect(at([trial("rough")])).toMatchObject({ tried: "rough only", stale: ["pack"] });
    expect(at([trial("calm"), trial("rough")])).toMatchObject({ tried: "both", stale: [] });
    expect(at([trial("calm"), trial("rough", false)])).toMatchObject({ tried: "bad", stale: ["pack"] });
    expect(at([trial("rough", false), trial("calm"), trial("rough")])?.tried).toBe("both");
  });
  it("a limit that hides a fault is owed since the version that took it on, until one lets it go", () => {
    const withSetup = (setup: Setting[]) => changed((d) => void (d.setup = setup));
    const hiding = setting("l1", "limit", "80 %", { hides: "shakes at full throttle" });
    const f = craft([
      version("v1", null, { design: withSetup([setting("l1", "limit", "100 %")]) }),
      version("v2", "v1", { design: withSetup([hiding]) }),
      version("v3", "v2", { design: withSetup([hiding]) }),
      version("v4", "v3", { design: withSetup([{ ...hiding, value: "100 %", hides: "" }]) }),
    ]);
    expect(debts(f, versionOf(f, "v1"))).toEqual([]);
    expect(debts(f, versionOf(f, "v3"))).toEqual([{ setting: hiding, since: "v2" }]);
    expect(debts(f, versionOf(f, "v4"))).toEqual([]);
    expect(repaid(f, versionOf(f, "v4")).map((s) => s.id)).toEqual(["l1"]);
    expect(repaid(f, versionOf(f, "v3"))).toEqual([]);
  });
});

describe("is the guessing getting better?", () => {
  const measured = (value: number, predicted: number) => ({
    metric: "auw",
    dimension: "mass" as const,
    predicted: { value: predicted, sd: 0.03, evidence: "guess" as const },
    measured: { value, sd: 0.04, by: "" },
  });
  const file = (...misses: number[]) =>
    craft(
      misses.map((_, i) => version(`v${i + 1}`, i === 0 ? null : `v${i}`)),
      misses.map((m, i) => run(i + 1, `v${i + 1}`, 1, { metrics: [measured(1, 1 - m)] })),
    );
  it("counts misses in steps of the combined ± and as a share", () => {
    // √(0.03² + 0.04²) = 0.05: a miss of 0.1 is 2 steps, and 10 % of what came.
    expect(guessingRecord(file(0.1))).toEqual([
      { version: "v1", count: 1, size: expect.closeTo(2, 9), share: expect.closeTo(0.1, 9), within: 0 },
    ]);
  });
  it.each([
    [[0.3, 0.2, 0.1], "better"],
    [[0.1, 0.2, 0.3], "worse"],
    [[0.3, 0.1, 0.2, 0.25], "no better"],
    [[0.3, 0.1], "too few"],
  ] as const)("%j: %s", (misses, trend) => {
    expect(guessingTrend(guessingRecord(file(...misses)))).toBe(trend);
  });
  it("leaves out what was not predicted or not measured", () => {
    const f = craft(
      [version("v1", null)],
      [
        run(1, "v1", 1, {
          metrics: [
            { ...measured(1, 1), predicted: null },
            { ...measured(1, 1), measured: null },
          ],
        }),
      ],
    );
    expect(guessingRecord(f)).toEqual([]);
  });
  it("honest predictions lie within one ± in about 68 of 100: the normal law", () => {
    // Halton points through the inverse normal (Abramowitz and Stegun table 26.1: Φ⁻¹(0.84134) = 1): 0.68 of them
    // within one step.
    const inverse = (p: number) => {
      let [low, high] = [-5, 5];
      for (let k = 0; k < 60; k++) {
        const mid = (low + high) / 2;
        // Φ by Zelen and Severo's formula 26.2.17, off by less than 7.5e-8.
        const t = 1 / (1 + 0.2316419 * Math.abs(mid));
        const tail =
          (Math.exp((-mid * mid) / 2) / Math.sqrt(2 * Math.PI)) *
          t *
          (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
        if ((mid > 0 ? 1 - tail : tail) < p) low = mid;
        else high = mid;
      }
      return low;
    };
    const metrics = Array.from({ length: 60 }, (_, i) => ({
      ...measured(1 + 0.05 * inverse((i + 0.5) / 60), 1),
      metric: `m${i}`,
    }));
    const [record] = guessingRecord(craft([version("v1", null)], [run(1, "v1", 1, { metrics })]));
    expect(record?.within).toBeCloseTo(0.683, 1);
    expect(record?.size).toBeCloseTo(Math.sqrt(2 / Math.PI), 1);
  });
});

describe("the lineage as a tree", () => {
  const lanes = (list: [string, string | null][]) =>
    placeTree(list.map(([label, parent]) => ({ label, parent }))).map((p) => p.lane);
  it("the plain number goes on in its lane, the branch is raised, and a lane is used again", () => {
    expect(
      lanes([
        ["v1", null],
        ["v1b", "v1"],
        ["v2", "v1"],
        ["v3", "v2"],
        ["v3b", "v3"],
        ["v4", "v3"],
      ]),
    ).toEqual([0, 1, 0, 0, 1, 0]);
  });
  it("two branches alive at once have lanes of their own", () => {
    expect(
      lanes([
        ["v1", null],
        ["v1b", "v1"],
        ["v1c", "v1"],
        ["v2", "v1"],
        ["v1b2", "v1b"],
      ]),
    ).toEqual([0, 1, 2, 0, 1]);
  });
  it("however it grew: all are placed, in order, no two lines cross in one lane", () => {
    const grown = fc.array(fc.nat(1000), { minLength: 1, maxLength: 25 }).map((picks) => {
      const list: { label: string; parent: string | null }[] = [];
      for (const [i, n] of picks.entries()) {
        const parent = list[n % Math.max(list.length, 1)]?.label ?? null;
        const plain =
          parent !== null && /^v\d+$/.test(parent) && !list.some((v) => v.parent === parent && /^v\d+$/.test(v.label));
        list.push({ label: plain || parent === null ? `v${i + 1}` : `${parent}${"bcdefgh"[i % 7]}${i}`, parent });
      }
      return list;
    });
    fc.assert(
      fc.property(grown, (versions) => {
        const placed = placeTree(versions);
        expect(placed.map((p) => p.label)).toEqual(versions.map((v) => v.label));
        expect(placed.map((p) => p.column)).toEqual(versions.map((_, i) => i));
        // A version that stands between a parent and its child in their lane would be drawn over their line.
        for (const p of placed) {
          const parent = placed.find((q) => q.label === p.parent);
          if (!parent || parent.lane !== p.lane) continue;
          expect(placed.filter((q) => q.lane === p.lane && q.column > parent.column && q.column < p.column)).toEqual(
            [],
          );
        }
      }),
    );
  });
});

describe("what worked, what it took, what is left of it", () => {
  const versions = [version("v1", null), version("v2", "v1"), version("v2b", "v1"), version("v3", "v2")];
  it("the last working baseline is the newest of its own line that ran short and passed", () => {
    const file = craft(versions, [run(1, "v1", 4), run(2, "v2", 3), run(3, "v2b", 5), run(4, "v3", 1)]);
    expect(baselineOf(file, "v3")?.label).toBe("v1");
    expect(baselineOf(file, "v2b")?.label).toBe("v2b");
    expect(baselineOf(file, "v3", Date.parse("2026-01-01T00:00:00Z"))).toBeNull();
    expect(reachedBy(file, "v2b")).toBe(5);
  });
  it("hours and money are those of new parts, runs and faults, of the branch and of the whole line", () => {
    const second = changed((d) => {
      d.items = d.items.map((i) =>
        i.id === "tail"
          ? {
              ...i,
              mass: { value: 0.1, evidence: "measured" as const },
              makeMinutes: 90,
              cost: 7,
              source: "make" as const,
            }
          : i,
      );
    });
    const file = craft(
      [version("v1", null), version("v2", "v1"), version("v2b", "v1", { design: second })],
      [run(1, "v2b", 4, { seconds: 1800 }), run(2, "v2b", 4)],
      [faultOf(1, 1, { minutes: 30, cost: 5, suspects: [newSuspect("a", "a", { spentMinutes: 30, spentCost: 2 })] })],
    );
    expect(spendOf(file, versionOf(file, "v2b"))).toEqual({
      building: 1.5,
      running: 0.5,
      untimed: 1,
      mending: 1,
      money: 14,
    });
    expect(forkOf(file.versions, "v2b")).toBe("v1");
    const { branch, whole } = spendOfBranch(file, "v2b");
    expect(branch).toEqual(spendOf(file, versionOf(file, "v2b")));
    const first = spendOf(file, versionOf(file, "v1"));
    expect(whole.money).toBe(14 + first.money);
    expect(forkOf([{ label: "v1", parent: null }], "v1")).toBeNull();
  });
  it("a part that broke and was not mended is not whole; the dearest stand first", () => {
    const file = craft(
      [version("v1", null)],
      [run(1, "v1", 4)],
      [
        faultOf(1, 1, { part: "motor", severity: "damage" }),
        faultOf(2, 1, { part: "pack", severity: "damage", fix: "new plug" }),
      ],
    );
    const parts = reusableParts(file, versionOf(file, "v1"));
    expect(parts[0]?.item.id).toBe("pack");
    expect(parts.filter((p) => !p.whole).map((p) => p.item.id)).toEqual(["motor"]);
  });
});

describe("the honest status of a build", () => {
  const upTo = (n: number) => Array.from({ length: n }, (_, i) => run(i + 1, "v1", i + 1));
  const status = (f: ReturnType<typeof craft>) =>
    statusOf(f, versionOf(f, "v1"), evaluate(versionOf(f, "v1").design).findings);
  it("works when it ran in the open and nothing is left against it", () => {
    expect(status(craft([version("v1", null)], upTo(5)))).toEqual({ status: "works", reasons: [] });
  });
  it("do not build: what never ran short, what a stop verdict stands against, what can hurt somebody", () => {
    expect(status(craft([version("v1", null)])).status).toBe("do not build");
    expect(status(craft([version("v1", null)], upTo(3))).reasons).toEqual([{ kind: "reached", stage: 3 }]);
    const aft = changed((d) => void ((d.items.find((i) => i.id === "pack") as { place: { x: number } }).place.x = 0.4));
    expect(status(craft([version("v1", null, { design: aft })], upTo(5))).status).toBe("do not build");
    expect(status(craft([version("v1", null)], upTo(5), [faultOf(1, 1, { severity: "danger" })])).status).toBe(
      "do not build",
    );
    expect(
      status(craft([version("v1", null, { fate: { ...GOING, state: "stopped", why: "x" } })], upTo(5))).status,
    ).toBe("do not build");
  });
  it("works with cautions: short only, a fix unproven, a debt, a failed rung above", () => {
    const but = (f: ReturnType<typeof craft>) => {
      const s = status(f);
      expect(s.status).toBe("works with cautions");
      return s.reasons.map((r) => r.kind);
    };
    expect(but(craft([version("v1", null)], upTo(4)))).toEqual(["reached"]);
    expect(but(craft([version("v1", null)], upTo(5), [faultOf(1, 1, { state: "closed" })]))).toEqual(["fault"]);
    expect(but(craft([version("v1", null)], [...upTo(5), run(6, "v1", 6, { outcome: "failed" })]))).toEqual(["rung"]);
    const owing = changed((d) => void (d.setup = [setting("l", "limit", "80 %", { hides: "shakes" })]));
    expect(but(craft([version("v1", null, { design: owing })], upTo(5)))).toEqual(["debt"]);
  });
  it("a fix in another branch is not aboard here", () => {
    expect(mendedElsewhere({ fix: "pin", fixVersion: "v2b" }, ["v2", "v1"])).toBe("v2b");
    expect(mendedElsewhere({ fix: "pin", fixVersion: "v1" }, ["v2", "v1"])).toBeNull();
    const f = craft([version("v1", null), version("v2", "v1")], upTo(5), [
      faultOf(1, 1, { severity: "danger", state: "closed", fix: "pin", fixVersion: "v2" }),
    ]);
    expect(status(f).status).toBe("do not build");
    expect(statusText(status(f).reasons[0] as never, f, evaluate(quietDesign()))).toMatch(
      /mended in v2, not here, and it can hurt somebody/,
    );
  });
});

describe("the build report", () => {
  const tern = demoFile("tern");
  const v4 = versionOf(tern, "v4");
  const text = buildReport(tern, v4, evaluate(v4.design));
  it("says its status first, then numbers, parts, set-up, tests, faults and cautions, in this order", () => {
    expect(text.startsWith("# Tern v4")).toBe(true);
    expect(text.indexOf("**Do not build.**")).toBeLessThan(text.indexOf("## Numbers"));
    const heads = [...text.matchAll(/^## (.+)$/gm)].map((m) => m[1]);
    expect(heads).toEqual([
      "What it is for",
      "What this version was to find out",
      "Numbers",
      "Parts",
      "Drives and packs",
      "Set-up",
      "Changed since v3",
      "Tests",
      "Faults",
      "Advice received",
      "Before power",
      "At the site",
      "Where it may be run",
    ]);
  });
  it("leaves no part and no fault of the version out", () => {
    for (const i of v4.design.items) expect(text).toContain(`| ${i.name} |`);
    for (const f of tern.faults.filter((x) => tern.runs.find((r) => r.number === x.run)?.version === "v4"))
      expect(text).toContain(f.title);
  });
  it("of a craft of which nothing is known yet is short and does not break", () => {
    const bare = craft([
      version("v1", null, {
        frozenAt: null,
        design: {
          ...quietDesign(),
          items: [],
          units: [],
          batteries: [],
          duty: [],
          brief: { ...quietDesign().brief, targets: [] },
        },
      }),
    ]);
    const report = buildReport(bare, versionOf(bare, "v1"), evaluate(versionOf(bare, "v1").design), "imperial");
    expect(report).toMatch(/\*\*Do not build\.\*\*/);
    expect(report).not.toMatch(/NaN|undefined|null/);
  });
});

describe("ready to travel", () => {
  it("what the records show is green or red by itself; the rest is by hand, each with its minutes", () => {
    const fix = { fix: "a pin", fixVersion: "v1", damage: "shaft", part: "motor", touched: ["tail"], nextWeakest: "" };
    const file = craft(
      [version("v1", null)],
      [run(1, "v1", 1), run(2, "v1", 2)],
      [
        faultOf(1, 2, fix),
        faultOf(2, 2, {
          severity: "danger",
          suspects: [newSuspect("a", "loose plug", { minutes: 5 }), newSuspect("b", "servo", { minutes: 40 })],
        }),
      ],
    );
    const lines = readyToTravel(file, versionOf(file, "v1"), [{ id: "x", text: "CG out" }], null);
    const state = (id: string) => lines.find((l) => l.id === id)?.state;
    expect(state("stop-x")).toBe("red");
    expect(lines.find((l) => l.id === "open-2")).toMatchObject({
      state: "red",
      minutes: 5,
      text: expect.stringContaining("loose plug"),
    });
    expect(state("spun-1")).toBe("red");
    expect(state("touched-1-tail")).toBe("by hand");
    expect(state("failsafe")).toBe("green");
    expect(state("return")).toBe("red");
    expect(state("second")).toBe("by hand");
    const all = new Set(lines.map((l) => l.id));
    expect(all.size).toBe(lines.length);
    expect(minutesToGo(lines, all)).toBe(0);
    expect(minutesToGo(lines, new Set())).toBe(
      lines.filter((l) => l.state !== "green").reduce((s, l) => s + l.minutes, 0),
    );
  });
  it("what no record shows is never green: a fail-safe that was not judged, a lost link that nobody tried", () => {
    const gate = usualLadder(["wings"])[0]?.gates.find((g) => g.id === "failsafe");
    if (!gate) throw new Error("no fail-safe gate");
    const at = (result: "passed" | "not judged", stage: number) => {
      const file = craft(
        [version("v1", null)],
        [run(1, "v1", 1, { gates: [{ gate, result, value: null }] }), run(2, "v1", stage)],
      );
      const lines = readyToTravel(file, versionOf(file, "v1"), [], null);
      return ["failsafe", "return"].map((id) => lines.find((l) => l.id === id)?.state);
    };
    expect(at("not judged", 2)).toEqual(["red", "red"]);
    expect(at("passed", 2)).toEqual(["green", "red"]);
    expect(at("passed", 3)).toEqual(["green", "by hand"]);
  });
  it("a run held since the repair turns it green, and spares come from what broke, each part once", () => {
    const broke = { fix: "a pin", damage: "one propeller", part: "prop" };
    const file = craft(
      [version("v1", null)],
      [run(1, "v1", 4), run(2, "v1", 2)],
      [faultOf(1, 1, broke), faultOf(2, 1, broke)],
    );
    const lines = readyToTravel(file, versionOf(file, "v1"), [], { name: "Annulus", able: true });
    expect(lines.find((l) => l.id === "spun-1")?.state).toBe("green");
    expect(lines.find((l) => l.id === "second")).toMatchObject({
      state: "green",
      text: expect.stringContaining("Annulus"),
    });
    expect(spares(file, versionOf(file, "v1")).map((s) => s.what)).toEqual(["prop (one propeller)"]);
    expect(fieldKit(versionOf(file, "v1")).map((k) => k.id)).toContain("propellers");
  });
});

describe("what a run teaches", () => {
  it("names what disagrees, worst first, and what it rests on that is weakly known", () => {
    const design = changed(
      (d) => void ((d.units[0] as { motor: { kv: { evidence: string } } }).motor.kv.evidence = "guess"),
    );
    const evaluation = evaluate(design);
    const m = (metric: string, value: number, predicted: number) => ({
      metric,
      dimension: "force" as const,
      predicted: { value: predicted, sd: 0.1, evidence: "guess" as const },
      measured: { value, sd: 0, by: "" },
    });
    const list = worthMending({ metrics: [m("thrust", 5, 5.05), m("auw", 5, 5.15), m("rpm", 5, 5.25)] }, (metric) =>
      workingOf(design, evaluation, metric as MetricKey),
    );
    expect(list.map((x) => x.metric)).toEqual(["rpm", "auw"]);
    expect(list[0]?.steps).toBeCloseTo(-2.5, 6);
    expect(list[0]?.inputs[0]?.name).toMatch(/kv/i);
    expect(list[0]?.inputs.every((i) => i.evidence === "guess" || i.evidence === "datasheet")).toBe(true);
  });
});
