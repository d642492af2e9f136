import type { Dimension } from "./units";

/** Stations of the workshop, in the order in which builders work. */
export const STATIONS = ["brief", "layout", "power", "stability", "bench", "runs", "faults", "versions"] as const;
export type Station = (typeof STATIONS)[number];

export interface Metric {
  label: string;
  dimension: Dimension;
  station: Station;
  /** False for what a run can measure and no computation here predicts. */
  modelled: boolean;
}

const m = (label: string, dimension: Dimension, station: Station, modelled = true): Metric => ({ label, dimension, station, modelled });

/** Everything that can be asked for, computed or measured under one name. Keys are part of the open format. */
export const METRICS = {
  auw: m("All-up weight (AUW)", "mass", "layout"),
  auwExpected: m("AUW with growth to be expected", "mass", "layout"),
  netMass: m("Mass beyond what the gas carries", "mass", "layout"),
  ballastShare: m("Ballast's share of AUW", "percent", "layout"),
  cgX: m("CG aft of datum", "length", "layout"),
  cgY: m("CG to starboard", "length", "layout"),
  cgZ: m("CG above baseline", "length", "layout"),
  inertiaRoll: m("Inertia in roll", "inertia", "layout"),
  inertiaPitch: m("Inertia in pitch", "inertia", "layout"),
  inertiaYaw: m("Inertia in yaw", "inertia", "layout"),
  length: m("Length", "length", "layout"),
  width: m("Width", "length", "layout"),
  height: m("Height", "length", "layout"),
  cost: m("Cost of all parts", "money", "layout"),
  costToBuy: m("Cost of what is missing", "money", "layout"),
  packShare: m("Packs' share of AUW", "percent", "power"),
  airDensity: m("Air density", "density", "power"),
  thrust: m("Thrust, standing, full throttle", "force", "power"),
  thrustToWeight: m("Thrust to weight, standing", "ratio", "power"),
  thrustThrottle: m("Throttle to lift the weight", "percent", "power"),
  current: m("Motor current, full throttle", "current", "power"),
  packCurrent: m("Pack current, full throttle", "current", "power"),
  packVoltage: m("Pack voltage, full throttle", "voltage", "power"),
  packPower: m("Pack power, full throttle", "power", "power"),
  rpm: m("Propeller speed, full throttle", "rotation", "power"),
  torque: m("Propeller torque, full throttle", "torque", "power"),
  motorLoss: m("Heat in the motor, full throttle", "power", "power"),
  tipMach: m("Tip Mach number", "ratio", "power"),
  endurance: m("Endurance at the duty", "time", "power"),
  speed: m("Top speed", "speed", "power"),
  liftOffSpeed: m("Lift-off speed", "speed", "runs", false),
  noseAngle: m("Nose angle", "angle", "runs", false),
  distance: m("Distance covered", "distance", "runs", false),
  motorTemperature: m("Motor case afterwards", "temperature", "runs", false),
  lapTime: m("Time of a lap", "time", "runs", false),
  charge: m("Charge used", "capacity", "runs", false),
  energyUsed: m("Energy used", "energy", "runs", false),
} as const satisfies Record<string, Metric>;

export type MetricKey = keyof typeof METRICS;
export const METRIC_KEYS = Object.keys(METRICS) as [MetricKey, ...MetricKey[]];
