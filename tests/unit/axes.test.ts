import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { gustThatStalls, sideGust } from "../../core/subjects/axes/gust";
import { gustText } from "../../core/wording/axes";
import { HALF, type WingedState, lineOf, linesOf } from "../../core/subjects/axes/inFlight";
import { type Driver, SIX, type SixAxis, commands, sixOf, wordOf } from "../../core/subjects/axes/six";
import { type FallingResult, fallenAt, falling } from "../../core/subjects/axes/falling";
import { axes } from "../../core/subjects/axes/node";
import { lattice } from "../../core/subjects/flight/latticeNode";
import { solveAll } from "../../core/subjects/propulsion/nominal";
import { plainSetup } from "../../core/subjects/propulsion/vary";
import { evaluate, resultIn } from "../../core/evaluate";
import { type Design, usualState } from "../../core/design/schema";
import { demoFile } from "../support/demo";
import { quietDesign } from "../support/designs";
import { winged } from "../support/wings";

const ORIGIN = { x: 0, y: 0, z: 0 };
const driver = (at: Partial<Driver["at"]>, toward: Partial<Driver["at"]>, more: Partial<Driver> = {}): Driver => ({
  at: { ...ORIGIN, ...at },
  toward: { ...ORIGIN, ...toward },
  most: 1,
  torque: 0,
  spin: 1,
  reversible: false,
  astern: 0,
  ...more,
});
const AHEAD = { x: -1 };
const word = (drivers: Driver[], axis: SixAxis, free: SixAxis[] = [], dead: number | null = null) =>
  wordOf(commands(drivers, ORIGIN, free, dead)[axis], 1e-6);

describe("a newton at a known place (model: x aft, y to starboard, z up)", () => {
  // Each unit by hand: the moment of 1 N on an arm of 1 m, by the right-hand rule and the signs of the model.
  it.each([
    ["ahead at the CG", driver({}, AHEAD), { surge: 1 }],
    ["astern at the CG", driver({}, { x: 1 }), { surge: -1 }],
    ["ahead, 1 m to starboard: nose to port", driver({ y: 1 }, AHEAD), { surge: 1, yaw: -1 }],
    ["ahead, 1 m to port: nose to starboard", driver({ y: -1 }, AHEAD), { surge: 1, yaw: 1 }],
    ["ahead, 1 m above: nose down", driver({ z: 1 }, AHEAD), { surge: 1, pitch: -1 }],
    ["ahead, 1 m below: nose up", driver({ z: -1 }, AHEAD), { surge: 1, pitch: 1 }],
    ["up, 1 m ahead of the CG: nose up", driver({ x: -1 }, { z: 1 }), { heave: 1, pitch: 1 }],
    ["up, 1 m aft: nose down", driver({ x: 1 }, { z: 1 }), { heave: 1, pitch: -1 }],
    ["up, 1 m to starboard: port down", driver({ y: 1 }, { z: 1 }), { heave: 1, roll: -1 }],
    ["to starboard, 1 m aft: nose to port", driver({ x: 1 }, { y: 1 }), { sway: 1, yaw: -1 }],
    ["to starboard, 1 m ahead: nose to starboard", driver({ x: -1 }, { y: 1 }), { sway: 1, yaw: 1 }],
    ["to starboard, 1 m above: starboard down", driver({ z: 1 }, { y: 1 }), { sway: 1, roll: 1 }],
  ] as [string, Driver, Partial<Record<SixAxis, number>>][])("%s", (_name, d, expected) => {
    const e = sixOf(d, ORIGIN);
    for (const axis of SIX) expect(e[axis], axis).toBeCloseTo(expected[axis] ?? 0, 12);
  });
  it("a rotor that turns clockwise seen from behind turns the body the other way: port down", () => {
    const e = sixOf(driver({}, AHEAD, { torque: 0.02, spin: 1 }), ORIGIN);
    expect(e.roll).toBeCloseTo(-0.02, 12);
    expect(sixOf(driver({}, AHEAD, { torque: 0.02, spin: -1 }), ORIGIN).roll).toBeCloseTo(0.02, 12);
  });
});

