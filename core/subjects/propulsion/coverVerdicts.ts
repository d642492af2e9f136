import { type Remedy, type See, verdict } from "../../subject";
import { advice } from "../say";
import { type Around, blankAround } from "./around/declares";
import type { Surroundings } from "./declares";
import { whereUnsaid } from "./covered";
import { propulsion } from "./node";
import { liftedByRotors } from "./mainUnits";

/** The chain has no solution: said with how the solver ended. */
const notSolved = verdict<{ reason: string }>({
  find(see) {
    const outcome = see.of(propulsion);
    const reason =
      outcome.status === "failed"
        ? outcome.reason
        : outcome.status === "solved" && !outcome.result.whole
          ? "blade elements"
          : null;
    return reason === null
      ? []
      : [{ page: "power", severity: "stop", about: "drives", params: { reason }, figure: null }];
  },
  says: (p) => `The drive has no operating point (${p.reason})`,
});

/** What can be said of where a drive works, each as a change of every drive of which nothing is said. */
function sayWhere({ design }: See): Remedy[] {
  const silent = design.units.filter(whereUnsaid);
  const one = silent.length === 1;
  const ways: [Surroundings, string, Around[]][] = [
    ["in air", one ? "It works in free air" : "They work in free air", []],
    ["in water", one ? "It works under water" : "They work under water", []],
    ["in air", one ? "It sits in a box or duct" : "They sit in boxes or ducts", [blankAround("openings")]],
    ["in air", one ? "It overlaps another" : "They overlap", [blankAround("overlap")]],
    ["in air", one ? "It shares its axis with another" : "They share an axis", [blankAround("coaxial")]],
    ["not a propeller", one ? "It is no propeller" : "They are no propellers", []],
  ];
  if (silent.length === 0) return [];
  return ways.map(([where, text, around]) => ({
    code: "say-where",
    text,
    patch: {
      set: silent.flatMap((u) => [
        { path: ["units", `#${u.id}`, "surroundings"], value: where },
        ...(around.length > 0 ? [{ path: ["units", `#${u.id}`, "around"], value: around }] : []),
      ]),
      addItems: [],
    },
  }));
}

/** Drives that the method does not hold for: no figure, no clear line and no larger propeller is offered. */
const driveNotCovered = verdict<{ because: string }>({
  find(see) {
    const outcome = see.of(propulsion);
    return outcome.status === "not covered"
      ? [{ page: "power", severity: "care", about: "drives", params: { because: outcome.because }, figure: null }]
      : [];
  },
  remedies: (see) => [
    ...sayWhere(see),
    advice(
      "Weigh what it pushes at three settings or more, as it is built in, and enter it under Power: " +
        "known by what it was measured to push",
    ),
  ],
  says: (p) => `The drives are not computed: ${p.because}`,
});

/** Drives of which was never said where they work: what is shown holds for free air. */
const surroundingsUnsaid = verdict<{ assumed: string }>({
  find(see) {
    const unsaid = see.result(propulsion)?.incomplete[0];
    return unsaid === undefined
      ? []
      : [{ page: "power", severity: "note", about: "drives", params: { assumed: unsaid }, figure: null }];
  },
  remedies: sayWhere,
  says: (p) => `${p.assumed.charAt(0).toUpperCase()}${p.assumed.slice(1)}`,
});

/** What nobody knows of a measured curve: said, with what would tell it. */
const curveUnknown = verdict<{ unknown: string }>({
  find: (see) =>
    (see.result(propulsion)?.unknown ?? []).map((unknown, k) => ({
      page: "power",
      severity: "care",
      about: `curve-${k}`,
      params: { unknown },
      figure: null,
    })),
  remedies: () => [advice("Measure it up to full command, and note the volts of its pack at rest")],
  says: (p) => `${p.unknown.charAt(0).toUpperCase()}${p.unknown.slice(1)}`,
});

/** A target asks for thrust or endurance and there is no drive or pack to give it; or the craft cannot do without. */
const driveMissing = verdict<{ what: string }>({
  find(see) {
    const outcome = see.of(propulsion);
    if (outcome.status !== "missing") return [];
    const asked = see.targets.some((t) =>
      ["thrust", "thrustToWeight", "endurance", "thrustThrottle"].includes(t.target.metric),
    );
    if (!asked && !liftedByRotors(see.design)) return [];
    return [
      {
        page: "power",
        severity: "note",
        about: "drive",
        params: { what: outcome.needs.length === 2 ? "both" : (outcome.needs[0] ?? "both") },
        figure: null,
      },
    ];
  },
  remedies: () => [advice("Describe pack, motor and propeller in Power")],
  says: (p) =>
    p.what === "both"
      ? "No drive and no pack yet: thrust and endurance are unknown"
      : `No ${p.what} yet: thrust and endurance are unknown`,
});

/** What stands in the way of computing the drives, or is assumed of them. */
export const coverVerdicts = {
  "not-solved": notSolved,
  "drive-missing": driveMissing,
  "drive-not-covered": driveNotCovered,
  "surroundings-unsaid": surroundingsUnsaid,
  "curve-unknown": curveUnknown,
};
