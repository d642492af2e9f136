import { describe, expect, it } from "vitest";
import { evaluate, resultIn } from "../../core/evaluate";
import { authority } from "../../core/subjects/authority/node";
import { mixingCsv, mixingJson } from "../../core/exchange/mixing";
import { mixingOf } from "../../core/subjects/authority/mixing";
import { demoFile } from "../support/demo";
import { TURNS, type Thruster, type Turn, effectOf, holds, losses } from "../../core/subjects/authority/allocate";

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
  // in turn (PNPNPN) cannot hover in full control with one out, with neighbours alike (PPNNPN) it can for some of them
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

describe("the allocation", () => {
  const asked = (units: Thruster[], mix: ReturnType<typeof mixingOf>, ask: Partial<Record<Turn | "lift", number>>) => {
    const shares = units.map((_, k) => {
      const m = mix?.[k];
      return (ask.lift ?? 0) * (m?.lift ?? 0) + TURNS.reduce((s, t) => s + (ask[t] ?? 0) * (m?.turns[t] ?? 0), 0);
    });
    const sum = (pick: (e: ReturnType<typeof effectOf>) => number) =>
      units.reduce((s, u, k) => s + (shares[k] ?? 0) * pick(effectOf(u, CG)), 0);
    return { shares, gives: [sum((e) => e.z), sum((e) => e.roll), sum((e) => e.pitch), sum((e) => e.yaw)] };
  };
  it(
    "of four arms is a quarter of each by its arm: lift 1/4T, pitch 1/2rT of two, yaw 1/4qT by turns " + "(statics)",
    () => {
      const quad = around("+-+-");
      const mix = mixingOf(quad, CG, []);
      expect(mix?.map((m) => m.lift)).toEqual([1, 1, 1, 1].map(() => expect.closeTo(1 / 40, 9)));
      // Ahead, starboard, astern, port; 0.3 m and 10 N each.
      const arm = 1 / (2 * 0.3 * 10);
      expect(mix?.map((m) => m.turns.pitch)).toEqual([arm, 0, -arm, 0].map((v) => expect.closeTo(v, 9)));
      expect(mix?.map((m) => m.turns.roll)).toEqual([0, -arm, 0, arm].map((v) => expect.closeTo(v, 9)));
      const turn = 1 / (4 * 0.02 * 10);
      expect(mix?.map((m) => m.turns.yaw)).toEqual([turn, -turn, turn, -turn].map((v) => expect.closeTo(v, 9)));
    },
  );
  it("gives what is asked and nothing of the others, whatever the units and wherever the CG", () => {
    const odd = [...around("++--+-"), unit(0.2, -0.1, 1, { most: 4, toward: { x: 0.2, y: 0, z: Math.sqrt(0.96) } })];
    const mix = mixingOf(odd, CG, []);
    for (const [k, name] of (["lift", "roll", "pitch", "yaw"] as const).entries()) {
      const { gives } = asked(odd, mix, { [name]: 1 });
      expect(gives).toEqual([0, 1, 2, 3].map((j) => expect.closeTo(j === k ? 1 : 0, 9)));
    }
  });
  it("asks the least of the throttles: any other way to the same is harder", () => {
    const hexa = around("+-+-+-");
    const { shares } = asked(hexa, mixingOf(hexa, CG, []), { roll: 1 });
    const squares = (list: number[]) => list.reduce((s, v) => s + v * v, 0);
    // What six units can do besides without any effect: two ways are left over; they are at right angles to the answer.
    for (const idle of [
      [1, -1, 0, 1, -1, 0],
      [0, 1, -1, 0, 1, -1],
    ]) {
      const moved = (by: number) => shares.map((v, k) => v + by * (idle[k] ?? 0));
      const turned = hexa.reduce((s, u, k) => s + (idle[k] ?? 0) * effectOf(u, CG).roll, 0);
      expect(turned).toBeCloseTo(0, 9);
      for (const by of [-0.1, 0.1]) expect(squares(moved(by))).toBeGreaterThan(squares(shares));
    }
  });
  it("is none of an axis that nothing commands, and none at all where axes cannot be had apart", () => {
    const pair = [unit(0, 0, 1), unit(0, 0, -1)];
    const mix = mixingOf(pair, CG, ["roll", "pitch"]);
    expect(mix?.[0]?.turns).toEqual({ roll: null, pitch: null, yaw: expect.closeTo(1 / (2 * 0.02 * 10), 9) });
    expect(mixingOf(pair, CG, [])).toBeNull();
    expect(mixingOf([], CG, [])).toBeNull();
    expect(mixingOf([unit(0.1, 0, 1), unit(-0.1, 0, 1)], CG, ["roll"])).toBeNull();
  });
  it("goes out as CSV and JSON with its units, signs and what it is; what is not known stays empty", () => {
    const quad = around("+-+-").map((u, k) => ({
      ...u,
      drive: 0,
      k,
      name: `=Lift ${k + 1}`,
      mean: u.most,
      corner: null,
    }));
    const result = { units: quad, holding: holds(quad, CG, 20), mixing: mixingOf(quad, CG, ["yaw"]) };
    const lines = (mixingCsv(result) ?? "").split("\n");
    expect(lines[0]).toContain('"for roll, starboard down (share per N·m)"');
    expect(lines).toHaveLength(5);
    expect(lines[1]).toMatch(/^"'=Lift 1",-0\.3,0,0,clockwise,10,0\.5,0\.025,.*,0\.166667,$/);
    const json = JSON.parse(mixingJson("Craft", "v1", result) ?? "");
    expect(json).toMatchObject({ craft: "Craft", version: "v1" });
    expect(json.units[0]["for yaw, nose to starboard (share per N·m)"]).toBeNull();
    expect(mixingCsv({ ...result, mixing: null })).toBeNull();
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
