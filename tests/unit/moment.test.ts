import { describe, expect, it } from "vitest";
import { inertiaOfSwing, momentKnown, momentOf, momentOfTwist, takenAs, unsaidOf } from "../../core/bench/moment";
import { type MomentTest, momentSchema } from "../../core/design/bench";
import type { Design } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { drivesSign } from "../../core/subjects/propulsion/learned";
import { axes } from "../../core/subjects/axes/node";
import { demoFile } from "../support/demo";

const G = 9.80665;
const lines = (more: object = {}) => ({
  by: "two lines" as const,
  mass: 1.5 as number | null,
  spacing: 0.3,
  length: 1.2,
  twists: [] as number[],
  swings: [] as { count: number; seconds: number }[],
  ...more,
});
const test = (way: MomentTest["way"], more: Partial<MomentTest> = {}): MomentTest => ({
  axis: "yaw",
  role: "answers",
  what: "",
  throttle: null,
  way,
  ...more,
});

describe("hung by two lines", () => {
  it("what holds it turned is the slope of the energy by which it is lifted", () => {
    // Another way to the same: it rises as the lines lean, and its weight falls back by dU/dθ.
    const way = lines();
    const rise = (angle: number) => way.length - Math.sqrt(way.length ** 2 - (way.spacing * Math.sin(angle / 2)) ** 2);
    for (const angle of [0.05, 0.4, 1, 1.39]) {
      const slope = (1.5 * G * (rise(angle + 1e-5) - rise(angle - 1e-5))) / 2e-5;
      expect(momentOfTwist(1.5 * G, way, angle) / slope).toBeCloseTo(1, 6);
    }
    // Small angles: W·d²·θ/4L by hand.
    expect(momentOfTwist(10, way, 0.01)).toBeCloseTo((10 * 0.09 * 0.01) / (4 * 1.2), 6);
    // Lines shorter than they are far apart cannot be turned so far.
    expect(momentOfTwist(10, lines({ spacing: 2, length: 0.5 }), 1)).toBeNaN();
  });
  it("swings give back the inertia of a body whose motion is followed step by step", () => {
    const way = lines();
    // A bar of 1.5 kg and 0.8 m: m·l²/12.
    const inertia = (1.5 * 0.8 ** 2) / 12;
    let [angle, rate, time, period] = [0.05, 0, 0, 0];
    const dt = 1e-4;
    while (period === 0) {
      const before = rate;
      rate -= (momentOfTwist(1.5 * G, way, angle) / inertia) * dt;
      angle += rate * dt;
      time += dt;
      // It stands still for the second time where it began.
      if (before > 0 && rate <= 0) period = time;
    }
    expect(inertiaOfSwing(1.5 * G, way, period) / inertia).toBeCloseTo(1, 2);
    const found = momentOf({ way: { ...way, swings: [{ count: 10, seconds: 10 * period }] } }, null);
    expect(found.inertia?.value).toBeCloseTo(inertia, 3);
    expect((found.inertia?.sd ?? 0) / inertia).toBeGreaterThan(0.05);
  });
  it(
    "takes its mass from the list where none was weighed, counts both ways alike, and leaves out what " + "cannot be",
    () => {
      const both = momentOf({ way: lines({ mass: null, twists: [0.3, -0.3] }) }, 1.5);
      expect(both.moment?.value).toBeCloseTo(momentOfTwist(1.5 * G, lines(), 0.3), 9);
      expect(both.moment?.n).toBe(2);
      expect(momentOf({ way: lines({ mass: null, twists: [0.3] }) }, null).moment).toBeNull();
      // Drives that push along the lines take weight off them: of the list's mass nothing follows then, but for swings.
      const read = { way: lines({ mass: null, twists: [0.3], swings: [{ count: 10, seconds: 14 }] }) };
      expect(momentOf(read, 1.5, true)).toMatchObject({ moment: null, inertia: momentOf(read, 1.5).inertia });
      expect(momentOf({ way: lines({ mass: 0.4, twists: [0.3] }) }, 1.5, true).moment?.value).toBeCloseTo(
        momentOfTwist(0.4 * G, lines(), 0.3),
        9,
      );
      const wide = momentOf({ way: lines({ spacing: 2, length: 0.5, twists: [0.1, 1.2] }) }, 1);
      expect([wide.moment?.n, wide.left]).toEqual([1, 1]);
      // Two degrees misread by hand are a fifth of ten.
      const small = momentOf({ way: lines({ twists: [(10 * Math.PI) / 180] }) }, null).moment;
      expect((small?.sd ?? 0) / (small?.value ?? 1)).toBeGreaterThan(0.19);
    },
  );
});

