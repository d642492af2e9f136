import { describe, expect, it } from "vitest";
import type { Surface } from "../../core/design/schema";
import { apparentMass, bodyMoments } from "../../core/subjects/flight/body";
import { COARSE, type Cutting, type Elements, FINE, elementsOf } from "../../core/subjects/flight/elements";
import { Factored, influences, pairsOf } from "../../core/subjects/flight/halves";
import { influence } from "../../core/subjects/flight/influence";
import { type Solution, solveLattice } from "../../core/subjects/flight/lattice";
import { planformOf } from "../../core/subjects/surfaces/planform";
import { Matrix } from "ml-matrix";
import { seededRandom } from "../../core/numeric/random";
import { demoFile } from "../support/demo";
import { elevator, panel, surface } from "../support/wings";

const solved = (
  surfaces: Surface[],
  cutting: Cutting = { strips: 20, chordwise: 4 },
  ground: number | null = null,
): Solution => {
  const s = solveLattice(
    elementsOf(
      surfaces,
      surfaces.map(() => 0),
      cutting,
    ),
    ground,
  );
  if (!s) throw new Error("not solved");
  return s;
};
const cause = (s: Solution, name = "alpha") => {
  const c = s.causes[name];
  if (!c) throw new Error(name);
  return c;
};
const rectangle = (aspect: number, given: Partial<Surface> = {}) =>
  surface({ id: "w", chord: 1, panels: [panel(aspect / 2, 1)], ...given });
const slope = (s: Solution, area: number) => cause(s).z / area;
const neutral = (s: Solution) => -cause(s).my / cause(s).z;
/** Drag due to lift over that of an elliptic load of the same lift and span. */
const efficiency = (s: Solution, span: number) => {
  const k = s.drag.names.indexOf("alpha");
  return cause(s).z ** 2 / (Math.PI * span ** 2) / (s.drag.form[k]?.[k] ?? 0);
};
/** A surface whose chord follows a function of the share of its half span, leading edge by another. */
const shaped = (half: number, n: number, lead: (t: number) => number, chord: (t: number) => number) => {
  const at = Array.from({ length: n + 1 }, (_, i) => Math.sin(((Math.PI / 2) * i) / n));
  return surface({
    id: "s",
    at: { x: lead(0), y: 0, z: 0 },
    chord: chord(0),
    panels: at.slice(1).map((t, i) => {
      const from = at[i] as number;
      return {
        span: half * (t - from),
        chord: Math.max(chord(t), 1e-3),
        sweep: Math.atan2(lead(t) - lead(from), half * (t - from)),
        dihedral: 0,
        twist: 0,
      };
    }),
  });
};

describe("planforms", () => {
  it("have the mean chord of a trapezoid (textbook: ⅔ c_r (1 + λ + λ²)/(1 + λ)) and of its place", () => {
    const [root, tip, half, sweep] = [0.4, 0.16, 0.7, 20];
    const p = planformOf(surface({ id: "w", chord: root, panels: [panel(half, tip, sweep)] }));
    const l = tip / root;
    expect(p.mac).toBeCloseTo(((2 / 3) * root * (1 + l + l * l)) / (1 + l), 12);
    expect(p.area).toBeCloseTo((root + tip) * half, 12);
    const y = (half * (1 + 2 * l)) / (3 * (1 + l));
    expect(p.macX).toBeCloseTo(y * Math.tan((sweep * Math.PI) / 180), 12);
    expect(p.aspect).toBeCloseTo((2 * half) / (0.5 * (root + tip)), 12);
  });
  it("cut in two are the same as in one", () => {
    const one = planformOf(surface({ id: "w", chord: 0.4, panels: [panel(0.6, 0.2, 10)] }));
    const two = planformOf(surface({ id: "w", chord: 0.4, panels: [panel(0.3, 0.3, 10), panel(0.3, 0.2, 10)] }));
    for (const k of ["area", "plan", "span", "mac", "macX", "aspect"] as const) expect(two[k]).toBeCloseTo(one[k], 10);
  });
});

