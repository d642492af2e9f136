import { balanceAlong } from "../balance/known";
import { type See, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { extent } from "../extent/node";
import { ratios } from "../ratios/node";
import { advice, figure, percent, set } from "../say";
import { standsInStream, takenByAround } from "./aroundVerdicts";
import { bladeVerdicts } from "./bladeVerdicts";
import { coverVerdicts } from "./coverVerdicts";
import { currentVerdicts } from "./currentVerdicts";
import { isBeside } from "./covered";
import { isOpenPropeller } from "./kinds/which";
import { kindVerdicts } from "./kinds/verdicts";
import { pathVerdicts } from "./pathVerdicts";
import { propulsion } from "./node";
import { overlapOf, placedUnits, pushOf } from "./placed";
import { liftedByRotors } from "./mainUnits";

const EVEN_OUT = advice("Match the motors and propellers so they share the load");

/**
 * Where the line of full thrust of the main drives passes the CG, and what would bring it through: of those that push
 * along the craft, each unit where it is placed.
 */
function lineOfThrust(see: See) {
  const { design } = see;
  const [result, all, box, ratio] = [
    see.result(propulsion),
    balanceAlong(see, "x", "y", "z"),
    see.result(extent),
    see.result(ratios),
  ];
  const lead = result?.drives[result.lead];
  const unit = design.units[result?.lead ?? 0];
  if (!result || !lead || !unit || !all || !box || !ratio) return null;
  const thrusts = result.main.map((drive) => ({ drive, thrust: result.drives[drive]?.values.thrust ?? 0 }));
  const push = pushOf(design, thrusts, all.cg);
  if (!push || Math.abs(push.force.x) < 0.5 * Math.hypot(push.force.y, push.force.z)) return null;
  const weight = thrusts.reduce((s, t) => s + t.thrust, 0) / ratio.thrustToWeight.value;
  const at = push.placed[0]?.at;
  const alone = result.main.length === 1 && unit.places.length === 0 && at;
  const sense = unit.direction === "ahead" ? -1 : 1;
  return {
    unit,
    // Height and side of the line where it passes the CG.
    arm: push.moment.y / push.force.x,
    beside: -push.moment.z / push.force.x,
    toPort: push.moment.z > 0,
    shift: -push.moment.y / weight,
    tilt: alone ? Math.atan((-sense * (at.z - all.cg.z)) / (all.cg.x - at.x)) : null,
    length: box.max.x - box.min.x,
    evidence: lead.evidence,
  };
}

/**
 * Full thrust off the CG's height acts like a shift of the CG: said when it is more than half the window, or 3 % of
 * the length without one.
 */
const thrustLine = verdict<{ shift: number; arm: number; tilt: number | null }>({
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
  remedies: (_see, { about, params: { tilt } }, habit) =>
    tilt !== null && Math.abs(tilt) < (12 * Math.PI) / 180
      ? [
          {
            code: "tilt-thrust",
            text:
              `Tilt the thrust line to ${plain(Math.abs(tilt), "angle", habit)} ` +
              `${tilt < 0 ? "down" : "up"}, through the CG`,
            patch: set(["units", `#${about}`, "tilt"], tilt),
          },
        ]
      : [advice("Try short power pulses low and slow before full throttle")],
  says: (p, h) =>
    `Full throttle pitches the nose ${p.shift > 0 ? "down" : "up"}: thrust passes ` +
    `${plain(Math.abs(p.arm), "length", h, h === "metric" ? 0 : 2)} ${p.arm > 0 ? "above" : "below"} ` +
    "the CG",
});

/** Share of the length by which full thrust may pass beside the CG before it is said (judgement). */
const BESIDE = 0.02;
/** Full thrust beside the CG turns the craft: no rudder has been counted. */
const thrustBeside = verdict<{ beside: number; toPort: boolean }>({
  find(see) {
    const line = lineOfThrust(see);
    if (!line || !(Math.abs(line.beside) > BESIDE * line.length)) return [];
    return [
      {
        page: "power",
        severity: "care",
        about: line.unit.id,
        params: { beside: line.beside, toPort: line.toPort },
        figure: figure(
          "thrust beside the CG",
          Math.abs(line.beside),
          see.metrics.cgY?.sd ?? 0,
          "length",
          line.evidence,
          BESIDE * line.length,
        ),
      },
    ];
  },
  remedies: () => [advice("Move the units or the CG sideways, turn a unit, or give the stronger side less throttle")],
  says: (p, h) =>
    `Full throttle turns the nose to ${p.toPort ? "port" : "starboard"}: thrust passes ` +
    `${plain(Math.abs(p.beside), "length", h, h === "metric" ? 0 : 2)} to ` +
    `${p.beside > 0 ? "starboard" : "port"} of the CG`,
});

/** Open propellers that lie over one another where they are placed, and count as working by themselves. */
const discsOverlap = verdict<{ drive: string; by: number }>({
  find: (see) =>
    see.design.units.flatMap((unit, i) => {
      if (!isOpenPropeller(unit) || isBeside(unit) || unit.places.length < 2) return [];
      const diameter = unit.propeller.diameter.value;
      const units = placedUnits(see.design, i);
      const by = Math.max(...units.flatMap((a, k) => units.slice(k + 1).map((b) => overlapOf(a, b, diameter))));
      return by > 0.02 * diameter
        ? [
            {
              page: "power" as const,
              severity: "care" as const,
              about: unit.id,
              params: { drive: unit.name, by },
              figure: null,
            },
          ]
        : [];
    }),
  remedies: () => [advice("Choose that its discs overlap or share an axis, or place them further apart")],
  says: (p, h) =>
    `${p.drive}: two discs lie ${plain(p.by, "length", h, 0)} over one another where they are placed, ` +
    "and count as working by themselves",
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
      return drive && unit && Number.isFinite(drive.values.current)
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

export const verdicts = {
  ...coverVerdicts,
  ...currentVerdicts,
  ...bladeVerdicts,
  ...kindVerdicts,
  "taken-by-around": takenByAround,
  "in-stream": standsInStream,
  "thrust-line": thrustLine,
  "thrust-beside": thrustBeside,
  "discs-overlap": discsOverlap,
  ...pathVerdicts,
  "spin-unmatched": spinUnmatched,
  "sharing-unequal": sharingUnequal,
};
