import { evidenceByShare } from "../../design/evidence";
import type { Quantity, WorkingInput } from "../../design/quantity";
import type { Unit } from "../../design/schema";
import { type Doubtful, alsoBy, sdOf, sharesOf, through } from "../../numeric/doubt";
import { type Outcome, doubtsOf, keysOf, subject } from "../../subject";
import { GRAVITY } from "../air/air";
import { type LedgerMass, mass } from "../mass/node";
import { type PropulsionResult, propulsion } from "../propulsion/node";
import { onGroundByModel } from "../propulsion/kinds/which";
import { inputsOf } from "../propulsion/words";
import { quantities } from "./declares";

type RatioKey = keyof typeof quantities;
export interface RatiosResult {
  thrustToWeight: Doubtful;
  /**
   * Throttle at which the main drives carry the weight; null for a craft that does not hang on them, or that they
   * cannot lift.
   */
  thrustThrottle: Doubtful | null;
  /** Steepest ground that it climbs, rad; null for a craft whose drives do not push on the ground. */
  grade: Doubtful | null;
}
/** Name of the weight among what moves a number. */
const MASS = "/mass";

/**
 * Throttle at which a thrust curve reaches a thrust: parabolas in the root of the thrust, which goes nearly straight
 * with the throttle.
 * @returns null beyond the curve's end
 */
export function throttleAt(
  lift: { throttle: readonly number[]; thrust: readonly Doubtful[] },
  wanted: number,
): Doubtful | null {
  const roots = lift.thrust.map((t) => Math.sqrt(Math.max(t.value, 0)));
  const s = Math.sqrt(wanted);
  const last = roots.length - 1;
  if (last < 2 || s > (roots[last] ?? 0)) return null;
  const above = roots.findIndex((r) => r >= s);
  const k = Math.min(Math.max(above, 1), last - 1);
  const [x0, x1, x2] = [roots[k - 1] as number, roots[k] as number, roots[k + 1] as number];
  const [y0, y1, y2] = [lift.throttle[k - 1] as number, lift.throttle[k] as number, lift.throttle[k + 1] as number];
  const at = (x: number) =>
    (y0 * (x - x1) * (x - x2)) / ((x0 - x1) * (x0 - x2)) +
    (y1 * (x - x0) * (x - x2)) / ((x1 - x0) * (x1 - x2)) +
    (y2 * (x - x0) * (x - x1)) / ((x2 - x0) * (x2 - x1));
  const u = at(s);
  // How the thrust moves with each input, at that throttle; the throttle moves the other way by the curve's slope.
  const slope = (at(s * 1.001) - at(s * 0.999)) / (0.002 * wanted * 2);
  const t = Math.min(Math.max((u - y0) / (y1 - y0), 0), 2);
  const [a, b] = t <= 1 ? [lift.thrust[k - 1], lift.thrust[k]] : [lift.thrust[k], lift.thrust[k + 1]];
  const w = t <= 1 ? t : t - 1;
  const by: Record<string, number> = {};
  for (const id of new Set([...Object.keys(a?.by ?? {}), ...Object.keys(b?.by ?? {})]))
    by[id] = -slope * ((a?.by[id] ?? 0) * (1 - w) + (b?.by[id] ?? 0) * w);
  return { value: u, by: { ...by, "/weight slope": slope * wanted } };
}

/** Whether what a drive pushes on is the ground. */
const pushesOnGround = (unit: Pick<Unit, "measured" | "propulsor">): boolean =>
  unit.measured ? unit.measured.on === "the ground" : onGroundByModel(unit);

/** Share of the weight that may rest on what is not driven before that is said. */
const RESTS = 0.05;
/** What rests on wheels that nothing drives, as a sentence: what it takes to roll them is left out. */
function undriven(units: readonly Pick<Unit, "measured" | "propulsor" | "count">[], mass: number): string[] {
  if (!units.every((u) => !u.measured && u.propulsor?.kind === "wheel")) return [];
  const carried = units.reduce((s, u) => s + (u.propulsor?.kind === "wheel" ? u.count * u.propulsor.load.value : 0), 0);
  return carried < (1 - RESTS) * mass
    ? [
        `${Math.round(100 * (1 - carried / mass))} % of the weight rests on what is not driven: what ` +
          "that takes is left out",
      ]
    : [];
}

/** Thrust against the weight: a division and a point of the thrust curve, without solving anything. */
export const ratios = subject({
  name: "ratios",
  reads: ["states", "gasLift", "units"],
  needs: [propulsion, mass],
  gives: keysOf(quantities),
  compute(view, of): Outcome<RatiosResult> {
    const [drives, ledger] = [of(propulsion), of(mass)];
    if (drives.status !== "solved") return drives;
    if (ledger.status !== "solved") return { status: "missing", needs: ["mass"] };
    const { thrust } = drives.result.values;
    const { lift } = drives.result;
    const m = ledger.result;
    const weight = m.mass * GRAVITY;
    const ratio = thrust.value / weight;
    const share = m.massSd / m.mass;
    const found = lift && throttleAt(lift, weight);
    let throttle: Doubtful | null = null;
    if (found) {
      const { "/weight slope": slope = 0, ...by } = found.by;
      throttle = { value: found.value, by: { ...by, [MASS]: slope * share } };
    }
    const toWeight = alsoBy(through(thrust, ratio, 1 / weight), MASS, -ratio * share);
    const climbs = drives.result.main.every((i) => view.units[i] && pushesOnGround(view.units[i]));
    return {
      status: "solved",
      result: {
        thrustToWeight: toWeight,
        thrustThrottle: throttle,
        grade: climbs ? through(toWeight, Math.atan(ratio), 1 / (1 + ratio ** 2)) : null,
      },
    };
  },
  quantities(result, view, of) {
    const drives = of(propulsion);
    const ledger = of(mass);
    if (drives.status !== "solved" || ledger.status !== "solved") return {};
    const incomplete = [...drives.result.incomplete, ...ledger.result.incomplete];
    const out: Partial<Record<RatioKey, Quantity>> = {};
    for (const key of keysOf(quantities)) {
      const d = result[key];
      const evidence = d && evidenceByShare(inputsIn(d, drives.result, ledger.result, false));
      if (d && evidence)
        out[key] = {
          value: d.value,
          sd: sdOf(d),
          dimension: quantities[key].dimension,
          evidence,
          ...doubtsOf(
            drives.result.outside,
            key === "grade" ? [...incomplete, ...undriven(view.units, ledger.result.mass)] : incomplete,
            drives.result.unknown,
          ),
        };
    }
    return out;
  },
  working(key, result, view, of) {
    const d = result[key as RatioKey];
    const drives = of(propulsion);
    const ledger = of(mass);
    if (!d || drives.status !== "solved" || ledger.status !== "solved") return [];
    return inputsIn(d, drives.result, ledger.result, view.units.length > 1);
  },
});

/** What a ratio came from: the inputs of the drives and the weight, the largest share of its doubt first. */
function inputsIn(d: Doubtful, drives: PropulsionResult, ledger: LedgerMass, several: boolean): WorkingInput[] {
  const weight: WorkingInput = {
    name: "All-up weight",
    value: ledger.mass,
    sd: ledger.massSd,
    dimension: "mass",
    evidence: ledger.evidence,
    share: sharesOf(d).get(MASS) ?? 0,
    source: null,
  };
  return [...inputsOf(drives.inputs, d, several), weight].sort((a, b) => b.share - a.share);
}
