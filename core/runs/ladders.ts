import type { Gate, Ladder, Rung } from "../design/ladder";
import type { HeldUpBy } from "../design/schema";
import type { Dimension } from "../design/units";

const DEGREE = Math.PI / 180;

const number = (
  id: string,
  metric: string,
  dimension: Dimension,
  comparison: "atMost" | "atLeast",
  value: number,
  text = "",
): Gate => ({
  id,
  metric,
  dimension,
  comparison,
  value,
  upper: null,
  text,
});
const between = (id: string, metric: string, dimension: Dimension, low: number, high: number, text = ""): Gate => ({
  ...number(id, metric, dimension, "atLeast", low, text),
  comparison: "between",
  upper: high,
});
const eye = (id: string, text: string): Gate => ({
  id,
  metric: "",
  dimension: "ratio",
  comparison: "atLeast",
  value: 0,
  upper: null,
  text,
});

type Step = Pick<Rung, "name" | "doing" | "gates"> & Partial<Pick<Rung, "abort" | "safety">>;

const HELD = [
  "Craft held or tied; nobody in the plane of a propeller",
  "Eyes and hands protected; one hand stays on the switch",
];
const CLEAR = [
  "People and animals well clear, also of where it could run to",
  "Fail-safe and range tried before it is out of reach",
];

/** The gate of rung 1 by which the fail-safe is known to work. */
export const FAIL_SAFE_GATE = "failsafe";

const POWER_OFF: Step = {
  name: "Power off",
  doing: "Weigh it, balance it, move every surface; radio and fail-safe with the propellers off",
  gates: [
    eye("ways", "every surface and drive moves the right way"),
    eye(FAIL_SAFE_GATE, "fail-safe stops the drives with the transmitter off"),
    eye("shake", "nothing loose when shaken"),
  ],
  safety: ["Propellers off, or the drive unplugged"],
};
const RESTRAINED: Step = {
  name: "Held down",
  doing: "Throttle up in steps while tied; read thrust, current and volts; then the fast throttle",
  gates: [
    number("current", "packCurrent", "current", "atMost", 40),
    eye("tremble", "no tremble or smell at any throttle"),
  ],
  abort: ["a new noise, smell or tremble", "a motor or plug too hot to touch"],
  safety: HELD,
};

/**
 * Rungs three to seven, by what holds the craft up. Common practice of the field; the limits are first guesses that a
 * builder sets.
 */
