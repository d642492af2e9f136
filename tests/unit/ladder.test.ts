import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { type Gate, type Plan, ladderSchema, newSuspect } from "../../core/design/craftFile";
import { HELD_UP_BY } from "../../core/design/schema";
import { board, fromPlan, mayBegin } from "../../core/runs/board";
import {
  judgeGate,
  judgeGates,
  ladderOf,
  ladderState,
  lineOf,
  locksFor,
  nextStage,
  oddsOf,
} from "../../core/runs/ladder";
import { usualLadder } from "../../core/runs/ladders";
import { markOf, marksFor } from "../../core/runs/marks";
import { SYMPTOMS } from "../../core/faults/catalogue";
import { findingText } from "../../core/evaluate";
import { gateText, lockText } from "../../core/wording/ladder";
import { boardText } from "../../core/wording/plan";
import { evaluate } from "../../core/evaluate";
import { newPlan } from "../support/api";
import { craft, faultOf, run, version, versionOf } from "../support/records";

const gate = (change: Partial<Gate> = {}): Gate => ({
  id: "g",
  metric: "noseAngle",
  dimension: "angle",
  comparison: "atMost",
  value: 0.14,
  upper: null,
  text: "",
  ...change,
});
const eye = (id: string): Gate =>
  gate({ id, metric: "", dimension: "ratio", comparison: "atLeast", value: 0, text: `${id} by eye` });

describe("usual ladders", () => {
  it.each(HELD_UP_BY)("%s: seven rungs in order, each with something to pass, valid as they stand", (kind) => {
    const ladder = usualLadder([kind]);
    expect(ladderSchema.parse(ladder)).toEqual(ladder);
    for (const rung of ladder) {
      expect(rung.gates.length).toBeGreaterThan(0);
      expect(new Set(rung.gates.map((g) => g.id)).size).toBe(rung.gates.length);
      for (const g of rung.gates) expect(gateText(g, "metric").length).toBeGreaterThan(5);
    }
    expect(new Set(ladder.map((r) => r.name)).size).toBe(7);
    // From the third rung on it can hurt somebody at a distance: the rung says so by itself.
    for (const rung of ladder.slice(1)) expect(rung.safety.length).toBeGreaterThan(0);
  });
  it("a ladder of six rungs, or out of order, is refused in words", () => {
    const ladder = usualLadder(["hull"]);
    expect(ladderSchema.safeParse(ladder.slice(1)).error?.issues[0]?.message).toMatch(/leave one out by saying why/);
    expect(ladderSchema.safeParse(ladder.toReversed()).error?.issues[0]?.message).toMatch(/in order/);
  });
  it("a gate that says nothing, or whose upper limit is below the lower, is refused", () => {
    const with1 = (g: Gate) =>
      ladderSchema.safeParse(usualLadder(["gas"]).map((r, i) => (i === 0 ? { ...r, gates: [g] } : r))).error?.issues[0]
        ?.message;
    expect(with1(gate({ metric: "", text: "" }))).toMatch(/say what is measured/);
    expect(with1(gate({ comparison: "between", value: 2, upper: 1 }))).toMatch(/above the lower/);
  });
});

