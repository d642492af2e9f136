import { describe, expect, it } from "vitest";
import { type Design, usualState } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { emptied } from "../../core/subjects/authority/emptied";
import { authority } from "../../core/subjects/authority/node";
import { fallenAt, falling } from "../../core/subjects/axes/falling";
import { axes } from "../../core/subjects/axes/node";
import { demoFile } from "../support/demo";
import { quietDesign } from "../support/designs";
import { known } from "../support/rules/change";
import { middle } from "../support/rules/hover";

const hover = (change: (d: Design) => void = () => {}) => {
  const d = quietDesign();
  middle(change)(d);
  const e = evaluate(d, {}, null);
  return {
    d,
    e,
    left: resultIn(e, emptied),
    r: resultIn(e, authority),
    found: e.findings.find((f) => f.code === "weak-emptied"),
  };
};
const heavier = (kg: number) => (d: Design) => {
  const hull = d.items.find((i) => i.id === "hull");
  if (!hull) throw new Error("no hull");
  hull.mass = known(kg);
};
const charged = (start: number, usable: number) => (d: Design) => {
  for (const b of d.batteries) Object.assign(b, { startCharge: start, usable });
};

describe("a hover with its pack nearly empty", () => {
  it("has the thrust of a craft that begins with what is left, and hovers as that does", () => {
    const full = hover(charged(1, 0.8));
    const low = hover(charged(0.2, 0.1));
    const ratio = (low.e.metrics.thrust?.value ?? 0) / (full.e.metrics.thrust?.value ?? 1);
    expect(full.left?.charge).toBeCloseTo(0.2, 9);
    expect(full.left?.left[0]).toBeCloseTo(ratio, 3);
    expect(full.r?.emptied?.hardest.value).toBeCloseTo(low.r?.hardest?.value ?? 0, 3);
    for (const turn of ["roll", "pitch"] as const)
      expect(full.r?.emptied?.reach[turn].plus).toBeCloseTo(low.r?.holding.reach[turn].plus ?? 0, 2);
  });
  it("loses thrust between the first power and the square of the volts of its cells (common practice 1.6 to 2)", () => {
    const { left } = hover(charged(1, 0.8));
    // Lithium polymer at rest: 4.2 V full, 3.7 to 3.8 V with a fifth left (handbooks).
    const [lowest, highest] = [(3.68 / 4.2) ** 2.2, (3.85 / 4.2) ** 1];
    expect(left?.left[0]).toBeGreaterThan(lowest);
    expect(left?.left[0]).toBeLessThan(highest);
  });
  it("is the harder the more of the pack is used, and never easier than full", () => {
    const at = (usable: number) => hover(charged(1, usable)).r?.emptied?.hardest.value ?? Number.NaN;
    const now = hover().r?.hardest?.value ?? 0;
    let before = now;
    for (const usable of [0.1, 0.3, 0.6, 0.9]) {
      expect(at(usable)).toBeGreaterThanOrEqual(before - 1e-9);
      before = at(usable);
    }
  });
  it("that nothing holds then is a stop, with the number beyond all of it", () => {
    const masses = [1, 1.4, 1.8, 2, 2.2, 2.4, 2.6].map((kg) => hover(heavier(kg)));
    const codes = masses.map((m) => m.found?.severity ?? null);
    expect(codes[0]).toBeNull();
    for (const m of masses) {
      const then = m.r?.emptied?.hardest;
      if (!then || !m.r?.hardest) continue;
      if (m.found?.severity === "stop") expect(then.value - then.sd).toBeGreaterThan(1);
      if (then.value < 0.85) expect(m.found).toBeUndefined();
    }
    expect(codes).toContain("stop");
  });
  it("of a craft on its wheels, or with a drive that is not known, nothing is told", () => {
    const driven = quietDesign();
    driven.states = [usualState("ground")];
    expect(evaluate(driven, {}, null).outcomes.emptied?.status).toBe("not covered");
    const unsaid = hover((d) => void (d.batteries = []));
    expect(unsaid.left).toBeNull();
    expect(unsaid.found).toBeUndefined();
  });
});

describe("on its wings with its pack nearly empty", () => {
  const flown = (change: (d: Design) => void = () => {}) => {
    const d = structuredClone(demoFile("tern").versions.at(-1)?.design);
    if (!d) throw new Error("no version");
    change(d);
    const e = evaluate(d, {}, null);
    const board = resultIn(e, axes);
    if (board?.kind !== "wings") throw new Error("no board");
    return { e, at: (moment: string) => board.moments.find((m) => m.moment === moment) };
  };
  it("full throttle pushes what is left of it, falling with speed as before; torque and thrust line go with it", () => {
    const { e, at } = flown();
    const [left, falls] = [resultIn(e, emptied), resultIn(e, falling)];
    const then = at("emptied");
    if (!left || !falls || !then?.left) throw new Error("no moment");
    const share = (left.left[0] ?? 0) * (fallenAt(falls, then.speed)[0]?.thrust ?? 0);
    expect(then.left.thrust.value).toBeCloseTo(share * (e.metrics.thrust?.value ?? 0), 6);
    expect(then.left.charge).toBe(left.charge);
    // At one speed, so that each is the thrust's share of what it is on a full pack.
    const full = flown((d) => void (d.batteries[0] && Object.assign(d.batteries[0], { usable: 1e-6 }))).at("emptied");
    const torque = (m: typeof then | undefined) =>
      m?.lines.find((l) => l.axis === "roll")?.disturbs.find((p) => p.what === "torque")?.value ?? Number.NaN;
    expect(torque(then) / torque(full)).toBeCloseTo(left.left[0] ?? 0, 3);
  });
  it("the more of the pack is used the less it pushes, and level flight takes the same", () => {
    const by = [0.2, 0.5, 0.8].map(
      (usable) => flown((d) => void (d.batteries[0] && Object.assign(d.batteries[0], { usable }))).at("emptied")?.left,
    );
    const pushes = by.map((l) => l?.thrust.value ?? Number.NaN);
    expect(pushes).toEqual(pushes.toSorted((a, b) => b - a));
    expect(new Set(by.map((l) => l?.drag.toFixed(9))).size).toBe(1);
  });
  it("of drives outside what their method holds for it is open, with the reason", () => {
    expect(flown().at("emptied")?.left?.open).toEqual([]);
    const far = flown((d) => {
      for (const u of d.units) u.propeller.pitch = known(1.3 * u.propeller.diameter.value);
    });
    expect(far.e.metrics.thrust?.outside?.length).toBeGreaterThan(0);
    expect(far.at("emptied")?.left?.open.length).toBeGreaterThan(0);
  });
  it("without a drive there is no such moment", () => {
    expect(flown((d) => void Object.assign(d, { units: [], duty: [], conductors: [] })).at("emptied")).toBeUndefined();
  });
});
