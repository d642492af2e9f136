import { liftedByRotors } from "../propulsion/mainUnits";
import { weakest } from "../../design/evidence";
import type { Design, Unit } from "../../design/schema";
import { type Found, type See, verdict } from "../../subject";
import { learnedHolds, packChanged, partsChanged, taughtOf } from "../propulsion/learned";
import { advice } from "../say";

const SWEEP = advice("Sweep one on the thrust stand, about 25 minutes");

/** Whether a drive's thrust comes from what is printed or thought, not from anything measured. */
const fromPaper = ({ motor, propeller, propulsor }: Unit): boolean =>
  propulsor !== null ||
  ["guess", "datasheet"].includes(
    weakest([motor.kv.evidence, motor.resistance.evidence, propeller.diameter.evidence, propeller.pitch.evidence]),
  );

/** What was learned on the stand no longer holds: a part of the drive was changed since. */
const sweepStale = verdict<{ drive: string; changed: string; carried: boolean }>({
  find: ({ design }) =>
    design.units.flatMap((unit): Found<{ drive: string; changed: string; carried: boolean }>[] => {
      const changed = unit.learned ? partsChanged(unit, unit.learned.of) : [];
      if (changed.length === 0) return [];
      return [
        {
          page: "bench",
          severity: "care",
          about: unit.id,
          params: { drive: unit.name, changed: changed.join(", "), carried: taughtOf(unit) !== null },
          figure: null,
        },
      ];
    }),
  remedies: () => [SWEEP],
  says: (p) =>
    `The stand results for ${p.drive} are out of date: ${p.changed} changed ` +
    `since${p.carried ? "; its factors are carried over with more doubt" : ""}`,
});

const sweepOtherPack = verdict<{ drive: string; pack: string }>({
  find: ({ design }) =>
    design.units.flatMap((unit): Found<{ drive: string; pack: string }>[] => {
      const battery = design.batteries.find((b) => b.id === unit.batteryId);
      if (!unit.learned || partsChanged(unit, unit.learned.of).length > 0 || !packChanged(battery, unit.learned.pack))
        return [];
      return [
        {
          page: "bench",
          severity: "note",
          about: unit.id,
          params: { drive: unit.name, pack: battery?.name ?? "" },
          figure: null,
        },
      ];
    }),
  remedies: () => [SWEEP],
  says: (p) => `${p.drive} was on the stand with another pack than ${p.pack}`,
});

/** Kinds of drive that nobody has measured: drives whose parts are alike count as one kind. */
function unmeasured(design: Design): { first: Unit; count: number }[] {
  const kinds = new Map<string, { first: Unit; count: number }>();
  for (const u of design.units) {
    if (u.measured || learnedHolds(u) || !fromPaper(u)) continue;
    const key = JSON.stringify([u.motor, u.controller, u.gear, u.propulsor ?? u.propeller]);
    const kind = kinds.get(key);
    kinds.set(key, { first: kind?.first ?? u, count: (kind?.count ?? 0) + u.count });
  }
  return [...kinds.values()];
}

/**
 * Several of a kind are built and none was measured. What is no open propeller is known too badly for that: going on
 * costs a sentence, which is kept.
 */
const copiesUnmeasured = verdict<{ drive: string; count: number; because: string; wide: boolean }>({
  find: ({ design }) =>
    unmeasured(design)
      .filter((k) => k.count > 1)
      .map(({ first, count }) => ({
        page: "bench",
        severity: first.propulsor && first.copiesBecause === "" ? "care" : "note",
        about: first.id,
        params: { drive: first.name, count, because: first.copiesBecause, wide: first.propulsor !== null },
        figure: null,
      })),
  remedies: (_see, { params }) => [
    params.wide
      ? advice("Weigh what one pushes at three settings or more, and enter it under Power: a kitchen scale is enough")
      : SWEEP,
    ...(params.wide && params.because === ""
      ? [advice("Or say under the drive why more are built unmeasured: the sentence is kept")]
      : []),
  ],
  says: (p) =>
    p.because
      ? `${p.count} of ${p.drive} are built and none was measured: “${p.because}”`
      : `Measure one before building ${p.count}: ` +
        `${p.wide ? `what ${p.drive} pushes is known within a wide band only` : `no ${p.drive} has been on the stand`}`,
});

/** Thrust decides and nobody has measured it. */
const decides = ({ design, targets }: See) =>
  liftedByRotors(design) || targets.some((t) => t.target.metric === "thrust" || t.target.metric === "thrustToWeight");
const thrustUnmeasured = verdict<{ drive: string }>({
  find: (see) =>
    decides(see)
      ? unmeasured(see.design)
          .filter((k) => k.count === 1)
          .map(({ first }) => ({
            page: "bench",
            severity: "note",
            about: first.id,
            params: { drive: first.name },
            figure: null,
          }))
      : [],
  remedies: () => [SWEEP],
  says: (p) => `The thrust of ${p.drive} is only predicted; it has never been measured`,
});

export const verdicts = {
  "sweep-stale": sweepStale,
  "sweep-other-pack": sweepOtherPack,
  "copies-unmeasured": copiesUnmeasured,
  "thrust-unmeasured": thrustUnmeasured,
};
