import { findRoot } from "../../numeric/root";
import type { Battery } from "../../design/schema";
import { CHEMISTRY, type Chemistry, openCircuit } from "./battery";

/** A pack as far as energy goes. */
export interface EnergyPack {
  chemistry: Chemistry;
  series: number;
  /** A·h */
  capacity: number;
}

/** Mean open-circuit voltage of a cell (V) between two states of charge, by the chemistry's curve. */
export function meanCellVoltage(chemistry: Chemistry, from: number, to: number): number {
  const n = 40;
  return (
    Array.from({ length: n }, (_, i) => openCircuit(chemistry, to + ((from - to) * (i + 0.5)) / n)).reduce(
      (s, v) => s + v,
      0,
    ) / n
  );
}

/** Energy (J) that a pack gives between two states of charge, its own losses left out. */
export const packEnergy = (pack: EnergyPack, from: number, to: number): number =>
  pack.capacity * 3600 * Math.max(0, from - to) * pack.series * meanCellVoltage(pack.chemistry, from, to);

/** How much a timed run took out of its pack: by charge returned, by energy, or by the voltage that it rested at. */
export type Drawn =
  | { by: "charge"; ampereHours: number }
  | { by: "energy"; joules: number }
  | { by: "voltage"; restingBefore: number; restingAfter: number };

export type OtherPackResult =
  | {
      status: "predicted";
      /** W, mean over the run */
      power: number;
      /** share of its charge that this pack was drawn to */
      depth: number;
      /** s that the other pack lasts, drawn to the same depth, with its standard uncertainty */
      seconds: number;
      sd: number;
      /** s that it lasts when only the usable share is drawn */
      usable: number;
    }
  /** Voltage says little about charge here: enter mAh or Wh. */
  | { status: "flat" }
  | { status: "impossible"; why: "nothing drawn" | "more than it holds" | "voltage off its curve" };

/** State of charge at a resting cell voltage; null off the curve. */
function chargeAt(chemistry: Chemistry, cell: number): number | null {
  const table = CHEMISTRY[chemistry].openCircuit;
  if (cell < (table[0] ?? 0) - 0.02 || cell > (table.at(-1) ?? 0) + 0.02) return null;
  let low = 0;
  let high = 1;
  for (let k = 0; k < 40; k++) {
    const middle = (low + high) / 2;
    if (openCircuit(chemistry, middle) < cell) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * Standard uncertainty of a duration predicted from another pack's energy: what sag, temperature and age leave
 * (common practice).
 */
const SHARE_OFF = 0.08;

/**
 * One timed run on pack A predicts pack B by energy, whatever their cells and volts: the same craft at the same work
 * draws the same mean power, so t_B = E_B/P with P = E_A/t_A.
 * Volts alone predict nothing. From resting voltages the charge is read off the chemistry's curve; on flat
 * chemistries that is refused.
 *
 * Both packs are drawn to the same depth, so that like is held against like; what the usable share of B lasts is told
 * beside it.
 *
 * @param usable share of B that may be used
 */
export function otherPack(
  a: EnergyPack,
  drawn: Drawn,
  seconds: number,
  b: EnergyPack,
  usable: number,
): OtherPackResult {
  if (!(seconds > 0)) return { status: "impossible", why: "nothing drawn" };
  let energy: number;
  let depth: number;
  if (drawn.by === "energy") {
    energy = drawn.joules;
    const whole = packEnergy(a, 1, 0);
    if (energy > 1.1 * whole) return { status: "impossible", why: "more than it holds" };
    depth = depthOf(a, energy);
  } else if (drawn.by === "charge") {
    const share = drawn.ampereHours / a.capacity;
    if (share > 1.1) return { status: "impossible", why: "more than it holds" };
    depth = Math.min(1, share);
    energy = packEnergy(a, 1, 1 - depth);
  } else {
    if (CHEMISTRY[a.chemistry].flat) return { status: "flat" };
    const from = chargeAt(a.chemistry, drawn.restingBefore / a.series);
    const to = chargeAt(a.chemistry, drawn.restingAfter / a.series);
    if (from === null || to === null) return { status: "impossible", why: "voltage off its curve" };
    depth = from - to;
    energy = packEnergy(a, from, to);
  }
  if (!(energy > 0)) return { status: "impossible", why: "nothing drawn" };
  const power = energy / seconds;
  const lasts = packEnergy(b, 1, 1 - depth) / power;
  return {
    status: "predicted",
    power,
    depth,
    seconds: lasts,
    sd: (drawn.by === "voltage" ? 2 : 1) * SHARE_OFF * lasts,
    usable: packEnergy(b, 1, 1 - usable) / power,
  };
}

/** Share of a full pack that gives so much energy (J). */
function depthOf(pack: EnergyPack, joules: number): number {
  const found = findRoot((share) => packEnergy(pack, 1, 1 - share) - joules, 0, 1, 1e-6);
  return found.status === "converged" ? found.x : 1;
}

/** Capacity (A·h) of a pack of these cells that lasts a wanted time at a mean power (W). */
export const capacityFor = (
  power: number,
  seconds: number,
  chemistry: Chemistry,
  series: number,
  usable: number,
): number => (power * seconds) / (3600 * usable * series * meanCellVoltage(chemistry, 1, 1 - usable));

export const energyPackOf = (b: Battery): EnergyPack => ({
  chemistry: b.chemistry,
  series: b.series,
  capacity: b.capacity.value,
});
