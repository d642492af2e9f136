import type { HeldUpBy, Item, Point, Surface } from "../../design/schema";
import { type Supported, supportOf } from "../../design/support";
import type { Turn } from "../authority/allocate";
import { type Outcome, solved, whyNone } from "../../subject";
import { type PlacedThruster, thrustersOf } from "../authority/thrusters";
import { weighedOf } from "../flight/weighed";
import type { Righting, Upright } from "../floats/node";
import type { Hangs } from "../gas/node";
import type { Sure } from "../../numeric/doubt";
import { shiftedAbout, shiftedMass } from "../mass/shifted";
import type { PropulsionResult } from "../propulsion/node";
import type { placedUnits } from "../propulsion/placed";
import { type Flowed, flowedBy } from "./flowing";
import { type Command, type Commanded, type Driver, SIX, type SixAxis, commands, wordOf } from "./six";

/** An axis of a craft that does not hang on its drives. */
export interface SixLine {
  axis: SixAxis;
  command: Command;
  /** N or N·m below which an effect counts as none */
  least: number;
  word: Commanded;
  /** What holds it there without any drive. */
  held: "water" | "ground" | "cushion" | "weight below lift" | null;
  /** what weight below a gas's lift does there, or why that is open; null: it does nothing that is computed */
  hangs: Hangs | { open: string } | null;
  /** how the water turns it back, upright and level; null: nothing is known of that, or nothing holds it so */
  rights: Righting | null;
  /** Controls that turn it about this axis where a flow meets them; null: no surface has one */
  flowed: Flowed | null;
  /** mass that a servo shifts about it; null: none does */
  shifted: (Sure & { names: string[] }) | null;
  /** N·m at full command as it was weighed; null: it was not */
  weighed: { value: number; sd: number } | null;
}
export interface DeadDriver {
  name: string;
  command: Record<SixAxis, Command>;
  /** Axes that are commanded less well without it. */
  changed: { axis: SixAxis; from: Commanded; to: Commanded }[];
  /** Share that is left of the most thrust ahead; 1 where it gave none. */
  surgeLeft: number;
}

/** What is known of the axes while what the drives push is not. */
export interface Unpushed {
  kind: "unpushed";
  /** why what the drives command is open */
  open: string;
  lines: Pick<SixLine, "axis" | "held" | "hangs" | "rights" | "flowed" | "shifted">[];
  otherDrives: boolean;
}

/** Six axes by the drives; what one dead unit leaves of them is asked for where somebody looks. */
export interface ByDrives {
  kind: "drives";
  lines: SixLine[];
  drivers: (Driver & { name: string })[];
  cg: Point;
  /** What was weighed was so with other drives than these: it does not count. */
  otherDrives: boolean;
  /** Standard uncertainty of the least known drive's thrust, as a share of it: that of every number here, at most. */
  share: number;
}

/** What holds an axis by itself, by what carries the craft. */
const HELD: Partial<Record<HeldUpBy, { by: NonNullable<SixLine["held"]>; axes: SixAxis[] }>> = {
  hull: { by: "water", axes: ["heave", "roll", "pitch"] },
  ground: { by: "ground", axes: ["heave", "roll", "pitch"] },
  cushion: { by: "cushion", axes: ["heave", "roll", "pitch"] },
  // Where the weight hangs below what lifts; how far is not computed here.
  gas: { by: "weight below lift", axes: ["roll", "pitch"] },
  submerged: { by: "weight below lift", axes: ["roll", "pitch"] },
};

/**
 * Share of its thrust that a propeller gives when it turns backwards: its camber and twist stand the wrong way round.
 * Between 0.5 and 0.7 for usual blades (common practice, from memory).
 */
const ASTERN = 0.6;
/** Shares of what all drives could do together that count as an effect (judgement). */
const LEAST = 0.01;

type Design = Parameters<typeof placedUnits>[0] & Parameters<typeof supportOf>[0];

/** Each unit as it acts; what lacks is the name of a drive that has no place or no thrust. */
function driversOf(
  view: Design,
  drives: PropulsionResult,
): { drivers: (Driver & PlacedThruster)[] } | { lacks: string } {
  const read = thrustersOf(view, drives, [...drives.drives.keys()]);
  if ("lacks" in read) return read;
  const drivers = read.units.map((u) => {
    const { kind } = view.units[u.drive]?.propulsor ?? {};
    const turnsAlike = kind === "screw drum" || kind === "wheel";
    return { ...u, astern: !u.reversible ? 0 : turnsAlike ? 1 : ASTERN };
  });
  return { drivers };
}

