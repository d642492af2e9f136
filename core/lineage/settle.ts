import type { Design } from "../design/schema";
import { LOST, SURE } from "../design/targets";
import type { Claim, CraftFile, Version } from "../design/craftFile";
import type { Dimension } from "../design/units";
import { parseQuantity } from "../design/readQuantity";
import { probabilityByT, repeatsFor } from "../numeric/welch";
import { type MeasuredOn, knownScatter, measuredOn } from "../runs/measured";
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

/**
 * Reads "by 20 %", "to under 4 N", "into 318–344 mm", "to none": what is asked of a quantity, in stored units. What
 * cannot be read leaves the direction.
 */
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
  const limit = new RegExp(
    String.raw`(under|below|at most|less than|no more than|<|≤|over|above|at least|more than|>|≥)\s*(${NUMBER})`,
  ).exec(text);
  if (limit) {
    const value = read(limit[2] ?? "");
    if (value !== null)
      return { kind: /over|above|at least|^more than|>|≥/.test(limit[1] ?? "") ? "above" : "below", limit: value };
  }
  const by = new RegExp(String.raw`\bby\s+(${NUMBER})`).exec(text);
  if (by) {
    const share = /^([\d.,]+)\s*%/.exec(by[1] ?? "");
    if (share && dimension !== "percent")
      return { kind: "by", share: Number((share[1] ?? "").replace(",", ".")) / 100, amount: null };
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
  /** Why it is unclear although something was measured, in words; null otherwise. */
  why: string | null;
  /**
   * Repeats on each side that would settle a change as large as claimed, at the scatter that is known; null where
   * that cannot be said.
   */
  repeats: number | null;
}

/** Degrees of freedom of a difference of two means after Welch and Satterthwaite. */
function freedomOf(a: { sd: number; freedom: number }, b: { sd: number; freedom: number }): number {
  const [va, vb] = [a.sd ** 2, b.sd ** 2];
  const part = (v: number, f: number) => (Number.isFinite(f) ? v ** 2 / f : 0);
  const below = part(va, a.freedom) + part(vb, b.freedom);
  return below > 0 ? (va + vb) ** 2 / below : Infinity;
}

const UNREPEATED = "measured once, and nobody knows how far repeats scatter: repeat it";

/**
 * Settles one claim of a version against what was measured on it and on its parent, by Student's t where the ± comes
 * from repeats. A limit needs the child alone; a change needs both.
 *
 * @param scatter how far repeats fall on this craft: tells how many would settle it
 */
export function settleClaim(
  claim: Claim,
  before: MeasuredOn | null,
  after: MeasuredOn | null,
  dimension: Dimension,
  scatter: { sd: number } | null = null,
): Settlement {
  const asked = askedOf(claim.amount, dimension);
  const base: Settlement = {
    claim,
    asked,
    verdict: "not measured",
    before,
    after,
    odds: null,
    why: null,
    repeats: null,
  };
  const change = asked.kind === "by" || asked.kind === "direction";
  const size = asked.kind === "by" && before ? (asked.amount ?? (asked.share ?? 0) * Math.abs(before.value)) : 0;
  const none: Settlement = { ...base, repeats: scatter && size > 0 ? repeatsFor(size, 2 * scatter.sd ** 2) : null };
  if (!after || (change && !before)) return none;
  if (after.freedom === 0 || (change && before?.freedom === 0)) return { ...none, verdict: "unclear", why: UNREPEATED };
  const within = (value: number, sd: number, freedom: number, low: number, high: number) =>
    probabilityByT(value, sd, freedom, low, high);
  let odds: number;
  if (asked.kind === "below") odds = within(after.value, after.sd, after.freedom, -Infinity, asked.limit);
  else if (asked.kind === "above") odds = within(after.value, after.sd, after.freedom, asked.limit, Infinity);
  else if (asked.kind === "between") odds = within(after.value, after.sd, after.freedom, asked.low, asked.high);
  else {
    const was = before as MeasuredOn;
    const sign = claim.direction === "down" ? -1 : 1;
    const effect = after.value - was.value;
    const first = { sd: was.sd * (1 + (asked.kind === "by" ? (asked.share ?? 0) : 0)), freedom: was.freedom };
    const sd = Math.hypot(after.sd, first.sd);
    if (claim.direction === "same") {
      const steps = sd > 0 ? Math.abs(effect) / sd : effect === 0 ? 0 : Infinity;
      return { ...none, verdict: steps <= 1 ? "met" : steps > 2 ? "not met" : "unclear" };
    }
    odds = within(sign * effect, sd, freedomOf(first, after), size, Infinity);
  }
  return { ...none, odds, verdict: odds >= SURE ? "met" : odds <= LOST ? "not met" : "unclear" };
}

