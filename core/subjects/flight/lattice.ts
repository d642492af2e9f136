import { Matrix } from "ml-matrix";
import type { Elements } from "./elements";
import { Factored, influences, pairsOf } from "./halves";
import { comesAcross, influence, overlaid } from "./influence";

/** Force and moment about the origin of the body axes for one cause, both over ½ρV²: m² and m³. */
export interface Reaction {
  /** to starboard */
  y: number;
  /** up */
  z: number;
  /** about the axes, right-handed: x aft, y to starboard, z up */
  mx: number;
  my: number;
  mz: number;
}
/** What one cause does to a craft: reactions, and the lift coefficient of every strip. */
export interface Cause extends Reaction {
  cl: number[];
}

/** What the flow is turned by: each cause alone, of size one. */
export type CauseName = "set" | "alpha" | "beta" | "p" | "q" | "r" | `control ${number}` | `opposed ${number}`;

export interface Solution {
  causes: Record<string, Cause>;
  /** drag due to lift over ½ρV², m², as a quadratic form over the causes named: Σ drag[i][j]·aᵢ·aⱼ */
  drag: { names: CauseName[]; form: number[][] };
  /** largest flow left through a surface by the solution, share of the free flow: what the solver left over */
  residual: number;
}

/** Speed across each strip far behind, made by the legs of all: [to][from], for unit circulation. */
function farBehind(el: Elements, ground: number | null): number[][] {
  const trace = el.strips.map((s) => {
    const half = s.width / 2;
    return { a: [s.y - s.ty * half, s.z - s.tz * half], b: [s.y + s.ty * half, s.z + s.tz * half], s };
  });
  const flat = (fromY: number, fromZ: number, y: number, z: number, s: (typeof trace)[number]["s"], sign: number) => {
    const [ry, rz] = [y - fromY, z - fromZ];
    const h2 = ry * ry + rz * rz;
    return h2 > 1e-18 ? (sign * (-rz * -s.tz + ry * s.ty)) / (2 * Math.PI * h2) : 0;
  };
  return trace.map((to) =>
    trace.map((from) => {
      const [y, z] = [to.s.y, to.s.z];
      const [[ay, az], [by, bz]] = [from.a as [number, number], from.b as [number, number]];
      let w = flat(by, bz, y, z, to.s, 1) + flat(ay, az, y, z, to.s, -1);
      if (ground !== null) {
        const mirror = (v: number) => -2 * ground - v;
        w += flat(by, mirror(bz), y, z, to.s, el.image) + flat(ay, mirror(az), y, z, to.s, -el.image);
      }
      return w;
    }),
  );
}

/** Force and moment of each element a circulation: F/½ρV² = 2Γ/V · (x̂ × l), at the middle of its bound vortex. */
export function reactionOf(el: Elements, i: number): Reaction {
  const e = el.ends;
  const [ax, ay, az] = [e[6 * i] as number, e[6 * i + 1] as number, e[6 * i + 2] as number];
  const [bx, by, bz] = [e[6 * i + 3] as number, e[6 * i + 4] as number, e[6 * i + 5] as number];
  const [y, z] = [-2 * (bz - az), 2 * (by - ay)];
  const [mx, my, mz] = [(ax + bx) / 2, (ay + by) / 2, (az + bz) / 2];
  return { y, z, mx: my * z - mz * y, my: -mx * z, mz: mx * y };
}

/** A lattice that was solved, with what it takes to ask how its lift moves with its shape. */
export interface Solved extends Solution {
  el: Elements;
  flip: number | null;
  matrix: Matrix;
  names: CauseName[];
  /** circulation of each element by each cause */
  circulation: Matrix;
  /** for lift and for pitching moment: by how much each moves with the flow across each point */
  weights: { z: Float64Array; my: Float64Array };
}

/**
 * Lift, moments and drag due to lift of thin surfaces by the vortex-lattice method: small angles, no compressibility,
 * no separation, wakes straight along x. Every cause is solved alone and may be added up.
 *
 * @param ground height of the baseline (z = 0) over a flat ground, m, or over the surface of water (negative under it),
 *   which is an image of all vortices; null: none
 * @returns null when the surfaces are cut so that no flow along them can be found (two of them in one place)
 */
export function solveLattice(el: Elements, ground: number | null): Solved | null {
  const n = el.count;
  if (n === 0 || overlaid(el)) return null;
  const flip = ground === null ? null : 2 * ground;
  const pairs = pairsOf(el);
  const matrix = influences(n, pairs, (i, j) => influence(el, i, j, flip));
  const names: CauseName[] = ["set", "alpha", "beta", "p", "q", "r"];
  for (const [k, { surface }] of el.controls.entries()) {
    names.push(`control ${k}`);
    if (el.strips.some((s) => s.surface === surface && s.side === -1)) names.push(`opposed ${k}`);
  }
  const right = new Matrix(n, names.length);
  for (let i = 0; i < n; i++) for (const [c, name] of names.entries()) right.set(i, c, -comesAcross(el, i, name));
  const factored = new Factored(matrix, pairs);
  if (factored.singular) return null;
  const { x: circulation, residual } = factored.solve(right);
  if (!Number.isFinite(residual)) return null;
  const each = Array.from({ length: n }, (_, i) => reactionOf(el, i));
  const causes: Record<string, Cause> = {};
  const rounds: number[][] = [];
  for (const [c, name] of names.entries()) {
    const out: Cause = { y: 0, z: 0, mx: 0, my: 0, mz: 0, cl: el.strips.map(() => 0) };
    const round = el.strips.map(() => 0);
    for (const [i, r] of each.entries()) {
      const gamma = circulation.get(i, c);
      for (const k of ["y", "z", "mx", "my", "mz"] as const) out[k] += gamma * r[k];
      const s = el.strip[i] as number;
      round[s] = (round[s] ?? 0) + gamma;
    }
    for (const [s, strip] of el.strips.entries()) out.cl[s] = (2 * (round[s] ?? 0)) / strip.chord;
    causes[name] = out;
    rounds.push(round);
  }
  const weigh = (key: "z" | "my") => factored.transposed(Float64Array.from(each.map((r) => r[key])));
  return {
    causes,
    drag: dragForm(el, ground, names, rounds),
    residual,
    el,
    flip,
    matrix,
    names,
    circulation,
    weights: { z: weigh("z"), my: weigh("my") },
  };
}

