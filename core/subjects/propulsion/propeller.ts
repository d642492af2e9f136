import type { Medium } from "../air/air";
import { remembering } from "../../numeric/memo";
import { findRoot } from "../../numeric/root";

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

/**
 * Blade outline as share of the widest chord against r/R: a generic electric propeller (common practice;
 * docs/physics.md).
 */
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

const ZERO_LIFT = (-2.75 * Math.PI) / 180;
const LIFT_SLOPE = 0.9 * 2 * Math.PI;
const REFERENCE_RE = 1e5;

/**
 * Highest section lift coefficient against Reynolds number: +0.2 a decade about 1.15 at 1e5, from 0.75 to 1.5 (common
 * practice).
 */
function maximumLift(reynolds: number): number {
  return Math.min(1.5, Math.max(0.75, 1.15 + 0.2 * Math.log10(reynolds / REFERENCE_RE)));
}

/**
 * Lift and drag coefficient of the generic section (about 2.75 % camber, thin).
 * Attached: slope 0.9·2π with the Prandtl–Glauert factor up to Mach 0.75, profile drag 0.027 at Re 1e5 falling as
 * Re^-0.4 and growing with lift.
 * Separated: flat plate, c_l = 1.1 sin 2α, c_d = 1.7 sin² α + profile. The two are blended about the stall angle.
 * Rotation delays the stall near the hub: c_l += 3 (c/r)² (c_l,potential − c_l), H. Snel et al. (1994), here capped
 * at the
 * potential value and faded out above 0.6 rad.
 * Source: thin-aerofoil theory; flat-plate and low-Reynolds trends common practice. Its error is carried as the lift
 * and drag factors.
 */
function section(alpha: number, reynolds: number, mach: number, chordToRadius: number, lift: number, drag: number) {
  const re = Math.max(reynolds, 3000);
  const slope = (LIFT_SLOPE * lift) / Math.sqrt(1 - Math.min(mach, 0.75) ** 2);
  const stall = maximumLift(re) / LIFT_SLOPE;
  const a = alpha - ZERO_LIFT;
  const blend = 1 / (1 + Math.exp(-(Math.abs(a) - stall * 1.15) / 0.035));
  const attached = slope * a;
  const plate = 1.1 * lift * Math.sin(2 * a);
  const profile = 0.027 * (re / REFERENCE_RE) ** -0.4 * drag;
  const flat = attached * (1 - blend) + plate * blend;
  const delay = Math.min(1, 3 * chordToRadius ** 2) * Math.min(1, 0.6 / Math.max(Math.abs(a), 1e-3));
  const cl = flat + delay * (attached - flat);
  const cd =
    profile +
    (1 - blend) * 0.03 * drag * (Math.min(Math.abs(attached), 2) - 0.4) ** 2 +
    blend * 1.7 * drag * Math.sin(a) ** 2;
  return { cl, cd, stalled: Math.abs(a) > stall * 1.15 };
}

const ELEMENTS = 20;
const HUB = 0.12;

/**
 * Thrust and torque of an open propeller by blade-element-momentum theory. For each of 20 blade elements one
 * bracketed root, in the
 * inflow angle φ, gives both induced velocities in m/s, v_i = W·σ·c_n/(4F sin φ) and v_t = W·σ·c_t/(4F sin φ);
 * nothing is divided by the
 * flight speed, so the solution runs continuously through standing still. Tip loss after Prandtl.
 *
 * @param speed flight speed along the axis, m/s, ≥ 0
 * @param rpm of the propeller, ≥ 0 (0 gives zero load)
 * Valid: pitch/diameter 0.3–1.2, 2–6 blades, tip Mach below 0.75, not in the windmill-brake or vortex-ring state.
 * Source: H. Glauert, "Airplane Propellers" (1935); φ as the single unknown after S. A. Ning, Wind Energy 17 (2014).
 */