describe("held by a scale, and timed", () => {
  it("5 N at 0.4 m are 2 N·m; one reading is known to 8 %, many to 3 % at best", () => {
    const one = momentOf({ way: { by: "scale at an arm", arm: 0.4, pulls: [5] } }, null).moment;
    expect(one?.value).toBeCloseTo(2, 12);
    expect((one?.sd ?? 0) / 2).toBeGreaterThan(0.08);
    const many = momentOf({ way: { by: "scale at an arm", arm: 0.4, pulls: Array(20).fill(5) as number[] } }, null);
    expect((many.moment?.sd ?? 0) / 2).toBeCloseTo(0.03, 6);
    // Readings that differ say so themselves.
    const apart = momentOf({ way: { by: "scale at an arm", arm: 0.4, pulls: [3, 7, 4, 6, 5] } }, null).moment;
    expect((apart?.sd ?? 0) / 2).toBeGreaterThan(0.1);
  });
  it("a whole turn in 4 s at 2 m/s: 90 °/s on a circle of 1.27 m", () => {
    const { rate, radius, moment } = momentOf(
      { way: { by: "timed turn", speed: 2, turns: [{ angle: 2 * Math.PI, seconds: 4 }] } },
      null,
    );
    expect(rate?.value).toBeCloseTo(Math.PI / 2, 9);
    expect(radius?.value).toBeCloseTo(2 / (Math.PI / 2), 9);
    expect(moment).toBeNull();
    expect(
      momentOf({ way: { by: "timed turn", speed: null, turns: [{ angle: 1, seconds: 1 }] } }, null).radius,
    ).toBeNull();
  });
  it("nothing read is nothing known", () => {
    const read = { twists: [0.2], swings: [{ count: 10, seconds: 14 }] };
    for (const way of [
      lines(),
      lines({ ...read, spacing: null }),
      lines({ ...read, length: null }),
      { by: "scale at an arm" as const, arm: 1, pulls: [] },
      { by: "scale at an arm" as const, arm: null, pulls: [5] },
    ])
      expect(momentOf({ way }, 1)).toMatchObject({ moment: null, inertia: null, rate: null });
    expect(unsaidOf({ by: "scale at an arm", arm: null, pulls: [5] })).toBe("the arm of the pull");
    expect(unsaidOf(lines())).toBeNull();
  });
});

