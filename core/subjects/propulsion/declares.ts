import { z } from "zod";
import { finite, recordNumber } from "../../design/bounds";
import { EVIDENCE, magnitude, magnitudeOrZero } from "../../design/evidence";
import { field, idSchema, nameSchema, point, unique } from "../../design/fields";
import { numbers } from "../../design/numbers";
import { batterySchema } from "../energy/declares";
import { aroundSchema } from "./around/declares";
import { propulsorSchema } from "./kinds/declares";
import { measuredSchema } from "./measured/declares";

export const motorSchema = z.object({
  kv: field(magnitude("kv").describe("rpm/V"), { label: "Kv", dimension: "kv" }),
  resistance: field(magnitude("resistance").describe("winding resistance, Ω"), {
    label: "winding resistance",
    dimension: "resistance",
  }),
  noLoadCurrent: field(magnitude("current").describe("A"), { label: "no-load current", dimension: "current" }),
  maxCurrent: field(finite.positive().max(2000).describe("A"), { label: "motor rating", dimension: "current" }),
});
export const controllerSchema = z.object({
  resistance: field(magnitudeOrZero("resistance").describe("on-resistance, Ω"), {
    label: "controller resistance",
    dimension: "resistance",
  }),
  maxCurrent: field(finite.positive().max(2000).describe("A"), { label: "controller rating", dimension: "current" }),
  maxCells: field(z.number().int().min(1).max(24), { label: "controller cells", dimension: "count" }),
});
export const gearSchema = z.object({
  ratio: field(
    finite
      .min(0.05, "a gear ratio is a positive number: motor turns per propeller turn")
      .max(200)
      .describe("motor turns per propeller turn"),
    {
      label: "gear ratio",
      dimension: "ratio",
    },
  ),
  efficiency: z.object({
    value: field(finite.min(0.05).max(1), { label: "gear efficiency", dimension: "percent" }),
    evidence: field(z.enum(EVIDENCE), { label: "gear efficiency known by", about: "knowing" }),
    sd: field(finite.nonnegative().optional(), { label: "gear efficiency ±", about: "knowing" }),
    note: z.string().max(500).optional(),
  }),
});
export const propellerSchema = z.object({
  diameter: field(magnitude("length").describe("m"), { label: "propeller diameter", dimension: "length" }),
  pitch: field(magnitude("length").describe("m per turn"), { label: "propeller pitch", dimension: "length" }),
  blades: field(z.number().int().min(2, "2 to 6 blades").max(6, "2 to 6 blades"), {
    label: "blades",
    dimension: "count",
  }),
  chord: field(magnitude("length").describe("widest chord of a blade, m"), {
    label: "widest chord",
    dimension: "length",
  }),
});

const factor = z.object({ value: finite.positive().max(20), sd: finite.nonnegative() });
/**
 * What a sweep on the stand taught of a drive: its model's factors, which duty a throttle really gives, and the curve
 * as it was measured (docs/physics.md).
 */
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
  of: z
    .object({
      motor: motorSchema,
      controller: controllerSchema,
      gear: gearSchema,
      propeller: propellerSchema,
      propulsor: propulsorSchema.nullable().default(null),
    })
    .describe("the parts that were on the stand"),
  pack: batterySchema.pick({ chemistry: true, series: true, capacity: true }).nullable().describe("pack that fed it"),
});
export type Learned = z.infer<typeof learnedSchema>;

/** What a drive works in; the last one says that it is something else, of which nothing is computed. */
export const SURROUNDINGS = ["in air", "in water", "not a propeller"] as const;
export type Surroundings = (typeof SURROUNDINGS)[number];

const component = finite.min(-1).max(1);
/** Where one unit of a drive is and which way it pushes the craft. */
const placeSchema = z.object({
  at: field(point(), { label: "place", change: "place" }),
  toward: z
    .object({
      x: field(component.describe("aft"), { label: "toward x", dimension: "ratio" }),
      y: field(component.describe("to starboard"), { label: "toward y", dimension: "ratio" }),
      z: field(component.describe("up"), { label: "toward z", dimension: "ratio" }),
    })
    .refine((v) => Math.hypot(v.x, v.y, v.z) > 0.1, "a direction has a length: 1 along the way in which it pushes"),
  weighed: field(
    magnitude("any")
      .optional()
      .describe("what this one pushes, N, all units of the drive at one throttle and pack; absent: not weighed"),
    { label: "weighed at its corner", dimension: "force", about: "knowing" },
  ),
});

