import type { Design, Item } from "../../design/schema";
import { verdict } from "../../subject";
import { advice } from "../say";
import type { HOLDS } from "./declares";
import { mass } from "./node";

/** Ways of holding that stay when a part pulls in another direction than was thought of (common practice). */
const FIRM: readonly (typeof HOLDS)[number][] = ["strap", "screws", "pin", "thread"];
/** Share of the whole mass from which a part that comes off is missed by the balance (judgement). */
const HEAVY = 0.05;

/** Parts that end a run when they come off: packs, and whatever is heavy. */
const matters = (design: Pick<Design, "batteries">, item: Item, whole: number): "pack" | "heavy" | null =>
  design.batteries.some((b) => b.itemId === item.id)
    ? "pack"
    : (item.mass?.value ?? 0) * item.quantity > HEAVY * whole
      ? "heavy"
      : null;

/**
 * A pack or a heavy part that one yielding thing alone keeps in its place. Silent while nothing is said of how it is
 * held, and where a second way holds when the first lets go.
 */
export const weakHold = verdict<{ item: string; by: string; pack: boolean }>({
  find(see) {
    const whole = see.result(mass)?.mass ?? 0;
    return see.design.items.flatMap((item) => {
      const [by, second] = item.heldBy;
      const why = matters(see.design, item, whole);
      if (!by || second || FIRM.includes(by) || why === null) return [];
      return [
        {
          page: "layout" as const,
          severity: "care" as const,
          about: item.id,
          params: { item: item.name, by, pack: why === "pack" },
          figure: null,
        },
      ];
    });
  },
  remedies: () => [advice("Add a strap, a screw or a pin that holds when it lets go; shake it upside down")],
  says: (p) =>
    `${p.item} is held by ${p.by} alone: ` +
    `${p.pack ? "a pack that slides takes the CG along, one that drops takes the power" : "it is heavy enough to be missed"}`,
});
