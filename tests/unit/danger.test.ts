import { describe, expect, it } from "vitest";
import type { Moment, Run } from "../../core/design/craftFile";
import { evaluate } from "../../core/evaluate";
import { board } from "../../core/runs/board";
import { locksFor } from "../../core/runs/ladder";
import { limitsLearnt } from "../../core/runs/limits";
import { dangersIn, faultOfDanger } from "../../core/runs/dangers";
import { marksFor } from "../../core/runs/marks";
import { readyToTravel } from "../../core/safety/ready";
import { lockText } from "../../core/wording/ladder";
import { changed } from "../support/designs";
import { newPlan } from "../support/entries";
import { craft, faultOf, run, version, versionOf } from "../support/records";

const moment = (mark: string, seconds: number): Moment => ({
  id: `m${seconds}`,
  seconds,
  kind: "mark",
  mark,
  text: "",
  pack: null,
  files: [],
});
const with_ = (moments: Moment[]): Partial<Run> => ({ moments });

describe("a mark of danger", () => {
  it("is offered on every kind of craft: smoke, power cut, part lost, out of control, struck, near miss, hurt", () => {
    for (const kind of ["wings", "hull", "ground", "submerged"] as const) {
      const codes = marksFor([kind])
        .filter((m) => m.danger)
        .map((m) => m.code);
      expect(codes).toEqual(
        expect.arrayContaining(["smoke", "cut", "part-off", "no-control", "hit-somebody", "near-miss", "hurt"]),
      );
    }
  });
  it("opens a fault, each mark once, with its time", () => {
    const seen = dangersIn({
      moments: [moment("rose", 3), moment("smoke", 74), moment("smoke", 90), moment("near-miss", 120)],
    });
    expect(seen.map((s) => [s.mark.code, s.seconds])).toEqual([
      ["smoke", 74],
      ["near-miss", 120],
    ]);
    const first = seen[0];
    expect(first && faultOfDanger(4, first)).toMatchObject({
      run: 4,
      title: "Smell or smoke",
      symptom: "motor-hot",
      severity: "danger",
      seen: "Marked in run 4 after 74 s.",
    });
  });
  it("locks every powered rung of its line until it is answered", () => {
    const file = (faults: ReturnType<typeof faultOf>[]) =>
      craft(
        [version("v1", null), version("v2", "v1")],
        [run(1, "v1", 1), run(2, "v1", 2, with_([moment("smoke", 9)])), run(3, "v2", 1)],
        faults,
      );
    const locks = (faults: ReturnType<typeof faultOf>[], stage = 2) =>
      locksFor(file(faults), versionOf(file(faults), "v2"), [], stage);
    expect(locks([])).toEqual([{ kind: "danger", run: 2, mark: "smoke" }]);
    expect(locks([], 1)).toEqual([]);
    const [lock] = locks([]);
    expect(lock && lockText(lock)).toMatch(/“Smell or smoke” in run 2 is not answered/);
    const open = faultOf(1, 2, { title: "Smell or smoke", symptom: "motor-hot" });
    expect(locks([open])).toHaveLength(1);
    // Another fault of that run answers nothing.
    expect(locks([open, faultOf(2, 2, { title: "Nick in the blade", state: "unresolved" })])).toHaveLength(1);
    expect(locks([{ ...open, state: "unresolved" }])).toEqual([]);
  });
  it("is red before a trip, as are failed gates and crashes", () => {
    const file = craft(
      [version("v1", null)],
      [run(1, "v1", 1), run(2, "v1", 2, with_([moment("hurt", 9)])), run(3, "v1", 3, { outcome: "failed" })],
    );
    const red = readyToTravel(file, versionOf(file, "v1"), [], null)
      .filter((l) => l.id.startsWith("lock-"))
      .map((l) => l.text);
    expect(red).toEqual([expect.stringMatching(/Somebody is hurt/), expect.stringMatching(/Rung 3 failed in run 3/)]);
  });
});