describe("what drives command by themselves", () => {
  const twin = (more: Partial<Driver> = {}) => [driver({ y: 0.3 }, AHEAD, more), driver({ y: -0.3 }, AHEAD, more)];
  const held: SixAxis[] = ["heave", "roll", "pitch"];
  it("two propellers that turn one way steer only under way; that turn both ways, on the spot", () => {
    expect(word(twin(), "yaw", held)).toBe("with others");
    expect(word(twin(), "surge", held)).toBe("one way");
    expect(word(twin({ astern: 1 }), "yaw", held)).toBe("both ways");
    // On the spot the weaker way astern is the limit: 0.6 N each on 0.3 m.
    const c = commands(twin({ astern: 0.6 }), ORIGIN, held).yaw;
    expect(c.alone.plus).toBeCloseTo(2 * 0.6 * 0.3, 9);
    expect(c.coupled.plus).toBeCloseTo(0.3 + 0.6 * 0.3, 9);
  });
  it("a craft with two propellers abreast never steps sideways", () => {
    expect(word(twin({ astern: 1 }), "sway", held)).toBe("never had");
  });
  it(
    "three that push ahead, aft-outwards on both sides: the vectored layout commands surge, sway and yaw " + "alone",
    () => {
      // Four units at 45° in the corners, both ways: the usual underwater layout; all of surge, sway, yaw by
      // themselves.
      const s = Math.SQRT1_2;
      const four = [
        driver({ x: -1, y: 1 }, { x: -s, y: -s }, { astern: 1 }),
        driver({ x: -1, y: -1 }, { x: -s, y: s }, { astern: 1 }),
        driver({ x: 1, y: 1 }, { x: -s, y: s }, { astern: 1 }),
        driver({ x: 1, y: -1 }, { x: -s, y: -s }, { astern: 1 }),
      ];
      const c = commands(four, ORIGIN, held);
      for (const axis of ["surge", "sway", "yaw"] as const) expect(wordOf(c[axis], 1e-6), axis).toBe("both ways");
      // Closed form: each axis takes all four at full: 4·cos 45° = 2.828 N; the arms of ±45° units are √2 m.
      expect(c.surge.alone.plus).toBeCloseTo(4 * s, 9);
      expect(c.sway.alone.plus).toBeCloseTo(4 * s, 9);
      expect(c.yaw.alone.plus).toBeCloseTo(4 * Math.SQRT2, 9);
      // One dead: by rank three still command three axes.
      expect(SIX.slice(0, 2).map((a) => wordOf(commands(four, ORIGIN, held, 0)[a], 1e-6))).toEqual([
        "both ways",
        "both ways",
      ]);
    },
  );
  it("what is free does not matter, what is held must stay nought", () => {
    const high = [driver({ z: 1 }, AHEAD)];
    expect(word(high, "surge")).toBe("with others");
    expect(word(high, "surge", ["pitch"])).toBe("one way");
  });
  it("an arm of a rounding error does not hold a unit back", () => {
    const two = [driver({ y: 5e-324 }, AHEAD), driver({ y: 1e-16 }, AHEAD)];
    expect(commands(two, ORIGIN, held).surge.alone.plus).toBeCloseTo(2, 9);
  });
  const any = fc.record({
    at: fc.record({ x: fc.double({ min: -1, max: 1, noNaN: true }), y: fc.double({ min: -1, max: 1, noNaN: true }) }),
    turn: fc.double({ min: 0, max: 6.28, noNaN: true }),
    most: fc.double({ min: 0.1, max: 5, noNaN: true }),
    astern: fc.constantFrom(0, 0.6, 1),
  });
  const built = (l: { at: { x: number; y: number }; turn: number; most: number; astern: number }[]) =>
    l.map((d) => driver(d.at, { x: Math.cos(d.turn), y: Math.sin(d.turn) }, { most: d.most, astern: d.astern }));
  it("alone is never more than with others, dead never more than alive, twice the thrust twice as much", () => {
    fc.assert(
      fc.property(fc.array(any, { minLength: 1, maxLength: 5 }), (list) => {
        const drivers = built(list);
        const c = commands(drivers, ORIGIN, held);
        const less = commands(drivers, ORIGIN, held, 0);
        const twice = commands(
          drivers.map((d) => ({ ...d, most: 2 * d.most })),
          ORIGIN,
          held,
        );
        for (const axis of SIX)
          for (const way of ["plus", "minus"] as const) {
            expect(c[axis].alone[way]).toBeLessThanOrEqual(c[axis].coupled[way] + 1e-4);
            // What the solver of the programme leaves over.
            expect(less[axis].alone[way]).toBeLessThanOrEqual(c[axis].alone[way] + 1e-4);
            expect(less[axis].coupled[way]).toBeLessThanOrEqual(c[axis].coupled[way] + 1e-6);
            expect(twice[axis].alone[way]).toBeCloseTo(2 * c[axis].alone[way], 3);
          }
      }),
      { numRuns: 60 },
    );
  });
  it("mirrored, what turned to starboard turns to port", () => {
    fc.assert(
      fc.property(fc.array(any, { minLength: 1, maxLength: 4 }), (list) => {
        const drivers = built(list);
        const mirror = drivers.map((d) => ({
          ...d,
          at: { ...d.at, y: -d.at.y },
          toward: { ...d.toward, y: -d.toward.y },
        }));
        const [a, b] = [commands(drivers, ORIGIN, held), commands(mirror, ORIGIN, held)];
        expect(b.yaw.alone.plus).toBeCloseTo(a.yaw.alone.minus, 6);
        expect(b.sway.coupled.plus).toBeCloseTo(a.sway.coupled.minus, 9);
        expect(b.surge.alone.plus).toBeCloseTo(a.surge.alone.plus, 6);
      }),
      { numRuns: 60 },
    );
  });
  it("no throttles drawn at random do more on an axis than the programme says", () => {
    fc.assert(
      fc.property(
        fc.array(any, { minLength: 2, maxLength: 4 }),
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 4, maxLength: 4 }),
        (list, shares) => {
          const drivers = built(list);
          const c = commands(drivers, ORIGIN, held);
          const sum = (axis: SixAxis) =>
            drivers.reduce(
              (s, d, k) => s + (-d.astern + (shares[k] ?? 0) * (1 + d.astern)) * sixOf(d, ORIGIN)[axis],
              0,
            );
          for (const axis of ["surge", "sway", "yaw"] as const) {
            const v = sum(axis);
            expect(v).toBeLessThanOrEqual(c[axis].coupled.plus + 1e-6);
            expect(-v).toBeLessThanOrEqual(c[axis].coupled.minus + 1e-6);
          }
        },
      ),
      { numRuns: 100 },
    );
  });
});

