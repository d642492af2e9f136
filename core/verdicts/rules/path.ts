import type { Conductor } from "../../design/schema";
import { remembering } from "../../numeric/memo";
import { openCircuit } from "../../subjects/energy/battery";
import type { PowerResult, SolvedPack } from "../../subjects/propulsion/evaluatePower";
import { type LoopResult, sizingLoop } from "../../sizing/loop";
import { type Finding, type Rule, figureOf } from "../types";
import { figure, forEachDrive, forEachPack, ofUnit, resize, set, solveFor, withDrive } from "./solve";

/** Current through a conductor with everything on its pack at full throttle at once, A: the pack's, or that of one unit of its branch. */
export function currentThrough(conductor: Conductor, result: PowerResult): { value: number; sd: number } {
  if (conductor.unitId === null) {
    const pack = result.packs.find((p) => p.battery.id === conductor.batteryId);
    return { value: pack?.values.current ?? 0, sd: pack?.sd.current ?? 0 };
  }
  const drive = result.units.find((u) => u.unit.id === conductor.unitId);
  if (!drive) return { value: 0, sd: 0 };
  return { value: drive.point.throttle * drive.values.current, sd: drive.point.throttle * drive.sd.current };
}

/** Ratings in which wires, plugs and switches are commonly sold, A. */
const RATINGS = [5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 120, 150, 200, 300];

/** Every wire, plug, switch and fuse of the current path against its rating. */
export const conductorCurrent = withDrive((input) =>
  input.design.conductors.flatMap((c): Finding[] => {
    const { value, sd } = currentThrough(c, input.result);
    if (value <= c.maxCurrent) return [];
    const size = RATINGS.find((r) => r >= value * 1.2);
    return [
      {
        code: "conductor-current",
        severity: value > 1.2 * c.maxCurrent ? "stop" : "care",
        station: "power",
        subject: c.id,
        params: { name: c.name, factor: value / c.maxCurrent },
        figure: figure("current", value, sd, "current", input.result.evidence, c.maxCurrent),
        remedies: size ? [{ code: "fit-conductor", params: { name: c.name, current: size }, patch: set(["conductors", `#${c.id}`, "maxCurrent"], size) }] : [],
      },
    ];
  }),
);

/** Lowest voltage that a pack is brought to: full throttle at the start, or the heaviest phase of the duty near its end. */
const lowestVoltage = (pack: SolvedPack): number => Math.min(pack.values.voltage, ...(pack.endurance?.trace.map((t) => t.voltage) ?? []));

/** A regulator whose pack sags below what its rail or a load on it needs. */
export const brownOut = forEachPack((input, pack) => {
  const lowest = lowestVoltage(pack);
  return input.design.regulators
    .filter((r) => r.batteryId === pack.battery.id)
    .flatMap((r): Finding[] => {
      const needs = r.voltage + r.dropout;
      if (lowest >= needs) return [];
      // The rail follows the pack down: what matters is whether anything on it stops.
      const rail = lowest - r.dropout;
      const strictest = Math.max(0, ...r.loads.map((l) => l.minVoltage));
      if (r.loads.length > 0 && strictest > 0 && rail >= strictest) return [];
      const limit = Math.min(needs, strictest > 0 ? strictest + r.dropout : needs);
      return [
        {
          code: "brown-out",
          severity: "stop",
          station: "power",
          subject: r.id,
          params: { rail: r.name, short: limit - lowest },
          figure: figure("lowest pack voltage", lowest, pack.sd.voltage, "voltage", pack.evidence, limit),
          remedies: [{ code: "advice", params: { text: "split-loads" }, patch: null }],
        },
      ];
    });
});

/** All loads of a rail at their peak against its rating. */
export const railCurrent: Rule = ({ design }) =>
  design.regulators.flatMap((r): Finding[] => {
    const peak = r.loads.reduce((s, l) => s + Math.max(l.peak, l.current), 0);
    if (peak <= r.maxCurrent) return [];
    const size = Math.ceil(peak * 1.2);
    return [
      {
        code: "rail-current",
        severity: "care",
        station: "power",
        subject: r.id,
        params: { rail: r.name, factor: peak / r.maxCurrent },
        figure: figure("peak of all loads", peak, 0, "current", "datasheet", r.maxCurrent),
        remedies: [{ code: "fit-regulator", params: { name: r.name, current: size }, patch: set(["regulators", `#${r.id}`, "maxCurrent"], size) }],
      },
    ];
  });

/** Share of the propellers' torques that may be left over before it is said, for a craft on its propellers. */
const SPIN_LEFT = 0.15;