describe("the lattice against the world", () => {
  it(
    "gives the worked example of Bertin & Smith: aspect 5, swept 45°, four strips a side, one along the " +
      "chord: 3.443",
    () => {
      const s = solved([surface({ id: "w", chord: 1, panels: [panel(2.5, 1, 45)] })], {
        strips: 4,
        chordwise: 1,
        even: true,
      });
      expect(slope(s, 5)).toBeCloseTo(3.443, 2);
    },
  );
  // Exact lifting-surface solutions; values from memory (rectangles: Tuck and others; circle: Jordan 1973).
  it.each([
    [1, 1.4602],
    [2, 2.4744],
  ])("a rectangle of aspect %d has the slope of the exact solution", (aspect, exact) => {
    expect(slope(solved([rectangle(aspect)]), aspect)).toBeCloseTo(exact, 1);
    expect(Math.abs(slope(solved([rectangle(aspect)]), aspect) / exact - 1)).toBeLessThan(0.003);
  });
  it("a circular wing has Jordan's 1.790 within 1 %", () => {
    const circle = shaped(
      1,
      24,
      (t) => -Math.sqrt(Math.max(0, 1 - t * t)),
      (t) => 2 * Math.sqrt(Math.max(0, 1 - t * t)),
    );
    expect(Math.abs(slope(solved([circle], { strips: 24, chordwise: 4 }), Math.PI) / 1.79 - 1)).toBeLessThan(0.01);
  });
  it("a long wing has 2π, a slender one πA/2 (Jones)", () => {
    expect(
      Math.abs(slope(solved([rectangle(400)], { strips: 60, chordwise: 2 }), 400) / (2 * Math.PI) - 1),
    ).toBeLessThan(0.012);
    const a = 0.2;
    const delta = surface({ id: "d", chord: 1, panels: [{ ...panel(a / 4, 1e-3), sweep: Math.atan2(1, a / 4) }] });
    const s = solved([delta], { strips: 16, chordwise: 12 });
    expect(Math.abs(slope(s, a / 4) / ((Math.PI * a) / 2) - 1)).toBeLessThan(0.06);
  });
  it("an elliptic wing has the least drag due to lift, C_L²/(π A), and no other has less", () => {
    const ellipse = shaped(
      3,
      20,
      (t) => 0.25 - 0.25 * Math.sqrt(Math.max(0, 1 - t * t)),
      (t) => Math.sqrt(Math.max(0, 1 - t * t)),
    );
    expect(efficiency(solved([ellipse], { strips: 30, chordwise: 1 }), 6)).toBeCloseTo(1, 2);
    for (const [aspect, taper] of [
      [4, 1],
      [8, 0.4],
      [12, 0.2],
    ] as const) {
      const s = solved([surface({ id: "w", chord: 1, panels: [panel((aspect * (1 + taper)) / 4, taper)] })]);
      const e = efficiency(s, (aspect * (1 + taper)) / 2);
      expect(e).toBeLessThan(1.003);
      expect(e).toBeGreaterThan(0.9);
    }
  });
  it("near the ground it needs less drag for its lift, as Wieselsberger has it (NACA TM 77), and lifts more", () => {
    const k = (s: Solution) => {
      const i = s.drag.names.indexOf("alpha");
      return (s.drag.form[i]?.[i] ?? 0) / cause(s).z ** 2;
    };
    const free = solved([rectangle(6)]);
    for (const h of [0.1, 0.15, 0.2, 0.25]) {
      const low = solved([rectangle(6)], { strips: 20, chordwise: 4 }, 6 * h);
      const sigma = (1 - 1.32 * h) / (1.05 + 7.4 * h);
      expect(Math.abs(k(low) / k(free) - (1 - sigma)), `h/b ${h}`).toBeLessThan(0.025);
      expect(cause(low).z).toBeGreaterThan(cause(free).z);
    }
    const far = solved([rectangle(6)], { strips: 20, chordwise: 4 }, 300);
    expect(cause(far).z).toBeCloseTo(cause(free).z, 3);
  });
  it("agrees with lifting line on the load of a long wing, another method (Glauert's series)", () => {
    // Γ = 4·s·V·Σ Aₙ sin nθ with μ(nα) …: Glauert, *Elements of Aerofoil and Airscrew Theory*, XI.
    const [aspect, n] = [20, 20];
    const mu = (2 * Math.PI) / (4 * aspect);
    const rows = Array.from({ length: n }, (_, i) => {
      const t = ((i + 0.5) * Math.PI) / (2 * n);
      return {
        row: Array.from({ length: n }, (_, j) => Math.sin((2 * j + 1) * t) * (Math.sin(t) + (2 * j + 1) * mu)),
        rhs: mu * Math.sin(t),
      };
    });
    // Gauss, for it is another method throughout.
    const a = rows.map((r) => [...r.row, r.rhs]);
    for (let p = 0; p < n; p++)
      for (let q = 0; q < n; q++)
        if (q !== p) {
          const f = (a[q]?.[p] ?? 0) / (a[p]?.[p] ?? 1);
          for (let c = p; c <= n; c++) (a[q] as number[])[c] = (a[q]?.[c] ?? 0) - f * (a[p]?.[c] ?? 0);
        }
    const line = Math.PI * aspect * ((a[0]?.[n] ?? 0) / (a[0]?.[0] ?? 1));
    expect(line).toBeGreaterThan(5);
    expect(Math.abs(slope(solved([rectangle(aspect)], { strips: 30, chordwise: 2 }), aspect) / line - 1)).toBeLessThan(
      0.04,
    );
  });
});

