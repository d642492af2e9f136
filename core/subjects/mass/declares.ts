import { z } from "zod";
import { amountSchema, finite } from "../../design/bounds";
import { evidenceSchema, magnitude } from "../../design/evidence";
import { AXES, coordinate, field, idSchema, nameSchema, point, unique } from "../../design/fields";
import { roleByWords } from "../../design/byWords";
import { numbers } from "../../design/numbers";

const range = () =>
  z
    .object({
      from: field(finite.min(-100).max(100), { label: "from", dimension: "length" }),
      to: field(finite.min(-100).max(100), { label: "to", dimension: "length" }),
    })
    .refine((s) => s.to > s.from, { message: "the range must end behind where it starts", path: ["to"] });

/** How far a part is moved under way, each way, m. */
const shift = () => finite.min(0, "zero or more").max(10, "from 0 to 10 m").default(0);

/** What a part is, where that decides something. Its name only proposes it. */
export const ROLES = ["not said", "ballast", "motor", "controller", "servo", "moving surface", "other"] as const;
export type Role = (typeof ROLES)[number];

/** What keeps a part where it is. */
export const HOLDS = [
  "glue",
  "tape",
  "hook-and-loop",
  "friction",
  "magnets",
  "clip",
  "strap",
  "screws",
  "pin",
  "thread",
] as const;

export const itemSchema = z.object({
  id: idSchema,
  name: nameSchema,
  group: field(z.string().max(60), { label: "group" }),
  role: field(z.enum(ROLES).default("not said").describe("what it is, where that decides something"), {
    label: "what it is",
    about: "knowing",
  }),
  twinId: field(
    idSchema.nullable().default(null).describe("part of the other side that it should match; null: none, or not said"),
    { label: "pair of", about: "knowing" },
  ),
  quantity: field(z.number().int().min(1).max(999), { label: "quantity", dimension: "count", change: "mass" }),
  planned: field(
    z.number().positive().max(1e5).nullable().default(null).describe("mass each that the plan allows, kg"),
    {
      label: "planned mass each",
      dimension: "mass",
      change: "mass",
      about: "knowing",
    },
  ),
  predicted: field(
    magnitude("mass")
      .nullable()
      .default(null)
      .describe("what was predicted before it was weighed, kg each; null while `mass` is the prediction"),
    {
      label: "predicted mass each",
      dimension: "mass",
      change: "mass",
      about: "knowing",
    },
  ),
  mass: field(magnitude("mass").nullable().describe("mass in force, kg each; null while not known"), {
    label: "mass each",
    dimension: "mass",
    change: "mass",
  }),
  parentId: field(idSchema.nullable().default(null).describe("part that this one is attached to: it moves along"), {
    label: "sits on",
    change: "place",
  }),
  place: field(point().describe("centre of the part"), { change: "place" }),
  unplaced: field(
    z
      .array(z.enum(AXES))
      .max(3)
      .refine((a) => new Set(a).size === a.length, "each axis once")
      .default([])
      .describe("axes along which nobody has said where it is: `place` there is only where it is drawn"),
    { label: "place not said", change: "place", about: "knowing" },
  ),
  placeEvidence: field(evidenceSchema, { label: "place known by", change: "place", about: "knowing" }),
  placeSd: field(z.number().nonnegative().max(100).optional().describe("standard uncertainty along each axis, m"), {
    label: "place ±",
    dimension: "length",
    change: "place",
    about: "knowing",
  }),
  size: z
    .object({
      x: field(finite.min(0).max(100), { label: "length", dimension: "length" }),
      y: field(finite.min(0).max(100), { label: "width", dimension: "length" }),
      z: field(finite.min(0).max(100), { label: "height", dimension: "length" }),
    })
    .describe("edges of the box that encloses the part, m"),
  unsized: field(z.boolean().default(false).describe("nobody has said its size: `size` is only how it is drawn"), {
    label: "size not said",
    about: "knowing",
  }),
  mirrored: field(z.boolean().describe("an even quantity, half at +y and half at −y"), { label: "mirrored" }),
  hollow: field(z.boolean().default(false).describe("other parts may sit inside its box"), { label: "hollow" }),
  heldBy: field(
    z
      .array(z.enum(HOLDS))
      .max(2)
      .refine((h) => new Set(h).size === h.length, "one way is said once")
      .default([])
      .describe("what holds it: the first, and what holds when that lets go; empty: not said"),
    { label: "held by", change: "part" },
  ),
  slide: field(range().nullable().describe("range of x in which the part's centre may be placed, m; null when fixed"), {
    label: "slide",
  }),
  slideY: field(range().nullable().default(null).describe("the same along y"), { label: "slide y" }),
  slideZ: field(range().nullable().default(null).describe("the same along z"), { label: "slide z" }),
  shiftX: field(
    shift().describe(
      "how far a servo moves it along x under way, each way from its place, with what hangs on it, m; 0: not",
    ),
    { label: "shifted along under way", dimension: "length", change: "part" },
  ),
  shiftY: field(shift().describe("the same along y"), {
    label: "shifted across under way",
    dimension: "length",
    change: "part",
  }),
  cost: field(amountSchema.nullable().describe("price each, in the currency of the file; of a range its least"), {
    label: "price",
    dimension: "money",
    about: "knowing",
  }),
  costMost: field(amountSchema.nullable().default(null).describe("the same at most; null: `cost` is the price"), {
    label: "price at most",
    dimension: "money",
    about: "knowing",
  }),
  makeMinutes: field(finite.min(0).max(1e6).nullable().default(null).describe("time to make or fit all pieces, min"), {
    label: "minutes to make",
  }),
  source: field(z.enum(["have", "buy", "salvage", "make"]), { label: "source" }),
});
export type Item = z.infer<typeof itemSchema>;

