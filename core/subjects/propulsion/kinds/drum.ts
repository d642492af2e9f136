import { findRoot } from "../../../numeric/root";
import { GRAVITY, type Medium } from "../../air/air";

/** A drum with a helix around it, in plain numbers. */
export interface Drum {
  on: "water" | "mud" | "snow";
  /** m */
  length: number;
  /** of the body, m */
  diameter: number;
  /** m per turn */
  lead: number;
  /** height of the helix, m */
  blade: number;
  starts: number;
  /** share of its surface that is immersed */
  under: number;
  /** kg on it, aground */
  load: number;
}

/** Normal force of a plate across the flow over ½ρV²A (flat plate, common practice). */
const PLATE = 1.2;
/** Friction of a wet, turning skin (turbulent plate at Reynolds 1e5 to 1e6, common practice). */
const SKIN = 0.006;

/**
 * Cohesion (Pa), angle of shearing (rad) and friction of a helix along it: soft mud and old snow, within a factor of
 * about two (J. Y. Wong, Theory of Ground Vehicles, from memory).
 */
const SOIL = {
  mud: { cohesion: 1500, shearing: (5 * Math.PI) / 180, friction: 0.25 },
  snow: { cohesion: 800, shearing: (18 * Math.PI) / 180, friction: 0.1 },
};
/**
 * Most that such a craft pulls over its weight: tests of full-size ones found a quarter to three quarters (from
 * memory).
 */
const PULL = 0.75;
const SLIP = 0.2;
const CREEP = 0.1;

/**
 * Torque (N·m) that turns a screw against a force along its axis: F·d/2·(l + π·µ·d)/(π·d − µ·l) (Shigley). A helix so
 * steep that it would lock is taken at a tenth of its free lever.
 */
export const raisingTorque = (force: number, meanDiameter: number, lead: number, friction: number): number =>
  ((force * meanDiameter) / 2) *
  ((lead + Math.PI * friction * meanDiameter) /
    Math.max(Math.PI * meanDiameter - friction * lead, 0.1 * Math.PI * meanDiameter));

/**
 * Push and torque of one screw drum: in water its helix is a plate that slips through it, its stream held to the ring
 * that the helix sweeps; in mud and snow it pushes until the ground shears off around it, and turns like a power screw.
 *
 * Valid: to an order of magnitude (± 50 %), said with every number.
 * Source: actuator disc of the swept ring; Mohr–Coulomb shear with Janosi's slip (Wong); raising torque of a power
 * screw (Shigley, Mechanical Engineering Design).
 */
export function drumLoad(
  drum: Drum,
  water: Medium,
  speed: number,
  rpm: number,
): { thrust: number; torque: number; solved: boolean } {
  const n = rpm / 60;
  const middle = drum.diameter / 2 + drum.blade / 2;
  const goes = n * drum.lead;
  if (!(n > 0)) return { thrust: 0, torque: 0, solved: true };
  if (drum.on === "water") {
    const beta = Math.atan(drum.lead / (2 * Math.PI * middle));
    const area = ((drum.starts * drum.length) / Math.sin(beta)) * drum.blade * drum.under;
    const ring = Math.PI * ((drum.diameter / 2 + drum.blade) ** 2 - (drum.diameter / 2) ** 2) * drum.under;
    const press = (slip: number) => 0.5 * water.density * PLATE * area * Math.cos(beta) ** 3 * slip * Math.abs(slip);
    const skin =
      (0.5 *
        water.density *
        SKIN *
        Math.PI *
        drum.diameter *
        drum.length *
        drum.under *
        (2 * Math.PI * n) ** 2 *
        drum.diameter ** 3) /
      8;
    const slips = goes - speed;
    // Driven by the water it is a brake: no stream of its own.
    const found =
      slips > 0
        ? findRoot((v) => press(slips - v) - 2 * water.density * ring * (speed + v) * v, 0, slips, slips * 1e-9)
        : { status: "converged" as const, x: 0 };
    if (found.status !== "converged") return { thrust: 0, torque: 0, solved: false };
    const thrust = press(slips - found.x);
    return { thrust, torque: (thrust * drum.lead) / (2 * Math.PI) + skin, solved: true };
  }
  const soil = SOIL[drum.on];
  const weight = drum.load * GRAVITY;
  const contact = Math.PI * (drum.diameter + 2 * drum.blade) * drum.length * drum.under;
  const most = Math.min(soil.cohesion * contact + weight * Math.tan(soil.shearing), PULL * weight);
  const slip = (goes - speed) / Math.max(goes, Math.abs(speed), CREEP);
  const thrust = Math.sign(slip) * most * (1 - Math.exp(-Math.abs(slip) / SLIP));
  const rubs = soil.friction * weight * (drum.diameter / 2) * Math.tanh(goes / (0.1 * CREEP));
  const turns =
    thrust > 0 ? raisingTorque(thrust, 2 * middle, drum.lead, soil.friction) : (thrust * drum.lead) / (2 * Math.PI);
  return { thrust, torque: turns + rubs, solved: true };
}
