import type { HeldUpBy } from "../design/schema";

/** How a builder came to know of it. */
export type Sense = "saw" | "heard" | "smelt" | "felt";

/** One thing that is marked with one tap while a craft runs. */
export interface Mark {
  code: string;
  word: string;
  sense: Sense;
  /** Entry of the fault catalogue that it may be the beginning of; null: nothing wrong. */
  symptom: string | null;
  /** It can hurt somebody: it opens a fault, and the rungs are locked until that is answered. */
  danger: boolean;
}

const mark = (code: string, word: string, sense: Sense, symptom: string | null = null): Mark => ({
  code,
  word,
  sense,
  symptom,
  danger: false,
});
const danger = (...of: Parameters<typeof mark>): Mark => ({ ...mark(...of), danger: true });

/**
 * First to be marked by what holds a craft up: the events that its rungs turn on, then what goes wrong with its kind.
 */
const OWN: Record<HeldUpBy, Mark[]> = {
  wings: [
    mark("rose", "Rose", "saw"),
    mark("settled", "Settled", "saw"),
    mark("nose-up", "Nose went up", "saw", "climbs-backflips"),
    mark("rolled", "Dropped a wing", "saw", "rolls-at-release"),
    mark("swayed", "Swayed", "saw", "sways"),
    mark("stalled", "Hung on its tail", "saw", "stalls-at-launch"),
  ],
  rotors: [
    mark("rose", "Rose", "saw"),
    mark("settled", "Set down", "saw"),
    mark("wandered", "Wandered", "saw", "unflyable-in-wind"),
    mark("shivered", "Shivered", "saw", "over-tuned"),
    mark("tipped", "Tipped over", "saw", "tips-to-one-side"),
    mark("turned", "Turned by itself", "saw", "yaw-after-mount"),
  ],
  hull: [
    mark("planed", "Rose onto the water", "saw"),
    mark("settled", "Came off it", "saw"),
    mark("leaned", "Leaned", "saw", "rests-leaning"),
    mark("dug", "Dug its nose in", "saw", "porpoises"),
    mark("hopped", "Hopped in a turn", "saw", "hops-in-turns"),
    mark("low", "Sits low", "saw", "sits-low"),
  ],
  gas: [
    mark("level", "Hung level", "saw"),
    mark("sank", "Sank", "saw"),
    mark("rose", "Rose by itself", "saw", "drifts-up-down"),
    mark("swung", "Swung on", "saw", "sways"),
    mark("drifted", "Drifted off", "saw", "unflyable-in-wind"),
    mark("touched", "Touched something", "saw"),
  ],
  cushion: [
    mark("lifted", "Lifted", "saw"),
    mark("settled", "Settled", "saw"),
    mark("ploughed", "Ploughed in", "saw", "skirt-fails"),
    mark("swung", "Tail swung", "saw", "oscillates-tail"),
    mark("drifted", "Would not turn", "saw", "no-turning"),
    mark("scraped", "Scraped one side", "heard", "scrapes-one-side"),
  ],
  ground: [
    mark("freed", "Came free", "saw"),
    mark("stuck", "Stuck", "saw", "will-not-start-moving"),
    mark("drifted", "Pulled to a side", "saw", "scrapes-one-side"),
    mark("one-dead", "One side stood", "saw", "one-side-dead"),
    mark("weed", "Weed wound on", "saw", "weed"),
    mark("floated", "Floated", "saw"),
  ],
  flapping: [
    mark("rose", "Rose", "saw"),
    mark("settled", "Settled", "saw"),
    mark("uneven", "Beat unevenly", "saw", "twitches"),
    mark("stalled", "Stalled", "saw", "stalls-at-launch"),
    mark("turned", "Turned by itself", "saw", "body-turns"),
    mark("bound", "Wing bound", "felt", "stalls-under-load"),
  ],
  submerged: [
    mark("dived", "Went under", "saw"),
    mark("surfaced", "Came up", "saw"),
    mark("bubbles", "Bubbles", "saw", "water-inside"),
    mark("drifted", "Sank or rose by itself", "saw", "drifts-up-down"),
    mark("one-dead", "One stood still", "saw", "one-dead"),
    mark("fogged", "Fog inside", "saw", "fog-inside"),
  ],
};

/** What is marked on any craft. */
const ALL: Mark[] = [
  mark("struck", "Struck", "heard", "propeller-struck"),
  mark("odd", "Odd", "felt"),
  mark("shook", "Shook", "felt", "shake-all-rpm"),
  mark("squeal", "Squeal or grind", "heard", "gears-strip"),
  mark("click", "Clicks", "heard", "belt-skips"),
  danger("cut", "Power cut out", "heard", "cut-out"),
  mark("weak", "Went weak", "heard", "flat-early"),
  danger("smoke", "Smell or smoke", "smelt", "motor-hot"),
  mark("hot", "Hot to touch", "felt", "motor-hot"),
  mark("late", "Answered late", "felt", "out-of-range"),
  mark("wrong-way", "Wrong way", "saw", "control-reversed"),
  mark("no-steer", "Steering gone", "felt", "steering-lost"),
  danger("part-off", "Lost a part", "saw", "bond-lets-go"),
  danger("no-control", "Out of control", "saw", "out-of-range"),
  danger("near-miss", "Near miss", "saw"),
  danger("hit-somebody", "Struck somebody", "saw"),
  danger("hurt", "Somebody is hurt", "saw"),
];

/** Ends one lap of a course and begins the next. */
export const LAP: Mark = mark("lap", "Lap", "saw");

/** Marks offered for a craft that is held up in these ways, the likeliest first: six fill a screen. */
export const marksFor = (ways: readonly HeldUpBy[]): Mark[] => {
  const most = Math.max(...ways.map((way) => OWN[way].length));
  // Of several ways in turn, so that the likeliest of each come first; a mark that two have, once.
  const inTurn = Array.from({ length: most }, (_, k) => ways.flatMap((way) => OWN[way][k] ?? [])).flat();
  const own = inTurn.filter((m, k) => inTurn.findIndex((x) => x.code === m.code) === k);
  return [...own.slice(0, 3), ALL[0], ALL[1], ...own.slice(3), ...ALL.slice(2)].filter(
    (m): m is Mark => m !== undefined,
  );
};

const EVERY = [...Object.values(OWN).flat(), ...ALL, LAP];
/** A mark by its code; undefined for a code of another version of the application. */
export const markOf = (code: string): Mark | undefined => EVERY.find((m) => m.code === code);
