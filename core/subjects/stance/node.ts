import { evidenceByShare, placeSd } from "../../design/evidence";
import type { Quantity, WorkingInput } from "../../design/quantity";
import type { Design } from "../../design/schema";
import { supportOf } from "../../design/support";
import { type Doubtful, sdOf, sharesOf } from "../../numeric/doubt";
import { type Vector, cross, dot, lengthOf, minus, scaled, unitOf } from "../../numeric/vector";
import { type Outcome, doubtsOf, keysOf, solved, subject, whyNone } from "../../subject";
import { GRAVITY } from "../air/air";
import { air } from "../air/node";
import { balance } from "../balance/node";
import { extent } from "../extent/node";
import { mass } from "../mass/node";
import type { MassResult } from "../mass/rollup";
import { placesUnsaid } from "../mass/placed";
import { type PropulsionResult, propulsion } from "../propulsion/node";
import { pushOf } from "../propulsion/placed";
import { BLUNT, OUTLINE } from "../wind/outline";
import { type Silhouette, shapesAlong, unionOf } from "../wind/silhouette";
import { quantities } from "./declares";
import { type Edge, type Rest, restOn, tippingOf } from "./feet";

/** What tips a craft over one edge of its feet. */
export interface Over {
  edge: Edge;
  /** which way it goes over: "the nose", "the starboard side" … */
  over: string;
  /** rad; negative: it does not stand */
  slope: Doubtful;
  /** Full thrust over what the weight holds, with feet that neither roll nor slide; null: not known. */
  held: Doubtful | null;
  /** The same while it rolls freely and speeds up. */
  rolling: Doubtful | null;
  /** m/s of wind from the other side; null over nose and tail, or not known */
  wind: Doubtful | null;
}

export interface StanceResult {
  rest: Rest;
  /** N */
  weight: number;
  over: Over[];
  /** sideways acceleration that tips it, in g; null where no edge lies to a side */
  turn: number | null;
  /** rad that the craft's own level stands nose up on its feet; null on its tail */
  noseUp: number | null;
  /** why full thrust is not in it */
  because: string | null;
  /** What may make any of it worse, and nobody knows, as sentences. */
  doubts: string[];
  /** What the side wind leaves out besides, as sentences. */
  windDoubts: string[];
  worst: { slope: Over; wind: Over | null };
  inputs: {
    name: string;
    key: string;
    value: number;
    sd: number;
    evidence: WorkingInput["evidence"];
    dimension: "length" | "force" | "area";
  }[];
}

/** Where an edge lies, as the craft goes over it. */
export function overWord(out: Vector, { ahead, starboard, upright }: Pick<Rest, "ahead" | "starboard" | "upright">) {
  const [forward, right] = [dot(out, ahead), dot(out, starboard)];
  // Within 22.5° of straight.
  const straight = Math.sin(Math.PI / 8);
  const [front, back] = upright ? ["nose", "tail"] : ["belly", "back"];
  const long = Math.abs(forward) > straight ? (forward > 0 ? front : back) : null;
  const side = Math.abs(right) > straight ? (right > 0 ? "starboard side" : "port side") : null;
  return `the ${[long, side].filter(Boolean).join(" and ")}`;
}

type View = Pick<Design, "feet" | "items" | "units" | "surfaces" | "bodies">;

/** Every point at which it touches the ground, with how surely it does there. */
function touches({ feet }: View, length: number): { at: Vector; sd: number }[] {
  return feet.flatMap(({ at, mirrored, placeBy }) => {
    const sd = placeSd(placeBy, length, undefined);
    return mirrored && at.y !== 0 ? [1, -1].map((s) => ({ at: { ...at, y: s * at.y }, sd })) : [{ at, sd }];
  });
}

