import type { Evidence } from "../design/evidence";
import type { MetricKey, Station } from "../design/metrics";
import type { Patch } from "../design/patch";
import type { Quantity } from "../design/quantity";
import type { Axis, Design } from "../design/schema";
import type { TargetResult } from "../design/targets";
import type { Dimension } from "../design/units";
import type { Extent, MassResult } from "../subjects/mass/rollup";
import type { PowerOutcome } from "../subjects/propulsion/evaluatePower";

/** The parameters that each finding carries. SI values; the sentence is made in core/wording. */
export interface FindingParams {
  "cg-outside": { side: "behind" | "ahead"; by: number };
  "cg-doubtful": { odds: number };
  "cg-inside": { odds: number };
  "cg-sideways": { side: "starboard" | "port"; by: number };
  "cg-vertical": { side: "above" | "below"; by: number };
  "slide-short": { item: string; reach: number; by: number };
  "outside-envelope": { item: string; by: number; axis: Axis; others: number };
  "pair-unequal": { a: string; b: string; mass: number; place: number };
  "pair-odd": { item: string; quantity: number };
  "ballast-share": { share: number; mass: number };
  surprise: { item: string; by: number; against: "planned" | "predicted"; atNose: number | null };
  unweighed: { share: number; first: string };
  "slide-outside": { item: string; by: number };
  "mass-over": { by: number };
  "nothing-left": { by: number; open: number };
  growth: { share: number; from: string; expected: number };
  "mass-missing": { count: number; first: string };
  "size-over": { metric: MetricKey; by: number };
  "cost-over": { by: number };
  "thrust-short": { factor: number };
  "cannot-lift": { factor: number };
  "lift-throttle": { throttle: number };
  "motor-current": { factor: number; drive: string };
  "controller-current": { factor: number; drive: string };
  "pack-current": { factor: number };
  "pack-floor": { cell: number };
  "conductor-current": { name: string; factor: number };
  "brown-out": { rail: string; short: number };
  "rail-current": { rail: string; factor: number };
  "spin-unmatched": { share: number };
  "sharing-unequal": { hottest: string; share: number; idle: string };
  "speed-short": { factor: number };
  "steep-change": { inches: number; factor: number };
  "never-closes": { time: number };
  "pair-excludes": { mass: number; time: number; limit: number };
  "masked-failure": { drives: number; left: number };
  "fast-throttle": { drive: string; factor: number };
  "duty-needs": { what: "mass" | "drag area" };
  "cells-over": { cells: number };
  "currents-hold": { share: number };
  "endurance-short": { share: number };
  "pack-too-big": { times: number };
  "pack-share": { share: number };
  "cold-pack": { temperature: number; factor: number };
  "tip-speed": { mach: number };
  "blade-stall": { share: number; ratio: number };
  "thrust-line": { shift: number; arm: number };
  "count-differs": { drive: number; ledger: number };
  "not-solved": { reason: string };
  "drive-missing": { what: "drive" | "pack" | "both" };
  "targets-missing": { which: "all" | "window" };
  "rests-on-guess": { metric: MetricKey };
  "sweep-stale": { drive: string; changed: string; carried: boolean };
  "sweep-other-pack": { drive: string; pack: string };
  "copies-unmeasured": { drive: string; count: number };
  "thrust-unmeasured": { drive: string };
}
export type FindingCode = keyof FindingParams;

/** The parameters of each kind of remedy. */
export interface RemedyParams {
  "move-part": { item: string; by: number; to: number };
  "move-part-across": { item: string; by: number };
  "add-ballast": { mass: number; x: number; y: number };
  "slide-and-ballast": { item: string; by: number; mass: number; spot: string };
  "widen-slide": { item: string; to: number };
  "drop-ballast": { mass: number; item: string; by: number };
  "move-inside": { item: string; by: number; axis: Axis };
  "even-pair": { item: string; y: number };
  "move-into-range": { item: string; to: number };
  "fit-diameter": { diameter: number; from: number };
  "fit-pitch": { pitch: number; from: number };
  "limit-throttle": { throttle: number };
  "fit-conductor": { name: string; current: number };
  "fit-regulator": { name: string; current: number };
  "pair-spin": { name: string };
  "fit-controller": { current: number };
  "fit-controller-cells": { cells: number };
  "fit-pack": { capacity: number; mass: number };
  "warm-pack": { temperature: number };
  "tilt-thrust": { tilt: number };
  "set-quantity": { item: string; quantity: number };
  "ask-for": { metric: MetricKey; value: number };
  advice: { text: AdviceCode };
}
export type RemedyCode = keyof RemedyParams;
export type AdviceCode =
  | "weigh-parts"
  | "describe-drive"
  | "set-targets"
  | "lighten"
  | "weigh-first"
  | "measure-one"
  | "cheaper"
  | "shorten"
  | "check-pitch"
  | "find-why"
  | "split-loads"
  | "compare-currents"
  | "slow-ramp"
  | "time-a-run"
  | "even-out"
  | "smaller-inside"
  | "sweep-one";

export type Remedy = {
  [C in RemedyCode]: { code: C; params: RemedyParams[C]; patch: Patch | null };
}[RemedyCode];

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

export type Finding = {
  [C in FindingCode]: {
    code: C;
    params: FindingParams[C];
    severity: Severity;
    station: Station;
    /** Part, drive or target that the finding is about: tells two findings of one rule apart. */
    subject: string;
    figure: Figure | null;
    remedies: Remedy[];
  };
}[FindingCode];

/** Everything that a rule may look at. */
export interface RuleInput {
  design: Design;
  mass: MassResult | null;
  box: Extent | null;
  power: PowerOutcome;
  metrics: Partial<Record<MetricKey, Quantity>>;
  targets: TargetResult[];
  /** Mass that the version this one grew from was predicted to have, kg. */
  parentMass: { label: string; mass: number } | null;
}

/** A rule: results in, findings out. Silent when it does not apply or lacks its inputs. */
export type Rule = (input: RuleInput) => Finding[];

const ORDER: Record<Severity, number> = { stop: 0, care: 1, note: 2, clear: 3 };
/** Worst first. */
export const bySeverity = (a: Finding, b: Finding): number => ORDER[a.severity] - ORDER[b.severity];

/** A figure made from a computed quantity and the limit it is held against. */
export function figureOf(label: string, quantity: Quantity, limit?: number): Figure {
  const { value, sd, dimension, evidence } = quantity;
  return { label, value, sd, dimension, evidence, limit };
}

/** How many findings there are of each severity. */
export function tallyOf(findings: readonly Pick<Finding, "severity">[]): Record<Severity, number> {
  const out: Record<Severity, number> = { stop: 0, care: 0, note: 0, clear: 0 };
  for (const f of findings) out[f.severity]++;
  return out;
}
