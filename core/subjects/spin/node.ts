import { magnitudeSd } from "../../design/evidence";
import type { Design, Point, Unit } from "../../design/schema";
import { supportOf } from "../../design/support";
import { type Of, type Outcome, solved, subject } from "../../subject";
import { authority } from "../authority/node";
import { TURNING, type Turning } from "../axes/inFlight";
import { axes } from "../axes/node";
import { balance } from "../balance/node";
import { mass } from "../mass/node";
import { placesUnsaid } from "../mass/placed";
import { propulsion } from "../propulsion/node";
import { placedUnits } from "../propulsion/placed";

/** What whirls in a drive: how far out its mass sits. */
interface Whirl {
  /** m, to its tips or rim */
  radius: number;
  /** radius of gyration over that, and its standard uncertainty */
  share: number;
  sd: number;
}

/**
 * Radius of gyration of what a drive turns, as a share of its radius: a rod that is equal all along has 0.577, a blade
 * that thins outward less; a thin drum nearly 1 (judgement, from memory). Null for what it is not known of.
 */
function whirlOf(u: Pick<Unit, "propeller" | "propulsor" | "measured">): Whirl | null {
  if (u.measured) return null;
  const p = u.propulsor;
  if (!p) return { radius: u.propeller.diameter.value / 2, share: 0.46, sd: 0.07 };
  if (p.kind === "ducted fan") return { radius: p.diameter.value / 2, share: 0.55, sd: 0.1 };
  return null;
}

export interface Rotor {
  name: string;
  /** kg·m², of one; its standard uncertainty */
  inertia: number;
  sd: number;
  /** 1/min at full throttle, standing */
  rpm: number;
  /** N·m·s at full throttle, of all its units together, along the axes of the craft */
  stored: Point;
  /**
   * Shares of its inertia that are doubtful: how far out the mass sits (alike in all of a kind), and the mass itself.
   */
  doubt: { shape: number; mass: number };
  /** What is alike in rotors of one kind, and whose mass one entry says. */
  kind: string;
  item: string;
}

/** What opening the throttle at once does about an axis while nothing answers. */
export interface Kick {
  axis: Turning;
  /** rad/s, positive as the axis is */
  rate: number;
  sd: number;
}

/** Turned about one axis, it is pushed about another. */
export interface Push {
  turned: Turning;
  pushed: Turning;
  /** N·m at the rate that is told of */
  moment: number;
  sd: number;
  /** N·m that answers there; null where nothing does, or that is not known */
  answer: number | null;
}

export interface SpinResult {
  rotors: Rotor[];
  /** N·m·s, all together at full throttle */
  net: Point;
  /** their sum if none turned against another */
  whole: number;
  /** what is left is a twentieth of that at most, its doubt included */
  cancels: boolean;
  /** on its wings the air takes up what a throttle that is opened does: no kick is told */
  onWings: boolean;
  kicks: Kick[];
  pushes: Push[];
}

/** Rate at which precession is told, rad/s: a brisk turn by hand (judgement). */
export const BRISK = Math.PI / 2;
/** Share of the whole below which a push is not told: that of a drive that leans a little. */
const SLIGHT = 0.12;
/** Share of the whole below which rotors cancel. */
const CANCELS = 0.05;

type View = Pick<Design, "units" | "items" | "states"> & { gasLift?: Design["gasLift"] };

function rotorsOf(view: View, of: Of): { rotors: Rotor[] } | { needs: string } | { because: string } {
  const drives = of(propulsion);
  if (drives.status === "not covered") return { because: drives.because };
  if (drives.status !== "solved") return { needs: "the drives" };
  const rotors: Rotor[] = [];
  for (const [i, unit] of view.units.entries()) {
    const whirl = whirlOf(unit);
    if (!whirl) return { because: `how much turns in ${unit.name} is not known` };
    const item = view.items.find((p) => p.id === unit.propellerItemId);
    if (!item?.mass) return { needs: `the mass of what ${unit.name} turns, in the list` };
    const rpm = drives.result.drives[i]?.values.rpm ?? Number.NaN;
    if (!(rpm > 0)) return { needs: `how fast ${unit.name} turns` };
    const placed = placedUnits(view, i);
    if (placed.length !== unit.count) return { needs: `a place for each unit of ${unit.name}` };
    const gyration = whirl.share * whirl.radius;
    const inertia = item.mass.value * gyration ** 2;
    const doubt = { shape: (2 * whirl.sd) / whirl.share, mass: magnitudeSd(item.mass) / item.mass.value };
    const sd = inertia * Math.hypot(doubt.shape, doubt.mass);
    const omega = (rpm * 2 * Math.PI) / 60;
    const stored = { x: 0, y: 0, z: 0 };
    for (const { toward, k } of placed) {
      const alone = unit.spin === "clockwise" ? 1 : -1;
      const way = unit.spin === "half each" ? (k % 2 === 0 ? 1 : -1) : alone;
      // Clockwise seen from behind it turns along the way it pushes.
      for (const a of ["x", "y", "z"] as const) stored[a] += way * inertia * omega * toward[a];
    }
    const kind = unit.propulsor?.kind ?? "open propeller";
    rotors.push({ name: unit.name, inertia, sd, rpm, stored, doubt, kind, item: item.id });
  }
  return { rotors };
}

