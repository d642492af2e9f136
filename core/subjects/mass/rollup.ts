import { EVIDENCE, type Evidence, evidenceByShare, magnitudeSd, placeSd, weakest } from "../../design/evidence";
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
    for (const item of design.items) {
      if (!drawn && !isPlaced(item, axis)) continue;
      const c = item.place[axis];
      const half = item.unsized && !drawn ? 0 : item.size[axis] / 2;
      const mirror = axis === "y" && item.mirrored;
      min[axis] = Math.min(min[axis], (mirror ? -Math.abs(c) : c) - half);
      max[axis] = Math.max(max[axis], (mirror ? Math.abs(c) : c) + half);
    }
    if (min[axis] > max[axis] && outlines.length === 0) min[axis] = max[axis] = 0;
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

const zero = (): Record<Axis, number> => ({ x: 0, y: 0, z: 0 });
const noTurn = () => ({ roll: 0, pitch: 0, yaw: 0 });

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
 * as independent;
 * all pieces of one item share one error (they were weighed or guessed as one). Own inertia: a homogeneous box of the
 * entered size; of a hollow part, a thin shell of that shape; a part without a size is a point.
 *
 * @returns null when no item has a mass
 * Source: R. L. Boynton and K. Wiener, mass-properties practice (common practice); parallel-axis theorem. Checked
 * against the
 * weight-and-balance examples and closed forms named in the tests.
 */
export function rollUp(design: Pick<Design, "items">): MassResult | null {
  const { items } = design;
  let mass = 0;
  const placed: Record<Axis, boolean> = { x: true, y: true, z: true };
  // Along an axis a part counts once somebody said where it is; where nobody did of any there is nothing to divide.
  const share = zero();
  const cg = zero();
  for (const item of items) {
    if (item.mass === null) continue;
    const total = item.mass.value * item.quantity;
    mass += total;
    for (const axis of AXES) {
      if (!isPlaced(item, axis)) {
        placed[axis] = false;
        continue;
      }
      share[axis] += total;
      cg[axis] += total * middleOf(item, axis);
    }
  }
  if (!(mass > 0)) return null;
  for (const axis of AXES) {
    share[axis] ||= 1;
    cg[axis] /= share[axis];
  }
  const box = extent(design);
  const length = box ? Math.max(box.max.x - box.min.x, box.max.y - box.min.y, box.max.z - box.min.z) : 0;

  let massVar = 0;
  const cgVar = zero();
  const cov = { xz: 0, xy: 0, yz: 0 };
  const inertia = noTurn();
  const inertiaVar = noTurn();
  // Variance by how well what causes it is known.
  const doubts: Record<Axis, Partial<Record<Evidence, number>>> = { x: {}, y: {}, z: {} };
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
    const byMass = zero();
    const byPlace = zero();
    for (const axis of AXES) {
      if (isPlaced(item, axis)) {
        byMass[axis] = (sdMass / share[axis]) * (middleOf(item, axis) - cg[axis]);
        // The halves of a mirrored pair err in opposite directions across the craft: their common y error cancels.
        byPlace[axis] = axis === "y" && item.mirrored ? 0 : (sdPlace * total) / share[axis];
      }
      const by = doubts[axis];
      cgVar[axis] += byMass[axis] ** 2 + byPlace[axis] ** 2;
      by[item.mass.evidence] = (by[item.mass.evidence] ?? 0) + byMass[axis] ** 2;
      by[item.placeEvidence] = (by[item.placeEvidence] ?? 0) + byPlace[axis] ** 2;
    }
    cov.xz += byMass.x * byMass.z;
    cov.xy += byMass.x * byMass.y;
    cov.yz += byMass.y * byMass.z;
    const blurX = Math.hypot(byMass.x, byPlace.x);
    shares.push({ id: item.id, mass: total, massSd: sdMass, placeSd: sdPlace, blurX });

    const [x2, y2, z2] = [squareOf(item, "x", cg), squareOf(item, "y", cg), squareOf(item, "z", cg)];
    const { x, y, z } = item.unsized ? NO_SIZE : item.size;
    // A box of n pieces of one item counts once per body; pieces stacked at one place share that box.
    const of = item.hollow ? shell : solid;
    const turned = (axis: "roll" | "pitch" | "yaw", own: number, arm: number) => {
      inertia[axis] += total * (own + arm);
      inertiaVar[axis] += ((own + arm) * sdMass) ** 2 + (2 * total * Math.sqrt(arm) * sdPlace) ** 2;
    };
    turned("roll", of(y, z, x), y2 + z2);
    turned("pitch", of(x, z, y), x2 + z2);
    turned("yaw", of(x, y, z), x2 + y2);
  }
  const knownBy = (axis: Axis) =>
    evidenceByShare(
      EVIDENCE.flatMap((evidence) => {
        const by = doubts[axis][evidence];
        return by === undefined ? [] : [{ evidence, share: cgVar[axis] > 0 ? by / cgVar[axis] : 0 }];
      }),
    );
  const cgEvidence = { x: knownBy("x"), y: knownBy("y"), z: knownBy("z") };
  return {
    mass,
    massSd: Math.sqrt(massVar),
    cg,
    placed,
    cgSd: { x: Math.sqrt(cgVar.x), y: Math.sqrt(cgVar.y), z: Math.sqrt(cgVar.z) },
    cov,
    inertia,
    inertiaSd: { roll: Math.sqrt(inertiaVar.roll), pitch: Math.sqrt(inertiaVar.pitch), yaw: Math.sqrt(inertiaVar.yaw) },
    cgEvidence,
    inertiaEvidence: weakest(Object.values(cgEvidence)),
    items: shares,
    withoutMass: items.flatMap((i) => (i.mass === null ? [i.id] : [])),
  };
}
