import { describe, expect, it } from "vitest";
import {
  type CorridorGiven,
  type WingAtAngle,
  cellAt,
  corridorOf,
  corridorsOf,
  transitionAt,
  wingAt,
} from "../../core/corridor";
import { inState } from "../../core/design/inState";
import { type Design, plainState } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { lattice } from "../../core/subjects/flight/latticeNode";
import { demoFile } from "../support/demo";

/** A wing of aspect ratio 6 and 0.2 m² by lifting-line: C_L = 4.5·α, stalled at 1.0, C_D = 0.02 + C_L²/(π·6). */
const wing: WingAtAngle = {
  most: 0.2,
  alpha: { at0: 0, per: 1 / (4.5 * 0.2) },
  polar: { c0: 0, c1: 0, c2: 1 / (Math.PI * 6 * 0.2) },
  still: 0.02 * 0.2,
  area: 0.2,
  aspect: 6,
};
const W = 10;
const RHO = 1.225;
/** W = ½ρv²·0.2 */
const STALL = Math.sqrt((2 * W) / (RHO * 0.2));
const given = (more: Partial<CorridorGiven> = {}): CorridorGiven => ({
  weight: W,
  density: RHO,
  wing,
  pushers: [{ most: 15, left: () => 1, acts: "turns" }],
  wholeTurns: false,
  slowest: STALL,
  doubt: { thrust: 0.05, lift: 0.05, weight: 0.01 },
  ...more,
});

describe("a wing beyond its stall", () => {
  const stall = wing.alpha.per * wing.most;
  it("goes on where the lattice ends, without a jump", () => {
    const [below, beyond] = [wingAt(wing, stall - 1e-7), wingAt(wing, stall + 1e-7)];
    expect(below.stalled).toBe(false);
    expect(beyond.stalled).toBe(true);
    expect(beyond.load).toBeCloseTo(below.load, 5);
    expect(beyond.drag).toBeCloseTo(below.drag, 5);
  });
  it("across the wind lifts nothing and drags as a plate does: C_D = 1.11 + 0.018·AR", () => {
    const across = wingAt(wing, Math.PI / 2);
    expect(across.load).toBeCloseTo(0, 9);
    expect(across.drag / wing.area).toBeCloseTo(1.11 + 0.018 * 6, 9);
    // A square plate across the wind, Hoerner, Fluid-Dynamic Drag: 1.16 to 1.18 (from memory).
    const square = wingAt({ ...wing, aspect: 1 }, Math.PI / 2).drag / wing.area;
    expect(square).toBeGreaterThan(1.05);
    expect(square).toBeLessThan(1.25);
  });
  it("at 45° lifts about as much as it drags", () => {
    const { load, drag } = wingAt(wing, Math.PI / 4);
    expect(load / drag).toBeGreaterThan(0.8);
    expect(load / drag).toBeLessThan(1.3);
  });
  it("is never a number that is none, at any angle", () => {
    for (let a = -90; a <= 90; a += 1) {
      const { load, drag } = wingAt(wing, (a * Math.PI) / 180);
      expect(Number.isFinite(load) && Number.isFinite(drag) && drag >= 0).toBe(true);
    }
  });
});

