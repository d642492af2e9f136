import { type Evidence, evidenceByShare, magnitudeSd, placeSd, weakest } from "../../design/evidence";
import { AXES, type Axis, type Design, type Item, type Point } from "../../design/schema";
import { isPlaced } from "./placed";
import { edgesOf, outlineOf } from "../surfaces/planform";

/** One body of the ledger: an item, or one half of a mirrored pair. */
export interface Body {
  mass: number;
  place: Point;
}

/**
 * The bodies that an item stands for, with a mass of 0 while it is not known. A mirrored item is half at +y, half at
 * −y.
 */
export function bodies(item: Item): Body[] {
  const mass = (item.mass?.value ?? 0) * item.quantity;
  if (!item.mirrored) return [{ mass, place: item.place }];
  return [1, -1].map((side) => ({ mass: mass / 2, place: { ...item.place, y: side * Math.abs(item.place.y) } }));
}

export interface Extent {
  min: Point;
  max: Point;
}

/**
 * The box around all parts of the ledger, wings and bodies, m; null where there is none of them. A part counts along
 * the axes along which somebody said where it is, with its size when that was said; as drawn, all count as they are.
 * Along an axis along which nobody said where anything is the box has no length, and begins at 0.
 */
export function extent(
  design: Pick<Design, "items"> & Partial<Pick<Design, "surfaces" | "bodies">>,
  drawn = false,
): Extent | null {
  const outlines = [
    ...(design.surfaces ?? []).flatMap((s) => [...outlineOf(s, 1), ...(s.mirrored ? outlineOf(s, -1) : [])]),
    ...(design.bodies ?? []).flatMap(edgesOf),
  ];
  if (design.items.length === 0 && outlines.length === 0) return null;
  const min = { x: Infinity, y: Infinity, z: Infinity };
  const max = { x: -Infinity, y: -Infinity, z: -Infinity };
  for (const axis of AXES) {
    let [low, high] = [Infinity, -Infinity];
    for (const item of design.items) {
      if (!drawn && !isPlaced(item, axis)) continue;
      const c = item.place[axis];
      const half = item.unsized && !drawn ? 0 : item.size[axis] / 2;
      const mirror = axis === "y" && item.mirrored;
      low = Math.min(low, (mirror ? -Math.abs(c) : c) - half);
      high = Math.max(high, (mirror ? Math.abs(c) : c) + half);
    }
    if (low > high && outlines.length === 0) low = high = 0;
    min[axis] = low;
    max[axis] = high;
  }
  for (const p of outlines)
    for (const axis of AXES) {
      min[axis] = Math.min(min[axis], p[axis]);
      max[axis] = Math.max(max[axis], p[axis]);
    }
  return { min, max };
}

/** A part of which nobody said the size is a point. */
const NO_SIZE = { x: 0, y: 0, z: 0 };

/** Square of the radius of gyration of a homogeneous box about the axis through its middle along `c`, m². */
const solid = (a: number, b: number, _c: number): number => (a * a + b * b) / 12;

/**
 * The same of a thin shell of the box's shape, equally thick all over: each pair of faces as plates, the ones beside
 * the axis carried out to it.
 */
function shell(a: number, b: number, c: number): number {
  const faces = [b * c, a * c, a * b];
  const area = (faces[0] ?? 0) + (faces[1] ?? 0) + (faces[2] ?? 0);
  if (!(area > 0)) return solid(a, b, c);
  const square = [b ** 2 / 12 + a ** 2 / 4, a ** 2 / 12 + b ** 2 / 4, (a ** 2 + b ** 2) / 12];
  return faces.reduce((s, f, i) => s + f * (square[i] ?? 0), 0) / area;
}

/** Where the middle of an item is along an axis: that of a mirrored pair is in the plane of symmetry. */
const middleOf = (item: Item, axis: Axis): number => (axis === "y" && item.mirrored ? 0 : item.place[axis]);

/** Mean square of the distance of an item's bodies from the CG along an axis, m²; 0 where nobody said where it is. */
function squareOf(item: Item, axis: Axis, cg: Point): number {
  if (!isPlaced(item, axis)) return 0;
  return axis === "y" && item.mirrored ? item.place.y ** 2 + cg.y ** 2 : (item.place[axis] - cg[axis]) ** 2;
}

/** Three numbers in the order of AXES: sums over many parts are kept in these, which hold nothing but numbers. */
const three = () => new Float64Array(3) as unknown as [number, number, number];
const named = ([x, y, z]: [number, number, number]): Point => ({ x, y, z });
const turning = ([roll, pitch, yaw]: [number, number, number]) => ({ roll, pitch, yaw });
const roots = (of: [number, number, number]) => of.map(Math.sqrt) as [number, number, number];

/** What one item does to the whole. */
export interface ItemShare {
  id: string;
  /** kg, all pieces; null while unknown */
  mass: number | null;
  massSd: number;
  placeSd: number;
  /** Standard uncertainty that this item alone puts into the CG along x, m. */
  blurX: number;
}

export interface MassResult {
  mass: number;
  massSd: number;
  /** Of the parts that have a place along each axis; 0 where none has one. */
  cg: Point;
  /** Whether somebody said of every part with a mass where it is along each axis: else the CG there is open. */
  placed: Record<Axis, boolean>;
  cgSd: Point;
  /** Covariances of the CG, m²: for the ellipses of the side (xz), top (xy) and front (yz) views. */
  cov: { xz: number; xy: number; yz: number };
  /** Moments of inertia about the CG, kg·m². */
  inertia: { roll: number; pitch: number; yaw: number };
  inertiaSd: { roll: number; pitch: number; yaw: number };
  cgEvidence: Record<Axis, Evidence>;
  /** That of the inertia: as well known as the place of the CG on the worst of its axes. */
  inertiaEvidence: Evidence;
  items: ItemShare[];
  /** Items without a mass: left out of every sum. */
  withoutMass: string[];
}

