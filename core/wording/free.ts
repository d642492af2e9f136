import { type Difference, type Foretold, type Line, isLogX, isLogY, meaningOf } from "../bench/free";
import type { Free } from "../design/bench";

const MINUS = "−";
/** A number of one's own, to as many digits as its doubt leaves, never fewer than two. */
export function own(value: number, doubt?: number): string {
  if (!Number.isFinite(value)) return "not known";
  const size = Math.floor(Math.log10(Math.abs(value) || 1));
  const by = doubt !== undefined && doubt > 0 ? Math.floor(Math.log10(doubt)) : size - 2;
  const digits = Math.max(2, Math.min(6, size - by + 1));
  return String(Number(value.toPrecision(digits))).replace(/^-/, MINUS);
}
const unit = (a: Free["x"]) => (a.unit ? ` ${a.unit}` : "");
const range = ([low, high]: readonly [number, number]) => {
  const reach = Math.abs(high - low) / 2;
  return `${own(low, reach)} to ${own(high, reach)}`;
};

/** How far readings lie from their line: in the unit of y, or as a share where y is logarithmic. */
export const scatterText = (line: Line, { axes, y }: Pick<Free, "axes" | "y">): string =>
  isLogY(axes) ? `${own((10 ** line.scatter - 1) * 100)} %` : `${own(line.scatter)}${unit(y)}`;

/** What the line of one condition is. */
export function lineText(line: Line, { axes, x, y }: Pick<Free, "axes" | "x" | "y">): string {
  if (line.status === "too few") return "Three readings at two places of x or more, and a line stands here.";
  if (line.status === "x was not varied") return "x was not varied: no line.";
  const slope = own(line.slope, line.slopeSd);
  if (axes === "both logarithmic")
    return `${y.name || "y"} grows as ${x.name || "x"} to the power of ${slope} (95 %: ${range(line.interval)})`;
  const per = isLogX(axes) ? "for ten times the x" : `for each ${x.unit || "unit"} of ${x.name || "x"}`;
  if (isLogY(axes)) {
    const ends: [number, number] = [10 ** line.interval[0], 10 ** line.interval[1]];
    return (
      `${y.name || "y"} changes by a factor of ${own(10 ** line.slope, ends[1] - ends[0])} ${per} (95 %: ` +
      `${range(ends)})`
    );
  }
  return `${y.name || "y"} changes by ${slope}${unit(y)} ${per} (95 %: ${range(line.interval)})`;
}

/** What the slope tells of what makes it; empty where it has no meaning of its own. */
export function meaningText(line: Line, { axes, of }: Pick<Free, "axes" | "of">): string {
  if (of === "its own" || line.status !== "fitted") return "";
  if (axes !== "both logarithmic") return "What the slope means is read on two logarithmic axes.";
  const meanings = meaningOf(line, axes, of) ?? [];
  if (meanings.length === 0) return `This exponent is none that is known for ${of}: a mixture, or one of the meters.`;
  if (meanings.length === 1) return `That is ${meanings[0]?.says}.`;
  return `Not told apart: ${meanings.map((m) => m.says).join("; or ")}. Read it over a wider range of x, or more often.`;
}

/** What the line says at another x, or why it does not. */
export function foretoldText(at: Foretold, { y }: Pick<Free, "y">): string {
  if (at.where === "too far")
    return "Too far from what was read: these points say nothing there. Read one nearer to it.";
  const reach = Math.abs(at.high - at.low) / 2;
  return `${own(at.value, reach)}${unit(y)}, one more reading between ${own(at.low, reach)} and ${own(at.high, reach)}${
    at.where === "outside" ? "; outside of what was read: only as long as nothing else begins there" : ""
  }`;
}

/** Whether the two conditions differ, and by how much. */
export function differenceText(d: Difference, { axes, x, y, conditions }: Omit<Free, "question" | "of">): string {
  const [a, b] = conditions.map((c, k) => (c.name ? `“${c.name}”` : k === 0 ? "the first" : "the second"));
  if (d.status === "too few")
    return `Two readings or more of each (three where x is varied), and ${a} is held against ${b}.`;
  if (d.status === "not over the same x")
    return `${a} and ${b} were not read over the same ${x.name || "x"}: not compared.`;
  const reach = Math.abs(d.interval[1] - d.interval[0]) / 2;
  const where = d.at === null ? "" : ` at ${own(d.at)}${unit(x)}, and otherwise elsewhere: the slopes differ`;
  const interval = `95 %: ${range(d.interval)}${isLogY(axes) ? "" : unit(y)}`;
  if (d.status === "not told apart")
    return `${a} and ${b} are not told apart${where} (${interval}). More readings of each, or leave it open.`;
  return isLogY(axes)
    ? `${b} is ${own(d.value, reach)} times ${a}${where} (${interval})`
    : `${b} is ${own(Math.abs(d.value), reach)}${unit(y)} ${d.value > 0 ? "above" : "below"} ${a}${where} ` +
        `(${interval})`;
}

/** How sure a sign is, in words that do not pretend. */
const sureText = (sure: number): string => (sure > 0.99 ? "over 99 % sure" : `${Math.floor(sure * 100)} % sure`);

/** What the readings of a suspect's test say: how large its effect is, and how sure. */
export function effectText(d: Difference, { what, unit: u }: { what: string; unit: string }): string {
  if (d.status === "too few" || d.status === "not over the same x")
    return "Two readings or more of each, and its effect stands here.";
  const reach = Math.abs(d.interval[1] - d.interval[0]) / 2;
  const by = u === "" ? "" : ` ${u}`;
  const size = `${own(Math.abs(d.value), reach)}${by} ${d.value > 0 ? "more" : "less"}`;
  const named = what === "" ? size : `${what}: ${size}`;
  const interval = `95 %: ${range(d.interval)}${by}`;
  return d.status === "told"
    ? `${named} without it (${interval}), ${sureText(d.sure)}`
    : `${named} without it, which is not told apart from nothing (${interval}; ${sureText(d.sure)} of the sign)`;
}
