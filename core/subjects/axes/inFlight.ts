import type { Sure } from "../../numeric/doubt";
import { type Shifted, shiftedAbout } from "../mass/shifted";

export const TURNING = ["roll", "pitch", "yaw"] as const;
export type Turning = (typeof TURNING)[number];

/** Something that turns the craft, or that can be set against it, N·m; positive as its axis is. */
export interface Piece {
  what: "torque" | "offset" | "thrust line" | "thrust beside" | "control" | "fins" | "wind" | "body" | "waves";
  value: number;
  sd: number;
}
export type Word = "holds" | "thin" | "lost" | "never had" | "open";

/** What turns a craft about one axis, and what answers. */
export interface AxisLine {
  axis: Turning;
  disturbs: Piece[];
  /** What can be set against it, that way: N·m, without a sign. Null: nothing is there. */
  answer: { value: number; sd: number } | null;
  /** What of that is mass that a servo shifts; not there where nothing is. */
  shifted?: (Sure & { names: string[] }) | null;
  /** Share of the answer that the disturbance takes; null where there is none. */
  share: number | null;
  word: Word;
  /** Inputs that are not known: the word is open then. */
  open: string[];
}

/**
 * Part of an answer that what is always there may take: the other half is for gusts and for hands (common practice, as
 * for the roll control against the motor's torque).
 */
export const HALF = 0.5;

/** One line of the board: worded by what it takes at its worst, one standard uncertainty each. */
export function lineOf(axis: Turning, disturbs: Piece[], answer: AxisLine["answer"], open: string[]): AxisLine {
  const sum = disturbs.reduce((s, p) => s + p.value, 0);
  const sd = Math.hypot(...disturbs.map((p) => p.sd));
  const share = answer && answer.value > 0 ? Math.abs(sum) / answer.value : null;
  const worst = answer ? (Math.abs(sum) + sd) / Math.max(answer.value - answer.sd, 1e-12) : Number.POSITIVE_INFINITY;
  const word: Word =
    open.length > 0
      ? "open"
      : answer === null
        ? "never had"
        : share === null || share > 1
          ? "lost"
          : worst > HALF
            ? "thin"
            : "holds";
  return { axis, disturbs, answer, share, word, open };
}

/** What the board of a craft on its wings is reckoned from, at one speed and thrust. */
export interface WingedState {
  /** ½ρV², Pa */
  pressure: number;
  /** N */
  weight: number;
  /** N: thrust along the flight, and the drag there */
  thrust: Sure | null;
  drag: number;
  /** The thrust is that of the stand: how it falls with speed is not known. It is no more than this. */
  most: boolean;
  /** N·m on the body about its length, starboard down positive; null: a torque is not known */
  torque: Sure | null;
  /** m: of the thrust over the CG, and beside it to starboard; null where nobody placed the drives */
  arm: { over: Sure; beside: Sure } | null;
  /** m to starboard of the plane of symmetry; null while a part has no place across */
  cgAcross: Sure | null;
  /** m of doubt along */
  cgAlong: number;
  /** m³ at full travel; null: there is none */
  roll: Sure | null;
  yaw: Sure | null;
  /** mass that a servo shifts */
  shift?: Shifted | null;
  /** N·m that waves turn it with, one way and the other; null: none are named, or none reach it */
  waves: { pitch: Sure; roll: Sure } | null;
  /** nose up, m³ per rad, and the travel each way that trim leaves, rad; null without a pitch control */
  pitch: { perRad: Sure; up: number; down: number } | null;
}

const TORQUE = "the torque of a drive is not known";
const PLACES = "a part has no place across";
const DRIVES = "where the drives push is not said";
const THRUST = "the thrust is not known";
const FALLS = "how its thrust falls with speed is not known";

