import { z } from "zod";
import { finite, recordNumber } from "./bounds";
import { evidenceSchema, magnitude, magnitudeOrZero } from "./evidence";
import { METRIC_KEYS } from "./metrics";

const coordinate = finite.min(-100).max(100);
const id = z
  .string()
  .min(1)
  .max(40)
  .regex(/^[A-Za-z0-9_-]+$/, "letters, digits, - and _ only");
const name = z.string().trim().min(1, "a name is needed").max(120);
const text = z.string().max(4000);

/** What holds the craft up. */
export const HELD_UP_BY = ["wings", "rotors", "hull", "gas", "cushion", "ground", "flapping", "submerged"] as const;
export const heldUpBySchema = z.enum(HELD_UP_BY);
export type HeldUpBy = z.infer<typeof heldUpBySchema>;

export const targetSchema = z
  .object({
    id,
    metric: z.enum(METRIC_KEYS),
    comparison: z.enum(["atMost", "atLeast", "between"]),
    value: finite.describe("limit, or the lower limit of 'between'; SI unit of the metric"),
    upper: finite.optional().describe("upper limit of 'between'"),
    weight: z.enum(["must", "wish"]),
  })
  .refine((t) => t.comparison !== "between" || (t.upper !== undefined && t.upper > t.value), {
    message: "the upper limit must be above the lower one",
    path: ["upper"],
  });
export type Target = z.infer<typeof targetSchema>;

export const environmentSchema = z.object({
  altitude: finite.min(-500).max(11000).describe("height above sea level, m"),
  airTemperature: finite.min(-60).max(60).describe("°C"),
  packTemperature: finite.min(-40).max(60).describe("temperature of the packs at the start, °C"),
  wind: finite.min(0).max(40).describe("worst wind, m/s"),
});

export const briefSchema = z.object({
  purpose: text,
  targets: z.array(targetSchema).max(60),
  environment: environmentSchema,
});

export const pointSchema = z.object({
  x: coordinate.describe("aft of the datum, m"),
  y: coordinate.describe("to starboard, m"),
  z: coordinate.describe("up from the baseline, m"),
});
export type Point = z.infer<typeof pointSchema>;
export const AXES = ["x", "y", "z"] as const;
export type Axis = (typeof AXES)[number];

const rangeSchema = z.object({ from: coordinate, to: coordinate }).refine((s) => s.to > s.from, { message: "the range must end behind where it starts", path: ["to"] });
export type Range = z.infer<typeof rangeSchema>;

export const itemSchema = z.object({
  id,
  name,
  group: z.string().max(60),
  quantity: z.number().int().min(1).max(999),
  planned: z.number().positive().max(1e5).nullable().default(null).describe("mass each that the plan allows, kg"),
  predicted: magnitude("mass").nullable().default(null).describe("what was predicted before it was weighed, kg each; null while `mass` is the prediction"),
  mass: magnitude("mass").nullable().describe("mass in force, kg each; null while not known"),
  parentId: id.nullable().default(null).describe("part that this one is attached to: it moves along"),
  place: pointSchema.describe("centre of the part"),
  placeEvidence: evidenceSchema,
  placeSd: z.number().nonnegative().max(100).optional().describe("standard uncertainty along each axis, m"),
  size: z.object({ x: finite.min(0).max(100), y: finite.min(0).max(100), z: finite.min(0).max(100) }).describe("edges of the box that encloses the part, m"),
  mirrored: z.boolean().describe("an even quantity, half at +y and half at −y"),
  hollow: z.boolean().default(false).describe("other parts may sit inside its box"),
  slide: rangeSchema.nullable().describe("range of x in which the part's centre may be placed, m; null when fixed"),
  slideY: rangeSchema.nullable().default(null).describe("the same along y"),
  slideZ: rangeSchema.nullable().default(null).describe("the same along z"),
  cost: finite.min(0).max(1e6).nullable().describe("price each, €"),
  makeMinutes: finite.min(0).max(1e6).nullable().default(null).describe("time to make or fit all pieces, min"),
  source: z.enum(["have", "buy", "salvage", "make"]),
});
export type Item = z.infer<typeof itemSchema>;

