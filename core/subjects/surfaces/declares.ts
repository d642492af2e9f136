import { z } from "zod";
import { finite } from "../../design/bounds";
import { evidenceSchema, magnitude } from "../../design/evidence";
import { coordinate, field, idSchema, nameSchema, point, unique } from "../../design/fields";
import { SECTION_NAMES } from "./sections";

const DEGREE = Math.PI / 180;
const angle = (most: number) =>
  finite.min(-most * DEGREE, `−${most}° to ${most}°`).max(most * DEGREE, `−${most}° to ${most}°`);
/** A length of a surface or body. */
const long = z.number().min(1e-4, "0.1 mm to 100 m").max(100, "0.1 mm to 100 m");

/** One stretch of a surface, from where the one before it ends. */
export const panelSchema = z.object({
  span: field(long.describe("along the surface, m"), { label: "span", dimension: "length" }),
  chord: field(long.describe("at its end, m"), { label: "chord at its end", dimension: "length" }),
  sweep: field(angle(80).describe("of the leading edge, rad, aft positive"), {
    label: "sweep of the leading edge",
    dimension: "angle",
  }),
  dihedral: field(
    angle(180).describe("which way it runs, rad: 0 to starboard, 90° up (a fin), −90° down, 180° to port"),
    { label: "dihedral", dimension: "angle" },
  ),
  twist: field(angle(30).describe("at its end against the root, rad, nose up positive"), {
    label: "twist at its end",
    dimension: "angle",
  }),
});

export const CONTROL_DOES = ["pitch", "roll", "yaw", "flap"] as const;
/** A hinged part of a surface. */
export const hingedSchema = z
  .object({
    id: idSchema,
    name: nameSchema,
    does: field(
      z.array(z.enum(CONTROL_DOES)).min(1, "it does at least one thing").max(4).describe("several: they are mixed"),
      { label: "does" },
    ),
    from: field(z.number().min(0).max(1).describe("where it begins, share of the span of one side"), {
      label: "from",
      dimension: "percent",
    }),
    to: field(z.number().min(0).max(1).describe("where it ends, share of the span of one side"), {
      label: "to",
      dimension: "percent",
    }),
    chord: field(
      z.number().min(0.02, "2 to 100 %").max(1, "2 to 100 %").describe("share of the chord; 1: all of it turns"),
      {
        label: "share of the chord",
        dimension: "percent",
      },
    ),
    up: field(
      z
        .number()
        .min(0, "0° to 90°")
        .max(90 * DEGREE, "0° to 90°")
        .describe("travel of its trailing edge up, rad"),
      {
        label: "travel up",
        dimension: "angle",
      },
    ),
    down: field(
      z
        .number()
        .min(0, "0° to 90°")
        .max(90 * DEGREE, "0° to 90°")
        .describe("travel of its trailing edge down, rad"),
      {
        label: "travel down",
        dimension: "angle",
      },
    ),
  })
  .refine((c) => c.to > c.from, { message: "it must end beyond where it begins", path: ["to"] });
export type Hinged = z.infer<typeof hingedSchema>;

/** Whether no two controls share a stretch of the span: of two only one would be reckoned with. */
const apart = (controls: readonly Hinged[]): boolean =>
  controls.every((a, k) => controls.slice(k + 1).every((b) => a.to <= b.from + 1e-9 || b.to <= a.from + 1e-9));

/** A wing, tail, fin, ring or foil. */
export const surfaceSchema = z.object({
  id: idSchema,
  name: nameSchema,
  medium: field(z.enum(["air", "water"]).default("air"), { label: "works in" }),
  itemId: field(idSchema.nullable().default(null).describe("its entry in the mass list"), { label: "part" }),
  at: field(point().describe("leading edge of its root, on the starboard side of a mirrored one"), { label: "root" }),
  chord: field(long.describe("at the root, m"), { label: "chord at the root", dimension: "length" }),
  incidence: field(angle(45).describe("of the root against the x axis, rad, nose up positive"), {
    label: "incidence",
    dimension: "angle",
  }),
  mirrored: field(z.boolean().describe("the same again on the port side"), { label: "mirrored" }),
  panels: field(z.array(panelSchema).min(1, "at least one panel").max(24, "at most 24 panels"), { label: "panel" }),
  shapeBy: field(evidenceSchema.exclude(["calculated"]).describe("how its place and shape are known"), {
    label: "shape known by",
    about: "knowing",
  }),
  section: field(
    z.object({
      family: field(z.enum(SECTION_NAMES), { label: "section" }),
      zeroLift: field(angle(20).nullable().describe("rad; null: of the family"), {
        label: "angle without lift",
        dimension: "angle",
      }),
      most: field(magnitude("any").nullable().describe("greatest lift coefficient; null: of the family"), {
        label: "greatest lift coefficient",
        dimension: "ratio",
      }),
      drag: field(magnitude("any").nullable().describe("profile drag coefficient; null: of the family"), {
        label: "profile drag coefficient",
        dimension: "ratio",
      }),
    }),
    { label: "section" },
  ),
  controls: field(
    z
      .array(hingedSchema)
      .max(8)
      .refine(unique, "two controls have the same id")
      .refine(apart, "two controls lie on the same stretch: end one where the other begins, or let one do both")
      .default([]),
    { label: "control" },
  ),
});
export type Surface = z.infer<typeof surfaceSchema>;

