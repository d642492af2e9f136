import type { Design, HeldUpBy, State } from "./schema";
import { HELD_UP_BY } from "./schema";

/**
 * What follows from one way of being held up. The rest of the application asks for these, and never for the way itself:
 * a way that is added is one line here and one in each table of words, rungs, marks and rules of thumb.
 */
const FOLLOWS = [
  /** lift of surfaces through the air carries it */
  "by speed",
  /** a propeller stands in the air unless somebody says otherwise */
  "in air",
  /** what holds the craft back is the air */
  "air drag",
  /** what holds it back is the water, as it swims in it */
  "water drag",
  "afloat",
  "leaves the ground",
  /** its weight hangs on the thrust of its drives */
  "on thrust",
  /** weight and what carries it are made equal by adding weight: that is no dead weight */
  "weighed off",
  "on the ground",
  "gas",
  "beats",
] as const;
type Follows = (typeof FOLLOWS)[number];

const OF: Record<HeldUpBy, readonly Follows[]> = {
  wings: ["by speed", "in air", "air drag", "leaves the ground"],
  rotors: ["in air", "air drag", "leaves the ground", "on thrust"],
  hull: ["afloat", "water drag"],
  gas: ["in air", "air drag", "weighed off", "gas"],
  cushion: [],
  ground: ["on the ground"],
  flapping: ["air drag", "leaves the ground", "on thrust", "beats"],
  submerged: ["afloat", "water drag", "weighed off"],
};

/** What a design must tell for its support to be known. */
export type Supported = Pick<Design, "states"> & Partial<Pick<Design, "gasLift">>;

export interface Support {
  /** Ways of being held up, said or derived from what is present, in their usual order; never empty. */
  ways: readonly HeldUpBy[];
  /** Those that nobody said: they follow from what is in the design. */
  derived: readonly HeldUpBy[];
  /** A propeller stands in the air unless it is said: so for every way at once. */
  inAir: boolean;
  /** What holds it back is the air: so for every way at once. */
  airDrag: boolean;
  /** What holds it back is the water: so for every way at once. */
  waterDrag: boolean;
  /** It floats or dives: it can be out of reach, and get wet. */
  afloat: boolean;
  leavesGround: boolean;
  /** It hangs on the thrust of its drives, and on nothing else that shares the weight. */
  onThrust: boolean;
  /** The speed of its wings carries it, and nothing else does. */
  onWingsAlone: boolean;
  weighedOff: boolean;
  onGround: boolean;
  gas: boolean;
  beats: boolean;
}

const known = new Map<string, Support>();

/** What holds a craft up in one of its states, and what follows from it; in its first one when none is named. */
export function supportOf(design: Supported, state: State | undefined = design.states[0]): Support {
  const said = state?.heldUpBy ?? [];
  const gas = design.gasLift != null && !said.includes("gas");
  const ways = HELD_UP_BY.filter((way) => said.includes(way) || (gas && way === "gas"));
  const key = `${ways.join()} ${gas}`;
  const held = known.get(key);
  if (held) return held;
  const every = (what: Follows) => ways.length > 0 && ways.every((way) => OF[way].includes(what));
  const some = (what: Follows) => ways.some((way) => OF[way].includes(what));
  const made: Support = {
    ways,
    derived: gas ? ["gas"] : [],
    inAir: every("in air"),
    airDrag: every("air drag"),
    waterDrag: every("water drag"),
    afloat: some("afloat"),
    leavesGround: some("leaves the ground"),
    onThrust: some("on thrust") && !some("gas"),
    onWingsAlone: every("by speed"),
    weighedOff: some("weighed off"),
    onGround: some("on the ground"),
    gas: some("gas"),
    beats: some("beats"),
  };
  known.set(key, made);
  return made;
}

/**
 * What follows from all its states together, for what must hold whatever state it is in: a craft that floats in one of
 * them can be out of reach, one that leaves the ground in one of them can fall.
 */
export function supportInAny(design: Supported): Support {
  const [first, ...others] = design.states.map((state) => supportOf(design, state));
  if (!first || others.length === 0) return supportOf(design);
  const all = [first, ...others];
  const ways = waysOf(design);
  const some = (key: keyof Support) => all.some((s) => s[key] === true);
  const every = (key: keyof Support) => all.every((s) => s[key] === true);
  return {
    ways,
    derived: first.derived,
    inAir: every("inAir"),
    airDrag: every("airDrag"),
    waterDrag: every("waterDrag"),
    afloat: some("afloat"),
    leavesGround: some("leavesGround"),
    onThrust: some("onThrust"),
    onWingsAlone: every("onWingsAlone"),
    weighedOff: some("weighedOff"),
    onGround: some("onGround"),
    gas: some("gas"),
    beats: some("beats"),
  };
}

/** What holds a craft up in any of its states, each once. */
export const waysOf = (design: Supported): HeldUpBy[] => {
  const ways = new Set(design.states.flatMap((state) => supportOf(design, state).ways));
  return HELD_UP_BY.filter((way) => ways.has(way));
};
