import { describe, expect, it } from "vitest";
import { type Design, usualState } from "../../core/design/schema";
import { evaluate, remediesFor } from "../../core/evaluate";
import type { Around } from "../../core/subjects/propulsion/around/declares";
import {
  areaFor,
  aroundFactor,
  overlapFactor,
  overlapShare,
  throughOpenings,
} from "../../core/subjects/propulsion/around/factor";
import { changed } from "../support/designs";
import { measuredAs, readOff } from "../support/curves";

const measured = (value: number) => ({ value, evidence: "measured" as const });
const first = (d: Design) => {
  const [unit] = d.units;
  if (!unit) throw new Error("no drive");
  return unit;
};
const quad = (surroundings: "free air" | "boxed or ducted" | "overlapped or coaxial", around: Around | null) =>
  changed((d) => {
    d.states = [usualState("rotors")];
    Object.assign(first(d), { count: 4, direction: "up", spin: "half each", surroundings, around });
  });
const openings = (
  inlet: number | null,
  outlet: number | null,
  edges: "sharp" | "rounded" | "not said" = "not said",
): Around => ({
  kind: "openings",
  inlet: inlet === null ? null : measured(inlet),
  outlet: outlet === null ? null : measured(outlet),
  edges,
});

describe("factors of what is around", () => {
  it("overlap at 0.6 of a diameter: m = 0.2848, κ = 1.118, 0.928 of the thrust (Leishman; handbook value)", () => {
    const m = overlapShare(0.6, 1);
    expect(m).toBeCloseTo(0.2848, 4);
    expect(overlapFactor(m)).toBeCloseTo(1.118, 3);
    expect(overlapFactor(m) ** (-2 / 3)).toBeCloseTo(0.928, 3);
  });
  it("discs that touch take nothing; one upon the other is √2 at worst", () => {
    expect(overlapShare(1, 1)).toBeCloseTo(0, 9);
    expect(overlapShare(1.3, 1)).toBe(0);
    expect(overlapFactor(overlapShare(0, 1))).toBeCloseTo(Math.SQRT2, 9);
  });
  it("overlap by another way: two discs counted in small squares", () => {
    const d = 0.45;
    let both = 0;
    let one = 0;
    const step = 0.002;
    for (let x = -0.5; x < 0.5; x += step)
      for (let y = -0.5; y < 0.5; y += step)
        if (x * x + y * y < 0.25) {
          one++;
          if ((x - d) ** 2 + y * y < 0.25) both++;
        }
    expect(overlapShare(d, 1)).toBeCloseTo(both / one, 2);
  });
  it("a coaxial pair keeps between (√2)^(−2/3) and 1.2808^(−2/3) of its thrust, each within its band", () => {
    const f = aroundFactor({ ...first(quad("overlapped or coaxial", { kind: "coaxial" })) });
    expect(f?.value ?? 0).toBeGreaterThan(Math.SQRT2 ** (-2 / 3));
    expect(f?.value ?? 1).toBeLessThan(1.2808 ** (-2 / 3));
  });
  it("an opening of the disc's own area with ζ = 1: (1 + 1/4)^(−2/3) = 0.862; none at all: 1", () => {
    expect(throughOpenings(1, [1], 1)).toBeCloseTo(0.8618, 4);
    expect(throughOpenings(1, [1e6], 2.7)).toBeCloseTo(1, 6);
    expect(throughOpenings(1, [], 2)).toBe(1);
  });
  it("an opening by another way: at the same power, momentum of the wake against what the loss takes, found by halving", () => {
    const loss = 2 * (1 / 0.7) ** 2;
    // Disc area and density 1, v through the disc: the wake carries T = 2v², the disc works against that and the loss.
    const thrust = (k: number) => {
      let [low, high] = [0, 10];
      for (let n = 0; n < 80; n++) {
        const v = (low + high) / 2;
        if (v * (2 * v * v + (k * v * v) / 2) < 1) low = v;
        else high = v;
      }
      return 2 * low * low;
    };
    expect(thrust(loss) / thrust(0)).toBeCloseTo(throughOpenings(1, [0.7], 2), 6);
  });
  it("the area that leaves 95 % leaves 95 %", () => {
    const unit = first(quad("boxed or ducted", openings(0.02, 0.03, "sharp")));
    const area = areaFor(unit, 0.95) ?? 0;
    const wide = { ...unit, around: openings(area, area, "sharp") };
    expect(aroundFactor(wide)?.value).toBeCloseTo(0.95, 3);
  });
});

