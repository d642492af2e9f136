import { type See, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice, figure, fitPitch, limitThrottle, ofUnit, percent, set, solveFor } from "../say";
import { cavitation } from "./cavitation";
import { eachDrive, unitOf } from "./eachDrive";
import { kindOf } from "./kinds/models";
import { propulsion } from "./node";
import { waterOf } from "./setup";

/**
 * Tip Mach number: above 0.65 noisy and losing, above 0.8 outside the model and unsafe for most blades (common
 * practice).
 */
const TIP_CARE = 0.65;
const TIP_STOP = 0.8;
const tipSpeed = verdict<{ mach: number }>({
  find: (see) =>
    eachDrive(see, ({ drive: { values, sd, evidence } }) => {
      const mach = values.tipMach;
      if (!(mach > TIP_CARE)) return [];
      return [
        {
          severity: mach > TIP_STOP ? "stop" : "care",
          params: { mach },
          figure: figure("tip Mach number", mach, sd.tipMach, "ratio", evidence, TIP_CARE),
        },
      ];
    }),
  remedies(see, { about }) {
    const unit = unitOf(see, about);
    if (!unit) return [];
    const throttle = solveFor(
      see.design,
      (x) => set(["units", `#${about}`, "throttleLimit"], x),
      ofUnit(about, "tipMach"),
      TIP_CARE * 0.98,
      0.1,
      unit.throttleLimit,
    );
    return throttle === null ? [] : [limitThrottle(unit, throttle)];
  },
  says: (p) => `Blade tips reach Mach ${p.mach.toFixed(2)}`,
});

/** Share of a blade's length that may be stalled standing still (judgement). */
const STALL_SHARE = 0.55;
/** Pitch over diameter up to which little of a blade is (common practice). */
const FREE_PITCH = 0.55;
/**
 * A propeller gives no thrust at about so many times pitch and turns, and still pushes well up to this share of that
 * speed (judgement).
 */
const NO_THRUST = 1.15;
const PUSHES_TO = 0.8;
/**
 * Least pitch (m) with which a drive still pushes at the speed that the brief or the duty asks for, at its own speed
 * at full throttle; 0 where none is asked.
 */
function pitchForSpeed(see: See, unitId: string): number {
  const asked = [
    ...see.design.brief.targets.filter((t) => t.metric === "speed" && t.comparison === "atLeast").map((t) => t.value),
    ...see.design.duty.filter((p) => p.by === "speed").map((p) => p.value),
  ];
  const rpm = see.result(propulsion)?.drives.find((d) => d.id === unitId)?.values.rpm ?? 0;
  return asked.length > 0 && rpm > 0 ? (60 * Math.max(...asked)) / (PUSHES_TO * NO_THRUST * rpm) : 0;
}

/** Most of a blade is stalled standing still: a finer pitch, as far as the speed asked allows. */
const bladeStall = verdict<{ share: number; ratio: number }>({
  find: (see) =>
    eachDrive(see, ({ drive: { stalled, evidence }, unit }) => {
      if (stalled <= STALL_SHARE) return [];
      const { pitch, diameter } = unit.propeller;
      return [
        {
          severity: "care",
          params: { share: stalled, ratio: pitch.value / diameter.value },
          figure: figure("share of the blade stalled", stalled, 0.1, "percent", evidence, STALL_SHARE),
        },
      ];
    }),
  remedies(see, { about }, h) {
    const unit = unitOf(see, about);
    if (!unit) return [];
    const finer = FREE_PITCH * unit.propeller.diameter.value;
    const least = pitchForSpeed(see, about);
    const pitch = Math.max(finer, least);
    if (pitch < 0.97 * unit.propeller.pitch.value) return [fitPitch(unit, pitch, h)];
    return least > finer
      ? [advice("Leave it: the speed asked needs that pitch. Judge it moving, and expect little thrust at the start")]
      : [];
  },
  says: (p) =>
    `${percent(p.share)} of the blade is stalled standing still, pitch ${p.ratio.toFixed(2)} of the diameter`,
});

/**
 * Blade tips in water that are fast enough for it to boil on them near the surface: the thrust computed no longer
 * holds.
 */
const tipsCavitate = verdict<{ tip: number; from: number }>({
  find: (see) =>
    eachDrive(see, ({ drive: { values, sd, evidence }, unit }) => {
      const { propulsor: p } = unit;
      const tips = p ? kindOf(p).tips(p) : unit.propeller.diameter.value;
      const at = tips && cavitation(unit, tips, values.rpm, waterOf(see.design.brief.environment));
      if (!at) return [];
      const doubt = (at.tip * sd.rpm) / values.rpm;
      return [
        { severity: "care", params: at, figure: figure("blade tips", at.tip, doubt, "speed", evidence, at.from) },
      ];
    }),
  remedies: () => [advice("A larger and slower screw, by gearing or a lower Kv; or weigh its pull in the tub")],
  says: (p, h) =>
    `Blade tips at ${plain(p.tip, "speed", h)} may cavitate, from about ${plain(p.from, "speed", h)} on ` +
    "near the surface: the thrust shown is not to be relied on",
});

/** What the blades themselves stand: tips too fast for the air or the water, and stall. */
export const bladeVerdicts = { "tip-speed": tipSpeed, "blade-stall": bladeStall, cavitation: tipsCavitate };
