import { WATERS } from "../subjects/water/water";
import { aboardSchema } from "./hazards";
import { z } from "zod";
import * as box from "../subjects/box/declares";
import * as energy from "../subjects/energy/declares";
import * as mass from "../subjects/mass/declares";
import * as propulsion from "../subjects/propulsion/declares";
import * as speed from "../subjects/speed/declares";
import * as stance from "../subjects/stance/declares";
import * as surfaces from "../subjects/surfaces/declares";
import { finite } from "./bounds";
import { evidenceSchema } from "./evidence";
import { field, idSchema, nameSchema, unique } from "./fields";
import { METRIC_KEYS } from "./metrics";
import { type HeldUpBy, MOST_STATES, stateSchema, transitionSchema, usualState } from "./states";

export {
  HELD_UP_BY,
  type HeldUpBy,
  MOST_STATES,
  MOST_WAYS,
  type State,
  type SurfaceInState,
  type Transition,
  type UnitInState,
  plainState,
  stateSchema,
  usualState,
} from "./states";

export { AXES, type Axis, type Point } from "./fields";
export {
  type Battery,
  CHEMISTRIES,
  type Phase,
  type Regulator,
  batterySchema,
  newPhase,
  phaseSchema,
  railLoadSchema,
  regulatorSchema,
} from "../subjects/energy/declares";
export {
  type BallastSpot,
  type Item,
  type Outline,
  type Role,
  type WalkBack,
  type WalkBackRecord,
  ballastSpotSchema,
  itemSchema,
  newItem,
  ROLES,
  newWalkBack,
  outlineSchema,
  walkBackSchema,
} from "../subjects/mass/declares";
export {
  type Conductor,
  type Learned,
  type Unit,
  conductorSchema,
  controllerSchema,
  gearSchema,
  learnedSchema,
  motorSchema,
  propellerSchema,
  unitSchema,
} from "../subjects/propulsion/declares";
export { type BodyShape, type Hinged, type Surface, bodySchema, surfaceSchema } from "../subjects/surfaces/declares";
export { type BoxShape, boxSchema } from "../subjects/box/declares";
export type { FootShape } from "../subjects/stance/declares";
export { propulsorSchema } from "../subjects/propulsion/kinds/declares";

const text = z.string().max(4000);

export const targetSchema = z
  .object({
    id: idSchema,
    metric: z.enum(METRIC_KEYS),
    comparison: z.enum(["atMost", "atLeast", "between"]),
    value: finite.describe("limit, or the lower limit of 'between'; SI unit of the metric"),
    upper: finite.optional().describe("upper limit of 'between'"),
    weight: z.enum(["must", "wish"]),
    evidence: evidenceSchema
      .optional()
      .describe("how well the limit itself is known; left out: as stated. A guessed window stops nothing"),
    stateId: idSchema.optional().describe("state of the craft that it is asked of; left out: every one"),
  })
  .refine((t) => t.comparison !== "between" || (t.upper !== undefined && t.upper > t.value), {
    message: "the upper limit must be above the lower one",
    path: ["upper"],
  });
export type Target = z.infer<typeof targetSchema>;

export const environmentSchema = z.object({
  altitude: field(finite.min(-500).max(11000).describe("height above sea level, m"), {
    label: "altitude",
    dimension: "distance",
  }),
  airTemperature: field(finite.min(-60).max(60).describe("°C"), { label: "air temperature", dimension: "temperature" }),
  packTemperature: field(finite.min(-40).max(60).describe("temperature of the packs at the start, °C"), {
    label: "pack temperature",
    dimension: "temperature",
  }),
  humidity: field(finite.min(0).max(1).optional().describe("relative humidity, 0 to 1; left out: a half"), {
    label: "humidity",
    dimension: "percent",
  }),
  water: field(z.enum(WATERS).optional().describe("what drives in water work in; left out: fresh"), { label: "water" }),
  waterTemperature: field(finite.min(-2).max(40).optional().describe("°C; left out: that of the air, from 4 °C on"), {
    label: "water temperature",
    dimension: "temperature",
  }),
  wind: field(finite.min(0).max(40).describe("worst wind, m/s"), { label: "wind", dimension: "speed" }),
  current: field(finite.min(0).max(10).optional().describe("worst current of the water, m/s; left out: not said"), {
    label: "current",
    dimension: "speed",
  }),
  waveHeight: field(
    finite.min(0).max(10).optional().describe("of its waves, crest over trough, m; left out: not said"),
    {
      label: "wave height",
      dimension: "length",
    },
  ),
  waveLength: field(finite.min(0.05).max(500).optional().describe("from crest to crest, m; left out: not said"), {
    label: "wave length",
    dimension: "distance",
  }),
});

