import { computedFrom, magnitudeSd } from "../../design/evidence";
import type { Quantity, WorkingInput } from "../../design/quantity";
import type { Axis, Design, Point } from "../../design/schema";
import { supportOf } from "../../design/support";
import { type Sure, type Doubtful, sdOf, sharesOf } from "../../numeric/doubt";
import { type Of, type Outcome, doubtsOf, keysOf, solved, subject, whyNone } from "../../subject";
import { GRAVITY } from "../air/air";
import { air } from "../air/node";
import { type Turn, effectOf } from "../authority/allocate";
import { type AuthorityResult, authority, hoverInputs, inFrame } from "../authority/node";
import { type AxisLine, lineOf } from "../axes/inFlight";
import { fallenAt, falling } from "../axes/falling";
import type { SixLine } from "../axes/byDrives";
import { ahead, axes } from "../axes/node";
import { balance } from "../balance/node";
import { lattice } from "../flight/latticeNode";
import { bodyMoments } from "../flight/body";
import { NOT_WHOLE, ONLY_WINGS, flight } from "../flight/node";
import { AT_SPEED, trimAt } from "../flight/trim";
import { type TurnAt, banksOf, mostBank, turnAt } from "../flight/turning";
import { mass } from "../mass/node";
import type { MassResult } from "../mass/rollup";
import { propulsion } from "../propulsion/node";
import { waterOf } from "../propulsion/setup";
import { knownBy } from "../propulsion/words";
import { about } from "../lateral/derivatives";
import { quantities } from "./declares";
import { type Bending, type FlatTurn, tightest } from "./flat";
import { BLUNT, OUTLINE } from "./outline";
import { SEEN, type Silhouette, shapesAlong, unionOf } from "./silhouette";

/** What the worst wind does to a craft, by what holds it up. */
export type Held =
  | {
      kind: "hover";
      /** share of its thrust that the hardest unit gives while it leans into the wind */
      share: Doubtful;
      /** rad */
      lean: number;
      /** it hovers as it stands on its baseline, and not on its tail */
      upright: boolean;
      /** of the wind, N */
      push: Sure;
      lines: AxisLine[];
    }
  | {
      kind: "drives";
      /** drag from ahead over the thrust ahead, standing; null: nothing pushes ahead */
      share: Doubtful | null;
      /** of the wind, N */
      push: Sure;
      lines: AxisLine[];
      /** What else holds it back or carries it, and is not in that. */
      beside: "water" | "ground" | null;
    }
  /** On its wings it goes with the wind: what it does against it, it does by turning. */
  | {
      kind: "wings";
      turns: Turned[];
      /** rad of bank at which a tip touches the ground; null far above it */
      touches: number | null;
      /** What the numbers of the turns leave out, or rest on and nobody knows. */
      open: string[];
      /** near the ground: what bends its way there, or why that cannot be told; null far above it */
      flat: { status: "known"; bending: Bending; tightest: FlatTurn } | { status: "open"; because: string } | null;
    };

/**
 * A turn, and whether full throttle holds its height: null where thrust is too near the drag to tell, or how it falls
 * with speed is not known.
 */
export interface Turned extends TurnAt {
  level: boolean | null;
}

export interface WindResult {
  /** m/s, the worst of the brief; 0: none is named. Under water it is the current that comes at it. */
  wind: number;
  flow: "wind" | "current";
  side: Silhouette;
  /** Parts that are not in the outline. */
  lacks: string[];
  held: Held | null;
  /** Why nothing is said of holding, in words. */
  because: string | null;
}

type View = Pick<Design, "items" | "surfaces" | "bodies" | "states" | "units" | "dragArea" | "flight"> & {
  gasLift?: Design["gasLift"];
};

/** What comes from one side: how hard it pushes, and where. */
interface Blow {
  /** of the wind, N */
  push: Sure;
  /** the middle of what it meets */
  at: Point;
  along: Axis;
}

/** The wind along an axis of the craft; null where nothing of it is seen from there. */
function blowAlong(view: View, along: Axis, pressure: number, cg: Point): Blow | null {
  const outline = unionOf(shapesAlong(view, along).shapes);
  if (!outline) return null;
  const [a, u] = SEEN[along];
  const entered = along === "x" ? view.dragArea : null;
  const area = BLUNT.value * outline.area;
  const push = entered
    ? { value: pressure * entered.value, sd: pressure * magnitudeSd(entered) }
    : { value: pressure * area, sd: pressure * area * Math.hypot(BLUNT.sd / BLUNT.value, OUTLINE) };
  return { push, at: { ...cg, [a]: outline.across, [u]: outline.up }, along };
}

