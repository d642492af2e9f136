import { type Finding, type Remedy, type Rule, figureOf } from "../types";
import { type Solved, figure, forEachDrive, lessCurrent, ofCraft, ofUnit, resize, set, solveFor, withDrive } from "./solve";

/** A target of thrust to weight, or of thrust, that is missed; and a craft held up by its propellers that they cannot lift. */
export const thrustShort = withDrive((input) => {
  const { design, unit, targets } = input;
  const findings: Finding[] = [];
  const larger = (key: "thrust" | "thrustToWeight", wanted: number): Remedy[] => {
    const from = unit.propeller.diameter.value;
    const diameter = solveFor(input, (x) => resize(unit, "diameter", x), key, ofCraft(key), wanted * 1.01, from, from * 1.6);
    return diameter === null ? [] : [{ code: "fit-diameter", params: { diameter, from }, patch: resize(unit, "diameter", diameter) }];
  };
  const target = targets.find((t) => t.status === "missed" && (t.target.metric === "thrustToWeight" || t.target.metric === "thrust"));
  const lifted = design.heldUpBy === "rotors" || design.heldUpBy === "flapping";
  const ratio = input.metrics.thrustToWeight;
  if (lifted && ratio && ratio.value < 1)
    findings.push({
      code: "cannot-lift",
      severity: "stop",
      station: "power",
      subject: unit.id,
      params: { factor: 1 / ratio.value },
      figure: figureOf("thrust to weight", ratio, 1),
      remedies: larger("thrustToWeight", Math.max(1.3, target?.target.value ?? 0)),
    });
  else if (target?.predicted && (target.target.metric === "thrust" || target.target.metric === "thrustToWeight"))
    findings.push({
      code: "thrust-short",
      severity: target.target.weight === "must" ? "stop" : "care",
      station: "power",
      subject: target.target.id,
      params: { factor: target.target.value / target.predicted.value },
      figure: figureOf(target.target.metric === "thrust" ? "thrust" : "thrust to weight", target.predicted, target.target.value),
      remedies: larger(target.target.metric, target.target.value),
    });
  return findings;
});

/** A craft on its propellers that needs more than 70 % throttle to hover has little left to steer with (common practice). */
const HOVER_THROTTLE = 0.7;
export const liftThrottle = withDrive((input) => {
  const throttle = input.metrics.thrustThrottle;
  if (input.design.heldUpBy !== "rotors" || !throttle || throttle.value <= HOVER_THROTTLE) return [];
  return [
    {
      code: "lift-throttle",
      severity: "care",
      station: "power",
      subject: input.unit.id,
      params: { throttle: throttle.value },
      figure: figureOf("throttle to hover", throttle, HOVER_THROTTLE),
      remedies: [{ code: "advice", params: { text: "lighten" }, patch: null }],
    },
  ];
});

/** Motor current at the throttle limit against the motor's rating. */
export const motorCurrent = forEachDrive((input, { unit, values, sd, evidence }, i) => {
  const limit = unit.motor.maxCurrent;
  const value = values.current;
  if (value <= limit) return [];
  return [
    {
      code: "motor-current",
      severity: value > 1.1 * limit ? "stop" : "care",
      station: "power",
      subject: unit.id,
      params: { factor: value / limit, drive: nameIn(input, unit.name) },
      figure: figure("motor current", value, sd.current, "current", evidence, limit),
      remedies: lessCurrent(input, unit, `current ${unit.id}`, ofUnit(i, "current"), limit),
    },
  ];
});

/** Sizes in which controllers are commonly sold, A. */
const CONTROLLER_SIZES = [6, 10, 12, 15, 20, 30, 40, 50, 60, 80, 100, 120, 150, 200];