describe("a drive in a box or beside another", () => {
  const free = evaluate(quad("free air", null)).metrics;
  it("is not covered until its openings, spacing or partner are entered, and says what to do", () => {
    for (const where of ["boxed or ducted", "overlapped or coaxial"] as const) {
      const e = evaluate(quad(where, null));
      expect(e.outcomes.propulsion).toMatchObject({
        status: "not covered",
        because: expect.stringMatching(/enter .* or weigh/),
      });
      expect(e.metrics.thrust).toBeUndefined();
    }
    // Numbers of one way tell nothing of the other.
    expect(evaluate(quad("boxed or ducted", { kind: "coaxial" })).metrics.thrust).toBeUndefined();
    expect(evaluate(quad("boxed or ducted", openings(null, null))).metrics.thrust).toBeUndefined();
    const touching: Around = { kind: "overlap", spacing: null, neighbours: 1 };
    expect(evaluate(quad("overlapped or coaxial", touching)).metrics.thrust).toBeUndefined();
  });
  it("a boxed quad loses what its openings take, knows it less well, and is told", () => {
    const design = quad("boxed or ducted", openings(0.031, null));
    const e = evaluate(design);
    const share = (e.metrics.thrust?.value ?? 0) / (free.thrust?.value ?? 1);
    expect(share).toBeGreaterThan(0.7);
    expect(share).toBeLessThan(0.85);
    expect((e.metrics.thrust?.sd ?? 0) / (e.metrics.thrust?.value ?? 1)).toBeGreaterThan(
      (free.thrust?.sd ?? 0) / (free.thrust?.value ?? 1),
    );
    expect(e.metrics.thrustThrottle?.value ?? 2).toBeGreaterThan(free.thrustThrottle?.value ?? 0);
    const found = e.findings.find((f) => f.code === "taken-by-around");
    expect(found?.severity).toBe("care");
    expect(found && remediesFor(design, e, found).map((r) => r.text)).toEqual([
      "Weigh it with the lid on and with the lid off, 10 min",
      expect.stringMatching(/^Open .*for each unit/),
    ]);
  });
  it("six units in three coaxial pairs are not six free ones", () => {
    const share =
      (evaluate(quad("overlapped or coaxial", { kind: "coaxial" })).metrics.thrust?.value ?? 0) /
      (free.thrust?.value ?? 1);
    expect(share).toBeCloseTo(0.82, 2);
  });
  it("draws as before: at equal power it pushes less", () => {
    const e = evaluate(quad("overlapped or coaxial", { kind: "coaxial" }));
    expect(e.metrics.packPower?.value).toBeCloseTo(free.packPower?.value ?? 0, 6);
  });
  it("breathing through a slot it leaves the method: targets on it are open", () => {
    const e = evaluate(quad("boxed or ducted", openings(0.006, null)));
    expect(e.metrics.thrust?.outside?.join()).toMatch(/less than 30 % of its disc/);
    expect(e.targets.find((t) => t.target.metric === "thrustToWeight")?.status).not.toBe("met");
  });
  it("one that shares its axis with nobody is not covered: its partner is asked for", () => {
    const alone = (count: number) =>
      evaluate(
        changed(
          (d) =>
            void Object.assign(first(d), { count, surroundings: "overlapped or coaxial", around: { kind: "coaxial" } }),
        ),
      ).outcomes.propulsion;
    expect(alone(1)).toMatchObject({ status: "not covered", because: expect.stringMatching(/there is no other/) });
    expect(alone(2)).toMatchObject({ status: "solved" });
  });
  it("in motion is not computed, and a top speed is not made up", () => {
    const e = evaluate(
      changed((d) => {
        d.dragArea = { value: 0.02, evidence: "guess" };
        Object.assign(first(d), { count: 2, surroundings: "overlapped or coaxial", around: { kind: "coaxial" } });
      }),
    );
    expect(e.outcomes.speed).toMatchObject({ status: "not covered", because: expect.stringMatching(/in motion/) });
  });
  it("what was weighed as built in outranks the factor: it is not taken twice", () => {
    const readings = readOff(quad("free air", null), [0.3, 0.6, 1]);
    const e = evaluate(
      changed((d) => {
        Object.assign(d, quad("boxed or ducted", openings(0.02, null)));
        first(d).measured = measuredAs(readings);
      }),
    );
    expect(e.metrics.thrust?.value).toBeCloseTo(4 * (readings.at(-1)?.force ?? 0), 1);
    expect(e.findings.map((f) => f.code)).not.toContain("taken-by-around");
  });
});