const AXIS: Record<Axis, Point> = { x: { x: 1, y: 0, z: 0 }, y: { x: 0, y: 1, z: 0 }, z: { x: 0, y: 0, z: 1 } };

/** Doubt of the couple on a slender body, as a share of it. */
const SLENDER = 1 / 3;
/**
 * What turns slender bodies across a wind that comes at a slant, N·m: ½ρV²·(k₂ − k₁)·(π/2)∫h²dx·sin 2β / 2, the most of
 * it at 45° (Munk, NACA TR 184; said for angles below 10°, more than that holds where the flow has left it). Without
 * what fins hold against it.
 */
function slant({ bodies }: View, pressure: number): AxisLine["disturbs"][number] | null {
  const known = bodies.filter((b) => b.shapeBy !== "guess");
  const value = (pressure * known.reduce((s, b) => s + bodyMoments(b).yaw, 0)) / 2;
  return value > 0 ? { what: "body", value, sd: SLENDER * value } : null;
}

type Piece = AxisLine["disturbs"][number];
/** The worse of two that do not come together. */
const worse = (a: Piece | undefined, b: Piece | null): Piece | undefined =>
  b && (!a || Math.abs(b.value) + b.sd > Math.abs(a.value) + a.sd) ? b : a;

const FINS = "what its fins hold against a wind at a slant is not computed";
/** A line of the wind; what a slender body adds may be held by fins, so that it is lost by nothing that has them. */
function blown(
  view: View,
  axis: AxisLine["axis"],
  piece: Piece | undefined,
  answer: AxisLine["answer"],
  open: string[],
) {
  const line = lineOf(axis, piece ? [piece] : [], answer, open);
  const held = line.word === "holds" || line.word === "open" || line.word === "never had";
  return piece?.what === "body" && view.surfaces.length > 0 && !held
    ? { ...line, word: "open" as const, open: [FINS] }
    : line;
}

/** What is left to answer about an axis while it hovers, N·m. */
function leftOf(r: AuthorityResult, turn: Turn, thrust: Doubtful): { value: number; sd: number } | null {
  if (r.holding.never.includes(turn)) {
    const vane = r.vanes.find((v) => v.turn === turn && v.most > 0);
    return vane ? { value: Math.max(0, vane.most - vane.need), sd: vane.sd } : null;
  }
  const value = Math.min(r.holding.reach[turn].plus, r.holding.reach[turn].minus);
  // What is left grows with the thrust beyond the weight.
  const spare = Math.max(0.1, 1 - (r.hardest?.value ?? 0));
  return { value, sd: (value * sdOf(thrust)) / thrust.value / spare };
}

/** A craft that hangs on its drives leans into the wind. */
function hovering(
  view: View,
  r: AuthorityResult,
  { cg, cgSd, mass: kg }: MassResult,
  pressure: number,
  thrust: Doubtful,
): Held | null {
  const { hardest, frame } = r;
  if (!hardest) return null;
  const blows = (["x", "y", "z"] as const)
    .filter((a) => Math.abs(frame.up[a]) < 0.8)
    .flatMap((a) => blowAlong(view, a, pressure, cg) ?? []);
  const [worst] = blows.toSorted((a, b) => b.push.value - a.push.value);
  if (!worst) return null;
  const weight = kg * GRAVITY;
  const grown = Math.hypot(weight, worst.push.value) / weight;
  const per = worst.push.value / (weight ** 2 * grown);
  const share: Doubtful = {
    value: hardest.value * grown,
    by: {
      ...Object.fromEntries(Object.entries(hardest.by).map(([k, d]) => [k, d * grown])),
      "/wind": hardest.value * per * worst.push.sd,
    },
  };
  const here = inFrame(frame, cg);
  const lines = (["roll", "pitch", "yaw"] as const).map((turn) => {
    const [most] = blows
      .map((b) => {
        const { value } = b.push;
        const at = { at: inFrame(frame, b.at), toward: inFrame(frame, AXIS[b.along]), most: value };
        const moment = effectOf({ ...at, torque: 0, spin: 0, reversible: false }, here)[turn];
        return {
          what: "wind" as const,
          value: moment,
          sd: Math.hypot((moment * b.push.sd) / (value || 1), value * Math.max(cgSd.x, cgSd.y, cgSd.z)),
        };
      })
      .toSorted((a, b) => Math.abs(b.value) + b.sd - Math.abs(a.value) - a.sd);
    const open = turn === "yaw" && r.noTorque ? ["the torque of a drive is not known"] : [];
    const piece = turn === "yaw" && r.upright ? worse(most, slant(view, pressure)) : most;
    return blown(view, turn, piece, leftOf(r, turn, thrust), open);
  });
  return {
    kind: "hover",
    share,
    lean: Math.atan2(worst.push.value, weight),
    upright: r.upright,
    push: worst.push,
    lines,
  };
}