export function propellerLoad(prop: Propeller, medium: Medium, speed: number, rpm: number): PropellerLoad {
  const radius = prop.diameter / 2;
  const omega = (rpm * 2 * Math.PI) / 60;
  const tipMach = Math.hypot(omega * radius, speed) / medium.soundSpeed;
  if (!(omega > 0))
    return { thrust: 0, torque: 0, reynolds: 0, tipMach: speed / medium.soundSpeed, stalled: 0, solved: true };
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
      const {
        cl,
        cd,
        stalled: over,
      } = section(beta - phi, re, mach, r < 0.8 * radius ? chord / r : 0, prop.liftFactor, prop.dragFactor);
      const cn = cl * c - cd * s;
      const ct = cl * s + cd * c;
      const f = (prop.blades / 2) * ((radius - r) / (r * Math.max(s, 1e-9)));
      const loss = Math.max((2 / Math.PI) * Math.acos(Math.min(1, Math.exp(-f))), 1e-4);
      const w = (omega * r) / (c + (sigma * ct) / (4 * loss * s));
      return { w, cn, ct, over, residual: (speed + w * ((sigma * cn) / (4 * loss * s) - s)) / (omega * r) };
    };
    // Below the zero-lift angle there is one root while the blade drives; beyond it lies the windmill, reached only
    // when the air comes fast.
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

/**
 * A propeller in one medium as a function of rpm and flight speed: blade-element solutions at fixed points,
 * interpolated between them.
 */
export interface PropellerMap {
  /**
   * Thrust (N) and torque (N·m) at this rpm and speed along the axis (m/s). Interpolation error standing below 0.3 %
   * up to tip Mach 0.78, 0.1 % below 0.55; moving below 1.5 % of
   * the standing thrust (tested against the direct solution). Beyond the advance ratio of the last point (1.35 times
   * pitch/diameter + 0.1) the last is used.
   */
  at(rpm: number, speed?: number): { thrust: number; torque: number };
  /** The torque alone, N·m: what a solver asks for at every step. */
  torque(rpm: number, speed?: number): number;
  maxRpm: number;
  solved: boolean;
}

const MAP_POINTS = 34;
const SPEEDS = 14;
const SLOW_POINTS = 7;

type Pair = { thrust: number; torque: number };
const mix = (a: Pair, b: Pair, t: number): Pair => ({
  thrust: a.thrust + (b.thrust - a.thrust) * t,
  torque: a.torque + (b.torque - a.torque) * t,
});

/**
 * Precomputes a propeller for the chain solver. Thrust and torque divided by rpm² change slowly (only through
 * Reynolds number and Mach) at one advance ratio, so they are
 * interpolated linearly in log rpm; across advance ratio by parabolas. The moving part is made when it is first asked
 * for.
 */
export function propellerMap(prop: Propeller, medium: Medium): PropellerMap {
  const maxRpm = ((medium.fastest ?? 1.05 * medium.soundSpeed) * 60) / (Math.PI * prop.diameter);
  const minRpm = maxRpm / 100;
  const span = Math.log(100);
  let solved = true;
  const point = (rpm: number, advance: number): Pair => {
    const load = propellerLoad(prop, medium, (advance * prop.diameter * rpm) / 60, rpm);
    // Past its pitch speed single elements may windmill without a root: they count as nothing there.
    if (advance === 0) solved &&= load.solved;
    return { thrust: load.thrust / rpm ** 2, torque: load.torque / rpm ** 2 };
  };
  const column = (count: number, advance: number) =>
    Array.from({ length: count }, (_, i) => point(minRpm * Math.exp((i * span) / (count - 1)), advance));
  const along = (list: Pair[], rpm: number): Pair => {
    const place = Math.min(Math.max((Math.log(rpm / minRpm) / span) * (list.length - 1), 0), list.length - 1);
    const i = Math.min(Math.floor(place), list.length - 2);
    return mix(list[i] as Pair, list[i + 1] as Pair, place - i);
  };
  const standing = column(MAP_POINTS, 0);
  const lastAdvance = (1.35 * prop.pitch) / prop.diameter + 0.1;
  let moving: Pair[][] | null = null;
  const at = (rpm: number, speed = 0): Pair => {
    if (!(rpm > 0)) return { thrust: 0, torque: 0 };
    const n2 = rpm * rpm;
    if (speed <= 0) {
      const p = along(standing, rpm);
      return { thrust: p.thrust * n2, torque: p.torque * n2 };
    }
    moving ??= Array.from({ length: SPEEDS }, (_, k) =>
      k === 0 ? standing : column(SLOW_POINTS, (k * lastAdvance) / (SPEEDS - 1)),
    );
    const place = Math.min((speed * 60) / (rpm * prop.diameter) / lastAdvance, 1) * (SPEEDS - 1);
    const k = Math.min(Math.max(Math.round(place), 1), SPEEDS - 2);
    const t = place - k;
    const [a, b, c] = [k - 1, k, k + 1].map((j) => along(moving?.[j] as Pair[], rpm)) as [Pair, Pair, Pair];
    // Parabola through three neighbouring advance ratios.
    const through = (y: (p: Pair) => number) => y(b) + (t * (y(c) - y(a))) / 2 + (t * t * (y(c) - 2 * y(b) + y(a))) / 2;
    return { thrust: through((p) => p.thrust) * n2, torque: through((p) => p.torque) * n2 };
  };
  const standingTorque = Float64Array.from(standing, (p) => p.torque);
  const perStep = (MAP_POINTS - 1) / span;
  const torque = (rpm: number, speed = 0): number => {
    if (speed > 0) return at(rpm, speed).torque;
    if (!(rpm > 0)) return 0;
    const place = Math.min(Math.max(Math.log(rpm / minRpm) * perStep, 0), MAP_POINTS - 1);
    const i = Math.min(Math.floor(place), MAP_POINTS - 2);
    const a = standingTorque[i] as number;
    return (a + ((standingTorque[i + 1] as number) - a) * (place - i)) * rpm * rpm;
  };
  return { at, torque, maxRpm, solved };
}