/** Where ballast can sit, and how much. */
export const ballastSpotSchema = z.object({
  id: idSchema,
  name: nameSchema,
  place: point(),
  most: field(z.number().positive().max(1000).describe("most that fits there, kg"), {
    label: "ballast at most",
    dimension: "mass",
  }),
});
export type BallastSpot = z.infer<typeof ballastSpotSchema>;

/** A shape to trace: an SVG path laid under one view at its true size. */
export const outlineSchema = z.object({
  id: idSchema,
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

/** One step of a walk-back as it was done. */
export const walkBackRecordSchema = z.object({
  step: z.number().int().min(1).max(40),
  date: z.iso.date(),
  cg: coordinate.nullable().describe("CG measured at this step, m aft of datum; null: not measured"),
  tune: z.string().trim().max(300).describe("what was tuned again, and to what"),
  trim: z.string().trim().max(300).describe("trim or reflex that it needed"),
  travel: z
    .number()
    .min(0)
    .max(1)
    .nullable()
    .describe("share of the control travel that the trim took; null: not read"),
  verdict: z.enum(["go on", "again", "stop"]),
});
export type WalkBackRecord = z.infer<typeof walkBackRecordSchema>;

export const walkBackSchema = z.object({
  stop: field(coordinate.describe("CG beyond which it shall not go, m aft of datum"), {
    label: "walk-back stop line",
    dimension: "length",
  }),
  steps: field(z.number().int().min(1).max(40), { label: "walk-back steps", dimension: "count" }),
  itemId: field(
    idSchema
      .nullable()
      .describe("part that is slid or lightened step by step; null: ballast at the front is taken out"),
    { label: "walk-back part" },
  ),
  by: field(z.enum(["slide", "remove"]), { label: "walk-back by" }),
  start: field(
    coordinate.nullable().default(null).describe("CG at which the walk began, m aft of datum; null: not begun"),
    { label: "walk-back start", dimension: "length" },
  ),
  neutral: field(
    z
      .object({ value: coordinate, sd: z.number().nonnegative().max(100), evidence: evidenceSchema })
      .nullable()
      .default(null)
      .describe(
        "CG behind which the craft is unstable in pitch, m aft of datum, with its standard uncertainty; " +
          "null: not known",
      ),
    { label: "neutral point" },
  ),
  records: field(z.array(walkBackRecordSchema).max(200).default([]), { label: "walk-back step" }),
});
export type WalkBack = z.infer<typeof walkBackSchema>;
/** A plan that was not begun. */
export const newWalkBack = (given: Pick<WalkBack, "stop" | "steps" | "itemId" | "by">): WalkBack => ({
  ...given,
  start: null,
  neutral: null,
  records: [],
});

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

const LEDGER = {
  source: "First and second moments of mass; errors of different parts independent, first-order propagation.",
  range: "Any ledger. Parts without a mass are left out and named.",
};
const SIZE = {
  source: "The boxes that enclose the parts, as drawn.",
  range: "Any ledger. Parts that were never placed or sized stand where they were put.",
};

/** The numbers of mass, balance and size. */
export const quantities = numbers({
  auw: { label: "All-up weight (AUW)", dimension: "mass", page: "layout", formula: "M = Σ n·m", ...LEDGER },
  auwExpected: {
    label: "AUW with growth to be expected",
    dimension: "mass",
    page: "layout",
    formula: "M + Σ n·m·a, a = 15 % guess, 8 % calculated, 3 % datasheet, 0 weighed",
    source:
      "Mass-growth allowance by maturity (AIAA S-120 practice); the shares are common practice for " +
      "small craft, from memory.",
    range: "Ledgers of craft still being built. The ± surrounds the shifted value.",
  },
  netMass: {
    label: "Heaviness (mass minus gas lift)",
    dimension: "mass",
    page: "layout",
    formula: "M − m_gas, with the mass that the gas carries entered by hand",
    ...LEDGER,
  },
  ballastShare: {
    label: "Ballast's share of AUW",
    dimension: "percent",
    page: "layout",
    formula: "Σ m of entries that are there for balance alone / M",
    ...LEDGER,
  },
  packShare: {
    label: "Packs' share of AUW",
    dimension: "percent",
    page: "power",
    formula: "Σ m of the packs / M",
    ...LEDGER,
  },
  cgX: {
    label: "CG aft of datum",
    dimension: "length",
    page: "layout",
    formula: "x = Σ n·m·x / M;  σ² = Σ (σ_m (x_i − x)/M)² + (m σ_x/M)²",
    ...LEDGER,
  },
  cgY: { label: "CG to starboard", dimension: "length", page: "layout", formula: "y = Σ n·m·y / M", ...LEDGER },
  cgZ: { label: "CG above baseline", dimension: "length", page: "layout", formula: "z = Σ n·m·z / M", ...LEDGER },
  inertiaRoll: {
    label: "Inertia in roll",
    dimension: "inertia",
    page: "layout",
    formula: "I = Σ m (b² + c²)/12 + m r²",
    ...LEDGER,
  },
  inertiaPitch: {
    label: "Inertia in pitch",
    dimension: "inertia",
    page: "layout",
    formula: "I = Σ m (a² + c²)/12 + m r²",
    ...LEDGER,
  },
  inertiaYaw: {
    label: "Inertia in yaw",
    dimension: "inertia",
    page: "layout",
    formula: "I = Σ m (a² + b²)/12 + m r²",
    ...LEDGER,
  },
  length: { label: "Length", dimension: "length", page: "layout", formula: "max(x + a/2) − min(x − a/2)", ...SIZE },
  width: {
    label: "Width",
    dimension: "length",
    page: "layout",
    formula: "max(y + b/2) − min(y − b/2), pairs on both sides",
    ...SIZE,
  },
  height: { label: "Height", dimension: "length", page: "layout", formula: "max(z + c/2) − min(z − c/2)", ...SIZE },
});

/** What mass and balance add to the document. */
export const shape = {
  items: field(
    z
      .array(itemSchema)
      .max(1000)
      .refine(unique, "two parts have the same id")
      .refine(
        (list) => list.every((i) => i.costMost === null || (i.cost !== null && i.costMost >= i.cost)),
        "a price at most stands beside a least, and is not below it",
      )
      .refine(attachable, "a part cannot be attached to itself, to what hangs on it, or to a part that is not there"),
    { change: "part" },
  ),
  gasLift: field(
    magnitude("mass").nullable().default(null).describe("mass that the gas carries, kg: entered by hand"),
    {
      label: "mass that the gas carries",
      dimension: "mass",
      change: "other",
    },
  ),
  ballastSpots: field(
    z
      .array(ballastSpotSchema)
      .max(20)
      .refine(unique, "two ballast spots have the same id")
      .default([])
      .describe("where ballast can sit; empty: at the nose and the tail of the drawing"),
    { label: "ballast spot", change: "brief" },
  ),
  envelope: field(
    z
      .object({ min: field(point(), { label: "from" }), max: field(point(), { label: "to" }) })
      .refine(
        (box) => AXES.every((a) => box.max[a] > box.min[a]),
        "the envelope must end behind where it starts, along each axis",
      )
      .nullable()
      .default(null)
      .describe("box that every part must stay inside"),
    { label: "envelope", change: "brief" },
  ),
  outlines: field(z.array(outlineSchema).max(12).default([]), { label: "outline", change: "other" }),
  walkBack: field(
    walkBackSchema
      .nullable()
      .default(null)
      .describe("plan to walk the CG back, for a craft that is unstable on purpose"),
    {
      label: "walk-back plan",
      change: "brief",
    },
  ),
};

/** The entry that a new craft begins with: what must be aboard, as one lump. Alone it is no craft yet. */
export const ON_HAND = "on-hand";

/** A part at its simplest, the rest as given: what is not said is empty. */
export const newItem = (given: Partial<Item> & Pick<Item, "id" | "name">): Item => ({
  group: "",
  role: roleByWords(given.name, given.group),
  twinId: null,
  quantity: 1,
  planned: null,
  predicted: null,
  mass: null,
  parentId: null,
  place: { x: 0, y: 0, z: 0 },
  unplaced: [],
  unsized: false,
  placeEvidence: "guess",
  size: { x: 0.02, y: 0.02, z: 0.02 },
  mirrored: false,
  hollow: false,
  heldBy: [],
  slide: null,
  slideY: null,
  slideZ: null,
  shiftX: 0,
  shiftY: 0,
  cost: null,
  costMost: null,
  makeMinutes: null,
  source: "have",
  ...given,
});
