import { LuDecomposition, Matrix } from "ml-matrix";
import type { Elements } from "./elements";

/** m within which two places are one. */
const SAME = 1e-9;

/** Which element stands on the other side of each, of a lattice that is the same on both sides. */
export interface Pairs {
  /** index of the one across; its own in the middle */
  across: Int32Array;
  /** starboard ones */
  side: number[];
  /** in the middle: those that lie flat, whose circulation is that of both sides; and upright, of neither */
  flat: number[];
  upright: number[];
}

/** The pairs of a lattice; null where its two sides differ, or something stands askew in the middle. */
export function pairsOf(el: Elements): Pairs | null {
  const first: number[] = el.strips.map(() => -1);
  for (let i = el.count - 1; i >= 0; i--) first[el.strip[i] as number] = i;
  const across = new Int32Array(el.count).fill(-1);
  const pairs: Pairs = { across, side: [], flat: [], upright: [] };
  for (let i = 0; i < el.count; i++) {
    const k = el.strip[i] as number;
    const s = el.strips[k];
    if (!s) return null;
    if (Math.abs(s.y) < SAME) {
      if (Math.abs(s.tz) > SAME && Math.abs(s.ty) > SAME) return null;
      across[i] = i;
      (Math.abs(s.ty) > SAME ? pairs.flat : pairs.upright).push(i);
      continue;
    }
    const other = el.strips.findIndex(
      (o, j) =>
        j !== k &&
        o.surface === s.surface &&
        o.side === -s.side &&
        Math.abs(o.x - s.x) < SAME &&
        Math.abs(o.y + s.y) < SAME &&
        Math.abs(o.z - s.z) < SAME,
    );
    if (other < 0) return null;
    const j = (first[other] as number) + i - (first[k] as number);
    if (el.strip[j] !== other || !mirrored(el, i, j)) return null;
    across[i] = j;
    if (s.y > 0) pairs.side.push(i);
  }
  return pairs;
}

/** Whether the bound vortex of one element runs as that of another does in a mirror, so that both lift alike. */
function mirrored({ ends, points }: Elements, i: number, j: number): boolean {
  const same = (a: number | undefined, b: number | undefined) => Math.abs((a ?? 0) - (b ?? 1)) < SAME;
  const [e, f] = [6 * i, 6 * j];
  return (
    same(ends[e], ends[f + 3]) &&
    same(ends[e + 1], -(ends[f + 4] ?? 0)) &&
    same(ends[e + 2], ends[f + 5]) &&
    same(ends[e + 3], ends[f]) &&
    same(ends[e + 4], -(ends[f + 1] ?? 0)) &&
    same(points[3 * i], points[3 * j]) &&
    same(points[3 * i + 1], -(points[3 * j + 1] ?? 0))
  );
}

/** Fills a matrix of influences: of a lattice that is the same on both sides half is made and half is mirrored. */
export function influences(n: number, pairs: Pairs | null, influence: (i: number, j: number) => number): Matrix {
  const matrix = new Matrix(n, n);
  const rows = pairs ? [...pairs.side, ...pairs.flat, ...pairs.upright] : Array.from({ length: n }, (_, i) => i);
  for (const i of rows) for (let j = 0; j < n; j++) matrix.set(i, j, influence(i, j));
  if (!pairs) return matrix;
  const turned = new Set(pairs.upright);
  for (const i of pairs.side) {
    const other = pairs.across[i] as number;
    for (let j = 0; j < n; j++)
      matrix.set(other, pairs.across[j] as number, (turned.has(j) ? -1 : 1) * matrix.get(i, j));
  }
  return matrix;
}

/** One of the systems that a lattice falls into: what is alike on both sides, what is opposed, or all of it. */
interface Part {
  rows: number[];
  /** those of them that stand in the middle begin here */
  middle: number;
  /** what stands across has this many times the circulation; 0: it is taken by itself */
  sign: 1 | -1 | 0;
  matrix: Matrix;
  lu: LuDecomposition;
}

/** A system of linear equations over the elements, factored: of two alike sides in two of half the size. */
export class Factored {
  private readonly parts: Part[];

  constructor(
    private readonly matrix: Matrix,
    private readonly pairs: Pairs | null,
  ) {
    const n = matrix.rows;
    const all = Array.from({ length: n }, (_, i) => i);
    this.parts = pairs
      ? [this.part(pairs.side, pairs.flat, 1), this.part(pairs.side, pairs.upright, -1)].filter(
          (p) => p.rows.length > 0,
        )
      : [this.part(all, [], 0)];
  }

