import type { Sure } from "../../numeric/doubt";
import type { Point, Surface, Unit } from "../../design/schema";
import { TURNS, type Turn } from "../authority/allocate";
import type { PlacedThruster } from "../authority/thrusters";
import { type FlowAt, VANE_DOUBT, type Washing, discOf, inWashes, vanesIn } from "../authority/vanes";
import { wetted } from "../flight/wet";
import { wetDrive } from "../propulsion/covered";
import { worksInFluid } from "../propulsion/kinds/models";

/** What controls do about one axis where a flow meets them. */
export interface Flowed {
  /** names of the controls that are for this axis; empty: there is none */
  names: string[];
  /** standing at full throttle, in the washes of all drives; null: a wash is not known */
  standing: Sure | null;
  /** N·m at 1 m/s with the throttle closed: it grows with the square of the speed */
  coasting: Sure;
  /** one of them works in water */
  wet: boolean;
}

/** The flow of a craft that coasts at 1 m/s, the same everywhere: what bodies ahead take of it is within the doubt. */
const coastingIn =
  (density: number): FlowAt =>
  () =>
    density / 2;

/** Washes of the drives that work in one medium; null where a drive moves some of it and nobody knows how. */
function washesIn(
  medium: Surface["medium"],
  units: readonly Unit[],
  drivers: readonly PlacedThruster[],
): Washing[] | null {
  const out: Washing[] = [];
  for (const { drive, at, toward, most } of drivers) {
    const unit = units[drive];
    if (!unit || wetDrive({ units: [unit] }) !== (medium === "water")) continue;
    // What rolls or digs moves none.
    if (unit.measured ? unit.measured.on === "the ground" : !worksInFluid(unit)) continue;
    const radius = discOf(unit);
    if (radius === null) return null;
    out.push({ at, toward, thrust: most, radius });
  }
  return out;
}

/**
 * What controls of surfaces do about the CG in the washes of the drives standing at full throttle, and coasting:
 * rudders in water or air, planes, vanes. Up to 20° of their travel, ± 30 % (judgement); a wash of another medium does
 * nothing.
 *
 * @param drivers null: where they are or what they push is not known, and so are their washes
 * @param density kg/m³ of each medium
 * @param level m of the water's surface over the baseline; null: not known, and all that works in water is under it
 */
export function flowedBy(
  view: { surfaces: readonly Surface[]; units: readonly Unit[] },
  drivers: readonly PlacedThruster[] | null,
  cg: Point,
  density: Record<Surface["medium"], number>,
  level: number | null = null,
): Record<Turn, Flowed> {
  const none = (): Flowed => ({ names: [], standing: { value: 0, sd: 0 }, coasting: { value: 0, sd: 0 }, wet: false });
  const out: Record<Turn, Flowed> = { roll: none(), pitch: none(), yaw: none() };
  const add = (m: Sure, by: number): Sure => ({ value: m.value + by, sd: m.sd + VANE_DOUBT * by });
  for (const medium of ["air", "water"] as const) {
    const washes = drivers && washesIn(medium, view.units, drivers);
    for (const turn of TURNS) {
      const all = view.surfaces
        .filter((s) => s.medium === medium)
        .map((s) => ({ ...s, controls: s.controls.filter((c) => c.does.includes(turn)) }));
      const names = all.flatMap((s) => s.controls.map((c) => c.name));
      if (names.length === 0) continue;
      const surfaces = medium === "water" && level !== null ? wetted(all, level) : all;
      const { standing, coasting, names: before, wet } = out[turn];
      out[turn] = {
        names: [...before, ...names],
        standing: standing && washes && add(standing, vanesIn(surfaces, inWashes(washes), cg)[turn].most),
        coasting: add(coasting, vanesIn(surfaces, coastingIn(density[medium]), cg)[turn].most),
        wet: wet || medium === "water",
      };
    }
  }
  return out;
}