describe("a line of the board", () => {
  const torque = (value: number, sd = 0) => [{ what: "torque" as const, value, sd }];
  it.each([
    [0.4, 0, 1, 0, "holds"],
    [0.5, 0, 1, 0, "holds"],
    [0.51, 0, 1, 0, "thin"],
    [0.45, 0.1, 1, 0, "thin"],
    [0.45, 0, 1, 0.2, "thin"],
    [1.0, 0, 1, 0, "thin"],
    [1.01, 0, 1, 0, "lost"],
    [-1.01, 0, 1, 0, "lost"],
    [0, 0, 1, 0, "holds"],
    [0, 0, 0, 0, "lost"],
  ])("%s ± %s against %s ± %s: %s", (d, sd, a, asd, expected) => {
    expect(lineOf("roll", torque(d, sd), { value: a, sd: asd }, []).word).toBe(expected);
  });
  it("without an answer it was never had; with an input that is not known it is open, whatever the numbers", () => {
    expect(lineOf("roll", torque(0), null, []).word).toBe("never had");
    expect(lineOf("roll", torque(0), { value: 1, sd: 0 }, ["the torque of a drive is not known"]).word).toBe("open");
    expect(HALF).toBe(0.5);
  });
});

describe("a craft on its wings at one speed", () => {
  const state = (change: Partial<WingedState> = {}): WingedState => ({
    pressure: 100,
    weight: 10,
    thrust: { value: 8, sd: 0 },
    drag: 2,
    most: false,
    waves: null,
    torque: { value: -0.2, sd: 0.02 },
    arm: { over: { value: 0.1, sd: 0 }, beside: { value: 0.02, sd: 0 } },
    cgAcross: { value: 0.005, sd: 0.001 },
    cgAlong: 0.002,
    roll: { value: 0.01, sd: 0.001 },
    yaw: { value: 0.004, sd: 0.0004 },
    pitch: { perRad: { value: 0.05, sd: 0.005 }, up: 0.3, down: 0.2 },
    ...change,
  });
  const line = (s: WingedState, axis: "roll" | "pitch" | "yaw") => {
    const found = linesOf(s).find((l) => l.axis === axis);
    if (!found) throw new Error(axis);
    return found;
  };
  it("roll: the torque and the CG beside the middle add with their signs", () => {
    const roll = line(state(), "roll");
    // −0.2 N·m + 10 N · 5 mm = −0.15 N·m against 100 Pa · 0.01 m³ = 1 N·m.
    expect(roll.disturbs.reduce((s, p) => s + p.value, 0)).toBeCloseTo(-0.15, 12);
    expect(roll.answer?.value).toBeCloseTo(1, 12);
    expect(roll.share).toBeCloseTo(0.15, 12);
    expect(roll.word).toBe("holds");
  });
  it("pitch: thrust above the CG beyond the drag pushes the nose down, and the travel up answers", () => {
    const pitch = line(state(), "pitch");
    // −0.1 m · (8 − 2) N = −0.6 N·m; 100 Pa · 0.05 m³/rad · 0.3 rad = 1.5 N·m.
    expect(pitch.disturbs.find((p) => p.what === "thrust line")?.value).toBeCloseTo(-0.6, 12);
    expect(pitch.answer?.value).toBeCloseTo(1.5, 12);
    const below = line(state({ arm: { over: { value: -0.1, sd: 0 }, beside: { value: 0, sd: 0 } } }), "pitch");
    expect(below.answer?.value).toBeCloseTo(1, 12);
    // With the throttle closed the drag is no longer carried: the nose rises where thrust was above.
    const closed = line(state({ thrust: { value: 0, sd: 0 }, torque: { value: 0, sd: 0 } }), "pitch");
    expect(closed.disturbs.find((p) => p.what === "thrust line")?.value).toBeCloseTo(0.2, 12);
  });
  it("yaw: thrust to starboard of the CG turns the nose to port", () => {
    expect(line(state(), "yaw").disturbs[0]?.value).toBeCloseTo(-0.16, 12);
    expect(line(state({ thrust: { value: 0, sd: 0 } }), "yaw").disturbs).toEqual([]);
  });
  it("trim that has used up the travel leaves nothing: lost, not thin", () => {
    expect(line(state({ pitch: { perRad: { value: 0.05, sd: 0 }, up: -0.01, down: 0.4 } }), "pitch").word).toBe("lost");
  });
  it("open where the torque, the thrust, the drives' places or the places across are not known", () => {
    expect(line(state({ torque: null }), "roll").word).toBe("open");
    expect(line(state({ cgAcross: null }), "roll").word).toBe("open");
    expect(line(state({ thrust: null }), "pitch").word).toBe("open");
    expect(line(state({ arm: null }), "yaw").word).toBe("open");
    expect(line(state({ arm: null, thrust: { value: 0, sd: 0 } }), "yaw").word).toBe("holds");
  });
  it("with the thrust of the stand alone: what holds, holds at less; what does not is open", () => {
    const strong = { arm: { over: { value: 0.3, sd: 0 }, beside: { value: 0, sd: 0 } } };
    expect(line(state(strong), "pitch").word).toBe("lost");
    expect(line(state({ ...strong, most: true }), "pitch").word).toBe("open");
    expect(line(state({ most: true }), "roll").word).toBe("holds");
  });
});