const ofUnit = z.object({
  id: idSchema,
  name: nameSchema,
  count: field(z.number().int().min(1).max(24).describe("like units, each with its own motor and controller"), {
    label: "like units",
    dimension: "count",
  }),
  copiesBecause: field(
    z.string().trim().max(300).default("").describe("why several are built before one was measured; empty: not said"),
    { label: "built unmeasured because", about: "knowing" },
  ),
  batteryId: field(idSchema.describe("pack that feeds them"), { label: "pack" }),
  propellerItemId: field(
    idSchema.nullable().describe("ledger entry that is this propeller: it places the thrust line"),
    { label: "propeller in the ledger" },
  ),
  motorItemId: field(
    idSchema.nullable().default(null).describe("ledger entry that is this motor; null: found by its name"),
    { label: "motor in the ledger" },
  ),
  controllerItemId: field(
    idSchema.nullable().default(null).describe("ledger entry that is this controller; null: found by its name"),
    { label: "controller in the ledger" },
  ),
  direction: field(
    z.enum(["ahead", "astern", "up", "down", "port", "starboard"]).describe("way in which the unit pushes the craft"),
    {
      label: "direction",
      change: "thrust line",
    },
  ),
  tilt: field(
    finite
      .min(-Math.PI / 2)
      .max(Math.PI / 2)
      .describe("upward tilt of a thrust line ahead or astern, rad"),
    {
      label: "thrust tilt",
      dimension: "angle",
      change: "thrust line",
    },
  ),
  throttleLimit: field(finite.min(0.05).max(1).describe("highest throttle that the set-up allows, 0 to 1"), {
    label: "throttle limit",
    dimension: "percent",
    change: "set-up",
  }),
  reversible: field(z.boolean().default(false).describe("the controller can turn it backwards"), {
    label: "reversible",
    change: "controller",
  }),
  spin: field(
    z
      .enum(["clockwise", "anticlockwise", "half each"])
      .default("clockwise")
      .describe("way in which its propellers turn, seen from behind their thrust"),
    {
      label: "spin",
      change: "propeller",
    },
  ),
  motor: field(motorSchema, { change: "motor" }),
  controller: field(controllerSchema, { change: "controller" }),
  gear: field(gearSchema, { change: "gear" }),
  propeller: field(propellerSchema, { change: "propeller" }),
  propulsor: field(
    propulsorSchema
      .nullable()
      .default(null)
      .describe("what turns on its shaft where that is no open propeller; null: the propeller tells"),
    { label: "propulsor", change: "propeller" },
  ),
  surroundings: field(z.enum(SURROUNDINGS).nullable().default(null).describe("what it works in; null: not said"), {
    label: "works",
    change: "motor",
  }),
  around: field(
    z
      .array(aroundSchema)
      .max(8)
      .refine(
        (list) => new Set(list.map((a) => a.kind)).size === list.length,
        "each thing around a drive is entered once",
      )
      .default([])
      .describe("what is around it: openings, grille, other discs, bodies, ground; empty: nothing"),
    { label: "around", change: "place" },
  ),
  places: field(
    z
      .array(placeSchema)
      .max(24)
      .default([])
      .describe("of each of its like units; empty: all where its entry in the ledger is, along the direction"),
    { label: "place of a unit", change: "thrust line" },
  ),
  measured: field(
    measuredSchema
      .nullable()
      .default(null)
      .describe("what it was measured to push, whatever its principle: outranks its parts; null: its parts tell"),
    { label: "measured curve", change: "propeller" },
  ),
  learned: field(
    learnedSchema
      .nullable()
      .default(null)
      .describe("what a sweep on the stand taught of it; it counts while the parts are those that were tested"),
    {
      label: "taught by the stand",
      change: "motor",
      about: "knowing",
    },
  ),
});
export const unitSchema = ofUnit.superRefine((u, ctx) => {
  if (u.places.length > 0 && u.places.length !== u.count)
    ctx.addIssue({ code: "custom", path: ["places"], message: "as many places as there are like units, or none" });
});
export type Unit = z.infer<typeof unitSchema>;

