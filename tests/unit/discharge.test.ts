import { describe, expect, it } from "vitest";
import { type Discharge, discharge } from "../../core/subjects/energy/dischargeBand";
import { evaluate } from "../../core/evaluate";
import { nominalPower, nominalSetup } from "../../core/subjects/propulsion/nominal";
import { seededRandom } from "../../core/numeric/random";
import { type Design, newPhase } from "../../core/design/schema";
import { changed, quietDesign } from "../support/designs";

const mass = { value: 0.92, sd: 0.01, evidence: "measured" as const };
const run = (design: Design, change = {}): Discharge => {
  const d = discharge(design, mass, change);
  if (!d) throw new Error("no discharge");
  return d;
};
const atHalf = (change: (d: Design) => void = () => {}) =>
  changed((d) => {
    d.duty = [newPhase({ id: "p", name: "cruise", seconds: 60, repeats: 1, by: "throttle", value: 0.5, unitIds: [] })];
    change(d);
  });

describe("the discharge of a pack over a run", () => {
  it("draws from the pack what it had: the integral of current over time is the usable charge", () => {
    const design = atHalf();
    const { points, seconds, endedBy } = run(design);
    const [battery] = design.batteries;
    expect(endedBy).toBe("charge");
    // Independent of the solver's own stepping: midpoints of equal charge, each with P/V for its current.
    const ends = points.map((_, k) =>
      k + 1 < points.length ? ((points[k]?.seconds ?? 0) + (points[k + 1]?.seconds ?? 0)) / 2 : seconds,
    );
    const used = points.reduce(
      (s, p, k) => s + ((p.power / p.voltage) * ((ends[k] ?? 0) - (k > 0 ? (ends[k - 1] ?? 0) : 0))) / 3600,
      0,
    );
    expect(used / ((battery?.usable ?? 0) * (battery?.capacity.value ?? 1))).toBeCloseTo(1, 2);
  });
  it("takes the time that the drive's own result takes, with the same ±", () => {
    const design = atHalf();
    const own = evaluate(design).metrics.endurance;
    const d = run(design);
    expect(d.seconds / (own?.value ?? 0)).toBeCloseTo(1, 2);
    expect(d.sd / (own?.sd ?? 0)).toBeGreaterThan(0.97);
    expect(d.sd / (own?.sd ?? 0)).toBeLessThan(1.03);
  });
  it("its ± is that of sampling, where the pack alone is in doubt", () => {
    // Two independent methods: first-order propagation against 300 random packs.
    const sure = (value: number) => ({ value, evidence: "measured" as const, sd: value * 1e-7 });
    const of = (capacity: number, resistance: number) =>
      atHalf((d) => {
        for (const u of d.units) {
          for (const k of ["kv", "resistance", "noLoadCurrent"] as const) u.motor[k] = sure(u.motor[k].value);
          u.controller.resistance = sure(u.controller.resistance.value);
          u.gear.efficiency = { value: 1, evidence: "measured", sd: 0 };
          for (const k of ["diameter", "pitch", "chord"] as const) u.propeller[k] = sure(u.propeller[k].value);
        }
        const [b] = d.batteries;
        if (b) {
          b.capacity = { value: capacity, evidence: "datasheet", sd: 0.1 };
          b.cellResistance = { value: resistance, evidence: "datasheet", sd: 0.002 };
        }
      });
    const stated = discharge(of(2.2, 0.008), mass);
    const random = seededRandom(7);
    const times = Array.from({ length: 300 }, () => {
      const setup = nominalSetup(
        of(2.2 + 0.1 * random.normal(), Math.max(1e-4, 0.008 + 0.002 * random.normal())),
        null,
      );
      return (setup && nominalPower(setup)?.craft.endurance) ?? Number.NaN;
    });
    const mean = times.reduce((s, t) => s + t, 0) / times.length;
    const sampled = Math.sqrt(times.reduce((s, t) => s + (t - mean) ** 2, 0) / (times.length - 1));
    // The stated one also holds the doubt of blades and cells' curve: it is at least the sampled, and the sampled is
    // most of what capacity gives, s·0.1/2.2.
    expect(stated?.sd ?? 0).toBeGreaterThan(0.9 * sampled);
    expect(sampled / ((mean * 0.1) / 2.2)).toBeGreaterThan(0.9);
    expect(sampled / ((mean * 0.1) / 2.2)).toBeLessThan(1.15);
  }, 240_000);
  it("colder or older sags more, lasts no longer, and the same pack is the same", () => {
    const design = quietDesign();
    const now = run(design);
    expect(run(design, { resistanceFactor: 1 })).toEqual(now);
    for (const worse of [{ packTemperature: -15 }, { resistanceFactor: 3 }]) {
      const d = run(design, worse);
      expect(d.seconds).toBeLessThan(now.seconds);
      expect(d.points[0]?.voltage ?? 0).toBeLessThan(now.points[0]?.voltage ?? 0);
    }
  });
  it("goes forward in time and down in charge, with a ± everywhere", () => {
    const { points } = run(atHalf());
    points.slice(1).forEach((p, k) => {
      const before = points[k];
      expect(p.seconds).toBeGreaterThan(before?.seconds ?? 0);
      expect(p.charge).toBeLessThan(before?.charge ?? 1);
    });
    for (const p of points) {
      expect(p.voltageSd).toBeGreaterThan(0);
      expect(p.powerSd).toBeGreaterThan(0);
      expect(p.secondsSd).toBeGreaterThan(0);
    }
    // The doubt about time adds up as time goes by.
    expect(points.at(-1)?.secondsSd ?? 0).toBeGreaterThan(2 * (points[0]?.secondsSd ?? 0));
  });
  it("is that of the pack that is spent first, and nothing without a duty", () => {
    const two = atHalf((d) => {
      const [battery] = d.batteries;
      const [unit] = d.units;
      if (!battery || !unit) throw new Error("no drive");
      d.batteries.push({
        ...structuredClone(battery),
        id: "small",
        name: "small",
        capacity: { value: 0.8, evidence: "measured" },
      });
      d.units.push({ ...structuredClone(unit), id: "second", name: "second", batteryId: "small" });
    });
    expect(run(two).batteryId).toBe("small");
    expect(
      discharge(
        changed((d) => void (d.duty = [])),
        mass,
      ),
    ).toBeNull();
    expect(
      discharge(
        changed((d) => void (d.units = [])),
        mass,
      ),
    ).toBeNull();
  });
});