/**
 * Mass, centre of gravity and inertia of the ledger with first-order uncertainty. Errors of different items are taken
 * as independent; all pieces of one item share one error (they were weighed or guessed as one). Own inertia: a
 * homogeneous box of the entered size; of a hollow part, a thin shell of that shape; a part without a size is a point.
 *
 * @returns null when no item has a mass
 * Source: R. L. Boynton and K. Wiener, mass-properties practice (common practice); parallel-axis theorem. Checked
 * against the weight-and-balance examples and closed forms named in the tests.
 */
export function rollUp(design: Pick<Design, "items">): MassResult | null {
  const { items } = design;
  let mass = 0;
  const placed: Record<Axis, boolean> = { x: true, y: true, z: true };
  // Along an axis a part counts once somebody said where it is; where nobody did of any there is nothing to divide.
  const share = three();
  const middle = three();
  for (const item of items) {
    if (item.mass === null) continue;
    const total = item.mass.value * item.quantity;
    mass += total;
    for (let k = 0 as 0 | 1 | 2; k < 3; k++) {
      const axis = AXES[k];
      if (!isPlaced(item, axis)) {
        placed[axis] = false;
        continue;
      }
      share[k] += total;
      middle[k] += total * middleOf(item, axis);
    }
  }
  if (!(mass > 0)) return null;
  for (let k = 0 as 0 | 1 | 2; k < 3; k++) {
    share[k] ||= 1;
    middle[k] /= share[k];
  }
  const cg = named(middle);
  const box = extent(design);
  const length = box ? Math.max(box.max.x - box.min.x, box.max.y - box.min.y, box.max.z - box.min.z) : 0;

  let massVar = 0;
  const cgVar = three();
  let [xz, xy, yz] = [0, 0, 0];
  const inertia = three();
  const inertiaVar = three();
  const byMass = three();
  const byPlace = three();
  // Variance by how well what causes it is known.
  const doubts = { x: new Map<Evidence, number>(), y: new Map<Evidence, number>(), z: new Map<Evidence, number>() };
  const doubt = (axis: Axis, evidence: Evidence, by: number) =>
    void doubts[axis].set(evidence, (doubts[axis].get(evidence) ?? 0) + by);
  const shares: ItemShare[] = [];
  for (const item of items) {
    if (item.mass === null) {
      shares.push({ id: item.id, mass: null, massSd: 0, placeSd: 0, blurX: 0 });
      continue;
    }
    const total = item.mass.value * item.quantity;
    const sdMass = magnitudeSd(item.mass) * item.quantity;
    const sdPlace = placeSd(item.placeEvidence, length, item.placeSd);
    massVar += sdMass ** 2;
    // How far the doubt of its mass, and that of its place, move the CG.
    for (let k = 0 as 0 | 1 | 2; k < 3; k++) {
      const axis = AXES[k];
      const on = isPlaced(item, axis);
      byMass[k] = on ? (sdMass / share[k]) * (middleOf(item, axis) - middle[k]) : 0;
      // The halves of a mirrored pair err in opposite directions across the craft: their common y error cancels.
      byPlace[k] = on && !(axis === "y" && item.mirrored) ? (sdPlace * total) / share[k] : 0;
      cgVar[k] += byMass[k] ** 2 + byPlace[k] ** 2;
      doubt(axis, item.mass.evidence, byMass[k] ** 2);
      doubt(axis, item.placeEvidence, byPlace[k] ** 2);
    }
    xz += byMass[0] * byMass[2];
    xy += byMass[0] * byMass[1];
    yz += byMass[1] * byMass[2];
    const blurX = Math.sqrt(byMass[0] ** 2 + byPlace[0] ** 2);
    shares.push({ id: item.id, mass: total, massSd: sdMass, placeSd: sdPlace, blurX });

    const [x2, y2, z2] = [squareOf(item, "x", cg), squareOf(item, "y", cg), squareOf(item, "z", cg)];
    const { x, y, z } = item.unsized ? NO_SIZE : item.size;
    // A box of n pieces of one item counts once per body; pieces stacked at one place share that box.
    const of = item.hollow ? shell : solid;
    const turned = (k: 0 | 1 | 2, own: number, arm: number) => {
      inertia[k] += total * (own + arm);
      inertiaVar[k] += ((own + arm) * sdMass) ** 2 + (2 * total * Math.sqrt(arm) * sdPlace) ** 2;
    };
    turned(0, of(y, z, x), y2 + z2);
    turned(1, of(x, z, y), x2 + z2);
    turned(2, of(x, y, z), x2 + y2);
  }
  const knownBy = (axis: Axis, variance: number) =>
    evidenceByShare([...doubts[axis]].map(([evidence, by]) => ({ evidence, share: variance > 0 ? by / variance : 0 })));
  const cgEvidence = { x: knownBy("x", cgVar[0]), y: knownBy("y", cgVar[1]), z: knownBy("z", cgVar[2]) };
  return {
    mass,
    massSd: Math.sqrt(massVar),
    cg,
    placed,
    cgSd: named(roots(cgVar)),
    cov: { xz, xy, yz },
    inertia: turning(inertia),
    inertiaSd: turning(roots(inertiaVar)),
    cgEvidence,
    inertiaEvidence: weakest(Object.values(cgEvidence)),
    items: shares,
    withoutMass: items.flatMap((i) => (i.mass === null ? [i.id] : [])),
  };
}
