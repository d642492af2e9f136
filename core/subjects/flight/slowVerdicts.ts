import { balanceAlong } from "../balance/known";
import { magnitudeSd } from "../../design/evidence";
import { LOST, SURE } from "../../design/targets";
import { normalCdf } from "../../numeric/normal";
import { type See, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice, chance, percent } from "../say";
import { propulsion } from "../propulsion/node";
import { lattice } from "./latticeNode";
import { launchSpeedOf } from "./cord";
import { AT_SPEED } from "./trim";
import { weighedOf } from "./weighed";

import { figureBare, onWings, page, stop } from "./see";
/** Share of a side beyond which a strip belongs to the tip. */
const TIP = 0.7;
/** What lets go first: the tips of the main wing, or what holds the tail down. */
export const stallFirst = verdict<{ surface: string; tips: boolean }>({
  find(see) {
    const result = onWings(see);
    const l = see.result(lattice);
    if (!result?.slow || !l || result.slow.by !== "stall") return [];
    const strip = l.model.strips[result.slow.strip];
    const surface = strip && see.design.surfaces[strip.surface];
    const at = l.strips[result.slow.strip];
    const cg = balanceAlong(see, "x")?.cg.x;
    if (!strip || !surface || !at || cg === undefined) return [];
    const tips = strip.surface === l.main && strip.share > TIP;
    const behind = strip.surface !== l.main && at.x > cg;
    if (!tips && !behind) return [];
    return [{ ...page, severity: "care", about: surface.id, params: { surface: surface.name, tips }, figure: null }];
  },
  remedies(see, { about, params }) {
    const surface = see.design.surfaces.find((s) => s.id === about);
    const last = surface?.panels.length ?? 0;
    const twist = surface?.panels[last - 1]?.twist ?? 0;
    return surface && params.tips && twist > -0.1
      ? [
          {
            code: "wash-out",
            text: "Twist the tips 2° nose down",
            patch: {
              set: [
                {
                  path: ["surfaces", `#${about}`, "panels", String(last - 1), "twist"],
                  value: twist - (2 * Math.PI) / 180,
                },
              ],
              addItems: [],
            },
          },
        ]
      : [advice("Keep speed in turns; try the stall high up")];
  },
  says: (p) =>
    p.tips
      ? `The tips of “${p.surface}” stall first: it drops a wing when slow`
      : `“${p.surface}” stalls before the wing: the nose rises or drops by itself when slow`,
});

/** Slow flight ends at the stop of the pitch control. */
export const controlStop = verdict<Record<string, never>>({
  find(see) {
    const result = onWings(see);
    const speed = see.metrics.stallSpeed;
    return result?.slow?.by === "control" && speed
      ? [{ ...page, severity: "note", about: "pitch", params: {}, figure: figureOf("slowest", speed) }]
      : [];
  },
  remedies: () => [advice("Move the CG aft, or give the pitch control more travel")],
  says: () => "The pitch control is at its stop before the wing stalls: it cannot fly slower",
});

/** Travel that trim takes. */
export const trimTakes = verdict<{ share: number; up: boolean }>({
  find(see) {
    const result = onWings(see);
    const command = see.metrics.trimCommand;
    if (!result?.travel || !command) return [];
    const up = command.value > 0;
    const limit = up ? result.travel.up : result.travel.down;
    const share = Math.abs(command.value) / limit;
    if (!(share > 0.6)) return [];
    return [
      {
        ...page,
        severity: share > 1 && Math.abs(command.value) - limit > 1.35 * command.sd ? stop(see) : "care",
        about: "trim",
        params: { share, up },
        figure: figureOf("pitch control", command, up ? limit : -limit),
      },
    ];
  },
  remedies: () => [advice("Set the tail or the wing to another incidence, or move the CG")],
  says: (p) =>
    p.share > 1
      ? `It cannot be trimmed at ${AT_SPEED} × stall speed: nose ${p.up ? "up" : "down"} it asks for ` +
        `${percent(p.share)} of the travel`
      : `Trim at ${AT_SPEED} × stall speed takes ${percent(p.share)} of the pitch travel, nose ${p.up ? "up" : "down"}`,
});