export const CHEMISTRIES = ["lipo", "lihv", "liion", "lifepo4", "nimh", "lead"] as const;
export const batterySchema = z.object({
  id,
  name,
  itemId: id.nullable().describe("ledger entry that is this pack"),
  chemistry: z.enum(CHEMISTRIES),
  series: z.number().int().min(1).max(24, "at most 24 cells in series"),
  capacity: magnitude("capacity").describe("A·h of the whole pack"),
  cellResistance: magnitude("resistance").describe("Ω of one series cell (group) at 25 °C, as a charger reads it"),
  cRating: finite.positive().max(300).describe("continuous discharge current in multiples of the capacity per hour"),
  usable: finite.min(0.1).max(1).describe("share of the capacity that a run may use"),
  startCharge: finite.min(0.05).max(1).describe("state of charge at the start, 0 to 1"),
  otherLoad: finite.min(0).max(5000).describe("radio, servos, lights: steady power from this pack, W"),
});
export type Battery = z.infer<typeof batterySchema>;

export const motorSchema = z.object({
  kv: magnitude("kv").describe("rpm/V"),
  resistance: magnitude("resistance").describe("winding resistance, Ω"),
  noLoadCurrent: magnitude("current").describe("A"),
  maxCurrent: finite.positive().max(2000).describe("A"),
});
export const controllerSchema = z.object({
  resistance: magnitudeOrZero("resistance").describe("on-resistance, Ω"),
  maxCurrent: finite.positive().max(2000).describe("A"),
  maxCells: z.number().int().min(1).max(24),
});
export const gearSchema = z.object({
  ratio: finite.min(0.05, "a gear ratio is a positive number: motor turns per propeller turn").max(200).describe("motor turns per propeller turn"),
  efficiency: z.object({
    value: finite.min(0.05).max(1),
    evidence: evidenceSchema,
    sd: finite.nonnegative().optional(),
    note: z.string().max(500).optional(),
  }),
});
export const propellerSchema = z.object({
  diameter: magnitude("length").describe("m"),
  pitch: magnitude("length").describe("m per turn"),
  blades: z.number().int().min(2, "2 to 6 blades").max(6, "2 to 6 blades"),
  chord: magnitude("length").describe("widest chord of a blade, m"),
});

const factor = z.object({ value: finite.positive().max(20), sd: finite.nonnegative() });
/** What a sweep on the stand taught of a drive: its model's factors, which duty a throttle really gives, and the curve as it was measured (docs/physics.md). */
export const learnedSchema = z.object({
  session: recordNumber.describe("bench session that it comes from"),
  craft: z.string().max(80).describe("craft on whose bench it was measured"),
  kv: factor.describe("measured over entered Kv"),
  thrust: factor.describe("measured over modelled thrust at the same speed of the propeller"),
  torque: factor.describe("measured over modelled torque"),
  throttle: z
    .array(z.object({ command: finite.min(0).max(1), duty: finite.min(0).max(1) }))
    .min(2)
    .max(62),
  points: z
    .array(
      z.object({
        throttle: finite.min(0).max(1),
        thrust: finite,
        thrustSd: finite.nonnegative(),
        voltage: finite.positive(),
        current: finite.nonnegative(),
        rpm: finite.positive().nullable(),
      }),
    )
    .max(60)
    .describe("as measured on one unit: N, V, A, rpm"),
  density: finite.positive().describe("of the air then, kg/m³"),
  of: z.object({ motor: motorSchema, controller: controllerSchema, gear: gearSchema, propeller: propellerSchema }).describe("the parts that were on the stand"),
  pack: batterySchema.pick({ chemistry: true, series: true, capacity: true }).nullable().describe("pack that fed it"),
});
export type Learned = z.infer<typeof learnedSchema>;

export const unitSchema = z.object({
  id,
  name,
  count: z.number().int().min(1).max(24).describe("like units, each with its own motor and controller"),
  batteryId: id.describe("pack that feeds them"),
  propellerItemId: id.nullable().describe("ledger entry that is this propeller: it places the thrust line"),
  motorItemId: id.nullable().default(null).describe("ledger entry that is this motor; null: found by its name"),
  controllerItemId: id.nullable().default(null).describe("ledger entry that is this controller; null: found by its name"),
  direction: z.enum(["ahead", "astern", "up", "down", "port", "starboard"]).describe("way in which the unit pushes the craft"),
  tilt: finite
    .min(-Math.PI / 2)
    .max(Math.PI / 2)
    .describe("upward tilt of a thrust line ahead or astern, rad"),
  throttleLimit: finite.min(0.05).max(1).describe("highest throttle that the set-up allows, 0 to 1"),
  reversible: z.boolean().default(false).describe("the controller can turn it backwards"),
  spin: z.enum(["clockwise", "anticlockwise", "half each"]).default("clockwise").describe("way in which its propellers turn, seen from behind their thrust"),
  motor: motorSchema,
  controller: controllerSchema,
  gear: gearSchema,
  propeller: propellerSchema,
  learned: learnedSchema.nullable().default(null).describe("what a sweep on the stand taught of it; it counts while the parts are those that were tested"),
});
export type Unit = z.infer<typeof unitSchema>;