describe("what carries from hover to flight", () => {
  it("standing still it is the thrust alone, raised as far as it is", () => {
    for (const raise of [0, 0.4, 1, Math.PI / 2]) {
      const c = cellAt(given(), 0, raise);
      expect(c.carried).toBeCloseTo((15 * Math.sin(raise)) / W, 12);
      expect(c.ahead).toBeCloseTo((15 * Math.cos(raise)) / W, 12);
    }
  });
  it("without a wing to speak of the best raise leaves what statics says, at every speed", () => {
    const bare = given({ wing: { ...wing, most: 1e-9, still: 0, area: 1e-9, polar: { c0: 0, c1: 0, c2: 0 } } });
    // T·sin r − W = T·cos r  →  sin r − cos r = W/T
    const r = Math.asin(W / 15 / Math.SQRT2) + Math.PI / 4;
    for (const p of corridorOf(bare).path) expect(p.margin).toBeCloseTo(1.5 * Math.cos(r), 1);
  });
  it("a rotor that tips ahead of a wing carries all the way with half as much thrust again as it weighs", () => {
    const found = corridorOf(given());
    expect(found.least.word).toBe("carries");
    // At the slowest flight the wing carries alone.
    const last = found.path.filter((p) => p.speed >= STALL);
    for (const p of last) expect(p.word).toBe("carries");
    // What is beyond flight on the wing alone is no part of the way there.
    expect(found.least.speed).toBeLessThanOrEqual(STALL * 1.0001);
  });
  it(
    "one that stands on its tail goes through angles at which its wing is stalled, and needs more thrust " + "for it",
    () => {
      const least = (thrust: number, wholeTurns: boolean) =>
        corridorOf(given({ wholeTurns, pushers: [{ most: thrust, left: () => 1, acts: "turns" }] })).least.margin;
      for (const thrust of [11, 13, 15]) expect(least(thrust, true)).toBeLessThan(least(thrust, false));
      expect(least(15, true)).toBeGreaterThan(least(11, true));
    },
  );
  it("a tail-sitter whose rotor pitch is far too short for its wing does not get there", () => {
    // Its thrust is gone at a third of the stall speed: until the wing carries nothing does.
    const weak = given({
      wholeTurns: true,
      pushers: [{ most: 11, left: (v) => Math.max(0, 1 - v / (0.3 * STALL)), acts: "turns" }],
    });
    const found = corridorOf(weak);
    expect(found.least.word).toBe("does not carry");
    expect(found.least.margin).toBeLessThan(0);
    expect(found.least.speed).toBeGreaterThan(0);
    expect(found.least.speed).toBeLessThanOrEqual(STALL);
  });
  it("rotors that stay upright and a pusher need no raise at all: it is the pusher against the drag", () => {
    const apart = given({
      pushers: [
        { most: 13, left: () => 1, acts: "up" },
        { most: 3, left: () => 1, acts: "ahead" },
      ],
    });
    const { path } = corridorOf(apart);
    for (const p of path) {
      const q = (RHO * p.speed ** 2) / 2;
      // The rotors carry all: the wing is flown at the angle of no lift, and drags as little as it can.
      expect(p.margin).toBeCloseTo(Math.min(0.3 + (q * wing.most) / W, (3 - q * wing.still) / W), 6);
    }
    const tired = given({
      pushers: [
        { most: 9, left: () => 1, acts: "up" },
        { most: 3, left: () => 1, acts: "ahead" },
      ],
    });
    expect(corridorOf(tired).path[0]?.word).toBe("does not carry");
  });
  it("more thrust, more wing or less weight never leaves less", () => {
    for (const wholeTurns of [false, true]) {
      const base = corridorOf(given({ wholeTurns })).path;
      const better = [
        given({ wholeTurns, pushers: [{ most: 16, left: () => 1, acts: "turns" }] }),
        given({ wholeTurns, weight: 9.5 }),
      ];
      for (const g of better)
        for (const [k, p] of corridorOf({ ...g, slowest: STALL }).path.entries())
          expect(p.margin).toBeGreaterThanOrEqual((base[k]?.margin ?? 0) - 1e-9);
    }
  });
  it("near its limit it is thin: too near for its ±", () => {
    const { path } = corridorOf(given({ pushers: [{ most: 10.3, left: () => 1, acts: "turns" }] }));
    expect(path[0]?.word).toBe("thin");
  });
});

