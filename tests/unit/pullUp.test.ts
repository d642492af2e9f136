import { describe, expect, it } from "vitest";
import { evaluate, resultIn } from "../../core/evaluate";
import { lattice } from "../../core/subjects/flight/latticeNode";
import { trimmed } from "../../core/subjects/flight/model";
import { commandPerG } from "../../core/subjects/flight/pullUp";
import { changed } from "../support/designs";
import { winged } from "../support/wings";

const l = resultIn(evaluate(changed(winged)), lattice);
if (!l) throw new Error("no lattice");
const np = l.neutral.value;
const still = { ...l, pitch: { y: 0, z: 0, mx: 0, my: 0, mz: 0 } };

describe("pitch command for one g more", () => {
  it("without damping is what trim takes for as much more load (another way through the same lattice)", () => {
    const cg = np - 0.05;
    // What is left of the rate at its distance from the CG is nought where the lattice's own is.
    const none = { ...still, model: { ...still.model } };
    const per = trimmed(l.model, cg)?.command?.per ?? Number.NaN;
    const fast = commandPerG(none, cg, 0.03, 1e6);
    expect(fast).toBeCloseTo(per * 0.03, 9);
  });
  it("is nought behind the neutral point only: damping moves the manoeuvre point aft (Etkin)", () => {
    const at = (cg: number) => commandPerG(l, cg, 0.2, 15) ?? Number.NaN;
    expect(at(np)).toBeGreaterThan(0);
    let [low, high] = [np, np + 0.15];
    expect(at(high)).toBeLessThan(0);
    for (let k = 0; k < 50; k++) {
      const middle = (low + high) / 2;
      if (at(middle) > 0) low = middle;
      else high = middle;
    }
    // x_m − x_n ≈ ρ·S·l_t·a_t·… of a tail l behind: with V_h·a_t/µ, a few per cent of the chord to some tens.
    expect((low - np) / l.mac).toBeGreaterThan(0.01);
    expect((low - np) / l.mac).toBeLessThan(0.6);
  });
  it("asks for less where it is faster, as 1/V² of the load", () => {
    const cg = np - 0.05;
    const at = (v: number) => commandPerG(l, cg, (0.03 * 15 ** 2) / v ** 2, v) ?? Number.NaN;
    expect(at(30) / at(15)).toBeCloseTo(0.25, 6);
  });
});
