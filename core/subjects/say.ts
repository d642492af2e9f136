import { isOpenPropeller } from "./propulsion/kinds/which";
import type { Evidence } from "../design/evidence";
import { type Patch, knownAt, tryPatch } from "../design/patch";
import type { Design, Unit } from "../design/schema";
import type { Dimension, UnitHabit } from "../design/units";
import { findRoot } from "../numeric/root";
import type { Page } from "../design/metrics";
import type { Quantity } from "../design/quantity";
import { LOST, type TargetResult } from "../design/targets";
import { type Figure, type Found, type Remedy, type See, figureOf } from "../subject";
import { plain } from "../wording/format";
import { rollUp } from "./mass/rollup";
import type { LevelDrag } from "./propulsion/levelDrag";
import { type Nominal, type PowerKey, nominalPower, nominalSetup } from "./propulsion/nominal";

export const percent = (share: number) => `${Math.round(share * 100)} %`;
export const times = (factor: number) => `${factor.toFixed(2)} ×`;
export const chance = (odds: number) =>
  odds > 0.995 ? "> 99 %" : odds < 0.005 ? "< 1 %" : `${Math.round(odds * 100)} %`;

/** Words of advice that change nothing in the design. */
export const advice = (text: string): Remedy => ({ code: "advice", text, patch: null });
export const LIGHTEN = advice("Lighten, or take something off");
export const set = (path: string[], value: number | string): Patch => ({ set: [{ path, value }], addItems: [] });

export const figure = (
  label: string,
  value: number,
  sd: number,
  dimension: Dimension,
  evidence: Evidence,
  limit: number,
): Figure => ({
  label,
  value,
  sd,
  dimension,
  evidence,
  limit,
});

/** What tells how long a craft lasts when nothing else does. */
export const ONE_MINUTE = advice(
  "Run it one minute in the tub or tied down, and enter the mean current in Power, Duty",
);

/** A must that is missed stops only where that is sure: within its doubt it wants care, as a wish does. */
export const graveness = ({ target, odds }: TargetResult): "stop" | "care" =>
  target.weight === "must" && (odds ?? 0) < LOST ? "stop" : "care";

/**
 * Missed targets of these numbers, each as a finding: a must that is missed by 90 in 100 stops, one that is likely
 * missed and a wish want care. @param say its parameters and the name of its figure
 */
export const missed = <P>(
  { targets }: See,
  wanted: (t: TargetResult) => boolean,
  page: Page,
  say: (t: TargetResult, predicted: Quantity) => { params: P; label: string },
): Found<P>[] =>
  targets
    .filter((t) => t.status === "missed" && wanted(t))
    .flatMap((t): Found<P>[] => {
      if (!t.predicted) return [];
      const { params, label } = say(t, t.predicted);
      return [
        {
          page,
          severity: graveness(t),
          about: t.target.id,
          params,
          figure: figureOf(label, t.predicted, t.target.value),
        },
      ];
    });

/** Picks the number that a remedy is to bring to its limit out of a nominal result. */
export type Pick = (n: Nominal) => number;
export const ofCraft =
  (key: PowerKey): Pick =>
  (n) =>
    n.craft[key];
export const ofUnit =
  (id: string, key: Exclude<keyof Nominal["units"][number], "id">): Pick =>
  (n) =>
    n.units.find((u) => u.id === id)?.[key] ?? Number.NaN;
export const ofPack =
  (id: string, key: Exclude<keyof Nominal["packs"][number], "id">): Pick =>
  (n) =>
    n.packs.find((p) => p.id === id)?.[key] ?? Number.NaN;

/**
 * Value of one number of the design at which a result reaches `wanted`; null when none between `low` and `high` does.
 *
 * @param levelDrag what holds it back on its wings, where what is picked rests on a duty at a speed
 */
export function solveFor(
  design: Design,
  patchFor: (x: number) => Patch,
  pick: Pick,
  wanted: number,
  low: number,
  high: number,
  levelDrag: LevelDrag | null = null,
): number | null {
  const after = (x: number): number => {
    const changed = tryPatch(design, patchFor(x));
    const setup = changed && nominalSetup({ ...changed, levelDrag }, rollUp(changed)?.mass ?? null);
    const values = setup && nominalPower(setup, 12);
    return values ? pick(values) : Number.NaN;
  };
  const found = findRoot((x) => after(x) - wanted, low, high, (high - low) * 1e-4, 40);
  return found.status === "converged" ? found.x : null;
}