describe("between the states of a craft", () => {
  const annulus = (): Design => {
    const d = demoFile("annulus").versions.at(-1)?.design;
    if (!d) throw new Error("no design");
    return structuredClone(d);
  };
  it("it hovers by what its drives push standing, and flies from where its wings carry", () => {
    const found = corridorsOf(annulus()).x1;
    if (found?.status !== "solved") throw new Error(found?.status === "open" ? found.because : "none");
    const hover = evaluate(inState(annulus(), "usual"));
    const wings = resultIn(evaluate(inState(annulus(), "wing")), lattice);
    const tw = hover.metrics.thrustToWeight?.value ?? 0;
    // Upright, standing: all of it.
    expect(found.cells[0]?.[0]?.carried).toBeCloseTo(tw, 6);
    expect(found.ends.shift).toBeCloseTo(0, 12);
    expect(wings).not.toBeNull();
    expect(found.slowest).toBeCloseTo(evaluate(inState(annulus(), "wing")).metrics.stallSpeed?.value ?? 0, 9);
    // The small ring carries late, where the drives have little left.
    expect(found.least.word).toBe("thin");
    expect(found.least.speed).toBeGreaterThan(0.7 * found.slowest);
  });
  it("is open, with why, where something that bears on it is not known", () => {
    const part = annulus();
    part.flight.whole = false;
    const bare = annulus();
    bare.surfaces = [];
    const light = annulus();
    const camera = light.items.find((i) => i.id === "camera");
    if (camera) camera.mass = null;
    for (const [d, why] of [
      [part, /not every surface/],
      [bare, /on the wing/],
      [light, /camera|Camera/],
    ] as const) {
      const found = corridorsOf(d).x1;
      expect(found?.status === "open" && found.because, String(why)).toMatch(why);
    }
  });
  it("drives that point ahead in both states are asked about: without a word the craft would not even hover", () => {
    const d = annulus();
    d.transitions = [{ id: "x1", from: "usual", to: "wing", wholeTurns: false }];
    const found = corridorsOf(d).x1;
    expect(found?.status === "open" && found.because).toMatch(/turns as a whole/);
  });
  it("a drive that pushes to the side carries nothing and pushes nothing ahead, one that leans is not covered", () => {
    const beside = (direction: "port" | "ahead", tilt = 0) => {
      const d = annulus();
      d.transitions = [{ id: "x1", from: "usual", to: "wing", wholeTurns: false }];
      d.states[0]?.units.push({ id: d.units[0]?.id ?? "", resting: false, turned: Math.PI / 2, works: null, on: null });
      const [first] = d.units;
      if (!first) throw new Error("no drive");
      d.units.push({ ...structuredClone(first), id: "second", name: "Second", direction, tilt, count: 2 });
      return corridorsOf(d).x1;
    };
    const [side, lone, leaning] = [beside("port"), beside("ahead"), beside("ahead", Math.PI / 4)];
    if (side?.status !== "solved" || lone?.status !== "solved") throw new Error("open");
    // Upright and standing still: what turns alone ahead, and with the second drive as much again.
    const level = (c: typeof side) => c.cells.at(-1)?.[0]?.ahead ?? 0;
    expect(level(lone)).toBeGreaterThan(1.5 * level(side));
    expect(side.cells[0]?.[0]?.carried).toBeCloseTo(lone.cells[0]?.[0]?.carried ?? 0, 1);
    expect(leaning?.status === "open" && leaning.because).toMatch(/Second stands neither upright nor level/);
  });
  it("between other kinds of states only its ends are told", () => {
    const samphire = demoFile("samphire").versions.at(-1)?.design;
    if (!samphire) throw new Error("no design");
    const found = corridorsOf(samphire).x1;
    expect(found?.status).toBe("open");
    // The stalk goes up by 120 mm: the CG goes up, not along.
    expect(found?.ends.shift).toBeCloseTo(0, 9);
    expect(found?.ends.from.name).toBe("aground");
  });
  it("a transition of a state that is gone is none", () => {
    const d = annulus();
    expect(transitionAt(d, { id: "x", from: "usual", to: "gone", wholeTurns: false })).toBeNull();
    d.states.push(plainState("idle", "standing about", ["ground"]));
    d.transitions.push({ id: "x2", from: "usual", to: "idle", wholeTurns: false });
    expect(Object.keys(corridorsOf(d)).sort()).toEqual(["x1", "x2"]);
  });
});
