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
      "falling",
      "wind",
      "stance",
      "liftoff",
    ]);
  });
});
