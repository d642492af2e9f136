import { z } from "zod";
import { finite } from "../../design/bounds";
import { evidenceSchema, magnitude } from "../../design/evidence";
import { field, idSchema, nameSchema, unique } from "../../design/fields";
import { numbers } from "../../design/numbers";

export const CHEMISTRIES = ["lipo", "lihv", "liion", "lifepo4", "nimh", "lead"] as const;
export const batterySchema = z.object({
  id: idSchema,
  name: nameSchema,
  itemId: field(idSchema.nullable().describe("ledger entry that is this pack"), { label: "ledger entry" }),
  chemistry: field(z.enum(CHEMISTRIES), { label: "chemistry" }),
  series: field(z.number().int().min(1).max(24, "at most 24 cells in series"), {
    label: "cells in series",
    dimension: "count",
  }),
  capacity: field(magnitude("capacity").describe("A·h of the whole pack"), {
    label: "capacity",
    dimension: "capacity",
  }),
  cellResistance: field(
    magnitude("resistance").describe("Ω of one series cell (group) at 25 °C, as a charger reads it"),
    { label: "cell resistance", dimension: "resistance" },
  ),
  cRating: field(
    finite.positive().max(300).describe("continuous discharge current in multiples of the capacity per hour"),
    { label: "C rating", dimension: "ratio" },
  ),
  usable: field(finite.min(0.1).max(1).describe("share of the capacity that a run may use"), {
    label: "usable share",
    dimension: "percent",
  }),
  startCharge: field(finite.min(0.05).max(1).describe("state of charge at the start, 0 to 1"), {
    label: "charge at start",
    dimension: "percent",
  }),
  otherLoad: field(finite.min(0).max(5000).describe("radio, servos, lights: steady power from this pack, W"), {
    label: "other load",
    dimension: "power",
  }),
});
export type Battery = z.infer<typeof batterySchema>;

/**
 * Where a mean current or power comes from, and of what craft it was taken: of another one it is not taken for this.
 */
const loadKnownSchema = z.object({
  evidence: evidenceSchema,
  sd: z.number().nonnegative().max(1e6).describe("standard uncertainty, A or W"),
  note: z.string().max(500).describe("where the number came from"),
  mass: z.number().positive().max(1e5).nullable().describe("all-up mass that it was taken at, kg; null: not known"),
  drives: z
    .string()
    .max(4000)
    .describe("drives and cells that it was taken with, as core/subjects/energy/load.ts writes them; empty: not known"),
});
export type LoadKnown = z.infer<typeof loadKnownSchema>;

/** One part of a cycle of the duty. */
export const phaseSchema = z.object({
  id: idSchema,
  name: nameSchema,
  seconds: field(finite.positive().max(1e6).describe("how long it lasts each time, s"), {
    label: "lasts",
    dimension: "time",
  }),
  repeats: field(z.number().int().min(1).max(1000).default(1).describe("how often in one cycle"), {
    label: "repeats",
    dimension: "count",
  }),
  by: field(z.enum(["throttle", "thrust", "thrustToWeight", "speed", "current", "power"]), { label: "held by" }),
  value: field(
    finite
      .min(0)
      .describe(
        "throttle 0 to 1, total thrust in N, total thrust in multiples of the weight, speed in m/s, or " +
          "what the pack gives: its mean current in A or mean power in W",
      ),
    { label: "value" },
  ),
  known: field(
    loadKnownSchema.nullable().default(null).describe("how a current or a power is known; null: it is a guess"),
    { label: "known by", about: "knowing" },
  ),
  groundSpeed: field(
    finite
      .min(0)
      .max(150)
      .nullable()
      .default(null)
      .describe("speed over the ground while it lasts, m/s; null: not said"),
    {
      label: "speed over the ground",
      dimension: "speed",
    },
  ),
  unitIds: field(
    z.array(idSchema).max(24).default([]).describe("drives that work in it; empty: all. The others stand still"),
    { label: "drives" },
  ),
  stateId: field(
    idSchema.nullable().default(null).describe("state of the craft in which it is flown or driven; null: its first"),
    { label: "in the state" },
  ),
});
export type Phase = z.infer<typeof phaseSchema>;
/** A phase of a minute on the main drives, the rest as given. */
export const newPhase = (given: Partial<Phase> & Pick<Phase, "id" | "name" | "by" | "value">): Phase => ({
  seconds: 60,
  repeats: 1,
  unitIds: [],
  known: null,
  groundSpeed: null,
  stateId: null,
  ...given,
});

