import { z } from "zod";
import { amountSchema } from "./bounds";
import { RISKS } from "./risk";

/** Parts of the fault catalogue. */
export const GROUPS = [
  "air",
  "water and ground",
  "cushion",
  "rotating parts",
  "transmission",
  "electrical",
  "control",
  "materials",
  "repair and people",
] as const;

const words = (most: number) => z.string().trim().max(most);

/**
 * An entry of one's own in the fault catalogue: the same record as those that ship, without their links to verdicts.
 */
export const causeSchema = z.object({
  id: z.string().min(1).max(60),
  text: words(200).min(1, "what could it be?"),
  test: words(300).min(1, "a cause without a test cannot be told from the others"),
  minutes: z.number().min(0).max(1e5),
  cost: amountSchema,
  risk: z.enum(RISKS, "what does the test put at risk: nothing, a part, a person?"),
  powered: z.boolean().optional().describe("whether the pack is in while it is made; left out: not said"),
  fix: words(300),
});
export const symptomSchema = z.object({
  id: z.string().regex(/^own-[a-z0-9-]{1,50}$/, "own-, then small letters, digits and -"),
  text: words(160).min(1, "what is seen, heard or felt?"),
  group: z.enum(GROUPS),
  causes: z.array(causeSchema).min(1, "at least one cause").max(20),
});
export type OwnSymptom = z.infer<typeof symptomSchema>;
