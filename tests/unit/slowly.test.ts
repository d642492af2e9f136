import { describe, expect, it } from "vitest";
import { editDesign } from "../../core/design/edit";
import type { Design } from "../../core/design/schema";
import { inState } from "../../core/design/inState";
import { Memo, answersOf, evaluate, hasRough, isWaiting, resultIn, roughOf } from "../../core/evaluate";
import { type LatticeResult, lattice } from "../../core/subjects/flight/latticeNode";
import { SUBJECTS } from "../../core/subjects";
import { demoFile } from "../support/demo";

const start = () => {
  const design = demoFile("lantern").versions.at(-1)?.design;
  if (!design) throw new Error("no version");
  return design;
};
const edited = (design: Design, change: (d: Design) => void) => {
  const out = editDesign(design, change);
  if (!out.ok) throw new Error(out.message);
  return out.design;
};
const bigger = (d: Design) => void (d.units[0] && (d.units[0].propeller.diameter.value *= 1.1));

describe("what is slow", () => {
  it("goes on standing, named, until its answer is there; then it is as if it had been computed at once", () => {
    const memo = new Memo();
    const design = start();
    const before = evaluate(design, {}, memo);
    expect(before.waiting).toEqual([]);
    const next = edited(design, bigger);
    const now = evaluate(next, {}, memo, { standing: { design, evaluation: before } });
    expect(now.metrics.thrust).toBe(before.metrics.thrust);
    expect(now.metrics.endurance).toBe(before.metrics.endurance);
    expect(now.waiting).toEqual(expect.arrayContaining(["propulsion", "energy", "speed", "ratios"]));
    expect(isWaiting(now, "thrust")).toBe(true);
    expect(isWaiting(now, "thrustToWeight")).toBe(true);
    expect(isWaiting(now, "auw")).toBe(false);
    // As it comes from a worker: plain data, from a copy of the design.
    const answers = structuredClone(answersOf(evaluate(structuredClone(next), {}, null)));
    evaluate(next, {}, memo, { answers });
    const after = evaluate(next, {}, memo, { standing: { design, evaluation: now } });
    expect(after.waiting).toEqual([]);
    expect(after).toEqual(evaluate(structuredClone(next), {}, null));
  });
  it("is not asked for where nothing that it reads changed", () => {
    const memo = new Memo();
    const design = start();
    const before = evaluate(design, {}, memo);
    const dearer = edited(design, (d) => void (d.items[0] && (d.items[0].cost = 12)));
    const moved = edited(design, (d) => void (d.items[0] && (d.items[0].place.x += 0.01)));
    const waiting = (next: Design) => evaluate(next, {}, memo, { standing: { design, evaluation: before } }).waiting;
    // A part that moves: what it shows to the wind and how it stands, and nothing of its drives.
    for (const next of [dearer, moved]) expect(waiting(next)).toEqual(["wind", "turning", "stance", "liftoff"]);
    expect(waiting(edited(design, (d) => void (d.boxes = [])))).toEqual([]);
  });
  it("does not stand for another list of drives or packs: that is computed at once", () => {
    const memo = new Memo();
    const design = start();
    const before = evaluate(design, {}, memo);
    const fewer = edited(design, (d) => void d.units.shift());
    const now = evaluate(fewer, {}, memo, { standing: { design, evaluation: before } });
    expect(now.waiting).toEqual([]);
    expect(now.metrics.thrust?.value).not.toBe(before.metrics.thrust?.value);
  });
  it(
    "at a step of a drag only what is drawn where the hand is follows; the next whole one is as if never " + "left out",
    () => {
      const memo = new Memo();
      const design = start();
      const before = evaluate(design, {}, memo);
      const moved = (x: number) => (d: Design) => void (d.items[0] && (d.items[0].place.x += x));
      const first = edited(design, moved(0.01));
      const step = evaluate(first, {}, memo, { standing: { design, evaluation: before }, step: true });
      const fresh = evaluate(structuredClone(first), {}, null);
      for (const key of ["auw", "cgX", "cgZ", "length"] as const) expect(step.metrics[key]).toEqual(fresh.metrics[key]);
      expect(step.targets.find((t) => t.target.metric === "cgX")).toEqual(
        fresh.targets.find((t) => t.target.metric === "cgX"),
      );
      expect(step.findings).toBe(before.findings);
      expect(step.outcomes.axes).toBe(before.outcomes.axes);
      expect(fresh.outcomes.axes).not.toEqual(before.outcomes.axes);
      // From step to step, and at the end of it the whole: the same as computed at once, but for what is slow.
      const second = edited(first, moved(0.02));
      const again = evaluate(second, {}, memo, { standing: { design: first, evaluation: step }, step: true });
      const whole = evaluate(second, {}, memo, { standing: { design: second, evaluation: again } });
      const want = evaluate(structuredClone(second), {}, null);
      for (const s of SUBJECTS)
        if (!whole.waiting.includes(s.name)) expect(whole.outcomes[s.name], s.name).toEqual(want.outcomes[s.name]);
      expect(whole.outcomes.axes).toEqual(want.outcomes.axes);
      const slow = new Set(whole.waiting);
      expect(slow).toEqual(new Set(["wind", "turning", "stance", "liftoff"]));
      // Another list of parts is no step.
      const fewer = edited(second, (d) => void d.items.pop());
      expect(
        evaluate(fewer, {}, memo, { standing: { design: second, evaluation: whole }, step: true }).waiting,
      ).toEqual([]);
    },
  );
  it("at every step are mass, CG and size alone", () => {
    expect(SUBJECTS.filter((s) => s.cost === "frame").map((s) => s.name)).toEqual(["mass", "extent", "balance"]);
  });
  it("is everything that costs a frame", () => {
    const slow = SUBJECTS.filter((s) => s.cost === "slow").map((s) => s.name);
    expect(slow).toEqual([
      "propulsion",
      "lattice",
      "powered",
      "pull",
      "keepsUp",
      "energy",
      "loop",
      "areaSpeed",
      "emptied",
      "falling",
      "wind",
      "turning",
      "stance",
      "liftoff",
    ]);
  });
});