/** Another propeller size, as stamped on one to be bought. */
export const resize = (unit: Unit, key: "diameter" | "pitch", value: number): Patch => ({
  set: knownAt(["units", `#${unit.id}`, "propeller", key], value, "datasheet"),
  addItems: [],
});

export const fitDiameter = (unit: Unit, diameter: number, habit: UnitHabit): Remedy => {
  const from = unit.propeller.diameter.value;
  return {
    code: "fit-diameter",
    text:
      `Fit a propeller of ${plain(diameter, "length", habit, 0)}, ${diameter > from ? "up" : "down"} from ` +
      `${plain(from, "length", habit, 0)}`,
    patch: resize(unit, "diameter", diameter),
  };
};
export const fitPitch = (unit: Unit, pitch: number, habit: UnitHabit): Remedy => ({
  code: "fit-pitch",
  text:
    `Fit a pitch of ${plain(pitch, "length", habit, 0)}, down from ` +
    `${plain(unit.propeller.pitch.value, "length", habit, 0)}`,
  patch: resize(unit, "pitch", pitch),
});
export const limitThrottle = (unit: Unit, throttle: number): Remedy => ({
  code: "limit-throttle",
  text: `Limit throttle to ${percent(throttle)}`,
  patch: set(["units", `#${unit.id}`, "throttleLimit"], throttle),
});

/** Most that a reduction is made larger by a remedy. */
const GEARED = 8;
/** A larger reduction that brings a current down to what is wanted. */
export function gearDown(design: Design, unit: Unit, pick: Pick, wanted: number): Remedy[] {
  const from = unit.gear.ratio;
  const patch = (x: number) => set(["units", `#${unit.id}`, "gear", "ratio"], x);
  const ratio = solveFor(design, patch, pick, wanted, from, from * GEARED);
  if (ratio === null || ratio < 1.02 * from) return [];
  const to = Math.ceil(ratio * 10) / 10;
  return [
    {
      code: "gear-down",
      text:
        `Gear it down to ${to} : 1, from ${Number(from.toPrecision(3))} : 1: a reduction multiplies ` +
        "torque, not power",
      patch: patch(to),
    },
  ];
}

/**
 * Remedies that bring a current back to its limit: a finer pitch, a smaller propeller, or a throttle limit of this
 * drive.
 */
export function lessCurrent(design: Design, unit: Unit, pick: Pick, limit: number, habit: UnitHabit): Remedy[] {
  const wanted = limit * 0.98;
  const remedies: Remedy[] = [];
  const pitch = unit.propeller.pitch.value;
  const finest = Math.max(0.3 * unit.propeller.diameter.value, pitch * 0.5);
  const shaped = isOpenPropeller(unit);
  const finer =
    shaped && finest < pitch ? solveFor(design, (x) => resize(unit, "pitch", x), pick, wanted, finest, pitch) : null;
  if (finer !== null) remedies.push(fitPitch(unit, finer, habit));
  const from = unit.propeller.diameter.value;
  const diameter =
    shaped && finer === null
      ? solveFor(design, (x) => resize(unit, "diameter", x), pick, wanted, from * 0.6, from)
      : null;
  if (diameter !== null) remedies.push(fitDiameter(unit, diameter, habit));
  if (unit.propulsor && !unit.measured) remedies.push(...gearDown(design, unit, pick, wanted));
  const throttle = solveFor(
    design,
    (x) => set(["units", `#${unit.id}`, "throttleLimit"], x),
    pick,
    wanted,
    0.1,
    unit.throttleLimit,
  );
  if (throttle !== null) remedies.push(limitThrottle(unit, throttle));
  return remedies;
}

/** Asks for less: the target's limit moved to where the craft is. */
export const askFor = (
  targetId: string,
  dimension: Dimension,
  value: number,
  to: number,
  habit: UnitHabit,
): Remedy => ({
  code: "ask-for",
  text: `${dimension === "time" ? "Lower" : "Raise"} the limit to ${plain(value, dimension, habit)}`,
  patch: set(["brief", "targets", `#${targetId}`, "value"], to),
});
