import type { UnitHabit } from "../design/units";
import type { BoardLine } from "../runs/board";
import { plain } from "./format";

const LIMIT = {
  wind: ["Wind at most", "speed"],
  waves: ["Waves at most", "length"],
  current: ["Current of the water at most", "speed"],
  coldest: ["Air at least", "temperature"],
  warmest: ["Air at most", "temperature"],
} as const;

/** One line of the go / not-yet board as a sentence; locks are worded by whoever knows the verdicts. */
export function boardText(line: BoardLine, habit: UnitHabit, lock?: string): string {
  const { what } = line;
  switch (what.kind) {
    case "lock":
      return lock ?? "the ladder is locked";
    case "limit": {
      const [name, dimension] = LIMIT[what.which];
      return (
        `${name} ${plain(what.limit, dimension, habit)}: ` +
        `${what.now === null ? "not looked at yet" : `it is ${plain(what.now, dimension, habit)}`}`
      );
    }
    case "surface":
      return `Surface: ${what.wanted}`;
    case "people":
      if (what.alone)
        return line.state === "go"
          ? "Alone, by choice: its cautions stand beside the place"
          : "Alone, by choice: say who it is";
      return line.state === "go"
        ? "People and roles are named"
        : "From rung 3 on, name a pilot and a spotter, or tick that you work alone";
    case "success":
      return line.state === "go"
        ? "What happens if it goes well is agreed"
        : "If it lifts or runs off better than expected: are the controls connected, and who ends it? Not written down";
    case "safety":
      return line.state === "go"
        ? `Safety plan of ${what.count} ${what.count === 1 ? "line" : "lines"}`
        : "This rung has no safety plan";
    case "checks":
      return what.open === 0
        ? `Checklist: all ${what.of} musts are done`
        : `Checklist: ${what.open} of ${what.of} musts are open`;
  }
}
