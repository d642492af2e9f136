import type { UnitHabit } from "../../design/units";
import { type Figure, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { cornersOf } from "../propulsion/placed";
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
    `No throttle holds it level: its CG is ${plain(Math.hypot(p.x, p.y), "length", h, 0)} beside the ` +
    "middle of its thrust",
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

/** With the usable charge spent its hardest unit has hardly anything left, or cannot hold it. */
const weakEmptied = verdict<{ share: number; now: number; charge: number }>({
  find(see) {
    const result = see.result(authority);
    const quantity = see.metrics.hoverShare;
    const then = result?.emptied;
    if (!result?.hardest || !then || !quantity || quantity.unknown) return [];
    const { value, sd } = then.hardest;
    const now = result.hardest.value;
    // What is hard with a full pack is told already.
    if (value < HARD || (now >= HARD && value <= 1)) return [];
    const figure: Figure = {
      label: "hardest unit in hover, pack nearly empty",
      value,
      sd,
      dimension: "percent",
      evidence: quantity.evidence,
      limit: value > 1 ? 1 : HARD,
    };
    const params = { share: value, now, charge: then.charge };
    return [{ ...page, severity: value - sd > 1 ? "stop" : "care", about: "emptied", params, figure }];
  },
  remedies: () => [advice("Land earlier: a smaller usable share of the pack; less weight, or more thrust")],
  says: (p) =>
    p.share > 1
      ? `With ${percent(p.charge)} left in its pack no throttle holds it: hover takes ${percent(p.share)} ` +
        `of the thrust that is left, ${percent(p.now)} of the full one`
      : `With ${percent(p.charge)} left in its pack hover takes ${percent(p.share)} of the thrust that is ` +
        "left: little is there to steer with",
});

/** Axes that no throttle commands. */
const axisBare = verdict<{ axes: Turn[] }>({
  find(see) {
    const result = see.result(authority);
    if (!result || result.holding.never.length === 0 || !result.holding.shares) return [];
    // What controls in a wash hold is commanded; a torque that nothing holds has a verdict of its own.
    const held = result.vanes.filter((v) => v.word !== "never had").map((v) => v.turn);
    const torque = result.vanes.some((v) => v.turn === "yaw" && v.need > NO_TORQUE * result.torqueScale);
    const axes = result.holding.never.filter((t) => !held.includes(t) && (t !== "yaw" || !(result.noTorque || torque)));
    return axes.length > 0 ? [{ ...page, severity: "care", about: "bare", params: { axes }, figure: null }] : [];
  },
  remedies: () => [advice("Vanes, surfaces or a weight that shifts must answer there: try it tethered, low")],
  says: (p) =>
    "Its drives command no " +
    `${p.axes.length > 1 ? `${p.axes.slice(0, -1).join(", no ")} and no ${p.axes.at(-1)}` : p.axes[0]}: ` +
    "something else must hold it there",
});

/** Share of all the rotors' torque below which they cancel. */
const NO_TORQUE = 0.02;
type Unheld = { torque: number; vanes: number; share: number; whole: boolean };
/** Rotor torque that nothing holds, or vanes too small for it: both grow with the same thrust. */
const torqueUnheld = verdict<Unheld>({
  find(see) {
    const result = see.result(authority);
    const yaw = result?.vanes.find((v) => v.turn === "yaw");
    if (!result || !yaw || yaw.need <= NO_TORQUE * result.torqueScale || yaw.word === "holds") return [];
    const share = yaw.most / yaw.need;
    const none = yaw.word === "never had";
    return [
      {
        ...page,
        severity: (none && result.whole) || yaw.word === "lost" ? "stop" : "care",
        about: "torque",
        params: { torque: yaw.need, vanes: yaw.most, share, whole: result.whole },
        figure: none
          ? null
          : {
              label: "vanes against the torque, at any throttle",
              value: share,
              sd: yaw.sd / yaw.need,
              dimension: "percent",
              evidence: "calculated",
              limit: 1,
            },
      },
    ];
  },
  remedies: (_see, { params }) =>
    params.share > 0
      ? [
          advice("Larger vanes, more of them in the wash, or a longer chord: more thrust does not help"),
          advice("A second rotor that turns the other way: half of like units each way"),
        ]
      : [
          advice("Say which way each turns (Power); a second rotor the other way, or vanes in its wash (Stability)"),
          advice("Try it hung on a line first: it turns against its rotor"),
        ],
  says: (p, h) => {
    const torque = plain(p.torque, "torque", h);
    return p.share > 0
      ? `Its vanes hold ${percent(p.share)} of the rotors' torque, ${torque} in hover, and the same share ` +
          "at any throttle"
      : `As its rotors are said to turn they twist it with ${torque} in hover, and nothing ` +
          `${p.whole ? "" : "that is described "}answers`;
  },
});

/** An axis that controls in a wash answer, and hardly or not enough. */
const vaneShort = verdict<{ axis: Turn; need: number; most: number; lost: boolean }>({
  find(see) {
    const result = see.result(authority);
    return (result?.vanes ?? []).flatMap(({ turn, word, need, most, sd }) =>
      turn === "yaw" || word === "holds" || word === "never had"
        ? []
        : [
            {
              ...page,
              severity: word === "lost" ? ("stop" as const) : ("care" as const),
              about: turn,
              params: { axis: turn, need, most, lost: word === "lost" },
              figure: {
                label: `${turn} to be held, of the vanes`,
                value: need / most,
                sd: (need * sd) / most ** 2,
                dimension: "percent" as const,
                evidence: "calculated" as const,
                limit: word === "lost" ? 1 : 0.5,
              },
            },
          ],
    );
  },
  remedies: () => [advice("Bring the CG onto the line of its thrust; more vane in the wash, further from the CG")],
  says: (p, h) => {
    const [need, most] = [plain(p.need, "torque", h), plain(p.most, "torque", h)];
    return `Its vanes ${p.lost ? "cannot hold" : "hardly hold"} ${p.axis}: ${need} to be held of ${most}`;
  },
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
        ? `${p.lost} of its ${p.of} units are such that it comes down when one is ` +
          `dead${p.spins > 0 ? `, ${p.spins} such that it spins` : ""}`
        : `With ${p.spins === p.of ? "any" : `${p.spins}`} of its ${p.of} units dead it stays up and spins`,
});

/** Units of one drive that differ by more than this are worth a word (judgement). */
const UNEQUAL = 0.05;
/** Extra throttle of the hardest unit, or a unit so much weaker, that is no longer a trifle (judgement). */
const EATS = 0.05;
const WEAK = 0.88;
/** Like units that were weighed one by one and do not push alike: what holding it level takes because of it. */
const cornersUnequal = verdict<{ unit: string; share: number; hardest: number | null; alike: number | null }>({
  find(see) {
    const { design } = see;
    const level = see.result(authority);
    return design.units.flatMap((unit) => {
      const corners = cornersOf(unit);
      if (!corners) return [];
      const [low, high] = [corners, corners].map((list, k) =>
        list.reduce((best, c) => ((k === 0 ? c.share < best.share : c.share > best.share) ? c : best)),
      ) as [(typeof corners)[number], (typeof corners)[number]];
      const apart = high.share - low.share;
      if (apart < UNEQUAL || apart < 2 * Math.hypot(low.sd, high.sd)) return [];
      const [hardest, alike] = [level?.hardest?.value ?? null, level?.alike ?? null];
      const eats = hardest !== null && alike !== null ? hardest - alike : 0;
      return [
        {
          page: "power" as const,
          severity: eats > EATS || low.share < WEAK ? ("care" as const) : ("note" as const),
          about: unit.id,
          params: { unit: `${unit.name}, unit ${corners.indexOf(low) + 1}`, share: low.share, hardest, alike },
          figure: {
            label: "weakest over their mean",
            value: low.share,
            sd: low.sd,
            dimension: "percent" as const,
            evidence: "measured" as const,
            limit: WEAK,
          },
        },
      ];
    });
  },
  remedies: () => [
    advice(
      "Swap its propeller with that of the strongest and weigh both again, 10 min: what moves along is " +
        "the propeller, what stays is motor, controller or mount",
    ),
  ],
  says: (p) =>
    `${p.unit} pushes ${percent(1 - p.share)} less than the mean of its like${
      p.hardest === null || p.alike === null
        ? ""
        : `: holding level takes ${percent(p.hardest)} of the hardest unit, ${percent(p.alike)} if all were alike`
    }`,
});

export const verdicts = {
  "corners-unequal": cornersUnequal,
  "level-lost": levelLost,
  "unit-hard": unitHard,
  "weak-emptied": weakEmptied,
  "axis-bare": axisBare,
  "torque-unheld": torqueUnheld,
  "vane-short": vaneShort,
  "axis-thin": axisThin,
  "one-unit-dead": oneDead,
};
