import { describe, expect, it } from "vitest";
import type { Design } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { elementsOf } from "../../core/subjects/flight/elements";
import { solveLattice } from "../../core/subjects/flight/lattice";
import { lattice } from "../../core/subjects/flight/latticeNode";
import { flight, trimCurve } from "../../core/subjects/flight/node";
import { foils } from "../../core/subjects/foils/node";
import { wetted } from "../../core/subjects/flight/wet";
import { planformOf, stationsOf } from "../../core/subjects/surfaces/planform";
import { waterOf } from "../../core/subjects/propulsion/setup";
import { changed } from "../support/designs";
import { panel, surface, winged } from "../support/wings";

const known = (value: number) => ({ value, evidence: "measured" as const });

describe("a foil under the surface of water at speed", () => {
  /** Lift a rad of a foil of aspect 600, one element along its chord of 1 m, so deep. */
  const lift = (depth: number | null, image: 1 | -1 = 1) => {
    const el = elementsOf([surface({ id: "foil", panels: [panel(300, 1)] })], [0], { strips: 16, chordwise: 1, image });
    const solved = solveLattice(el, depth === null ? null : -depth);
    const middle = solved?.causes.alpha?.cl[0];
    if (middle === undefined) throw new Error("not solved");
    return middle;
  };
  it.each([0.5, 1, 2, 4])(
    "of %s chords lifts (1 + 16h²)/(2 + 16h²) of what it does deep down (thin foil of infinite span at " +
      "high Froude number; Hough and Moran 1969, from memory)",
    (h) => {
      const formula = (1 + 16 * h * h) / (2 + 16 * h * h);
      expect(lift(h) / lift(null) / formula).toBeCloseTo(1, 2);
    },
  );
  it("far down is as in free flow; over a ground it would lift more instead", () => {
    expect(lift(60) / lift(null)).toBeCloseTo(1, 2);
    // A ground as far above as the water's surface is: the same mirror, the other sense.
    expect(lift(1, -1)).toBeGreaterThan(lift(null));
  });
});

describe("what of surfaces is under water", () => {
  const strut = surface({
    id: "strut",
    mirrored: false,
    at: { x: 0.1, y: 0, z: -0.1 },
    chord: 0.1,
    panels: [panel(0.3, 0.05, 10, 90)],
  });
  it("is cut where it comes out, from above as from below", () => {
    const [below] = wetted([{ ...strut, medium: "water" }], 0);
    const cuts = below ? stationsOf(below) : [];
    expect(cuts.at(-1)?.at.z).toBeCloseTo(0, 12);
    expect(cuts.at(-1)?.chord).toBeCloseTo(0.1 - 0.05 / 3, 12);
    // The same strut, described from its head down.
    const head = { x: 0.1 + 0.3 * Math.tan((10 * Math.PI) / 180), y: 0, z: 0.2 };
    const down = { ...strut, medium: "water" as const, at: head, chord: 0.05, panels: [panel(0.3, 0.1, -10, -90)] };
    const [same] = wetted([down], 0);
    if (!below || !same) throw new Error("nothing");
    expect(planformOf(same).area).toBeCloseTo(planformOf(below).area, 12);
  });
  it("is nothing of what stands in the air, or wholly above; all of what is below", () => {
    const [air, above, under] = wetted(
      [
        strut,
        { ...strut, medium: "water", at: { x: 0, y: 0, z: 0.1 } },
        { ...strut, medium: "water", at: { x: 0, y: 0, z: -1 } },
      ],
      0,
    );
    expect(air?.panels).toEqual([]);
    expect(above?.panels).toEqual([]);
    expect(under?.panels).toHaveLength(1);
  });
  it("keeps a control where it is", () => {
    const hinged = {
      ...strut,
      medium: "water" as const,
      controls: [{ id: "r", name: "r", does: ["yaw" as const], from: 0, to: 0.5, chord: 0.3, up: 0.4, down: 0.4 }],
    };
    const [cut] = wetted([hinged], 0);
    // Half of 0.3 m is 0.15 m, of which 0.1 m is wet: all of what is left.
    expect(cut?.controls[0]).toMatchObject({ from: 0, to: 1 });
  });
});