describe("a gate held against a number", () => {
  const at = (value: number, sd: number) => judgeGate(gate(), { value, sd, by: "" }, undefined).result;
  // Normal table (Abramowitz and Stegun 26.2): Φ(1.2816) = 0.9000. Odds of 0.9 lie 1.2816 sd below the limit.
  it("passes from 1.2816 sd below an upper limit on, fails from as far above it, and is unclear between", () => {
    expect(at(0.14 - 1.29 * 0.01, 0.01)).toBe("passed");
    expect(at(0.14 - 1.27 * 0.01, 0.01)).toBe("unclear");
    expect(at(0.14, 0.01)).toBe("unclear");
    expect(at(0.14 + 1.27 * 0.01, 0.01)).toBe("unclear");
    expect(at(0.14 + 1.29 * 0.01, 0.01)).toBe("failed");
  });
  it("with no uncertainty it is met or not", () => {
    expect(at(0.1399, 0)).toBe("passed");
    expect(at(0.1401, 0)).toBe("failed");
  });
  it("odds of the three comparisons agree with one another", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -5, max: 5, noNaN: true }),
        fc.double({ min: 0.01, max: 3, noNaN: true }),
        fc.double({ min: -5, max: 0, noNaN: true }),
        fc.double({ min: 0.1, max: 5, noNaN: true }),
        (value, sd, low, width) => {
          const up = low + width;
          const above = oddsOf(gate({ comparison: "atLeast", value: low }), value, sd);
          const below = oddsOf(gate({ comparison: "atMost", value: low }), value, sd);
          const between = oddsOf(gate({ comparison: "between", value: low, upper: up }), value, sd);
          expect(above + below).toBeCloseTo(1, 6);
          expect(between).toBeCloseTo(oddsOf(gate({ comparison: "atMost", value: up }), value, sd) - below, 6);
        },
      ),
    );
  });
  it("what eyes decide is decided by eyes, and a number that nobody read is not judged", () => {
    const results = judgeGates([eye("a"), eye("b"), gate()], [], { a: "failed" });
    expect(results.map((r) => r.result)).toEqual(["failed", "not judged", "not judged"]);
  });
});