export const phaseSchema = z.object({
  id,
  name,
  seconds: finite.positive().max(1e6).describe("how long it lasts each time, s"),
  repeats: z.number().int().min(1).max(1000).default(1).describe("how often in one cycle"),
  by: z.enum(["throttle", "thrust", "thrustToWeight", "speed"]),
  value: finite.min(0).describe("throttle 0 to 1, total thrust in N, total thrust in multiples of the weight, or speed in m/s"),
  unitIds: z.array(id).max(24).default([]).describe("drives that work in it; empty: all. The others stand still"),
});
export type Phase = z.infer<typeof phaseSchema>;

/** A part of the current path: the main path of a pack, or the branch of one drive. */
export const conductorSchema = z.object({
  id,
  name,
  kind: z.enum(["wire", "plug", "switch", "fuse"]),
  batteryId: id,
  unitId: id.nullable().describe("drive whose branch it is in (one for each of its like units); null: the main path of the pack"),
  resistance: z.number().nonnegative().max(10).describe("there and back, Ω"),
  maxCurrent: finite.positive().max(2000).describe("A, lasting"),
});
export type Conductor = z.infer<typeof conductorSchema>;

/** What hangs on a regulator. */
export const railLoadSchema = z.object({
  id,
  name,
  current: finite.min(0).max(200).describe("usual draw at the rail's voltage, A"),
  peak: finite.min(0).max(200).describe("highest draw, such as all servos stalled, A"),
  minVoltage: finite.min(0).max(60).describe("least voltage at which it works, V"),
});
export const regulatorSchema = z.object({
  id,
  name,
  batteryId: id,
  kind: z.enum(["switching", "linear"]),
  voltage: finite.positive().max(60).describe("V"),
  maxCurrent: finite.positive().max(200).describe("A"),
  dropout: finite.min(0).max(10).describe("V that the pack must stand above the rail"),
  efficiency: finite.min(0.3).max(1).describe("of a switching one; a linear one has rail over pack voltage"),
  loads: z.array(railLoadSchema).max(40),
});
export type Regulator = z.infer<typeof regulatorSchema>;

export const schoolsSchema = z.object({
  balance: z.enum(["stable", "unstable on purpose"]),
  changes: z.enum(["one at a time", "several at once"]),
  testing: z.enum(["build, break, learn", "test rig first"]),
});

/** Where ballast can sit, and how much. */
export const ballastSpotSchema = z.object({
  id,
  name,
  place: pointSchema,
  most: z.number().positive().max(1000).describe("most that fits there, kg"),
});
export type BallastSpot = z.infer<typeof ballastSpotSchema>;

/** A shape to trace: an SVG path laid under one view at its true size. */
export const outlineSchema = z.object({
  id,
  view: z.enum(["side", "top", "front"]),
  path: z
    .string()
    .max(200_000)
    .regex(/^[\sMmLlHhVvCcSsQqTtAaZz0-9eE+.,-]+$/, "an SVG path: the text of its d attribute"),
  scale: finite.positive().max(100).describe("m per unit of the path"),
  across: coordinate.describe("place of the path's origin across the sheet: x, in the front view y, m"),
  up: coordinate.describe("place of the path's origin up the sheet: z, in the top view y, m"),
});
export type Outline = z.infer<typeof outlineSchema>;

export const walkBackSchema = z.object({
  stop: coordinate.describe("CG beyond which it shall not go, m aft of datum"),
  steps: z.number().int().min(1).max(40),
  itemId: id.nullable().describe("part that is slid or lightened step by step; null: ballast at the front is taken out"),
  by: z.enum(["slide", "remove"]),
});
export type WalkBack = z.infer<typeof walkBackSchema>;

