import type { Design } from "../../design/schema";
import type { UnitHabit } from "../../design/units";
import type { Remedy } from "../../subject";
import { plain } from "../../wording/format";
import { packPatch } from "./packPatch";

/** A pack of another capacity as a remedy, its own mass carried along. */
export function packOf(design: Design, batteryId: string, capacity: number, habit: UnitHabit): Remedy[] {
  const made = packPatch(design, batteryId, capacity);
  return made
    ? [
        {
          code: "fit-pack",
          text:
            "Fit a pack of " +
            `${plain(capacity, "capacity", habit)}${made.mass > 0 ? `, about ${plain(made.mass, "mass", habit)}` : ""}`,
          patch: made.patch,
        },
      ]
    : [];
}