describe("before a trip", () => {
  it("a setting made with this very craft is not to be tuned again", () => {
    const design = changed(
      (d) =>
        void d.setup.push({ id: "g", group: "Controller", name: "Pitch gain", value: "0.4", kind: "gain", hides: "" }),
    );
    const file = craft([version("v1", null, { design }), version("v2", "v1", { design })]);
    const ids = readyToTravel(file, versionOf(file, "v2"), [], null).map((l) => l.id);
    expect(ids).not.toContain("tune-g");
  });
  it("debts, stale tunes, packs without a load test, and a second craft that cannot run are on the list", () => {
    const setting = {
      id: "g",
      group: "Controller",
      name: "Pitch gain",
      value: "0.4",
      kind: "gain" as const,
      hides: "a soft mount",
    };
    const first = changed((d) => void d.setup.push(setting));
    const heavier = changed((d) => {
      d.setup.push(setting);
      const hull = d.items.find((i) => i.id === "hull");
      if (hull?.mass) hull.mass.value = 0.9;
      if (d.batteries[0]) d.batteries[0].cellResistance = { value: 0.008, evidence: "guess" };
    });
    const file = craft([version("v1", null, { design: first }), version("v2", "v1", { design: heavier })]);
    const lines = readyToTravel(file, versionOf(file, "v2"), [], { name: "Annulus", able: false });
    const at = (id: string) => lines.find((l) => l.id === id);
    expect(at("debt-g")?.text).toMatch(/only hides “a soft mount”/);
    expect(at("tune-g")).toMatchObject({ state: "red", text: expect.stringMatching(/set with another craft/) });
    expect(at("test-b")?.text).toMatch(/never read under load/);
    expect(at("second")).toMatchObject({
      state: "red",
      text: expect.stringMatching(/Annulus, named as the second craft/),
    });
  });
  it("a spare takes as long as its part takes to make", () => {
    const design = changed((d) => {
      const tail = d.items.find((i) => i.id === "tail");
      if (tail) tail.makeMinutes = 95;
    });
    const file = craft(
      [version("v1", null, { design })],
      [run(1, "v1", 4)],
      [faultOf(1, 1, { damage: "snapped", part: "tail" })],
    );
    expect(readyToTravel(file, versionOf(file, "v1"), [], null).find((l) => l.id === "spare-1")?.minutes).toBe(95);
  });
});

describe("what never locks a rung", () => {
  it("is what it costs", () => {
    const design = changed((d) => {
      const cost = d.brief.targets.find((t) => t.metric === "cost");
      if (cost) cost.value = 1;
    });
    const { findings } = evaluate(design);
    expect(findings.some((f) => f.code === "cost-over" && f.severity === "stop")).toBe(true);
    const file = craft([version("v1", null, { design })], [run(1, "v1", 1)]);
    expect(locksFor(file, versionOf(file, "v1"), findings, 2)).toEqual([]);
  });
});

describe("limits that the log speaks for", () => {
  const windy = (list: [number, Run["outcome"]][]) =>
    craft(
      [version("v1", null)],
      list.map(([wind, outcome], i) =>
        run(i + 1, "v1", 3, { outcome, conditions: { airTemperature: null, wind, surface: "" } }),
      ),
    );
  it("three failed above 4.5 m/s and none passed there: 4.5 m/s is proposed", () => {
    const file = windy([
      [2, "passed"],
      [4, "passed"],
      [4.6, "failed"],
      [5.5, "aborted"],
      [6, "failed"],
    ]);
    expect(limitsLearnt(file, ["v1"])).toEqual([{ which: "wind", limit: 4.5, failed: [3, 4, 5] }]);
    expect(limitsLearnt(file, ["v2"])).toEqual([]);
  });
  it("not from two, not where one passed, never inside a run that passed", () => {
    expect(
      limitsLearnt(
        windy([
          [5, "failed"],
          [6, "failed"],
        ]),
        ["v1"],
      ),
    ).toEqual([]);
    expect(
      limitsLearnt(
        windy([
          [5, "failed"],
          [6, "failed"],
          [7, "failed"],
          [8, "passed"],
        ]),
        ["v1"],
      ),
    ).toEqual([]);
    const close = windy([
      [4.8, "passed"],
      [4.9, "failed"],
      [5, "failed"],
      [6, "failed"],
    ]);
    expect(limitsLearnt(close, ["v1"])[0]?.limit).toBeCloseTo(4.8, 9);
  });
});

describe("done alone", () => {
  const plan = (change: Parameters<typeof newPlan>[0]) => ({
    ...newPlan({ stage: 4, success: "x", safety: ["x"], ...change }),
    number: 1,
    version: "v1",
    createdAt: "2026-01-01T10:00:00Z",
  });
  it("is a way of working, chosen and said, not a missing name", () => {
    const state = (change: Parameters<typeof newPlan>[0]) =>
      board(plan(change), [], []).find((l) => l.id === "people")?.state;
    expect(state({ people: [{ name: "A", role: "" }] })).toBe("not yet");
    expect(state({ people: [{ name: "A", role: "" }], alone: true })).toBe("go");
    expect(state({ people: [], alone: true })).toBe("not yet");
  });
});
