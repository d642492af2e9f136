import type { Elements, Strip } from "./elements";
import type { CauseName } from "./lattice";

const FOUR_PI = 4 * Math.PI;

/**
 * Speed across a surface that one horseshoe of unit circulation makes at a point: bound part and both legs, which run
 * straight aft for ever.
 * Source: Biot–Savart for straight vortices (Katz & Plotkin, *Low-Speed Aerodynamics*, 2.12).
 *
 * @param flip twice the height of the baseline over the ground, for the image in it; null: the vortex itself
 * @param core2 square of a core's radius, m²: within it the speed of a leg falls to nothing, as in a real one
 */
function across(
  e: Float64Array,
  j: number,
  px: number,
  py: number,
  pz: number,
  ny: number,
  nz: number,
  core2: number,
  flip: number | null,
): number {
  // Mirrored in the ground the two ends stand at −flip − z.
  const ax = e[j] as number;
  const ay = e[j + 1] as number;
  const bx = e[j + 3] as number;
  const by = e[j + 4] as number;
  let az = e[j + 2] as number;
  let bz = e[j + 5] as number;
  if (flip !== null) {
    az = -flip - az;
    bz = -flip - bz;
  }
  const r1x = px - ax;
  const r1y = py - ay;
  const r1z = pz - az;
  const r2x = px - bx;
  const r2y = py - by;
  const r2z = pz - bz;
  const l1 = Math.sqrt(r1x * r1x + r1y * r1y + r1z * r1z);
  const l2 = Math.sqrt(r2x * r2x + r2y * r2y + r2z * r2z);
  let w = 0;
  // Bound part from a to b.
  const cy = r1z * r2x - r1x * r2z;
  const cz = r1x * r2y - r1y * r2x;
  const cx = r1y * r2z - r1z * r2y;
  const c2 = cx * cx + cy * cy + cz * cz;
  const dx = bx - ax;
  const dy = by - ay;
  const dz = bz - az;
  const d2 = dx * dx + dy * dy + dz * dz;
  if (c2 > 1e-18 * d2 && l1 > 0 && l2 > 0) {
    const k =
      (dx * (r1x / l1 - r2x / l2) + dy * (r1y / l1 - r2y / l2) + dz * (r1z / l1 - r2z / l2)) / (c2 + core2 * d2);
    w += k * (cy * ny + cz * nz);
  }
  // Leg that leaves b aft, and the one that comes to a from there.
  const h2 = r2y * r2y + r2z * r2z;
  if (h2 > 1e-18) w += ((1 + r2x / l2) / (h2 + core2)) * (-r2z * ny + r2y * nz);
  const h1 = r1y * r1y + r1z * r1z;
  if (h1 > 1e-18) w -= ((1 + r1x / l1) / (h1 + core2)) * (-r1z * ny + r1y * nz);
  return w / FOUR_PI;
}

/** Share of a chord within which two surfaces lie in one place. */
const SAME = 0.01;

/** Whether two surfaces lie in one place somewhere: then no flow along both of them can be found. */
export function overlaid({ count, points, strip, strips }: Elements): boolean {
  for (let i = 0; i < count; i++) {
    const mine = strips[strip[i] as number]?.surface;
    for (let j = 0; j < i; j++) {
      const dx = (points[3 * i] as number) - (points[3 * j] as number);
      const from = strips[strip[j] as number];
      if (!from || Math.abs(dx) > SAME * from.chord || from.surface === mine) continue;
      const dy = (points[3 * i + 1] as number) - (points[3 * j + 1] as number);
      const dz = (points[3 * i + 2] as number) - (points[3 * j + 2] as number);
      if (dx * dx + dy * dy + dz * dz < (SAME * from.chord) ** 2) return true;
    }
  }
  return false;
}

/**
 * Flow across the point of element i that element j makes with a circulation of one, its image included: in a ground,
 * which lets nothing through; or in the surface of water at speed, along which nothing is held back (high Froude
 * number).
 *
 * @param flip twice the height of the baseline over that plane, m, negative under it; null: far from it
 */
export function influence(el: Elements, i: number, j: number, flip: number | null): number {
  const { ends, points, normals, strip, strips, image } = el;
  const px = points[3 * i] as number;
  const py = points[3 * i + 1] as number;
  const pz = points[3 * i + 2] as number;
  const ny = normals[2 * i] as number;
  const nz = normals[2 * i + 1] as number;
  const from = strips[strip[j] as number] as Strip;
  // A leg that passes close by another surface has the core of a real one: half a strip.
  const core = from.surface === (strips[strip[i] as number] as Strip).surface ? 0 : from.width / 2;
  const w = across(ends, 6 * j, px, py, pz, ny, nz, core * core, null);
  return flip === null ? w : w + image * across(ends, 6 * j, px, py, pz, ny, nz, 0, flip);
}

/** Air that comes across the point of an element by one cause of size one: V∞ for angles, −ω × r for rates. */
export function comesAcross(el: Elements, i: number, name: CauseName): number {
  const [x, y, z] = [el.points[3 * i] as number, el.points[3 * i + 1] as number, el.points[3 * i + 2] as number];
  const [ny, nz] = [el.normals[2 * i] as number, el.normals[2 * i + 1] as number];
  const strip = el.strips[el.strip[i] as number];
  switch (name) {
    case "set":
      return strip?.incidence ?? 0;
    case "alpha":
      return nz;
    case "beta":
      return -ny;
    // Rates are positive about −x (starboard down), y (nose up) and −z (nose to starboard).
    case "p":
      return -z * ny + y * nz;
    case "q":
      return x * nz;
    case "r":
      return x * ny;
  }
  const turned = el.hinged[i] as number;
  if (turned < 0) return 0;
  if (name === `control ${turned}`) return 1;
  return name === `opposed ${turned}` ? (strip?.side ?? 1) : 0;
}