describe("a craft on foils", () => {
  const onFoils = (waterline: number | null, change: (d: Design) => void = () => {}) =>
    changed((d) => {
      winged(d);
      d.bodies = [];
      for (const s of d.surfaces) s.medium = "water";
      d.flight.waterline = waterline === null ? null : known(waterline);
      change(d);
    });
  it("waits for where the water stands, and says so; above all of them nothing carries it", () => {
    expect(evaluate(onFoils(null)).outcomes.lattice).toMatchObject({ status: "missing" });
    expect(evaluate(onFoils(0.01)).outcomes.lattice).toMatchObject({ status: "failed" });
  });
  it("deep down flies like the same wings in air, slower by the root of the densities", () => {
    const deep = evaluate(onFoils(20));
    const air = evaluate(onFoils(20, (d) => d.surfaces.forEach((s) => void (s.medium = "air"))));
    const water = waterOf(onFoils(20).brief.environment).density;
    const ratio = Math.sqrt((air.metrics.airDensity?.value ?? 0) / water);
    expect(deep.metrics.neutralPoint?.value).toBeCloseTo(air.metrics.neutralPoint?.value ?? 0, 4);
    expect((deep.metrics.stallSpeed?.value ?? 0) / (air.metrics.stallSpeed?.value ?? 1) / ratio).toBeCloseTo(1, 3);
  });
  it("moved up with the water about it is the same craft", () => {
    const up = (by: number) =>
      evaluate(
        onFoils(0.2 + by, (d) => {
          for (const s of d.surfaces) s.at.z += by;
        }),
      ).metrics.neutralPoint?.value;
    expect(up(0.3)).toBeCloseTo(up(0) ?? 0, 9);
  });
  it("lifts less as it comes up: it settles at a height by itself", () => {
    const l = resultIn(evaluate(onFoils(0.2)), lattice);
    expect(l?.ground?.higher.alpha.z).toBeLessThan(l?.ground?.lower.alpha.z ?? 0);
    const shallow = resultIn(evaluate(onFoils(0.14)), lattice);
    expect(shallow?.model.alpha.z).toBeLessThan(l?.model.alpha.z ?? 0);
  });
  it("is told no glide, no turn in the air, no flight under power and no duty at a speed", () => {
    const e = evaluate(
      onFoils(0.3, (d) => {
        d.duty = d.duty.map((p) => ({ ...p, by: "speed" as const, value: 4 }));
        d.dragArea = known(0.01);
      }),
    );
    for (const key of ["glideRatio", "turnRadius", "levelTime", "climbRate", "endurance"] as const)
      expect(e.metrics[key], key).toBeUndefined();
    expect(e.metrics.stallSpeed).toBeDefined();
    for (const name of ["powered", "demand"]) expect(e.outcomes[name]?.status, name).toBe("not covered");
  });
  it(
    "with wings in the air beside, or a foil that comes out of the water, is not covered: each would be " + "left out",
    () => {
      const both = evaluate(onFoils(0.5, (d) => void (d.surfaces[1] && (d.surfaces[1].medium = "air"))));
      expect(both.outcomes.lattice).toMatchObject({ status: "not covered" });
      const raised = onFoils(0.1, (d) => {
        const [main] = d.surfaces;
        for (const p of main?.panels ?? []) p.dihedral = 0.4;
      });
      expect(JSON.stringify(evaluate(raised).outcomes.lattice)).toMatch(/“wing” comes out of the water/);
    },
  );
  it("without a pitch control has an aft limit and no forward one, and is in no window clear", () => {
    const free = (controls: boolean) =>
      evaluate(
        onFoils(0.3, (d) => {
          if (!controls) for (const s of d.surfaces) s.controls = [];
          d.brief.targets = d.brief.targets.filter((t) => t.metric !== "cgX");
        }),
      );
    expect(free(true).metrics.cgForward).toBeDefined();
    const e = free(false);
    expect(e.metrics.cgForward).toBeUndefined();
    expect(e.metrics.cgAft).toBeDefined();
    expect(e.findings.map((f) => f.code)).not.toContain("cg-inside");
  });
  it("so slow for its depth that it makes waves is said to be outside", () => {
    expect(evaluate(onFoils(0.5)).metrics.stallSpeed?.outside?.join()).toMatch(/makes waves/);
    // Deep below the surface there are none, however slow.
    expect(evaluate(onFoils(20)).metrics.stallSpeed?.outside).toBeUndefined();
    const heavy = onFoils(0.14, (d) => {
      for (const i of d.items) if (i.mass) i.mass.value *= 60;
    });
    expect(evaluate(heavy).metrics.stallSpeed?.outside?.join() ?? "").not.toMatch(/makes waves/);
  });
  // Least drag of a parabolic polar: 2·W·√(k·f) with f the profile area and k = 1/(π·e·b²) of the main foil alone; two
  // foils share the load better or worse, and the water's surface takes some: within a third.
  it("takes at the least what the polar of a foil of its span says, and more with the weight", () => {
    const at = (more = 1) => {
      const d = onFoils(20);
      for (const i of d.items) if (i.mass) i.mass.value *= more;
      const e = evaluate(d);
      const r = resultIn(e, foils);
      if (!r) throw new Error(JSON.stringify(e.outcomes.foils));
      return { ...r, weight: (e.metrics.auw?.value ?? 0) * 9.80665, area: resultIn(e, flight)?.resistance.area ?? 0 };
    };
    const r = at();
    const byHand = 2 * r.weight * Math.sqrt(r.area / (Math.PI * 0.95 * 1.1 ** 2));
    expect(r.drag.value / byHand).toBeGreaterThan(0.75);
    expect(r.drag.value / byHand).toBeLessThan(1.35);
    expect(at(2).drag.value / r.drag.value).toBeCloseTo(2, 1);
    expect(r.speed).toBeGreaterThanOrEqual(r.least);
  });
  it("says below which speed waves come in, and tells nothing of slower", () => {
    const r = resultIn(evaluate(onFoils(0.5)), foils);
    expect(r?.waves).toBeCloseTo(2 * Math.sqrt(9.80665 * (resultIn(evaluate(onFoils(0.5)), lattice)?.depth ?? 0)), 9);
    expect(r?.speed).toBeGreaterThanOrEqual(r?.waves ?? Number.POSITIVE_INFINITY);
    expect(r?.least).toBeLessThan(r?.waves ?? 0);
    // Neither is the trim told there.
    const e = evaluate(onFoils(0.5));
    const [l, f] = [resultIn(e, lattice), resultIn(e, flight)];
    const trims = l && f ? trimCurve(l, f) : [];
    expect(trims.length).toBeGreaterThan(5);
    expect(trims[0]?.speed).toBeCloseTo(r?.waves ?? 0, 9);
    // With less thrust than they take at the slowest of these speeds it may still run slower: no stop.
    const weak = evaluate(
      onFoils(0.5, (d) => {
        for (const u of d.units) u.surroundings = "in air";
        for (const i of d.items) if (i.mass) i.mass.value *= 40;
      }),
    );
    const told = weak.findings.find((f) => f.code === "foils-take");
    expect(told?.severity).toBe("care");
  });
  it("a drive that is not known leaves its thrust open, and no verdict is told of it", () => {
    const e = evaluate(onFoils(0.3, (d) => d.units.forEach((u) => void (u.surroundings = null))));
    expect(resultIn(e, foils)).toMatchObject({ thrust: null });
    expect(e.findings.map((f) => f.code).filter((c) => c === "foils-take" || c === "hump-takes")).toEqual([]);
  });
});