/**
 * The state in which a claim is settled: the first in which both versions were measured; the first of all where none
 * was. What one state shows is never held against what another does.
 */
function stateOfClaim(
  version: Version,
  parent: Version | undefined,
  on: (version: Version, state: string) => MeasuredOn | null,
): string {
  const ids = version.design.states.map((s) => s.id);
  return (
    ids.find((id) => on(version, id) && parent && on(parent, id)) ?? ids.find((id) => on(version, id)) ?? ids[0] ?? ""
  );
}

/** All claims of a version, settled by the numbers. */
export function settle(
  file: Pick<CraftFile, "runs" | "bench" | "versions">,
  version: Version,
  dimensionOf: (metric: string) => Dimension,
): Settlement[] {
  return version.claims.map((claim) => {
    const scatter = knownScatter(file, claim.metric);
    const parent = file.versions.find((v) => v.label === version.parent);
    const on = ({ label, design }: Version, state: string) =>
      measuredOn(file, { label, state, first: state === design.states[0]?.id }, claim.metric, scatter);
    const state = stateOfClaim(version, parent, on);
    return settleClaim(
      claim,
      parent ? on(parent, state) : null,
      on(version, state),
      dimensionOf(claim.metric),
      scatter,
    );
  });
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
  medium: 30,
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

/** Under which name a thing goes, and what undoing it is where its own kind is not it. */
interface One {
  name: string;
  kind: ChangeKind | null;
}
type Named = Pick<Design, "items" | "batteries" | "surfaces">;
/** What is one thing to a builder under one name: a pack and its entry in the mass list, a wing and its entry. */
function oneThing({ items, batteries, surfaces }: Named): Map<string, One> {
  const out = new Map<string, One>();
  // Another mass or size of it is another pack: that is what is put back.
  for (const b of batteries) if (b.itemId) out.set(`items/#${b.itemId}`, { name: b.name, kind: "pack" });
  for (const s of surfaces) {
    const item = items.find((i) => i.id === s.itemId);
    if (item) out.set(`surfaces/#${s.id}`, { name: item.name, kind: null });
  }
  return out;
}

/**
 * Things that were changed together: with more than one, no effect can be credited to any of them. The cheapest
 * reversals that would tell them apart, least minutes first: all but one
 * have to be undone in turn.
 */
export function reversals(changes: readonly Change[], design: Named | null = null): Reversal[] {
  const by = new Map<string, Reversal>();
  const names = design ? oneThing(design) : new Map<string, One>();
  for (const c of changes) {
    // How well a number is known is no change of the craft.
    if (c.kind === "brief" || c.kind === "duty" || c.knowing) continue;
    const one = names.get(c.path.slice(0, 2).join("/"));
    const minutes = c.change === "changed" ? UNDO[one?.kind ?? c.kind] : UNDO.part;
    const subject = one?.name ?? c.subject;
    const held = by.get(subject);
    by.set(subject, {
      subject,
      changes: (held?.changes ?? 0) + 1,
      minutes: Math.max(held?.minutes ?? 0, minutes),
    });
  }
  return [...by.values()].sort((a, b) => a.minutes - b.minutes);
}