describe("taken over", () => {
  const pull = { by: "scale at an arm" as const, arm: 0.4, pulls: [5] };
  it("only what the board reckons with", () => {
    const roll = { axis: "roll", role: "turns it" } as const;
    expect(takenAs(test(pull, { ...roll, throttle: 1 }))).toBe("torque");
    expect(takenAs(test(pull, { ...roll, throttle: 0.6 }))).toBeNull();
    expect(takenAs(test(pull, { ...roll, throttle: null }))).toBeNull();
    expect(takenAs(test(pull, { throttle: 1 }))).toBe("steering");
    expect(takenAs(test(pull))).toBeNull();
    expect(takenAs(test(pull, { role: "turns it", throttle: 1 }))).toBeNull();
    expect(takenAs(test(pull, { axis: "pitch", throttle: 1 }))).toBeNull();
    for (const t of [test(pull), test(lines({ twists: [0.1] }))]) expect(momentSchema.safeParse(t).success).toBe(true);
  });
  it("a torque that was weighed stands on the board in place of the computed one, turning the same way", () => {
    const of = demoFile("tern").versions.find((v) => v.label === "v5")?.design;
    if (!of) throw new Error("no v5");
    const torque = (design: Design) => {
      const board = resultIn(evaluate(design), axes);
      if (board?.kind !== "wings") throw new Error("not on wings");
      return board.moments
        .find((m) => m.moment === "let go")
        ?.lines.find((l) => l.axis === "roll")
        ?.disturbs.find((p) => p.what === "torque");
    };
    const computed = torque(of);
    expect(Math.abs(computed?.value ?? 0)).toBeGreaterThan(0);
    const weighed = 2 * Math.abs(computed?.value ?? 0);
    const design = structuredClone(of);
    design.flight.torque = momentKnown({ value: weighed, sd: 0.05 * weighed, n: 3 }, "scale at an arm", 7);
    expect(design.flight.torque.note).toBe("3 × pull at an arm, B-07");
    expect(torque(design)?.value).toBeCloseTo(2 * (computed?.value ?? 0), 9);
    expect(torque(design)?.sd).toBeCloseTo(0.05 * weighed, 9);
    // Weighed with these drives; another propeller, and it is computed again; known better, it still counts.
    const signed = structuredClone(design);
    signed.flight.weighedWith = drivesSign(signed);
    expect(torque(signed)?.value).toBeCloseTo(2 * (computed?.value ?? 0), 9);
    const better = structuredClone(signed);
    for (const u of better.units) u.motor.kv.evidence = "measured";
    expect(drivesSign(better)).toBe(drivesSign(signed));
    const swapped = structuredClone(signed);
    for (const u of swapped.units) u.propeller.diameter.value *= 1.02;
    expect(Math.abs(torque(swapped)?.value ?? 0)).toBeLessThan(0.8 * weighed);
    const board = resultIn(evaluate(swapped), axes);
    expect(board?.otherDrives).toBe(true);
    expect(resultIn(evaluate(signed), axes)?.otherDrives).toBe(false);
    for (const change of [
      (d: Design) => void (d.units[0] && (d.units[0].count += 1)),
      (d: Design) => void (d.batteries[0] && (d.batteries[0].series += 1)),
      (d: Design) => void (d.units[0] && (d.units[0].gear.ratio *= 1.5)),
    ]) {
      const other = structuredClone(signed);
      change(other);
      expect(drivesSign(other)).not.toBe(drivesSign(signed));
    }
  });
  it("and the verdict reckons with the same torque as the board", () => {
    const of = demoFile("tern").versions.find((v) => v.label === "v5")?.design;
    if (!of) throw new Error("no v5");
    // High above the ground, and the drives turn so hard that nothing holds it.
    const told = (torque: number | null) => {
      const d = structuredClone(of);
      d.flight.height = null;
      d.flight.torque = torque === null ? null : { value: torque, sd: 0.01, evidence: "measured" };
      return evaluate(d).findings.find((f) => f.code === "torque-roll");
    };
    expect(told(1e-4)).toBeUndefined();
    expect(told(50)).toBeDefined();
  });
  it("steering that was weighed stands beside what the drives are computed to give", () => {
    const of = demoFile("samphire").versions.at(-1)?.design;
    if (!of) throw new Error("no craft");
    const yaw = (design: Design) => {
      const board = resultIn(evaluate(design), axes);
      if (board?.kind !== "drives") throw new Error("not by drives");
      return board.lines.find((l) => l.axis === "yaw");
    };
    const before = yaw(of);
    expect(before?.weighed).toBeNull();
    const design = structuredClone(of);
    design.flight.steering = { value: 1.2, sd: 0.1, evidence: "measured" };
    expect(yaw(design)).toEqual({ ...before, weighed: { value: 1.2, sd: 0.1 } });
  });
});