describe("what must hold of any lattice", () => {
  const tail = surface({
    id: "t",
    at: { x: 4, y: 0, z: 0.3 },
    chord: 0.6,
    panels: [panel(0.9, 0.5, 10)],
    controls: [elevator()],
  });
  const fin = surface({
    id: "f",
    mirrored: false,
    at: { x: 4, y: 0, z: 0 },
    chord: 0.7,
    panels: [panel(0.8, 0.4, 20, 90)],
  });
  const craft = [rectangle(6), tail, fin];
  const moved = (list: Surface[], by: { x: number; y: number; z: number }) =>
    list.map((s) => ({ ...s, at: { x: s.at.x + by.x, y: s.at.y + by.y, z: s.at.z + by.z } }));

  it("moved as a whole it lifts the same, at the same place in itself", () => {
    const [here, there] = [solved(craft), solved(moved(craft, { x: 2.5, y: 0, z: 1 }))];
    expect(cause(there).z).toBeCloseTo(cause(here).z, 9);
    expect(neutral(there)).toBeCloseTo(neutral(here) + 2.5, 9);
    expect(cause(there, "beta").y).toBeCloseTo(cause(here, "beta").y, 9);
  });
  it("grown as a whole its areas grow by the square and its moments by the cube", () => {
    const twice = craft.map((s) => ({
      ...s,
      chord: 2 * s.chord,
      at: { x: 2 * s.at.x, y: 2 * s.at.y, z: 2 * s.at.z },
      panels: s.panels.map((p) => ({ ...p, span: 2 * p.span, chord: 2 * p.chord })),
    }));
    expect(cause(solved(twice)).z).toBeCloseTo(4 * cause(solved(craft)).z, 8);
    expect(cause(solved(twice)).my).toBeCloseTo(8 * cause(solved(craft)).my, 7);
  });
  it(
    "mirrored sides answer one another: no side force, roll or yaw from an angle of attack; sideslip " +
      "gives no lift",
    () => {
      const s = solved(craft);
      for (const key of ["y", "mx", "mz"] as const) expect(Math.abs(cause(s)[key])).toBeLessThan(1e-9);
      expect(Math.abs(cause(s, "beta").z)).toBeLessThan(1e-9);
    },
  );
  it("a wing written as two sides of one surface is the mirrored one", () => {
    const whole = surface({ id: "w", mirrored: false, at: { x: 0, y: -3, z: 0 }, chord: 1, panels: [panel(6, 1)] });
    const n = { strips: 24, chordwise: 3 };
    expect(cause(solved([whole], { ...n, strips: 48 })).z).toBeCloseTo(cause(solved([rectangle(6)], n)).z, 2);
  });
  it("every sign is that of the body axes: x aft, y to starboard, z up", () => {
    const s = solved(craft);
    // An angle of attack lifts, behind the nose: nose down about the nose.
    expect(cause(s).z).toBeGreaterThan(0);
    expect(cause(s).my).toBeLessThan(0);
    // Wind from starboard pushes to port; the fin behind turns the nose to starboard: −z by the right hand.
    expect(cause(s, "beta").y).toBeLessThan(0);
    expect(cause(s, "beta").mz).toBeLessThan(0);
    // Starboard going down meets air from below and is lifted: roll to port, + about x.
    expect(cause(s, "p").mx).toBeGreaterThan(0);
    // Nose coming up: what is aft goes down and is lifted.
    expect(cause(s, "q").my).toBeLessThan(0);
    // Trailing edge down lifts the tail: nose down.
    expect(cause(s, "control 0").z).toBeGreaterThan(0);
    expect(cause(s, "control 0").my).toBeLessThan(0);
    // Opposed: down to starboard lifts that side.
    expect(cause(s, "opposed 0").mx).toBeGreaterThan(0);
    expect(Math.abs(cause(s, "opposed 0").z)).toBeLessThan(1e-9);
  });
  it("wings set with dihedral roll away from the wind", () => {
    const v = surface({ id: "v", chord: 1, panels: [panel(3, 1, 0, 10)] });
    // Wind from starboard lifts the starboard side: + about x.
    expect(cause(solved([v]), "beta").mx).toBeGreaterThan(0.1);
    expect(Math.abs(cause(solved([rectangle(6)]), "beta").mx)).toBeLessThan(1e-9);
  });
  it("a wing behind another lifts less than by itself, one far away the same", () => {
    const alone = cause(solved([rectangle(4)])).z;
    const at = (x: number, z: number) => cause(solved([rectangle(4), rectangle(4, { id: "b", at: { x, y: 0, z } })])).z;
    expect(at(4, 0.2)).toBeLessThan(1.95 * alone);
    expect(at(4, 0.2)).toBeGreaterThan(1.2 * alone);
    // Far behind the wash of the first stays, at a height it does not.
    expect(at(4, 400)).toBeCloseTo(2 * alone, 2);
  });
  it("turning all of a surface by its control is turning the surface", () => {
    const all = { ...elevator(), chord: 1 };
    const s = solved([rectangle(4, { controls: [all] })]);
    expect(cause(s, "control 0").z).toBeCloseTo(cause(s).z, 6);
  });
  it("a quarter-chord hinge has the effect of thin-aerofoil theory on a long wing", () => {
    // τ = 1 − (θ − sin θ)/π with cos θ = 1 − 2·x of the hinge (Glauert): 0.609 at three quarters.
    const theta = Math.acos(1 - 2 * 0.75);
    const effect = 1 - (theta - Math.sin(theta)) / Math.PI;
    expect(effect).toBeCloseTo(0.609, 3);
    const s = solved([rectangle(200, { controls: [{ ...elevator(), chord: 0.25 }] })], { strips: 10, chordwise: 12 });
    expect(Math.abs(cause(s, "control 0").z / cause(s).z - effect)).toBeLessThan(0.03);
  });
  it("converges: the cut that is used is within 1 % of the chord and of the lift of a far finer one", () => {
    const [used, finer] = [solved(craft, FINE), solved(craft, { strips: 36, chordwise: 8 })];
    expect(Math.abs(cause(used).z / cause(finer).z - 1)).toBeLessThan(0.01);
    expect(Math.abs(neutral(used) - neutral(finer))).toBeLessThan(0.012);
    expect(used.residual).toBeLessThan(1e-9);
  });
  it("two surfaces in one place have no solution, and that is said", () => {
    expect(
      solveLattice(elementsOf([rectangle(4), rectangle(4, { id: "b" })], [0, 0], { strips: 6, chordwise: 2 }), null),
    ).toBeNull();
  });
  it("is energy: the drag that the wakes carry is the lift leant back by their flow at the wing", () => {
    // Another way, in the near field: Γ·w·ds with the flow that all legs make at each bound vortex, in the plane z = 0.
    const n = { strips: 40, chordwise: 1 };
    const s = solved([rectangle(8)], n);
    const el = elementsOf([rectangle(8)], [0], n);
    const round = el.strips.map((strip, i) => ((cause(s).cl[i] ?? 0) * strip.chord) / 2);
    const leg = (y: number, at: number) => 1 / (4 * Math.PI * (at - y));
    let near = 0;
    for (const [i, to] of el.strips.entries()) {
      let w = 0;
      for (const j of el.strips.keys())
        w += (round[j] ?? 0) * (leg(el.ends[6 * j + 4] as number, to.y) - leg(el.ends[6 * j + 1] as number, to.y));
      near -= 2 * (round[i] ?? 0) * w * to.width;
    }
    const k = s.drag.names.indexOf("alpha");
    expect(Math.abs(near / (s.drag.form[k]?.[k] ?? 0) - 1)).toBeLessThan(0.02);
  });
});