describe("how far a version got, and what locks it", () => {
  const failedGate = { gate: gate({ text: "never above" }), result: "failed" as const, value: 0.2 };
  it("the last run that decided a rung counts, with its gates", () => {
    const file = craft(
      [version("v1", null)],
      [
        run(1, "v1", 1),
        run(2, "v1", 2, { outcome: "failed" }),
        run(3, "v1", 2),
        run(4, "v1", 3, { gates: [failedGate] }),
        run(5, "v1", 3, { outcome: "aborted" }),
      ],
    );
    const state = ladderState(file, versionOf(file, "v1"));
    expect(state.map((s) => s.state)).toEqual([
      "passed",
      "passed",
      "failed",
      "untried",
      "untried",
      "untried",
      "untried",
    ]);
    expect(state[2]?.held[0]?.gate.text).toBe("never above");
    expect(nextStage(state)).toBe(3);
  });
  it("power off is never locked; above it every rung that nobody tried is", () => {
    const file = craft([version("v1", null)]);
    const v = versionOf(file, "v1");
    expect(locksFor(file, v, [], 1)).toEqual([]);
    expect(locksFor(file, v, [], 3)).toEqual([
      { kind: "untried", stage: 1 },
      { kind: "untried", stage: 2 },
    ]);
  });
  it("a failed gate locks what is above it until a run there or above has passed since", () => {
    const before = [run(1, "v1", 1), run(2, "v1", 2), run(3, "v1", 3, { gates: [failedGate] })];
    const locked = craft([version("v1", null)], before);
    expect(locksFor(locked, versionOf(locked, "v1"), [], 4)).toEqual([
      { kind: "gate", stage: 3, run: 3, gate: "never above" },
    ]);
    const again = craft([version("v1", null)], [...before, run(4, "v1", 3)]);
    expect(locksFor(again, versionOf(again, "v1"), [], 4)).toEqual([]);
    const above = craft([version("v1", null)], [...before, run(4, "v1", 4)]);
    expect(locksFor(above, versionOf(above, "v1"), [], 5)).toEqual([]);
    const earlier = craft(
      [version("v1", null)],
      [run(1, "v1", 1), run(2, "v1", 2), run(3, "v1", 4), run(4, "v1", 3, { outcome: "failed" })],
    );
    expect(locksFor(earlier, versionOf(earlier, "v1"), [], 5)).toEqual([{ kind: "failed", stage: 3, run: 4 }]);
  });
  it("a rung that is left out with a reason locks nothing", () => {
    const ladder = usualLadder(["wings"]).map((r) => (r.stage === 3 ? { ...r, skipped: "it cannot glide" } : r));
    const file = craft([version("v1", null, { ladder })], [run(1, "v1", 1), run(2, "v1", 2)]);
    expect(locksFor(file, versionOf(file, "v1"), [], 4)).toEqual([]);
    expect(nextStage(ladderState(file, versionOf(file, "v1")))).toBe(4);
  });
  it("a stop verdict locks every powered rung, and is named by its own sentence", () => {
    const v = version("v1", null);
    const bad = structuredClone(v.design);
    const pack = bad.items.find((i) => i.id === "pack");
    if (pack) pack.place.x = 0.4;
    const { findings } = evaluate(bad as never);
    const stop = findings.find((f) => f.severity === "stop");
    expect(stop?.code).toBe("cg-outside");
    const file = craft([v], [run(1, "v1", 1)]);
    const [lock] = locksFor(file, versionOf(file, "v1"), findings, 2);
    expect(lock).toEqual({ kind: "verdict", code: "cg-outside", subject: stop?.about });
    expect(lock && lockText(lock, () => stop && findingText(stop, "metric"))).toMatch(/CG sits/);
    expect(lock && lockText(lock)).toMatch(/stop verdict: cg outside/);
  });
  it("a crash locks the whole line until its evidence is secured and a suspect has been tested", () => {
    const steps = { safe: true, log: true, photographs: false, unmoved: false, suspects: false };
    const done = { safe: true, log: true, photographs: true, unmoved: true, suspects: true };
    const at = (crash: { steps: typeof steps; notes: string }, faults: Parameters<typeof craft>[2] = []) => {
      const file = craft(
        [version("v1", null), version("v2", "v1"), version("v1b", "v1")],
        [run(1, "v1", 1, { crash, outcome: "failed" }), run(2, "v2", 1)],
        faults,
      );
      return {
        here: locksFor(file, versionOf(file, "v2"), [], 2).filter((l) => l.kind === "crash"),
        bench: locksFor(file, versionOf(file, "v2"), [], 1),
      };
    };
    expect(at({ steps, notes: "" }).here).toEqual([{ kind: "crash", run: 1, why: "evidence" }]);
    expect(at({ steps, notes: "" }).bench).toEqual([]);
    expect(at({ steps: done, notes: "" }).here).toEqual([{ kind: "crash", run: 1, why: "suspects" }]);
    const open = faultOf(1, 1, { suspects: [newSuspect("a", "a")] });
    expect(at({ steps: done, notes: "" }, [open]).here).toEqual([{ kind: "crash", run: 1, why: "suspects" }]);
    expect(
      at({ steps: done, notes: "" }, [{ ...open, suspects: [newSuspect("a", "a", { result: "clean" })] }]).here,
    ).toEqual([]);
  });
  it("the line of a version leads back to the first, and ends in a circle of a damaged file", () => {
    const file = craft([version("v1", null), version("v2", "v1"), version("v2b", "v1"), version("v3", "v2")]);
    expect(lineOf(file.versions, "v3")).toEqual(["v3", "v2", "v1"]);
    expect(
      lineOf(
        [
          { label: "a", parent: "b" },
          { label: "b", parent: "a" },
        ],
        "a",
      ),
    ).toEqual(["a", "b"]);
  });
  it("every version begins with the ladder for what holds it up", () => {
    const file = craft([version("v1", null)]);
    expect(ladderOf(versionOf(file, "v1"))).toEqual(usualLadder(["wings"]));
  });
});

