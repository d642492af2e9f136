import type { Air } from "../media/air";
import { findRoot } from "../numeric/root";

/** Geometry of an open propeller, and the two factors by which its section model may be off (1 = as modelled). */
export interface Propeller {
  /** m */
  diameter: number;
  /** m per turn, measured on the flat face of the blade */
  pitch: number;
  blades: number;
  /** widest chord of one blade, m */
  chord: number;
  liftFactor: number;
  dragFactor: number;
}

export interface PropellerLoad {
  /** N */
  thrust: number;
  /** N·m */
  torque: number;
  /** Reynolds number of the section at 0.75 R */
  reynolds: number;
  tipMach: number;
  /** Share of the blade's length (0 to 1) that works beyond its stall angle. */
  stalled: number;
  /** Whether every blade element was solved. */
  solved: boolean;
}

/** Blade outline as share of the widest chord against r/R: a generic electric propeller (common practice; docs/physics.md). */
const OUTLINE: readonly [number, number][] = [
  [0.0, 0.55],
  [0.15, 0.7],
  [0.3, 0.94],
  [0.4, 1.0],
  [0.55, 0.96],
  [0.7, 0.83],
  [0.85, 0.63],
  [0.95, 0.42],
  [1.0, 0.2],
];

function outline(x: number): number {
  for (let i = 1; i < OUTLINE.length; i++) {
    const [x1, c1] = OUTLINE[i] as [number, number];
    const [x0, c0] = OUTLINE[i - 1] as [number, number];
    if (x <= x1) return c0 + ((c1 - c0) * (x - x0)) / (x1 - x0);
  }
  return 0.2;
}

const ZERO_LIFT = (-2.5 * Math.PI) / 180;
const LIFT_SLOPE = 0.9 * 2 * Math.PI;
const REFERENCE_RE = 1e5;

/** Highest section lift coefficient against Reynolds number: +0.2 a decade about 1.15 at 1e5, from 0.75 to 1.5 (common practice). */
function maximumLift(reynolds: number): number {
  return Math.min(1.5, Math.max(0.75, 1.15 + 0.2 * Math.log10(reynolds / REFERENCE_RE)));
}

/**
 * Lift and drag coefficient of the generic section (about 2.5 % camber, thin).
 * Attached: slope 0.9·2π with the Prandtl–Glauert factor up to Mach 0.75, profile drag 0.020 at Re 1e5 falling as Re^-0.35 and growing with lift.
 * Separated: flat plate, c_l = 1.1 sin 2α, c_d = 1.3·2 sin² α /2 + profile. The two are blended about the stall angle.
 * Rotation delays the stall near the hub: c_l += 3 (c/r)² (c_l,potential − c_l), H. Snel et al. (1994), here capped at the
 * potential value and faded out above 0.6 rad.
 * Source: thin-aerofoil theory; flat-plate and low-Reynolds trends common practice. Its error is carried as the lift and drag factors.
 */
function section(alpha: number, reynolds: number, mach: number, chordToRadius: number, lift: number, drag: number) {
  const re = Math.max(reynolds, 3000);
  const slope = (LIFT_SLOPE * lift) / Math.sqrt(1 - Math.min(mach, 0.75) ** 2);
  const stall = maximumLift(re) / LIFT_SLOPE;
  const a = alpha - ZERO_LIFT;
  const blend = 1 / (1 + Math.exp(-(Math.abs(a) - stall * 1.15) / 0.035));
  const attached = slope * a;
  const plate = 1.1 * lift * Math.sin(2 * a);
  const profile = 0.02 * (re / REFERENCE_RE) ** -0.35 * drag;
  const flat = attached * (1 - blend) + plate * blend;
  const delay = Math.min(1, 3 * chordToRadius ** 2) * Math.min(1, 0.6 / Math.max(Math.abs(a), 1e-3));
  const cl = flat + delay * (attached - flat);
  const cd = profile + (1 - blend) * 0.012 * drag * (Math.min(Math.abs(attached), 2) - 0.4) ** 2 + blend * 1.3 * drag * Math.sin(a) ** 2;
  return { cl, cd, stalled: Math.abs(a) > stall * 1.15 };
}

const ELEMENTS = 20;
const HUB = 0.12;

/**
 * Thrust and torque of an open propeller by blade-element-momentum theory. For each of 20 blade elements one bracketed root, in the
 * inflow angle φ, gives both induced velocities in m/s, v_i = W·σ·c_n/(4F sin φ) and v_t = W·σ·c_t/(4F sin φ); nothing is divided by the
 * flight speed, so the solution runs continuously through standing still. Tip loss after Prandtl.
 *
 * @param speed flight speed along the axis, m/s, ≥ 0
 * @param rpm of the propeller, ≥ 0 (0 gives zero load)
 * Valid: pitch/diameter 0.3–1.2, 2–6 blades, tip Mach below 0.75, not in the windmill-brake or vortex-ring state.
 * Source: H. Glauert, "Airplane Propellers" (1935); φ as the single unknown after S. A. Ning, Wind Energy 17 (2014).
 */
