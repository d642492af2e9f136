import type { UnitHabit } from "../design/units";
import type { Odd, OddDrive } from "../runs/eachDrive";
import { plain } from "./format";

/** What to look at first, by what was read (common practice). */
const LOOK: Record<Odd, string> = {
  "stands still": "dead, unplugged or jammed: pack out, then plug, wires and whether it turns by hand",
  "gives nothing": "dead or unplugged, or its meter is: pack out, then plug and wires",
  drags: "it works harder and turns slower: a bearing, something that rubs, weed, or a winding",
  "runs light": "it turns faster on less: a propeller that slips or lost a blade, or one that is out of the water",
  "turns slower": "slower than its like: propeller, timing, end points of its controller, voltage at its plug",
  "draws more": "more current than its like: propeller, something that rubs, or the meter",
  "draws less": "less current than its like: end points of its controller, a poor plug, its propeller",
  hotter: "hotter than its like: it works harder or is cooled less",
};
const DIMENSION = { current: "current", rpm: "rotation", temperature: "temperature" } as const;

/** A drive that differs from its like ones, in a sentence. */
export const oddText = ({ name, odd, read, usual, of }: OddDrive, habit: UnitHabit): string =>
  `${name} ${odd === "hotter" ? "is hotter" : odd}: ${plain(read, DIMENSION[of], habit)} where its like ` +
  `read ${plain(usual, DIMENSION[of], habit)}; ${LOOK[odd]}.`;