const ABOVE: Record<HeldUpBy, [Step, Step, Step, Step, Step]> = {
  wings: [
    {
      name: "Glide or fast slide",
      doing: "Towed, thrown into long grass, or just below lift-off; power off as soon as it is light",
      gates: [
        number("nose", "noseAngle", "angle", "atMost", 6 * DEGREE),
        eye("straight", "runs straight without help"),
      ],
    },
    {
      name: "First lift, short and low",
      doing: "Lift off, hold for three seconds, set down ahead",
      gates: [
        number("nose", "noseAngle", "angle", "atMost", 8 * DEGREE, "never above"),
        eye("level", "wings level without full control"),
      ],
    },
    {
      name: "Open straight and turns",
      doing: "Full length, then gentle turns both ways",
      gates: [
        number("nose", "noseAngle", "angle", "atMost", 8 * DEGREE, "never above"),
        eye("turns", "turns both ways and comes out"),
      ],
    },
    {
      name: "Envelope",
      doing: "Slowest and fastest, CG at both ends, in more wind",
      gates: [
        eye("slow", "slow flight warns before it drops"),
        eye("wind", "holds course in the worst wind of the brief"),
      ],
    },
    {
      name: "Mission",
      doing: "What the brief asks, whole",
      gates: [eye("targets", "every must of the brief met"), eye("left", "pack not below its floor at the end")],
    },
  ],
  rotors: [
    {
      name: "Tether",
      doing: "On a short line or in a frame, light but not off the ground",
      gates: [eye("axes", "each axis answers the right way and stops"), eye("swing", "no growing swing")],
    },
    {
      name: "Hover at knee height",
      doing: "One minute over grass, hands ready to set it down",
      gates: [
        number("hover", "thrustThrottle", "percent", "atMost", 0.65),
        eye("still", "stays within its own length"),
      ],
    },
    {
      name: "Open",
      doing: "Forward, sideways, back; down without settling into its own wash",
      gates: [eye("stop", "stops from speed without rearing"), eye("yaw", "yaw holds at full and at low throttle")],
    },
    {
      name: "Envelope",
      doing: "Wind of the brief, heaviest load, a drive lost if it must survive that",
      gates: [
        eye("wind", "holds place in the worst wind of the brief"),
        eye("low", "lands with what is left at the pack's floor"),
      ],
    },
    { name: "Mission", doing: "What the brief asks, whole", gates: [eye("targets", "every must of the brief met")] },
  ],
  hull: [
    {
      name: "Tub",
      doing: "Floats in a tub or at the edge: trim, list, leaks for ten minutes",
      gates: [
        eye("dry", "dry inside after ten minutes"),
        number("freeboard", "Least freeboard", "length", "atLeast", 0.02),
        eye("upright", "comes back when pressed down on either side"),
      ],
    },
    {
      name: "On a line, slow",
      doing: "Within the length of a line, turning both ways",
      gates: [eye("turns", "turns both ways, also astern"), eye("dry", "dry inside afterwards")],
    },
    {
      name: "Open water",
      doing: "Full throttle in steps, calm",
      gates: [
        eye("nose", "neither digs in nor rears at any throttle"),
        number("hot", "motorTemperature", "temperature", "atMost", 70),
      ],
    },
    {
      name: "Envelope",
      doing: "Waves and wind of the brief, hard turns at speed",
      gates: [eye("waves", "takes the waves of the brief from every side"), eye("turns", "no hard turn rolls it over")],
    },
    {
      name: "Mission",
      doing: "What the brief asks, whole, and back",
      gates: [eye("targets", "every must of the brief met"), eye("back", "comes back with the pack above its floor")],
    },
  ],
  gas: [
    {
      name: "Tether",
      doing: "Filled, weighed off, on a line: does it hang level and only just sink?",
      gates: [
        eye("level", "hangs level"),
        between("net", "netMass", "mass", 0.002, 0.032, "heavier than air, and not much"),
      ],
    },
    {
      name: "Short crossing",
      doing: "A few lengths indoors, somebody at the line",
      gates: [eye("stop", "stops and turns on the spot"), eye("sinks", "sinks by itself with everything off")],
    },
    {
      name: "Open hall",
      doing: "Across and round",
      gates: [eye("round", "round both ways without touching"), number("speed", "speed", "speed", "atLeast", 1)],
    },
    {
      name: "Envelope",
      doing: "Draught of the brief, warm and cool",
      gates: [eye("draught", "holds against the draught of the brief")],
    },
    { name: "Mission", doing: "What the brief asks, whole", gates: [eye("targets", "every must of the brief met")] },
  ],
  cushion: [
    {
      name: "Lift only",
      doing: "Lift fan on a flat floor, held by hand: does the skirt fill, does it slide?",
      gates: [eye("level", "hovers level and pushes with one finger"), eye("skirt", "no flutter, no tuck")],
    },
    {
      name: "Slow, on the flat",
      doing: "At walking pace, turns both ways",
      gates: [eye("turns", "turns and stops without ploughing in")],
    },
    {
      name: "Open",
      doing: "Full throttle in steps",
      gates: [eye("plough", "does not plough in when the throttle is cut")],
    },
    {
      name: "Envelope",
      doing: "Edges, slopes, water and back to land, wind of the brief",
      gates: [eye("hump", "crosses onto water and back")],
    },
    { name: "Mission", doing: "What the brief asks, whole", gates: [eye("targets", "every must of the brief met")] },
  ],
  ground: [
    {
      name: "Jacked up, then a tub",
      doing: "Drives turning free; if it swims: tub, trim and leaks",
      gates: [eye("free", "both sides turn freely and alike"), eye("dry", "dry inside after ten minutes, if it swims")],
    },
    {
      name: "Short, firm ground",
      doing: "A few lengths, turning both ways",
      gates: [
        eye("straight", "tracks straight hands off"),
        number("hot", "motorTemperature", "temperature", "atMost", 70),
      ],
    },
    {
      name: "Open, soft ground",
      doing: "The ground of the brief, somebody near with a rope",
      gates: [
        eye("free", "frees itself without digging in"),
        number("current", "packCurrent", "current", "atMost", 40),
      ],
    },
    {
      name: "Envelope",
      doing: "Steepest, softest, in and out of water",
      gates: [
        eye("slope", "climbs and holds the slope of the brief"),
        eye("water", "in and out of the water without help"),
      ],
    },
    {
      name: "Mission",
      doing: "What the brief asks, whole, and back",
      gates: [eye("targets", "every must of the brief met")],
    },
  ],
  flapping: [
    { name: "Glide", doing: "Wings still, into long grass", gates: [eye("straight", "glides straight and flat")] },
    {
      name: "Hand launch, short",
      doing: "Half power, straight ahead",
      gates: [eye("level", "holds height for ten beats"), eye("even", "both wings beat alike")],
    },
    { name: "Open", doing: "Climb and turns both ways", gates: [eye("turns", "turns both ways and comes out")] },
    {
      name: "Envelope",
      doing: "Wind of the brief, slowest beat that holds height",
      gates: [eye("wind", "comes back against the wind of the brief")],
    },
    { name: "Mission", doing: "What the brief asks, whole", gates: [eye("targets", "every must of the brief met")] },
  ],
  submerged: [
    {
      name: "Tub",
      doing: "Sealed, ballasted, under water for ten minutes",
      gates: [
        eye("dry", "dry inside after ten minutes"),
        eye("neutral", "hangs level, neither sinking nor rising fast"),
      ],
    },
    {
      name: "On a line, shallow",
      doing: "Within the length of the line, an arm deep",
      gates: [eye("axes", "each axis answers the right way"), eye("dry", "dry inside afterwards")],
    },
    {
      name: "Open, shallow",
      doing: "On the line, full throttle in steps",
      gates: [eye("depth", "holds depth without hunting")],
    },
    {
      name: "Envelope",
      doing: "Depth and current of the brief",
      gates: [
        eye("press", "dry at the deepest of the brief"),
        eye("current", "holds against the current of the brief"),
      ],
    },
    {
      name: "Mission",
      doing: "What the brief asks, whole, and back up",
      gates: [eye("targets", "every must of the brief met"), eye("up", "comes up by itself when everything is off")],
    },
  ],
};

