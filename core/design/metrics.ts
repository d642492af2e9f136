import { quantities as air } from "../subjects/air/declares";
import { quantities as authority } from "../subjects/authority/declares";
import { quantities as box } from "../subjects/box/declares";
import { quantities as cost } from "../subjects/cost/declares";
import { quantities as energy } from "../subjects/energy/declares";
import { quantities as flight } from "../subjects/flight/declares";
import { quantities as lateral } from "../subjects/lateral/declares";
import { quantities as liftoff } from "../subjects/liftoff/declares";
import { quantities as mass } from "../subjects/mass/declares";
import { quantities as powered } from "../subjects/powered/declares";
import { quantities as propulsion } from "../subjects/propulsion/declares";
import { quantities as ratios } from "../subjects/ratios/declares";
import { quantities as speed } from "../subjects/speed/declares";
import { quantities as stance } from "../subjects/stance/declares";
import { quantities as wind } from "../subjects/wind/declares";
import type { Page } from "./numbers";
import type { Dimension } from "./units";

export { PAGES, type Page } from "./numbers";

export interface Metric {
  label: string;
  dimension: Dimension;
  page: Page;
  /** How it is computed; left out for what a run can measure and no computation here predicts. */
  formula?: string;
  source?: string;
  range?: string;
}

const measured = (label: string, dimension: Dimension): Metric => ({ label, dimension, page: "runs" });

/** What a run can measure and nothing here predicts. */
const MEASURED = {
  noseAngle: measured("Nose angle", "angle"),
  distance: measured("Distance covered", "distance"),
  motorTemperature: measured("Motor case afterwards", "temperature"),
  lapTime: measured("Time of a lap", "time"),
  charge: measured("Charge used", "capacity"),
  energyUsed: measured("Energy used", "energy"),
} as const satisfies Record<string, Metric>;

/** The numbers of every subject: one line for each. */
const COMPUTED = {
  ...mass,
  ...cost,
  ...air,
  ...propulsion,
  ...ratios,
  ...energy,
  ...speed,
  ...authority,
  ...flight,
  ...lateral,
  ...powered,
  ...liftoff,
  ...wind,
  ...stance,
  ...box,
};

/** Everything that can be asked for, computed or measured under one name. Keys are part of the open format. */
export const METRICS: Readonly<Record<keyof typeof COMPUTED | keyof typeof MEASURED, Metric>> = {
  ...COMPUTED,
  ...MEASURED,
};

export type MetricKey = keyof typeof METRICS;
export const METRIC_KEYS = Object.keys(METRICS) as [MetricKey, ...MetricKey[]];
export const isModelled = (key: MetricKey): boolean => METRICS[key].formula !== undefined;
