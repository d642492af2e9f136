import { describe, expect, it } from "vitest";
import { evaluate, resultIn } from "../../core/evaluate";
import { authority } from "../../core/subjects/authority/node";
import { demoFile } from "../support/server";
import { type Thruster, effectOf, holds, losses } from "../../core/subjects/authority/allocate";

const UP = { x: 0, y: 0, z: 1 };
const unit = (x: number, y: number, spin: 1 | -1 | 0, given: Partial<Thruster> = {}): Thruster => ({
  at: { x, y, z: 0 },
  toward: UP,
  most: 10,
  torque: 0.02,
  spin,
  reversible: false,
  ...given,
});
/** Units evenly around a circle, the first ahead; spins by a word of + and −. */
const around = (spins: string, most = 10, pairs = 1): Thruster[] =>
  [...spins].flatMap((s, k) => {
    const n = spins.length / pairs;
    const a = (2 * Math.PI * (k % n)) / n;
    return [unit(-0.3 * Math.cos(a), 0.3 * Math.sin(a), s === "+" ? 1 : -1, { most })];
  });
const CG = { x: 0, y: 0, z: 0 };
const left = (units: Thruster[], weight: number) =>
  losses(units, CG, weight, holds(units, CG, weight)).map((l) => l.left);

describe("one newton at a known place", () => {
  const one = (at: Thruster["at"], toward: Thruster["toward"], spin: Thruster["spin"] = 0) =>
    effectOf({ at, toward, most: 1, torque: 0.1, spin, reversible: false }, CG);
  it("has the signs of the body axes: starboard down, nose up and nose to starboard are positive", () => {
    // Lift at the nose brings it up; lift to port brings starboard down.
    expect(one({ x: -1, y: 0, z: 0 }, UP)).toMatchObject({ pitch: 1, roll: -0 });
    expect(one({ x: 0, y: -1, z: 0 }, UP).roll).toBeCloseTo(1, 12);
    // A push ahead on the port side turns the nose to starboard.
    expect(one({ x: 0, y: -1, z: 0 }, { x: -1, y: 0, z: 0 }).yaw).toBeCloseTo(1, 12);
    // A push ahead above the CG brings the nose down.
    expect(one({ x: 0, y: 0, z: 1 }, { x: -1, y: 0, z: 0 }).pitch).toBeCloseTo(-1, 12);
    // A rotor that pushes up, clockwise seen from below, turns along +z; the body turns against it: nose to starboard.
    expect(one(CG, UP, 1).yaw).toBeCloseTo(0.1, 12);
  });
});

describe("hover", () => {
  it("shares the weight evenly where the CG is in the middle, by statics where it is not", () => {
    const quad = around("+-+-");
    expect(holds(quad, CG, 20).shares?.map((s) => Number(s.toFixed(6)))).toEqual([0.5, 0.5, 0.5, 0.5]);
    // 60 mm ahead of the middle, 10 N on each pair for no yaw: 0.24·F = 0.36·(10 − F) + 0.06·10.
    const ahead = holds(quad, { x: -0.06, y: 0, z: 0 }, 20).shares ?? [];
    expect(ahead[0]).toBeCloseTo(0.7, 6);
    expect(ahead[2]).toBeCloseTo(0.3, 6);
  });
  it("has no answer where the CG lies outside what the units can hold, or where they are too weak", () => {
    expect(holds(around("+-+-"), { x: -0.31, y: 0, z: 0 }, 20).shares).toBeNull();
    expect(holds(around("+-+-"), CG, 41).shares).toBeNull();
  });
  it("of rotors on one axis commands no roll and no pitch; of two that turn one way no yaw either", () => {
    const pair = [unit(0, 0, 1), unit(0, 0, -1)];
    expect(holds(pair, { x: 0.002, y: 0, z: 0 }, 10).never).toEqual(["roll", "pitch"]);
    expect(holds([unit(0, 0, 1), unit(0, 0, 1)], CG, 10).never).toEqual(["roll", "pitch", "yaw"]);
    // Level it is held by something else; lift and yaw are the rotors'.
    expect(holds(pair, CG, 10).shares?.map((s) => Number(s.toFixed(6)))).toEqual([0.5, 0.5]);
  });
  it("leaves to each axis what the corners of its throttles give, as enumerated", () => {
    const quad = around("+-+-");
    const { reach } = holds(quad, CG, 20);
    // Every vertex of the box of throttles that meets the equalities, by brute force on a fine grid.
    let best = 0;
    const n = 40;
    for (let a = 0; a <= n; a++)
      for (let b = 0; b <= n; b++)
        for (let c = 0; c <= n; c++)
          for (let d = 0; d <= n; d++) {
            if (a + b + c + d !== 2 * n || b !== d || a + c !== b + d) continue;
            best = Math.max(best, ((a - c) / n) * 10 * 0.3);
          }
    expect(reach.pitch.plus).toBeCloseTo(best, 6);
    expect(reach.pitch.minus).toBeCloseTo(best, 6);
    expect(reach.yaw.plus).toBeCloseTo(0.4, 6);
  });
});

describe("one unit dead", () => {
  // Published: a quadrotor cannot hold its heading with a rotor out (Mueller & D'Andrea 2014); a hexarotor with spins
  // in
  // turn (PNPNPN) cannot hover in full control with one out, with neighbours alike (PPNNPN) it can for some of them
  // (Du et al. 2015, Schneider et al. 2012); values from memory.
  it("a quadrotor spins or falls, never holds", () => {
    expect(left(around("+-+-", 20), 20)).not.toContain("holds");
  });
  it("a hexarotor whose spins go in turn loses its heading with any rotor out, though its matrix has full rank", () => {
    const hexa = around("+-+-+-", 10);
    expect(holds(hexa, CG, 20).never).toEqual([]);
    expect(left(hexa, 20)).toEqual(Array(6).fill("spins"));
  });
  it("with neighbours that turn alike it holds with some of them out", () => {
    const found = left(around("++--+-", 10), 20);
    expect(found).toContain("holds");
    expect(found.every((l) => l === "holds")).toBe(false);
  });
  it("an octorotor holds with any one out", () => {
    expect(left(around("+-+-+-+-", 10), 30)).toEqual(Array(8).fill("holds"));
  });
  it("eight units and nine cases take less than 60 ms", () => {
    const octo = around("+-+-+-+-", 10);
    holds(octo, CG, 30);
    const started = performance.now();
    losses(octo, CG, 30, holds(octo, CG, 30));
    expect(performance.now() - started).toBeLessThan(60);
  });
});

describe("a craft that stands on its tail", () => {
  it("is told in the axes that it hovers in: rotors on one axis give lift and turn it about that, nothing else", () => {
    const design = demoFile("annulus").versions.at(-1)?.design;
    if (!design) throw new Error("no version");
    const e = evaluate(design, {}, null);
    const a = resultIn(e, authority);
    expect(a?.upright).toBe(false);
    expect(a?.holding.never).toEqual(["roll", "pitch"]);
    expect(a?.holding.shares).not.toBeNull();
    expect(e.findings.map((f) => f.code)).toContain("axis-bare");
    expect(e.metrics.hoverShare?.value).toBeCloseTo(1 / (e.metrics.thrustToWeight?.value ?? 1), 2);
  });
  it("is not computed for what is carried by gas, wings or the ground", () => {
    for (const name of ["lantern", "tern", "samphire"] as const) {
      const design = demoFile(name).versions.at(-1)?.design;
      if (design) expect(evaluate(design, {}, null).outcomes.authority?.status).toBe("not covered");
    }
  });
});
