import { describe, expect, it } from "vitest";
import { type Design, usualState } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { authority } from "../../core/subjects/authority/node";
import { effectOf } from "../../core/subjects/authority/allocate";
import { BRISK, type SpinResult, spin } from "../../core/subjects/spin/node";
import { EVERY_KIND } from "../support/kinds";
import { quietDesign } from "../support/designs";
import { middle } from "../support/rules/hover";
import { winged } from "../support/wings";

const BLADES = 0.02;
const made = (change: (d: Design) => void): Design => {
  const d = quietDesign();
  change(d);
  const prop = d.items.find((i) => i.id === "prop");
  if (prop) prop.mass = { value: BLADES, evidence: "measured", sd: 0 };
  for (const u of d.units) u.propellerItemId = "prop";
  return d;
};
const ofCraft = (d: Design): SpinResult => {
  const result = resultIn(evaluate(d), spin);
  if (!result) throw new Error(JSON.stringify(evaluate(d).outcomes[spin.name]));
  return result;
};
/** One tractor that turns clockwise seen from behind, on wings. */
const tractor = (spins: "clockwise" | "anticlockwise" = "clockwise") =>
  made((d) => {
    winged(d);
    const [u] = d.units;
    if (!u) throw new Error("no unit");
    Object.assign(u, { direction: "ahead", count: 1, tilt: 0, spin: spins });
    u.places = [{ at: { x: 0.05, y: 0, z: 0.05 }, toward: { x: -1, y: 0, z: 0 } }];
  });

describe("what turning parts store", () => {
  it("of one rotor H = I·ω, I = m·k²: between a point at the hub and a rod that is equal all along", () => {
    const d = tractor();
    const r = ofCraft(d);
    const [rotor] = r.rotors;
    const radius = (d.units[0]?.propeller.diameter.value ?? 0) / 2;
    // A uniform rod: m·L²/12 (any handbook).
    const rod = (BLADES * (2 * radius) ** 2) / 12;
    expect(rotor?.inertia).toBeLessThan(rod);
    expect(rotor?.inertia).toBeGreaterThan(rod / 3);
    const omega = ((rotor?.rpm ?? 0) * 2 * Math.PI) / 60;
    expect(r.net.x).toBeCloseTo(-(rotor?.inertia ?? 0) * omega, 12);
    expect(r.whole).toBeCloseTo(Math.abs(r.net.x), 12);
    expect(r.cancels).toBe(false);
  });
  it("a tractor that turns clockwise yaws to starboard as its nose comes up (handbooks of flight training)", () => {
    const up = ofCraft(tractor()).pushes.find((p) => p.turned === "pitch" && p.pushed === "yaw");
    expect(up?.moment).toBeGreaterThan(0);
    // M = H·ω, by hand.
    const r = ofCraft(tractor());
    expect(up?.moment).toBeCloseTo(Math.abs(r.net.x) * BRISK, 12);
    // The other way round, the other way.
    const other = ofCraft(tractor("anticlockwise")).pushes.find((p) => p.turned === "pitch" && p.pushed === "yaw");
    expect(other?.moment).toBeCloseTo(-(up?.moment ?? 0), 12);
    // Nose to starboard pitches it down: the couple turns the axis of the rotor towards that of the turn.
    expect(r.pushes.find((p) => p.turned === "yaw" && p.pushed === "pitch")?.moment).toBeLessThan(0);
    // About the axis of the rotor itself nothing is pushed.
    expect(r.pushes.some((p) => p.turned === "roll")).toBe(false);
  });
  it("spun up, the body turns as its reaction torque does, and all momentum together stays nought", () => {
    const d = made(middle((x) => x.units[0] && (x.units[0].spin = "clockwise")));
    const e = evaluate(d);
    const r = ofCraft(d);
    const yaw = r.kicks.find((k) => k.axis === "yaw");
    const inertia = e.metrics.inertiaYaw?.value ?? 0;
    // Yaw is about −z: rotors and body together hold nothing.
    expect(r.net.z + inertia * -(yaw?.rate ?? 0)).toBeCloseTo(0, 12);
    const hung = resultIn(e, authority);
    const reaction = hung?.units.reduce(
      (s, u) => s + effectOf({ ...u, at: { x: 0, y: 0, z: 0 } }, { x: 0, y: 0, z: 0 }).yaw,
      0,
    );
    expect(Math.sign(yaw?.rate ?? 0)).toBe(Math.sign(reaction ?? 0));
    // Step by step, with any torque: the same rate in the end.
    let [body, rotor] = [0, 0];
    const all = r.net.z;
    while (rotor < all) {
      const torque = Math.min(0.03, all - rotor);
      rotor += torque;
      body += torque / inertia;
    }
    expect(body).toBeCloseTo(yaw?.rate ?? 0, 9);
  });
  it("two that turn against one another store nothing together: no kick, no push", () => {
    const d = made(middle((x) => x.units[0] && (x.units[0].spin = "half each")));
    const r = ofCraft(d);
    expect(r.cancels).toBe(true);
    expect(r.pushes).toEqual([]);
    expect(r.kicks.every((k) => Math.abs(k.rate) < 1e-9)).toBe(true);
    expect(r.whole).toBeGreaterThan(0);
  });
  it("two drives whose blades are weighed cancel; whose masses were guessed one by one, nobody knows that", () => {
    const pair = (evidence: "measured" | "guess") => {
      const d = made(middle());
      const [u] = d.units;
      const prop = d.items.find((i) => i.id === "prop");
      if (!u || !prop) throw new Error("no unit");
      prop.mass = { value: BLADES, evidence };
      d.items.push({ ...structuredClone(prop), id: "prop2", name: "Other blades" });
      const half = (k: 0 | 1) => u.places.filter((_, i) => i % 2 === k);
      d.units = [
        { ...u, count: 2, spin: "clockwise", places: half(0) },
        { ...u, id: "u2", name: "Others", count: 2, spin: "anticlockwise", places: half(1), propellerItemId: "prop2" },
      ];
      return ofCraft(d);
    };
    expect(Math.abs(pair("measured").net.z)).toBeLessThan(1e-9);
    expect(pair("measured").cancels).toBe(true);
    expect(pair("guess").cancels).toBe(false);
  });
  it("without the mass of the blades it is open and named; on water and ground it is not covered", () => {
    const d = made(middle());
    for (const u of d.units) u.propellerItemId = null;
    expect(evaluate(d).outcomes[spin.name]).toMatchObject({ status: "missing" });
    const afloat = made((x) => void (x.states = [usualState("hull")]));
    expect(evaluate(afloat).outcomes[spin.name]).toMatchObject({ status: "not covered" });
    // Of other kinds nobody knows how far out their mass sits.
    for (const kind of EVERY_KIND) {
      const other = made(middle());
      for (const u of other.units) u.propulsor = kind;
      const { status } = evaluate(other).outcomes[spin.name] ?? {};
      if (kind.kind !== "ducted fan") expect(status, kind.kind).not.toBe("solved");
    }
  });
});
