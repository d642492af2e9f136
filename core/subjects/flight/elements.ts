import type { Hinged, Surface } from "../surfaces/declares";
import { type Station, cutAt, stationsOf } from "../surfaces/planform";

/** How finely surfaces are cut: strips along the longest side, elements along a chord. */
export interface Cutting {
  strips: number;
  chordwise: number;
  /** strips of each surface, where another cut of the same surfaces is to have as many */
  each?: readonly number[];
  /** what it is mirrored in; left out: a ground */
  image?: -1 | 1;
  /** strips of one width: for holding against worked examples that are cut so */
  even?: boolean;
}
export const FINE: Cutting = { strips: 10, chordwise: 4 };
export const COARSE: Cutting = { strips: 5, chordwise: 3 };

/** A strip of a surface along the flow, from its inner edge to its outer one (on the port side the other way round). */
export interface Strip {
  surface: number;
  side: 1 | -1;
  /** place of its middle as a share of the span of its side */
  share: number;
  /** quarter-chord point of its middle, m */
  x: number;
  y: number;
  z: number;
  /** along the surface, m */
  width: number;
  chord: number;
  /** unit vector along it, in the plane across the flow */
  ty: number;
  tz: number;
  /** angle of its plane against the x axis plus that of its camber, rad: what turns the flow at no angle of attack */
  incidence: number;
}

/** A horseshoe vortex: bound along its quarter line, with legs straight aft; and the point where no flow passes it. */
export interface Elements {
  count: number;
  /** ends of the bound vortex: x, y, z of each end, six numbers an element */
  ends: Float64Array;
  /** where the flow is held to the surface: x, y, z */
  points: Float64Array;
  /** across the flow: y and z of the normal, which has no x at no incidence */
  normals: Float64Array;
  strip: Int32Array;
  /** index of the control that turns it, among all controls of all surfaces; −1: none */
  hinged: Int32Array;
  strips: Strip[];
  /** strips asked for on each surface */
  each: number[];
  /** sense of the image in what lies below or above: −1 in a ground, 1 in the surface of water at speed */
  image: -1 | 1;
  /** the controls, in their order */
  controls: { surface: number; control: Hinged }[];
}

const NEAR = 1e-4;

/**
 * Edges of strips along one side and the place of each strip's middle, as shares of its span: closer to free ends,
 * where the load falls off, with the middles at the middle of the angle that spaces them (that makes the drag of an
 * elliptic load exact).
 */
function edgesOf(s: Surface, wanted: number, even: boolean): { edges: number[]; middles: number[] } {
  const cuts = stationsOf(s);
  const total = cuts.at(-1)?.along ?? 1;
  const breaks = [...cuts.map((c) => c.along / total), ...s.controls.flatMap((c) => [c.from, c.to])]
    .sort((a, b) => a - b)
    .filter((v, k, all) => k === 0 || v - (all[k - 1] ?? 0) > 0.02 || v === 1);
  if (breaks.length > 1 && (breaks.at(-1) ?? 0) - (breaks.at(-2) ?? 0) < 0.02 && breaks.length > 2)
    breaks.splice(-2, 1);
  const joined = (c: Station | undefined) => s.mirrored && Math.abs(c?.at.y ?? 1) < NEAR;
  const [freeRoot, freeTip] = [!joined(cuts[0]), !joined(cuts.at(-1))];
  const edges = [0];
  const middles: number[] = [];
  for (let k = 1; k < breaks.length; k++) {
    const [a, b] = [breaks[k - 1] as number, breaks[k] as number];
    const n = Math.max(k === 1 || k === breaks.length - 1 ? 2 : 1, Math.round(wanted * (b - a)));
    const atRoot = !even && freeRoot && k === 1;
    const atTip = !even && freeTip && k === breaks.length - 1;
    const spaced = (t: number): number => {
      if (atRoot && atTip) return (1 - Math.cos(Math.PI * t)) / 2;
      if (atTip) return Math.sin((Math.PI / 2) * t);
      return atRoot ? 1 - Math.cos((Math.PI / 2) * t) : t;
    };
    for (let i = 1; i <= n; i++) {
      edges.push(a + (b - a) * spaced(i / n));
      middles.push(a + (b - a) * spaced((i - 0.5) / n));
    }
  }
  return { edges, middles };
}