  private part(side: readonly number[], middle: readonly number[], sign: Part["sign"]): Part {
    const rows = [...side, ...middle];
    const matrix = new Matrix(rows.length, rows.length);
    for (const [r, i] of rows.entries())
      for (const [c, j] of rows.entries()) {
        const across = c < side.length && sign !== 0 ? sign * this.matrix.get(i, this.pairs?.across[j] as number) : 0;
        matrix.set(r, c, this.matrix.get(i, j) + across);
      }
    return { rows, middle: side.length, sign, matrix, lu: new LuDecomposition(matrix) };
  }

  /** No flow along these surfaces can be found. */
  get singular(): boolean {
    return this.parts.some((p) => p.lu.isSingular());
  }

  /** What of a value at each element belongs to a part: its share that is alike on both sides, or opposed. */
  private shareOf({ middle, sign }: Part, r: number, i: number, at: (i: number) => number): number {
    return sign === 0 || r >= middle ? at(i) : (at(i) + sign * at(this.pairs?.across[i] as number)) / 2;
  }

  /** Solves A·X = B, and by how much it fails to at the most. */
  solve(right: Matrix): { x: Matrix; residual: number } {
    const x = Matrix.zeros(right.rows, right.columns);
    let residual = 0;
    for (const part of this.parts) {
      const { rows, middle, sign, matrix, lu } = part;
      const b = new Matrix(rows.length, right.columns);
      for (const [r, i] of rows.entries())
        for (let c = 0; c < right.columns; c++)
          b.set(
            r,
            c,
            this.shareOf(part, r, i, (k) => right.get(k, c)),
          );
      const found = lu.solve(b);
      const left = Matrix.sub(matrix.mmul(found), b);
      residual = Math.max(residual, Math.abs(left.max()), Math.abs(left.min()));
      if (!Number.isFinite(left.max()) || !Number.isFinite(left.min())) residual = Number.POSITIVE_INFINITY;
      for (const [r, i] of rows.entries())
        for (let c = 0; c < right.columns; c++) {
          const v = found.get(r, c);
          x.set(i, c, x.get(i, c) + v);
          const other = this.pairs?.across[i] as number;
          if (sign !== 0 && r < middle) x.set(other, c, x.get(other, c) + sign * v);
        }
    }
    return { x, residual };
  }

  /** Solves Aᵀ·x = g. */
  transposed(g: Float64Array): Float64Array {
    const out = new Float64Array(g.length);
    for (const part of this.parts) {
      const { rows, middle, sign, lu } = part;
      // What stands in the middle is met once by what both sides meet twice.
      const own = Float64Array.from(rows, (i, r) => {
        const v = this.shareOf(part, r, i, (k) => g[k] as number);
        return sign !== 0 && r >= middle ? v / 2 : v;
      });
      const found = backwards(lu, own);
      for (const [r, i] of rows.entries()) {
        const v = found[r] as number;
        if (sign === 0) out[i] = v;
        else if (r >= middle) out[i] = 2 * v;
        else {
          const other = this.pairs?.across[i] as number;
          out[i] = (out[i] as number) + v;
          out[other] = (out[other] as number) + sign * v;
        }
      }
    }
    return out;
  }
}

/** Solves Aᵀx = g from the factors of A (P·A = L·U). */
function backwards(lu: LuDecomposition, g: Float64Array): Float64Array {
  const [l, u, order] = [lu.lowerTriangularMatrix, lu.upperTriangularMatrix, lu.pivotPermutationVector];
  const n = g.length;
  const y = Float64Array.from(g);
  for (let i = 0; i < n; i++) {
    const v = (y[i] as number) / u.get(i, i);
    y[i] = v;
    for (let k = i + 1; k < n; k++) y[k] = (y[k] as number) - u.get(i, k) * v;
  }
  for (let i = n - 1; i >= 0; i--) {
    const v = y[i] as number;
    for (let k = 0; k < i; k++) y[k] = (y[k] as number) - l.get(i, k) * v;
  }
  const out = new Float64Array(n);
  for (let i = 0; i < n; i++) out[order[i] as number] = y[i] as number;
  return out;
}
