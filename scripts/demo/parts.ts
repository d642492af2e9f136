/** Short words for the demo crafts: parts, targets, runs and faults in the units that builders write. */
import {
  type CraftFileInput,
  type Fault,
  type Run,
  type RunMetric,
  type Suspect,
  newFault,
  newSuspect,
} from "../../core/design/craftFile";
import type { Bench, Calibration, WeighIn } from "../../core/design/bench";
import type { FastThrottle } from "../../core/design/thrustTest";
import type { Evidence } from "../../core/design/evidence";
import { weigh } from "../../core/subjects/mass/evidence";
import type { MetricKey } from "../../core/design/metrics";
import { METRICS } from "../../core/design/metrics";
import { type Design, type Item, type Setting, type Target, type Unit, newItem } from "../../core/design/schema";

export const mm = 1e-3;
export const g = 1e-3;
export const deg = Math.PI / 180;

export interface PartLine {
  id: string;
  name: string;
  group: string;
  n?: number;
  grams: number | null;
  by?: Evidence;
  at: [x: number, y: number, z: number];
  placed?: Evidence;
  box: [x: number, y: number, z: number];
  slide?: [from: number, to: number];
  mirrored?: boolean;
  cost?: number;
  source?: Item["source"];
  /** planned mass each, g */
  plan?: number;
  hollow?: boolean;
  /** part that it is attached to */
  on?: string;
  /** minutes to make */
  make?: number;
}

export const part = (p: PartLine): Item =>
  newItem({
    id: p.id,
    name: p.name,
    group: p.group,
    quantity: p.n ?? 1,
    mass: p.grams === null ? null : { value: p.grams * g, evidence: p.by ?? "measured" },
    place: { x: p.at[0] * mm, y: p.at[1] * mm, z: p.at[2] * mm },
    placeEvidence: p.placed ?? "datasheet",
    size: { x: p.box[0] * mm, y: p.box[1] * mm, z: p.box[2] * mm },
    mirrored: p.mirrored ?? false,
    slide: p.slide ? { from: p.slide[0] * mm, to: p.slide[1] * mm } : null,
    cost: p.cost ?? null,
    source: p.source ?? "have",
    planned: p.plan === undefined ? null : p.plan * g,
    hollow: p.hollow ?? false,
    parentId: p.on ?? null,
    makeMinutes: p.make ?? null,
  });

export const target = (
  metric: MetricKey,
  comparison: Target["comparison"],
  value: number,
  weight: Target["weight"] = "must",
  upper?: number,
): Target => ({
  id: `t-${metric}`,
  metric,
  comparison,
  value,
  ...(upper === undefined ? {} : { upper }),
  weight,
});

export const known = (value: number, evidence: Evidence, note?: string) => ({
  value,
  evidence,
  ...(note ? { note } : {}),
});
export const edit = (design: Design, change: (d: Design) => void): Design => {
  const copy = structuredClone(design);
  change(copy);
  return copy;
};
export const item = (d: Design, id: string): Item => {
  const found = d.items.find((i) => i.id === id);
  if (!found) throw new Error(id);
  return found;
};
/** What a drive says when it says nothing: one unit, straight ahead, nothing learned, nothing measured. */
export const PLAIN_UNIT = {
  count: 1,
  learned: null,
  measured: null,
  places: [],
  copiesBecause: "",
  propulsor: null,
  around: [],
  motorItemId: null,
  controllerItemId: null,
  direction: "ahead",
  tilt: 0,
  throttleLimit: 1,
  reversible: false,
  surroundings: "in air",
  spin: "clockwise",
  gear: { ratio: 1, efficiency: { value: 1, evidence: "measured", sd: 0 } },
} satisfies Partial<Unit>;

export const unit = (d: Design): Unit => {
  const found = d.units[0];
  if (!found) throw new Error("unit");
  return found;
};
export const grams = (d: Design, id: string, value: number, by: Evidence) => {
  const part = item(d, id);
  if (by === "measured") weigh(part, known(value * g, by));
  else part.mass = known(value * g, by);
};

