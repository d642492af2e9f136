import { describe, expect, it } from "vitest";
import type { Design } from "../../core/design/schema";
import { tryPatch } from "../../core/design/patch";
import { evaluate, remediesFor, resultIn } from "../../core/evaluate";
import { GRAVITY } from "../../core/subjects/air/air";
import { lattice } from "../../core/subjects/flight/latticeNode";
import { trimAt } from "../../core/subjects/flight/trim";
import { flight } from "../../core/subjects/flight/node";
import { keepsUp } from "../../core/subjects/powered/keepsUp";
import { groundRun } from "../../core/subjects/liftoff/node";
import { powered } from "../../core/subjects/powered/node";
import { levelDragAt } from "../../core/subjects/propulsion/levelDrag";
import { type Around, blankAround } from "../../core/subjects/propulsion/around/declares";
import { dragAreaFrom, liftCost } from "../../core/subjects/speed/dragArea";
import { enduranceOf, nominalSetup, solveAll, thrustOf } from "../../core/subjects/propulsion/nominal";
import { changed } from "../support/designs";
import { winged } from "../support/wings";

const known = (value: number) => ({ value, evidence: "measured" as const });
const flown = (change: (d: Design) => void = () => {}) =>
  changed((d) => {
    winged(d);
    change(d);
  });
const asked = (by: Design["duty"][number]["by"], value: number) =>
  flown((d) => {
    d.duty = d.duty.map((p) => ({ ...p, by, value }));
  });
const resultOf = (design: Design) => {
  const result = resultIn(evaluate(design), powered);
  if (!result) throw new Error("not solved");
  return result;
};

describe("drag of level flight", () => {
  const parabola = { c0: 0, c1: 0, c2: 0.6 };
  it(
    "is least where both halves are alike, as textbooks have it: D = 2·W·√(A·k), at q = W·√(k/A) " +
      "(Anderson 1999, chapter 5)",
    () => {
      const [area, weight] = [0.02, 9];
      const q = weight * Math.sqrt(parabola.c2 / area);
      const least = levelDragAt(parabola, area, q, weight);
      expect(least).toBeCloseTo(2 * weight * Math.sqrt(area * parabola.c2), 12);
      for (const share of [0.9, 1.1]) expect(levelDragAt(parabola, area, q * share, weight)).toBeGreaterThan(least);
    },
  );
  it("costs twice its induced half when the weight grows by √2", () => {
    const at = (weight: number) => levelDragAt(parabola, 0, 100, weight);
    expect(at(9 * Math.SQRT2) / at(9)).toBeCloseTo(2, 12);
  });
});

describe("a run along the ground", () => {
  it("of a steady push is m·v²/2F, and against a drag of k·v² m/2k·ln(F/(F − k·v²)) (closed forms)", () => {
    const [mass, force, speed, k] = [1.2, 3, 9, 0.02];
    expect(groundRun(() => force, mass, speed) / ((mass * speed ** 2) / (2 * force))).toBeCloseTo(1, 2);
    const closed = (mass / (2 * k)) * Math.log(force / (force - k * speed ** 2));
    expect(groundRun((v) => force - k * v * v, mass, speed) / closed).toBeCloseTo(1, 2);
  });
  it("that the push does not last for has no end", () => {
    expect(groundRun((v) => 3 - v, 1, 4)).toBe(Number.POSITIVE_INFINITY);
  });
  it("waits for how hard it pulls, grows with that and with the mass, and never ends where nothing is left", () => {
    const run = (rolling: number | null, more = 0) =>
      evaluate(
        flown((d) => {
          Object.assign(d.flight, { launch: "wheels", rolling: rolling === null ? null : known(rolling) });
          const hull = d.items.find((i) => i.id === "hull");
          if (hull?.mass) hull.mass.value += more;
        }),
      ).metrics.liftOffRun?.value;
    expect(run(null)).toBeUndefined();
    const [hard, grass, heavy] = [run(0.04), run(0.2), run(0.04, 0.3)];
    expect(hard).toBeGreaterThan(1);
    expect(grass).toBeGreaterThan(hard ?? 0);
    expect(heavy).toBeGreaterThan(1.5 * (hard ?? 0));
    expect(run(0.8)).toBeUndefined();
  });
});