describe("rings", () => {
  /** A circular ring of unit diameter by n flat panels a side. */
  const ring = (chord: number, n = 10) => {
    const step = Math.PI / n;
    return surface({
      id: "r",
      at: { x: 0, y: 0, z: 0.5 },
      chord,
      panels: Array.from({ length: n }, (_, i) => ({
        span: Math.sin(step / 2),
        chord,
        sweep: 0,
        dihedral: -(i + 0.5) * step,
        twist: 0,
      })),
    });
  };
  it("close, and carry twice the lift of a flat wing of their span for the same drag due to lift", () => {
    const s = solved([ring(0.25)], { strips: 20, chordwise: 3 });
    // Ribner, NACA TN 1232, and von Kármán & Burgers: a ring has half the induced drag of an elliptic wing.
    const k = s.drag.names.indexOf("alpha");
    const flat = cause(s).z ** 2 / Math.PI;
    expect((s.drag.form[k]?.[k] ?? 0) / flat).toBeGreaterThan(0.46);
    expect((s.drag.form[k]?.[k] ?? 0) / flat).toBeLessThan(0.54);
  });
  it("are the same in pitch and in yaw", () => {
    const s = solved([ring(0.3)], { strips: 20, chordwise: 3 });
    expect(-cause(s, "beta").y / cause(s).z).toBeCloseTo(1, 2);
  });
});

