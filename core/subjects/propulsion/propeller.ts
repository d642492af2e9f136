import type { Medium } from "../air/air";
import { remembering } from "../../numeric/memo";
import { findRoot } from "../../numeric/root";
import { ZERO_LIFT, section } from "./section";
import { type Pair, type ShaftMap, fastestRpm, mix, tabulated } from "./shaft";

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

/** Advance ratio up to which a propeller's map goes: beyond its pitch speed. */
const lastAdvance = (prop: Propeller): number => (1.35 * prop.pitch) / prop.diameter + 0.1;

/** The map of a propeller in one medium. */
export const propellerMap = (prop: Propeller, medium: Medium): ShaftMap =>
  tabulated((speed, rpm) => propellerLoad(prop, medium, speed, rpm), {
    diameter: prop.diameter,
    maxRpm: fastestRpm(prop.diameter, medium),
    lastAdvance: lastAdvance(prop),
  });

const maps = remembering<ShaftMap>(60);

/** The map of a propeller in this air, remembered by all of its numbers. */
export const propellerMapOf = (prop: Propeller, medium: Medium): ShaftMap =>
  maps(JSON.stringify([prop, medium]), () => propellerMap(prop, medium));

/** Points of the difference between two propellers nearly alike: it changes more slowly than either. */
const VARIED_SPEEDS = 6;
const VARIED_POINTS = 6;
/** The direct solutions of the first propeller at those points, shared by all that differ from it. */
const coarse = new WeakMap<ShaftMap, Pair[][]>();

/**
 * The map of a propeller that is a little different from one whose map is known: that map plus the difference of the
 * direct solutions at a few points (tested: the difference within 3 % of
 * what two full maps give).
 */
export function variedMap(base: ShaftMap, was: Propeller, is: Propeller, medium: Medium): ShaftMap {
  const maxRpm = fastestRpm(was.diameter, medium);
  const minRpm = maxRpm / 100;
  const span = Math.log(100);
  const last = lastAdvance(was);
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
    const advance = (k * last) / (VARIED_SPEEDS - 1);
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
    const place = Math.min((speed * 60) / (rpm * was.diameter) / last, 1) * (VARIED_SPEEDS - 1);
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
  return { at, torque, solved: base.solved };
}