/** A ratio of two numbers, each with what moves it. */
const over = (a: Doubtful, b: Doubtful): Doubtful => ({
  value: a.value / b.value,
  by: {
    ...Object.fromEntries(Object.entries(b.by).map(([k, d]) => [k, (-a.value * d) / b.value ** 2])),
    ...Object.fromEntries(
      Object.entries(a.by).map(([k, d]) => [k, d / b.value - (a.value * (b.by[k] ?? 0)) / b.value ** 2]),
    ),
  },
});

interface Known {
  rest: Rest;
  cg: Vector;
  cgSd: Vector;
  footSd: number;
  weight: number;
  massShare: number;
  push: { force: Vector; moment: Vector; share: number } | null;
  side: Silhouette | null;
  density: number;
}

/** What tips it over one edge. */
function tips(edge: Edge, k: Known): Over {
  const { rest, weight, push, side } = k;
  const along = (sd: Vector, way: Vector) => Math.hypot(sd.x * way.x, sd.y * way.y, sd.z * way.z);
  const inside: Doubtful = {
    value: edge.inside,
    by: { "/cg": along(k.cgSd, edge.out), "/feet": k.footSd },
  };
  const up = along(k.cgSd, rest.up);
  const square = edge.inside ** 2 + rest.height ** 2;
  const slope: Doubtful = {
    value: Math.atan2(edge.inside, rest.height),
    by: {
      "/cg": (rest.height * (inside.by["/cg"] ?? 0)) / square,
      "/feet": (rest.height * k.footSd) / square,
      "/cgUp": (edge.inside * up) / square,
    },
  };
  const holds: Doubtful = {
    value: weight * edge.inside,
    by: {
      "/cg": weight * (inside.by["/cg"] ?? 0),
      "/feet": weight * k.footSd,
      "/mass": k.massShare * weight * edge.inside,
    },
  };
  const at = { x: 0, y: 0, z: 0 };
  const moment = (force: Vector, turning: Vector, sped: boolean): Doubtful => {
    const roll = scaled(rest.ahead, -dot(force, rest.ahead));
    const pushes = tippingOf(edge, rest.up, force, at) + dot(turning, cross(rest.up, edge.out));
    const value = pushes + (sped ? tippingOf(edge, rest.up, roll, k.cg) : 0);
    return {
      value,
      by: {
        "/thrust": (push?.share ?? 0) * value,
        ...(sped ? { "/cgUp": dot(roll, edge.out) * up } : {}),
      },
    };
  };
  const aside = Math.abs(dot(edge.out, rest.starboard));
  const stands = rest.edges.every((e) => e.inside > 0);
  const wind = side && aside > 0.7 && stands ? windOver(edge, k, side) : null;
  const known = push && stands;
  return {
    edge,
    over: overWord(edge.out, rest),
    slope,
    held: known ? over(moment(push.force, push.moment, false), holds) : null,
    rolling: known ? over(moment(push.force, push.moment, true), holds) : null,
    wind,
  };
}
/** Wind (m/s) from the other side at which the weight no longer holds it down. */
function windOver(edge: Edge, k: Known, side: Silhouette): Doubtful | null {
  const high = dot({ x: side.across - edge.from.x, y: -edge.from.y, z: side.up - edge.from.z }, k.rest.up);
  if (!(high > 0)) return null;
  const value = Math.sqrt((2 * k.weight * edge.inside) / (k.density * BLUNT.value * side.area * high));
  const along = Math.hypot(k.cgSd.x * edge.out.x, k.cgSd.y * edge.out.y, k.cgSd.z * edge.out.z);
  return {
    value,
    by: {
      "/cg": (value * along) / edge.inside / 2,
      "/feet": (value * k.footSd) / edge.inside / 2,
      "/mass": (value * k.massShare) / 2,
      "/drag": (value * BLUNT.sd) / BLUNT.value / 2,
      "/outline": (value * OUTLINE) / 2,
    },
  };
}

