import { type Supported, supportOf } from "../../design/support";
import type { Driven } from "../propulsion/inputs";
import { type Outcome, subject } from "../../subject";
import { isBeside, notCovered, standingOnly, wetDrive } from "../propulsion/covered";
import { indices, missingOf, solveAll } from "../propulsion/nominal";
import { DRIVEN } from "../propulsion/node";
import { plainSetup } from "../propulsion/vary";

/** Shares of its standing thrust and torque that a drive has at a speed and full throttle. */
export interface FallenAt {
  thrust: number;
  torque: number;
}
export interface FallingResult {
  /** m/s, rising from 0 by equal steps */
  speeds: number[];
  /** of each drive, at each speed */
  drives: FallenAt[][];
}

/** Speeds that are looked at: between them thrust falls nearly straight. */
const STEPS = 8;
/** m/s up to which it is looked at: faster than small craft are let go or fly slowly, in air and on their foils. */
const FASTEST = { dry: 40, wet: 16 };

/**
 * How thrust and torque fall with speed at full throttle, drive by drive: of the drives alone, whatever the mass and
 * wherever the CG, so that a part that is moved solves nothing.
 */
export const falling = subject({
  name: "falling",
  cost: "slow",
  reads: DRIVEN,
  compute(view): Outcome<FallingResult> {
    if (!supportOf(view).ways.includes("wings"))
      return { status: "not covered", because: "it is not held up by wings" };
    const missing = missingOf(view);
    if (missing.length > 0) return { status: "missing", needs: missing };
    const because = notCovered(view) ?? standingOnly(view);
    if (because !== null) return { status: "not covered", because };
    return fallen(view);
  },
});

/** The drives solved at every speed that is looked at. */
function fallen(view: Driven): Outcome<FallingResult> {
  const setup = plainSetup(view);
  const fastest = wetDrive(view) ? FASTEST.wet : FASTEST.dry;
  const speeds = Array.from({ length: STEPS + 1 }, (_, k) => (k * fastest) / STEPS);
  let near: Parameters<typeof solveAll>[4] = null;
  const solved = speeds.map((v) => {
    const s = solveAll(setup, 1, v, indices(setup), near);
    if (s.status === "converged") near = s.states;
    return s;
  });
  const [still] = solved;
  if (still?.status !== "converged") return { status: "failed", reason: "the drives were not solved standing" };
  const shares = (i: number): FallenAt[] =>
    solved.map((s) => {
      const [at, now] = [still.points[i], s.status === "converged" ? s.points[i] : undefined];
      // Beyond its pitch speed it pushes no more; what is not solved there is taken for that.
      return at && now && at.thrust > 0 && at.torque > 0
        ? { thrust: Math.max(0, now.thrust) / at.thrust, torque: Math.max(0, now.torque) / at.torque }
        : { thrust: 0, torque: 0 };
    });
  return { status: "solved", result: { speeds, drives: still.points.map((_, i) => shares(i)) } };
}

export type Fallen = FallingResult;
/**
 * The same of any craft, whatever holds it up; or why not. Of discs beside others it is the share of one by itself:
 * what a partner or a neighbour takes grows less the faster air comes in, so that none of them is made too strong by
 * it.
 */
export function fallenShares(given: Driven & Supported): Fallen | { because: string } {
  const apart = (u: Driven["units"][number]) =>
    isBeside(u) ? { ...u, around: u.around.filter((a) => a.kind !== "coaxial" && a.kind !== "overlap") } : u;
  const design = { ...given, units: given.units.map(apart) };
  const because = notCovered(design) ?? standingOnly(design);
  if (because !== null) return { because };
  const found = fallen(design);
  return found.status === "solved" ? found.result : { because: "the drives are not solved at speed" };
}

/** The shares at a speed (m/s), drive by drive; faster than was looked at as at the fastest. */
export function fallenAt({ speeds, drives }: FallingResult, speed: number): FallenAt[] {
  const step = (speeds[1] ?? 1) - (speeds[0] ?? 0);
  const at = Math.min(Math.max(speed / step, 0), speeds.length - 1);
  const k = Math.min(Math.floor(at), speeds.length - 2);
  const f = at - k;
  const none: FallenAt = { thrust: 0, torque: 0 };
  return drives.map((d) => {
    const [a, b] = [d[k] ?? none, d[k + 1] ?? none];
    return { thrust: a.thrust + f * (b.thrust - a.thrust), torque: a.torque + f * (b.torque - a.torque) };
  });
}