describe("a wing that is being dragged", () => {
  const flown = (name: string, state = 0) => {
    const design = demoFile(name).versions.at(-1)?.design;
    if (!design) throw new Error("no version");
    return inState(design, design.states[state]?.id);
  };
  const pulled = (design: Design, k: number) =>
    edited(design, (d) => {
      for (const p of d.surfaces[0]?.panels ?? []) {
        p.span *= 1 + 0.07 * k;
        p.sweep += 0.02 * k;
      }
      if (d.surfaces[0]) d.surfaces[0].at.x += 0.004 * k;
    });
  it.each([
    ["tern", 0],
    ["annulus", 1],
    ["gannet", 1],
  ])("of %s is told roughly meanwhile, within the doubt that is told", (name, state) => {
    const design = flown(name, state);
    const start = resultIn(evaluate(design, {}, null), lattice);
    expect(start).not.toBeNull();
    for (const k of [-4, -2, 1, 3, 5]) {
      const next = pulled(design, k);
      const fine = resultIn(evaluate(next, {}, null), lattice);
      const rough = roughOf(next).lattice?.outcome;
      if (!fine || rough?.status !== "solved") throw new Error("not solved");
      const { neutral, mac, elements } = rough.result as LatticeResult;
      expect(elements).toBeLessThan(fine.elements);
      expect(Math.abs(neutral.value - fine.neutral.value)).toBeLessThan(1.5 * (neutral.by["/lattice"] ?? 0));
      expect(neutral.by["/lattice"]).toBeGreaterThan(fine.neutral.by["/lattice"] ?? 1);
      expect(neutral.by["/lattice"]).toBeLessThan(0.05 * mac);
    }
  });
  it(
    "moves its neutral point while the fine one is still worked out, and is marked; then it is as if " + "never rough",
    () => {
      const memo = new Memo();
      const design = flown("tern");
      const before = evaluate(design, {}, memo);
      const next = pulled(design, 4);
      const standing = { design, evaluation: before };
      const still = evaluate(next, {}, memo, { standing });
      expect(still.outcomes.lattice).toBe(before.outcomes.lattice);
      expect(hasRough(still)).toBe(true);
      const rough = { design: next, answers: structuredClone(roughOf(structuredClone(next))) };
      const now = evaluate(next, {}, memo, { standing, rough });
      const at = (e: typeof now) => e.metrics.neutralPoint;
      const fine = evaluate(structuredClone(next), {}, null);
      const moved = (at(fine)?.value ?? 0) - (at(before)?.value ?? 0);
      expect(Math.abs(moved)).toBeGreaterThan(0.003);
      expect(Math.abs((at(now)?.value ?? 0) - (at(fine)?.value ?? 0))).toBeLessThan(Math.abs(moved) / 2);
      expect(isWaiting(now, "neutralPoint")).toBe(true);
      // Other surfaces than those that it was told of: it stands for none of them.
      const more = edited(next, (d) => void d.surfaces.pop());
      expect(evaluate(more, {}, memo, { standing: { design: more, evaluation: before }, rough }).outcomes.lattice).toBe(
        before.outcomes.lattice,
      );
      const answers = structuredClone(answersOf(fine));
      evaluate(next, {}, memo, { answers });
      const after = evaluate(next, {}, memo, { standing: { design: next, evaluation: now }, rough });
      expect(after.waiting).toEqual([]);
      expect(after).toEqual(fine);
    },
  );
});
