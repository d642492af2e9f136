import { liftedByRotors } from "./setup";
import { type Figure, type Found, type Remedy, type See, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { balance } from "../balance/node";
import { openCircuit } from "../energy/battery";
import { extent } from "../extent/node";
import { ratios } from "../ratios/node";
import { advice, figure, lessCurrent, ofUnit, percent, set, times } from "../say";
import type { Surroundings } from "./declares";
import { takenByAround } from "./aroundVerdicts";
import { bladeVerdicts } from "./bladeVerdicts";
import { eachDrive, unitOf } from "./eachDrive";
import { pathVerdicts } from "./pathVerdicts";
import { propulsion } from "./node";

const EVEN_OUT = advice("Match the motors and propellers so they share the load");

interface DriveOver {
  factor: number;
  drive: string;
  limit: number;
}
/** Motor current at the throttle limit against the motor's rating. */
const motorCurrent = verdict<DriveOver>({
  find: (see) =>
    eachDrive(see, ({ drive: { values, sd, evidence }, unit, name }) => {
      const limit = unit.motor.maxCurrent;
      const value = values.current;
      if (value <= limit) return [];
      return [
        {
          severity: value > 1.1 * limit ? "stop" : "care",
          params: { factor: value / limit, drive: name, limit },
          figure: figure("motor current", value, sd.current, "current", evidence, limit),
        },
      ];
    }),
  remedies(see, { about, params }, h) {
    const unit = unitOf(see, about);
    return unit ? lessCurrent(see.design, unit, ofUnit(about, "current"), params.limit, h) : [];
  },
  says: (p) => `${p.drive ? `${p.drive}: motor` : "Motor"} current is ${times(p.factor)} its rating`,
});

/** Sizes in which controllers are commonly sold, A. */
const CONTROLLER_SIZES = [6, 10, 12, 15, 20, 30, 40, 50, 60, 80, 100, 120, 150, 200];

/** Motor current against the controller's rating. */
const controllerCurrent = verdict<DriveOver & { current: number }>({
  find: (see) =>
    eachDrive(see, ({ drive: { values, sd, evidence }, unit, name }) => {
      const limit = unit.controller.maxCurrent;
      const value = values.current;
      if (value <= limit) return [];
      return [
        {
          severity: "stop",
          params: { factor: value / limit, drive: name, limit, current: value },
          figure: figure("motor current", value, sd.current, "current", evidence, limit),
        },
      ];
    }),
  remedies(see, { about, params }, h) {
    const unit = unitOf(see, about);
    const size = CONTROLLER_SIZES.find((s) => s >= params.current * 1.2);
    return [
      ...(size
        ? [
            {
              code: "fit-controller",
              text: `Fit a controller for ${plain(size, "current", "metric", 0)}`,
              patch: set(["units", `#${about}`, "controller", "maxCurrent"], size),
            },
          ]
        : []),
      ...(unit ? lessCurrent(see.design, unit, ofUnit(about, "current"), params.limit, h).slice(-1) : []),
    ];
  },
  says: (p) => `${p.drive ? `${p.drive}: the controller` : "Controller"} carries ${times(p.factor)} its rating`,
});

/** More cells than the controller is made for. */
const cellsOver = verdict<{ cells: number }>({
  find: ({ design }) =>
    design.units.flatMap((unit): Found<{ cells: number }>[] => {
      const battery = design.batteries.find((b) => b.id === unit.batteryId);
      if (!battery || unit.measured || battery.series <= unit.controller.maxCells) return [];
      return [
        {
          page: "power",
          severity: "stop",
          about: unit.id,
          params: { cells: battery.series },
          figure: {
            label: "cells in series",
            value: battery.series,
            sd: 0,
            dimension: "count",
            evidence: "datasheet",
            limit: unit.controller.maxCells,
          },
        },
      ];
    }),
  remedies: (_see, { about, params: p }) => [
    {
      code: "fit-controller-cells",
      text: `Fit a controller for ${p.cells} cells`,
      patch: set(["units", `#${about}`, "controller", "maxCells"], p.cells),
    },
  ],
  says: (p) => `${p.cells} cells in series are more than the controller takes`,
});

/** All currents inside their limits, every drive at full throttle at once: said once, with the fullest. */
const currentsHold = verdict<{ share: number; curves: boolean }>({
  find(see) {
    const result = see.result(propulsion);
    const lead = result?.drives[result.lead];
    if (!result || !lead || !result.whole || result.incomplete.length > 0 || result.outside.length > 0) return [];
    const { units, batteries } = see.design;
    const shares: (Figure & { limit: number })[] = [
      ...result.drives.flatMap(({ values, sd, evidence }, i) => {
        const unit = units[i];
        // Of a measured curve only what the pack gives is known.
        if (!unit || unit.measured) return [];
        return [
          figure("motor current", values.current, sd.current, "current", evidence, unit.motor.maxCurrent) as Figure & {
            limit: number;
          },
          figure(
            "controller current",
            values.current,
            sd.current,
            "current",
            evidence,
            unit.controller.maxCurrent,
          ) as Figure & { limit: number },
        ];
      }),
      ...result.packs.flatMap(({ values, sd, evidence }, i) => {
        const battery = batteries[i];
        return battery
          ? [
              figure(
                "pack current",
                values.current,
                sd.current,
                "current",
                evidence,
                battery.capacity.value * battery.cRating,
              ) as Figure & { limit: number },
            ]
          : [];
      }),
    ].sort((a, b) => b.value / b.limit - a.value / a.limit);
    const top = shares[0];
    if (!top || top.value > top.limit || shares.some((s) => Number.isNaN(s.value))) return [];
    return [
      {
        page: "power",
        severity: "clear",
        about: lead.id,
        params: { share: top.value / top.limit, curves: units.some((u) => u.measured) },
        figure: top,
      },
    ];
  },
  says: (p) =>
    `${p.curves ? "What is known of the currents is" : "Motor, controller and pack are"} within limits (at most ${percent(p.share)} of rating)`,
});

/** Where the line of full thrust passes the CG, and what would bring it through. */
function lineOfThrust(see: See) {
  const { design } = see;
  const [result, all, box, ratio] = [
    see.result(propulsion),
    see.result(balance),
    see.result(extent),
    see.result(ratios),
  ];
  const lead = result?.drives[result.lead];
  const unit = design.units[result?.lead ?? 0];
  const item = design.items.find((i) => i.id === unit?.propellerItemId);
  if (!lead || !unit || !item || !all || !box || !ratio || (unit.direction !== "ahead" && unit.direction !== "astern"))
    return null;
  // Height of the thrust line where it passes the CG; ahead the craft lies behind the propeller's line of push.
  const sense = unit.direction === "ahead" ? -1 : 1;
  const arm = item.place.z + sense * Math.tan(unit.tilt) * (all.cg.x - item.place.x) - all.cg.z;
  const shift = ratio.thrustToWeight.value * arm * Math.cos(unit.tilt);
  const tilt = Math.atan((-sense * (item.place.z - all.cg.z)) / (all.cg.x - item.place.x));
  return { unit, arm, shift, tilt, length: box.max.x - box.min.x, evidence: lead.evidence };
}

/**
 * Full thrust off the CG's height acts like a shift of the CG: said when it is more than half the window, or 3 % of
 * the length without one.
 */
const thrustLine = verdict<{ shift: number; arm: number; tilt: number }>({
  find(see) {
    const line = lineOfThrust(see);
    if (!line) return [];
    const { unit, arm, shift, tilt, length, evidence } = line;
    const window = see.design.brief.targets.find((t) => t.metric === "cgX" && t.upper !== undefined);
    const limit = window?.upper !== undefined ? (window.upper - window.value) / 2 : 0.03 * length;
    if (!(Math.abs(shift) > limit)) return [];
    return [
      {
        page: "power",
        severity: "care",
        about: unit.id,
        params: { shift, arm, tilt },
        figure: {
          label: "full thrust acts like a CG shift of",
          value: Math.abs(shift),
          sd: Math.abs((see.metrics.thrustToWeight?.sd ?? 0) * arm),
          dimension: "length",
          evidence,
          limit,
        },
      },
    ];
  },
  remedies: (_see, { about, params: { tilt } }) =>
    Math.abs(tilt) < (12 * Math.PI) / 180
      ? [
          {
            code: "tilt-thrust",
            text: `Tilt the thrust line to ${plain(Math.abs(tilt), "angle")} ${tilt < 0 ? "down" : "up"}, through the CG`,
            patch: set(["units", `#${about}`, "tilt"], tilt),
          },
        ]
      : [advice("Try short power pulses low and slow before full throttle")],
  says: (p) =>
    `Full throttle pitches the nose ${p.shift > 0 ? "down" : "up"}: thrust passes ${plain(Math.abs(p.arm), "length", "metric", 0)} ${p.arm > 0 ? "above" : "below"} the CG`,
});

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
  const silent = design.units.filter((u) => u.surroundings === null && !u.measured);
  const one = silent.length === 1;
  const ways: [Surroundings, string][] = [
    ["free air", one ? "It works in free air" : "They work in free air"],
    ["in water", one ? "It is an open screw under water" : "They are open screws under water"],
    ["boxed or ducted", one ? "It sits in a box or duct" : "They sit in boxes or ducts"],
    ["overlapped or coaxial", one ? "It overlaps another, or shares its axis" : "They overlap, or share an axis"],
    [
      "not a propeller",
      one ? "It is a drum, wheel, track, jet or paddle" : "They are drums, wheels, tracks, jets or paddles",
    ],
  ];
  if (silent.length === 0) return [];
  return ways.map(([where, text]) => ({
    code: "say-where",
    text,
    patch: { set: silent.map((u) => ({ path: ["units", `#${u.id}`, "surroundings"], value: where })), addItems: [] },
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
      "Weigh what it pushes at three settings or more, as it is built in, and enter it under Power: known by what it was measured to push",
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

/** Share of the propellers' torques that may be left over before it is said, for a craft on its propellers. */
const SPIN_LEFT = 0.15;

/** A craft on its propellers whose torques do not cancel: the body turns the other way. */
const spinUnmatched = verdict<{ share: number }>({
  find(see) {
    const { design } = see;
    const result = see.result(propulsion);
    if (!result || !liftedByRotors(design)) return [];
    const torques = result.main.map((i) => {
      const spin = design.units[i]?.spin;
      const torque = (result.drives[i]?.values.torque ?? 0) * (result.drives[i]?.count ?? 0);
      return { torque, turn: spin === "half each" ? 0 : spin === "clockwise" ? 1 : -1 };
    });
    const sum = torques.reduce((s, t) => s + t.torque, 0);
    const left = Math.abs(torques.reduce((s, t) => s + t.turn * t.torque, 0));
    if (!(sum > 0) || left / sum <= SPIN_LEFT) return [];
    return [
      {
        page: "power",
        severity: "care",
        about: "spin",
        params: { share: left / sum },
        figure: figure(
          "torque left over",
          left,
          0.1 * left,
          "torque",
          see.metrics.torque?.evidence ?? "guess",
          SPIN_LEFT * sum,
        ),
      },
    ];
  },
  remedies(see) {
    const even = (see.result(propulsion)?.main ?? [])
      .map((i) => see.design.units[i])
      .find((u) => u && u.count % 2 === 0 && u.spin !== "half each");
    return even
      ? [
          {
            code: "pair-spin",
            text: `Let half of ${even.name} turn the other way`,
            patch: set(["units", `#${even.id}`, "spin"], "half each"),
          },
        ]
      : [EVEN_OUT];
  },
  says: (p) =>
    `The propellers' torques do not cancel: ${percent(p.share)} of them is not cancelled and turns the craft`,
});

/** Ratio of motor loads between the most and the least worked of the drives that share a task. */
const UNEQUAL = 1.8;

/** Drives that do one task together and share it badly: one near its rating while another has most to spare. */
const sharingUnequal = verdict<{ hottest: string; share: number; idle: string }>({
  find(see) {
    const result = see.result(propulsion);
    const loads = (result?.main ?? []).flatMap((i) => {
      const [drive, unit] = [result?.drives[i], see.design.units[i]];
      return drive && unit
        ? [{ name: drive.name, load: drive.values.current / unit.motor.maxCurrent, evidence: drive.evidence }]
        : [];
    });
    const sorted = loads.toSorted((a, b) => b.load - a.load);
    const [hot, idle] = [sorted[0], sorted.at(-1)];
    if (!hot || !idle || hot === idle || hot.load < 0.7 || hot.load / idle.load <= UNEQUAL) return [];
    return [
      {
        page: "power",
        severity: "care",
        about: "sharing",
        params: { hottest: hot.name, share: hot.load, idle: idle.name },
        figure: figure(
          "load of the most worked against the least",
          hot.load / idle.load,
          0,
          "ratio",
          hot.evidence,
          UNEQUAL,
        ),
      },
    ];
  },
  remedies: () => [EVEN_OUT],
  says: (p) => `${p.hottest} works at ${percent(p.share)} of its rating while ${p.idle} has the most to spare`,
});

const INCH = 0.0254;

/**
 * What one inch more of propeller does to the current, before it is tried: said when the drive holds now and would
 * not then.
 */
const steepChange = verdict<{ factor: number }>({
  find: (see) =>
    eachDrive(see, ({ drive: { values, evidence, currentByDiameter }, unit }) => {
      const limit = Math.min(unit.motor.maxCurrent, unit.controller.maxCurrent);
      if (values.current > limit || values.current < 0.8 * limit) return [];
      const from = unit.propeller.diameter.value;
      const factor = ((from + INCH) / from) ** currentByDiameter;
      if (!(values.current * factor > limit)) return [];
      return [
        {
          severity: "note",
          params: { factor },
          figure: figure(
            "motor current with one inch more",
            values.current * factor,
            0.1 * values.current,
            "current",
            evidence,
            limit,
          ),
        },
      ];
    }),
  says: (p) => `One inch more of propeller would draw ${times(p.factor)} the current: over the limit`,
});

/**
 * Standstill current over the controller's rating above which a slammed throttle is known to trip controllers (common
 * practice).
 */
const SLAM = 9;
/** A propeller smaller than this is up to speed before the controller notices, m (common practice). */
const SMALL = 0.12;

/**
 * A throttle slammed open meets a motor that does not turn yet: what it would draw then, against the controller's
 * rating.
 */
const fastThrottle = verdict<{ drive: string; factor: number }>({
  find: (see) =>
    eachDrive(see, ({ drive: { evidence, batteryId }, unit, name }) => {
      const battery = see.design.batteries.find((b) => b.id === batteryId);
      if (!battery || unit.propeller.diameter.value < SMALL) return [];
      const open = battery.series * openCircuit(battery.chemistry, battery.startCharge);
      const stall =
        open /
        (unit.motor.resistance.value +
          unit.controller.resistance.value +
          battery.series * battery.cellResistance.value);
      const factor = stall / unit.controller.maxCurrent;
      if (factor <= SLAM) return [];
      return [
        {
          severity: "note",
          params: { drive: name, factor },
          figure: figure(
            "current at standstill",
            stall,
            0.2 * stall,
            "current",
            evidence,
            SLAM * unit.controller.maxCurrent,
          ),
        },
      ];
    }),
  remedies: () => [advice("Let the throttle take half a second, and test size against ramp on the bench")],
  says: (p) =>
    `${p.drive ? `${p.drive}: a` : "A"} slammed throttle pulls ${times(p.factor)} the controller's rating before the motor turns`,
});

export const verdicts = {
  "not-solved": notSolved,
  "drive-missing": driveMissing,
  "drive-not-covered": driveNotCovered,
  "surroundings-unsaid": surroundingsUnsaid,
  "motor-current": motorCurrent,
  "controller-current": controllerCurrent,
  "cells-over": cellsOver,
  ...bladeVerdicts,
  "taken-by-around": takenByAround,
  "thrust-line": thrustLine,
  ...pathVerdicts,
  "spin-unmatched": spinUnmatched,
  "sharing-unequal": sharingUnequal,
  "steep-change": steepChange,
  "fast-throttle": fastThrottle,
  "currents-hold": currentsHold,
};