describe("how thrust falls with speed", () => {
  const solvedOf = (d: Design) => {
    const o = evaluate(d, {}, null).outcomes[falling.name];
    if (o?.status !== "solved") throw new Error(JSON.stringify(o));
    return o.result as FallingResult;
  };
  it("between the speeds that were solved is within a hundredth of the drive solved there", () => {
    const d = quietDesign();
    const table = solvedOf(d);
    const setup = plainSetup(d);
    const thrust = (v: number) => {
      const s = solveAll(setup, 1, v, [0]);
      if (s.status !== "converged") throw new Error(s.status);
      return s.points[0] ?? { thrust: 0, torque: 0 };
    };
    for (const v of [0, 3, 7.5, 12.5, 16]) {
      const [told] = fallenAt(table, v);
      expect((told?.thrust ?? 0) - Math.max(0, thrust(v).thrust) / thrust(0).thrust, `${v}`).toBeCloseTo(0, 1.6);
      expect(Math.abs((told?.torque ?? 0) - Math.max(0, thrust(v).torque) / thrust(0).torque)).toBeLessThan(0.02);
    }
  });
  it("is one standing, falls all the way, and is nothing far beyond the pitch speed", () => {
    const { speeds, drives } = solvedOf(quietDesign());
    const [d] = drives;
    expect(d?.[0]).toEqual({ thrust: 1, torque: 1 });
    for (const [k, now] of (d ?? []).entries())
      if (k > 0) expect(now.thrust).toBeLessThanOrEqual((d?.[k - 1]?.thrust ?? 0) + 1e-9);
    // 1000 rpm/V on 11.4 V, pitch 0.11 m: about 21 m/s without slip.
    expect(fallenAt({ speeds, drives }, 35)[0]?.thrust).toBe(0);
    expect(fallenAt({ speeds, drives }, 900)[0]).toEqual(d?.at(-1));
    expect(fallenAt({ speeds, drives }, -3)[0]).toEqual(d?.[0]);
  });
  it("is not told of what was measured standing only, nor of what does not fly on wings", () => {
    const d = quietDesign();
    d.states = [usualState("hull")];
    expect(evaluate(d, {}, null).outcomes[falling.name]?.status).toBe("not covered");
  });
});