const size = ({ x, y, z }: Point) => Math.hypot(x, y, z);
const total = (rotors: readonly Rotor[]): Point => {
  const sum = (a: "x" | "y" | "z") => rotors.reduce((s, r) => s + r.stored[a], 0);
  return { x: sum("x"), y: sum("y"), z: sum("z") };
};
/**
 * Standard uncertainty of what rotors store together, N·m·s. How far out the mass sits is wrong alike in rotors of one
 * kind, a mass in all that one entry says: what cancels in them cancels in their errors. Others err by themselves.
 */
function doubtOf(rotors: readonly Rotor[]): number {
  const by = (key: "kind" | "item", share: "shape" | "mass") =>
    [...new Set(rotors.map((r) => r[key]))].map((one) => {
      const alike = rotors.filter((r) => r[key] === one);
      return size(total(alike)) * Math.max(...alike.map((r) => r.doubt[share]));
    });
  return Math.hypot(...by("kind", "shape"), ...by("item", "mass"));
}

/** What there is to answer about an axis, N·m; nothing where the mass or the thrust behind it is not known. */
function answersOf(of: Of): Partial<Record<Turning, number>> {
  const [drives, ledger] = [solved(of(propulsion)), solved(of(mass))];
  if (!drives || !ledger || [...ledger.incomplete, ...drives.unknown, ...drives.outside].length > 0) return {};
  const hung = solved(of(authority));
  // On its tail it is told in the axes of its hover, which are others.
  if (hung) {
    if (!hung.upright) return {};
    return Object.fromEntries(
      TURNING.filter((t) => !hung.holding.never.includes(t)).map((t) => [
        t,
        Math.min(hung.holding.reach[t].plus, hung.holding.reach[t].minus),
      ]),
    );
  }
  const board = solved(of(axes));
  if (board?.kind !== "wings") return {};
  const slow = board.moments.find((m) => m.moment === "slow")?.lines ?? [];
  return Object.fromEntries(slow.flatMap((l) => (l.answer && l.open.length === 0 ? [[l.axis, l.answer.value]] : [])));
}

/** Body axes of the three turns: starboard down about −x, nose up about +y, nose to starboard about −z. */
const ABOUT: Record<Turning, { axis: "x" | "y" | "z"; sign: 1 | -1 }> = {
  roll: { axis: "x", sign: -1 },
  pitch: { axis: "y", sign: 1 },
  yaw: { axis: "z", sign: -1 },
};

/** A couple along the axes of the craft, as the turns name it. */
const along = (m: Point, turn: Turning): number => ABOUT[turn].sign * m[ABOUT[turn].axis];

/** What turns stores angular momentum: what spinning it up does to the craft, and what turning the craft does then. */
export const spin = subject({
  name: "spin",
  reads: ["units", "items", "states", "gasLift"],
  needs: [propulsion, mass, balance, authority, axes],
  compute(view, of): Outcome<SpinResult> {
    const support = supportOf(view);
    if (view.units.length === 0) return { status: "missing", needs: ["a drive"] };
    if (support.beats) return { status: "not covered", because: "it flies by beating wings" };
    if (!support.leavesGround && !support.gas)
      return { status: "not covered", because: "what it floats or stands on takes up what its rotors store" };
    const found = rotorsOf(view, of);
    if ("because" in found) return { status: "not covered", because: found.because };
    if ("needs" in found) return { status: "missing", needs: [found.needs] };
    const { rotors } = found;
    const net = total(rotors);
    const counts = view.units.map((u) => u.count);
    const whole = rotors.reduce((s, r, i) => s + ((counts[i] ?? 1) * r.inertia * r.rpm * 2 * Math.PI) / 60, 0);
    const sd = doubtOf(rotors);
    const cancels = size(net) + sd <= CANCELS * whole;
    const doubt = sd / Math.max(size(net), 1e-12);
    const at = of(balance);
    const placed = at.status === "solved" && placesUnsaid(view.items, "x", "y", "z").length === 0 ? at.result : null;
    const onWings = support.ways.includes("wings");
    const kicks =
      placed && !onWings
        ? TURNING.map((axis): Kick => {
            // The body turns against what its rotors take up.
            const rate = -along(net, axis) / placed.inertia[axis];
            const off = (rate * placed.inertiaSd[axis]) / placed.inertia[axis];
            return { axis, rate, sd: Math.hypot(sd / placed.inertia[axis], off) };
          })
        : [];
    const answers = answersOf(of);
    const pushes = TURNING.flatMap((turned) => {
      const w = { x: 0, y: 0, z: 0 };
      w[ABOUT[turned].axis] = ABOUT[turned].sign * BRISK;
      // The rotors' momentum is carried round: the body feels −ω × H.
      const m = {
        x: -(w.y * net.z - w.z * net.y),
        y: -(w.z * net.x - w.x * net.z),
        z: -(w.x * net.y - w.y * net.x),
      };
      return TURNING.flatMap((pushed): Push[] => {
        const moment = along(m, pushed);
        if (pushed === turned || Math.abs(moment) <= SLIGHT * whole * BRISK) return [];
        return [{ turned, pushed, moment, sd: Math.abs(moment) * doubt, answer: answers[pushed] ?? null }];
      });
    });
    return { status: "solved", result: { rotors, net, whole, cancels, onWings, kicks, pushes } };
  },
});
