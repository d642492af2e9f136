import { describe, expect, it } from "vitest";
import type { Design } from "../../core/design/schema";
import { evaluate, findingText, remediesFor, resultIn } from "../../core/evaluate";
import { tryPatch } from "../../core/design/patch";
import { type OnTheRun, leavingOf, noseUpMoment, pivotOf } from "../../core/subjects/liftoff/noseUp";
import { liftoff } from "../../core/subjects/liftoff/node";
import { touchesFirst } from "../../core/subjects/stance/touches";
import { changed } from "../support/designs";
import { winged } from "../support/wings";

const known = (value: number) => ({ value, evidence: "measured" as const });
/** A winged craft on three wheels: one ahead, two so far back, all on z = −0.02. */
const onWheels = (back: number, more: (d: Design) => void = () => {}) =>
  changed((d) => {
    winged(d);
    Object.assign(d.flight, { launch: "wheels", rolling: known(0.05) });
    const foot = (id: string, x: number, y: number, z = -0.02) => ({
      ...{ id, name: id, itemId: null, at: { x, y, z }, mirrored: y > 0, placeBy: "measured" as const },
    });
    d.feet = [foot("nose", 0.1, 0), foot("main", back, 0.12)];
    more(d);
  });
const liftoffOf = (d: Design) => {
  const result = resultIn(evaluate(d), liftoff);
  if (!result) throw new Error("not solved");
  return result;
};

/** Strips that never stall; so many m² of lift and m³ of moment. */
const plain = (over: Partial<OnTheRun> = {}): OnTheRun => {
  const none = { y: 0, z: 0, mx: 0, my: 0, mz: 0 };
  return {
    model: {
      set: { ...none, z: 0.05, my: -0.05 * 0.3 },
      alpha: { ...none, z: 1, my: -0.3 },
      controls: [{ reaction: { ...none, z: 0.08, my: -0.08 * 0.8 }, cl: [3], up: 0.4, down: 0.3 }],
      strips: [{ set: 0, alpha: 1, most: 1e12, mostDown: 1e12, surface: 0, share: 0.5, side: 1 }],
      mac: 0.2,
    },
    rest: {
      up: { x: 0, y: 0, z: 1 },
      ahead: { x: -1, y: 0, z: 0 },
      touching: [
        { x: 0.05, y: 0, z: -0.1 },
        { x: 0.36, y: 0.1, z: -0.1 },
        { x: 0.36, y: -0.1, z: -0.1 },
      ],
    },
    noseUp: 0,
    cg: { x: 0.3, y: 0, z: 0 },
    weight: 10,
    push: { force: { x: -1, y: 0, z: 0 }, moment: { x: 0, y: -0.03, z: 0 } },
    thrust: (v) => Math.max(0, 6 - 0.2 * v),
    drag: { area: 0.01, height: 0.02 },
    density: 1.2,
    rolling: 0.06,
    stall: 9,
    atLeast: 1.15,
    clear: Number.POSITIVE_INFINITY,
    ...over,
  };
};

/**
 * The other way to the same: what its nose wheel and its main wheels carry so that the craft does not turn, from two
 * balances about the CG. The nose wheel carries nothing where the nose comes up.
 */
function noseWheelLoad(c: OnTheRun, v: number): number {
  const q = (c.density * v * v) / 2;
  const up = -0.4;
  const lift = q * (c.model.set.z + up * (c.model.controls[0]?.reaction.z ?? 0));
  const aero = q * (c.model.set.my + up * (c.model.controls[0]?.reaction.my ?? 0)) + c.cg.x * lift;
  const [thrust, drag] = [c.thrust(v), q * c.drag.area];
  // The line of thrust goes 0.03 m above the datum, where the CG is: nose down.
  const rest = aero - 0.03 * thrust + (c.drag.height - c.cg.z) * drag;
  const carried = c.weight - lift;
  const [ahead, back] = [c.cg.x - 0.05, 0.36 - c.cg.x];
  // Friction of all wheels, µ·N at the ground, 0.1 under the CG: nose down.
  const ground = -c.rolling * carried * 0.1;
  // N_nose·ahead (nose up) − N_main·back + rest + ground = 0 with N_nose + N_main = W − L.
  return (carried * back - rest - ground) / (ahead + back);
}

