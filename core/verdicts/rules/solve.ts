import type { Patch } from "../../design/patch";
import { applyPatch, knownAt } from "../../design/patch";
import type { Design, Unit } from "../../design/schema";
import { rollUp } from "../../mass/rollup";
import { remembering } from "../../numeric/memo";
import { findRoot } from "../../numeric/root";
import { type PowerKey, type PowerResult, nominalPower, nominalSetup } from "../../power/evaluatePower";
import type { Figure, Finding, Remedy, Rule, RuleInput } from "../types";

export interface Solved extends RuleInput {
  result: PowerResult;
  unit: Unit;
}

/** A rule that needs a solved drive; silent without one. */
export const withDrive =
  (rule: (input: Solved) => Finding[]): Rule =>
  (input) => {
    const unit = input.design.units[0];
    return input.power.status === "solved" && unit ? rule({ ...input, result: input.power.result, unit }) : [];
  };

export const set = (path: string[], value: number): Patch => ({ set: [{ path, value }], addItems: [] });

/** Nominal result of a changed design; NaN when it has none. */
function after(design: Design, patch: Patch, key: PowerKey): number {
  const changed = applyPatch(design, patch);
  const setup = nominalSetup(changed, rollUp(changed)?.mass ?? null);
  const values = setup && nominalPower(setup, 12);
  return values ? values[key] : Number.NaN;
}

/** Value of one number of the design at which a result reaches `wanted`; null when none between `low` and `high` does. */
export function solveFor(input: RuleInput, patchFor: (x: number) => Patch, key: PowerKey, wanted: number, low: number, high: number): number | null {
  const { design, mass } = input;
  // Where parts stand does not matter to a drive: while one is dragged the answer is the same.
  const asked = JSON.stringify([design.units, design.batteries, design.duty, design.brief.environment, mass?.mass, key, wanted, low, high, patchFor(low), patchFor(high)]);
  return solved(asked, () => {
    const found = findRoot((x) => after(design, patchFor(x), key) - wanted, low, high, (high - low) * 1e-4, 40);
    return { x: found.status === "converged" ? found.x : null };
  }).x;
}
const solved = remembering<{ x: number | null }>(60);

/** Another propeller size, as stamped on one to be bought. */
export const resize = (unit: Unit, key: "diameter" | "pitch", value: number): Patch => ({
  set: knownAt(["units", `#${unit.id}`, "propeller", key], value, "datasheet"),
  addItems: [],
});

export const figure = (label: string, value: number, sd: number, dimension: Figure["dimension"], input: Solved, limit: number): Figure => ({
  label,
  value,
  sd,
  dimension,
  evidence: input.result.evidence,
  limit,
});

/** Remedies that bring a current back to its limit: a finer pitch, a smaller propeller, or a throttle limit. */
export function lessCurrent(input: Solved, key: "current" | "packCurrent", limit: number): Remedy[] {
  const { unit } = input;
  const wanted = limit * 0.98;
  const remedies: Remedy[] = [];
  const pitch = unit.propeller.pitch.value;
  const finest = Math.max(0.3 * unit.propeller.diameter.value, pitch * 0.5);
  const finer = finest < pitch ? solveFor(input, (x) => resize(unit, "pitch", x), key, wanted, finest, pitch) : null;
  if (finer !== null) remedies.push({ code: "fit-pitch", params: { pitch: finer, from: pitch }, patch: resize(unit, "pitch", finer) });
  const from = unit.propeller.diameter.value;
  const diameter = solveFor(input, (x) => resize(unit, "diameter", x), key, wanted, from * 0.6, from);
  if (diameter !== null && finer === null) remedies.push({ code: "fit-diameter", params: { diameter, from }, patch: resize(unit, "diameter", diameter) });
  const path = ["units", `#${unit.id}`, "throttleLimit"];
  const throttle = solveFor(input, (x) => set(path, x), key, wanted, 0.1, unit.throttleLimit);
  if (throttle !== null) remedies.push({ code: "limit-throttle", params: { throttle }, patch: set(path, throttle) });
  return remedies;
}