/** A part of the current path: the main path of a pack, or the branch of one drive. */
export const conductorSchema = z.object({
  id: idSchema,
  name: nameSchema,
  kind: field(z.enum(["wire", "plug", "switch", "fuse"]), { label: "kind" }),
  batteryId: field(idSchema, { label: "pack" }),
  unitId: field(
    idSchema
      .nullable()
      .describe("drive whose branch it is in (one for each of its like units); null: the main path of the pack"),
    { label: "branch of" },
  ),
  resistance: field(z.number().nonnegative().max(10).describe("there and back, Ω"), {
    label: "resistance",
    dimension: "resistance",
  }),
  maxCurrent: field(finite.positive().max(2000).describe("A, lasting"), { label: "rating", dimension: "current" }),
});
export type Conductor = z.infer<typeof conductorSchema>;

export const CHAIN = {
  source:
    "Three-constant motor model; blade-element-momentum propeller (Glauert 1935; one unknown per blade " +
    "element after Ning 2014); generic cell curves (common practice).",
  range:
    "Open propellers by themselves, or with what is entered around them, in air or water, standing " +
    "still or moving along their axis, 2 to 6 blades, pitch/diameter 0.3 to 1.2, tip Mach below 0.75, " +
    "in water below the speed at which tips cavitate. A drive never on a stand: thrust ± 10 %, torque ± " +
    "15 %; in water ± 20 % and ± 25 %.",
};

/** The numbers of drives standing at their throttle limits. */
export const quantities = numbers({
  thrust: {
    label: "Thrust, standing, full throttle",
    dimension: "force",
    page: "power",
    formula: "u·V_pack − I·R_esc = I·R_m + n/Kv, with (I − I0)·Kt·G·η = Q(n) and thrust T(n) from the blade elements",
    ...CHAIN,
  },
  current: {
    label: "Motor current, full throttle",
    dimension: "current",
    page: "power",
    formula: "I = Q_motor/Kt + I0,  Kt = 60/(2π·Kv)",
    ...CHAIN,
  },
  packCurrent: {
    label: "Pack current, full throttle",
    dimension: "current",
    page: "power",
    formula: "I_pack = Σ u·I + P_other/V_pack",
    ...CHAIN,
  },
  packVoltage: {
    label: "Pack voltage, full throttle",
    dimension: "voltage",
    page: "power",
    formula: "V_pack = V_oc(charge)·S − I_pack·R_cell·S·cold factor",
    ...CHAIN,
  },
  packPower: {
    label: "Pack power, full throttle",
    dimension: "power",
    page: "power",
    formula: "P = V_pack·I_pack",
    ...CHAIN,
  },
  rpm: {
    label: "Propeller speed, full throttle",
    dimension: "rotation",
    page: "power",
    formula: "root of the voltage balance of the chain",
    ...CHAIN,
  },
  torque: {
    label: "Propeller torque, full throttle",
    dimension: "torque",
    page: "power",
    formula: "Q = Σ ½ρW²·B·c·c_t·r·dr",
    ...CHAIN,
  },
  motorLoss: {
    label: "Motor losses, full throttle",
    dimension: "power",
    page: "power",
    formula: "V·I − Q·ω = I²R + I0·ω·Kt",
    ...CHAIN,
  },
  tipMach: { label: "Tip Mach number", dimension: "ratio", page: "power", formula: "M = π·n·D / a", ...CHAIN },
});

/** What drives and the current path add to the document. */
export const shape = {
  units: field(z.array(unitSchema).max(12).refine(unique, "two drives have the same id"), {
    label: "drive",
    change: "motor",
  }),
  conductors: field(z.array(conductorSchema).max(60).refine(unique, "two conductors have the same id").default([]), {
    label: "part of the current path",
    change: "other",
  }),
};