/** Motor current against the controller's rating. */
export const controllerCurrent = forEachDrive((input, { unit, values, sd, evidence }, i) => {
  const limit = unit.controller.maxCurrent;
  const value = values.current;
  if (value <= limit) return [];
  const size = CONTROLLER_SIZES.find((s) => s >= value * 1.2);
  const larger: Remedy[] = size ? [{ code: "fit-controller", params: { current: size }, patch: set(["units", `#${unit.id}`, "controller", "maxCurrent"], size) }] : [];
  return [
    {
      code: "controller-current",
      severity: "stop",
      station: "power",
      subject: unit.id,
      params: { factor: value / limit, drive: nameIn(input, unit.name) },
      figure: figure("motor current", value, sd.current, "current", evidence, limit),
      remedies: [...larger, ...lessCurrent(input, unit, `current ${unit.id}`, ofUnit(i, "current"), limit).slice(-1)],
    },
  ];
});

/** A drive's name where there is more than one; empty where there is nothing to tell apart. */
const nameIn = (input: Solved, name: string): string => (input.result.units.length > 1 ? name : "");

/** More cells than the controller is made for. */
export const cellsOver: Rule = ({ design }) =>
  design.units.flatMap((unit): Finding[] => {
    const battery = design.batteries.find((b) => b.id === unit.batteryId);
    if (!battery || battery.series <= unit.controller.maxCells) return [];
    return [
      {
        code: "cells-over",
        severity: "stop",
        station: "power",
        subject: unit.id,
        params: { cells: battery.series },
        figure: { label: "cells in series", value: battery.series, sd: 0, dimension: "count", evidence: "datasheet", limit: unit.controller.maxCells },
        remedies: [{ code: "fit-controller-cells", params: { cells: battery.series }, patch: set(["units", `#${unit.id}`, "controller", "maxCells"], battery.series) }],
      },
    ];
  });

/** All currents inside their limits, every drive at full throttle at once: said once, with the fullest. */
export const currentsHold = withDrive((input) => {
  const { result } = input;
  const shares = [
    ...result.units.flatMap(({ unit, values, sd, evidence }) => [
      { value: values.current, sd: sd.current, limit: unit.motor.maxCurrent, label: "motor current", evidence },
      { value: values.current, sd: sd.current, limit: unit.controller.maxCurrent, label: "controller current", evidence },
    ]),
    ...result.packs.map(({ battery, values, sd, evidence }) => ({
      value: values.current,
      sd: sd.current,
      limit: battery.capacity.value * battery.cRating,
      label: "pack current",
      evidence,
    })),
  ].sort((a, b) => b.value / b.limit - a.value / a.limit);
  const top = shares[0];
  if (!top || top.value > top.limit) return [];
  return [
    {
      code: "currents-hold",
      severity: "clear",
      station: "power",
      subject: input.unit.id,
      params: { share: top.value / top.limit },
      figure: figure(top.label, top.value, top.sd, "current", top.evidence, top.limit),
      remedies: [],
    },
  ];
});

/** Tip Mach number: above 0.65 noisy and losing, above 0.8 outside the model and unsafe for most blades (common practice). */
const TIP_CARE = 0.65;
const TIP_STOP = 0.8;
export const tipSpeed = forEachDrive((input, { unit, values, sd, evidence }, i) => {
  const mach = values.tipMach;
  if (mach <= TIP_CARE) return [];
  const path = ["units", `#${unit.id}`, "throttleLimit"];
  const throttle = solveFor(input, (x) => set(path, x), `tip ${unit.id}`, ofUnit(i, "tipMach"), TIP_CARE * 0.98, 0.1, unit.throttleLimit);
  return [
    {
      code: "tip-speed",
      severity: mach > TIP_STOP ? "stop" : "care",
      station: "power",
      subject: unit.id,
      params: { mach },
      figure: figure("tip Mach number", mach, sd.tipMach, "ratio", evidence, TIP_CARE),
      remedies: throttle === null ? [] : [{ code: "limit-throttle", params: { throttle }, patch: set(path, throttle) }],
    },
  ];
});

