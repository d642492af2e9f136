import type { Point } from "../../design/schema";
import type { BodyShape, Surface } from "./declares";

/** A cut through a surface, on the starboard side of a mirrored one. */
export interface Station {
  /** leading edge, m */
  at: Point;
  chord: number;
  /** against the x axis, rad: incidence of the root with the twist there */
  incidence: number;
  /** distance from the root along the surface, m */
  along: number;
}

/** The cuts at the root and at the end of each panel of the side that is entered. */
export function stationsOf(s: Pick<Surface, "at" | "chord" | "incidence" | "panels">): Station[] {
  const out: Station[] = [{ at: s.at, chord: s.chord, incidence: s.incidence, along: 0 }];
  for (const p of s.panels) {
    const from = out.at(-1) as Station;
    out.push({
      at: {
        x: from.at.x + p.span * Math.tan(p.sweep),
        y: from.at.y + p.span * Math.cos(p.dihedral),
        z: from.at.z + p.span * Math.sin(p.dihedral),
      },
      chord: p.chord,
      incidence: s.incidence + p.twist,
      along: from.along + p.span,
    });
  }
  return out;
}

export interface Planform {
  /** developed area, both sides, m² */
  area: number;
  /** area as seen from above, both sides, m² */
  plan: number;
  /** distance across as seen from above, m */
  span: number;
  /** mean aerodynamic chord, m: ∫c² ds / ∫c ds */
  mac: number;
  /** x of the leading edge of that chord, m */
  macX: number;
  /** span² / area as seen from above; 0 for a fin */
  aspect: number;
}

/** Share of an integral that a panel of linear chord has: ∫c, ∫c², ∫c·x over its unit length. */
const mean = (a: number, b: number) => (a + b) / 2;
const meanProduct = (a: number, b: number, p: number, q: number) => (2 * a * p + a * q + b * p + 2 * b * q) / 6;

/**
 * Area, span and mean aerodynamic chord of a surface, both sides. Any number of panels, each of straight edges.
 * Source: definition of the mean aerodynamic chord (ISO 1151-6 / any textbook); a trapezoid's is
 * (2/3)c_r(1+λ+λ²)/(1+λ).
 */
export function planformOf(s: Pick<Surface, "at" | "chord" | "incidence" | "panels" | "mirrored">): Planform {
  const cuts = stationsOf(s);
  const sides = s.mirrored ? 2 : 1;
  let [area, plan, c2, cx] = [0, 0, 0, 0];
  for (let k = 1; k < cuts.length; k++) {
    const [a, b] = [cuts[k - 1] as Station, cuts[k] as Station];
    const ds = b.along - a.along;
    const dy = Math.abs(b.at.y - a.at.y);
    area += mean(a.chord, b.chord) * ds;
    plan += mean(a.chord, b.chord) * dy;
    c2 += meanProduct(a.chord, b.chord, a.chord, b.chord) * ds;
    cx += meanProduct(a.chord, b.chord, a.at.x, b.at.x) * ds;
  }
  const ys = cuts.flatMap((c) => (s.mirrored ? [c.at.y, -c.at.y] : [c.at.y]));
  const span = Math.max(...ys) - Math.min(...ys);
  return {
    area: sides * area,
    plan: sides * plan,
    span,
    mac: c2 / area,
    macX: cx / area,
    aspect: plan > 1e-9 ? (span * span) / (sides * plan) : 0,
  };
}

/** Outline of one side as seen, corner by corner: leading edges outward, trailing edges back. */
export function outlineOf(s: Surface, side: 1 | -1): Point[] {
  const cuts = stationsOf(s);
  const at = (c: Station, aft: number): Point => ({
    x: c.at.x + aft * c.chord * Math.cos(c.incidence),
    y: side * c.at.y,
    z: c.at.z - aft * c.chord * Math.sin(c.incidence),
  });
  return [...cuts.map((c) => at(c, 0)), ...cuts.toReversed().map((c) => at(c, 1))];
}

/** Corners of the boxes around the frames of a body, both sides. */
export const edgesOf = (b: BodyShape): Point[] =>
  b.frames.flatMap((f) =>
    (b.mirrored ? [b.y, -b.y] : [b.y]).flatMap((y) => [
      { x: f.x, y: y - f.width / 2, z: f.z - f.height / 2 },
      { x: f.x, y: y + f.width / 2, z: f.z + f.height / 2 },
    ]),
  );

/** The cut at a share of the span of one side. */
export function cutAt(s: Surface, share: number): Station {
  const cuts = stationsOf(s);
  const along = share * (cuts.at(-1)?.along ?? 0);
  let k = 1;
  while (k < cuts.length - 1 && (cuts[k]?.along ?? 0) < along) k++;
  const [a, b] = [cuts[k - 1] as Station, cuts[k] as Station];
  const t = Math.min(Math.max((along - a.along) / (b.along - a.along || 1), 0), 1);
  const mix = (p: number, q: number) => p + (q - p) * t;
  return {
    at: { x: mix(a.at.x, b.at.x), y: mix(a.at.y, b.at.y), z: mix(a.at.z, b.at.z) },
    chord: mix(a.chord, b.chord),
    incidence: mix(a.incidence, b.incidence),
    along,
  };
}

/** A surface that lifts: one that does not stand on edge. */
export const lifts = (s: Pick<Surface, "panels">): boolean =>
  s.panels.some((p) => Math.abs(Math.cos(p.dihedral)) > 0.5);
