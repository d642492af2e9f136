import { describe, expect, it } from "vitest";
import type { Design } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { derivativesOf } from "../../core/subjects/lateral/derivatives";
import { equations, modesOf } from "../../core/subjects/lateral/modes";
import { lateral } from "../../core/subjects/lateral/node";
import { lattice } from "../../core/subjects/flight/latticeNode";
import { GRAVITY } from "../../core/subjects/air/air";
import { changed, part } from "../support/designs";
import { panel, surface, winged } from "../support/wings";

// Nelson, Flight Stability and Automatic Control, the general-aviation example in level flight at 176 ft/s (from
// memory: the matrix and its roots −0.00877, −8.435, −0.487 ± 2.335i).
const NELSON = [
  [-0.254, 0, -1, 0.182],
  [-16.02, -8.4, 2.19, 0],
  [4.488, -0.35, -0.76, 0],
  [0, 1, 0, 0],
];

describe("the motions sideways", () => {
  it("are those of a published example", () => {
    const m = modesOf(NELSON);
    expect(m.spiral).toBeCloseTo(-0.0088, 3);
    expect(m.roll).toBeCloseTo(-8.435, 2);
    expect(m.swing?.rate).toBeCloseTo(Math.hypot(0.487, 2.335), 2);
    expect(m.swing?.damping).toBeCloseTo(0.487 / Math.hypot(0.487, 2.335), 2);
  });
  it("lean on where rolling by yaw beats rolling out of the slip: the sign of L_β·N_r − L_r·N_β", () => {
    const at = (lb: number) => {
      const a = structuredClone(NELSON) as number[][];
      (a[1] as number[])[0] = lb;
      return modesOf(a).spiral ?? Number.NaN;
    };
    // Nought of the criterion: L_β = L_r·N_β/N_r.
    const nought = (2.19 * 4.488) / -0.76;
    expect(at(nought * 1.2)).toBeLessThan(0);
    expect(at(nought * 0.8)).toBeGreaterThan(0);
    expect(Math.abs(at(nought))).toBeLessThan(1e-6);
  });
  it("a craft that turns away from the wind is told by what grows, not by what is slow", () => {
    const a = structuredClone(NELSON) as number[][];
    (a[2] as number[])[0] = -4.5;
    expect(modesOf(a).spiral ?? 0).toBeGreaterThan(1);
  });
  it("without anything sideways it neither swings nor leans on", () => {
    const none = { y: 0, l: 0, n: 0 };
    const m = modesOf(equations({ beta: none, p: none, r: none }, { mass: 1, roll: 0.1, yaw: 0.1 }, 60, 10));
    expect(Math.abs(m.spiral ?? 1)).toBeLessThan(1e-6);
  });
});

/** A craft far above the ground, with all of its parts placed and sized. */
const craft = (change: (d: Design) => void = () => {}) =>
  changed((d) => {
    winged(d);
    for (const i of d.items) if (i.size.y === 0) i.size = { x: 0.05, y: 0.05, z: 0.05 };
    change(d);
  });
const dihedral = (degrees: number) => (d: Design) => {
  const wing = d.surfaces.find((s) => s.id === "wing");
  if (wing) wing.panels = [panel(0.55, 0.2, 0, degrees)];
};
const told = (d: Design) => {
  const e = evaluate(d);
  const r = resultIn(e, lateral);
  if (!r) throw new Error(JSON.stringify(e.outcomes.lateral));
  return { ...r, metrics: e.metrics, codes: e.findings.map((f) => f.code) };
};

describe("what a craft answers sideways", () => {
  it(
    "an untwisted long wing yawing rolls by C_L/4 and, rolling, yaws by −C_L/8 (strip theory of an " + "elliptic wing)",
    () => {
      const d = craft((x) => {
        x.surfaces = [surface({ id: "wing", at: { x: 0.26, y: 0, z: 0 }, chord: 0.2, panels: [panel(1.2, 0.2)] })];
        x.bodies = [];
      });
      const l = resultIn(evaluate(d), lattice);
      if (!l) throw new Error("no lattice");
      const area = 2 * 1.2 * 0.2;
      const load = 0.6 * area;
      const found = derivativesOf(l, { x: 0.3, z: 0 }, load, 0);
      const per = area * 2.4 * 1.2;
      // A rectangle carries more at its tips than an ellipse: up to a quarter more.
      expect((found?.r.l ?? 0) / per / (0.6 / 4)).toBeGreaterThan(1);
      expect((found?.r.l ?? 0) / per / (0.6 / 4)).toBeLessThan(1.3);
      expect((found?.p.n ?? 0) / per / (-0.6 / 8)).toBeGreaterThan(1);
      expect((found?.p.n ?? 0) / per / (-0.6 / 8)).toBeLessThan(1.3);
      // Rolling is damped by about −a/4·… of its wing: never helped.
      expect(found?.p.l ?? 0).toBeLessThan(0);
    },
  );
  it("a lone fin far behind: N_r = −l·N_β, Y_β·l² (its own arm, closed form)", () => {
    const d = craft((x) => {
      x.bodies = [];
      const fin = x.surfaces.find((s) => s.id === "fin");
      if (fin) fin.at = { ...fin.at, x: 3 };
    });
    const l = resultIn(evaluate(d), lattice);
    if (!l) throw new Error("no lattice");
    const found = derivativesOf(l, { x: 0.3, z: 0.08 }, 0.05, 0);
    const arm = -(found?.beta.n ?? 0) / (found?.beta.y ?? 1);
    expect(arm).toBeGreaterThan(2.6);
    expect((found?.r.n ?? 0) / (-arm * (found?.beta.n ?? 1))).toBeCloseTo(1, 1);
    expect(found?.beta.n ?? 0).toBeGreaterThan(0);
    expect(found?.beta.y ?? 0).toBeLessThan(0);
  });
  it("does not hang on where the datum is", () => {
    const l = (d: Design) => told(d);
    const here = l(craft());
    const moved = l(
      craft((d) => {
        for (const i of d.items) {
          i.place = { ...i.place, x: i.place.x + 1.3, z: i.place.z + 0.4 };
          i.slide = null;
        }
        for (const s of d.surfaces) s.at = { ...s.at, x: s.at.x + 1.3, z: s.at.z + 0.4 };
        for (const b of d.bodies) b.frames = b.frames.map((f) => ({ ...f, x: f.x + 1.3, z: f.z + 0.4 }));
      }),
    );
    expect(moved.lean?.value).toBeCloseTo(here.lean?.value ?? Number.NaN, 6);
    expect(moved.swing?.value).toBeCloseTo(here.swing?.value ?? Number.NaN, 6);
  });
});