/** Chordwise edges of elements as shares of the chord; a hinge is one of them. */
function chordEdges(n: number, hinge: number | null): number[] {
  const even = (from: number, to: number, m: number) =>
    Array.from({ length: m }, (_, k) => from + ((to - from) * k) / m);
  if (hinge === null || hinge <= 0) return [...even(0, 1, n), 1];
  const behind = Math.min(n - 1, Math.max(1, Math.round(n * (1 - hinge) * 1.3)));
  return [...even(0, hinge, n - behind), ...even(hinge, 1, behind), 1];
}

/**
 * Cuts surfaces into horseshoe vortices: straight quarter lines, points at three quarters of each element's chord
 * (Bertin & Smith, *Aerodynamics for Engineers*, vortex-lattice method). Lengths in m.
 *
 * @param camber angle without lift of each surface's section, rad: a cambered strip turns the flow as if it were set
 * higher by that angle
 */
export function elementsOf(surfaces: readonly Surface[], camber: readonly number[], cutting: Cutting): Elements {
  const longest = Math.max(...surfaces.map((s) => stationsOf(s).at(-1)?.along ?? 0), 1e-9);
  const controls = surfaces.flatMap((s, surface) => s.controls.map((control) => ({ surface, control })));
  const strips: Strip[] = [];
  const [ends, points, normals]: [number[], number[], number[]] = [[], [], []];
  const [of, hinged, each]: [number[], number[], number[]] = [[], [], []];
  for (const [surface, s] of surfaces.entries()) {
    const along = stationsOf(s).at(-1)?.along ?? 0;
    if (!(along > 0)) {
      each.push(0);
      continue;
    }
    const wanted = cutting.each?.[surface] ?? Math.max(4, Math.round(cutting.strips * Math.sqrt(along / longest)));
    each.push(wanted);
    const { edges, middles } = edgesOf(s, wanted, cutting.even ?? false);
    for (let k = 1; k < edges.length; k++) {
      const [from, to] = [edges[k - 1] as number, edges[k] as number];
      const share = middles[k - 1] as number;
      const [a, b, middle] = [cutAt(s, from), cutAt(s, to), cutAt(s, share)];
      const turns = controls.findIndex((c) => c.surface === surface && share > c.control.from && share < c.control.to);
      const flap = turns < 0 ? null : 1 - (controls[turns]?.control.chord ?? 0);
      const chordwise = chordEdges(cutting.chordwise, flap);
      for (const side of s.mirrored ? ([1, -1] as const) : ([1] as const)) {
        // From inner to outer to starboard, from outer to inner to port: the normal of both points the same way up.
        const [p, q] = side === 1 ? [a, b] : [b, a];
        const dy = side * (q.at.y - p.at.y);
        const dz = q.at.z - p.at.z;
        const width = Math.hypot(dy, dz);
        if (!(width > 0)) continue;
        const [ty, tz] = [dy / width, dz / width];
        strips.push({
          surface,
          side,
          share,
          x: middle.at.x + middle.chord / 4,
          y: side * middle.at.y,
          z: middle.at.z,
          width,
          chord: middle.chord,
          ty,
          tz,
          incidence: middle.incidence - (camber[surface] ?? 0),
        });
        for (let m = 1; m < chordwise.length; m++) {
          const [fore, aft] = [chordwise[m - 1] as number, chordwise[m] as number];
          const bound = fore + (aft - fore) / 4;
          const held = fore + (3 * (aft - fore)) / 4;
          ends.push(p.at.x + bound * p.chord, side * p.at.y, p.at.z, q.at.x + bound * q.chord, side * q.at.y, q.at.z);
          points.push(middle.at.x + held * middle.chord, side * middle.at.y, middle.at.z);
          normals.push(-tz, ty);
          of.push(strips.length - 1);
          hinged.push(flap !== null && fore >= flap - 1e-9 ? turns : -1);
        }
      }
    }
  }
  return {
    count: of.length,
    ends: Float64Array.from(ends),
    points: Float64Array.from(points),
    normals: Float64Array.from(normals),
    strip: Int32Array.from(of),
    hinged: Int32Array.from(hinged),
    strips,
    each,
    image: cutting.image ?? -1,
    controls,
  };
}