export const briefSchema = z.object({
  purpose: text,
  targets: z.array(targetSchema).max(60),
  environment: environmentSchema,
});

export const schoolsSchema = z.object({
  balance: z.enum(["stable", "unstable on purpose"]),
  changes: z.enum(["one at a time", "several at once"]),
  testing: z.enum(["build, break, learn", "test rig first"]),
});

export const SETTING_KINDS = [
  "gain",
  "throw",
  "rate",
  "mode",
  "trim",
  "channel",
  "fail-safe",
  "signal",
  "limit",
  "fail-safe",
  "other",
] as const;
/** Something that is set rather than built. */
export const settingSchema = z.object({
  id: idSchema,
  group: field(z.string().trim().max(60).describe("controller, radio or surface that it belongs to"), {
    label: "group",
  }),
  name: nameSchema,
  value: field(z.string().trim().max(200), { label: "value" }),
  kind: field(z.enum(SETTING_KINDS).default("other"), { label: "kind" }),
  hides: field(
    z
      .string()
      .trim()
      .max(200)
      .default("")
      .describe("fault that this limit or cut gain only hides: a debt until it is repaid; empty: none"),
    { label: "what it hides" },
  ),
});
export type Setting = z.infer<typeof settingSchema>;

/** What is set about starting and stopping the drives, by what it means; names of one's own tell nothing. */
export const CONTROL = {
  disarm: ["not said", "by the sticks", "by a switch"],
  landing: ["not said", "by hand", "told by itself"],
  linkLost: ["not said", "drives stop", "goes on as it was", "comes back or lands by itself"],
} as const;
export const controlSchema = z.object({
  disarm: field(z.enum(CONTROL.disarm).describe("how the drives are switched off for good"), { label: "disarmed" }),
  landing: field(z.enum(CONTROL.landing).describe("how the controller knows that it has landed"), {
    label: "landing known",
  }),
  linkLost: field(z.enum(CONTROL.linkLost).describe("what happens when the radio link is lost"), {
    label: "link lost",
  }),
});
const UNSAID = { disarm: "not said", landing: "not said", linkLost: "not said" } as const;

/** A version of a craft. Each subject adds its own part: one line for each. */
export const designSchema = z.object({
  states: field(
    z
      .array(stateSchema)
      .min(1, "a craft has at least one state")
      .max(MOST_STATES, `at most ${MOST_STATES} states`)
      .refine(unique, "two states have the same id"),
    { label: "state", change: "medium" },
  ),
  transitions: field(z.array(transitionSchema).max(20).refine(unique, "two transitions have the same id").default([]), {
    label: "transition",
    change: "medium",
  }),
  brief: field(briefSchema, { label: "Brief", change: "brief" }),
  ...mass.shape,
  ...energy.shape,
  ...propulsion.shape,
  ...speed.shape,
  ...surfaces.shape,
  ...stance.shape,
  ...box.shape,
  schools: field(schoolsSchema, { label: "schools", change: "brief" }),
  aboard: field(
    z.array(aboardSchema).max(20).default([]).describe("what can hurt beyond drives and packs: cautions come from it"),
    {
      label: "aboard and at hand",
      change: "other",
    },
  ),
  control: field(controlSchema.default(UNSAID), { label: "starting and stopping", change: "set-up" }),
  setup: field(z.array(settingSchema).max(500).refine(unique, "two settings have the same id"), {
    label: "setting",
    change: "set-up",
  }),
});
export type Design = z.infer<typeof designSchema>;

/** A design with nothing in it yet, in still air at sea level. */
export function emptyDesign(heldUpBy: HeldUpBy): Design {
  return {
    states: [usualState(heldUpBy)],
    transitions: [],
    brief: { purpose: "", targets: [], environment: { altitude: 0, airTemperature: 15, packTemperature: 20, wind: 0 } },
    items: [],
    batteries: [],
    units: [],
    conductors: [],
    regulators: [],
    duty: [],
    gasLift: null,
    dragArea: null,
    waterDragArea: null,
    waterDragAt: null,
    surfaces: [],
    bodies: [],
    feet: [],
    boxes: [],
    flight: { ...surfaces.UNSAID_FLIGHT },
    ballastSpots: [],
    envelope: null,
    outlines: [],
    walkBack: null,
    schools: { balance: "stable", changes: "one at a time", testing: "build, break, learn" },
    aboard: [],
    control: { ...UNSAID },
    setup: [],
  };
}
