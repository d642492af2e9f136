import { z } from "zod";
import { evidenceSchema } from "../../design/evidence";
import { field, idSchema, nameSchema, point, unique } from "../../design/fields";
import { numbers } from "../../design/numbers";

/** A point at which the craft stands on the ground: a wheel, the end of a skid, a leg, the lowest point of a fin. */
export const footSchema = z.object({
  id: idSchema,
  name: nameSchema,
  itemId: field(
    idSchema.nullable().default(null).describe("part in the mass list that it is under: it goes where that goes"),
    { label: "part in the mass list" },
  ),
  at: field(point().describe("where it touches the ground"), { label: "touches the ground at", change: "place" }),
  mirrored: field(z.boolean().default(false).describe("one on each side, at ±y"), { label: "mirrored" }),
  placeBy: field(evidenceSchema, { label: "place known by", about: "knowing" }),
});
export type FootShape = z.infer<typeof footSchema>;

/** What standing on the ground adds to the document. */
export const shape = {
  feet: field(
    z
      .array(footSchema)
      .max(12, "at most 12")
      .refine(unique, "two feet have the same id")
      .default([])
      .describe("where it touches the ground when it is put down; empty: not said"),
    { label: "foot", change: "part" },
  ),
};

const STATICS = "Statics of a rigid body on its outer feet.";

/** The numbers of a craft that stands on the ground. */
export const quantities = numbers({
  tipSlope: {
    label: "Slope that tips it over",
    dimension: "angle",
    page: "stability",
    formula: "least of atan(d/h): CG a way d inside an edge of its feet and h above them",
    source:
      `${STATICS} tan of it is the static stability factor of road vehicles (half of the track over the ` +
      "CG's height).",
    range: "Standing, feet that do not give, slide or sink.",
  },
  tipWind: {
    label: "Side wind that tips it over",
    dimension: "speed",
    page: "stability",
    formula: "√(2·W·d / (ρ·C·A·h_s)): side area A with its middle h_s above the feet",
    source: `${STATICS} C = 1.1 ± 0.3 of blunt bodies broadside (Hoerner 1965, from memory).`,
    range: "Drives off, wheels that do not slide aside, no lift of wings: a wing that catches the wind tips sooner.",
  },
});
