import type { Evidence } from "./design/evidence";
import type { MetricKey, Page } from "./design/metrics";
import type { Patch } from "./design/patch";
import type { Quantity, WorkingInput } from "./design/quantity";
import type { Design } from "./design/schema";
import type { TargetResult } from "./design/targets";
import type { Dimension, UnitHabit } from "./design/units";

type Brief = Design["brief"];
/** A part of the design that a subject may read. What a result depends on is exactly this, by identity. */
export type Reads = Exclude<keyof Design, "brief"> | `brief.${keyof Brief & string}`;
type BriefKeys<K> = K extends `brief.${infer B}` ? Extract<B, keyof Brief> : never;
/** The design with only the parts that a subject says it reads: the others are not there. */
export type View<K extends Reads> = Pick<Design, Extract<K, keyof Design>> & { brief: Pick<Brief, BriefKeys<K>> };

/**
 * How a computation ended. Only what is solved has numbers; the rest says why not, and nothing that rests on it may
 * be called met or clear.
 */
export type Outcome<R> =
  | { status: "solved"; result: R }
  /** Inputs that are not there yet. */
  | { status: "missing"; needs: readonly string[] }
  /** The method does not hold for this craft: said, never guessed. */
  | { status: "not covered"; because: string }
  | { status: "failed"; reason: string };

/** Asks for the outcome of a subject that this one needs. */
export type Of = <R>(subject: AnySubject<R>) => Outcome<R>;

export type Severity = "stop" | "care" | "note" | "clear";

/** The number that a finding rests on, and the limit that it is held against. */
export interface Figure {
  label: string;
  value: number;
  sd: number;
  dimension: Dimension;
  evidence: Evidence;
  limit?: number;
}

/**
 * What a rule found: plain data. The sentence is made by the rule's own words, remedies by its own second function
 * when somebody looks.
 */
export interface Found<P> {
  severity: Severity;
  page: Page;
  /** Part, drive or target that the finding is about: tells two findings of one rule apart. */
  about: string;
  /** SI values */
  params: P;
  figure: Figure | null;
}
export interface Finding extends Found<object> {
  code: string;
}

/** Something that would answer a finding: a patch of the design to look at and apply, or advice without one. */
export interface Remedy {
  code: string;
  /** verb, amount and unit */
  text: string;
  patch: Patch | null;
}

/** Everything that a rule may look at. */
export interface See {
  design: Design;
  of: Of;
  /** The result of a subject; null when it has none. */
  result: <R>(subject: AnySubject<R>) => R | null;
  metrics: Partial<Record<MetricKey, Quantity>>;
  targets: TargetResult[];
  /** Mass that the version this one grew from was predicted to have, kg. */
  parentMass: { label: string; mass: number } | null;
}

/** A verdict: how it is found, what would answer it, and how it is said. */
export interface Verdict<P extends object> {
  /** Cheap: it runs at every change. Silent when it does not apply or lacks its inputs. */
  find(see: See): Found<P>[];
  /** Asked for only for what is looked at; may search and solve. */
  remedies?(see: See, found: Found<P>, habit: UnitHabit): Remedy[];
  says(params: P, habit: UnitHabit): string;
}
type Cost = "frame" | "instant" | "slow";
// biome-ignore lint/suspicious/noExplicitAny: parameters of a verdict are known to the verdict alone
export type AnyVerdict = Verdict<any>;

export interface AnySubject<R> {
  name: string;
  /**
   * Parts of the design that it reads: its results are remembered by their identity, and by that of the outcomes it
   * needs.
   */
  reads: readonly Reads[];
  /** Subjects whose outcomes it may ask for. */
  // biome-ignore lint/suspicious/noExplicitAny: any subject may be needed
  needs: readonly AnySubject<any>[];
  /**
   * frame: at every step of a drag. instant: at once, and in a drag a dozen times a second. slow: apart from the page.
   */
  cost: Cost;
  /** Names of the numbers that it computes. */
  gives: readonly MetricKey[];
  compute(view: Design, of: Of): Outcome<R>;
  /** Of a slow one: a quicker answer with more doubt, for as long as what it reads is being dragged. */
  roughly?(view: Design, of: Of): Outcome<R>;
  /** The computed numbers of a result, under the names that the subject declares. */
  quantities(result: R, view: Design, of: Of): Partial<Record<MetricKey, Quantity>>;
  /** What one of its numbers came from: asked for when somebody looks. */
  working(key: string, result: R, view: Design, of: Of): WorkingInput[];
  /** Why one of its numbers is not there although it has a result. */
  lacks?(key: string, result: R, view: Design): string | null;
  verdicts: Readonly<Record<string, AnyVerdict>>;
}

