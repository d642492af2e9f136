import { placesUnsaid } from "../mass/placed";
import { shiftedAbout, shiftedMass } from "../mass/shifted";
import { AXES, type Point, type Surface, type Unit } from "../../design/schema";
import { evidenceByShare } from "../../design/evidence";
import type { Quantity, WorkingInput } from "../../design/quantity";
import { supportOf } from "../../design/support";
import { type Doubtful, sdOf, sharesOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, keysOf, solved, subject } from "../../subject";
import { GRAVITY } from "../air/air";
import { balance } from "../balance/node";
import { mass } from "../mass/node";
import { propulsion } from "../propulsion/node";
import { placedUnits } from "../propulsion/placed";
import { knownBy } from "../propulsion/words";
import { type Holding, type Loss, type Thruster, type Turn, effectOf, holds, losses } from "./allocate";
import { type EmptiedResult, emptied } from "./emptied";
import { type Mixed, mixingOf } from "./mixing";
import { type PlacedThruster, thrustersOf } from "./thrusters";
import { VANE_DOUBT, type Vaned, type Washing, discOf, inWashes, vanesIn } from "./vanes";
import { quantities } from "./declares";

export interface AuthorityResult {
  /** The units that hold it up, in the order of the allocation. */
  units: PlacedThruster[];
  holding: Holding;
  losses: Loss[];
  /** How each unit answers what is asked; null where lift and the axes cannot be asked by themselves. */
  mixing: Mixed[] | null;
  hardest: Doubtful | null;
  /** Throttle of the hardest if all units of a drive pushed alike; null where they are taken to. */
  alike: number | null;
  /** the same with the usable charge of its packs spent; beyond 1 nothing holds it then. Null: not known */
  emptied: {
    hardest: { value: number; sd: number };
    /** share of the charge that is left then */
    charge: number;
    reach: Holding["reach"];
  } | null;
  /** m from the CG to the middle of the units' thrust: aft, to starboard */
  offset: { x: number; y: number };
  /** the axes that units, moments and offset are told in */
  frame: Frame;
  /** it hovers as it stands on its baseline, and not on its tail */
  upright: boolean;
  /** Share of the weight times the largest arm: what moments are told against. */
  scale: number;
  /** the torque of some unit is not known: about yaw nothing is said */
  noTorque: boolean;
  /** What controls in a wash, and shifted masses, answer where no throttle does, against what they must hold there. */
  vanes: VaneLine[];
  /** N·m that all rotors' torques would come to if none cancelled another, at the throttle of hover */
  torqueScale: number;
  /** every surface is described: what is not there does not answer */
  whole: boolean;
  inputs: Omit<WorkingInput, "share">[];
}

/** An axis that no throttle commands. */
export interface VaneLine {
  turn: Turn;
  /** N·m at the throttle of hover, and its standard uncertainty */
  most: number;
  sd: number;
  names: string[];
  /** N·m that it must hold there: the rotors' torque, or the weight on the CG's distance from the thrust with its ± */
  need: number;
  word: "holds" | "thin" | "lost" | "never had";
}

/** It holds where what is always there takes half of it at most: the other half is for gusts and hands. */
const HALF = 0.5;
function vaneLine(turn: Turn, vaned: Vaned, shifted: ReturnType<typeof shiftedAbout>, need: number): VaneLine {
  const most = vaned.most + (shifted?.value ?? 0);
  const names = [...vaned.names, ...(shifted?.names ?? []).map((name) => `${name}, shifted`)];
  const sd = Math.hypot(VANE_DOUBT * vaned.most, shifted?.sd ?? 0);
  const least = most - sd;
  const word = most <= 0 ? "never had" : need <= HALF * least ? "holds" : need <= least ? "thin" : "lost";
  return { turn, most, sd, names, need, word };
}

/** The axes of a hover, as unit vectors in those of the craft. */
export type Frame = Record<"aft" | "side" | "up", Point>;

/**
 * The axes of hover: up is the way in which the units push together, so that a craft that stands on its tail is told in
 * the axes that it hovers in. Across stays y, unless it pushes along it.
 */
function hoverFrame(units: readonly Pick<Thruster, "toward" | "most">[]): Frame {
  const sum = (k: "x" | "y" | "z") => units.reduce((s, u) => s + u.most * u.toward[k], 0);
  const size = Math.hypot(sum("x"), sum("y"), sum("z")) || 1;
  const up = { x: sum("x") / size, y: sum("y") / size, z: sum("z") / size };
  const level = Math.hypot(up.x, up.z);
  if (level < 1e-6) return { aft: { x: 1, y: 0, z: 0 }, side: { x: 0, y: 1, z: 0 }, up: { x: 0, y: 0, z: 1 } };
  // y × up, aft; and up × that, to starboard.
  const aft = { x: up.z / level, y: 0, z: -up.x / level };
  return { aft, side: { x: up.y * aft.z, y: up.z * aft.x - up.x * aft.z, z: -up.y * aft.x }, up };
}

