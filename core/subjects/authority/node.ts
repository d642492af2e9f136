import { placesUnsaid } from "../mass/placed";
import { AXES, type Point } from "../../design/schema";
import { evidenceByShare } from "../../design/evidence";
import type { Quantity, WorkingInput } from "../../design/quantity";
import { supportOf } from "../../design/support";
import { type Doubtful, sdOf, sharesOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, keysOf, subject } from "../../subject";
import { GRAVITY } from "../air/air";
import { balance } from "../balance/node";
import { mass } from "../mass/node";
import { propulsion } from "../propulsion/node";
import { placedUnits } from "../propulsion/placed";
import { knownBy } from "../propulsion/words";
import { type Holding, type Loss, type Thruster, holds, losses } from "./allocate";
import { type Mixed, mixingOf } from "./mixing";
import { quantities } from "./declares";

export interface AuthorityResult {
  /** The units that hold it up, in the order of the allocation. */
  units: (Thruster & { drive: number; k: number; name: string })[];
  holding: Holding;
  losses: Loss[];
  /** How each unit answers what is asked; null where lift and the axes cannot be asked by themselves. */
  mixing: Mixed[] | null;
  hardest: Doubtful | null;
  /** m from the CG to the middle of the units' thrust: aft, to starboard */
  offset: { x: number; y: number };
  /** it hovers as it stands on its baseline, and not on its tail */
  upright: boolean;
  /** Share of the weight times the largest arm: what moments are told against. */
  scale: number;
  /** the torque of some unit is not known: about yaw nothing is said */
  noTorque: boolean;
  inputs: Omit<WorkingInput, "share">[];
}

/**
 * The axes of hover: up is the way in which the units push together, so that a craft that stands on its tail is told in
 * the axes that it hovers in. Across stays y, unless it pushes along it.
 */
function hoverAxes(units: readonly Pick<Thruster, "toward" | "most">[]): (p: Point) => Point {
  const sum = (k: "x" | "y" | "z") => units.reduce((s, u) => s + u.most * u.toward[k], 0);
  const size = Math.hypot(sum("x"), sum("y"), sum("z")) || 1;
  const up = { x: sum("x") / size, y: sum("y") / size, z: sum("z") / size };
  const level = Math.hypot(up.x, up.z);
  if (level < 1e-6) return (p) => p;
  // y × up, aft; and up × that, to starboard.
  const aft = { x: up.z / level, y: 0, z: -up.x / level };
  const side = { x: up.y * aft.z, y: up.z * aft.x - up.x * aft.z, z: -up.y * aft.x };
  const dot = (a: Point, b: Point) => a.x * b.x + a.y * b.y + a.z * b.z;
  return (p) => ({ x: dot(p, aft), y: dot(p, side), z: dot(p, up) });
}

/** What commands each axis of a craft that hangs on its drives, with all of them and with any one dead. */
export const authority = subject({
  name: "authority",
  reads: ["states", "gasLift", "units", "items"],
  needs: [propulsion, balance, mass],
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
    const units: AuthorityResult["units"] = [];
    let noTorque = false;
    for (const i of drives.result.main) {
      const [drive, unit] = [drives.result.drives[i], view.units[i]];
      if (!drive || !unit) continue;
      const placed = placedUnits(view, i);
      if (placed.length !== unit.count) return { status: "missing", needs: [`a place for each unit of ${unit.name}`] };
      const most = drive.values.thrust / drive.count;
      const known = Number.isFinite(drive.values.torque) && drive.values.torque > 0;
      noTorque ||= !known;
      for (const { at: where, toward, k } of placed)
        units.push({
          at: where,
          toward,
          most,
          torque: known ? drive.values.torque / most : 0,
          // Half each way: one after the other.
          spin: unit.spin === "half each" ? (k % 2 === 0 ? 1 : -1) : unit.spin === "clockwise" ? 1 : -1,
          reversible: unit.reversible,
          drive: i,
          k,
          name: drive.count > 1 ? `${unit.name}, unit ${k + 1}` : unit.name,
        });
    }
    if (units.length === 0) return { status: "missing", needs: ["a drive that lifts"] };
    const turned = hoverAxes(units);
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
        },
      };
    const length = { dimension: "length" as const, source: null };
    return {
      status: "solved",
      result: {
        units,
        holding,
        losses: losses(units, cg, weight, holding),
        mixing: mixingOf(units, cg, noTorque ? [...new Set([...holding.never, "yaw" as const])] : holding.never),
        hardest,
        offset: { x: middle("x") - cg.x, y: middle("y") - cg.y },
        upright,
        scale: weight * Math.max(...units.map((u) => Math.hypot(u.at.x - cg.x, u.at.y - cg.y)), 1e-3),
        noTorque,
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
        evidence: evidenceByShare(shared(result)),
        ...doubtsOf(
          drives.result.outside,
          [...drives.result.incomplete, ...ledger.result.incomplete, ...(result.noTorque ? [NO_TORQUE] : [])],
          drives.result.unknown,
        ),
      },
    };
  },
  working: (_key, result) => shared(result).sort((a, b) => b.share - a.share),
});

const NO_TORQUE = "the torque of a measured drive is not known: about yaw nothing is said";
const NAMES = ["/thrust", "/mass", "/cgX", "/cgY"];
const shared = ({ hardest, inputs }: AuthorityResult): WorkingInput[] => {
  const shares = hardest ? sharesOf(hardest) : new Map<string, number>();
  return inputs.map((i, k) => ({ ...i, share: shares.get(NAMES[k] ?? "") ?? 0 }));
};
