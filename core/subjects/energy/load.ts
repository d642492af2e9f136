import type { Battery, Phase, Unit } from "../../design/schema";
import type { LoadKnown } from "./declares";

/**
 * The drives and cells that a mean current or power belongs to, as text: two that differ draw otherwise. Four digits:
 * what is entered anew is not another drive.
 */
export function drivesAsText(
  units: readonly Pick<Unit, "count" | "motor" | "gear" | "propeller" | "propulsor">[],
  batteries: readonly Pick<Battery, "series">[],
  byCurrent: boolean,
): string {
  const digits = (x: number) => Number(x.toPrecision(4));
  return JSON.stringify([
    units.map((u) => [
      u.count,
      digits(u.motor.kv.value),
      digits(u.gear.ratio),
      ...(u.propulsor
        ? Object.values(u.propulsor).map((x) =>
            typeof x === "object" && x !== null ? digits(x.value) : typeof x === "number" ? digits(x) : x,
          )
        : [digits(u.propeller.diameter.value), digits(u.propeller.pitch.value), u.propeller.blades]),
    ]),
    // The same work takes the same power from any pack, and the same current only from as many cells.
    byCurrent ? batteries.map((b) => b.series) : [],
  ]);
}

/** How a mean load was come by: what the phase that holds it keeps. */
export interface Load {
  by: "current" | "power";
  /** A or W, of the pack, all that hangs on it included */
  value: number;
  sd: number;
  seconds: number;
  note: string;
}

type Driven = { units: readonly Unit[]; batteries: readonly Battery[] };

/** How a load is known that is said to be of this craft as it is now. */
export const knownOf = (
  by: Load["by"],
  design: Driven,
  mass: number | null,
  given: Pick<LoadKnown, "evidence" | "sd" | "note">,
): LoadKnown => ({
  ...given,
  mass,
  drives: drivesAsText(design.units, design.batteries, by === "current"),
});

/**
 * A measured load as the whole duty: from then on it outranks what the drives were computed to draw. @param mass that
 * it was measured at, kg
 */
export function dutyOfLoad(load: Load, design: Driven, mass: number | null): Phase {
  const known = knownOf(load.by, design, mass, { evidence: "measured", sd: load.sd, note: load.note });
  return {
    id: "measured",
    name: "As measured",
    seconds: load.seconds,
    repeats: 1,
    by: load.by,
    value: load.value,
    unitIds: [],
    known,
    groundSpeed: null,
    stateId: null,
  };
}

/** Share of the mass by which a craft may differ from the one that a load was measured on. */
const SAME_MASS = 0.05;

/** Why the loads of a duty are not those of this craft, as sentences; nothing where they are. */
export function strangeLoads(duty: readonly Phase[], design: Driven, mass: number | null): string[] {
  return duty.flatMap((p) => {
    if (p.by !== "current" && p.by !== "power") return [];
    const what = `the mean ${p.by} of “${p.name}”`;
    const fed = new Set(
      design.units.filter((u) => p.unitIds.length === 0 || p.unitIds.includes(u.id)).map((u) => u.batteryId),
    );
    if (design.batteries.length > 1 && (p.unitIds.length === 0 || fed.size !== 1))
      return [`of which pack ${what} was read is not said: choose the drives that it feeds`];
    const { known } = p;
    if (!known) return [];
    if (known.drives !== "" && known.drives !== drivesAsText(design.units, design.batteries, p.by === "current"))
      return [`${what} was taken with other drives or cells: run it again with these`];
    if (known.mass !== null && mass !== null && Math.abs(mass / known.mass - 1) > SAME_MASS)
      return [
        `${what} was taken at another mass, ${mass > known.mass ? "lighter" : "heavier"} by ` +
          `${Math.round(100 * Math.abs(known.mass / mass - 1))} %: run it again at this one`,
      ];
    return [];
  });
}

/**
 * Whether a duty asks nothing of the drives: every phase is held by what the pack was found, or is guessed, to give.
 */
export const byLoadAlone = (duty: readonly Pick<Phase, "by">[]): boolean =>
  duty.length > 0 && duty.every((p) => p.by === "current" || p.by === "power");
