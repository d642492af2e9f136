import { z } from "zod";
import { finite } from "../../design/bounds";
import { magnitude } from "../../design/evidence";
import { field, idSchema, nameSchema, unique } from "../../design/fields";
import { numbers } from "../../design/numbers";

export const WALLS = ["not said", "thin shell", "foam", "metal"] as const;
const ids = (words: string, label: string) => field(z.array(idSchema).max(24).default([]).describe(words), { label });

/** A closed space in which something warms the air: a hull, a tub, a bay, a sealed case. */
export const boxSchema = z.object({
  id: idSchema,
  name: nameSchema,
  motors: ids("drives whose motors are in it", "motors inside"),
  controllers: ids("drives whose controllers are in it", "controllers inside"),
  packs: ids("packs that are in it", "packs inside"),
  other: field(finite.min(0).max(10_000).default(0).describe("what else in it turns into heat, W"), {
    label: "other heat",
    dimension: "power",
  }),
  surface: field(magnitude("area").nullable().describe("m² of its outer walls; null: not said"), {
    label: "outer walls",
    dimension: "area",
  }),
  walls: field(z.enum(WALLS).describe("what they are"), { label: "walls" }),
  vent: field(magnitude("area").nullable().describe("m² of opening low down, and as much high up; null: closed"), {
    label: "vents, each",
    dimension: "area",
  }),
  rise: field(magnitude("length").nullable().describe("from the middle of the lower to that of the upper vent, m"), {
    label: "between vents",
    dimension: "length",
  }),
});
export type BoxShape = z.infer<typeof boxSchema>;

/** What closed spaces add to the document. */
export const shape = {
  boxes: field(z.array(boxSchema).max(8).refine(unique, "two boxes have the same id").default([]), {
    label: "closed space",
    change: "part",
  }),
};

/** The number of what its closed spaces warm up to. */
export const quantities = numbers({
  boxAir: {
    label: "Air in its hottest closed space",
    dimension: "temperature",
    page: "power",
    formula: "P = U·S·ΔT + ρ·c_p·C_d·(A/√2)·√(2·g·H·ΔT/T)·ΔT, P the losses inside at full throttle",
    source:
      "Heat through walls with U from still air on both sides (5 to 11 W/m²K each: textbook values of " +
      "natural convection with radiation); stack flow through two openings, ASHRAE Handbook of " +
      "Fundamentals (from memory).",
    range:
      "Lasting, full throttle on every drive, still air outside; no fan, no wind, no water on the " +
      "walls. A short run ends cooler.",
  },
});