describe("level flight under power", () => {
  const design = flown();
  const result = resultOf(design);
  it("is held at each speed by a throttle whose thrust is the drag there", () => {
    const setup = nominalSetup(design, null);
    if (!setup) throw new Error("no set-up");
    for (const p of result.points.filter((x) => x.throttle !== null)) {
      const s = solveAll(setup, p.throttle ?? 0, p.speed, setup.main);
      if (s.status !== "converged") throw new Error(s.status);
      expect(thrustOf(setup, s.points, setup.main) / p.drag).toBeCloseTo(1, 2);
    }
  });
  it("lasts as long as its energy at the power that it takes: two ways to the same time", () => {
    const { batteries } = design;
    const [b] = batteries;
    if (!b) throw new Error("no pack");
    for (const p of result.points.filter((x) => (x.seconds ?? 0) > 600)) {
      // Usable charge at the mean voltage of a lithium cell under a light load, 3.75 V (common practice).
      const joules = b.capacity.value * b.usable * b.series * 3.75 * 3600;
      expect((p.seconds ?? 0) / (joules / (p.power ?? 1))).toBeGreaterThan(0.9);
      expect((p.seconds ?? 0) / (joules / (p.power ?? 1))).toBeLessThan(1.1);
    }
  });
  it("ends where full thrust meets the drag, and that is the top speed", () => {
    const { speed } = evaluate(design).metrics;
    const last = result.points.findLast((p) => p.thrust >= p.drag);
    const next = result.points.find((p) => p.speed > (last?.speed ?? 0));
    expect(speed?.value).toBeGreaterThan(last?.speed ?? 0);
    expect(speed?.value).toBeLessThan(next?.speed ?? 0);
  });
  it(
    "goes farthest faster than it lasts longest (Anderson 1999: best range above best endurance for " + "propellers)",
    () => {
      expect(result.range?.speed).toBeGreaterThan(result.time?.speed ?? Number.POSITIVE_INFINITY);
    },
  );
  it("climbs by what thrust has over drag: (T − D)·v/W", () => {
    const best = Math.max(...result.points.map((p) => ((p.thrust - p.drag) * p.speed) / result.weight));
    expect((result.climb?.is.value ?? 0) / best).toBeGreaterThan(0.995);
    expect((result.climb?.is.value ?? 0) / best).toBeLessThan(1.02);
  });
  it("of more mass lasts shorter, climbs slower, and needs a longer pack: each is monotone", () => {
    const at = [0, 0.2, 0.5].map((more) => {
      const { levelTime, climbRate } = evaluate(
        flown((d) => {
          const hull = d.items.find((i) => i.id === "hull");
          if (hull?.mass) hull.mass.value += more;
        }),
      ).metrics;
      return [levelTime?.value ?? 0, climbRate?.value ?? 0];
    });
    for (const k of [0, 1]) {
      expect(at[0]?.[k]).toBeGreaterThan(at[1]?.[k] ?? 0);
      expect(at[1]?.[k]).toBeGreaterThan(at[2]?.[k] ?? 0);
    }
  });
  it("near the ground tells no climb, and says why; a curve measured standing tells nothing", () => {
    const low = evaluate(flown((d) => void (d.flight.height = known(0.05))));
    expect(low.metrics.climbRate).toBeUndefined();
    expect(low.metrics.levelTime).toBeDefined();
    const still = evaluate(
      flown((d) => {
        const [u] = d.units;
        if (u) u.around = [{ ...blankAround("grille"), open: known(0.6) } as Around];
      }),
    );
    expect(still.outcomes.powered).toMatchObject({ status: "not covered" });
    expect(still.metrics.levelTime).toBeUndefined();
  });
  it("near the ground is no slower than what touches lets it turn nose up: by the angle of level flight there", () => {
    const low = (height: number) =>
      flown((d) => {
        d.bodies[0]?.frames.push({ x: 0.7, z: 0.02, width: 0.03, height: 0.03 });
        d.flight.height = known(height);
        d.dragArea = known(0.006);
      });
    const design = low(0.003);
    const e = evaluate(design);
    const f = resultIn(e, flight);
    if (!f?.touches || !f.at || f.slowest === null) throw new Error("not solved");
    // The trim of level flight at that speed has just the angle at which the tail end touches (no couple of thrust).
    const l = resultIn(e, lattice);
    const trim = l && trimAt(l, { ...f.at, thrust: null }, f.slowest.value);
    expect(trim?.alpha).toBeCloseTo(f.touches.clear, 6);
    // A height that is less well known leaves it less well known: by a step in the height itself.
    const step = resultIn(evaluate(low(0.003 + 0.001)), flight)?.slowest?.value ?? 0;
    const doubtful = low(0.003);
    doubtful.flight.height = { value: 0.003, sd: 0.001, evidence: "measured" };
    const sd = resultIn(evaluate(structuredClone(doubtful)), flight)?.slowest?.sd ?? 0;
    expect(sd / (f.slowest.value - step)).toBeGreaterThan(0.7);
    expect(sd / (f.slowest.value - step)).toBeLessThan(1.3);
    expect(f.slowest.value).toBeGreaterThan(1.2 * (f.values.stallSpeed?.value ?? 0));
    const result = resultOf(design);
    expect(Math.min(...result.points.flatMap((p) => (p.seconds === null ? [] : [p.speed])))).toBeCloseTo(
      f.slowest.value,
      6,
    );
    expect(result.time?.speed).toBeGreaterThanOrEqual(f.slowest.value);
    expect(result.range?.speed).toBeGreaterThanOrEqual(f.slowest.value);
    // A duty between the stall and that speed is not flown, and it is said why.
    const between = structuredClone(design);
    between.duty = between.duty.map((p) => ({ ...p, by: "speed" as const, value: 0.97 * (f.slowest?.value ?? 0) }));
    expect(JSON.stringify(evaluate(between).outcomes.energy)).toMatch(/so nose up that “body” touches the ground/);
    // By less than twice the doubt below it, it may be flown: computed, and open.
    const near = structuredClone(doubtful);
    near.duty = near.duty.map((p) => ({ ...p, by: "speed" as const, value: (f.slowest?.value ?? 0) - sd }));
    const maybe = evaluate(near);
    expect(maybe.metrics.endurance?.incomplete?.join()).toMatch(/so nose up that “body” touches/);
    expect(maybe.targets.find((t) => t.target.metric === "endurance")?.status).toBe("open");
    // What full throttle reaches is told, and open where it is slower than that: a craft that was timed so flew so.
    const slowest = f.slowest.value;
    const slow = [0.02, 0.03, 0.04, 0.05, 0.06, 0.07, 0.08, 0.1]
      .map((area) => evaluate({ ...structuredClone(design), dragArea: known(area) }))
      .find((x) => (x.metrics.speed?.value ?? slowest) < slowest);
    if (!slow) throw new Error("none is so slow");
    expect(slow.metrics.speed?.incomplete?.join()).toMatch(/at its top speed .* “body” touches/);
    expect(slow.metrics.levelTime).toBeUndefined();
    // With wings set nose down and its tail end on the ground, none is.
    const down = low(0);
    for (const s of down.surfaces.slice(0, 1)) s.incidence = -0.12;
    for (const b of down.bodies) for (const frame of b.frames.slice(-1)) frame.z = 0;
    expect(evaluate(structuredClone(down)).outcomes.powered).toMatchObject({
      status: "not covered",
      because: expect.stringMatching(/touches the ground at every angle/),
    });
  });
  it("rests on the CG: while a part has no place it is open", () => {
    const e = evaluate(
      flown((d) => {
        const [hull] = d.items;
        if (hull) hull.unplaced = ["x"];
      }),
    );
    expect(e.outcomes.powered).toMatchObject({ status: "missing", needs: ["mass and CG"] });
    expect(e.metrics.levelTime).toBeUndefined();
  });
});

