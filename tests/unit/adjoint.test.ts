import { beforeAll, describe, expect, it } from "vitest";
import type { Design, Surface } from "../../core/design/schema";
import { FINE, type Elements, elementsOf } from "../../core/subjects/flight/elements";
import { type CauseName, type Solved, movedBy, solveLattice } from "../../core/subjects/flight/lattice";
import { quietDesign } from "../support/designs";
import { panel, surface, winged } from "../support/wings";

/**
 * How lift and moment move with the shape, told without solving again, against the lattice solved again: two ways to
 * the same number. Every ± of the neutral point, the window and the stall rests on it.
 */
const CAUSES: CauseName[] = ["set", "alpha", "control 0"];
const cut = (surfaces: readonly Surface[], like?: Elements) =>
  elementsOf(
    surfaces,
    surfaces.map(() => 0.01),
    { ...FINE, ...(like ? { each: like.each } : {}) },
  );
const solve = (el: Elements, ground: number | null = null): Solved => {
  const s = solveLattice(el, ground);
  if (!s) throw new Error("not solved");
  return s;
};
const each = (s: Surface, change: (p: Surface["panels"][number]) => void) => {
  for (const p of s.panels) change(p);
};
const CHANGES: [string, (s: Surface) => void][] = [
  ["its root chord", (s) => void (s.chord += 1e-4)],
  ["the chord of its tip", (s) => each(s, (p) => void (p.chord += 1e-4))],
  ["its span", (s) => each(s, (p) => void (p.span += 1e-4))],
  ["its sweep", (s) => each(s, (p) => void (p.sweep += 1e-4))],
  ["its dihedral", (s) => each(s, (p) => void (p.dihedral += 1e-4))],
  ["its incidence", (s) => void (s.incidence += 1e-4)],
  ["its twist", (s) => each(s, (p) => void (p.twist += 1e-4))],
  ["its place along", (s) => void (s.at.x += 1e-4)],
  ["its height", (s) => void (s.at.z += 1e-4)],
];

describe.each([
  ["far above the ground", null],
  ["near the ground", 0.12],
] as const)("the adjoint of the lattice, %s", (_where, ground) => {
  let surfaces: Surface[];
  let base: Solved;
  beforeAll(() => {
    const d: Design = structuredClone(quietDesign());
    winged(d);
    surfaces = d.surfaces;
    base = solve(cut(surfaces), ground);
  });
  it.each(CHANGES.flatMap(([what, change]) => [0, 1, 2].map((k) => [what, k, change] as const)))(
    "moves with %s of surface %s as the lattice solved again",
    (_what, k, change) => {
      const changed = surfaces.map((s, i) => (i === k ? structuredClone(s) : s));
      change(changed[k] as Surface);
      const el = cut(changed, base.el);
      expect(el.count).toBe(base.el.count);
      const told = movedBy(base, el, k, CAUSES);
      const again = solve(el, ground);
      for (const cause of CAUSES)
        for (const key of ["z", "my"] as const) {
          const [was, is] = [base.causes[cause]?.[key] ?? Number.NaN, again.causes[cause]?.[key] ?? Number.NaN];
          const first = told.get(cause)?.[key] ?? Number.NaN;
          // First order: what is left over is of the second, a millionth of what there is and 3 % of the change.
          expect(Math.abs(first - (is - was)), `${cause} ${key}: ${first} and ${is - was}`).toBeLessThan(
            0.03 * Math.abs(is - was) + 2e-6 * Math.abs(was) + 1e-9,
          );
        }
    },
  );
  it("nothing moves where nothing changed", () => {
    for (const [, by] of movedBy(base, cut(surfaces, base.el), null, CAUSES)) {
      expect(by.z).toBeCloseTo(0, 12);
      expect(by.my).toBeCloseTo(0, 12);
    }
  });
});

describe("the height over the ground", () => {
  it("moves lift and moment as the lattice solved again at another height", () => {
    const d: Design = structuredClone(quietDesign());
    winged(d);
    const el = cut(d.surfaces);
    const base = solve(el, 0.12);
    const told = movedBy(base, el, null, ["alpha"], 2 * 0.1201).get("alpha");
    const again = solve(el, 0.1201);
    for (const key of ["z", "my"] as const) {
      const change = (again.causes.alpha?.[key] ?? 0) - (base.causes.alpha?.[key] ?? 0);
      expect(Math.abs((told?.[key] ?? 0) / change - 1)).toBeLessThan(0.03);
    }
    // Nearer the ground a wing lifts more (Wieselsberger).
    expect(told?.z).toBeLessThan(0);
  });
});

describe("a lattice of one wing", () => {
  it("has a lift that moves with its area at one aspect ratio, and a moment arm that goes with its place", () => {
    const wing = surface({ id: "w", chord: 0.2, panels: [panel(0.6, 0.2)] });
    const base = solve(cut([wing]));
    const larger = surface({ id: "w", chord: 0.202, panels: [panel(0.606, 0.202)] });
    const told = movedBy(base, cut([larger], base.el), 0, ["alpha"]).get("alpha");
    // Twice a hundredth of the lift (area), within the second order.
    expect((told?.z ?? 0) / (base.causes.alpha?.z ?? 1)).toBeCloseTo(0.02, 3);
    const { at } = wing;
    const aft = { ...wing, at: { ...at, x: at.x + 0.01 } };
    const moved = movedBy(base, cut([aft], base.el), 0, ["alpha"]).get("alpha");
    expect(moved?.z).toBeCloseTo(0, 9);
    expect(moved?.my).toBeCloseTo(-0.01 * (base.causes.alpha?.z ?? 0), 9);
  });
});
