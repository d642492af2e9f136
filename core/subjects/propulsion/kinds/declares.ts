import { z } from "zod";
import { type Bounded, finite } from "../../../design/bounds";
import type { Dimension } from "../../../design/units";
import { magnitude } from "../../../design/evidence";
import { field } from "../../../design/fields";

/**
 * A figure with how it is known: what it is in the file, its label, and a few words under its field where that is not
 * enough.
 */
const figure = (of: Bounded, dimension: Dimension) => (words: string, label: string, hint?: string) =>
  field(magnitude(of).describe(words), { label, dimension, hint });
const length = figure("length", "length");
const ratio = figure("any", "ratio");
const angle = figure("any", "angle");

export const LIPS = ["not said", "rounded", "sharp"] as const;
/** A fan in a duct of its own. */
export const ductedFanSchema = z
  .object({
    kind: z.literal("ducted fan"),
    diameter: length("inside of the duct at the blades, m", "duct inside"),
    hub: length("diameter of the hub, m", "hub"),
    blades: field(z.number().int().min(2, "2 to 16 blades").max(16, "2 to 16 blades"), {
      label: "blades",
      dimension: "count",
    }),
    pitch: length("m per turn, on the flat face of a blade", "pitch", "way in a turn, by the flat face of a blade"),
    chord: length("mean chord of a blade, m", "chord"),
    length: field(finite.positive().max(50).describe("of the duct along its axis, m"), {
      label: "duct length",
      dimension: "length",
    }),
    exit: field(
      magnitude("area").nullable().describe("open area at its rear end, m²; null: as wide as the ring of the blades"),
      { label: "exit", dimension: "area", hint: "open area behind; until then as wide as the ring of the blades" },
    ),
    lip: field(z.enum(LIPS).describe("edge at its front end"), { label: "lip" }),
  })
  .superRefine((d, ctx) => {
    if (d.hub.value >= 0.95 * d.diameter.value)
      ctx.addIssue({ code: "custom", path: ["hub"], message: "a hub is narrower than its fan" });
  });

/** No ground gives or takes more than so many times a load. */
const MOST_OF_LOAD = 5;
export const GROUNDS = ["firm", "soft"] as const;
/** A driven wheel, or a track by the wheel that drives it. */
export const wheelSchema = z
  .object({
    kind: z.literal("wheel"),
    radius: length(
      "from axle to ground under load, m; of a track that of its driving wheel",
      "rolling radius",
      "axle to ground, loaded; of a track: its driving wheel",
    ),
    load: field(magnitude("mass").describe("what rests on one of them, as a scale under it reads, kg"), {
      label: "load on one",
      dimension: "mass",
      hint: "as a scale under it reads",
    }),
    grip: ratio(
      "greatest push over load before it slips away",
      "grip",
      "greatest push over load; rubber on dry ground 0.7 to 0.9, on mud or ice 0.1 to 0.3",
    ),
    rolling: ratio(
      "what it takes to roll it, over its load",
      "rolling resistance",
      "over its load; firm 0.01 to 0.05, soft 0.1 to 0.3",
    ),
    ground: field(z.enum(GROUNDS).describe("firm: full grip at a few per cent of slip; soft: at some tens"), {
      label: "ground",
    }),
  })
  .superRefine((w, ctx) => {
    for (const key of ["grip", "rolling"] as const)
      if (w[key].value > MOST_OF_LOAD)
        ctx.addIssue({ code: "custom", path: [key, "value"], message: `a share of its load: up to ${MOST_OF_LOAD}` });
  });

export const DRUM_IN = ["water", "mud", "snow"] as const;
/** A drum with a helix around it. */
export const screwDrumSchema = z
  .object({
    kind: z.literal("screw drum"),
    on: field(z.enum(DRUM_IN), { label: "works in" }),
    length: length("of one drum, m", "drum length"),
    diameter: length("of its body, m", "drum diameter"),
    lead: length("by how much its helix goes on in one turn, m", "lead", "way of the helix in a turn"),
    blade: length("height of the helix over the body, m", "height of its blade"),
    starts: field(z.number().int().min(1, "1 to 6 helices").max(6, "1 to 6 helices"), {
      label: "helices",
      dimension: "count",
    }),
    under: figure("any", "percent")("share of its surface that is immersed", "immersed"),
    load: field(magnitude("mass").describe("what rests on one drum aground, kg"), {
      label: "load on one",
      dimension: "mass",
    }),
  })
  .superRefine((d, ctx) => {
    if (d.under.value < 0.02 || d.under.value > 1)
      ctx.addIssue({ code: "custom", path: ["under", "value"], message: "2 to 100 %" });
    if (d.lead.value > 2 * Math.PI * d.diameter.value)
      ctx.addIssue({ code: "custom", path: ["lead"], message: "a helix as steep as that does not push along" });
  });

/** A pair of wings that beat about their roots. */
export const flapperSchema = z
  .object({
    kind: z.literal("flapping wings"),
    span: length("from tip to tip, m", "span", "from tip to tip"),
    area: field(magnitude("area").describe("of both wings, m²"), { label: "wing area", dimension: "area" }),
    stroke: angle("from top to bottom of a beat, rad", "stroke", "from top to bottom of a beat"),
  })
  .superRefine((w, ctx) => {
    if (w.stroke.value > 2 * Math.PI)
      ctx.addIssue({ code: "custom", path: ["stroke", "value"], message: "a beat goes up to 360° from top to bottom" });
  });

/** Blades that run around an axis across the flow, their pitch swung to and fro once a turn. */
export const cycloidSchema = z
  .object({
    kind: z.literal("cycloidal rotor"),
    blades: field(z.number().int().min(2, "2 to 12 blades").max(12, "2 to 12 blades"), {
      label: "blades",
      dimension: "count",
    }),
    radius: length("from the axis to the blades, m", "rotor radius"),
    span: length("of a blade along the axis, m", "blade span"),
    chord: length("of a blade, m", "chord"),
    amplitude: angle("greatest pitch to either side, rad", "pitch to either side"),
    bladeMass: field(finite.positive().max(100).nullable().describe("of one blade, kg; null: not weighed"), {
      label: "mass of a blade",
      dimension: "mass",
    }),
  })
  .superRefine((d, ctx) => {
    if (d.chord.value * d.blades > 2 * Math.PI * d.radius.value)
      ctx.addIssue({ code: "custom", path: ["chord"], message: "blades as wide as that touch one another" });
    if (d.amplitude.value > Math.PI / 3)
      ctx.addIssue({ code: "custom", path: ["amplitude"], message: "up to 60° to either side" });
  });

/** What turns the work of a shaft into thrust where it is no open propeller. */
export const propulsorSchema = z.discriminatedUnion("kind", [
  ductedFanSchema,
  wheelSchema,
  screwDrumSchema,
  flapperSchema,
  cycloidSchema,
]);
export type Propulsor = z.infer<typeof propulsorSchema>;
export type PropulsorKind = Propulsor["kind"];
export type PropulsorOf<K extends PropulsorKind> = Extract<Propulsor, { kind: K }>;