describe("a duty at a speed on wings", () => {
  const lasts = (v: number, area: number | null = 0.006) =>
    evaluate(
      flown((d) => {
        d.duty = d.duty.map((p) => ({ ...p, by: "speed" as const, value: v }));
        d.dragArea = area === null ? null : known(area);
      }),
    );
  it("counts what carrying the weight costs: slower than its best it lasts no longer", () => {
    // By the drag area alone the slowest would last longest.
    const area = (v: number) => (1.225 / 2) * v * v * 0.006;
    expect(area(9)).toBeLessThan(area(12));
    const slow = lasts(9.2);
    // The same discharge against the area alone, as it was computed before.
    const alone = nominalSetup(
      flown((d) => {
        d.duty = d.duty.map((p) => ({ ...p, by: "speed" as const, value: 9.2 }));
        d.dragArea = known(0.006);
      }),
      slow.metrics.auw?.value ?? null,
    );
    const [pack] = alone?.packs ?? [];
    const before = alone && pack ? (enduranceOf(alone, pack)?.seconds ?? 0) : 0;
    expect(before).toBeGreaterThan(1.3 * (slow.metrics.endurance?.value ?? 0));
  });
  it("agrees with the table of level flight", () => {
    const e = lasts(12, null);
    const table = resultIn(e, powered)?.points ?? [];
    const [below, above] = [table.findLast((p) => p.speed <= 12), table.find((p) => p.speed > 12)];
    expect(e.metrics.endurance?.value).toBeLessThan(below?.seconds ?? 0);
    expect(e.metrics.endurance?.value).toBeGreaterThan(above?.seconds ?? Number.POSITIVE_INFINITY);
  });
  it("below its stall speed is not flown: not covered, and says which phase", () => {
    const e = lasts(5);
    expect(e.metrics.endurance).toBeUndefined();
    expect(JSON.stringify(e.outcomes.energy)).toMatch(/“cruise” for a speed below its stall speed/);
  });
  it("of a craft whose wings nobody described is open: what lift costs is not in its drag", () => {
    const e = evaluate(
      changed((d) => {
        d.duty = d.duty.map((p) => ({ ...p, by: "speed" as const, value: 12 }));
        d.dragArea = known(0.006);
      }),
    );
    expect(e.metrics.endurance?.incomplete?.join()).toMatch(/what carrying the weight costs/);
    expect(e.targets.find((t) => t.target.metric === "endurance")?.status).toBe("open");
  });
});