/** What the numbers rest on, by the keys that they are doubted by. */
function madeOf(
  worst: Over,
  known: Known,
  feet: Design["feet"],
  { at, massSd, evidence }: { at: Pick<MassResult, "cgEvidence">; massSd: number; evidence: WorkingInput["evidence"] },
): StanceResult["inputs"] {
  return [
    {
      name: "CG inside the edge of its feet",
      key: "/cg",
      value: worst.edge.inside,
      sd: Math.hypot(known.cgSd.x * worst.edge.out.x, known.cgSd.y * worst.edge.out.y, known.cgSd.z * worst.edge.out.z),
      evidence: at.cgEvidence[Math.abs(worst.edge.out.x) > Math.abs(worst.edge.out.y) ? "x" : "y"],
      dimension: "length",
    },
    {
      name: "Places of its feet",
      key: "/feet",
      value: worst.edge.inside,
      sd: known.footSd,
      evidence: feet[0]?.placeBy ?? "guess",
      dimension: "length",
    },
    {
      name: "CG above its feet",
      key: "/cgUp",
      value: known.rest.height,
      sd: known.cgSd.z,
      evidence: at.cgEvidence.z,
      dimension: "length",
    },
    { name: "Weight", key: "/mass", value: known.weight, sd: massSd * GRAVITY, evidence, dimension: "force" },
    {
      name: "Drag area from the side, C = 1.1 ± 0.3",
      key: "/drag",
      value: BLUNT.value * (known.side?.area ?? 0),
      sd: BLUNT.sd * (known.side?.area ?? 0),
      evidence: "calculated",
      dimension: "area",
    },
  ];
}

/** Full thrust of its main drives, as a force and a moment about the datum; null where it is not known. */
function pushedBy(view: View, drives: Outcome<PropulsionResult>): Known["push"] {
  const result = solved(drives);
  if (!result) return null;
  const thrusts = result.main.map((i) => ({ drive: i, thrust: result.drives[i]?.values.thrust ?? Number.NaN }));
  const push = pushOf(view, thrusts, { x: 0, y: 0, z: 0 });
  const { thrust } = result.values;
  return push && thrust.value > 0 ? { ...push, share: sdOf(thrust) / thrust.value } : null;
}

const WINGS = "its wings are not counted as wings: one that catches the wind tips it sooner";
const doubtsOfDrives = (drives: PropulsionResult | null): string[] =>
  drives ? [...drives.incomplete, ...drives.outside, ...drives.unknown] : [];

/** Share of the weight that full thrust lifts beyond which it is on its way up (judgement). */
const LIFTS = 0.5;

/** Whether points lie in a line, or are fewer than three. */
const inLine = (points: readonly Vector[]): boolean => {
  const [a, b] = [points[0], points.find((p) => points[0] && lengthOf(minus(p, points[0])) > 1e-9)];
  return !a || !b || points.every((p) => lengthOf(cross(minus(b, a), minus(p, a))) < 1e-9);
};