export const empty = (metric: MetricKey | string, dimension?: RunMetric["dimension"]): RunMetric => ({
  metric,
  dimension: dimension ?? METRICS[metric as MetricKey].dimension,
  predicted: null,
  measured: null,
});

export interface RunLine {
  n: number;
  v: string;
  date: string;
  stage: number;
  purpose: string;
  outcome: Run["outcome"];
  notes: string;
  course?: string;
  /** wind m/s, volts at the start, pack: what was driven is read at seeding */
  laps?: [wind: number, volts: number, pack?: string][];
  read: (MetricKey | [string, RunMetric["dimension"]])[];
  air?: number;
  wind?: number;
  place?: string;
  surface?: string;
  pack?: string;
  volts?: number;
  loaded?: number;
  ended?: number;
  seconds?: number;
  plan?: number;
  /** why it was run although its ladder was locked; left out at seeding when it was not */
  goneOn?: string;
  /** what eyes said of its gates, by gate */
  eye?: Record<string, "passed" | "failed">;
  /** seconds from the start, code of the mark, words */
  moments?: [seconds: number, mark: string, text?: string][];
  crash?: string;
}
export const run = (r: RunLine): CraftFileInput["runs"][number] => ({
  number: r.n,
  version: r.v,
  date: `${r.date}:00+01:00`,
  stage: r.stage,
  purpose: r.purpose,
  place: r.place ?? "north bay",
  pilot: "builder",
  conditions: { airTemperature: r.air ?? -5, wind: r.wind ?? 1.5, surface: r.surface ?? "smooth ice, dusting of snow" },
  pack: {
    name: r.pack ?? "P-01",
    restingVoltage: r.volts ?? 12.45,
    loadedVoltage: r.loaded ?? null,
    endVoltage: r.ended ?? null,
    temperature: null,
  },
  outcome: r.outcome,
  cautionsRead: true,
  notes: r.notes,
  course: r.course ?? "",
  laps: (r.laps ?? []).map(([wind, volts, pack], k) => ({
    label: `${r.n}.${k + 1}`,
    values: {},
    wind,
    pack: pack ?? r.pack ?? "P-01",
    startVoltage: volts,
    pilot: "builder",
    remark: "",
    out: "",
  })),
  plan: r.plan ?? null,
  seconds: r.seconds ?? null,
  goneOn: r.goneOn ?? "",
  // Judged at seeding, when its numbers are read.
  gates: Object.entries(r.eye ?? {}).map(([id, result]) => ({
    gate: { id, metric: "", dimension: "ratio", comparison: "atLeast", value: 0, upper: null, text: id },
    result,
    value: null,
  })),
  moments: (r.moments ?? []).map(([seconds, mark, text], k) => ({
    id: `r${r.n}-${k + 1}`,
    seconds,
    kind: mark === "in" ? "pack in" : mark === "out" ? "pack out" : mark === "" ? "words" : "mark",
    mark: mark === "in" || mark === "out" ? "" : mark,
    text: text ?? "",
    pack:
      mark === "in"
        ? { name: r.pack ?? "P-01", resting: r.volts ?? 12.45, loaded: r.loaded ?? null }
        : mark === "out"
          ? { name: r.pack ?? "P-01", resting: r.ended ?? null, loaded: null }
          : null,
    files: [],
  })),
  crash:
    r.crash === undefined
      ? null
      : { steps: { safe: true, log: true, photographs: true, unmoved: true, suspects: true }, notes: r.crash },
  metrics: r.read.map((m) => (Array.isArray(m) ? empty(m[0], m[1]) : empty(m))),
});

export const suspect = (id: string, cause: string, s: Partial<Suspect>): Suspect => newSuspect(id, cause, s);
export const setting = (
  id: string,
  group: string,
  kind: Setting["kind"],
  name: string,
  value: string,
  hides = "",
): Setting => ({ id, group, name, value, kind, hides });
export const fault = (f: Partial<Fault> & Pick<Fault, "number" | "run" | "title">): Fault => ({
  ...newFault(f.run ?? 0),
  ...f,
});