describe("a rudder", () => {
  const withFins = (twin: boolean) => {
    const d = quietDesign();
    winged(d);
    const fin = d.surfaces.at(-1);
    if (!fin) throw new Error("no fin");
    fin.controls = [{ id: "r", name: "Rudder", does: ["yaw"], from: 0, to: 1, chord: 0.4, up: 0.35, down: 0.35 }];
    if (twin) {
      fin.mirrored = true;
      fin.at.y = 0.12;
    }
    const l = resultIn(evaluate(d, {}, null), lattice);
    if (!l) throw new Error("no lattice");
    return l;
  };
  it("alone on the fin, or one on each of two, turns the nose; two do more than one", () => {
    const [one, two] = [withFins(false), withFins(true)];
    expect(one.yawTravel).toBeCloseTo(0.35, 9);
    const mz = (l: typeof one) => Math.abs(l.yawControl?.mz ?? 0);
    expect(mz(one)).toBeGreaterThan(1e-4);
    expect(mz(two) / mz(one)).toBeGreaterThan(1.5);
    expect(mz(two) / mz(one)).toBeLessThan(2.2);
    // It pushes sideways behind the CG: force and moment have the arm of the fin.
    expect(Math.abs((one.yawControl?.mz ?? 0) / (one.yawControl?.y ?? 1))).toBeGreaterThan(0.55);
    expect(Math.abs((one.yawControl?.mz ?? 0) / (one.yawControl?.y ?? 1))).toBeLessThan(0.8);
  });
  it("that is not there was never had", () => {
    const d = quietDesign();
    winged(d);
    const l = resultIn(evaluate(d, {}, null), lattice);
    expect(l?.yawControl).toBeNull();
  });
});