describe("a timed run on wings", () => {
  it("gives the area without what carrying the weight costs: put in, the speed comes out again", () => {
    const design = flown((d) => void (d.dragArea = known(0.006)));
    const before = evaluate(design);
    const v = before.metrics.speed?.value ?? 0;
    const lift = liftCost(resultIn(before, flight));
    const taken = dragAreaFrom(design, before.metrics.airDensity?.value ?? 0, 1, { value: v, sd: 0.1 }, lift);
    expect(taken?.value).toBeCloseTo(0.006, 5);
    // Counted as area, the lift's share would be in it twice.
    expect(dragAreaFrom(design, 1.225, 1, { value: v, sd: 0.1 })?.value).toBeGreaterThan(0.0061);
  });
});

describe("a duty that does not keep it up", () => {
  it(
    "on wings: a throttle below what level flight takes is told with the least that does, and its time is " + "open",
    () => {
      const e = evaluate(asked("throttle", 0.3));
      expect(resultIn(e, keepsUp)?.sinks).toMatchObject({ by: "wings" });
      expect(e.targets.find((t) => t.target.metric === "endurance")?.status).toBe("open");
      const least = resultIn(e, keepsUp)?.least ?? 0;
      expect(least).toBeGreaterThan(0.4);
      const held = evaluate(asked("throttle", Math.ceil(100 * least) / 100));
      expect(resultIn(held, keepsUp)?.sinks).toBeNull();
      expect(held.targets.find((t) => t.target.metric === "endurance")?.status).not.toBe("open");
    },
  );
  it("on rotors: it pushes less than the weight", () => {
    const hover = (by: "throttle" | "thrust", value: number) =>
      evaluate(
        changed((d) => {
          d.states = d.states.map((s) => ({ ...s, heldUpBy: ["rotors"] }));
          d.units = d.units.map((u) => ({ ...u, direction: "up" as const, count: 4 }));
          d.duty = d.duty.map((p) => ({ ...p, by, value }));
        }),
      );
    const weight = (hover("throttle", 1).metrics.auw?.value ?? 0) * GRAVITY;
    expect(resultIn(hover("throttle", 1), keepsUp)?.sinks).toBeNull();
    expect(resultIn(hover("throttle", 0.3), keepsUp)?.sinks).toMatchObject({ by: "rotors" });
    expect(resultIn(hover("thrust", 0.8 * weight), keepsUp)?.sinks).toMatchObject({ by: "rotors", share: 0.8 });
    expect(resultIn(hover("thrust", weight), keepsUp)?.sinks).toBeNull();
  });
  it("what shares the weight with wings need not push all of it; a speed alone carries nothing on rotors", () => {
    const by = (ways: ("rotors" | "wings")[], phase: "throttle" | "speed", value: number) =>
      evaluate(
        changed((d) => {
          d.states = d.states.map((s) => ({ ...s, heldUpBy: ways }));
          d.units = d.units.map((u) => ({ ...u, direction: "up" as const, count: 4 }));
          d.duty = d.duty.map((p) => ({ ...p, by: phase, value }));
          d.dragArea = known(0.01);
        }),
      );
    expect(resultIn(by(["rotors"], "throttle", 0.3), keepsUp)?.sinks).not.toBeNull();
    expect(resultIn(by(["rotors", "wings"], "throttle", 0.3), keepsUp)?.sinks).toBeNull();
    const fast = by(["rotors"], "speed", 8);
    expect(resultIn(fast, keepsUp)?.sinks).toMatchObject({ by: "rotors" });
    expect(fast.targets.find((t) => t.target.metric === "endurance")?.status).toBe("open");
  });
  it("a longer pack is sized against all that level flight costs", () => {
    const short = evaluate(
      flown((d) => {
        d.duty = d.duty.map((p) => ({ ...p, by: "speed" as const, value: 10 }));
        d.dragArea = known(0.006);
        for (const t of d.brief.targets) if (t.metric === "endurance") t.value = 5000;
      }),
    );
    const found = short.findings.find((f) => f.code === "endurance-short");
    if (!found) throw new Error("it lasts");
    const design = flown((d) => {
      d.duty = d.duty.map((p) => ({ ...p, by: "speed" as const, value: 10 }));
      d.dragArea = known(0.006);
      for (const t of d.brief.targets) if (t.metric === "endurance") t.value = 5000;
    });
    const [remedy] = remediesFor(design, short, found);
    const then = remedy?.patch && tryPatch(design, remedy.patch);
    expect(then && evaluate(then).metrics.endurance?.value).toBeGreaterThan(4950);
  });
  it("waiting on the ground in between is no flight, and a measured current is taken as it is", () => {
    const waits = flown((d) => {
      const [p] = d.duty;
      if (p)
        d.duty = [
          { ...p, by: "throttle", value: 0.7 },
          { ...p, id: "wait", by: "throttle", value: 0 },
        ];
    });
    expect(resultIn(evaluate(waits), keepsUp)?.sinks).toBeNull();
    expect(resultIn(evaluate(asked("current", 3)), keepsUp)?.sinks).toBeNull();
  });
  it("a thrust that costs less standing than in flight: longer than the longest level flight, its time is open", () => {
    const e = evaluate(asked("thrust", 0.7));
    expect(e.metrics.endurance?.value).toBeGreaterThan(1.1 * (e.metrics.levelTime?.value ?? 0));
    expect(e.targets.find((t) => t.target.metric === "endurance")?.status).toBe("open");
  });
});
