import { describe, expect, it } from "vitest";
import { inState } from "../../core/design/inState";
import type { Design } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { axes } from "../../core/subjects/axes/node";
import { lattice } from "../../core/subjects/flight/latticeNode";
import { floats } from "../../core/subjects/floats/node";
import { inWave, waveRate, waves } from "../../core/subjects/waves/node";
import { demoFile } from "../support/demo";
import { quietDesign } from "../support/designs";
import { onHull } from "../support/rules/floats";

/** The demo's trimaran on its foils, in these waves (m). */
const foiling = (height?: number, length?: number, change: (d: Design) => void = () => {}) => {
  const design = demoFile("gannet").versions.at(-1)?.design;
  if (!design) throw new Error("no version");
  const d = structuredClone(inState(design, design.states[1]?.id));
  Object.assign(d.brief.environment, { waveHeight: height, waveLength: length });
  change(d);
  const e = evaluate(d, {}, null);
  return {
    d,
    outcome: e.outcomes.waves,
    r: resultIn(e, waves),
    l: resultIn(e, lattice),
    board: resultIn(e, axes),
    find: (code: string) => e.findings.find((f) => f.code === code),
  };
};
const told = (x: ReturnType<typeof foiling>) => {
  if (!x.r?.foils || !x.l) throw new Error(JSON.stringify(x.outcome));
  return { ...x, f: x.r.foils, l: x.l };
};

describe("waves in deep water", () => {
  it("of 8 s are 100 m long, of 4 s 25 m (L = 1.56·T², tables of seamanship)", () => {
    for (const period of [4, 8]) expect((2 * Math.PI) / waveRate(1.56 * period ** 2)).toBeCloseTo(period, 2);
  });
  it("that are not named leave it open; that would break are refused; flat water does nothing", () => {
    expect(foiling().outcome).toMatchObject({ status: "missing" });
    expect(foiling(0.1).outcome).toMatchObject({ status: "missing" });
    expect(foiling(0.2, 1).outcome).toMatchObject({ status: "failed" });
    expect(foiling(0.14, 1).outcome?.status).toBe("solved");
    const { f } = told(foiling(0, 3));
    expect([f.flow, f.lift.value, f.pitch.value, f.roll.value]).toEqual([0, 0, 0, 0]);
  });
  it("concern what the water's surface carries, and nothing in the air or below", () => {
    const air = quietDesign();
    Object.assign(air.brief.environment, { waveHeight: 0.1, waveLength: 2 });
    expect(evaluate(air, {}, null).outcomes.waves?.status).toBe("not covered");
  });
});

describe("foils in waves", () => {
  it("in very long ones lift as in an even flow from below", () => {
    const { l } = told(foiling(0.1, 3));
    const even = inWave(
      l,
      { length: 1e5, waterline: 0 },
      (s) => s.x,
      () => 1,
    );
    expect(even / l.model.alpha.z).toBeGreaterThan(0.97);
    expect(even / l.model.alpha.z).toBeLessThan(1.03);
  });
  it("of half a crest apart: one foil is lifted as the other is let down, so that it pitches", () => {
    const { l, d, f } = told(foiling(0.02, 40));
    const by = (surface: number) => {
      const own = l.strips.flatMap((s, i) =>
        s.surface === surface && Math.abs(s.ty) > 0.5
          ? [{ x: s.x, z: s.z, lift: (l.model.strips[i]?.alpha ?? 0) * s.chord * s.width * Math.abs(s.ty) }]
          : [],
      );
      const lift = own.reduce((sum, o) => sum + o.lift, 0);
      return { lift, x: own.reduce((sum, o) => sum + o.x * o.lift, 0) / lift, z: own[0]?.z ?? 0 };
    };
    const both = [...new Set(l.strips.filter((s) => Math.abs(s.ty) > 0.5).map((s) => s.surface))].map(by);
    const [a, b] = both.toSorted((p, q) => q.lift - p.lift);
    if (!a || !b) throw new Error("two foils");
    const waterline = d.flight.waterline?.value ?? 0;
    const length = 2 * Math.abs(a.x - b.x);
    const k = (2 * Math.PI) / length;
    const deep = (o: { z: number }) => Math.exp(-k * (waterline - o.z));
    const lift = inWave(
      l,
      { length, waterline },
      (s) => s.x,
      () => 1,
    );
    // By hand: two foils, each as a whole in the flow of its own place.
    expect(Math.abs(lift / Math.abs(a.lift * deep(a) - b.lift * deep(b)) - 1)).toBeLessThan(0.1);
    const pitch = inWave(
      l,
      { length, waterline },
      (s) => s.x,
      (s) => s.x - (a.x + b.x) / 2,
    );
    expect(pitch / ((a.lift * deep(a) + b.lift * deep(b)) * (length / 4))).toBeCloseTo(1, 1);
    expect(f.meets).toBeCloseTo((f.speed + Math.sqrt((9.80665 * 40) / (2 * Math.PI))) / 40, 6);
  });
  it("twice as high do twice as much; faster they do less beside the weight that the foils carry then", () => {
    const [low, high] = [told(foiling(0.02, 3)).f, told(foiling(0.04, 3)).f];
    expect(high.lift.value / low.lift.value).toBeCloseTo(2, 9);
    expect(high.flow / low.flow).toBeCloseTo(2, 9);
    // At the surface a·ω, and by e^(−kd) less at its depth (Airy).
    const { l } = told(foiling(0.04, 3));
    expect(high.flow).toBeCloseTo(0.02 * waveRate(3) * Math.exp((-2 * Math.PI * (l.depth ?? 0)) / 3), 9);
  });
  it("stand on the board about roll and pitch, the way that is answered worse", () => {
    const of = (x: ReturnType<typeof foiling>) => {
      if (x.board?.kind !== "wings") throw new Error("no board");
      return x.board.moments.flatMap((m) => m.lines);
    };
    expect(of(foiling()).some((o) => o.disturbs.some((p) => p.what === "waves"))).toBe(false);
    const x = told(foiling(0.06, 3));
    for (const line of of(x).filter((o) => o.axis !== "yaw")) {
      const piece = line.disturbs.find((p) => p.what === "waves");
      expect(Math.abs(piece?.value ?? 0)).toBeCloseTo(x.f[line.axis === "pitch" ? "pitch" : "roll"].value, 9);
      const calm = line.disturbs.filter((p) => p !== piece).reduce((s, p) => s + p.value, 0);
      if (line.axis === "roll") expect((piece?.value ?? 0) * calm).toBeGreaterThanOrEqual(0);
    }
    expect(
      of(x)
        .find((o) => o.axis === "yaw")
        ?.disturbs.some((p) => p.what === "waves"),
    ).toBe(false);
  });
  it("whose trough is lower than the water over a foil uncover it", () => {
    const { f } = told(foiling(0.02, 5));
    expect(f.cover.value).toBeGreaterThan(0.02);
    expect(foiling(1.9 * f.cover.value, 8).find("wave-uncovers")).toBeUndefined();
    expect(foiling(2.1 * f.cover.value, 8).find("wave-uncovers")?.severity).toBe("care");
  });
});