/** Points of half a free section, at most. */
export const MOST_POINTS = 24;
/** Frames of a body, at most. */
export const MOST_FRAMES = 24;
/** A frame of a body: an ellipse, a box, or a section of its own across it, alike on both sides. */
const frameSchema = z.object({
  x: field(coordinate, { label: "x", dimension: "length" }),
  z: field(coordinate.describe("height of its middle, m"), { label: "height of its middle", dimension: "length" }),
  width: field(z.number().min(0).max(100), { label: "width", dimension: "length" }),
  height: field(z.number().min(0).max(100), { label: "height", dimension: "length" }),
  outline: field(
    z
      .array(
        z.object({
          out: field(z.number().min(0).max(1).describe("from its middle, share of half the width"), { label: "out" }),
          up: field(z.number().min(-1).max(1).describe("from its middle, share of half the height"), { label: "up" }),
        }),
      )
      .max(MOST_POINTS)
      .optional()
      .describe("half of a free section from its lowest point to its highest; level from its ends to the middle"),
    { label: "section" },
  ),
});
export type Frame = z.infer<typeof frameSchema>;
/** A fuselage, pod, nacelle, hull or envelope. */
export const bodySchema = z.object({
  id: idSchema,
  name: nameSchema,
  y: field(coordinate.describe("of its middle, m to starboard"), { label: "y", dimension: "length" }),
  mirrored: field(z.boolean().describe("the same again on the port side"), { label: "mirrored" }),
  across: field(z.enum(["round", "box", "free"]), { label: "across" }),
  shapeBy: field(evidenceSchema.exclude(["calculated"]).default("guess").describe("how its shape is known"), {
    label: "shape known by",
    about: "knowing",
  }),
  frames: field(
    z
      .array(frameSchema)
      .min(2, "at least two frames")
      .max(MOST_FRAMES, "at most 24 frames")
      .refine(
        (f) => f.every((s, k) => k === 0 || s.x > (f[k - 1]?.x ?? 0)),
        "each frame must stand behind the one before",
      ),
    { label: "frame" },
  ),
});
export type BodyShape = z.infer<typeof bodySchema>;

export const LAUNCHES = ["not said", "thrown", "rail or bungee", "wheels", "skids", "water", "straight up"] as const;
/** A cord that is stretched to let the craft go. */
export const cordSchema = z.object({
  pull: field(z.number().positive().max(1e5).nullable().describe("fully stretched, N; null: not said"), {
    label: "pull of the cord",
    dimension: "force",
  }),
  stretch: field(z.number().positive().max(1000).nullable().describe("beyond its slack length, m; null: not said"), {
    label: "stretch of the cord",
    dimension: "distance",
  }),
  rise: field(z.number().min(0).max(1000).describe("of the craft while it is pulled, m"), {
    label: "rise along the cord",
    dimension: "distance",
  }),
});
/** What is said of how it flies. */
export const flightSchema = z.object({
  height: field(
    magnitude("length")
      .nullable()
      .describe("height of the baseline over ground or water in flight, m; null: far above"),
    { label: "height in flight", dimension: "length" },
  ),
  waterline: field(
    magnitude("length")
      .nullable()
      .default(null)
      .describe("height of the water's surface above the baseline when foils carry it, m; null: not said"),
    { label: "water on the foils stands at", dimension: "length" },
  ),
  launch: field(z.enum(LAUNCHES), { label: "launch" }),
  launchSpeed: field(magnitude("any").nullable().describe("speed at which it is let go, m/s; null: not said"), {
    label: "speed at release",
    dimension: "speed",
  }),
  cord: field(
    cordSchema.nullable().default(null).describe("that lets it go, where its speed was not read; null: not said"),
    { label: "cord" },
  ),
  rolling: field(
    magnitude("any")
      .nullable()
      .default(null)
      .describe("pull that keeps it moving on the ground it starts from, over its weight; null: not said"),
    { label: "pull on the ground", dimension: "ratio" },
  ),
  torque: field(
    magnitude("any")
      .nullable()
      .default(null)
      .describe(
        "about its length, of the drives at full throttle, standing, as it was weighed, N·m; null: as computed",
      ),
    { label: "torque weighed", dimension: "torque" },
  ),
  steering: field(
    magnitude("any")
      .nullable()
      .default(null)
      .describe("yaw moment of the full command, standing, as it was weighed, N·m; null: as computed"),
    { label: "steering weighed", dimension: "torque" },
  ),
  weighedWith: field(
    z.string().max(24).default("").describe("sign of the drives that torque and steering were weighed with"),
    { label: "drives that were weighed", about: "knowing" },
  ),
  whole: field(z.boolean().default(false).describe("every surface and body that the air acts on is described"), {
    label: "every surface and body described",
  }),
  margin: field(
    z
      .number()
      .min(0.01, "1 to 50 %")
      .max(0.5, "1 to 50 %")
      .nullable()
      .describe("least static margin wanted, share of the mean chord; null: 5 %"),
    { label: "least static margin", dimension: "percent" },
  ),
});
export type FlightSaid = z.infer<typeof flightSchema>;
export const UNSAID_FLIGHT: FlightSaid = {
  height: null,
  waterline: null,
  launch: "not said",
  launchSpeed: null,
  cord: null,
  rolling: null,
  torque: null,
  steering: null,
  weighedWith: "",
  whole: false,
  margin: null,
};

/** What wings, fins and bodies add to the document. */
export const shape = {
  surfaces: field(z.array(surfaceSchema).max(20).refine(unique, "two surfaces have the same id").default([]), {
    label: "surface",
    change: "part",
  }),
  bodies: field(z.array(bodySchema).max(12).refine(unique, "two bodies have the same id").default([]), {
    label: "body",
    change: "part",
  }),
  flight: field(flightSchema.default(UNSAID_FLIGHT), { label: "flight", change: "brief" }),
};