const maps = remembering<PropellerMap>(60);

/** The map of a propeller in this air, remembered by all of its numbers. */
export const propellerMapOf = (prop: Propeller, medium: Medium): PropellerMap =>
  maps(JSON.stringify([prop, medium]), () => propellerMap(prop, medium));

/** Points of the difference between two propellers nearly alike: it changes more slowly than either. */
const VARIED_SPEEDS = 6;
const VARIED_POINTS = 6;
/** The direct solutions of the first propeller at those points, shared by all that differ from it. */
const coarse = new WeakMap<PropellerMap, Pair[][]>();

/**
 * The map of a propeller that is a little different from one whose map is known: that map plus the difference of the
 * direct solutions at a few points (tested: the difference within 3 % of
 * what two full maps give).
 */
export function variedMap(base: PropellerMap, was: Propeller, is: Propeller, medium: Medium): PropellerMap {
  const maxRpm = base.maxRpm;
  const minRpm = maxRpm / 100;
  const span = Math.log(100);
  const lastAdvance = (1.35 * was.pitch) / was.diameter + 0.1;
  const direct = (prop: Propeller, advance: number) =>
    Array.from({ length: VARIED_POINTS }, (_, i): Pair => {
      const rpm = minRpm * Math.exp((i * span) / (VARIED_POINTS - 1));
      const speed = (advance * was.diameter * rpm) / 60;
      const load = propellerLoad(prop, medium, speed, rpm);
      return { thrust: load.thrust / rpm ** 2, torque: load.torque / rpm ** 2 };
    });
  const along = (list: Pair[], rpm: number): Pair => {
    const place = Math.min(Math.max((Math.log(rpm / minRpm) / span) * (VARIED_POINTS - 1), 0), VARIED_POINTS - 1);
    const i = Math.min(Math.floor(place), VARIED_POINTS - 2);
    return mix(list[i] as Pair, list[i + 1] as Pair, place - i);
  };
  const columns: Pair[][] = [];
  const before = coarse.get(base) ?? [];
  coarse.set(base, before);
  const columnAt = (k: number): Pair[] => {
    const known = columns[k];
    if (known) return known;
    const advance = (k * lastAdvance) / (VARIED_SPEEDS - 1);
    const there = (before[k] ??= direct(was, advance));
    const made = direct(is, advance).map((b, i) => ({
      thrust: b.thrust - (there[i]?.thrust ?? 0),
      torque: b.torque - (there[i]?.torque ?? 0),
    }));
    columns[k] = made;
    return made;
  };
  const difference = (rpm: number, speed: number): Pair => {
    if (speed <= 0) return along(columnAt(0), rpm);
    const place = Math.min((speed * 60) / (rpm * was.diameter) / lastAdvance, 1) * (VARIED_SPEEDS - 1);
    const k = Math.min(Math.floor(place), VARIED_SPEEDS - 2);
    return mix(along(columnAt(k), rpm), along(columnAt(k + 1), rpm), place - k);
  };
  const at = (rpm: number, speed = 0): Pair => {
    const load = base.at(rpm, speed);
    if (!(rpm > 0)) return load;
    const d = difference(rpm, speed);
    return { thrust: load.thrust + d.thrust * rpm * rpm, torque: load.torque + d.torque * rpm * rpm };
  };
  const torque = (rpm: number, speed = 0): number =>
    rpm > 0 ? base.torque(rpm, speed) + difference(rpm, speed).torque * rpm * rpm : 0;
  return { at, torque, maxRpm, solved: base.solved };
}