/** What turns the nose against the wind standing: the drives, or a rudder in their wash, whichever does more. */
function standingYaw({ command, least, flowed }: SixLine, share: number): { value: number; sd: number } | null {
  const reach = Math.min(command.alone.plus, command.alone.minus);
  const drives = { value: reach, sd: share * reach };
  const standing = flowed?.standing;
  const most = standing && standing.value > reach ? standing : drives;
  return most.value > least ? most : null;
}

/** A craft that something else carries pushes against the wind with what it has ahead. */
function pushing(view: View, of: Of, pressure: number, at: MassResult): Held | null {
  const board = solved(of(axes));
  if (board?.kind !== "drives") return null;
  const support = supportOf(view);
  const under = support.afloat && support.weighedOff;
  // What was entered as its drag area is that of the air: under water its outline tells.
  const met = under ? { ...view, dragArea: null } : view;
  const [ahead, side] = [blowAlong(met, "x", pressure, at.cg), blowAlong(met, "y", pressure, at.cg)];
  if (!ahead || !side) return null;
  const line = (axis: "surge" | "yaw") => board.lines.find((l) => l.axis === axis);
  const most = line("surge")?.command.coupled.plus ?? 0;
  // A cushion holds nothing: it slides. Under water the current is all that there is.
  const beside = under ? null : support.onGround ? "ground" : support.afloat ? "water" : null;
  const arm = side.at.x - at.cg.x;
  const piece = {
    what: "wind" as const,
    value: Math.abs(side.push.value * arm),
    sd: Math.hypot(side.push.sd * arm, side.push.value * at.cgSd.x),
  };
  const yaw = line("yaw");
  const answer = yaw ? standingYaw(yaw, board.share) : null;
  const envelope = support.gas && !view.bodies.some((b) => b.shapeBy !== "guess");
  const open = [
    ...(beside === "water" ? ["where the water holds it is not known"] : []),
    ...(yaw?.flowed && !yaw.flowed.standing
      ? [`what ${yaw.flowed.names.join(", ")} does in the wash is not known`]
      : []),
    ...(envelope ? ["its envelope is not described as a body: a wind at a slant turns it more"] : []),
  ];
  return {
    kind: "drives",
    share:
      most > 0
        ? {
            value: ahead.push.value / most,
            by: { "/wind": ahead.push.sd / most, "/thrust": (-board.share * ahead.push.value) / most },
          }
        : null,
    push: ahead.push,
    lines: beside === "ground" ? [] : [blown(view, "yaw", worse(piece, slant(view, pressure)), answer, open)],
    beside,
  };
}

/** What a doubtful number may be at the most: two standard uncertainties more. */
const atMost = (d: Doubtful): number => d.value + 2 * sdOf(d);

/**
 * What bends the way of a craft near the ground. Each is told at its most, so nothing may be missing.
 *
 * @param speed m/s
 * @param bank rad at which a tip touches
 */
