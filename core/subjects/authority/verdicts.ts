import type { UnitHabit } from "../../design/units";
import { type Figure, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { advice, percent } from "../say";
import { TURNS, type Turn } from "./allocate";
import { type AuthorityResult, authority } from "./node";

const page = { page: "stability" as const };

/** With its CG where it is no throttles hold it level. */
type Offset = AuthorityResult["offset"] & { upright: boolean };
/** Which way the CG has to go to lie under the middle of the thrust. */
const bring = ({ x, y, upright }: Offset, h: UnitHabit): string => {
  const long = (v: number) => plain(Math.abs(v), "length", h, h === "metric" ? 0 : 2);
  if (!upright) return `Bring the CG ${long(Math.hypot(x, y))} onto the line of its thrust`;
  const ways = [
    ...(Math.abs(x) > 0.001 ? [`${long(x)} ${x > 0 ? "aft" : "forward"}`] : []),
    ...(Math.abs(y) > 0.001 ? [`${long(y)} to ${y > 0 ? "starboard" : "port"}`] : []),
  ];
  return `Bring the CG ${ways.join(" and ")}, under the middle of its thrust`;
};

const levelLost = verdict<Offset>({
  find(see) {
    const result = see.result(authority);
    // Too weak to lift at all is said elsewhere.
    if (!result || result.holding.shares || (see.metrics.thrustToWeight?.value ?? 0) < 1) return [];
    return [
      {
        ...page,
        severity: "stop",
        about: "level",
        params: { ...result.offset, upright: result.upright },
        figure: null,
      },
    ];
  },
  remedies: (_see, { params }, h) => [advice(bring(params, h))],
  says: (p, h) =>
    `No throttle holds it level: its CG is ${plain(Math.hypot(p.x, p.y), "length", h, 0)} beside the middle of its thrust`,
});

/** Share of full thrust beyond which a unit has little left to steer with in hover (common practice). */
const HARD = 0.85;
/** One unit works far harder than the rest. */
const unitHard = verdict<{ unit: string; share: number; mean: number } & Offset>({
  find(see) {
    const result = see.result(authority);
    const quantity = see.metrics.hoverShare;
    const shares = result?.holding.shares;
    if (!result || !shares || !quantity || quantity.unknown) return [];
    const share = Math.max(...shares);
    const mean = shares.reduce((s, v) => s + v, 0) / shares.length;
    if (share < HARD || share - mean < 0.05) return [];
    const unit = result.units[shares.indexOf(share)]?.name ?? "";
    return [
      {
        ...page,
        severity: "care",
        about: "hardest",
        params: { unit, share, mean, ...result.offset, upright: result.upright },
        figure: figureOf("hardest unit in hover", quantity, HARD),
      },
    ];
  },
  remedies: (_see, { params }, h) => [advice(bring(params, h))],
  says: (p) => `${p.unit} works at ${percent(p.share)} of its thrust in hover, the mean at ${percent(p.mean)}`,
});

/** Axes that no throttle commands. */
const axisBare = verdict<{ axes: Turn[] }>({
  find(see) {
    const result = see.result(authority);
    if (!result || result.holding.never.length === 0 || !result.holding.shares) return [];
    const axes = result.holding.never.filter((t) => t !== "yaw" || !result.noTorque);
    return axes.length > 0 ? [{ ...page, severity: "care", about: "bare", params: { axes }, figure: null }] : [];
  },
  remedies: () => [advice("Vanes, surfaces or a weight that shifts must answer there: try it tethered, low")],
  says: (p) =>
    `Its drives command no ${p.axes.length > 1 ? `${p.axes.slice(0, -1).join(", no ")} and no ${p.axes.at(-1)}` : p.axes[0]}: something else must hold it there`,
});

/** Share of weight times arm below which an axis is called thin (judgement). */
export const THIN_AXIS = 0.05;
/** An axis that is commanded, and hardly. */
const axisThin = verdict<{ axis: Turn; share: number }>({
  find(see) {
    const result = see.result(authority);
    if (!result?.holding.shares) return [];
    return TURNS.filter((t) => t !== "yaw" && !result.holding.never.includes(t)).flatMap((axis) => {
      const { plus, minus } = result.holding.reach[axis];
      const share = Math.min(plus, minus) / result.scale;
      if (share >= THIN_AXIS) return [];
      const figure: Figure = {
        label: `${axis} left`,
        value: share,
        sd: 0.2 * share,
        dimension: "percent",
        evidence: "calculated",
        limit: THIN_AXIS,
      };
      return [{ ...page, severity: "care" as const, about: axis, params: { axis, share }, figure }];
    });
  },
  remedies: () => [advice("Bring the CG under the middle of its thrust, or lighten it")],
  says: (p) => `Hardly any ${p.axis} is left in hover: ${percent(p.share)} of its weight times its arm one way`,
});

/** What any single dead unit does. */
const oneDead = verdict<{ lost: number; spins: number; of: number }>({
  find(see) {
    const result = see.result(authority);
    // Without the torques nothing is known of yaw: what comes down for roll or pitch is known all the same.
    if (!result?.holding.shares || result.units.length < 2) return [];
    const count = (left: string) => result.losses.filter((l) => l.left === left).length;
    const [lost, spins] = [count("lost"), count("spins")];
    if (lost + spins === 0) return [];
    return [
      { ...page, severity: "note", about: "one dead", params: { lost, spins, of: result.units.length }, figure: null },
    ];
  },
  remedies: () => [advice("Fly where a fall hurts nobody; look at each unit's current before every flight")],
  says: (p) =>
    p.lost === p.of
      ? `Any of its ${p.of} units dead and it comes down`
      : p.lost > 0
        ? `${p.lost} of its ${p.of} units are such that it comes down when one is dead${p.spins > 0 ? `, ${p.spins} such that it spins` : ""}`
        : `With ${p.spins === p.of ? "any" : `${p.spins}`} of its ${p.of} units dead it stays up and spins`,
});

export const verdicts = {
  "level-lost": levelLost,
  "unit-hard": unitHard,
  "axis-bare": axisBare,
  "axis-thin": axisThin,
  "one-unit-dead": oneDead,
};