describe("the board of a whole craft", () => {
  const boardOf = (d: Design) => {
    const e = evaluate(d, { parentMass: null });
    return { result: resultIn(e, axes), outcome: e.outcomes.axes, codes: e.findings.map((f) => f.code) };
  };
  const wing = (change: (d: Design) => void = () => {}) => {
    const d = quietDesign();
    winged(d);
    change(d);
    return boardOf(d);
  };
  it("says nothing for certain while wings may be missing", () => {
    const { result } = wing((d) => {
      d.flight.whole = false;
    });
    if (result?.kind !== "wings") throw new Error("no board");
    for (const m of result.moments)
      for (const l of m.lines) expect(["open", "never had"], `${m.moment} ${l.axis}`).toContain(l.word);
    for (const m of result.moments) expect(m.gust).toEqual({ roll: null, yaw: null, up: null });
  });
  it("faster let go, every answer is the square of it", () => {
    const at = (speed: number) => {
      const { result } = wing((d) => {
        d.flight.launchSpeed = { value: speed, evidence: "measured" };
      });
      if (result?.kind !== "wings") throw new Error("no board");
      const found = result.moments.find((m) => m.moment === "let go");
      if (!found) throw new Error("no moment");
      return found;
    };
    const [slow, fast] = [at(20), at(40)];
    const answer = (m: typeof slow, axis: string) => m.lines.find((l) => l.axis === axis)?.answer?.value ?? Number.NaN;
    for (const axis of ["roll", "yaw"]) {
      const [a, b] = [answer(slow, axis), answer(fast, axis)];
      if (Number.isFinite(a)) expect(b / a).toBeCloseTo(4, 6);
    }
    expect(fast.speed).toBe(40);
  });
  it("in cruise it is pushed by its drag there, and its controls have the square of its speed", () => {
    const { result } = boardOf(demoFile("tern").versions.at(-1)?.design as Design);
    if (result?.kind !== "wings") throw new Error("no board");
    const of = (moment: string) => {
      const found = result.moments.find((m) => m.moment === moment);
      if (!found) throw new Error(moment);
      return found;
    };
    const [slow, cruise] = [of("slow"), of("cruise")];
    expect(cruise.speed).toBeGreaterThan(1.1 * slow.speed);
    const yaw = (m: typeof slow) => m.lines.find((l) => l.axis === "yaw")?.answer?.value ?? Number.NaN;
    expect(yaw(cruise) / yaw(slow)).toBeCloseTo((cruise.speed / slow.speed) ** 2, 6);
    const torque = (m: typeof slow) =>
      Math.abs(m.lines.find((l) => l.axis === "roll")?.disturbs.find((p) => p.what === "torque")?.value ?? Number.NaN);
    // Level at the least drag: no more thrust than slow, and less than all of it.
    expect(torque(cruise)).toBeLessThanOrEqual(torque(slow) * 1.001);
    expect(torque(cruise)).toBeLessThan(torque(of("let go")));
  });
  it("has no cruise of its own where it glides farthest hardly faster than slow", () => {
    const { result } = wing((d) => {
      d.dragArea = { value: 0.2, evidence: "measured" };
    });
    if (result?.kind !== "wings") throw new Error("no board");
    expect(result.moments.map((m) => m.moment)).not.toContain("cruise");
  });
  // By hand: a wing loading of 60 N/m² at 13 m/s, 1.3 × its stall speed, slope 5 in standard air: Δn = 0.69 =
  // ρ·V·a·w / (2·W/S) (sharp-edged gust, NACA TR 997), w = 1.04 m/s.
  it("is stalled by the gust from below that takes what is left of its lift", () => {
    const pressure = (1.225 * 13 ** 2) / 2;
    expect(gustThatStalls(60, { speed: 13, stall: 10, pressure, lift: 5 })).toBeCloseTo(1.04, 2);
    expect(gustThatStalls(60, { speed: 10, stall: 10, pressure, lift: 5 })).toBe(0);
  });
  it("holds the side gust whose slip takes its control, and tells no more than straight lines hold for", () => {
    const gust = sideGust(1, 0.1, 50, 12);
    expect(50 * 0.1 * 1.2 * Math.atan(gust.speed / 12)).toBeCloseTo(1, 9);
    expect(gust.more).toBe(false);
    expect(sideGust(100, 0.1, 50, 12)).toEqual({ speed: 12 * Math.tan(Math.PI / 12), more: true });
    expect(sideGust(1, 0, 50, 12).more).toBe(true);
    expect(sideGust(-1, 0.1, 50, 12)).toEqual({ speed: 0, more: false });
  });
  it("with more dihedral less of a side gust is held about roll; without a roll control none", () => {
    const at = (dihedral: number, ailerons = true) => {
      const { result } = wing((d) => {
        d.units = [];
        d.duty = [];
        const main = d.surfaces.find((s) => s.id === "wing");
        if (!main) throw new Error("no wing");
        main.panels = [{ span: 0.55, chord: 0.2, sweep: 0, dihedral, twist: 0 }];
        if (ailerons)
          main.controls = [
            { id: "a", name: "Aileron", does: ["roll"], from: 0.5, to: 1, chord: 0.25, up: 0.1, down: 0.1 },
          ];
      });
      if (result?.kind !== "wings") throw new Error("no board");
      return result.moments.find((m) => m.moment === "slow") ?? null;
    };
    const [little, much] = [at(0.1)?.gust?.roll, at(0.3)?.gust?.roll];
    expect(much?.speed ?? 99).toBeLessThan(little?.speed ?? 0);
    const none = at(0.1, false);
    expect(none?.gust?.roll).toBeNull();
    if (none) expect(gustText(none, "metric")).toMatch(/no roll control is there to hold one.*from below \d/);
  });
  it("a thrust line far above the CG takes the pitch control when it is let go, and is said", () => {
    const high = (z: number) =>
      wing((d) => {
        const [u] = d.units;
        if (!u) throw new Error("no unit");
        u.direction = "ahead";
        u.count = 1;
        u.places = [{ at: { x: 0.1, y: 0, z }, toward: { x: -1, y: 0, z: 0 } }];
      });
    const share = (b: ReturnType<typeof boardOf>) => {
      if (b.result?.kind !== "wings") throw new Error(JSON.stringify(b.outcome));
      return b.result.moments[0]?.lines.find((l) => l.axis === "pitch")?.share ?? Number.NaN;
    };
    const [low, tall] = [high(0.1), high(0.9)];
    expect(share(tall)).toBeGreaterThan(1);
    expect(share(low)).toBeLessThan(share(tall));
    expect(tall.codes).toContain("axis-lost");
    expect(low.codes).not.toContain("axis-lost");
  });
  it.each([
    ["samphire", "surge", "both ways"],
    ["samphire", "yaw", "both ways"],
    ["samphire", "sway", "never had"],
    ["lantern", "heave", "both ways"],
    ["lantern", "yaw", "both ways"],
  ] as [string, SixAxis, string][])("%s: %s is commanded %s", (name, axis, expected) => {
    const { result } = boardOf(demoFile(name).versions.at(-1)?.design as Design);
    if (result?.kind !== "drives") throw new Error("no board");
    expect(result.lines.find((l) => l.axis === axis)?.word).toBe(expected);
  });
  it("a part without a place leaves the board open, and names it", () => {
    const { outcome } = boardOf(demoFile("gannet").versions[0]?.design as Design);
    expect(outcome).toEqual({ status: "missing", needs: [expect.stringMatching(/Bilge pump/)] });
  });
  it("is not told of what hangs on its drives, or flaps", () => {
    const d = quietDesign();
    for (const way of ["rotors", "flapping"] as const) {
      d.states = [usualState(way)];
      expect(boardOf(structuredClone(d)).outcome?.status).toBe("not covered");
    }
  });
});
