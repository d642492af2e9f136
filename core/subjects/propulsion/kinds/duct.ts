import { findRoot } from "../../../numeric/root";
import type { Medium } from "../../air/air";
import { section } from "../section";

/** A fan in a duct of its own, in plain numbers. */
export interface Duct {
  /** inside of the duct at the blades, m */
  diameter: number;
  /** m */
  hub: number;
  blades: number;
  /** m per turn */
  pitch: number;
  /** m, the same along a blade */
  chord: number;
  /** open area at the rear end, m² */
  exit: number;
  /** loss of lip and walls as a share of the dynamic pressure at the fan */
  loss: number;
}

export interface DuctLoad {
  /** of fan and duct together, N */
  thrust: number;
  /** what the blades themselves push, N */
  fan: number;
  torque: number;
  /** share of the blade that is stalled */
  stalled: number;
  solved: boolean;
}

/** Area of the ring that the blades sweep, m². */
export const ringOf = ({ diameter, hub }: Pick<Duct, "diameter" | "hub">): number =>
  (Math.PI / 4) * (diameter ** 2 - hub ** 2);

const ELEMENTS = 16;

/**
 * Thrust and torque of a ducted fan: blade elements in the stream that its duct prescribes. What leaves the duct fills
 * its exit, so the speed through the ring is V_e·A_e/A; the blades of each ring raise its pressure by
 * ½ρ(V_e² − V²) + ½ρ·K·v². One bracketed root a ring, in the inflow angle. The thrust of both is what the stream gains,
 * ρ·v·A·(V_e − V): standing, without loss, 2·A_e/A times that of the blades.
 *
 * @param speed along the axis, m/s, ≥ 0
 * @param rpm ≥ 0; 0 gives no load
 * Valid: exit 0.6 to 1.3 of the ring (wider ones separate), a wall that fits closely; the swirl behind is lost.
 * Source: momentum theory of the ducted propeller, thrust at equal power 2^(1/3) times the open one without contraction
 * (Leishman, Principles of Helicopter Aerodynamics); blade elements as for the open propeller.
 */
export function ductLoad(duct: Duct, medium: Medium, speed: number, rpm: number): DuctLoad {
  const omega = (rpm * 2 * Math.PI) / 60;
  if (!(omega > 0)) return { thrust: 0, fan: 0, torque: 0, stalled: 0, solved: true };
  const [inner, outer] = [duct.hub / 2, duct.diameter / 2];
  const wider = duct.exit / ringOf(duct);
  const dr = (outer - inner) / ELEMENTS;
  const out: DuctLoad = { thrust: 0, fan: 0, torque: 0, stalled: 0, solved: true };
  for (let k = 0; k < ELEMENTS; k++) {
    const r = inner + (k + 0.5) * dr;
    const beta = Math.atan(duct.pitch / (2 * Math.PI * r));
    const sigma = (duct.blades * duct.chord) / (2 * Math.PI * r);
    const re = (medium.density * Math.hypot(omega * r, speed) * duct.chord) / medium.viscosity;
    const mach = Math.hypot(omega * r, speed) / medium.soundSpeed;
    const at = (phi: number) => {
      const [s, c] = [Math.sin(phi), Math.cos(phi)];
      const { cl, cd, stalled } = section(beta - phi, re, mach, 0, 1, 1);
      const [cn, ct] = [cl * c - cd * s, cl * s + cd * c];
      const w = (omega * r) / (c + (sigma * ct) / (4 * s));
      const v = w * s;
      // Both sides over ½ρ: what the blades press on the ring, and what the stream through it needs.
      const residual = w * w * sigma * cn - ((v / wider) ** 2 - speed ** 2 + duct.loss * v * v);
      return { w, v, cn, ct, stalled, residual: residual / (omega * r) ** 2 };
    };
    const found = findRoot((phi) => at(phi).residual, 1e-4, beta + 0.65, 1e-9, 60);
    if (found.status !== "converged") {
      out.solved = false;
      continue;
    }
    const { w, v, cn, ct, stalled } = at(found.x);
    const ring = 2 * Math.PI * r * dr;
    out.thrust += medium.density * v * ring * (v / wider - speed);
    out.fan += 0.5 * medium.density * w * w * sigma * cn * ring;
    out.torque += 0.5 * medium.density * w * w * sigma * ct * ring * r;
    if (stalled) out.stalled += 1 / ELEMENTS;
  }
  return out;
}

/** Least power (W) for a thrust (N) standing: ½·T^1.5/√(ρ·A_e), the whole stream at one speed and without loss. */
export const leastPower = (thrust: number, exit: number, density: number): number =>
  (0.5 * thrust ** 1.5) / Math.sqrt(density * exit);

/**
 * Loss of a lip as a share of the dynamic pressure behind it: well rounded 0.03 to 0.12, sharp 0.5 to 1 (flush to
 * standing free; handbooks of pipe inlets, from memory). Uniform in between.
 */
const LIP = { rounded: [0.03, 0.12], sharp: [0.5, 1], "not said": [0.03, 1] } as const;
/** Friction of a smooth wall for each length of its width (handbooks, Reynolds number about 1e5). */
const FRICTION = 0.02;

/** Loss coefficient of lip and walls with its standard uncertainty. */
export function ductLoss(lip: keyof typeof LIP, length: number, diameter: number): { value: number; sd: number } {
  const [low, high] = LIP[lip];
  return { value: (low + high) / 2 + (FRICTION * length) / diameter, sd: (high - low) / Math.sqrt(12) };
}