/** A point or a vector of the craft in the axes of its hover. */
export const inFrame = ({ aft, side, up }: Frame, p: Point): Point => {
  const dot = (a: Point) => a.x * p.x + a.y * p.y + a.z * p.z;
  return { x: dot(aft), y: dot(side), z: dot(up) };
};

/** What answers on the axes that no throttle commands, at the throttle of hover. */
function vanesOf(
  view: { units: readonly Unit[]; surfaces: readonly Surface[]; items: Parameters<typeof placedUnits>[0]["items"] },
  units: AuthorityResult["units"],
  holding: Holding,
  at: {
    cg: Point;
    turned: (p: Point) => Point;
    weight: number;
    doubt: { x: number; y: number };
    offset: [number, number];
  },
): VaneLine[] {
  const shares = holding.shares;
  if (!shares || holding.never.length === 0) return [];
  const placed = { units: [...view.units], items: view.items };
  const washes = units.flatMap((u, k): Washing[] => {
    const unit = view.units[u.drive];
    const where = placedUnits(placed, u.drive)[u.k];
    const radius = unit ? discOf(unit) : null;
    return where && radius !== null
      ? [{ at: where.at, toward: where.toward, thrust: u.most * (shares[k] ?? 0), radius }]
      : [];
  });
  const done = vanesIn(view.surfaces, inWashes(washes), at.cg, at.turned);
  const hoverCg = at.turned(at.cg);
  const torque = units.reduce((s, u, k) => s + (shares[k] ?? 0) * effectOf(u, hoverCg).yaw, 0);
  const need: Record<Turn, number> = {
    pitch: at.weight * (Math.abs(at.offset[0]) + at.doubt.x),
    roll: at.weight * (Math.abs(at.offset[1]) + at.doubt.y),
    yaw: Math.abs(torque),
  };
  const shifted = shiftedMass(view.items, at.turned);
  return holding.never.map((turn) => vaneLine(turn, done[turn], shiftedAbout(shifted, turn), need[turn]));
}

/** Hardest unit and what is left about each axis with the usable charge spent. */
function emptiedOf(
  units: readonly PlacedThruster[],
  cg: Point,
  weight: number,
  { left, charge }: EmptiedResult,
  hardest: Doubtful | null,
): AuthorityResult["emptied"] {
  const then = units.map((u) => ({ ...u, most: u.most * (left[u.drive] ?? 0) }));
  // Told beyond 1 too: as if each pushed several times as hard.
  const { shares } = holds(
    then.map((u) => ({ ...u, most: ROOM * u.most })),
    cg,
    weight,
  );
  if (!shares || !hardest) return null;
  const value = ROOM * Math.max(...shares);
  const { reach } = holds(then, cg, weight);
  return { hardest: { value, sd: (value * sdOf(hardest)) / hardest.value }, charge, reach };
}
const ROOM = 5;

/** A unit as it would be if it pushed as the mean of its like. */
const asMean = (u: PlacedThruster): PlacedThruster => ({ ...u, most: u.mean });
/** What the hardest unit was weighed at against its like; null where it was not. */
const cornerOfHardest = (units: readonly PlacedThruster[], shares: readonly number[] | null) =>
  (shares && units[shares.indexOf(Math.max(...shares))]?.corner) ?? null;

