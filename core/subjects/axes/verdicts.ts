import { supportOf } from "../../design/support";
import { type Figure, type See, verdict } from "../../subject";
import { stop } from "../flight/see";
import { plain } from "../../wording/format";
import { advice, percent } from "../say";
import type { Turning } from "./inFlight";
import { VANE_DOUBT } from "../authority/vanes";
import type { Flowed } from "./flowing";
import type { SixLine } from "./byDrives";
import { axes } from "./node";

const page = { page: "stability" as const };

const lineOf = (see: See, axis: SixLine["axis"]): SixLine | null => {
  const result = see.result(axes);
  return result?.kind === "drives" ? (result.lines.find((l) => l.axis === axis) ?? null) : null;
};

/** What coasts on when its throttle is closed, and has nothing but drives to steer with. */
const steersByThrust = verdict<{ ahead: boolean }>({
  find(see) {
    const yaw = lineOf(see, "yaw");
    // On the ground it stands when its throttle is closed.
    if (!yaw || yaw.flowed || yaw.word === "never had" || supportOf(see.design).onGround) return [];
    const ahead = yaw.word === "with others";
    return [{ ...page, severity: ahead ? "care" : "note", about: "yaw by thrust", params: { ahead }, figure: null }];
  },
  remedies: () => [advice("Keep some throttle in every turn; a rudder or fin that works without it")],
  says: (p) =>
    p.ahead
      ? "It steers only while it pushes: slowed down or with the throttle closed it goes straight on"
      : "It steers by its drives alone: with the throttle closed nothing turns it",
});

/** Whether controls turn it in any flow, as far as is known. */
const turnsIt = ({ standing, coasting }: Flowed): boolean =>
  standing === null || standing.value > 0 || coasting.value > 0;

/** Nothing turns it at all. */
const nothingSteers = verdict<Record<string, never>>({
  find(see) {
    const yaw = lineOf(see, "yaw");
    if (yaw?.word !== "never had" || (yaw.flowed && turnsIt(yaw.flowed))) return [];
    return [{ ...page, severity: "care", about: "no yaw", params: {}, figure: null }];
  },
  remedies: () => [advice("A rudder, or two drives apart from one another that are commanded one by one")],
  says: () => "Nothing steers it: no drive and no surface turns its nose",
});

/** The yaw line of what coasts on, is steered by controls, and cannot be held by its drives standing still. */
const steeredByFlow = (see: See): { line: SixLine; flowed: Flowed } | null => {
  const line = lineOf(see, "yaw");
  if (!line?.flowed || supportOf(see.design).onGround) return null;
  return line.word === "never had" || line.word === "with others" ? { line, flowed: line.flowed } : null;
};

/** m/s at which a craft that comes in with its throttle closed still has to be steered (judgement). */
const COMING_IN = 2;
/** Share of what its wash gives that is left there, below which it is steered by its throttle (judgement). */
const LITTLE = 0.1;
/**
 * What its air rudder can do comes from the wash: closed, hardly anything of it is left against what it slides on. In
 * the medium that holds it back a rudder turns it on much the same circle at any speed: of that nothing is said.
 */
const steersByWash = verdict<{ names: string; many: boolean; left: number }>({
  find(see) {
    const by = steeredByFlow(see);
    const { gas } = supportOf(see.design);
    if (!by?.flowed.standing || by.flowed.wet || gas || by.flowed.standing.value <= by.line.least) return [];
    const left = (by.flowed.coasting.value * COMING_IN ** 2) / by.flowed.standing.value;
    if (left >= LITTLE) return [];
    const figure: Figure = {
      label: "share of its steering that is left",
      value: left,
      sd: VANE_DOUBT * left,
      dimension: "percent",
      evidence: "calculated",
      limit: LITTLE,
    };
    return [
      {
        ...page,
        severity: "care",
        about: "yaw by wash",
        params: { names: by.flowed.names.join(", "), many: by.flowed.names.length > 1, left },
        figure,
      },
    ];
  },
  remedies: () => [advice("Keep some throttle in every turn; a rudder or fin in the water that works without it")],
  says: (p, habit) =>
    `${p.names} ${p.many ? "steer" : "steers"} by the wash: coming in at ` +
    `${plain(COMING_IN, "speed", habit, 0)} with the throttle closed ${percent(p.left)} of it is left`,
});