export const SETTING_KINDS = ["gain", "throw", "rate", "mode", "trim", "channel", "signal", "limit", "fail-safe", "other"] as const;
/** Something that is set rather than built. */
export const settingSchema = z.object({
  id,
  group: z.string().trim().max(60).describe("controller, radio or surface that it belongs to"),
  name,
  value: z.string().trim().max(200),
  kind: z.enum(SETTING_KINDS).default("other"),
  hides: z.string().trim().max(200).default("").describe("fault that this limit or cut gain only hides: a debt until it is repaid; empty: none"),
});
export type Setting = z.infer<typeof settingSchema>;

const unique = <T extends { id: string }>(list: T[]) => new Set(list.map((x) => x.id)).size === list.length;

/** Every attachment leads to another part, and never round in a circle. */
function attachable(items: { id: string; parentId: string | null }[]): boolean {
  const parent = new Map(items.map((i) => [i.id, i.parentId]));
  return items.every((item) => {
    let at: string | null | undefined = item.parentId;
    for (let n = 0; at !== null; n++) {
      if (at === undefined || at === item.id || n > items.length) return false;
      at = parent.get(at);
    }
    return true;
  });
}

export const designSchema = z.object({
  heldUpBy: heldUpBySchema,
  brief: briefSchema,
  items: z
    .array(itemSchema)
    .max(1000)
    .refine(unique, "two parts have the same id")
    .refine(attachable, "a part cannot be attached to itself, to what hangs on it, or to a part that is not there"),
  batteries: z.array(batterySchema).max(8).refine(unique, "two packs have the same id"),
  units: z.array(unitSchema).max(12).refine(unique, "two drives have the same id"),
  conductors: z.array(conductorSchema).max(60).refine(unique, "two conductors have the same id").default([]),
  regulators: z.array(regulatorSchema).max(12).refine(unique, "two regulators have the same id").default([]),
  duty: z.array(phaseSchema).max(40).describe("one cycle of a run, repeated until the pack is spent"),
  gasLift: magnitude("mass").nullable().default(null).describe("mass that the gas carries, kg: entered by hand"),
  dragArea: magnitude("area").nullable().default(null).describe("drag coefficient times area when moving, m²: drag = ½ρv²·it"),
  ballastSpots: z
    .array(ballastSpotSchema)
    .max(20)
    .refine(unique, "two ballast spots have the same id")
    .default([])
    .describe("where ballast can sit; empty: at the nose and the tail of the drawing"),
  envelope: z
    .object({ min: pointSchema, max: pointSchema })
    .refine((box) => AXES.every((a) => box.max[a] > box.min[a]), "the envelope must end behind where it starts, along each axis")
    .nullable()
    .default(null)
    .describe("box that every part must stay inside"),
  outlines: z.array(outlineSchema).max(12).default([]),
  walkBack: walkBackSchema.nullable().default(null).describe("plan to walk the CG back, for a craft that is unstable on purpose"),
  schools: schoolsSchema,
  setup: z.array(settingSchema).max(500).refine(unique, "two settings have the same id"),
});
export type Design = z.infer<typeof designSchema>;

/** A design with nothing in it yet, in still air at sea level. */
export function emptyDesign(heldUpBy: HeldUpBy): Design {
  return {
    heldUpBy,
    brief: { purpose: "", targets: [], environment: { altitude: 0, airTemperature: 15, packTemperature: 20, wind: 0 } },
    items: [],
    batteries: [],
    units: [],
    conductors: [],
    regulators: [],
    duty: [],
    gasLift: null,
    dragArea: null,
    ballastSpots: [],
    envelope: null,
    outlines: [],
    walkBack: null,
    schools: { balance: "stable", changes: "one at a time", testing: "build, break, learn" },
    setup: [],
  };
}

/** A part at its simplest, the rest as given: what is not said is empty. */
export const newItem = (given: Partial<Item> & Pick<Item, "id" | "name">): Item => ({
  group: "",
  quantity: 1,
  planned: null,
  predicted: null,
  mass: null,
  parentId: null,
  place: { x: 0, y: 0, z: 0 },
  placeEvidence: "guess",
  size: { x: 0.02, y: 0.02, z: 0.02 },
  mirrored: false,
  hollow: false,
  slide: null,
  slideY: null,
  slideZ: null,
  cost: null,
  makeMinutes: null,
  source: "have",
  ...given,
});