/** One rung for a craft that is held up in several ways: what each of them asks on it. */
function together(steps: readonly Step[]): Step {
  const [first, ...others] = steps as [Step, ...Step[]];
  if (others.length === 0) return first;
  const each = (list: (s: Step) => readonly string[] | undefined) => [...new Set(steps.flatMap((s) => list(s) ?? []))];
  const gates: Gate[] = [];
  for (const [k, step] of steps.entries())
    for (const gate of step.gates) {
      if (gates.some((g) => g.metric === gate.metric && g.text === gate.text)) continue;
      gates.push(gates.some((g) => g.id === gate.id) ? { ...gate, id: `${gate.id}-${k + 1}` } : gate);
    }
  const name = each((s) => [s.name]).join(" · ");
  const abort = each((s) => s.abort);
  const safety = each((s) => s.safety);
  return {
    name: name.length <= LONGEST_NAME ? name : first.name,
    doing: each((s) => [s.doing]).join("; "),
    gates,
    ...(abort.length > 0 ? { abort } : {}),
    ...(safety.length > 0 ? { safety } : {}),
  };
}
const LONGEST_NAME = 60;

/** The usual ladder for what holds a craft up, in every way that it is held: a beginning that its builder edits. */
export function usualLadder(ways: readonly HeldUpBy[]): Ladder {
  const above = [0, 1, 2, 3, 4].map((k) => together(ways.map((way) => ABOVE[way][k] as Step)));
  return [POWER_OFF, RESTRAINED, ...above].map((s, i) => ({
    stage: i + 1,
    name: s.name,
    doing: s.doing,
    gates: s.gates,
    abort:
      s.abort ?? (i >= 2 ? ["control answers late or the wrong way", "anybody comes near", "pack at its floor"] : []),
    safety: s.safety ?? (i >= 2 ? CLEAR : []),
    skipped: "",
  }));
}