describe("go, or not yet", () => {
  const plan = (change: Partial<Plan> = {}): Plan => ({
    ...newPlan({ stage: 3, question: "does it lift?", safety: ["rope"] }),
    number: 1,
    version: "v1",
    createdAt: "2026-01-01T10:00:00Z",
    ...change,
  });
  const people = [
    { name: "a", role: "drives" },
    { name: "b", role: "watches" },
  ];
  const ready = { people, success: "controls connected, stop after three seconds" };
  const state = (p: Plan, id: string) => board(p, [], []).find((l) => l.id === id)?.state;
  it("a limit is not looked at, go or not yet, each to its own side", () => {
    const limits = { wind: 3, waves: null, current: null, coldest: -12, warmest: 30, surface: "smooth" };
    const day = { wind: null, waves: null, current: null, temperature: null, surface: null };
    expect(["wind", "coldest", "warmest", "surface"].map((id) => state(plan({ limits, day }), id))).toEqual(
      Array(4).fill("not looked at"),
    );
    const good = plan({ limits, day: { ...day, wind: 3, temperature: -12, surface: "yes" } });
    expect(["wind", "coldest", "warmest", "surface"].map((id) => state(good, id))).toEqual(Array(4).fill("go"));
    const bad = plan({ limits, day: { ...day, wind: 3.01, temperature: -12.1, surface: "no" } });
    expect(["wind", "coldest", "surface"].map((id) => state(bad, id))).toEqual(Array(3).fill("not yet"));
    expect(state(plan({ limits, day: { ...day, temperature: 31 } }), "warmest")).toBe("not yet");
    expect(state(plan(), "waves")).toBeUndefined();
  });
  it("from rung 3 on it asks for two people and a plan for success; below it does not", () => {
    expect(state(plan(), "people")).toBe("not yet");
    expect(state(plan(), "success")).toBe("not yet");
    expect(state(plan(ready), "people")).toBe("go");
    expect(state(plan(ready), "success")).toBe("go");
    expect(state(plan({ stage: 2, people: people.slice(1) }), "people")).toBe("go");
    expect(state(plan({ stage: 2 }), "success")).toBeUndefined();
  });
  it("musts of the checklist are counted, wishes are not", () => {
    const checks = [
      { id: "a", text: "", from: "", must: true },
      { id: "b", text: "", from: "", must: true },
      { id: "c", text: "", from: "", must: false },
    ];
    expect(board(plan(ready), [], checks).find((l) => l.id === "checks")).toMatchObject({
      state: "not yet",
      what: { open: 2, of: 2 },
    });
    expect(board(plan({ ...ready, ticks: ["a", "b"] }), [], checks).find((l) => l.id === "checks")?.state).toBe("go");
  });
  it("begins when all is go, or with a reason; blanks are no reason", () => {
    expect(mayBegin(board(plan(ready), [], []), "")).toBe(true);
    const locked = board(plan(ready), [{ kind: "untried", stage: 2 }], []);
    expect(mayBegin(locked, " ")).toBe(false);
    expect(mayBegin(locked, "tied down")).toBe(true);
  });
  it("every line has a sentence, and a run begins with what its plan knows", () => {
    const full = plan({
      limits: { wind: 3, waves: 0.1, current: 0.5, coldest: -5, warmest: 30, surface: "smooth" },
      goneOn: "short",
      place: "bay",
      course: "pegs",
      people,
    });
    const lines = board(full, [{ kind: "failed", stage: 2, run: 4 }], [{ id: "a", text: "", from: "", must: true }]);
    for (const l of lines) expect(boardText(l, "metric", "rung 2 failed").length).toBeGreaterThan(8);
    expect(lines.length).toBe(11);
    expect(fromPlan(full)).toMatchObject({
      stage: 3,
      purpose: "does it lift?",
      pilot: "a",
      course: "pegs",
      plan: 1,
      goneOn: "short",
      conditions: { surface: "smooth" },
    });
  });
});

describe("marks of a moment", () => {
  it.each(HELD_UP_BY)(
    "%s: each once, six that matter first, each leading to an entry of the catalogue or to none",
    (kind) => {
      const marks = marksFor([kind]);
      expect(new Set(marks.map((m) => m.code)).size).toBe(marks.length);
      expect(marks.length).toBeGreaterThan(12);
      expect(marks.slice(0, 6).map((m) => m.code)).toContain("struck");
      for (const m of marks) {
        expect(m.word.length).toBeLessThanOrEqual(22);
        if (m.symptom !== null) expect(SYMPTOMS.map((s) => s.id)).toContain(m.symptom);
        expect(markOf(m.code)?.code).toBe(m.code);
      }
      // Not only what is seen.
      expect(new Set(marks.map((m) => m.sense)).size).toBe(4);
    },
  );
  it("a code of another version is told by its code alone", () => {
    expect(markOf("from-the-future")).toBeUndefined();
  });
});