function flatly(
  view: View,
  of: Of,
  at: { side: Silhouette; lacks: readonly string[]; speed: number; bank: number },
): Extract<Held, { kind: "wings" }>["flat"] {
  const open = (because: string) => ({ status: "open" as const, because });
  const [l, here, ledger, balanced, drives] = [
    solved(of(lattice)),
    solved(of(air)),
    solved(of(mass)),
    solved(of(balance)),
    of(propulsion),
  ];
  if (!l || !here || !ledger || !balanced) return open("waits for the mass");
  const [lacking] = [
    ...(view.flight.whole ? [] : [NOT_WHOLE]),
    ...at.lacks.map((what) => `its outline from the side lacks ${what}`),
    ...ledger.incomplete,
    ...(drives.status === "solved" ? [...drives.result.unknown, ...drives.result.incomplete] : []),
  ];
  if (lacking !== undefined) return open(lacking);
  if (view.units.length > 0 && drives.status !== "solved") return open(whyNone(drives) ?? "what it pushes with");
  const { cg } = balanced;
  const slip = about(l.beta, cg);
  const into = slip.n - l.bodyYaw;
  const control = l.yawControl && about(l.yawControl, cg);
  const bending: Bending = {
    mass: ledger.mass,
    speed: at.speed,
    density: here.density,
    side: Math.max(0, -slip.y),
    outline: at.side.area,
    thrust: drives.status === "solved" ? atMost(drives.result.values.thrust) : 0,
    bank: at.bank,
    slips: control && into > 0 ? Math.abs(control.n) / into : null,
    travel: control ? l.yawTravel : 0,
  };
  return { status: "known", bending, tightest: tightest(bending) };
}

/** Turns as far above their stall as slow flight. */
function turning(view: View, of: Of, side: Silhouette, lacks: readonly string[]): Held | null {
  const [flown, wings, drives, falls] = [solved(of(flight)), solved(of(lattice)), of(propulsion), solved(of(falling))];
  const stall = flown?.values.stallSpeed?.value;
  const level = flown?.at && wings && stall ? trimAt(wings, flown.at, AT_SPEED * stall) : null;
  if (!level || !stall) return null;
  const most = mostBank(view.surfaces, view.flight.height);
  const still = { x: 0, y: 0, z: 0 };
  const ledger = solved(of(mass));
  const doubts = drives.status === "solved" ? [...drives.result.unknown, ...drives.result.outside] : [];
  return {
    kind: "wings",
    open: [
      ...(view.flight.whole ? [] : [NOT_WHOLE]),
      ...(flown?.whole ? [] : [ONLY_WINGS]),
      ...(ledger?.incomplete ?? []),
      ...doubts,
    ],
    touches: most < Math.PI / 2 ? most : null,
    flat: most < Math.PI / 2 ? flatly(view, of, { side, lacks, speed: AT_SPEED * stall, bank: most }) : null,
    turns: banksOf(most).map((bank) => {
      const turn = turnAt(stall, AT_SPEED, level.drag, bank);
      if (view.units.length === 0) return { ...turn, level: false };
      const full =
        falls && doubts.length === 0
          ? ahead(view, solved(drives), still, still, fallenAt(falls, turn.speed)).thrust
          : null;
      if (!full) return { ...turn, level: null };
      // Of a drag that lacks gear and struts only what is beyond the thrust already is known.
      if (full.value + full.sd < turn.drag) return { ...turn, level: false };
      return { ...turn, level: flown?.whole && full.value - full.sd >= turn.drag ? true : null };
    }),
  };
}

/** What may be more, or other, than it is reckoned with: nothing is said to hold. What is lost so far is lost. */
function doubted(held: Held | null, doubts: readonly string[]): Held | null {
  if (!held || held.kind === "wings" || doubts.length === 0) return held;
  const unsure = (l: AxisLine): AxisLine =>
    l.word === "holds" || l.word === "thin" ? { ...l, word: "open", open: doubts.slice(0, 1) } : l;
  return { ...held, lines: held.lines.map(unsure) };
}

const NO_WIND = "no worst wind is named in Brief";
const NO_CURRENT = "under water no wind reaches it, and no worst current is named in Brief";