export function propellerLoad(prop: Propeller, medium: Air, speed: number, rpm: number): PropellerLoad {
  const radius = prop.diameter / 2;
  const omega = (rpm * 2 * Math.PI) / 60;
  const tipMach = Math.hypot(omega * radius, speed) / medium.soundSpeed;
  if (!(omega > 0)) return { thrust: 0, torque: 0, reynolds: 0, tipMach: speed / medium.soundSpeed, stalled: 0, solved: true };
  const dr = (radius * (1 - HUB)) / ELEMENTS;
  let thrust = 0;
  let torque = 0;
  let stalled = 0;
  let solved = true;
  let reynolds = 0;
  for (let k = 0; k < ELEMENTS; k++) {
    const r = radius * (HUB + ((1 - HUB) * (k + 0.5)) / ELEMENTS);
    const chord = prop.chord * outline(r / radius);
    const beta = Math.atan(prop.pitch / (2 * Math.PI * r));
    const sigma = (prop.blades * chord) / (2 * Math.PI * r);
    const mach = Math.hypot(omega * r, speed) / medium.soundSpeed;
    const re = (medium.density * Math.hypot(omega * r, speed) * chord) / medium.viscosity;
    const at = (phi: number) => {
      const s = Math.sin(phi);
      const c = Math.cos(phi);
      const { cl, cd, stalled: over } = section(beta - phi, re, mach, r < 0.8 * radius ? chord / r : 0, prop.liftFactor, prop.dragFactor);
      const cn = cl * c - cd * s;
      const ct = cl * s + cd * c;
      const f = (prop.blades / 2) * ((radius - r) / (r * Math.max(s, 1e-9)));
      const loss = Math.max((2 / Math.PI) * Math.acos(Math.min(1, Math.exp(-f))), 1e-4);
      const w = (omega * r) / (c + (sigma * ct) / (4 * loss * s));
      return { w, cn, ct, over, residual: (speed + w * ((sigma * cn) / (4 * loss * s) - s)) / (omega * r) };
    };
    // Below the zero-lift angle there is one root while the blade drives; beyond it lies the windmill, reached only when the air comes fast.
    const zeroLift = Math.max(beta - ZERO_LIFT, 0.02);
    const high = at(zeroLift).residual < 0 ? zeroLift : zeroLift + 0.6;
    const found = findRoot((phi) => at(phi).residual, 1e-4, high, 1e-9, 60);
    if (found.status !== "converged") {
      solved = false;
      continue;
    }
    const { w, cn, ct, over } = at(found.x);
    const q = 0.5 * medium.density * w * w * prop.blades * chord * dr;
    thrust += q * cn;
    torque += q * ct * r;
    if (over) stalled += 1 / ELEMENTS;
    if (Math.abs(r / radius - 0.75) <= (0.5 * (1 - HUB)) / ELEMENTS) reynolds = re;
  }
  return { thrust, torque, reynolds, tipMach, stalled, solved };
}

/** A propeller at one flight speed as a function of rpm: the blade-element solution at fixed points, interpolated between them. */
export interface PropellerMap {
  /** Thrust (N) and torque (N·m) at this rpm. Interpolation error below 0.3 % up to tip Mach 0.78, 0.1 % below 0.55 (tested against the direct solution). */
  at(rpm: number): { thrust: number; torque: number };
  maxRpm: number;
  solved: boolean;
}

const MAP_POINTS = 34;

/**
 * Precomputes the standing propeller for the chain solver. Thrust and torque divided by rpm² change slowly (only through Reynolds
 * number and Mach), so they are interpolated linearly in log rpm.
 */
export function standingMap(prop: Propeller, medium: Air): PropellerMap {
  const maxRpm = (1.05 * medium.soundSpeed * 60) / (Math.PI * prop.diameter);
  const minRpm = maxRpm / 100;
  const step = Math.log(maxRpm / minRpm) / (MAP_POINTS - 1);
  let solved = true;
  const points = Array.from({ length: MAP_POINTS }, (_, i) => {
    const rpm = minRpm * Math.exp(i * step);
    const load = propellerLoad(prop, medium, 0, rpm);
    solved &&= load.solved;
    return { thrust: load.thrust / rpm ** 2, torque: load.torque / rpm ** 2 };
  });
  const at = (rpm: number) => {
    if (!(rpm > 0)) return { thrust: 0, torque: 0 };
    const place = Math.min(Math.max(Math.log(rpm / minRpm) / step, 0), MAP_POINTS - 1);
    const i = Math.min(Math.floor(place), MAP_POINTS - 2);
    const t = place - i;
    const a = points[i] as { thrust: number; torque: number };
    const b = points[i + 1] as { thrust: number; torque: number };
    const n2 = rpm * rpm;
    return { thrust: (a.thrust + (b.thrust - a.thrust) * t) * n2, torque: (a.torque + (b.torque - a.torque) * t) * n2 };
  };
  return { at, maxRpm, solved };
}