describe("how a hull rocks by itself", () => {
  it("is 2π·√(1.25·I/(m·g·GM)), by hand; not told of what rolls over", () => {
    const at = (wide: number, high: number, long = 0.6) => {
      const d = quietDesign();
      onHull(long, wide, high)(d);
      Object.assign(d.brief.environment, { waveHeight: 0.05, waveLength: 3 });
      return evaluate(d, {}, null);
    };
    const e = at(0.2, 0.1);
    const gm = resultIn(e, floats)?.level?.upright?.roll.gm.value ?? Number.NaN;
    const { auw, inertiaRoll } = e.metrics;
    const byHand = 2 * Math.PI * Math.sqrt((1.25 * (inertiaRoll?.value ?? 0)) / ((auw?.value ?? 0) * 9.80665 * gm));
    expect(resultIn(e, waves)?.hull?.rocks?.value).toBeCloseTo(byHand, 9);
    expect(resultIn(at(0.05, 0.12, 0.9), waves)?.hull?.rocks).toBeNull();
  });
});

describe("a hull in waves", () => {
  const hull = (height: number, length: number) => {
    const d = quietDesign();
    onHull(0.6, 0.1, 0.06)(d);
    Object.assign(d.brief.environment, { waveHeight: height, waveLength: length });
    const e = evaluate(d, {}, null);
    return { r: resultIn(e, waves), e, find: (code: string) => e.findings.find((f) => f.code === code) };
  };
  it("leans with the water at the most: π·H/L, and stands as high over it as its box less its draught", () => {
    const { r, e } = hull(0.05, 1);
    expect(r?.hull?.slope).toBeCloseTo((Math.PI * 0.05) / 1, 9);
    const draught = (e.metrics.auw?.value ?? 0) / (999.1 * 0.06);
    expect(r?.hull?.freeboard?.value).toBeCloseTo(0.06 - draught, 3);
  });
  it("a pod under it and a point at its end have no edge that a wave goes over", () => {
    const d = quietDesign();
    onHull(0.6, 0.1, 0.06)(d);
    Object.assign(d.brief.environment, { waveHeight: 0.02, waveLength: 2 });
    const edge = () => resultIn(evaluate(structuredClone(d), {}, null), waves)?.hull?.freeboard?.value;
    const before = edge() ?? 0;
    const [hull] = d.bodies;
    if (!hull) throw new Error("no hull");
    hull.frames.push({
      ...hull.frames[2],
      x: (hull.frames[2]?.x ?? 0) + 0.02,
      z: 0.01,
      width: 0.002,
      height: 0.002,
    } as never);
    const pod = hull.frames.slice(0, 2).map((f) => ({ ...f, z: -0.05, width: 0.01, height: 0.01 }));
    d.bodies.push({ ...hull, id: "pod", name: "Pod", frames: pod });
    expect(edge()).toBeGreaterThan(before - 0.002);
    expect(edge()).toBeLessThan(before + 0.01);
  });
  it("is washed over where half their height is more than that", () => {
    const freeboard = hull(0.05, 2).r?.hull?.freeboard?.value ?? 0;
    expect(hull(1.9 * freeboard, 2).find("wave-washes")).toBeUndefined();
    expect(hull(2.2 * freeboard, 2).find("wave-washes")?.severity).toBe("care");
  });
});
