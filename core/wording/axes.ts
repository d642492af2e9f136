import type { AxisLine, Piece, Turning, Word } from "../subjects/axes/inFlight";
import type { UnitHabit } from "../design/units";
import type { Gust } from "../subjects/axes/gust";
import type { SixLine } from "../subjects/axes/byDrives";
import type { AtSpeed } from "../subjects/axes/node";
import { plain, show } from "./format";
import type { Flowed } from "../subjects/axes/flowing";
import type { Commanded, SixAxis } from "../subjects/axes/six";

/** The moment of flight that a board is of. */
export const MOMENT_WORD: Record<AtSpeed["moment"], string> = {
  "let go": "let go, full throttle",
  slow: "slow flight",
  cruise: "cruise, its farthest glide",
  closed: "throttle closed",
  emptied: "pack nearly empty",
  "on foils": "on its foils, full throttle",
  "foils closed": "on its foils, throttle closed",
  "foils emptied": "on its foils, pack nearly empty",
};

export const TURN_WORD: Record<Turning, string> = { roll: "Roll", pitch: "Pitch", yaw: "Yaw" };

/** What turns it, with the side that it turns to. */
export function pieceText({ what, value }: Pick<Piece, "what" | "value">, axis: Turning): string {
  const [plus, minus] = {
    roll: ["starboard down", "port down"],
    pitch: ["nose up", "nose down"],
    yaw: ["nose to starboard", "nose to port"],
  }[axis];
  const name = {
    torque: "motor torque",
    offset: axis === "pitch" ? "doubt of the CG" : "CG beside the middle",
    "thrust line": "thrust line",
    "thrust beside": "thrust beside the CG",
    control: "control",
    fins: "fins",
    wind: "wind",
    body: "body at a slant to the wind",
    waves: "waves, as they come",
  }[what];
  return value === 0 ? name : `${name}, ${value > 0 ? plus : minus}`;
}

export const WORD_COLOUR: Record<Word, "clear" | "care" | "stop"> = {
  holds: "clear",
  thin: "care",
  lost: "stop",
  "never had": "care",
  open: "care",
};

/** What answers about an axis; what is missing where nothing does. */
export function answerText({ axis, answer, shifted }: Pick<AxisLine, "axis" | "answer" | "shifted">): string {
  const moved = shifted ? [`${shifted.names.join(", ")}, shifted`] : [];
  const steered = (answer?.value ?? 0) > (shifted?.value ?? 0) * (1 + 1e-9) || (answer !== null && !shifted);
  const by = { roll: "roll control, full travel", pitch: "pitch control, beyond its trim", yaw: "rudder, full travel" };
  if (steered) return [by[axis], ...moved].join("; ");
  return moved[0] ?? { roll: "no roll control", pitch: "no pitch control", yaw: "no rudder" }[axis];
}

export const SIX_WORD: Record<SixAxis, string> = {
  surge: "Ahead and astern",
  sway: "Sideways",
  heave: "Up and down",
  roll: "Roll",
  pitch: "Pitch",
  yaw: "Yaw",
};

export const COMMANDED_WORD: Record<Commanded, string> = {
  "both ways": "both ways",
  "one way": "one way only",
  "with others": "only with another axis",
  "never had": "never had",
};

/** What holds an axis by itself, as far as that is known here. */
const HELD_WORD: Record<NonNullable<SixLine["held"]>, string> = {
  water: "the water, where it floats upright (not known: a hull described as a body tells it)",
  ground: "the ground",
  cushion: "the cushion (not computed)",
  "weight below lift": "its weight, where that hangs below its lift (not computed)",
};