/** What hangs on a regulator. */
export const railLoadSchema = z.object({
  id: idSchema,
  name: nameSchema,
  current: field(finite.min(0).max(200).describe("usual draw at the rail's voltage, A"), {
    label: "usual draw",
    dimension: "current",
  }),
  peak: field(finite.min(0).max(200).describe("highest draw, such as all servos stalled, A"), {
    label: "highest draw",
    dimension: "current",
  }),
  minVoltage: field(finite.min(0).max(60).describe("least voltage at which it works, V"), {
    label: "least voltage",
    dimension: "voltage",
  }),
});
export const regulatorSchema = z.object({
  id: idSchema,
  name: nameSchema,
  batteryId: field(idSchema, { label: "pack" }),
  kind: field(z.enum(["switching", "linear"]), { label: "kind" }),
  voltage: field(finite.positive().max(60).describe("V"), { label: "voltage", dimension: "voltage" }),
  maxCurrent: field(finite.positive().max(200).describe("A"), { label: "rating", dimension: "current" }),
  dropout: field(finite.min(0).max(10).describe("V that the pack must stand above the rail"), {
    label: "dropout",
    dimension: "voltage",
  }),
  efficiency: field(finite.min(0.3).max(1).describe("of a switching one; a linear one has rail over pack voltage"), {
    label: "efficiency",
    dimension: "percent",
  }),
  loads: z.array(railLoadSchema).max(40),
});
export type Regulator = z.infer<typeof regulatorSchema>;

const AT_DUTY = {
  source: "The same discharge as the endurance; a current or power that was measured is taken as it is.",
  range: "The duty as entered, its phases in turn.",
};

/** The numbers of packs at work. */
export const quantities = numbers({
  endurance: {
    label: "Endurance at the duty",
    dimension: "time",
    page: "power",
    formula:
      "t = Σ ΔQ / I_mean(charge), each step solved at its own open-circuit voltage; ends at the usable " +
      "share, at the cells' floor, or when the thrust can no longer be held. A throttle on described " +
      "wings: at the speed where T(v) = D(v)",
    source: "Midpoint rule over 24 steps of charge; drives as under thrust; generic cell curves (common practice).",
    range:
      "The duty as entered, its phases in turn; drives inside their own range. A phase by throttle or " +
      "thrust of what no described wings carry alone: as standing, where a propeller draws more than in " +
      "motion.",
  },
  meanPower: {
    label: "Mean power at the duty",
    dimension: "power",
    page: "power",
    formula: "P = ∫ V·I dt / t, of the pack that is spent first",
    ...AT_DUTY,
  },
  meanCurrent: {
    label: "Mean current at the duty",
    dimension: "current",
    page: "power",
    formula: "I = Q / t, of the pack that is spent first",
    ...AT_DUTY,
  },
  range: {
    label: "Distance at the duty",
    dimension: "distance",
    page: "power",
    formula:
      "s = t · mean speed over the ground of the phases; where none is stated, through still air at the " +
      "speeds that the throttles fly at",
    ...AT_DUTY,
  },
  energyPerDistance: {
    label: "Energy for each distance",
    dimension: "energyPerDistance",
    page: "power",
    formula: "e = Σ packs' energy / s",
    ...AT_DUTY,
  },
});

/** What packs, regulators and the duty add to the document. */
export const shape = {
  batteries: field(z.array(batterySchema).max(8).refine(unique, "two packs have the same id"), {
    label: "pack",
    change: "pack",
  }),
  regulators: field(z.array(regulatorSchema).max(12).refine(unique, "two regulators have the same id").default([]), {
    label: "regulator",
    change: "other",
  }),
  duty: field(z.array(phaseSchema).max(40).describe("one cycle of a run, repeated until the pack is spent"), {
    label: "phase of the duty",
    change: "duty",
  }),
};
