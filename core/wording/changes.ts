import type { Change, Leaf } from "../lineage/difference";
import type { Dimension, UnitHabit } from "../design/units";
import { DISPLAY, toDisplay } from "../design/units";

function leafText(value: Leaf, dimension: Dimension | null, habit: UnitHabit): string {
  if (value === null || value === "") return "none";
  if (typeof value === "number") {
    if (!dimension) return String(Number(value.toPrecision(5)));
    const unit = DISPLAY[habit][dimension];
    return `${Number(toDisplay(value, dimension, habit).toPrecision(4))}${unit && unit !== "°" ? "\u00a0" : ""}${unit}`.replace(
      "-",
      "−",
    );
  }
  return String(value);
}

/** From and to of a change as shown; empty strings for entries added or removed. */
export const changeEnds = (c: Change, habit: UnitHabit): { from: string; to: string } =>
  c.change === "changed"
    ? { from: leafText(c.from, c.dimension, habit), to: leafText(c.to, c.dimension, habit) }
    : { from: "", to: "" };

/** One change in one line. */
export function changeText(c: Change, habit: UnitHabit): string {
  if (c.change !== "changed") return `${c.subject}: ${c.change}`;
  const { from, to } = changeEnds(c, habit);
  return `${c.subject}, ${c.field}: ${from} → ${to}`;
}

/** What was changed, without its numbers, the first of many named. */
export function changedText(changes: readonly Change[], most = 3): string {
  const said = [
    ...new Set(changes.map((c) => (c.change === "changed" ? `${c.subject}, ${c.field}` : `${c.subject} ${c.change}`))),
  ];
  const more = said.length - most;
  return `${said.slice(0, most).join("; ")}${more > 0 ? ` and ${more} more` : ""}`;
}
