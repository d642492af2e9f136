import type { Comparison } from "../bench/compare";
import type { FastThrottleFinding } from "../bench/fastThrottle";
import type { LearnResult } from "../bench/learn";
import type { SweepSuspect } from "../bench/suspects";
import type { SweepResult } from "../bench/sweep";
import type { SAFETY } from "../design/thrustTest";
import type { UnitHabit } from "../design/units";
import { plain } from "./format";

const percent = (share: number, digits = 0) => `${(share * 100).toFixed(digits)} %`;

/** What must be seen to before anything above idle. */
export const SAFETY_LINE: Record<(typeof SAFETY)[number], string> = {
  restraint: "The stand is fastened down and holds twice the thrust expected",
  plane: "Nobody stands, reaches or looks in the plane of the propeller",
  shield: "A shield or a wall stands between propeller and people; eyes protected",
  distance: "Controls and readings are taken from two metres or more",
  people: "Everyone present knows it is about to run; children and animals away",
  cutOff: "One hand is on a cut-off that works without the software",
};
export const SAFETY_DEFERS = "Local rules and the makers' instructions come first. Stop at any crack, wobble or smell.";

/** A sentence for what readings give away. */
export function suspectText(s: SweepSuspect, habit: UnitHabit): string {
  switch (s.kind) {
    case "spike":
      return (
        `${s.count === 1 ? "One reading stands" : `${s.count} readings stand`} far off those beside ` +
        `${s.count === 1 ? "it" : "them"}: not counted until you say so.`
      );
    case "zero-moved":
      return (
        `At rest the stand reads ${plain(Math.abs(s.drift), "force", habit)} ` +
        `${s.drift > 0 ? "more" : "less"} after than before: a loose tare, something slipped, or the ` +
        "scale warmed up. Weigh the zero again."
      );
    case "off-tare":
      return (
        `At rest the stand reads ${plain(Math.abs(s.by), "force", habit)} ` +
        `${s.by > 0 ? "of thrust" : "backwards"} by the tare that was entered: every thrust is off by ` +
        "that."
      );
    case "meter-low":
      return (
        `At ${percent(s.throttle)} throttle the thrust would take a propeller with a figure of merit of ` +
        `${s.merit.toFixed(2)}; such drives reach 0.3 to 0.65. The current meter reads far below what the ` +
        "drive must draw, or the lever or scale too high."
      );
    case "blades-bend":
      return (
        `Thrust over speed² falls by ${percent(-s.change)} towards the top: the blades bend or untwist, ` +
        "or the tips near the speed of sound."
      );
    case "slip":
      return (
        `At the top the propeller turns ${percent(-s.change)} slower than the voltage would have it: a ` +
        "belt, a collet or a grub screw slips."
      );
    case "friction":
      return (
        `Rising and falling readings differ by ${plain(Math.abs(s.value), "force", habit)} at half ` +
        `throttle${s.value < 0 ? ": the pivot sticks, as readings lag behind" : ": heat and a tiring pack take more than friction gives"}.`
      );
    case "fades":
      return `The last sweep tops out ${percent(s.share, 1)} lower than the first: heat and a pack that empties.`;
  }
}

/** The shape of the thrust curve in words. */
export function curveText(r: SweepResult): string {
  if (r.curve.status !== "converged") return "Too few throttles for the shape of the curve.";
  const shape =
    r.curve.e > 0.8
      ? "nearly with the square of the throttle"
      : r.curve.e < 0.2
        ? "nearly in a straight line"
        : "between a straight line and a square";
  return `e = ${r.curve.e.toFixed(2)} ± ${r.curve.range.toFixed(2)} (95 %): thrust rises ${shape}.`;
}

/** What was learned, for the person who asks whether to take it over. */
export function learnText(r: LearnResult & { ok: true }): string {
  const off = r.before - 1;
  const { kv, thrust, torque } = r.learned;
  const far = [
    [kv.value, 1.12],
    [thrust.value, 1.5],
    [torque.value, 1.7],
  ].some(([v = 1, most = 1]) => v > most || v < 1 / most);
  const doubt = far
    ? " That is far from any such drive: is the one on the stand the one described, with that propeller, " +
      "gearing and Kv?"
    : "";
  return (
    "The model " +
    `${Math.abs(off) < 0.005 ? "was right" : `gave ${percent(Math.abs(off) / (1 + off))} too ${off < 0 ? "much" : "little"} thrust at the top`}. ` +
    `Taken over: thrust × ${thrust.value.toFixed(3)} ± ${thrust.sd.toFixed(3)}, torque × ` +
    `${torque.value.toFixed(3)} ± ${torque.sd.toFixed(3)}, Kv × ${kv.value.toFixed(3)}, and the throttle ` +
    `curve as measured.${doubt}`
  );
}

/** One sentence for a comparison. `names` in the order of the sweeps. */
export function comparisonText(c: Comparison, names: readonly string[], habit: UnitHabit): string {
  const at =
    c.equal === "throttle" ? `${percent(c.at)} throttle` : plain(c.at, c.equal === "thrust" ? "force" : "power", habit);
  const [first, second] = [names[0] ?? "", names[1] ?? ""];
  const d = c.against[1];
  if (!d) return `At equal ${c.equal} there is nothing to compare: ${at} was not measured of both.`;
  const what = c.equal === "thrust" ? "power" : "thrust";
  const clear = Math.abs(d.value) > 2 * d.sd;
  return clear
    ? `At ${at}, ${second} ${c.equal === "thrust" ? "takes" : "gives"} ${percent(Math.abs(d.value), 1)} ± ` +
        `${percent(d.sd, 1)} ${d.value > 0 ? "more" : "less"} ${what} than ${first}.`
    : `At ${at}, no measurable difference in ${what}: ${percent(d.value, 1)} ± ${percent(d.sd, 1)}. ` +
        "Repeat, or measure more finely.";
}

export function fastThrottleText(f: FastThrottleFinding, habit: UnitHabit): string {
  switch (f.kind) {
    case "untested":
      return "Nothing tried yet.";
    case "none":
      return "No cut-out in any trial: not with these propellers and ramps.";
    case "ramp":
      return (
        `The ramp decides: ${plain(f.diameter, "length", habit, habit === "metric" ? 0 : 1)} cuts out at ` +
        `${f.fails.toFixed(2)} s and holds at ${f.safe.toFixed(2)} s. Slow the throttle to that.`
      );
    case "size":
      return (
        `The size decides: at ${f.ramp.toFixed(2)} s, ` +
        `${plain(f.fails, "length", habit, habit === "metric" ? 0 : 1)} cuts out and ` +
        `${plain(f.holds, "length", habit, habit === "metric" ? 0 : 1)} holds. A smaller propeller, or a ` +
        "stronger controller."
      );
    case "voltage":
      return (
        `The pack sinks to ${plain(f.lowest, "voltage", habit)}, at or below ` +
        `${plain(f.floor, "voltage", habit)} where controllers cut: a stronger or warmer pack before ` +
        "anything else."
      );
    case "all":
      return (
        "It cuts out whatever the size and the ramp: look at timing, plugs, sensor leads and the supply, " +
        "not at the propeller."
      );
    case "unresolved":
      return f.why === "not told"
        ? "Unresolved: in no trial could it be told whether it cut out."
        : f.why === "one trial"
          ? "Unresolved: one trial tells little. Vary the ramp, then the size."
          : "Unresolved: like trials ended differently. Something else changes between them: charge, heat, a plug.";
  }
}