/** What the wind does: outline from the side, what holding against the worst wind takes, what it turns. */
export const wind = subject({
  name: "wind",
  cost: "slow",
  reads: ["items", "surfaces", "bodies", "states", "gasLift", "units", "dragArea", "flight", "brief.environment"],
  needs: [air, mass, balance, propulsion, authority, axes, lattice, flight, falling],
  gives: keysOf(quantities),
  compute(view, of): Outcome<WindResult> {
    const { shapes, lacks } = shapesAlong(view, "y");
    const side = unionOf(shapes);
    if (!side) return { status: "missing", needs: ["a part with a place and a size"] };
    const support = supportOf(view);
    const under = support.afloat && support.weighedOff;
    const worst = under ? (view.brief.environment.current ?? 0) : view.brief.environment.wind;
    const result = (held: Held | null, because: string | null): Outcome<WindResult> => ({
      status: "solved",
      result: { wind: worst, flow: under ? "current" : "wind", side, lacks, held, because },
    });
    if (support.beats) return result(null, "it flies by beating wings");
    if (support.ways.includes("wings")) {
      const flown = of(flight);
      if (solved(flown)?.inWater) return result(null, "foils carry it, and how they turn it is not computed so far");
      const held = turning(view, of, side, lacks);
      return result(held, held ? null : (whyNone(flown) ?? "waits for: how slow it flies"));
    }
    if (worst === 0) return result(null, under ? NO_CURRENT : NO_WIND);
    const [here, at] = [of(air), of(balance)];
    if (here.status !== "solved" || at.status !== "solved") return result(null, "waits for the mass");
    const density = under ? waterOf(view.brief.environment).density : here.result.density;
    const pressure = (density * worst ** 2) / 2;
    if (support.onThrust) {
      const [hung, drives] = [of(authority), of(propulsion)];
      if (hung.status !== "solved") return result(null, whyNone(hung));
      if (drives.status !== "solved") return result(null, whyNone(drives));
      const { unknown, outside, values } = drives.result;
      const ledger = solved(of(mass));
      const doubts = [...lacks, ...(ledger?.incomplete ?? []), ...unknown, ...outside];
      const held = doubted(hovering(view, hung.result, at.result, pressure, values.thrust), doubts);
      return result(held, held ? null : "it does not hover as it is");
    }
    const board = of(axes);
    const known = solved(board);
    const because = known?.kind === "unpushed" ? `waits for: ${known.open}` : whyNone(board);
    return result(doubted(pushing(view, of, pressure, at.result), lacks), because);
  },
  quantities({ side, held, lacks }, view, of): Partial<Record<keyof typeof quantities, Quantity>> {
    const evidence = computedFrom([
      ...view.items.map((i) => i.placeEvidence),
      ...[...view.surfaces, ...view.bodies].map((s) => s.shapeBy),
    ]);
    const incomplete = doubtsOf([], lacks);
    const share = held && held.kind !== "wings" ? held.share : null;
    const [ledger, drives] = [solved(of(mass)), solved(of(propulsion))];
    return {
      sideArea: { value: side.area, sd: OUTLINE * side.area, dimension: "area", evidence, ...incomplete },
      sideCentre: {
        value: side.across,
        sd: OUTLINE * Math.sqrt(side.area) * 0.5,
        dimension: "length",
        evidence,
        ...incomplete,
      },
      ...(share && {
        windShare: {
          value: share.value,
          sd: sdOf(share),
          dimension: "percent",
          evidence: computedFrom([
            evidence,
            ...(ledger ? [ledger.evidence] : []),
            ...(drives ? [knownBy(drives.inputs, drives.values.thrust)] : []),
          ]),
          ...doubtsOf(
            drives?.outside ?? [],
            [...lacks, ...(ledger?.incomplete ?? []), ...(drives?.incomplete ?? [])],
            drives?.unknown ?? [],
          ),
        },
      }),
    };
  },
  lacks: (key, { because, held }) =>
    key !== "windShare" ? null : held?.kind === "wings" ? "on its wings it goes with the wind" : because,
  working(key, { side, held, flow, wind: worst }, _view, of): WorkingInput[] {
    const line = (name: string, value: number, sd: number, dimension: WorkingInput["dimension"], share: number) => ({
      name,
      value,
      sd,
      dimension,
      evidence: "calculated" as const,
      share,
      source: null,
    });
    const outline = line("Outline from the side, boxes for parts", side.area, OUTLINE * side.area, "area", 1);
    if (key !== "windShare" || !held || held.kind === "wings" || !held.share) return [outline];
    const push = sharesOf(held.share).get("/wind") ?? 0;
    const hung = solved(of(authority));
    const [most, off] = [
      held.push.value / held.share.value,
      Math.abs(held.share.by["/thrust"] ?? 0) / held.share.value,
    ];
    return [
      line(`Push of the ${flow} on its outline, C = 1.1 ± 0.3`, held.push.value, held.push.sd, "force", push),
      line(`Worst ${flow}`, worst, 0, "speed", 0),
      ...(held.kind === "hover" && hung
        ? hoverInputs(hung, held.share)
        : [line("Thrust ahead, standing", most, off * most, "force", 1 - push)]),
    ];
  },
});