/** An angle of heel or pitch that a righting moment is told for. */
const HEELED = (10 * Math.PI) / 180;
/** How something lies by itself: leaned, or nose up or down. */
function angleText({ value, sd }: { value: number; sd: number }, axis: SixAxis): string {
  const angle = show(Math.abs(value), sd, "angle", "metric");
  const way = axis === "pitch" ? (value < 0 ? "nose down" : "nose up") : value > 0 ? "starboard down" : "port down";
  return `${angle.value} ± ${angle.sd}° ${way}`;
}
/** What holds an axis when no drive does. */
export function heldText(
  { axis, held, flowed, hangs, rights }: Pick<SixLine, "axis" | "held" | "flowed" | "hangs" | "rights">,
  habit: UnitHabit,
): string {
  if (rights) {
    const { stiff, rest } = rights;
    const said = show(Math.sin(HEELED) * Math.abs(stiff.value), Math.sin(HEELED) * stiff.sd, "torque", habit);
    const moment = `${said.value} ± ${said.sd} ${said.unit} at ${plain(HEELED, "angle", habit, 0)}`;
    if (stiff.value <= 0) return `the water does not hold it so: ${moment} turn it over`;
    const by = rest && Math.abs(rest.value) > rest.sd ? `; lies ${angleText(rest, axis)}` : "";
    return `the water: ${moment} turn it back${by}`;
  }
  if (held === "water" && axis === "heave") return "the water";
  if (!hangs) return held ? HELD_WORD[held] : flowed ? "" : "nothing";
  if ("open" in hangs) return `its weight, where that hangs below its lift (open: ${hangs.open})`;
  const { stiff, rest, body } = hangs;
  const said = show(Math.sin(HEELED) * Math.abs(stiff.value), Math.sin(HEELED) * stiff.sd, "torque", habit);
  const moment = `${said.value} ± ${said.sd} ${said.unit} at ${plain(HEELED, "angle", habit, 0)}`;
  if (!rest) return `its CG lies above the lift of ${body}: ${moment} turn it over`;
  const angle = show(Math.abs(rest.value), rest.sd, "angle", habit);
  const by = axis === "pitch" ? `; hangs ${angle.value} ± ${angle.sd}° nose ${rest.value < 0 ? "down" : "up"}` : "";
  return `its weight below ${body}: ${moment} turn it back${by}`;
}

/** What a mass does that a servo shifts, and how far that leans what hangs below its lift. */
export function shiftedText(
  { shifted, hangs, rights }: Pick<SixLine, "shifted" | "hangs" | "rights">,
  habit: UnitHabit,
): string | null {
  if (!shifted) return null;
  const said = show(shifted.value, shifted.sd, "torque", habit);
  const hung = hangs && !("open" in hangs) && hangs.rest ? Math.abs(hangs.stiff.value) : 0;
  const stiff = Math.max(hung, rights?.stiff.value ?? 0);
  const lean =
    stiff <= 0
      ? ""
      : shifted.value < stiff
        ? `, leans it ${plain(Math.asin(shifted.value / stiff), "angle", habit, 0)}`
        : ", more than turns it back";
  return `${shifted.names.join(", ")} shifted: ${said.value} ± ${said.sd} ${said.unit} each way${lean}`;
}

/**
 * What controls do where a flow meets them.
 *
 * @param dead a drive is taken for dead: what washes are left is not told
 */
export function flowedText({ names, standing, coasting }: Flowed, habit: UnitHabit, dead = false): string[] {
  const moment = (m: { value: number; sd: number }) => {
    const said = show(m.value, m.sd, "torque", habit);
    return `${said.value} ± ${said.sd} ${said.unit}`;
  };
  const wash = dead
    ? []
    : standing === null
      ? ["what it does in the wash is not known"]
      : [standing.value > 0 ? `${moment(standing)} standing at full throttle, in the wash` : "no wash meets it"];
  return [
    `${names.join(", ")}:`,
    ...wash,
    coasting.value > 0
      ? `${moment(coasting)} at ${plain(1, "speed", habit)} with the throttle closed, four times that at ` +
        "twice the speed"
      : "as it coasts it turns nothing: it lies at the CG, or out of the water",
  ];
}

/** How what turns it by itself is answered, with why that is open where it is. */
export const answersText = ({ word, open }: Pick<AxisLine, "word" | "open">): string =>
  word === "open" ? `open: ${open.join("; ")}` : word === "never had" ? "nothing answers" : word;

/** Whether full throttle holds the height of a turn. */
export const levelText = (level: boolean | null): string =>
  level === null ? "open" : level ? "holds its height" : "sinks: slows down, or descends";

/** What gusts a craft on its wings holds at one moment, sudden and whole. */
export function gustText({ gust, lines }: Pick<AtSpeed, "gust" | "lines">, habit: UnitHabit): string | null {
  if (!gust) return null;
  const said = (g: Gust | null, axis: Turning, by: string): string =>
    !lines.find((l) => l.axis === axis)?.answer
      ? `no ${by} is there to hold one`
      : g
        ? `its ${by} holds ${g.more ? "more than" : "up to"} ${plain(g.speed, "speed", habit, 1)}`
        : `what its ${by} holds is open`;
  return `Sudden gusts: from the side ${said(gust.roll, "roll", "roll control")} and ${said(gust.yaw, "yaw", "rudder")}; ${
    gust.up === null ? "what stalls it from below is open" : `from below ${plain(gust.up, "speed", habit, 1)} stall it`
  }.`;
}