/** The kitchen scale of the demo: 1 g steps, 0.05 % calibration. */
const SCALE = { resolution: 0.001, error: 0.0005 };
/** Three readings that the seeding fills in off the hidden craft. */
const thrice = () => [0, 0, 0];

/** A bench session whose readings are taken at seeding. */
export const session = (number: number, version: string, date: string, weighIn: WeighIn, notes = ""): Bench => ({
  number,
  version,
  date: `${date}:00+01:00`,
  weighIn,
  thrust: null,
  fastThrottle: null,
  calibration: null,
  glide: null,
  free: null,
  moment: null,
  pulls: null,
  files: [],
  notes,
  tested: [],
  adopted: "",
});
const SEEN_TO = {
  restraint: true,
  plane: true,
  shield: true,
  distance: true,
  people: true,
  cutOff: true,
  place: "outdoors" as const,
};
const meter = (step: number, error: number, session: number | null = null) => ({ step, error, session });

/** A sweep up and down in steps of 5 %, three readings at each, taken at seeding. */
export function sweep(
  number: number,
  version: string,
  date: string,
  air: { temperature: number; pressure: number },
  calibratedIn: number | null,
  notes = "",
): Bench {
  const up = Array.from({ length: 21 }, (_, i) => i / 20);
  const throttles = [...up, ...up.slice(0, -1).reverse()];
  const blank = {
    t: null,
    scale: null,
    voltage: null,
    current: null,
    rpm: null,
    temperature: null,
    noise: null,
    out: "",
  };
  return {
    ...session(number, version, date, onOneScale(), notes),
    weighIn: null,
    thrust: {
      unitId: "d1",
      rig: {
        kind: "lever",
        thrustArm: 0.21,
        scaleArm: 0.14,
        armSd: 0.0005,
        reads: "more",
        tare: 0.214,
        counterweight: 0.12,
        check: { mass: 0.5, reading: 0.9624 },
        scale: meter(0.001, 0.003),
        voltage: meter(0.01, 0.004),
        current: meter(0.1, 0.02, calibratedIn),
        rpm: meter(10, 0.001),
      },
      air,
      safety: SEEN_TO,
      plan: {
        steps: up,
        down: true,
        repeats: 1,
        samples: 3,
        rest: 0,
        measures: ["thrust", "voltage", "current", "rpm", "temperature"],
      },
      readings: throttles.flatMap((throttle) => Array.from({ length: 3 }, () => ({ throttle, ...blank }))),
      drive: null,
    },
  };
}
export const calibration = (number: number, version: string, date: string, c: Calibration, notes = ""): Bench => ({
  ...session(number, version, date, onOneScale(), notes),
  weighIn: null,
  calibration: c,
});
export const fastThrottle = (
  number: number,
  version: string,
  date: string,
  trials: FastThrottle["trials"],
  notes = "",
): Bench => ({
  ...session(number, version, date, onOneScale(), notes),
  weighIn: null,
  fastThrottle: { unitId: "d1", safety: SEEN_TO, trials },
});
export const onOneScale = (): WeighIn => ({ kind: "total", scale: SCALE, loads: thrice() });
/** One support ahead on the centreline, two behind at half a track (m) either side. */
export const onThreeScales = (ahead: number, behind: number, half: number): WeighIn => ({
  kind: "three-scales",
  scale: SCALE,
  ruler: 0.001,
  at: [
    { x: ahead, y: 0 },
    { x: behind, y: -half },
    { x: behind, y: half },
  ],
  loads: [thrice(), thrice(), thrice()],
});
export const tilted = (at: [number, number], angle: number, angleSd: number): WeighIn => ({
  kind: "level-and-tilted",
  scale: SCALE,
  ruler: 0.001,
  at,
  height: 0,
  level: [thrice(), thrice()],
  tilted: [thrice(), thrice()],
  angle,
  angleSd,
});
