import type { Design } from "../../design/schema";
import { supportOf } from "../../design/support";
import type { Sure } from "../../numeric/doubt";
import { discOf } from "../authority/vanes";
import { wetDrive } from "../propulsion/covered";
import { placedUnits } from "../propulsion/placed";
import type { FloatsResult } from "./node";

/** How deep the screw of a drive runs that comes nearest to the water's surface. */
export interface ScrewDepth {
  name: string;
  /** m of water over its uppermost tip; below nought it stands out */
  over: Sure;
  diameter: number;
  /** no part of its disc is in the water */
  out: boolean;
}

/**
 * Where the water's surface stands over the baseline of a craft, m: of one on its hull where that is held level, on
 * foils where it is said to run. Null where it is under it, or nobody knows.
 */
function surfaceOf(design: Pick<Design, "states" | "gasLift" | "surfaces" | "flight">, level: FloatsResult["level"]) {
  const { afloat, weighedOff, ways } = supportOf(design);
  if (afloat && !weighedOff) return level?.water ?? null;
  const onFoils = ways.includes("wings") && design.surfaces.some((s) => s.medium === "water");
  const { waterline } = design.flight;
  return onFoils && waterline ? { value: waterline.value, sd: waterline.sd ?? 0 } : null;
}

/**
 * Of each drive in water how deep its uppermost blade tip runs, on level water. Those that nobody placed, and those
 * that have no disc, are left out.
 */
export function screwDepths(
  design: Pick<Design, "states" | "gasLift" | "surfaces" | "flight" | "units" | "items">,
  level: FloatsResult["level"],
): ScrewDepth[] {
  const surface = surfaceOf(design, level);
  if (!surface) return [];
  return design.units.flatMap((unit, drive) => {
    const radius = discOf(unit);
    if (radius === null || !wetDrive({ units: [unit] })) return [];
    const tops = placedUnits(design, drive).map(({ at, toward }) => {
      const up = radius * Math.sqrt(Math.max(0, 1 - toward.z ** 2));
      return { over: surface.value - at.z - up, out: surface.value < at.z - up };
    });
    const highest = tops.toSorted((a, b) => a.over - b.over)[0];
    return highest
      ? {
          name: unit.name,
          over: { value: highest.over, sd: surface.sd },
          diameter: 2 * radius,
          out: highest.out,
        }
      : [];
  });
}
