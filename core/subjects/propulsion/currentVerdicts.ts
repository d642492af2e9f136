import type { Evidence } from "../../design/evidence";
import { type Found, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { openCircuit } from "../energy/battery";
import { advice, figure, lessCurrent, ofUnit, percent, set, times } from "../say";
import { eachDrive, unitOf } from "./eachDrive";
import { kindOf } from "./kinds/models";
import { isOpenPropeller } from "./kinds/which";
import { propulsion } from "./node";

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
    if (
      !result ||
      !lead ||
      !result.whole ||
      result.incomplete.length > 0 ||
      result.outside.length > 0 ||
      result.unknown.length > 0
    )
      return [];
    const { units, batteries } = see.design;
    const held = (label: string, value: number, sd: number, evidence: Evidence, limit: number) => ({
      ...figure(label, value, sd, "current", evidence, limit),
      limit,
    });
    const shares = [
      ...result.drives.flatMap(({ values, sd, evidence }, i) => {
        const unit = units[i];
        // Of a measured curve only what the pack gives is known.
        if (!unit || unit.measured) return [];
        // A beat asks for more in its hardest moment than on the mean.
        const most = (unit.propulsor ? kindOf(unit.propulsor).peak : 1) * values.current;
        return [
          held("motor current", most, sd.current, evidence, unit.motor.maxCurrent),
          held("controller current", most, sd.current, evidence, unit.controller.maxCurrent),
        ];
      }),
      ...result.packs.flatMap(({ values, sd, evidence }, i) => {
        const battery = batteries[i];
        return battery
          ? [held("pack current", values.current, sd.current, evidence, battery.capacity.value * battery.cRating)]
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
    `${p.curves ? "What is known of the currents is" : "Motor, controller and pack are"} within limits ` +
    `(at most ${percent(p.share)} of rating)`,
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
      if (!isOpenPropeller(unit) || values.current > limit || values.current < 0.8 * limit) return [];
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
      if (!battery || !isOpenPropeller(unit) || unit.propeller.diameter.value < SMALL) return [];
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
    `${p.drive ? `${p.drive}: a` : "A"} slammed throttle pulls ${times(p.factor)} the controller's ` +
    "rating before the motor turns",
});

/** What motors and controllers carry. */
export const currentVerdicts = {
  "motor-current": motorCurrent,
  "controller-current": controllerCurrent,
  "cells-over": cellsOver,
  "steep-change": steepChange,
  "fast-throttle": fastThrottle,
  "currents-hold": currentsHold,
};