/** A subject as its folder defines it: what it reads is what it is given. */
export interface Subject<K extends Reads, R> {
  name: string;
  reads: readonly K[];
  // biome-ignore lint/suspicious/noExplicitAny: any subject may be needed
  needs?: readonly AnySubject<any>[];
  cost?: Cost;
  gives?: readonly MetricKey[];
  compute(view: View<K>, of: Of): Outcome<R>;
  roughly?(view: View<K>, of: Of): Outcome<R>;
  quantities?(result: R, view: View<K>, of: Of): Partial<Record<MetricKey, Quantity>>;
  working?(key: string, result: R, view: View<K>, of: Of): WorkingInput[];
  lacks?(key: string, result: R, view: View<K>): string | null;
  verdicts?: Readonly<Record<string, AnyVerdict>>;
}

/** Makes a subject of its definition. */
export function subject<const K extends Reads, R>(def: Subject<K, R>): AnySubject<R> {
  return {
    needs: [],
    cost: "instant",
    gives: [],
    verdicts: {},
    quantities: () => ({}),
    working: () => [],
    ...def,
  } as unknown as AnySubject<R>;
}

/** A verdict with its parameters' type said once. */
export const verdict = <P extends object>(v: Verdict<P>): Verdict<P> => v;

/** What stands against taking a number for a whole and covered one; nothing where nothing does. */
export const doubtsOf = (
  outside: readonly string[],
  incomplete: readonly string[],
  unknown: readonly string[] = [],
): Pick<Quantity, "outside" | "incomplete" | "unknown"> => ({
  ...(outside.length > 0 ? { outside } : {}),
  ...(incomplete.length > 0 ? { incomplete } : {}),
  ...(unknown.length > 0 ? { unknown } : {}),
});

/** Those of several numbers that are there. */
export const given = <K extends string>(all: Record<K, Quantity | undefined>): Partial<Record<K, Quantity>> =>
  Object.fromEntries(Object.entries(all).filter(([, q]) => q !== undefined)) as Partial<Record<K, Quantity>>;

/** The names of declared numbers, as they are typed. */
export const keysOf = <T extends object>(declared: T): (keyof T & MetricKey)[] =>
  Object.keys(declared) as (keyof T & MetricKey)[];

/** Why an outcome has no numbers, as a sentence; null when it has. */
export function whyNone(outcome: Outcome<unknown>): string | null {
  switch (outcome.status) {
    case "solved":
      return null;
    case "missing":
      return `waits for: ${outcome.needs.join(", ")}`;
    case "not covered":
      return outcome.because;
    case "failed":
      return `has no solution (${outcome.reason})`;
  }
}

/** The result of an outcome; null when it is not solved. */
export const solved = <R>(outcome: Outcome<R>): R | null => (outcome.status === "solved" ? outcome.result : null);

/** What tells a finding from every other of one design. */
export const findingKey = (f: Pick<Finding, "code" | "about">): string => `${f.code} ${f.about}`;

const ORDER: Record<Severity, number> = { stop: 0, care: 1, note: 2, clear: 3 };
/** Worst first. */
export const bySeverity = (a: { severity: Severity }, b: { severity: Severity }): number =>
  ORDER[a.severity] - ORDER[b.severity];

/** A figure made from a computed quantity and the limit it is held against. */
export function figureOf(label: string, quantity: Quantity, limit?: number): Figure {
  const { value, sd, dimension, evidence } = quantity;
  return limit === undefined
    ? { label, value, sd, dimension, evidence }
    : { label, value, sd, dimension, evidence, limit };
}

/** How many findings there are of each severity. */
export function tallyOf(findings: readonly Pick<Finding, "severity">[]): Record<Severity, number> {
  const out: Record<Severity, number> = { stop: 0, care: 0, note: 0, clear: 0 };
  for (const f of findings) out[f.severity]++;
  return out;
}

/** A computation with its verdicts: they may ask for its result, so they stand beside it and not in it. */
export const judged = <R>(node: AnySubject<R>, verdicts: Readonly<Record<string, AnyVerdict>>): AnySubject<R> => ({
  ...node,
  verdicts,
});
