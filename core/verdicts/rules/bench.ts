import { weakest } from "../../design/evidence";
import type { Unit } from "../../design/schema";
import { learnedHolds, packChanged, partsChanged, taughtOf } from "../../subjects/propulsion/learned";
import type { Finding, Remedy, Rule } from "../types";

const sweep: Remedy[] = [{ code: "advice", params: { text: "sweep-one" }, patch: null }];

/** Whether a drive's thrust comes from what is printed or thought, not from anything measured. */
const fromPaper = ({ motor, propeller }: Unit): boolean =>
  ["guess", "datasheet"].includes(weakest([motor.kv.evidence, motor.resistance.evidence, propeller.diameter.evidence, propeller.pitch.evidence]));

/** What was learned on the stand no longer holds: a part of the drive was changed since. */
export const learnedStale: Rule = ({ design }) =>
  design.units.flatMap((unit): Finding[] => {
    const changed = unit.learned ? partsChanged(unit, unit.learned.of) : [];
    if (changed.length > 0)
      return [
        {
          code: "sweep-stale",
          severity: "care",
          station: "bench",
          subject: unit.id,
          params: { drive: unit.name, changed: changed.join(", "), carried: taughtOf(unit) !== null },
          figure: null,
          remedies: sweep,
        },
      ];
    const battery = design.batteries.find((b) => b.id === unit.batteryId);
    if (unit.learned && packChanged(battery, unit.learned.pack))
      return [
        { code: "sweep-other-pack", severity: "note", station: "bench", subject: unit.id, params: { drive: unit.name, pack: battery?.name ?? "" }, figure: null, remedies: sweep },
      ];
    return [];
  });

/** Thrust decides and nobody has measured it; several of a kind are built and none was on the stand. Drives whose parts are alike count as one kind. */
export const unmeasured: Rule = ({ design, targets }) => {
  const asked = design.heldUpBy === "rotors" || targets.some((t) => t.target.metric === "thrust" || t.target.metric === "thrustToWeight");
  const kinds = new Map<string, { first: Unit; count: number }>();
  for (const u of design.units) {
    if (learnedHolds(u) || !fromPaper(u)) continue;
    const key = JSON.stringify([u.motor, u.controller, u.gear, u.propeller]);
    const kind = kinds.get(key);
    kinds.set(key, { first: kind?.first ?? u, count: (kind?.count ?? 0) + u.count });
  }
  return [...kinds.values()].flatMap(({ first, count }): Finding[] => {
    if (count > 1)
      return [{ code: "copies-unmeasured", severity: "note", station: "bench", subject: first.id, params: { drive: first.name, count }, figure: null, remedies: sweep }];
    return asked ? [{ code: "thrust-unmeasured", severity: "note", station: "bench", subject: first.id, params: { drive: first.name }, figure: null, remedies: sweep }] : [];
  });
};

export const benchRules: Rule[] = [learnedStale, unmeasured];