/** What commands each axis of a craft that hangs on its drives, with all of them and with any one dead. */
export const authority = subject({
  name: "authority",
  reads: ["states", "gasLift", "units", "items", "surfaces", "flight"],
  needs: [propulsion, balance, mass, emptied],
  gives: keysOf(quantities),
  compute(view, of): Outcome<AuthorityResult> {
    const support = supportOf(view);
    if (!support.onThrust || support.beats)
      return { status: "not covered", because: "it does not hang on the thrust of its drives" };
    const [drives, at, ledger] = [of(propulsion), of(balance), of(mass)];
    if (drives.status !== "solved") return drives;
    if (at.status !== "solved" || ledger.status !== "solved") return { status: "missing", needs: ["mass"] };
    const [open] = placesUnsaid(view.items, ...AXES);
    if (open !== undefined) return { status: "missing", needs: [`every part's place: ${open}`] };
    const read = thrustersOf(view, drives.result, drives.result.main);
    if ("lacks" in read) return { status: "missing", needs: [read.lacks] };
    const { units, noTorque } = read;
    if (units.length === 0) return { status: "missing", needs: ["a drive that lifts"] };
    const frame = hoverFrame(units);
    const turned = (p: Point) => inFrame(frame, p);
    for (const u of units) Object.assign(u, { at: turned(u.at), toward: turned(u.toward) });
    const cg = turned(at.result.cg);
    const { cgSd } = at.result;
    const upright = turned({ x: 0, y: 0, z: 1 }).z > 0.9;
    const { mass: m, massSd, evidence } = ledger.result;
    const weight = m * GRAVITY;
    const holding = holds(units, cg, weight);
    const hardestAt = (where: typeof cg) => {
      const { shares } = holds(units, where, weight);
      return shares && Math.max(...shares);
    };
    const here = holding.shares && Math.max(...holding.shares);
    const cornered = units.some((u) => u.corner);
    const alike = cornered ? holds(units.map(asMean), cg, weight).shares : null;
    const hard = cornerOfHardest(units, holding.shares);
    const total = units.reduce((s, u) => s + u.most * u.toward.z, 0);
    const doubt = upright ? { x: cgSd.x, y: cgSd.y } : { x: cgSd.z, y: cgSd.y };
    const middle = (axis: "x" | "y") => units.reduce((s, u) => s + u.most * u.toward.z * u.at[axis], 0) / (total || 1);
    const { thrust } = drives.result.values;
    let hardest: Doubtful | null = null;
    if (here !== null)
      hardest = {
        value: here,
        by: {
          "/thrust": (-here * sdOf(thrust)) / thrust.value,
          "/mass": (here * massSd) / m,
          "/cgX": (hardestAt({ ...cg, x: cg.x + doubt.x }) ?? 1) - here,
          "/cgY": (hardestAt({ ...cg, y: cg.y + doubt.y }) ?? 1) - here,
          ...(hard ? { "/corners": here * hard.sd } : {}),
        },
      };
    const spent = solved(of(emptied));
    const vanes = vanesOf(view, units, holding, {
      cg: at.result.cg,
      turned,
      weight,
      doubt,
      offset: [middle("x") - cg.x, middle("y") - cg.y],
    });
    const length = { dimension: "length" as const, source: null };
    return {
      status: "solved",
      result: {
        units,
        frame,
        holding,
        losses: losses(units, cg, weight, holding),
        mixing: mixingOf(units, cg, noTorque ? [...new Set([...holding.never, "yaw" as const])] : holding.never),
        hardest,
        alike: alike && Math.max(...alike),
        emptied: spent && emptiedOf(units, cg, weight, spent, hardest),
        offset: { x: middle("x") - cg.x, y: middle("y") - cg.y },
        upright,
        scale: weight * Math.max(...units.map((u) => Math.hypot(u.at.x - cg.x, u.at.y - cg.y)), 1e-3),
        noTorque,
        vanes: noTorque ? vanes.filter((v) => v.turn !== "yaw") : vanes,
        torqueScale: units.reduce((s, u, k) => s + Math.abs(holding.shares?.[k] ?? 0) * u.most * u.torque, 0),
        whole: view.flight.whole,
        inputs: [
          {
            name: "Thrust, standing, full throttle",
            value: thrust.value,
            sd: sdOf(thrust),
            dimension: "force",
            evidence: knownBy(drives.result.inputs, thrust),
            source: null,
          },
          { name: "All-up weight", value: m, sd: massSd, dimension: "mass", evidence, source: null },
          {
            name: upright ? "CG aft of datum" : "CG above baseline",
            value: upright ? at.result.cg.x : at.result.cg.z,
            sd: doubt.x,
            evidence: at.result.cgEvidence[upright ? "x" : "z"],
            ...length,
          },
          { name: "CG to starboard", value: cg.y, sd: doubt.y, evidence: at.result.cgEvidence.y, ...length },
          ...(hard
            ? [
                {
                  name: "Hardest unit over the mean, weighed",
                  value: hard.share,
                  sd: hard.sd,
                  dimension: "percent" as const,
                  evidence: "measured" as const,
                  source: null,
                },
              ]
            : []),
        ],
      },
    };
  },
  quantities(result, _view, of): Partial<Record<keyof typeof quantities, Quantity>> {
    const { hardest } = result;
    const [drives, ledger] = [of(propulsion), of(mass)];
    if (!hardest || drives.status !== "solved" || ledger.status !== "solved") return {};
    return {
      hoverShare: {
        value: hardest.value,
        sd: sdOf(hardest),
        dimension: "percent",
        evidence: evidenceByShare(hoverInputs(result)),
        ...doubtsOf(
          drives.result.outside,
          [...drives.result.incomplete, ...ledger.result.incomplete, ...(result.noTorque ? [NO_TORQUE] : [])],
          drives.result.unknown,
        ),
      },
    };
  },
  working: (_key, result) => hoverInputs(result).sort((a, b) => b.share - a.share),
});

const NO_TORQUE = "the torque of a measured drive is not known: about yaw nothing is said";
const NAMES = ["/thrust", "/mass", "/cgX", "/cgY", "/corners"];
/** What a hover rests on, with the share that each has in the doubt of a number that was made of it. */
export const hoverInputs = ({ inputs, hardest }: AuthorityResult, of: Doubtful | null = hardest): WorkingInput[] => {
  const shares = of ? sharesOf(of) : new Map<string, number>();
  return inputs.map((i, k) => ({ ...i, share: shares.get(NAMES[k] ?? "") ?? 0 }));
};
