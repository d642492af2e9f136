import { type Evidence, evidenceByShare, magnitudeSd, placeSd, weakest } from "../../design/evidence";
import type { Axis, Design, Item, Point } from "../../design/schema";
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
  for (const axis of ["x", "y", "z"] as const) {
    const said = drawn ? design.items : design.items.filter((i) => isPlaced(i, axis));
    if (said.length === 0 && outlines.length === 0) min[axis] = max[axis] = 0;
    for (const item of said) {
      const c = item.place[axis];
      const half = item.unsized && !drawn ? 0 : item.size[axis] / 2;
      const mirror = axis === "y" && item.mirrored;
      min[axis] = Math.min(min[axis], (mirror ? -Math.abs(c) : c) - half);
      max[axis] = Math.max(max[axis], (mirror ? Math.abs(c) : c) + half);
    }
  }
  for (const p of outlines)
    for (const axis of ["x", "y", "z"] as const) {
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
  const known = design.items.filter((i) => i.mass !== null);
  const withoutMass = design.items.filter((i) => i.mass === null).map((i) => i.id);
  const parts = known.flatMap((item) => bodies(item).map((body) => ({ item, ...body })));
  const mass = parts.reduce((s, p) => s + p.mass, 0);
  if (!(mass > 0)) return null;
  // Along an axis a part counts once somebody said where it is; where nobody did of any there is nothing to divide.
  const massAt = (axis: Axis) => parts.reduce((s, p) => s + (isPlaced(p.item, axis) ? p.mass : 0), 0) || 1;
  const share = { x: massAt("x"), y: massAt("y"), z: massAt("z") };
  const at = (axis: Axis) =>
    parts.reduce((s, p) => s + (isPlaced(p.item, axis) ? p.mass * p.place[axis] : 0), 0) / share[axis];
  const cg = { x: at("x"), y: at("y"), z: at("z") };
  const box = extent(design);
  const length = box ? Math.max(box.max.x - box.min.x, box.max.y - box.min.y, box.max.z - box.min.z) : 0;

  let massVar = 0;
  const cgVar = { x: 0, y: 0, z: 0 };
  const cov = { xz: 0, xy: 0, yz: 0 };
  const inertia = { roll: 0, pitch: 0, yaw: 0 };
  const inertiaVar = { roll: 0, pitch: 0, yaw: 0 };
  // Variance by how well what causes it is known.
  const doubts = { x: new Map<Evidence, number>(), y: new Map<Evidence, number>(), z: new Map<Evidence, number>() };
  const doubt = (axis: Axis, evidence: Evidence, by: number) =>
    doubts[axis].set(evidence, (doubts[axis].get(evidence) ?? 0) + by);
  const items: ItemShare[] = withoutMass.map((id) => ({ id, mass: null, massSd: 0, placeSd: 0, blurX: 0 }));
  for (const item of known) {
    if (item.mass === null) continue;
    const total = item.mass.value * item.quantity;
    const sdMass = magnitudeSd(item.mass) * item.quantity;
    const sdPlace = placeSd(item.placeEvidence, length, item.placeSd);
    const d = { x: item.place.x - cg.x, y: (item.mirrored ? 0 : item.place.y) - cg.y, z: item.place.z - cg.z };
    const on = (axis: Axis) => isPlaced(item, axis);
    const perKg = (axis: Axis) => (on(axis) ? sdMass / share[axis] : 0);
    const perMetre = (axis: Axis) => (on(axis) ? (sdPlace * total) / share[axis] : 0);
    massVar += sdMass ** 2;
    for (const axis of ["x", "y", "z"] as const) {
      const byMass = (perKg(axis) * d[axis]) ** 2;
      // The halves of a mirrored pair err in opposite directions across the craft: their common y error cancels.
      const byPlace = axis === "y" && item.mirrored ? 0 : perMetre(axis) ** 2;
      cgVar[axis] += byMass + byPlace;
      doubt(axis, item.mass.evidence, byMass);
      doubt(axis, item.placeEvidence, byPlace);
    }
    cov.xz += perKg("x") * perKg("z") * d.x * d.z;
    cov.xy += perKg("x") * perKg("y") * d.x * d.y;
    cov.yz += perKg("y") * perKg("z") * d.y * d.z;
    items.push({
      id: item.id,
      mass: total,
      massSd: sdMass,
      placeSd: sdPlace,
      blurX: Math.hypot(perKg("x") * d.x, perMetre("x")),
    });

    const own = { roll: 0, pitch: 0, yaw: 0 };
    const arm = { roll: 0, pitch: 0, yaw: 0 };
    for (const body of bodies(item)) {
      const off = (axis: Axis) => (on(axis) ? body.place[axis] - cg[axis] : 0);
      const r = { x: off("x"), y: off("y"), z: off("z") };
      const { x, y, z } = item.unsized ? NO_SIZE : item.size;
      // A box of n pieces of one item counts once per body; pieces stacked at one place share that box.
      const of = item.hollow ? shell : solid;
      own.roll += body.mass * of(y, z, x);
      own.pitch += body.mass * of(x, z, y);
      own.yaw += body.mass * of(x, y, z);
      arm.roll += body.mass * (r.y ** 2 + r.z ** 2);
      arm.pitch += body.mass * (r.x ** 2 + r.z ** 2);
      arm.yaw += body.mass * (r.x ** 2 + r.y ** 2);
    }
    for (const axis of ["roll", "pitch", "yaw"] as const) {
      const here = own[axis] + arm[axis];
      inertia[axis] += here;
      const radius = Math.sqrt(arm[axis] / total);
      inertiaVar[axis] += ((here / total) * sdMass) ** 2 + (2 * total * radius * sdPlace) ** 2;
    }
  }
  const byId = new Map(items.map((s) => [s.id, s]));
  const knownBy = (axis: Axis) =>
    evidenceByShare(
      [...doubts[axis]].map(([evidence, by]) => ({ evidence, share: cgVar[axis] > 0 ? by / cgVar[axis] : 0 })),
    );
  const cgEvidence = { x: knownBy("x"), y: knownBy("y"), z: knownBy("z") };
  return {
    mass,
    massSd: Math.sqrt(massVar),
    cg,
    placed: {
      x: known.every((i) => isPlaced(i, "x")),
      y: known.every((i) => isPlaced(i, "y")),
      z: known.every((i) => isPlaced(i, "z")),
    },
    cgSd: { x: Math.sqrt(cgVar.x), y: Math.sqrt(cgVar.y), z: Math.sqrt(cgVar.z) },
    cov,
    inertia,
    inertiaSd: { roll: Math.sqrt(inertiaVar.roll), pitch: Math.sqrt(inertiaVar.pitch), yaw: Math.sqrt(inertiaVar.yaw) },
    cgEvidence,
    inertiaEvidence: weakest(Object.values(cgEvidence)),
    items: design.items.map((i) => byId.get(i.id) as ItemShare),
    withoutMass,
  };
}
