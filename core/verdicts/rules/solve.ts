import type { Patch } from "../../design/patch";
import { tryPatch, knownAt } from "../../design/patch";
import type { Design, Unit } from "../../design/schema";
import { rollUp } from "../../subjects/mass/rollup";
import { remembering } from "../../numeric/memo";
import { findRoot } from "../../numeric/root";
import type { PowerResult, SolvedPack, SolvedUnit } from "../../subjects/propulsion/evaluatePower";
import { type Nominal, type PowerKey, nominalPower, nominalSetup } from "../../subjects/propulsion/nominal";
import type { Figure, Finding, Remedy, Rule, RuleInput } from "../types";

export interface Solved extends RuleInput {
  result: PowerResult;
  /** The drive that the craft's single-drive results are of. */
  unit: Unit;
}

/** A rule that needs solved drives; silent without them. */
export const withDrive =
  (rule: (input: Solved) => Finding[]): Rule =>
  (input) => {
    if (input.power.status !== "solved") return [];
    const { result } = input.power;
    const unit = result.units[result.lead]?.unit;
    return unit ? rule({ ...input, result, unit }) : [];
  };

/** A rule held against every drive in turn. */
export const forEachDrive = (rule: (input: Solved, solved: SolvedUnit, index: number) => Finding[]): Rule =>
  withDrive((input) => input.result.units.flatMap((solved, i) => rule({ ...input, unit: solved.unit }, solved, i)));

/** A rule held against every pack in turn. */
export const forEachPack = (rule: (input: Solved, solved: SolvedPack, index: number) => Finding[]): Rule =>
  withDrive((input) => input.result.packs.flatMap((solved, i) => rule(input, solved, i)));

export const set = (path: string[], value: number): Patch => ({ set: [{ path, value }], addItems: [] });

/** Picks the number that a remedy is to bring to its limit out of a nominal result. */
export type Pick = (n: Nominal) => number;
export const ofCraft =
  (key: PowerKey): Pick =>
  (n) =>
    n.craft[key];
export const ofUnit =
  (index: number, key: keyof Nominal["units"][number]): Pick =>
  (n) =>
    n.units[index]?.[key] ?? Number.NaN;
export const ofPack =
  (index: number, key: keyof Nominal["packs"][number]): Pick =>
  (n) =>
    n.packs[index]?.[key] ?? Number.NaN;

/** Nominal result of a changed design; NaN when it has none. */
function after(design: Design, patch: Patch, pick: Pick): number {
  const changed = tryPatch(design, patch);
  if (!changed) return Number.NaN;
  const setup = nominalSetup(changed, rollUp(changed)?.mass ?? null);
  const values = setup && nominalPower(setup, 12);
  return values ? pick(values) : Number.NaN;
}

const solved = remembering<{ x: number | null }>(80);

/** Value of one number of the design at which a result reaches `wanted`; null when none between `low` and `high` does. `name` tells one picked result from another. */
export function solveFor(input: RuleInput, patchFor: (x: number) => Patch, name: string, pick: Pick, wanted: number, low: number, high: number): number | null {
  const { design, mass } = input;
  // Where parts stand does not matter to a drive: while one is dragged the answer is the same.
  const asked = JSON.stringify([
    design.heldUpBy,
    design.units,
    design.batteries,
    design.conductors,
    design.regulators,
    design.duty,
    design.dragArea,
    design.brief.environment,
    mass?.mass,
    name,
    wanted,
    low,
    high,
    patchFor(low),
    patchFor(high),
  ]);
  return solved(asked, () => {
    const found = findRoot((x) => after(design, patchFor(x), pick) - wanted, low, high, (high - low) * 1e-4, 40);
    return { x: found.status === "converged" ? found.x : null };
  }).x;
}

/** Another propeller size, as stamped on one to be bought. */
export const resize = (unit: Unit, key: "diameter" | "pitch", value: number): Patch => ({
  set: knownAt(["units", `#${unit.id}`, "propeller", key], value, "datasheet"),
  addItems: [],
});

export const figure = (label: string, value: number, sd: number, dimension: Figure["dimension"], evidence: Figure["evidence"], limit: number): Figure => ({
  label,
  value,
  sd,
  dimension,
  evidence,
  limit,
});

/** Remedies that bring a current back to its limit: a finer pitch, a smaller propeller, or a throttle limit of this drive. */
export function lessCurrent(input: Solved, unit: Unit, name: string, pick: Pick, limit: number): Remedy[] {
  const wanted = limit * 0.98;
  const remedies: Remedy[] = [];
  const pitch = unit.propeller.pitch.value;
  const finest = Math.max(0.3 * unit.propeller.diameter.value, pitch * 0.5);
  const finer = finest < pitch ? solveFor(input, (x) => resize(unit, "pitch", x), name, pick, wanted, finest, pitch) : null;
  if (finer !== null) remedies.push({ code: "fit-pitch", params: { pitch: finer, from: pitch }, patch: resize(unit, "pitch", finer) });
  const from = unit.propeller.diameter.value;
  const diameter = solveFor(input, (x) => resize(unit, "diameter", x), name, pick, wanted, from * 0.6, from);
  if (diameter !== null && finer === null) remedies.push({ code: "fit-diameter", params: { diameter, from }, patch: resize(unit, "diameter", diameter) });
  const path = ["units", `#${unit.id}`, "throttleLimit"];
  const throttle = solveFor(input, (x) => set(path, x), name, pick, wanted, 0.1, unit.throttleLimit);
  if (throttle !== null) remedies.push({ code: "limit-throttle", params: { throttle }, patch: set(path, throttle) });
  return remedies;
}
