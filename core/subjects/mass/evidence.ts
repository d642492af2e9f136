import { z } from "zod";
import { type Known, magnitude } from "../../design/evidence";
import { sayPlace } from "./placed";
import { type Design, type Item, itemSchema } from "../../design/schema";

/**
 * What a weighing tells about entries of the ledger. It may be added to a frozen version too: the craft stays as it
 * was built, only better known.
 */
export const massEvidenceSchema = z.object({
  entries: z
    .array(
      z.object({
        itemId: z.string(),
        mass: magnitude("mass").optional().describe("kg each"),
        place: z
          .object({
            axis: z.enum(["x", "y", "z"]),
            value: z.number().min(-100).max(100),
            sd: z.number().nonnegative().max(10),
          })
          .optional()
          .describe("m"),
      }),
    )
    .max(1000),
  found: z.array(itemSchema).max(5).describe("mass that is aboard and in no entry"),
});
export type MassEvidence = z.infer<typeof massEvidenceSchema>;

/** Whether a mass was weighed rather than thought of. */
export const isWeighed = (known: Known | null): boolean =>
  known?.evidence === "measured" || known?.evidence === "proven";

/** Puts a weighing into an entry: what was predicted stays beside it. */
export function weigh(item: Item, mass: Known): void {
  if (item.mass && !isWeighed(item.mass)) item.predicted = item.mass;
  item.mass = mass;
}

/** Takes a weighing back: what was predicted is in force again. */
export function unweigh(item: Item): void {
  if (!isWeighed(item.mass)) return;
  item.mass = item.predicted;
  item.predicted = null;
}

/** The design with this evidence in its ledger. Entries that are not there are passed over. */
export function withEvidence(design: Design, evidence: MassEvidence): Design {
  const next = structuredClone(design);
  for (const { itemId, mass, place } of evidence.entries) {
    const item = next.items.find((i) => i.id === itemId);
    if (!item) continue;
    if (mass) weigh(item, mass);
    if (place) {
      item.place[place.axis] = place.value;
      item.placeEvidence = "measured";
      item.placeSd = place.sd;
      sayPlace(item, place.axis);
    }
  }
  for (const item of evidence.found) if (!next.items.some((i) => i.id === item.id)) next.items.push(item);
  return next;
}

/** The ledger as a bench session keeps it, to know later whether it still holds. */
export const ledgerOf = (design: Design) =>
  design.items.map((i) => ({ id: i.id, mass: i.mass ? i.mass.value * i.quantity : null, ...i.place }));

/**
 * Entries that were added, taken out, moved or changed since; names where they are still known. Empty: the session
 * still holds.
 */
export function changedSince(tested: ReturnType<typeof ledgerOf>, design: Design): string[] {
  const now = ledgerOf(design);
  const name = (id: string) => design.items.find((i) => i.id === id)?.name ?? id;
  const near = (a: number, b: number, by: number) => Math.abs(a - b) <= by;
  const changed = now.filter((n) => {
    const t = tested.find((x) => x.id === n.id);
    return (
      !t ||
      (t.mass === null) !== (n.mass === null) ||
      !near(t.mass ?? 0, n.mass ?? 0, 1e-5) ||
      !near(t.x, n.x, 1e-5) ||
      !near(t.y, n.y, 1e-5) ||
      !near(t.z, n.z, 1e-5)
    );
  });
  const gone = tested.filter((t) => !now.some((n) => n.id === t.id));
  return [...changed, ...gone].map((x) => name(x.id));
}
