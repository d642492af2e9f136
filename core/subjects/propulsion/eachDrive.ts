import type { Unit } from "../../design/schema";
import type { Found, See } from "../../subject";
import { type PropulsionResult, type SolvedDrive, propulsion } from "./node";

/** A rule about its parts held against every drive that is solved by them: a measured curve has none. */
export const eachDrive = <P>(
  see: See,
  rule: (at: {
    drive: SolvedDrive;
    unit: Unit;
    name: string;
    result: PropulsionResult;
  }) => Omit<Found<P>, "page" | "about">[],
): Found<P>[] => {
  const result = see.result(propulsion);
  if (!result) return [];
  return result.drives.flatMap((drive, i) => {
    const unit = see.design.units[i];
    // A drive's name where there is more than one; empty where there is nothing to tell apart.
    const name = result.drives.length > 1 ? drive.name : "";
    return unit && !unit.measured
      ? rule({ drive, unit, name, result }).map((f) => ({ ...f, page: "power" as const, about: unit.id }))
      : [];
  });
};
/** A drive by its id. */
export const unitOf = (see: See, id: string) => see.design.units.find((u) => u.id === id);
