import { describe, expect, it } from "vitest";
import { editDesign } from "../../core/design/edit";
import type { Design } from "../../core/design/schema";
import { Memo, answersOf, evaluate, isWaiting } from "../../core/evaluate";
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
    for (const next of [dearer, moved]) expect(waiting(next)).toEqual(["wind", "stance", "liftoff"]);
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
      expect(slow).toEqual(new Set(["wind", "stance", "liftoff"]));
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
      "stance",
      "liftoff",
    ]);
  });
});
