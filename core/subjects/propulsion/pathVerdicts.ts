import type { Evidence } from "../../design/evidence";
import type { Conductor } from "../../design/schema";
import { type Found, type See, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { CHEMISTRY } from "../energy/battery";
import { packOf } from "../energy/packOf";
import { figure, lessCurrent, ofPack, set, times } from "../say";
import { type LoadedPack, type PropulsionResult, propulsion } from "./node";

/**
 * Current through a conductor with everything on its pack at full throttle at once, A: the pack's, or that of one
 * unit of its branch.
 */
export function currentThrough(
  conductor: Conductor,
  result: PropulsionResult,
): { value: number; sd: number; evidence: Evidence } {
  if (conductor.unitId === null) {
    const pack = result.packs.find((p) => p.id === conductor.batteryId);
    return { value: pack?.values.current ?? 0, sd: pack?.sd.current ?? 0, evidence: pack?.evidence ?? "guess" };
  }
  const drive = result.drives.find((u) => u.id === conductor.unitId);
  if (!drive) return { value: 0, sd: 0, evidence: "guess" };
  return {
    value: drive.point.throttle * drive.values.current,
    sd: drive.point.throttle * drive.sd.current,
    evidence: drive.evidence,
  };
}

/** Ratings in which wires, plugs and switches are commonly sold, A. */
const RATINGS = [5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 120, 150, 200, 300];

/** Every wire, plug, switch and fuse of the current path against its rating. */
const conductorCurrent = verdict<{ name: string; factor: number; current: number }>({
  find(see) {
    const result = see.result(propulsion);
    if (!result) return [];
    return see.design.conductors.flatMap((c): Found<{ name: string; factor: number; current: number }>[] => {
      const { value, sd, evidence } = currentThrough(c, result);
      // What is drawn may not be known: of a curve that a scale alone told.
      if (!(value > c.maxCurrent)) return [];
      return [
        {
          page: "power",
          severity: value > 1.2 * c.maxCurrent ? "stop" : "care",
          about: c.id,
          params: { name: c.name, factor: value / c.maxCurrent, current: value },
          figure: figure("current", value, sd, "current", evidence, c.maxCurrent),
        },
      ];
    });
  },
  remedies(_see, { about, params: p }) {
    const size = RATINGS.find((r) => r >= p.current * 1.2);
    return size
      ? [
          {
            code: "fit-conductor",
            text: `Fit ${p.name} for ${plain(size, "current", "metric", 0)}`,
            patch: set(["conductors", `#${about}`, "maxCurrent"], size),
          },
        ]
      : [];
  },
  says: (p) => `${p.name} carries ${times(p.factor)} what it is made for`,
});

/** A rule held against every pack whose load is known: what a curve that a scale alone told draws is not. */
const eachPack = <P>(
  see: See,
  rule: (pack: LoadedPack, index: number) => Omit<Found<P>, "page" | "about">[],
): Found<P>[] =>
  (see.result(propulsion)?.packs ?? []).flatMap((p, i) =>
    Number.isFinite(p.values.current) ? rule(p, i).map((f) => ({ ...f, page: "power" as const, about: p.id })) : [],
  );

/** Pack current against capacity times C rating, everything on it at full throttle at once. */
const packCurrent = verdict<{ factor: number; limit: number; capacity: number }>({
  find: (see) =>
    eachPack(see, ({ values, sd, evidence }, i) => {
      const battery = see.design.batteries[i];
      const limit = battery ? battery.capacity.value * battery.cRating : Infinity;
      const value = values.current;
      if (!battery || value <= limit) return [];
      return [
        {
          severity: value > 1.25 * limit ? "stop" : "care",
          params: { factor: value / limit, limit, capacity: (value / battery.cRating) * 1.02 },
          figure: figure("pack current", value, sd.current, "current", evidence, limit),
        },
      ];
    }),
  remedies(see, { about, params }, h) {
    const unit = see.design.units.find((u) => u.batteryId === about);
    return [
      ...(unit ? lessCurrent(see.design, unit, ofPack(about, "current"), params.limit, h).slice(-1) : []),
      ...packOf(see.design, about, params.capacity, h),
    ];
  },
  says: (p) => `Pack gives ${times(p.factor)} its rated current`,
});

/** Cell voltage under full load at the start, against the floor of its chemistry. */
const packFloor = verdict<{ cell: number }>({
  find: (see) =>
    eachPack(see, ({ values, sd, evidence }, i) => {
      const battery = see.design.batteries[i];
      if (!battery) return [];
      const cell = values.voltage / battery.series;
      const { floor } = CHEMISTRY[battery.chemistry];
      if (cell >= floor) return [];
      return [
        {
          severity: "stop",
          params: { cell },
          figure: figure(
            "cell voltage at full throttle",
            cell,
            sd.voltage / battery.series,
            "voltage",
            evidence,
            floor,
          ),
        },
      ];
    }),
  remedies(see, { about }, h) {
    const battery = see.design.batteries.find((b) => b.id === about);
    return battery ? packOf(see.design, about, battery.capacity.value * 2, h) : [];
  },
  says: (p, habit) =>
    `Full throttle pulls the cells to ${plain(p.cell, "voltage", habit)}: the controller will cut off`,
});

/** All loads of a rail at their peak against its rating. */
const railCurrent = verdict<{ rail: string; factor: number; peak: number }>({
  find: ({ design }) =>
    design.regulators.flatMap((r): Found<{ rail: string; factor: number; peak: number }>[] => {
      const peak = r.loads.reduce((s, l) => s + Math.max(l.peak, l.current), 0);
      if (peak <= r.maxCurrent) return [];
      return [
        {
          page: "power",
          severity: "care",
          about: r.id,
          params: { rail: r.name, factor: peak / r.maxCurrent, peak },
          figure: figure("peak of all loads", peak, 0, "current", "datasheet", r.maxCurrent),
        },
      ];
    }),
  remedies: (_see, { about, params: p }) => {
    const size = Math.ceil(p.peak * 1.2);
    return [
      {
        code: "fit-regulator",
        text: `Fit ${p.rail} for ${plain(size, "current", "metric", 1)}`,
        patch: set(["regulators", `#${about}`, "maxCurrent"], size),
      },
    ];
  },
  says: (p) => `${p.rail} is asked for ${times(p.factor)} its current when everything on it peaks`,
});

/** What packs, conductors and regulators carry. */
export const pathVerdicts = {
  "conductor-current": conductorCurrent,
  "pack-current": packCurrent,
  "pack-floor": packFloor,
  "rail-current": railCurrent,
};
