import type { Point, Surface, Unit } from "../../design/schema";
import { stationsOf } from "../surfaces/planform";
import { TURNS, type Turn } from "./allocate";

/** A rotor as far as its wash is concerned. */
export interface Washing {
  at: Point;
  /** unit vector along which it pushes; its wash goes the other way */
  toward: Point;
  /** N as it pushes now */
  thrust: number;
  /** radius of its disc, m */
  radius: number;
}

/** What controls in a wash can do about an axis of hover. */
export interface Vaned {
  /** N·m, the lesser way */
  most: number;
  names: string[];
}

/** Deflection beyond which a vane in a wash lets go, rad (common practice: 15° to 25°). */
const MOST_TURN = (20 * Math.PI) / 180;
/** Doubt of a vane's moment, as a share (judgement): washes are uneven, swirl is not counted. */
export const VANE_DOUBT = 0.3;
/** Cuts along each control. */
const CUTS = 24;
/** Flow further than this from the chord does not run along it. */
const ALONG = 0.9;

const dot = (a: Point, b: Point) => a.x * b.x + a.y * b.y + a.z * b.z;

/**
 * Speed of the wash over that in the disc, on its axis, s behind it: 1 + s/√(s² + R²), from 1 in the disc to 2 far
 * behind (actuator disc, vortex cylinder; McCormick, from memory).
 */
export const quickened = (s: number, radius: number): number => 1 + s / Math.hypot(s, radius);

/**
 * Pressure of the wash, ½ρv², Pa: v = vᵢ·(1 + s/√(s² + R²)) with vᵢ = √(T/2ρA), so that no density is in it: far
 * behind it is the loading of the disc, T/A. Nought beside the wash, whose radius goes with the root of the speed.
 */
export function washAt({ at, toward, thrust, radius }: Washing, p: Point): number {
  const from = { x: p.x - at.x, y: p.y - at.y, z: p.z - at.z };
  const s = -dot(from, toward);
  if (s < 0 || thrust <= 0) return 0;
  const aside = Math.sqrt(Math.max(0, dot(from, from) - s * s));
  const k = quickened(s, radius);
  if (aside > radius / Math.sqrt(k)) return 0;
  return (thrust / (4 * Math.PI * radius ** 2)) * k ** 2;
}

/** Share of an angle that a hinged part of the chord is worth (thin aerofoil, Glauert): 1 where all of it turns. */
export const hingedShare = (chord: number): number =>
  (2 / Math.PI) * (Math.sqrt(chord * (1 - chord)) + Math.asin(Math.sqrt(chord)));

/** Radius of a unit's disc, m; null where it has none, or only its push is known. */
export function discOf(u: Pick<Unit, "propeller" | "propulsor" | "measured">): number | null {
  if (u.measured) return null;
  if (!u.propulsor) return u.propeller.diameter.value / 2;
  return u.propulsor.kind === "ducted fan" ? u.propulsor.diameter.value / 2 : null;
}

/**
 * Lift coefficient per radian of a wing that may be as short as it is deep: 2π·AR/(2 + √(AR² + 4)) (Helmbold 1942),
 * half of π·AR for the shortest (Jones, NACA TR 835) and 2π for the longest.
 */
export const stubbySlope = (aspect: number): number => (2 * Math.PI * aspect) / (2 + Math.hypot(aspect, 2));

interface Cut {
  p: Point;
  /** N for a deflection of one radian, and the way it acts */
  force: number;
  normal: Point;
}

/** Pressure of a flow along the craft at a place, ½ρv², Pa; nought where none meets it. */
export type FlowAt = (p: Point) => number;

/** The flow of washes that run along the craft: chords across them are not counted. */
export const inWashes = (washes: readonly Washing[]): FlowAt => {
  const along = washes.filter((w) => Math.abs(w.toward.x) > ALONG);
  return (p) => along.reduce((sum, w) => sum + washAt(w, p), 0);
};