describe("left to itself", () => {
  it("more dihedral turns a spiral into one that comes back; a larger fin damps the swing and leans on", () => {
    const [flat, bent] = [told(craft(dihedral(0))), told(craft(dihedral(16)))];
    expect(flat.lean?.value ?? 0).toBeGreaterThan(bent.lean?.value ?? 0);
    expect(bent.lean?.value ?? 0).toBeLessThan(0);
    const grown = told(
      craft((d) => {
        dihedral(3)(d);
        const fin = d.surfaces.find((s) => s.id === "fin");
        if (fin) fin.panels = [panel(0.3, 0.16, 15, 90)];
      }),
    );
    const small = told(craft(dihedral(3)));
    expect(grown.lean?.value ?? 0).toBeGreaterThan(small.lean?.value ?? 0);
    expect(grown.swing?.value ?? 0).toBeGreaterThan(small.swing?.value ?? 0);
  });
  it("the slow root agrees with the short form (L_β·N_r − L_r·N_β)·g / (…) within a third", () => {
    // −E/D of the quartic, E = g/V·(L_β·N_r − L_r·N_β), D ≈ −L_p·N_β + L_β·N_p − g/V·L_β (Etkin, from memory).
    const r = told(craft(dihedral(0)));
    const { speed } = r.at[0] ?? { speed: Number.NaN };
    const e = evaluate(craft(dihedral(0)));
    const inertia = { roll: e.metrics.inertiaRoll?.value ?? 1, yaw: e.metrics.inertiaYaw?.value ?? 1 };
    const q = 0.5 * 1.225 * speed ** 2;
    const { beta, p, r: y } = r.derivatives;
    const [lb, nb] = [(q * beta.l) / inertia.roll, (q * beta.n) / inertia.yaw];
    const [lp, np] = [(q * p.l) / inertia.roll / speed, (q * p.n) / inertia.yaw / speed];
    const [lr, nr] = [(q * y.l) / inertia.roll / speed, (q * y.n) / inertia.yaw / speed];
    const short = (-(GRAVITY / speed) * (lb * nr - lr * nb)) / (-lp * nb + lb * np - (GRAVITY / speed) * lb);
    expect((r.at[0]?.modes.spiral ?? 0) / short).toBeGreaterThan(0.67);
    expect((r.at[0]?.modes.spiral ?? 0) / short).toBeLessThan(1.5);
  });
  it("is open while a part has no place or no size, and not covered near the ground", () => {
    const unsized = evaluate(craft((d) => void d.items.push(part({ id: "new", unsized: true }))));
    expect(unsized.outcomes.lateral).toMatchObject({ status: "missing" });
    expect(unsized.metrics.leanGrowth).toBeUndefined();
    const low = evaluate(craft((d) => void (d.flight.height = { value: 0.1, evidence: "measured" })));
    expect(low.outcomes.lateral).toMatchObject({ status: "not covered" });
  });
  it(
    "is no better known than its CG and its shapes: a place that is a guess widens it, a shape that is " +
      "one says so",
    () => {
      const sure = told(craft());
      const loose = told(
        craft((d) => {
          for (const i of d.items) i.placeEvidence = "guess";
        }),
      );
      const byCg = (r: typeof sure) => Math.abs(r.swing?.by["/cgx"] ?? 0);
      expect(byCg(sure)).toBeGreaterThan(0);
      expect(byCg(loose)).toBeGreaterThan(3 * byCg(sure));
      expect(sure.inputs.map((i) => i.id)).toEqual(expect.arrayContaining(["/cgx", "/cgz", "/body", "/nb", "/yaw"]));
      const drawn = told(
        craft((d) => {
          for (const s of [...d.surfaces, ...d.bodies]) s.shapeBy = "guess";
        }),
      );
      expect(drawn.metrics.leanGrowth?.evidence).toBe("guess");
      expect(sure.metrics.leanGrowth?.evidence).not.toBe("guess");
    },
  );
  it("is told with its doubt; until all surfaces are described it counts as incomplete", () => {
    const { metrics } = told(craft());
    expect(metrics.leanGrowth?.sd ?? 0).toBeGreaterThan(0);
    const half = told(craft((d) => void (d.flight.whole = false)));
    expect(half.metrics.leanGrowth?.incomplete).toBeTruthy();
  });
});