describe("the nose on the run", () => {
  it(
    "comes up where its wheel carries nothing: two balances about the CG give the speed that one about " +
      "the hindmost feet gives",
    () => {
      const c = plain();
      const found = leavingOf(c)?.nose;
      if (!found) throw new Error("not found");
      let [low, high] = [0.5, 30];
      for (let k = 0; k < 60; k++) {
        const middle = (low + high) / 2;
        if (noseWheelLoad(c, middle) > 0) low = middle;
        else high = middle;
      }
      expect(found / low).toBeCloseTo(1, 4);
      // At every speed, not at that alone: the load times the wheels' distance is the moment that is missing.
      const pivot = pivotOf(c.rest);
      if (!pivot) throw new Error("no pivot");
      for (const v of [0, 4, 8, 12])
        expect(noseUpMoment(c, pivot, v)).toBeCloseTo(-noseWheelLoad(c, v) * (0.36 - 0.05), 9);
    },
  );
  it("by hand, without thrust, drag and friction: q·(M + x·L) = W·d", () => {
    const c = plain({ thrust: () => 0, rolling: 0, drag: { area: 0, height: 0 } });
    // Full nose up: −0.4 rad. L = 0.05 − 0.032 = 0.018; M = −0.015 + 0.0256 = 0.0106; M + 0.36·L = 0.01708.
    const q = (10 * 0.06) / 0.01708;
    expect(leavingOf(c)?.nose).toBeCloseTo(Math.sqrt((2 * q) / 1.2), 3);
  });
  it("comes up later with feet farther back, thrust higher or less travel, and sooner standing nose up", () => {
    const at = (over: Partial<OnTheRun>) => leavingOf(plain(over))?.nose ?? Number.POSITIVE_INFINITY;
    const base = at({});
    const back = plain().rest.touching.map((p) => ({ ...p, x: p.x > 0.3 ? 0.42 : p.x }));
    expect(at({ rest: { ...plain().rest, touching: back } })).toBeGreaterThan(base);
    expect(at({ push: { force: { x: -1, y: 0, z: 0 }, moment: { x: 0, y: -0.1, z: 0 } } })).toBeGreaterThan(base);
    const [control] = plain().model.controls;
    if (!control) throw new Error("no control");
    expect(at({ model: { ...plain().model, controls: [{ ...control, up: 0.3 }] } })).toBeGreaterThan(base);
    expect(at({ noseUp: 0.1 })).toBeLessThan(base);
  });
  it("is not lifted by a tail that would have to carry more than its section can", () => {
    const [strip] = plain().model.strips;
    if (!strip) throw new Error("no strip");
    const weak = { ...plain().model, strips: [{ ...strip, most: 0.6, mostDown: 0.6 }] };
    expect(leavingOf(plain({ model: weak }))?.nose).toBeGreaterThan(
      leavingOf(plain())?.nose ?? Number.POSITIVE_INFINITY,
    );
  });
  it("that nothing lifts leaves the ground only where the wings carry it as it stands: √(2·W / ρ·L)", () => {
    // All of its lift behind its feet: it never lifts the nose.
    const set = { ...plain().model.set, my: -0.05 * 0.4 };
    const flat = { ...plain().model, set, controls: [] };
    const out = leavingOf(plain({ model: flat }));
    expect(out?.nose).toBeNull();
    expect(out?.carries).toBeCloseTo(Math.sqrt((2 * 10) / (1.2 * 0.05)), 9);
    expect(out?.leaves).toBe(out?.carries);
    const never = { ...flat, set: { ...flat.set, z: 0.001, my: -0.0004 } };
    expect(leavingOf(plain({ model: never }))).toEqual({ nose: null, carries: null, steep: 0, leaves: null });
  });
});

describe("what is behind", () => {
  it("holds it on the ground until trimmed level flight is as flat as it can turn on its feet", () => {
    const free = leavingOf(plain());
    const held = leavingOf(plain({ clear: 0.1 }));
    // Level at so much nose up, by hand: lift 0.05 + α and moment about the CG 0.05·0 − the control; both balanced.
    // Controls: L = 0.08·e, M about the CG = (−0.08·0.8 + 0.3·0.08)·e = −0.04·e; set and alpha act at the CG: e = 0.
    const byHand = Math.sqrt((2 * 10) / (1.2 * (0.05 + 0.1)));
    expect(held?.steep).toBeCloseTo(byHand, 6);
    expect(held?.leaves).toBeCloseTo(Math.max(byHand, held?.nose ?? 0, 1.15 * 9), 6);
    expect(held?.nose).toBeCloseTo(free?.nose ?? 0, 9);
    expect(leavingOf(plain({ clear: 0.02 }))?.leaves).toBeGreaterThan(held?.leaves ?? Number.POSITIVE_INFINITY);
  });
  it("touches first by its angle over the ground: by hand, with a body of one's own", () => {
    const body = (name: string, x: number, bottom: number) => ({
      ...{ id: name, name, y: 0, mirrored: false, across: "round" as const, shapeBy: "measured" as const },
      frames: [
        { x: 0.1, z: bottom + 0.02, width: 0.04, height: 0.04 },
        { x, z: bottom + 0.02, width: 0.04, height: 0.04 },
      ],
    });
    const level = { up: { x: 0, y: 0, z: 1 }, ahead: { x: -1, y: 0, z: 0 } };
    const at = { x: 0.4, y: 0, z: -0.03 };
    const found = touchesFirst({ surfaces: [], bodies: [body("pod", 0.6, 0.01), body("boom", 0.9, 0.06)] }, at, level);
    expect(found).toEqual({ name: "boom", clear: Math.atan2(0.09, 0.5), behind: 0.5 });
    expect(touchesFirst({ surfaces: [], bodies: [body("pod", 0.3, 0)] }, at, level)).toBeNull();
  });
  it("is told where it keeps the craft down, and no feet are moved for it", () => {
    const low = onWheels(0.36, (d) => {
      const [body] = d.bodies;
      body?.frames.push({ x: 0.7, z: 0.0, width: 0.03, height: 0.03 });
    });
    const e = evaluate(low);
    const finding = e.findings.find((f) => f.code === "nose-late");
    expect(finding && findingText(finding, "metric")).toMatch(
      /“body” touches the ground at 0\.8° more nose up: it leaves/,
    );
    expect(remediesFor(low, e, finding as NonNullable<typeof finding>).every((r) => !r.patch)).toBe(true);
  });
  it("near the ground ends slow flight before the wing does, and that is said of the stall speed", () => {
    const at = (height: number | null) =>
      evaluate(
        changed((d) => {
          winged(d);
          d.bodies[0]?.frames.push({ x: 0.7, z: 0, width: 0.03, height: 0.03 });
          if (height !== null) d.flight.height = known(height);
        }),
      ).metrics.stallSpeed?.outside?.join() ?? "";
    expect(at(0.03)).toMatch(/at this height “\w+” touches the ground/);
    expect(at(null)).not.toMatch(/touches/);
  });
});

