import { magnitudeSd } from "../../design/evidence";
import { LOST, SURE } from "../../design/targets";
import type { Surface } from "../../design/schema";
import { normalCdf } from "../../numeric/normal";
import { sdOf } from "../../numeric/doubt";
import { type Figure, type Remedy, type See, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { balance } from "../balance/node";
import { cgLimits, wingsOpen } from "../balance/window";
import { advice, chance, percent } from "../say";
import { propulsion } from "../propulsion/node";
import { placedUnits } from "../propulsion/placed";
import { lattice } from "./latticeNode";
import { AT_SPEED, type FlightResult, flight } from "./node";

const page = { page: "stability" as const };
/** Nothing stops on wings of which some may be missing, or guessed. */
const stop = (see: See) => (wingsOpen(see.design) === null ? ("stop" as const) : ("care" as const));
const onWings = (see: See): FlightResult | null => see.result(flight);
const figureBare = (
  label: string,
  value: number,
  limit: number,
  dimension: Figure["dimension"] = "percent",
): Figure => ({
  label,
  value,
  sd: 0,
  dimension,
  evidence: "calculated",
  limit,
});

/** Described wings, and nobody said whether they are all. */
const notWhole = verdict<{ surfaces: number }>({
  find: (see) =>
    onWings(see) && !see.design.flight.whole
      ? [{ ...page, severity: "note", about: "wings", params: { surfaces: see.design.surfaces.length }, figure: null }]
      : [],
  remedies: () => [
    {
      code: "all-described",
      text: "Say that all are described",
      patch: { set: [{ path: ["flight", "whole"], value: true }], addItems: [] },
    },
  ],
  says: (p) =>
    `${p.surfaces === 1 ? "One surface is" : `${p.surfaces} surfaces are`} described: a tail or body that is missing shifts the CG window`,
});

/** A CG window of the brief that reaches beyond what the wings allow. */
const windowBeyond = verdict<{ by: number; aft: boolean }>({
  find(see) {
    const values = onWings(see)?.values;
    const target = see.design.brief.targets.find((t) => t.metric === "cgX" && t.comparison === "between");
    if (!values?.cgAft || !values.cgForward || !target || target.evidence === "guess" || target.upper === undefined)
      return [];
    if (!see.design.flight.whole || see.design.schools.balance !== "stable") return [];
    const behind = target.upper - values.cgAft.value;
    const ahead = values.cgForward.value - target.value;
    const aft = behind / (sdOf(values.cgAft) || 1e-3) >= ahead / (sdOf(values.cgForward) || 1e-3);
    const [by, edge, key] = aft
      ? [behind, values.cgAft, "cgAft" as const]
      : [ahead, values.cgForward, "cgForward" as const];
    // Said only where the wings' own edge is surely inside.
    if (!(by > 1.35 * sdOf(edge))) return [];
    const quantity = see.metrics[key];
    return quantity
      ? [
          {
            ...page,
            severity: aft ? "care" : "note",
            about: target.id,
            params: { by, aft },
            figure: figureOf(
              aft ? "aft limit of the wings" : "forward limit of the wings",
              quantity,
              aft ? target.upper : target.value,
            ),
          },
        ]
      : [];
  },
  remedies(see, { about }): Remedy[] {
    const values = onWings(see)?.values;
    if (!values?.cgAft || !values.cgForward || !(values.cgAft.value > values.cgForward.value)) return [];
    const rounded = (v: number) => Math.round(v * 1000) / 1000;
    return [
      {
        code: "window-of-wings",
        text: "Take the window that the wings need",
        patch: {
          set: [
            { path: ["brief", "targets", `#${about}`, "value"], value: rounded(values.cgForward.value) },
            { path: ["brief", "targets", `#${about}`, "upper"], value: rounded(values.cgAft.value) },
          ],
          addItems: [],
        },
      },
    ];
  },
  says: (p, h) =>
    p.aft
      ? `The CG window of the brief reaches ${plain(p.by, "length", h, 0)} behind what its wings hold`
      : `The CG window of the brief begins ${plain(p.by, "length", h, 0)} ahead of what its pitch control can trim`,
});

/**
 * A CG that the brief's own window allows and the wings do not hold: behind the neutral point it is unstable, whatever
 * was stated.
 */
const behindWings = verdict<{ by: number; unstable: boolean }>({
  find(see) {
    const values = onWings(see)?.values;
    const [cg, aft, neutral] = [see.metrics.cgX, values?.cgAft, values?.neutralPoint];
    if (!cg || !aft || !neutral || cgLimits(see.design, onWings(see), "x")?.by !== "window") return [];
    if (see.design.schools.balance !== "stable" || cg.value <= aft.value) return [];
    const unstable = normalCdf((cg.value - neutral.value) / Math.hypot(cg.sd, sdOf(neutral))) >= SURE;
    const quantity = see.metrics.cgAft;
    return [
      {
        ...page,
        severity: unstable ? stop(see) : "care",
        about: "behind wings",
        params: { by: cg.value - aft.value, unstable },
        figure: quantity ? figureOf("CG", cg, quantity.value) : null,
      },
    ];
  },
  remedies: () => [advice("Move the CG forward, or take the window that the wings need (Stability)")],
  says: (p, h) =>
    `CG sits ${plain(p.by, "length", h, 0)} behind what its wings hold${p.unstable ? ": unstable in pitch" : ""}, though the brief's window allows it`,
});

/** The pitch control trims no CG that is stable. */
const noWindow = verdict<{ by: number }>({
  find(see) {
    const values = onWings(see)?.values;
    const [low, high] = [values?.cgForward, values?.cgAft];
    const quantity = see.metrics.cgForward;
    if (!low || !high || !quantity || low.value < high.value || see.design.schools.balance !== "stable") return [];
    return [
      {
        ...page,
        severity: low.value - high.value > 1.35 * sdOf(low) ? stop(see) : "care",
        about: "window",
        params: { by: low.value - high.value },
        figure: figureOf("foremost CG that it trims", quantity, high.value),
      },
    ];
  },
  remedies: () => [advice("More travel, a larger pitch control, or another incidence of tail or foreplane")],
  says: (p, h) =>
    `No CG is both stable and trimmed: its pitch control runs out ${plain(p.by, "length", h, 0)} behind the aft limit`,
});

/** Unstable on purpose: how fast a disturbance grows with the CG where it is, or at the stop line. */
const doubles = verdict<{ seconds: number; atStop: boolean }>({
  find(see) {
    const result = onWings(see);
    const [l, b] = [see.result(lattice), see.result(balance)];
    const { schools, walkBack } = see.design;
    const speed = result?.values.stallSpeed?.value;
    if (!result || !l || !b || !speed || schools.balance !== "unstable on purpose") return [];
    const at = walkBack ? walkBack.stop : b.cg.x;
    const behind = at - l.neutral.value;
    const pitch = b.inertia.pitch;
    if (!(behind > 0) || !(pitch > 0)) return [];
    const q = (result.density * (AT_SPEED * speed) ** 2) / 2;
    // Without damping: the fastest that it can grow.
    const seconds = Math.LN2 / Math.sqrt((q * l.model.alpha.z * behind) / pitch);
    return [
      {
        ...page,
        severity: seconds < 0.3 ? stop(see) : "care",
        about: "doubles",
        params: { seconds, atStop: walkBack !== null },
        figure: { ...figureBare("doubles in", seconds, 0.3, "stopwatch"), sd: seconds * 0.3 },
      },
    ];
  },
  remedies: () => [advice("A rate loop must answer in a third of that time; walk the CG back step by step")],
  says: (p) =>
    `${p.atStop ? "At its stop line a" : "A"} disturbance in pitch doubles in ${p.seconds.toFixed(2)} s: no hand holds that${p.seconds < 0.3 ? ", few loops do" : ""}`,
});

/** Share of a side beyond which a strip belongs to the tip. */
const TIP = 0.7;
/** What lets go first: the tips of the main wing, or what holds the tail down. */
const stallFirst = verdict<{ surface: string; tips: boolean }>({
  find(see) {
    const result = onWings(see);
    const l = see.result(lattice);
    if (!result?.slow || !l || result.slow.by !== "stall") return [];
    const strip = l.model.strips[result.slow.strip];
    const surface = strip && see.design.surfaces[strip.surface];
    const at = l.strips[result.slow.strip];
    const cg = see.result(balance)?.cg.x;
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
const controlStop = verdict<Record<string, never>>({
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
const trimTakes = verdict<{ share: number; up: boolean }>({
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
      ? `It cannot be trimmed at ${AT_SPEED} × stall speed: nose ${p.up ? "up" : "down"} it asks for ${percent(p.share)} of the travel`
      : `Trim at ${AT_SPEED} × stall speed takes ${percent(p.share)} of the pitch travel, nose ${p.up ? "up" : "down"}`,
});

/** Released slower than it can fly. */
const launchSlow = verdict<{ launch: string; odds: number; short: number }>({
  find(see) {
    const speed = see.metrics.stallSpeed;
    const { launch, launchSpeed } = see.design.flight;
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

/** No surface on edge, or too small a one: the wind turns it away. */
const yawAway = verdict<{ fins: boolean }>({
  find(see) {
    const result = onWings(see);
    if (!result || !see.design.flight.whole || !see.result(balance) || result.yaw > 0) return [];
    return [
      {
        ...page,
        severity: "care",
        about: "yaw",
        params: { fins: result.fins },
        figure: null,
      },
    ];
  },
  remedies: () => [advice("A larger fin, or one further aft; or a rate loop about yaw")],
  says: (p) =>
    p.fins
      ? "The wind turns its nose away: the fin is too small for its bodies and CG"
      : "No fin holds its nose into the wind, and its bodies turn it away",
});

/** Torque left over of the drives that push ahead, at full throttle, N·m; null where none is known. */
function torqueAhead(see: See): number | null {
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
const torqueRoll = verdict<{ share: number | null; rate: number | null }>({
  find(see) {
    const result = onWings(see);
    const speed = see.metrics.stallSpeed;
    const torque = torqueAhead(see);
    if (!result || !speed || torque === null || see.metrics.torque?.unknown) return [];
    const let_ = Math.max(see.design.flight.launchSpeed?.value ?? 0, 1.1 * speed.value);
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
      : `Full throttle at its slowest rolls it ${(p.rate ?? 0) > 2 * Math.PI ? "over at once" : `at ${plain(p.rate ?? 0, "angle", h, 0)} a second`}, and no roll control answers`,
});
/** rad/s of roll from torque that hands still catch (judgement). */
const ROLLS = 0.35;

/** Near the ground: a craft whose height point lies behind its pitch point climbs away or digs in. */
const heightOrder = verdict<{ by: number }>({
  find(see) {
    const result = onWings(see);
    const l = see.result(lattice);
    if (!result || result.heightPoint === null || !l) return [];
    const by = result.heightPoint - l.neutral.value;
    const sd = sdOf(l.neutral);
    if (by < -1.35 * sd) return [];
    return [
      {
        ...page,
        severity: by > 1.35 * sd ? stop(see) : "care",
        about: "height",
        params: { by },
        figure: {
          label: "height point",
          value: result.heightPoint,
          sd,
          dimension: "length",
          evidence: "calculated",
          limit: l.neutral.value,
        },
      },
    ];
  },
  remedies: () => [advice("A larger or higher tail moves the pitch point aft; fly only so low that you can catch it")],
  says: (p, h) =>
    p.by > 0
      ? `Near the ground it does not hold its height: lift from height acts ${plain(p.by, "length", h, 0)} behind lift from pitch`
      : "Near the ground it may not hold its height: lift from height acts no surer ahead than lift from pitch",
});

/** A surface in the wash of a propeller close before it: the lattice knows nothing of it. */
const inWash = verdict<{ surface: string }>({
  find(see) {
    if (!onWings(see)) return [];
    const discs = see.design.units.flatMap((u, k) =>
      u.measured || u.propulsor
        ? []
        : placedUnits(see.design, k).map(({ at, toward }) => ({ at, toward, r: u.propeller.diameter.value / 2 })),
    );
    const hit = see.design.surfaces.find((s: Surface) =>
      discs.some(
        (d) =>
          d.toward.x < -0.5 &&
          s.at.x > d.at.x &&
          s.at.x - d.at.x < 8 * d.r &&
          Math.hypot(s.at.y - d.at.y, s.at.z - d.at.z) < d.r,
      ),
    );
    return hit ? [{ ...page, severity: "note", about: hit.id, params: { surface: hit.name }, figure: null }] : [];
  },
  says: (p) => `“${p.surface}” stands in a propeller's wash: with power on it works more than is computed here`,
});

export const verdicts = {
  "wings-not-whole": notWhole,
  "window-beyond": windowBeyond,
  "behind-wings": behindWings,
  "no-window": noWindow,
  "pitch-doubles": doubles,
  "stall-first": stallFirst,
  "control-stop": controlStop,
  "trim-takes": trimTakes,
  "launch-slow": launchSlow,
  "yaw-away": yawAway,
  "torque-roll": torqueRoll,
  "height-order": heightOrder,
  "in-wash": inWash,
};
