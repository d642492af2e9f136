import { z } from "zod";
import { magnitude } from "../../../design/evidence";
import { field } from "../../../design/fields";

export const EDGES = ["not said", "rounded", "sharp"] as const;
/**
 * What is around a drive that works in a box or beside another, as far as its thrust can be told from it: the openings
 * that its flow passes, the discs that it overlaps, or the partner on its axis.
 */
export const aroundSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("openings"),
    inlet: field(magnitude("area").nullable().describe("m² of opening before one unit; null: nothing in its way"), {
      label: "inlet",
      dimension: "area",
    }),
    outlet: field(magnitude("area").nullable().describe("m² of opening behind one unit; null: nothing in its way"), {
      label: "outlet",
      dimension: "area",
    }),
    edges: field(z.enum(EDGES).describe("edges of the openings"), { label: "edges" }),
  }),
  z.object({
    kind: z.literal("overlap"),
    spacing: field(magnitude("length").nullable().describe("from axis to axis, m; null: not said"), {
      label: "spacing of axes",
      dimension: "length",
    }),
    neighbours: field(
      z.number().int().min(1, "at least one neighbour").max(6).describe("discs that one disc overlaps"),
      {
        label: "neighbours",
        dimension: "count",
      },
    ),
  }),
  z.object({ kind: z.literal("coaxial").describe("like units in pairs on one axis, turning against one another") }),
]);
export type Around = z.infer<typeof aroundSchema>;
export type AroundKind = Around["kind"];