/** A rudder beside every wash: standing still nothing turns the craft. */
const stillRudder = verdict<{ names: string }>({
  find(see) {
    const by = steeredByFlow(see);
    if (!by?.flowed.standing || by.flowed.standing.value > 0 || by.flowed.coasting.value === 0) return [];
    return [
      { ...page, severity: "note", about: "no wash", params: { names: by.flowed.names.join(", ") }, figure: null },
    ];
  },
  remedies: () => [advice("The rudder behind the propeller, in its wash; or give it way before the first turn")],
  says: (p) => `No wash meets ${p.names}: standing still nothing turns it, it steers once it moves`,
});

/** What must hold its place, and cannot step aside. */
const noSway = verdict<Record<string, never>>({
  find(see) {
    const sway = lineOf(see, "sway");
    const { gas, weighedOff } = supportOf(see.design);
    if (!sway || !(gas || weighedOff) || sway.word === "both ways" || sway.word === "one way") return [];
    return [{ ...page, severity: "note", about: "no sway", params: {}, figure: null }];
  },
  remedies: () => [advice("Turn into the wind or current and hold there; plan no sideways approach")],
  says: () => "It cannot step sideways without turning: against a side wind or current it must point into it",
});

/** On its wings: what is always there takes more than a control has. */
const axisLost = verdict<{ axis: Turning; moment: string; share: number | null }>({
  find(see) {
    const result = see.result(axes);
    if (result?.kind !== "wings") return [];
    // The motor's torque against the roll control is told by itself.
    return (["pitch", "yaw"] as const).flatMap((axis) => {
      const worst = result.moments
        .flatMap(({ moment, lines }) => lines.filter((l) => l.axis === axis).map((l) => ({ moment, ...l })))
        .filter((l) => l.word === "lost")
        .toSorted((a, b) => (b.share ?? 99) - (a.share ?? 99))[0];
      if (!worst) return [];
      const figure: Figure | null =
        worst.share === null
          ? null
          : {
              label: `share of the ${axis} control`,
              value: worst.share,
              sd: 0.2 * worst.share,
              dimension: "percent",
              evidence: "calculated",
              limit: 1,
            };
      return [
        {
          ...page,
          severity: stop(see),
          about: `${axis} lost`,
          params: { axis, moment: worst.moment, share: worst.share },
          figure,
        },
      ];
    });
  },
  remedies: (_see, { params }) => [
    advice(
      params.axis === "pitch"
        ? "Less throttle as it is let go; the thrust line nearer the CG; more travel, or a larger control"
        : "The thrust line through the CG; a larger rudder, or more travel",
    ),
  ],
  says: (p) => {
    const when =
      p.moment === "let go"
        ? "Let go at full throttle"
        : p.moment === "slow"
          ? "In slow flight"
          : p.moment === "on foils"
            ? "On its foils at full throttle"
            : "With the throttle closed";
    return p.share === null
      ? `${when} nothing is left of the ${p.axis} control`
      : `${when} it takes ${percent(p.share)} of what is left of the ${p.axis} control`;
  },
});

/** Part of the wind by which it gusts (common practice: gusts of about half as much again). */
const GUSTS = 0.5;
/** On its wings: a side gust of the worst wind takes more than its roll control has in slow flight. */
const gustBeyond = verdict<{ holds: number; gust: number }>({
  find(see) {
    const result = see.result(axes);
    const gust = GUSTS * see.design.brief.environment.wind;
    if (result?.kind !== "wings") return [];
    const roll = result.moments.find((m) => m.moment === "slow")?.gust?.roll;
    if (!roll || roll.more || roll.speed >= gust) return [];
    const figure: Figure = {
      label: "side gust that it holds",
      value: roll.speed,
      sd: 0.25 * roll.speed,
      dimension: "speed",
      evidence: "calculated",
      limit: gust,
    };
    return [{ ...page, severity: "care", about: "side gust", params: { holds: roll.speed, gust }, figure }];
  },
  remedies: () => [advice("Fly it faster in gusts; more roll control or travel; less dihedral")],
  says: (p, habit) =>
    `In slow flight its roll control holds a side gust of ${plain(p.holds, "speed", habit, 1)}: the ` +
    `worst wind gusts by ${plain(p.gust, "speed", habit, 1)}`,
});

export const verdicts = {
  "steers-by-thrust": steersByThrust,
  "nothing-steers": nothingSteers,
  "steers-by-wash": steersByWash,
  "still-rudder": stillRudder,
  "no-sway": noSway,
  "axis-lost": axisLost,
  "gust-beyond": gustBeyond,
};
