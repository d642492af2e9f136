import type { Settlement } from "../lineage/settle";
import type { Confounder, Per, SeriesComparison } from "../runs/series";
import type { UnitHabit } from "../design/units";
import { plain } from "./format";

export const PER_WORD: Record<Per, string> = {
  lap: "per lap",
  distance: "per metre",
  minute: "per minute",
  charge: "per ampere-hour",
};

/** The answer of a comparison in one sentence. */
export function seriesText(c: SeriesComparison, from: string, to: string, what: string): string {
  if (c.verdict === "too-few" || !c.result || !c.share)
    return (
      `Two laps or more of each are needed: ${c.counted.from.length} of ${from} and ` +
      `${c.counted.to.length} of ${to} count.`
    );
  const { value, interval } = c.share;
  const [low, high] = [Math.min(...interval.map(Math.abs)), Math.max(...interval.map(Math.abs))];
  if (c.verdict === "clear")
    return (
      `${what} is ${Math.abs(value * 100).toFixed(1)} % ${value < 0 ? "lower" : "higher"} on ${to} than ` +
      `on ${from}: between ${(low * 100).toFixed(1)} and ${(high * 100).toFixed(1)} % (95 %).`
    );
  const more =
    c.more === null
      ? "500 laps would not settle it"
      : `about ${c.more} laps of each would settle it, were it to stay like this`;
  return (
    `${what}: no measurable difference: ${(value * 100).toFixed(1)} %, between ` +
    `${(interval[0] * 100).toFixed(1)} and ${(interval[1] * 100).toFixed(1)} % (95 %); ${more}.`
  );
}

export function confounderText(c: Confounder, from: string, to: string, habit: UnitHabit): string {
  switch (c.kind) {
    case "wind":
      return `Wind differed: ${plain(c.from, "speed", habit)} with ${from}, ${plain(c.to, "speed", habit)} with ${to}.`;
    case "pack":
      return `All laps of ${c.version} were on pack ${c.only}, none of the other's: the pack may be the cause.`;
    case "pilot":
      return `Another pilot: ${c.from} drove ${from}, ${c.to} drove ${to}.`;
    case "days":
      return "They were run on different days: air, water and packs differed with them.";
    case "changes":
      return `${c.count} things were changed between ${from} and ${to}: the difference is of all of them together.`;
  }
}

export const SETTLED_COLOUR: Record<Settlement["verdict"], string> = {
  met: "text-clear",
  "not met": "text-stop",
  unclear: "text-care",
  "not measured": "text-pencil",
};