/** A craft on its propellers whose torques do not cancel: the body turns the other way. */
export const spinUnmatched = withDrive((input) => {
  const { design, result } = input;
  if (design.heldUpBy !== "rotors") return [];
  const lifting = result.main.flatMap((i) => result.units[i] ?? []);
  const torque = (u: (typeof lifting)[number]) => u.values.torque * u.unit.count;
  const sum = lifting.reduce((s, u) => s + torque(u), 0);
  const left = Math.abs(lifting.reduce((s, u) => s + (u.unit.spin === "half each" ? 0 : u.unit.spin === "clockwise" ? 1 : -1) * torque(u), 0));
  if (!(sum > 0) || left / sum <= SPIN_LEFT) return [];
  const even = lifting.find((u) => u.unit.count % 2 === 0 && u.unit.spin !== "half each");
  return [
    {
      code: "spin-unmatched",
      severity: "care",
      station: "power",
      subject: "spin",
      params: { share: left / sum },
      figure: figure("torque left over", left, 0.1 * left, "torque", result.evidence, SPIN_LEFT * sum),
      remedies: even
        ? [
            {
              code: "pair-spin",
              params: { name: even.unit.name },
              patch: { set: [{ path: ["units", `#${even.unit.id}`, "spin"], value: "half each" }], addItems: [] },
            },
          ]
        : [{ code: "advice", params: { text: "even-out" }, patch: null }],
    },
  ];
});

/** Ratio of motor loads between the most and the least worked of the drives that share a task. */
const UNEQUAL = 1.8;

/** Drives that do one task together and share it badly: one near its rating while another has most to spare. */
export const sharingUnequal = withDrive(({ result }) => {
  const loads = result.main.flatMap((i) => {
    const u = result.units[i];
    return u ? [{ name: u.unit.name, load: u.values.current / u.unit.motor.maxCurrent, evidence: u.evidence }] : [];
  });
  const hot = loads.reduce<(typeof loads)[number] | null>((a, b) => (a === null || b.load > a.load ? b : a), null);
  const idle = loads.reduce<(typeof loads)[number] | null>((a, b) => (a === null || b.load < a.load ? b : a), null);
  if (!hot || !idle || hot === idle || hot.load < 0.7 || hot.load / idle.load <= UNEQUAL) return [];
  return [
    {
      code: "sharing-unequal",
      severity: "care",
      station: "power",
      subject: "sharing",
      params: { hottest: hot.name, share: hot.load, idle: idle.name },
      figure: figure("load of the most worked against the least", hot.load / idle.load, 0, "ratio", hot.evidence, UNEQUAL),
      remedies: [{ code: "advice", params: { text: "even-out" }, patch: null }],
    },
  ];
});

const INCH = 0.0254;

/** What one inch more of propeller does to the current, before it is tried: said when the drive holds now and would not then. */
export const steepChange = forEachDrive((input, { unit, values, evidence }, i) => {
  const limit = Math.min(unit.motor.maxCurrent, unit.controller.maxCurrent);
  if (values.current > limit || values.current < 0.8 * limit) return [];
  const from = unit.propeller.diameter.value;
  // The diameter at which the limit is met: when it is less than an inch away, an inch more is over it.
  const at = solveFor(input, (x) => resize(unit, "diameter", x), `inch ${unit.id}`, ofUnit(i, "current"), limit, from, from + INCH);
  if (at === null) return [];
  const factor = 1 + ((limit / values.current - 1) * INCH) / Math.max(at - from, 1e-4);
  return [
    {
      code: "steep-change",
      severity: "note",
      station: "power",
      subject: unit.id,
      params: { inches: 1, factor },
      figure: figure("motor current with one inch more", values.current * factor, 0.1 * values.current, "current", evidence, limit),
      remedies: [],
    },
  ];
});

/** A target of top speed that is missed. */
export const speedShort: Rule = ({ targets }) =>
  targets
    .filter((t) => t.target.metric === "speed" && t.status === "missed" && t.target.comparison === "atLeast")
    .flatMap((t): Finding[] =>
      t.predicted
        ? [
            {
              code: "speed-short",
              severity: t.target.weight === "must" ? "stop" : "care",
              station: "power",
              subject: t.target.id,
              params: { factor: t.target.value / t.predicted.value },
              figure: figureOf("top speed", t.predicted, t.target.value),
              remedies: [{ code: "advice", params: { text: "lighten" }, patch: null }],
            },
          ]
        : [],
    );

/** A phase of the duty at a speed, and no drag area to hold it against: endurance stays unknown until it is there. */
export const dutyNeeds = withDrive(({ result }) =>
  result.dutyNeeds === "drag area"
    ? [
        {
          code: "duty-needs",
          severity: "note",
          station: "power",
          subject: "duty",
          params: { what: result.dutyNeeds },
          figure: null,
          remedies: [{ code: "advice", params: { text: "time-a-run" }, patch: null }],
        },
      ]
    : [],
);

