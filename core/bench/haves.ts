import type { WeighInKind } from "../design/bench";

/** What lies on a bench, or does not. */
export const TOOLS = [
  "one scale",
  "two scales",
  "three scales",
  "luggage scale",
  "thrust stand",
  "stop-watch",
  "tape measure",
  "straight edge",
  "angle gauge",
  "two lines",
  "known mass",
] as const;
export type Tool = (typeof TOOLS)[number];

export const TEST_KINDS = ["sweep", "fast-throttle", "glide", "moment", "pulls", "free", "calibration"] as const;
export type TestKind = WeighInKind | (typeof TEST_KINDS)[number];

/** What each test is made with, any one set of it; and the minutes that it takes (judgement). */
const NEEDS: Record<TestKind, { with: readonly (readonly Tool[])[]; minutes: number }> = {
  total: { with: [["one scale"], ["luggage scale"]], minutes: 2 },
  parts: { with: [["one scale"]], minutes: 20 },
  "two-scales": { with: [["two scales", "tape measure"]], minutes: 5 },
  "three-scales": { with: [["three scales", "tape measure"]], minutes: 8 },
  "knife-edge": { with: [["straight edge", "tape measure"]], minutes: 3 },
  "level-and-tilted": { with: [["two scales", "tape measure", "angle gauge"]], minutes: 10 },
  sweep: { with: [["thrust stand"], ["one scale"], ["luggage scale"]], minutes: 15 },
  "fast-throttle": { with: [[]], minutes: 5 },
  glide: { with: [["stop-watch", "tape measure"]], minutes: 20 },
  moment: {
    with: [
      ["luggage scale", "tape measure"],
      ["two lines", "angle gauge", "tape measure"],
      ["stop-watch", "angle gauge"],
    ],
    minutes: 10,
  },
  pulls: { with: [["luggage scale"], ["one scale"], ["thrust stand"]], minutes: 10 },
  free: { with: [[]], minutes: 10 },
  calibration: { with: [["known mass"]], minutes: 3 },
};

/** More scales do what fewer do. */
const STANDS_FOR: Partial<Record<Tool, readonly Tool[]>> = {
  "three scales": ["one scale", "two scales"],
  "two scales": ["one scale"],
};

export interface Possible {
  kind: TestKind;
  minutes: number;
  /** what it is made with; of several ways that of which least is lacking */
  uses: Tool[];
  /** what of it is not there */
  lacks: Tool[];
}

/**
 * What can be found out with what lies on the bench: first what can be done now, the quickest first, then what lacks
 * one thing, then the rest.
 */
export function possibleWith(have: readonly Tool[]): Possible[] {
  const there = new Set(have.flatMap((t) => [t, ...(STANDS_FOR[t] ?? [])]));
  const all = (Object.keys(NEEDS) as TestKind[]).map((kind): Possible => {
    const { with: ways, minutes } = NEEDS[kind];
    const [best = []] = ways.toSorted((a, b) => lacking(a, there).length - lacking(b, there).length);
    return { kind, minutes, uses: [...best], lacks: lacking(best, there) };
  });
  return all.toSorted((a, b) => a.lacks.length - b.lacks.length || a.minutes - b.minutes);
}
const lacking = (way: readonly Tool[], there: ReadonlySet<Tool>): Tool[] => way.filter((t) => !there.has(t));