/** What one side of a control does, cut by cut, for a radian; what of it no flow meets does nothing. */
function cutsOf(s: Surface, control: Surface["controls"][number], flow: FlowAt, side: 1 | -1): Cut[] {
  const stations = stationsOf(s);
  const length = stations.at(-1)?.along ?? 0;
  const [from, to] = [control.from * length, control.to * length];
  const ds = (to - from) / CUTS;
  const inFlow: { p: Point; chord: number; q: number; normal: Point }[] = [];
  for (let i = 0; i < CUTS; i++) {
    const along = from + (i + 0.5) * ds;
    const k = Math.max(
      1,
      stations.findIndex((c) => c.along >= along),
    );
    const [a, b] = [stations[k - 1], stations[k]];
    const panel = s.panels[k - 1];
    if (!a || !b || !panel || b.along <= a.along) continue;
    const f = (along - a.along) / (b.along - a.along);
    const mid = (key: keyof Point) => a.at[key] + f * (b.at[key] - a.at[key]);
    const chord = a.chord + f * (b.chord - a.chord);
    const p = { x: mid("x") + chord / 4, y: side * mid("y"), z: mid("z") };
    const q = flow(p);
    const normal = { x: 0, y: -side * Math.sin(panel.dihedral), z: Math.cos(panel.dihedral) };
    if (q > 0) inFlow.push({ p, chord, q, normal });
  }
  const area = inFlow.reduce((sum, c) => sum + c.chord * ds, 0);
  if (area <= 0) return [];
  // What of it stands in the flow is a small wing of its own.
  const aspect = (inFlow.length * ds) ** 2 / area;
  const slope = stubbySlope(aspect) * hingedShare(control.chord);
  return inFlow.map((c) => ({ p: c.p, normal: c.normal, force: c.q * c.chord * ds * slope }));
}

const momentOf = (cuts: readonly Cut[], cg: Point): Point => {
  const m = { x: 0, y: 0, z: 0 };
  for (const { p, force, normal } of cuts) {
    const r = { x: p.x - cg.x, y: p.y - cg.y, z: p.z - cg.z };
    const f = { x: force * normal.x, y: force * normal.y, z: force * normal.z };
    m.x += r.y * f.z - r.z * f.y;
    m.y += r.z * f.x - r.x * f.z;
    m.z += r.x * f.y - r.y * f.x;
  }
  return m;
};

const BODY = { pitch: "y", yaw: "z", roll: "x" } as const;

/**
 * The most that controls in a flow do about each axis, N·m, about the CG: force q·S·a·δ on what of them it meets,
 * a by its aspect ratio (stubbySlope), δ up to its travel or 20°. In a wash it grows with the thrust as the torque of
 * the rotors does: their ratio is the same at every throttle.
 *
 * @param turned takes a vector from body axes to those of hover
 */
export function vanesIn(
  surfaces: readonly Surface[],
  flow: FlowAt,
  cg: Point,
  turned: (p: Point) => Point = (p) => p,
): Record<Turn, Vaned> {
  const out = Object.fromEntries(TURNS.map((t) => [t, { most: 0, names: [] as string[] }])) as Record<Turn, Vaned>;
  for (const s of surfaces)
    for (const control of s.controls) {
      const travel = Math.min(control.up, control.down, MOST_TURN);
      const one = momentOf(cutsOf(s, control, flow, 1), cg);
      const other = s.mirrored ? momentOf(cutsOf(s, control, flow, -1), cg) : { x: 0, y: 0, z: 0 };
      const best: Record<Turn, number> = { roll: 0, pitch: 0, yaw: 0 };
      for (const does of control.does) {
        if (does === "flap") continue;
        const sums = ([1, -1] as const).map((sign) => ({
          x: one.x + sign * other.x,
          y: one.y + sign * other.y,
          z: one.z + sign * other.z,
        }));
        const axis = BODY[does];
        // Both sides alike or against one another: whichever turns it about the axis that it is for.
        const [alike, against] = sums as [Point, Point];
        const moment = turned(Math.abs(alike[axis]) >= Math.abs(against[axis]) ? alike : against);
        best.roll = Math.max(best.roll, Math.abs(moment.x));
        best.pitch = Math.max(best.pitch, Math.abs(moment.y));
        best.yaw = Math.max(best.yaw, Math.abs(moment.z));
      }
      for (const turn of TURNS) {
        const most = best[turn] * travel;
        if (most <= 1e-9) continue;
        out[turn].most += most;
        out[turn].names.push(control.name);
      }
    }
  return out;
}
