import type { PropulsionResult } from "../propulsion/node";
import { cornersOf, placedUnits } from "../propulsion/placed";
import type { Thruster } from "./allocate";

/** One unit where it is and as it acts at full throttle. */
export interface PlacedThruster extends Thruster {
  /** index of its drive in the design, and which of its like units it is */
  drive: number;
  k: number;
  name: string;
  /** N, of the like units of its drive */
  mean: number;
  /** its thrust over that, as it was weighed; null: not weighed */
  corner: { share: number; sd: number } | null;
}

/**
 * The units of some drives as they act standing at full throttle; `lacks` is what is not known of one of them.
 *
 * @param which indices of drives
 */
export function thrustersOf(
  view: Parameters<typeof placedUnits>[0],
  drives: PropulsionResult,
  which: readonly number[],
): { units: PlacedThruster[]; noTorque: boolean } | { lacks: string } {
  const units: PlacedThruster[] = [];
  let noTorque = false;
  for (const i of which) {
    const [drive, unit] = [drives.drives[i], view.units[i]];
    if (!drive || !unit) continue;
    const placed = placedUnits(view, i);
    if (placed.length !== unit.count) return { lacks: `a place for each unit of ${unit.name}` };
    const mean = drive.values.thrust / drive.count;
    if (!(mean > 0)) return { lacks: `the thrust of ${unit.name}` };
    const known = Number.isFinite(drive.values.torque) && drive.values.torque > 0;
    noTorque ||= !known;
    const corners = cornersOf(unit);
    for (const { at, toward, k, share } of placed)
      units.push({
        at,
        toward,
        most: share * mean,
        mean,
        corner: corners?.[k] ?? null,
        torque: known ? drive.values.torque / mean : 0,
        // Half each way: one after the other.
        spin: unit.spin === "half each" ? (k % 2 === 0 ? 1 : -1) : unit.spin === "clockwise" ? 1 : -1,
        reversible: unit.reversible,
        drive: i,
        k,
        name: unit.count > 1 ? `${unit.name}, unit ${k + 1}` : unit.name,
      });
  }
  return { units, noTorque };
}
