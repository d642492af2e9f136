import type { Claim, CraftFile, Version } from "../design/craftFile";
import type { Dimension } from "../design/units";
import { parseQuantity } from "../design/readQuantity";
import { probabilityWithin } from "../numeric/normal";
import { type MeasuredOn, measuredOn } from "../runs/measured";
import type { ChangeKind } from "../design/fields";
import type { Change } from "./difference";

/** What a claim asks for, read out of its words. */
export type Asked =
  | { kind: "by"; share: number | null; amount: number | null }
  | { kind: "below" | "above"; limit: number }
  | { kind: "between"; low: number; high: number }
  /** only the direction can be held against the numbers */
  | { kind: "direction" };

const NUMBER = String.raw`[\d.,]+(?:\s*[–-]\s*[\d.,]+)?\s*[^\s\d,;]*`;

/** Reads "by 20 %", "to under 4 N", "into 318–344 mm", "to none": what is asked of a quantity, in stored units. What cannot be read leaves the direction. */
export function askedOf(amount: string, dimension: Dimension): Asked {
  const text = amount.trim().toLowerCase();
  const read = (t: string): number | null => {
    const r = parseQuantity(t, dimension);
    return r.ok ? r.value : null;
  };
  if (/\b(none|nothing|zero)\b/.test(text)) return { kind: "below", limit: 0 };
  const range = /([\d.,]+)\s*(?:–|-|to|and)\s*([\d.,]+)\s*([^\s\d,;]*)/.exec(text);
  if (range && /\b(into|between|within|from)\b/.test(text)) {
    const [low, high] = [read(`${range[1]} ${range[3]}`), read(`${range[2]} ${range[3]}`)];
    if (low !== null && high !== null && high > low) return { kind: "between", low, high };
  }
  const limit = new RegExp(String.raw`(under|below|at most|less than|no more than|<|≤|over|above|at least|more than|>|≥)\s*(${NUMBER})`).exec(text);
  if (limit) {
    const value = read(limit[2] ?? "");
    if (value !== null) return { kind: /over|above|at least|^more than|>|≥/.test(limit[1] ?? "") ? "above" : "below", limit: value };
  }
  const by = new RegExp(String.raw`\bby\s+(${NUMBER})`).exec(text);
  if (by) {
    const share = /^([\d.,]+)\s*%/.exec(by[1] ?? "");
    if (share && dimension !== "percent") return { kind: "by", share: Number((share[1] ?? "").replace(",", ".")) / 100, amount: null };
    const value = read(by[1] ?? "");
    if (value !== null) return { kind: "by", share: null, amount: value };
  }
  return { kind: "direction" };
}

export interface Settlement {
  claim: Claim;
  asked: Asked;
  verdict: "met" | "not met" | "unclear" | "not measured";
  before: MeasuredOn | null;
  after: MeasuredOn | null;
  /** odds, 0 to 1, that what was claimed holds, given what was measured */
  odds: number | null;
}

/** Odds beyond which a claim counts as met, and below which as not met. */
const SURE = 0.9;

/** Settles one claim of a version against what was measured on it and on its parent. A limit needs the child alone; a change needs both. */
export function settleClaim(claim: Claim, before: MeasuredOn | null, after: MeasuredOn | null, dimension: Dimension): Settlement {
  const asked = askedOf(claim.amount, dimension);
  const none: Settlement = { claim, asked, verdict: "not measured", before, after, odds: null };
  if (!after) return none;
  const below = (limit: number, value: number, sd: number) => probabilityWithin(value, sd, -Infinity, limit);
  let odds: number | null = null;
  if (asked.kind === "below") odds = below(asked.limit, after.value, after.sd);
  else if (asked.kind === "above") odds = 1 - below(asked.limit, after.value, after.sd);
  else if (asked.kind === "between") odds = below(asked.high, after.value, after.sd) - below(asked.low, after.value, after.sd);
  else if (before) {
    const sign = claim.direction === "down" ? -1 : 1;
    const wanted = asked.kind === "by" ? (asked.amount ?? (asked.share ?? 0) * Math.abs(before.value)) : 0;
    const effect = after.value - before.value;
    const sd = Math.hypot(after.sd, before.sd * (1 + (asked.kind === "by" ? (asked.share ?? 0) : 0)));
    if (claim.direction === "same") {
      const steps = sd > 0 ? Math.abs(effect) / sd : effect === 0 ? 0 : Infinity;
      return { ...none, odds: null, verdict: steps <= 1 ? "met" : steps > 2 ? "not met" : "unclear" };
    }
    odds = 1 - below(wanted, sign * effect, sd);
  }
  if (odds === null) return none;
  return { ...none, odds, verdict: odds >= SURE ? "met" : odds <= 1 - SURE ? "not met" : "unclear" };
}

/** All claims of a version, settled by the numbers. */
export function settle(file: Pick<CraftFile, "runs" | "bench">, version: Version, dimensionOf: (metric: string) => Dimension): Settlement[] {
  return version.claims.map((claim) =>
    settleClaim(claim, version.parent === null ? null : measuredOn(file, version.parent, claim.metric), measuredOn(file, version.label, claim.metric), dimensionOf(claim.metric)),
  );
}

/** Minutes that it takes to undo a change of this kind for one more test (common practice). */
const UNDO: Record<ChangeKind, number> = {
  "set-up": 2,
  propeller: 5,
  pack: 5,
  duty: 1,
  mass: 10,
  place: 10,
  "thrust line": 15,
  gear: 25,
  controller: 25,
  motor: 30,
  part: 60,
  brief: 0,
  other: 30,
};

export interface Reversal {
  subject: string;
  /** how many fields of it differ */
  changes: number;
  minutes: number;
}

/**
 * Things that were changed together: with more than one, no effect can be credited to any of them. The cheapest reversals that would tell them apart, least minutes first: all but one
 * have to be undone in turn.
 */
export function reversals(changes: readonly Change[]): Reversal[] {
  const by = new Map<string, Reversal>();
  for (const c of changes) {
    // How well a number is known is no change of the craft.
    if (c.kind === "brief" || c.kind === "duty" || c.knowing) continue;
    const minutes = c.change === "changed" ? UNDO[c.kind] : UNDO.part;
    const held = by.get(c.subject);
    by.set(c.subject, { subject: c.subject, changes: (held?.changes ?? 0) + 1, minutes: Math.max(held?.minutes ?? 0, minutes) });
  }
  return [...by.values()].sort((a, b) => a.minutes - b.minutes);
}