/** Pitch over diameter above which most of a blade is stalled standing still. */
const STALL_SHARE = 0.55;
export const bladeStall = forEachDrive((_, { unit, stalled, evidence }) => {
  if (stalled <= STALL_SHARE) return [];
  const { pitch, diameter } = unit.propeller;
  const ratio = pitch.value / diameter.value;
  const finer = 0.55 * diameter.value;
  return [
    {
      code: "blade-stall",
      severity: "care",
      station: "power",
      subject: unit.id,
      params: { share: stalled, ratio },
      figure: figure("share of the blade stalled", stalled, 0.1, "percent", evidence, STALL_SHARE),
      remedies: finer < pitch.value ? [{ code: "fit-pitch", params: { pitch: finer, from: pitch.value }, patch: resize(unit, "pitch", finer) }] : [],
    },
  ];
});

/** Full thrust off the CG's height acts like a shift of the CG: said when it is more than half the window, or 3 % of the length without one. */
export const thrustLine = withDrive((input) => {
  const { design, unit, result, mass, box } = input;
  const item = design.items.find((i) => i.id === unit.propellerItemId);
  if (!item || !mass || !box || (unit.direction !== "ahead" && unit.direction !== "astern")) return [];
  // Height of the thrust line where it passes the CG; ahead the craft lies behind the propeller's line of push.
  const sense = unit.direction === "ahead" ? -1 : 1;
  const arm = item.place.z + sense * Math.tan(unit.tilt) * (mass.cg.x - item.place.x) - mass.cg.z;
  const shift = result.values.thrustToWeight * arm * Math.cos(unit.tilt);
  const window = design.brief.targets.find((t) => t.metric === "cgX" && t.upper !== undefined);
  const limit = window?.upper !== undefined ? (window.upper - window.value) / 2 : 0.03 * (box.max.x - box.min.x);
  if (!(Math.abs(shift) > limit)) return [];
  const tilt = Math.atan((-sense * (item.place.z - mass.cg.z)) / (mass.cg.x - item.place.x));
  const sane = Math.abs(tilt) < (12 * Math.PI) / 180;
  return [
    {
      code: "thrust-line",
      severity: "care",
      station: "power",
      subject: unit.id,
      params: { shift, arm },
      figure: {
        label: "full thrust acts like a CG shift of",
        value: Math.abs(shift),
        sd: Math.abs(result.sd.thrustToWeight * arm),
        dimension: "length",
        evidence: result.evidence,
        limit,
      },
      remedies: sane
        ? [{ code: "tilt-thrust", params: { tilt }, patch: set(["units", `#${unit.id}`, "tilt"], tilt) }]
        : [{ code: "advice", params: { text: "check-pitch" }, patch: null }],
    },
  ];
});

/** The chain has no solution: said with how the solver ended. */
export const notSolved: Rule = ({ power }) => {
  const reason = power.status === "failed" ? power.reason : power.status === "solved" && !power.result.solved ? "blade elements" : null;
  if (reason === null) return [];
  return [{ code: "not-solved", severity: "stop", station: "power", subject: "drives", params: { reason }, figure: null, remedies: [] }];
};

/** A target asks for thrust or endurance and there is no drive or pack to give it; or the craft cannot do without. */
export const driveMissing: Rule = ({ power, targets, design }) => {
  if (power.status !== "missing") return [];
  const asked = targets.some((t) => ["thrust", "thrustToWeight", "endurance", "thrustThrottle"].includes(t.target.metric));
  if (!asked && design.heldUpBy !== "rotors") return [];
  return [
    {
      code: "drive-missing",
      severity: "note",
      station: "power",
      subject: "drive",
      params: { what: power.missing.length === 2 ? "both" : (power.missing[0] ?? "both") },
      figure: null,
      remedies: [{ code: "advice", params: { text: "describe-drive" }, patch: null }],
    },
  ];
};

export const powerRules: Rule[] = [notSolved, driveMissing, thrustShort, liftThrottle, motorCurrent, controllerCurrent, cellsOver, tipSpeed, bladeStall, thrustLine, currentsHold];