describe("bodies", () => {
  it("have the apparent mass of a spheroid (Lamb, 114): table to three digits", () => {
    for (const [fineness, k] of [
      [1.5, 0.621 - 0.305],
      [2, 0.702 - 0.209],
      [3, 0.803 - 0.122],
      [5, 0.895 - 0.059],
      [10, 0.96 - 0.021],
    ] as const)
      expect(apparentMass(fineness)).toBeCloseTo(k, 2);
    expect(apparentMass(1)).toBe(0);
    expect(apparentMass(500)).toBeCloseTo(1, 3);
  });
  it("turn across the flow by twice their volume (Munk)", () => {
    const frames = Array.from({ length: 24 }, (_, k) => {
      const x = k / 23;
      const d = 0.1 * Math.sqrt(Math.max(0, 1 - (2 * x - 1) ** 2));
      return { x, z: 0, width: d, height: d };
    });
    const volume = (4 / 3) * Math.PI * 0.5 * 0.05 ** 2;
    const m = bodyMoments({ frames, mirrored: false, across: "round" });
    expect(m.pitch / (2 * volume * apparentMass(10))).toBeCloseTo(1, 1);
    expect(m.yaw).toBeCloseTo(m.pitch, 12);
    expect(bodyMoments({ frames, mirrored: true, across: "round" }).pitch).toBeCloseTo(2 * m.pitch, 12);
  });
});

describe("a lattice that is the same on both sides", () => {
  const whole = (el: Elements, flip: number | null) => {
    const all = influences(el.count, null, (i, j) => influence(el, i, j, flip));
    return { all, factored: new Factored(all, null) };
  };
  const craft: [string, (s: Surface[]) => void, boolean][] = [
    ["tern", () => {}, true],
    ["gannet", () => {}, true],
    ["annulus", () => {}, true],
    // A fin beside the middle, and a tailplane on one side: the sides differ.
    ["tern", (s) => void (s[2] && (s[2].at.y = 0.03)), false],
    ["tern", (s) => void (s[1] && (s[1].mirrored = false)), false],
  ];
  it.each(craft)("%s: half of it made and solved in two halves is the whole", (name, change, alike) => {
    const surfaces = structuredClone(demoFile(name).versions.at(-1)?.design.surfaces ?? []);
    change(surfaces);
    const el = elementsOf(
      surfaces,
      surfaces.map(() => 0),
      COARSE,
    );
    const pairs = pairsOf(el);
    expect(pairs !== null).toBe(alike);
    for (const flip of [null, 0.3]) {
      const { all, factored } = whole(el, flip);
      const made = influences(el.count, pairs, (i, j) => influence(el, i, j, flip));
      expect(Matrix.sub(made, all).norm()).toBeLessThan(1e-10 * all.norm());
      const random = seededRandom(5);
      const right = Matrix.rand(el.count, 3, { random: () => random.uniform() - 0.5 });
      const [ours, theirs] = [new Factored(made, pairs).solve(right), factored.solve(right)];
      expect(Matrix.sub(ours.x, theirs.x).norm()).toBeLessThan(1e-9 * theirs.x.norm());
      expect(Matrix.sub(all.mmul(ours.x), right).norm()).toBeLessThan(1e-9);
      expect(ours.residual).toBeLessThan(1e-9);
      const g = Float64Array.from({ length: el.count }, () => random.uniform() - 0.5);
      const back = Matrix.columnVector([...new Factored(made, pairs).transposed(g)]);
      expect(Matrix.sub(all.transpose().mmul(back), Matrix.columnVector([...g])).norm()).toBeLessThan(1e-9);
    }
  });
});