/** How it stands on its feet: the slope, the throttle and the side wind that tip it over. */
export const stance = subject({
  name: "stance",
  cost: "slow",
  reads: ["feet", "states", "gasLift", "items", "units", "surfaces", "bodies"],
  needs: [air, mass, extent, balance, propulsion],
  gives: keysOf(quantities),
  compute(view, of): Outcome<StanceResult> {
    if (view.feet.length === 0) return { status: "missing", needs: ["where it touches the ground"] };
    const [at, ledger, here] = [of(balance), of(mass), of(air)];
    if (at.status !== "solved" || ledger.status !== "solved" || here.status !== "solved")
      return { status: "missing", needs: ["mass"] };
    const [open] = placesUnsaid(view.items, "x", "y", "z");
    if (open !== undefined) return { status: "missing", needs: [`every part's place: ${open}`] };
    const box = solved(of(extent));
    const feet = touches(view, box ? box.max.x - box.min.x : 1);
    const { cg, cgSd } = at.result;
    const drives = of(propulsion);
    const pushed = pushedBy(view, drives);
    // What hangs on its thrust stands as it hovers: on its tail, where it pushes along the craft.
    const up = supportOf(view).onThrust && pushed ? unitOf(pushed.force) : { x: 0, y: 0, z: 1 };
    const rest = restOn(
      feet.map((f) => f.at),
      cg,
      up,
    );
    if (!rest)
      return inLine(feet.map((f) => f.at))
        ? { status: "missing", needs: ["three points or more on the ground that are not in a line"] }
        : { status: "not covered", because: "as it is used in this state none of its feet are below it" };
    const { shapes, lacks } = shapesAlong(view, "y");
    const side = unionOf(shapes);
    const { mass: m, massSd, evidence } = ledger.result;
    // What lifts it off tips it over no edge.
    const lifts = pushed !== null && dot(pushed.force, rest.up) > LIFTS * m * GRAVITY;
    const known: Known = {
      rest,
      cg,
      cgSd,
      footSd: Math.max(...feet.map((f) => f.sd)),
      weight: m * GRAVITY,
      massShare: massSd / m,
      push: lifts ? null : pushed,
      side,
      density: here.result.density,
    };
    const all = rest.edges.map((e) => tips(e, known));
    const worst = all.reduce((w, o) => (o.slope.value < w.slope.value ? o : w));
    const windy = all.filter((o) => o.wind);
    const sides = rest.edges.filter((e) => Math.abs(dot(e.out, rest.starboard)) > 0.7);
    return {
      status: "solved",
      result: {
        rest,
        weight: known.weight,
        over: all,
        turn: sides.length > 0 && rest.height > 0 ? Math.min(...sides.map((e) => e.inside)) / rest.height : null,
        noseUp: rest.upright ? Math.asin(Math.max(-1, Math.min(1, -rest.up.x))) : null,
        because:
          view.units.length === 0
            ? "no drive is described"
            : lifts
              ? "it lifts off by it: what holds it level then stands above"
              : pushed
                ? null
                : (whyNone(drives) ?? "a drive has no place"),
        doubts: [...ledger.result.incomplete, ...doubtsOfDrives(solved(drives))],
        windDoubts: [...lacks, ...(view.surfaces.length > 0 ? [WINGS] : [])],
        worst: {
          slope: worst,
          wind: windy.length > 0 ? windy.reduce((w, o) => ((o.wind?.value ?? 0) < (w.wind?.value ?? 0) ? o : w)) : null,
        },
        inputs: madeOf(worst, known, view.feet, { at: at.result, massSd, evidence }),
      },
    };
  },
  quantities(result, _view, of): Partial<Record<keyof typeof quantities, Quantity>> {
    const ledger = solved(of(mass));
    const { slope, wind } = result.worst;
    const told = (d: Doubtful, dimension: Quantity["dimension"], lacks: readonly string[]): Quantity => ({
      value: d.value,
      sd: sdOf(d),
      dimension,
      evidence: evidenceByShare(inputsOf(result, d)),
      ...doubtsOf([], [...(ledger?.incomplete ?? []), ...lacks]),
    });
    return {
      tipSlope: told(slope.slope, "angle", []),
      ...(wind?.wind ? { tipWind: told(wind.wind, "speed", result.windDoubts) } : {}),
    };
  },
  lacks: (key, { rest }) =>
    key !== "tipWind"
      ? null
      : rest.edges.every((e) => e.inside > 0)
        ? "a side area above its feet"
        : "a stance on its feet: its CG is outside them",
  working: (key, result) =>
    inputsOf(result, key === "tipWind" ? (result.worst.wind?.wind ?? null) : result.worst.slope.slope),
});

/** What a number of the stance rests on, with the share of its doubt that each has. */
function inputsOf({ inputs }: StanceResult, of: Doubtful | null): WorkingInput[] {
  const shares = of ? sharesOf(of) : new Map<string, number>();
  return inputs.flatMap(({ key, ...i }) =>
    of && key in of.by ? [{ ...i, share: shares.get(key) ?? 0, source: null }] : [],
  );
}