/**
 * The three axes of a craft on its wings. Roll: the motors' torque and a CG beside the middle, against the roll
 * controls. Pitch: thrust beyond (or short of) the drag on its arm, against what trim leaves of the pitch control.
 * Yaw: thrust beside the CG, against the rudder. Gusts, wash and the pilot's own inputs are not counted.
 */
export function linesOf(s: WingedState): AxisLine[] {
  const answer = (control: Sure | null) =>
    control && { value: s.pressure * control.value, sd: s.pressure * control.sd };
  const extra = s.thrust && { value: s.thrust.value - s.drag, sd: s.thrust.sd };
  const pushes = (s.thrust?.value ?? 1) > 0;
  const roll: Piece[] = [];
  if (s.torque && s.torque.value !== 0) roll.push({ what: "torque", ...s.torque });
  if (s.cgAcross) roll.push({ what: "offset", value: s.weight * s.cgAcross.value, sd: s.weight * s.cgAcross.sd });
  const pitch: Piece[] = [{ what: "offset", value: 0, sd: s.weight * s.cgAlong }];
  const yaw: Piece[] = [];
  if (s.arm && extra && s.thrust) {
    const { over, beside } = s.arm;
    pitch.push({
      what: "thrust line",
      value: -over.value * extra.value,
      sd: Math.hypot(over.value * extra.sd, over.sd * extra.value),
    });
    // Thrust to starboard of the CG turns the nose to port.
    if (s.thrust.value > 0)
      yaw.push({
        what: "thrust beside",
        value: -beside.value * s.thrust.value,
        sd: Math.hypot(beside.value * s.thrust.sd, beside.sd * s.thrust.value),
      });
  }
  const still = pitch.reduce((sum, p) => sum + p.value, 0);
  // What pitches the nose down is answered by travel up, and the other way round.
  const leftFor = (turned: number) => (turned <= 0 ? (s.pitch?.up ?? 0) : (s.pitch?.down ?? 0));
  if (s.waves) {
    // They come both ways: told the way that is answered worse.
    const way = (by: number) => Math.abs(still + by) / Math.max(leftFor(still + by), 1e-9);
    const most = s.waves.pitch.value;
    pitch.push({ what: "waves", ...s.waves.pitch, value: way(most) > way(-most) ? most : -most });
    const leans = roll.reduce((sum, p) => sum + p.value, 0);
    roll.push({ what: "waves", ...s.waves.roll, value: (leans < 0 ? -1 : 1) * s.waves.roll.value });
  }
  const left = s.pitch && leftFor(pitch.reduce((sum, p) => sum + p.value, 0));
  const thrustOpen = s.thrust === null ? [THRUST] : pushes && s.arm === null ? [DRIVES] : [];
  const withShift = (axis: "roll" | "pitch", control: Sure | null): Sure | null => {
    const by = shiftedAbout(s.shift ?? null, axis);
    return by ? { value: (control?.value ?? 0) + by.value, sd: Math.hypot(control?.sd ?? 0, by.sd) } : control;
  };
  const lines = [
    lineOf("roll", roll, withShift("roll", answer(s.roll)), [
      ...(s.torque === null ? [TORQUE] : []),
      ...(s.cgAcross === null ? [PLACES] : []),
    ]),
    lineOf(
      "pitch",
      pitch,
      withShift(
        "pitch",
        s.pitch && {
          value: s.pressure * s.pitch.perRad.value * Math.max(0, left ?? 0),
          sd: s.pressure * s.pitch.perRad.sd * Math.max(0, left ?? 0),
        },
      ),
      thrustOpen,
    ),
    lineOf("yaw", yaw, answer(s.yaw), thrustOpen),
  ].map((l) => ({ ...l, shifted: shiftedAbout(s.shift ?? null, l.axis) }));
  // What is answered at the thrust of the stand is answered at less of it; what is not may be.
  return s.most
    ? lines.map((l) => (l.word === "thin" || l.word === "lost" ? { ...l, word: "open", open: [...l.open, FALLS] } : l))
    : lines;
}