/** Drag due to lift as a quadratic form: D = −½ρ ∫ Γ w ds far behind, over ½ρ: −Σ Γ w s. */
function dragForm(
  el: Elements,
  ground: number | null,
  all: readonly CauseName[],
  rounds: readonly number[][],
): Solution["drag"] {
  const behind = farBehind(el, ground);
  const names = all.filter((m) => m === "set" || m === "alpha" || m.startsWith("control"));
  const round = names.map((m) => rounds[all.indexOf(m)] as number[]);
  const wash = round.map((r) => behind.map((row) => row.reduce((sum, w, j) => sum + w * (r[j] ?? 0), 0)));
  const form = round.map((r) =>
    names.map((_, k) => -el.strips.reduce((sum, s, i) => sum + (r[i] ?? 0) * (wash[k]?.[i] ?? 0) * s.width, 0)),
  );
  return { names, form };
}

/** m from the middle within which something stands in it. */
const MIDDLE = 1e-9;
/**
 * Whether a craft is the same on both sides: each surface mirrored, or upright in the middle and there neither set nor
 * cambered to a side.
 */
const isSymmetric = (el: Elements): boolean => {
  const sides = el.strips.reduce((s, strip) => s + (Math.abs(strip.y) < MIDDLE ? 0 : strip.side), 0);
  return (
    sides === 0 &&
    el.strips.every((s) => Math.abs(s.y) > MIDDLE || Math.abs(s.ty) < MIDDLE) &&
    el.strip.every((k, i) => Math.abs(el.strips[k]?.y ?? 1) > MIDDLE || Math.abs(comesAcross(el, i, "set")) < MIDDLE)
  );
};

/**
 * First-order change of lift and pitching moment of a cause when one surface is another: with the weights λ of the
 * solved lattice, ΔJ = (g′ − g)·Γ + λ·(b′ − b − (A′ − A)·Γ). Nothing is solved again; only what that surface makes and
 * meets is looked at. Source: adjoint sensitivities of a linear system (any textbook of numerical optimisation).
 *
 * @param changed the same elements with that surface otherwise: as many, in the same order
 * @param surface which of them; null: all
 * @param flip twice the height over the ground that it then has, m
 */
export function movedBy(
  base: Solved,
  changed: Elements,
  surface: number | null,
  wanted: readonly CauseName[],
  flip: number | null = base.flip,
): Map<CauseName, { z: number; my: number }> {
  const { el, matrix, names, circulation, weights } = base;
  const n = el.count;
  const columns = wanted.map((name) => Float64Array.from(circulation.getColumn(names.indexOf(name))));
  const out = wanted.map(() => ({ z: 0, my: 0 }));
  const touched = Array.from(
    { length: n },
    (_, i) => surface === null || el.strips[el.strip[i] as number]?.surface === surface,
  );
  const own = [...touched.keys()].filter((i) => touched[i]);
  const every = [...touched.keys()];
  // Turned where it stands (incidence, camber), it makes the same flow as before.
  const stands = flip === base.flip && changed.ends.every((v, k) => v === el.ends[k]);
  // What is the same on both sides is looked at on one: these causes have no side, and what stands in the middle no
  // part in them.
  const alike = isSymmetric(el) && isSymmetric(changed);
  const row = new Float64Array(wanted.length);
  for (let i = 0; i < n; i++) {
    const strip = el.strips[el.strip[i] as number];
    if (alike && (strip?.side === -1 || Math.abs(strip?.y ?? 0) < MIDDLE)) continue;
    const times = alike ? 2 : 1;
    row.fill(0);
    if (!stands)
      for (const j of touched[i] ? every : own) {
        const by = influence(changed, i, j, flip) - matrix.get(i, j);
        for (let c = 0; c < columns.length; c++)
          row[c] = (row[c] as number) - by * ((columns[c] as Float64Array)[j] as number);
      }
    const turned = touched[i] === true;
    const [then, now] = turned ? [reactionOf(changed, i), reactionOf(el, i)] : [null, null];
    for (const [c, name] of wanted.entries()) {
      const o = out[c] as { z: number; my: number };
      if (then && now) {
        row[c] = (row[c] as number) - (comesAcross(changed, i, name) - comesAcross(el, i, name));
        const gamma = (columns[c] as Float64Array)[i] as number;
        o.z += times * (then.z - now.z) * gamma;
        o.my += times * (then.my - now.my) * gamma;
      }
      o.z += times * (weights.z[i] as number) * (row[c] as number);
      o.my += times * (weights.my[i] as number) * (row[c] as number);
    }
  }
  return new Map(wanted.map((name, c) => [name, out[c] as { z: number; my: number }]));
}
