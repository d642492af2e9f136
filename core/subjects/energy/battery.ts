import type { CHEMISTRIES } from "../../design/schema";

export type Chemistry = (typeof CHEMISTRIES)[number];

export interface ChemistryData {
  label: string;
  /** Open-circuit voltage of a cell at 25 °C against state of charge 0, 0.1, 0.2 … 1, V. */
  openCircuit: readonly number[];
  /** Lowest cell voltage under load, V: below it a controller cuts off and the cell suffers. */
  floor: number;
  /** Resistance grows by this share for each °C below 25 °C, compounding. */
  coldGrowth: number;
  /** Typical specific energy of a hobby pack, W·h/kg, and its standard uncertainty. */
  specificEnergy: { value: number; sd: number };
  /** Voltage says little about charge. */
  flat: boolean;
}

/**
 * Generic cells, no particular make. Open-circuit curves and cold growth: common practice (typical published
 * discharge curves at low
 * rate, from memory; ± 0.03 V a cell). Resistance at 0 °C is about twice that at 25 °C for lithium-polymer cells.
 */
export const CHEMISTRY: Record<Chemistry, ChemistryData> = {
  lipo: {
    label: "LiPo",
    openCircuit: [3.27, 3.69, 3.73, 3.77, 3.79, 3.84, 3.87, 3.95, 4.02, 4.11, 4.2],
    floor: 3.3,
    coldGrowth: 0.028,
    specificEnergy: { value: 150, sd: 25 },
    flat: false,
  },
  lihv: {
    label: "LiHV",
    openCircuit: [3.3, 3.7, 3.75, 3.79, 3.83, 3.89, 3.97, 4.05, 4.14, 4.24, 4.35],
    floor: 3.3,
    coldGrowth: 0.028,
    specificEnergy: { value: 160, sd: 25 },
    flat: false,
  },
  liion: {
    label: "Li-ion",
    openCircuit: [2.9, 3.32, 3.45, 3.54, 3.61, 3.67, 3.76, 3.86, 3.96, 4.06, 4.18],
    floor: 2.8,
    coldGrowth: 0.025,
    specificEnergy: { value: 215, sd: 25 },
    flat: false,
  },
  lifepo4: {
    label: "LiFePO4",
    openCircuit: [2.8, 3.18, 3.23, 3.26, 3.28, 3.29, 3.3, 3.31, 3.32, 3.33, 3.4],
    floor: 2.5,
    coldGrowth: 0.03,
    specificEnergy: { value: 100, sd: 15 },
    flat: true,
  },
  nimh: {
    label: "NiMH",
    openCircuit: [1.05, 1.2, 1.23, 1.25, 1.26, 1.27, 1.28, 1.29, 1.31, 1.35, 1.42],
    floor: 0.9,
    coldGrowth: 0.02,
    specificEnergy: { value: 65, sd: 12 },
    flat: true,
  },
  lead: {
    label: "Lead, sealed",
    openCircuit: [1.93, 1.96, 1.98, 2.0, 2.02, 2.04, 2.06, 2.08, 2.1, 2.12, 2.14],
    floor: 1.65,
    coldGrowth: 0.012,
    specificEnergy: { value: 32, sd: 5 },
    flat: false,
  },
};

/** Open-circuit voltage of one cell, V, at a state of charge 0 to 1 (clamped); linear between the tabled points. */
export function openCircuit(chemistry: Chemistry, charge: number): number {
  const table = CHEMISTRY[chemistry].openCircuit;
  const place = Math.min(Math.max(charge, 0), 1) * 10;
  const i = Math.min(Math.floor(place), 9);
  const a = table[i] as number;
  return a + ((table[i + 1] as number) - a) * (place - i);
}

/**
 * Share of the capacity that a cold pack keeps back, per K below 20 °C, and the least that is left (common practice;
 * a third of it is in doubt).
 */
const COLD_LOSS: Record<Chemistry, number> = {
  lipo: 0.008,
  lihv: 0.008,
  liion: 0.008,
  lifepo4: 0.01,
  nimh: 0.006,
  lead: 0.01,
};
const LEAST_LEFT = 0.5;

/** Share of its capacity that a pack gives at a temperature (°C): 1 at 20 °C and above. Valid −20 to 45 °C. */
export const coldCapacity = (chemistry: Chemistry, temperature: number): number =>
  Math.max(LEAST_LEFT, 1 - COLD_LOSS[chemistry] * Math.max(0, 20 - temperature));

/** Factor on cell resistance at a temperature (°C), 1 at 25 °C and above. Common practice; valid −20 to 45 °C. */
export function coldFactor(chemistry: Chemistry, temperature: number): number {
  return (1 + CHEMISTRY[chemistry].coldGrowth) ** Math.max(0, 25 - temperature);
}