describe("the run to lift off", () => {
  it("is longer where the nose comes up late: not from 1.15 × the stall speed, whatever its feet", () => {
    const [good, late] = [liftoffOf(onWheels(0.36)), liftoffOf(onWheels(0.55))];
    expect(good.values.liftOffSpeed?.value).toBeCloseTo(good.least, 9);
    expect(late.values.liftOffSpeed?.value).toBeGreaterThan(1.1 * late.least);
    expect(late.values.liftOffRun?.value).toBeGreaterThan(1.2 * (good.values.liftOffRun?.value ?? Number.NaN));
  });
  it("says that it is open whether the nose comes up while nobody said where it touches the ground", () => {
    const e = evaluate(onWheels(0.36, (d) => void (d.feet = [])));
    expect(e.metrics.liftOffRun?.incomplete?.join()).toContain("whether its nose comes up by then is not known");
    expect(e.metrics.noseUpSpeed).toBeUndefined();
    expect(resultIn(e, liftoff)?.leaving).toBeNull();
    expect(e.findings.some((f) => f.code === "nose-late")).toBe(false);
  });
  it("is not told of what floats, or is thrown", () => {
    for (const launch of ["water", "thrown"] as const)
      expect(evaluate(onWheels(0.36, (d) => void (d.flight.launch = launch))).outcomes.liftoff?.status).toBe(
        "not covered",
      );
  });
  it("sets the hindmost feet as far ahead as brings the nose up in time, and is then right", () => {
    const design = onWheels(0.55);
    const e = evaluate(design);
    const finding = e.findings.find((f) => f.code === "nose-late");
    if (!finding) throw new Error("not found");
    const remedy = remediesFor(design, e, finding).find((r) => r.code === "feet-ahead");
    if (!remedy?.patch) throw new Error("no remedy");
    const after = tryPatch(design, remedy.patch);
    if (!after) throw new Error("refused");
    const then = liftoffOf(after);
    expect(then.values.noseUpSpeed?.value).toBeLessThanOrEqual(then.least);
    expect(then.values.noseUpSpeed?.value).toBeGreaterThan(0.95 * then.least);
    expect(evaluate(after).findings.some((f) => f.code === "nose-late")).toBe(false);
  });
  it("moves with each doubt as the whole craft does with it", () => {
    const at = (more: (d: Design) => void) => liftoffOf(onWheels(0.5, more)).values.noseUpSpeed;
    const [base, shifted] = [at(() => {}), at((d) => void (d.flight.rolling = known(0.06)))];
    const slope = ((shifted?.value ?? 0) - (base?.value ?? 0)) / 0.01;
    const step = liftoffOf(onWheels(0.5)).shapes.find((i) => i.id === "/rolling")?.sd ?? 0;
    expect((base?.by["/rolling"] ?? 0) / (slope * step)).toBeCloseTo(1, 1);
  });
  it("of a heavier craft is longer and faster", () => {
    const more = onWheels(0.4, (d) => {
      const hull = d.items.find((i) => i.id === "hull");
      if (hull?.mass) hull.mass.value += 0.2;
    });
    const [light, heavy] = [liftoffOf(onWheels(0.4)), liftoffOf(more)];
    expect(heavy.values.liftOffSpeed?.value).toBeGreaterThan(light.values.liftOffSpeed?.value ?? Number.NaN);
  });
  it("of a craft without a pitch control is told by how it stands alone", () => {
    const d = onWheels(0.36, (x) => {
      for (const s of x.surfaces) s.controls = [];
    });
    const { leaving } = liftoffOf(d);
    expect(leaving?.nose === null || (leaving?.nose ?? 0) > (liftoffOf(onWheels(0.36)).leaving?.nose ?? 0)).toBe(true);
  });
});