/** The speed at which it is let go, where that is known; a cord gives less to what weighs more. */
function letGoAt(see: See) {
  const { auw } = see.metrics;
  return launchSpeedOf(see.design.flight, auw && !auw.incomplete?.length ? auw.value : null);
}

/** Released slower than it can fly. */
export const launchSlow = verdict<{ launch: string; odds: number; short: number }>({
  find(see) {
    const speed = see.metrics.stallSpeed;
    const { launch } = see.design.flight;
    const launchSpeed = letGoAt(see);
    if (!speed || !launchSpeed || launch === "straight up") return [];
    const sd = Math.hypot(speed.sd, magnitudeSd(launchSpeed));
    const odds = normalCdf((launchSpeed.value - speed.value) / sd);
    if (odds >= SURE) return [];
    return [
      {
        ...page,
        severity: odds < LOST ? stop(see) : "care",
        about: "launch",
        params: { launch, odds, short: speed.value - launchSpeed.value },
        figure: figureOf("stall speed", speed, launchSpeed.value),
      },
    ];
  },
  remedies: () => [advice("Let it go faster, lighten it, or enlarge the wing")],
  says: (p, h) =>
    p.short > 0
      ? `Let go ${plain(p.short, "speed", h)} below its stall speed (${p.launch})`
      : `Only a ${chance(p.odds)} chance that it flies when let go (${p.launch})`,
});

/** Torque left over of the drives that push ahead, at full throttle, N·m: weighed, else computed; null: not known. */
function torqueAhead(see: See): number | null {
  const weighed = weighedOf(see.design, "torque");
  if (weighed) return weighed.value;
  const drives = see.result(propulsion)?.drives;
  if (!drives) return null;
  let left = 0;
  for (const [k, d] of drives.entries()) {
    const unit = see.design.units[k];
    if (unit?.direction !== "ahead" || unit.spin === "half each" || !Number.isFinite(d.values.torque)) continue;
    left += (unit.spin === "clockwise" ? 1 : -1) * d.count * d.values.torque;
  }
  return left === 0 ? null : Math.abs(left);
}

/** Torque of the drives against what rolls it back when it is slowest. */
export const torqueRoll = verdict<{ share: number | null; rate: number | null }>({
  find(see) {
    const result = onWings(see);
    const speed = see.metrics.stallSpeed;
    const torque = torqueAhead(see);
    if (!result || result.inWater || !speed || torque === null) return [];
    if (see.metrics.torque?.unknown && !weighedOf(see.design, "torque")) return [];
    const let_ = Math.max(letGoAt(see)?.value ?? 0, 1.1 * speed.value);
    const q = (result.density * let_ ** 2) / 2;
    if (result.rollControl) {
      const share = torque / (q * result.rollControl.reaction * result.rollControl.travel);
      if (!(share > 0.5)) return [];
      return [
        {
          ...page,
          severity: share > 1 ? stop(see) : "care",
          about: "torque",
          params: { share, rate: null },
          figure: figureBare("share of the roll control", share, 0.5),
        },
      ];
    }
    // Near the ground the ground itself holds it up on the low side: that is not computed, and nothing said.
    if (see.design.flight.height) return [];
    // Nothing answers: it rolls until its wings damp it.
    const rate = torque / (q * Math.abs(result.rollDamping / let_));
    if (!(rate > ROLLS)) return [];
    return [
      {
        ...page,
        severity: "care",
        about: "torque",
        params: { share: null, rate },
        figure: figureBare("roll rate", rate, ROLLS, "angle"),
      },
    ];
  },
  remedies: () => [
    advice("Open the throttle slowly; launch faster; a smaller propeller or two that turn against each other"),
  ],
  says: (p, h) =>
    p.share !== null
      ? `Full throttle at its slowest takes ${percent(p.share)} of the roll control against the motor's torque`
      : "Full throttle at its slowest rolls it " +
        `${(p.rate ?? 0) > 2 * Math.PI ? "over at once" : `at ${plain(p.rate ?? 0, "angle", h, 0)} a second`}, ` +
        "and no roll control answers",
});
/** rad/s of roll from torque that hands still catch (judgement). */
const ROLLS = 0.35;
