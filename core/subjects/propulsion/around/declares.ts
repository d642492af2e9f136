import { z } from "zod";
import { finite } from "../../../design/bounds";
import { magnitude } from "../../../design/evidence";
import { field } from "../../../design/fields";

const length = (words: string, label: string, hint: string) =>
  field(magnitude("length").nullable().describe(`${words}, m; null: not said`), { label, dimension: "length", hint });
const opening = (words: string, label: string, hint: string) =>
  field(magnitude("area").nullable().describe(words), { label, dimension: "area", hint });

export const EDGES = ["not said", "rounded", "sharp"] as const;
export const AT_HULL = ["not said", "clear of it", "close behind it", "in a tunnel"] as const;
export const SHAPES = ["not said", "blunt", "rounded", "streamlined"] as const;

const bodySchema = <K extends "body behind" | "body before">(kind: K) =>
  z.object({
    kind: z.literal(kind),
    area: field(
      magnitude("area").nullable().describe("m² that it covers of one disc, seen along the axis; null: not said"),
      { label: "covers", dimension: "area", hint: "of one disc, seen along its axis" },
    ),
    gap: length(
      "from the disc to it",
      "gap",
      kind === "body behind"
        ? "from the disc to it; empty: anywhere behind"
        : "from it to the disc; empty: anywhere before",
    ),
    shape: field(z.enum(SHAPES).describe("how it lies across the stream"), { label: "shape" }),
  });

/**
 * What is around a drive, as far as its thrust can be told from it. A drive has none of these, or several, each once;
 * one whose numbers are not said is there, and what the drive pushes is then not known.
 */
export const aroundSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("openings"),
    inlet: opening(
      "m² of opening before one unit; null: nothing in its way",
      "open before it",
      "area for one unit; empty: nothing before it",
    ),
    outlet: opening(
      "m² of opening behind one unit; null: nothing in its way",
      "open behind it",
      "empty: nothing behind it",
    ),
    edges: field(z.enum(EDGES).describe("edges of the openings"), { label: "edges" }),
  }),
  z.object({
    kind: z.literal("grille"),
    open: field(
      magnitude("any")
        .refine((k) => k.value <= 1, "from 0 to 100 %: the share of it that is open")
        .nullable()
        .describe("open share of a grille, net or weed guard across the disc, 0 to 1; null: not said"),
      { label: "open share", dimension: "percent", hint: "what you see through it" },
    ),
  }),
  z.object({
    kind: z.literal("overlap"),
    spacing: length("from axis to axis", "axis to axis", "of discs that overlap"),
    neighbours: field(
      z.number().int().min(1, "at least one neighbour").max(6).describe("discs that one disc overlaps"),
      { label: "neighbours", dimension: "count", hint: "discs that each disc overlaps" },
    ),
  }),
  z
    .object({
      kind: z.literal("coaxial"),
      spacing: length("between the two discs along the axis", "disc to disc", "along the axis; empty: not said"),
    })
    .describe("like units in pairs on one axis, turning against one another"),
  bodySchema("body behind"),
  bodySchema("body before"),
  z
    .object({
      kind: z.literal("ground"),
      height: length("of the disc over ground or water", "height", "of the disc over ground or water"),
    })
    .describe("a disc that blows down on ground or water near it"),
  z
    .object({
      kind: z.literal("hull"),
      stands: field(z.enum(AT_HULL).describe("how the screw stands to the hull that it pushes"), {
        label: "it stands",
        hint: "on a strut or pod; behind a stern or skeg",
      }),
    })
    .describe("a screw in water that works at the hull which it pushes"),
  z
    .object({
      kind: z.literal("weighed"),
      alone: field(magnitude("any").nullable().describe("thrust of one by itself, N; null: not said"), {
        label: "by itself",
        dimension: "force",
        hint: "thrust of one with nothing around it",
      }),
      builtIn: field(
        magnitude("any")
          .nullable()
          .describe("thrust of one as it is built in, same throttle and volts, N; null: not said"),
        { label: "built in", dimension: "force", hint: "of the same one, same throttle and pack" },
      ),
      disc: finite
        .positive()
        .nullable()
        .default(null)
        .describe("m² of its disc when it was weighed: of another it tells nothing; null: not noted"),
    })
    .describe("weighed by itself and as it is built in: outranks all the others, while its disc is what it was then"),
]);
export type Around = z.infer<typeof aroundSchema>;
export type AroundKind = Around["kind"];
export type AroundOf<K extends AroundKind> = Extract<Around, { kind: K }>;

/** An entry of a kind of which nothing is said yet. */
export function blankAround(kind: AroundKind): Around {
  switch (kind) {
    case "openings":
      return { kind, inlet: null, outlet: null, edges: "not said" };
    case "grille":
      return { kind, open: null };
    case "overlap":
      return { kind, spacing: null, neighbours: 1 };
    case "coaxial":
      return { kind, spacing: null };
    case "body behind":
    case "body before":
      return { kind, area: null, gap: null, shape: "not said" };
    case "ground":
      return { kind, height: null };
    case "hull":
      return { kind, stands: "not said" };
    case "weighed":
      return { kind, alone: null, builtIn: null, disc: null };
  }
}
