import type { Gate, Ladder } from "../../core/design/craftFile";
import { usualLadder } from "../../core/runs/ladders";

const deg = Math.PI / 180;
const eye = (id: string, text: string): Gate => ({
  id,
  metric: "",
  dimension: "ratio",
  comparison: "atLeast",
  value: 0,
  upper: null,
  text,
});
const atMost = (id: string, metric: string, dimension: Gate["dimension"], value: number, text = ""): Gate => ({
  id,
  metric,
  dimension,
  comparison: "atMost",
  value,
  upper: null,
  text,
});
const atLeast = (id: string, metric: string, dimension: Gate["dimension"], value: number, text = ""): Gate => ({
  ...atMost(id, metric, dimension, value, text),
  comparison: "atLeast",
});

const ICE = [
  "Ice 15 cm or more, measured at three holes",
  "Rope and a second person on the shore",
  "Nobody ahead of the craft for 150 m",
];

/** Tern's own ladder over ice: the usual one, with its gates in its own numbers. */
export const ternLadder: Ladder = usualLadder(["wings"]).map((rung) => {
  switch (rung.stage) {
    case 2:
      return {
        ...rung,
        name: "Tether pull",
        doing: "On the scale, tied to a stake in the ice, throttle up in steps",
        gates: [atLeast("pull", "thrust", "force", 5.4), atMost("current", "packCurrent", "current", 28)],
      };
    case 3:
      return {
        ...rung,
        name: "Lift-off, hold 3 s",
        doing: "Straight, as slow as it lifts, set down ahead",
        gates: [eye("lift", "lifts and holds for three seconds"), atMost("nose", "noseAngle", "angle", 6 * deg)],
        safety: ICE,
      };
    case 4:
      return {
        ...rung,
        name: "Straight 50 m",
        doing: "Between the pegs at hand height",
        gates: [
          atMost("nose", "noseAngle", "angle", 8 * deg, "never above"),
          eye("height", "keeps its height within a hand"),
        ],
        safety: ICE,
      };
    case 5:
      return {
        ...rung,
        name: "Straight 100 m",
        doing: "Faster every pass, to 17 m/s",
        gates: [atMost("nose", "noseAngle", "angle", 8 * deg, "never above"), atLeast("speed", "speed", "speed", 17)],
        abort: ["the nose passes 8°", "it drifts off the swept lane"],
        safety: ICE,
      };
    case 6:
      return {
        ...rung,
        name: "Turns, r 20 m",
        doing: "Both ways at hand height",
        gates: [eye("skid", "no skid touches")],
        safety: ICE,
      };
    case 7:
      return {
        ...rung,
        name: "Wind across the bay",
        doing: "Three passes of three, along and across, in as much wind as the brief names",
        gates: [eye("three", "three passes of three")],
        safety: ICE,
      };
    default:
      return rung;
  }
});