/** A failure that hides: with one propeller dead what is left still meets the thrust asked, so it is not seen until the next one goes. */
export const maskedFailure = withDrive(({ result, targets }) => {
  const propellers = result.main.reduce((s, i) => s + (result.units[i]?.unit.count ?? 0), 0);
  const target = targets.find((t) => (t.target.metric === "thrust" || t.target.metric === "thrustToWeight") && t.target.comparison === "atLeast");
  if (propellers < 2 || !target?.predicted) return [];
  const strongest = Math.max(...result.main.map((i) => (result.units[i]?.values.thrust ?? 0) / (result.units[i]?.unit.count ?? 1)));
  const left = (target.predicted.value * (1 - strongest / result.values.thrust)) / target.target.value;
  if (left < 1) return [];
  return [
    {
      code: "masked-failure",
      severity: "note",
      station: "power",
      subject: "masked",
      params: { drives: propellers, left },
      figure: figureOf("thrust asked", target.predicted, target.target.value),
      remedies: [{ code: "advice", params: { text: "compare-currents" }, patch: null }],
    },
  ];
});

/** Standstill current over the controller's rating above which a slammed throttle is known to trip controllers (common practice). */
const SLAM = 9;

/** A throttle slammed open meets a motor that does not turn yet: what it would draw then, against the controller's rating. */
export const fastThrottle = forEachDrive((input, { unit, battery, evidence }) => {
  const open = battery.series * openCircuit(battery.chemistry, battery.startCharge);
  const stall = open / (unit.motor.resistance.value + unit.controller.resistance.value + battery.series * battery.cellResistance.value);
  const factor = stall / unit.controller.maxCurrent;
  // A small propeller is up to speed before the controller notices.
  if (factor <= SLAM || unit.propeller.diameter.value < 0.12) return [];
  return [
    {
      code: "fast-throttle",
      severity: "note",
      station: "power",
      subject: unit.id,
      params: { drive: input.result.units.length > 1 ? unit.name : "", factor },
      figure: figure("current at standstill", stall, 0.2 * stall, "current", evidence, SLAM * unit.controller.maxCurrent),
      remedies: [{ code: "advice", params: { text: "slow-ramp" }, patch: null }],
    },
  ];
});

const loops = remembering<LoopResult | null>(20);

/** Mass limit and wanted time that exclude each other with this drive: the sizing loop settles above the limit, or never does. */
export const pairExcludes: Rule = ({ design, targets, mass, power }) => {
  const heavy = targets.find((t) => t.target.metric === "auw" && t.target.comparison === "atMost");
  const long = targets.find((t) => t.target.metric === "endurance" && t.target.comparison === "atLeast");
  // While both hold there is nothing to say; the loop is gone round only when one is missed.
  if (!heavy || !long || !mass || power.status !== "solved" || (heavy.status !== "missed" && long.status !== "missed")) return [];
  const key = JSON.stringify([
    design.units,
    design.batteries,
    design.duty,
    design.regulators,
    design.conductors,
    design.brief.environment,
    design.dragArea,
    mass.mass,
    long.target.value,
    design.items.map((i) => [i.id, i.mass?.value, i.quantity]),
  ]);
  const loop = loops(key, () => sizingLoop(design, long.target.value, 0));
  if (loop?.status === "runsAway")
    return [
      {
        code: "never-closes",
        severity: "stop",
        station: "brief",
        subject: long.target.id,
        params: { time: long.target.value },
        figure: figure("share of each turn that the next adds again", loop.gain, 0, "ratio", mass.evidence, 1),
        remedies: [{ code: "advice", params: { text: "lighten" }, patch: null }],
      },
    ];
  if (loop?.status !== "closes" || loop.mass <= heavy.target.value) return [];
  return [
    {
      code: "pair-excludes",
      severity: "stop",
      station: "brief",
      subject: `${heavy.target.id}+${long.target.id}`,
      params: { mass: loop.mass, time: long.target.value, limit: heavy.target.value },
      figure: figure("all-up mass for that time", loop.mass, mass.massSd, "mass", mass.evidence, heavy.target.value),
      remedies: [
        {
          code: "ask-for",
          params: { metric: "auw", value: loop.mass },
          patch: { set: [{ path: ["brief", "targets", `#${heavy.target.id}`, "value"], value: loop.mass * 1.005 }], addItems: [] },
        },
      ],
    },
  ];
};

export const pathRules: Rule[] = [
  conductorCurrent,
  brownOut,
  railCurrent,
  spinUnmatched,
  sharingUnequal,
  steepChange,
  speedShort,
  dutyNeeds,
  maskedFailure,
  fastThrottle,
  pairExcludes,
];