type Weighed = Parameters<typeof weighedOf>[0];

/** What holds or turns each axis whatever the drives do. */
function undriven(
  view: Supported & { items: readonly Item[] },
  flowed: Record<Turn, Flowed>,
  hangs: SixLine["hangs"],
  upright: Upright | null,
): Unpushed["lines"] {
  const shifted = shiftedMass(view.items);
  const held = new Map<SixAxis, NonNullable<SixLine["held"]>>();
  for (const way of supportOf(view).ways)
    for (const axis of HELD[way]?.axes ?? []) held.set(axis, HELD[way]?.by ?? "water");
  return SIX.map((axis) => {
    const turned = axis === "roll" || axis === "pitch" || axis === "yaw" ? flowed[axis] : null;
    const by = held.get(axis) ?? null;
    return {
      axis,
      held: by,
      hangs: by === "weight below lift" ? hangs : null,
      rights: by === "water" && upright && (axis === "roll" || axis === "pitch") ? upright[axis] : null,
      flowed: turned && turned.names.length > 0 ? turned : null,
      shifted: shiftedAbout(shifted, axis),
    };
  });
}

interface Around {
  cg: Point;
  /** kg/m³ */
  density: Parameters<typeof flowedBy>[3];
  /** m of the water's surface over the baseline; null: not known */
  level: number | null;
  hangs: SixLine["hangs"];
  /** how the water turns a hull back */
  upright: Upright | null;
}

/** The six axes of a craft that something else holds up. */
export function ofDrives(
  view: Design & { surfaces: readonly Surface[] } & Weighed,
  pushed: Outcome<PropulsionResult>,
  { cg, density, level, hangs, upright }: Around,
): Outcome<ByDrives | Unpushed> {
  const drives = solved(pushed);
  const read = drives
    ? driversOf(view, drives)
    : { lacks: view.units.length > 0 ? (whyNone(pushed) ?? "drives") : "a drive" };
  const steering = weighedOf(view, "steering");
  const otherDrives = steering === null && view.flight.steering !== null;
  const lacks = "lacks" in read ? read.lacks : [...(drives?.unknown ?? []), ...(drives?.outside ?? [])][0];
  if (!drives || "lacks" in read || lacks !== undefined) {
    // Controls and weight do what they do without them.
    const lines = undriven(view, flowedBy(view, null, cg, density, level), hangs, upright);
    return lines.some((l) => l.flowed || l.shifted || l.rights || (l.hangs && !("open" in l.hangs)))
      ? {
          status: "solved",
          result: { kind: "unpushed", open: view.units.length > 0 ? (lacks ?? "") : "it has none", lines, otherDrives },
        }
      : drives || view.units.length === 0
        ? { status: "missing", needs: [lacks ?? "what its drives push"] }
        : (pushed as Exclude<Outcome<never>, { status: "solved" }>);
  }
  const { drivers } = read;
  const lines = undriven(view, flowedBy(view, drivers, cg, density, level), hangs, upright);
  const free = lines.filter((l) => l.held !== null).map((l) => l.axis);
  const total = drivers.reduce((s, d) => s + d.most, 0);
  const size = Math.max(...drivers.map((d) => Math.hypot(d.at.x - cg.x, d.at.y - cg.y, d.at.z - cg.z)), 1e-3);
  const all = commands(drivers, cg, free);
  return {
    status: "solved",
    result: {
      kind: "drives",
      otherDrives,
      drivers,
      cg,
      share: Math.max(...drives.drives.map((d) => d.sd.thrust / d.values.thrust)),
      lines: lines.map((line, k) => {
        const least = LEAST * total * (k < 3 ? 1 : size);
        return {
          ...line,
          command: all[line.axis],
          least,
          word: wordOf(all[line.axis], least),
          weighed: line.axis === "yaw" ? steering : null,
        };
      }),
    },
  };
}

/** What one dead unit leaves of the axes, and of the thrust ahead. */
export function lossOf({ lines, drivers, cg }: ByDrives, dead: number): DeadDriver {
  const free = lines.filter((l) => l.held !== null).map((l) => l.axis);
  const left = commands(drivers, cg, free, dead);
  const ahead = lines.find((l) => l.axis === "surge")?.command.coupled.plus ?? 0;
  return {
    name: drivers[dead]?.name ?? "",
    command: left,
    changed: lines.flatMap(({ axis, word, least }) => {
      const to = wordOf(left[axis], least);
      return to === word ? [] : [{ axis, from: word, to }];
    }),
    surgeLeft: ahead > 0 ? left.surge.coupled.plus / ahead : 1,
  };
}
