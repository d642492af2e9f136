import type { Run } from "../design/craftFile";
import type { Design } from "../design/schema";
import { CHEMISTRY, openCircuit } from "../subjects/energy/battery";
import { miss } from "./miss";

/** A way in which a run's numbers stand to one another that says more than each by itself. */
export type Pattern =
  | "pack low"
  | "pack sags"
  | "sags more"
  | "meter too low"
  | "one drive at nothing"
  | "no lift though it turns"
  | "outside the model";

/** Steps beyond which no input can explain a miss. */
export const BEYOND = 3;
/** Share of the current predicted below which it is the meter's (judgement): nothing runs on half. */
const HALF = 0.5;
/** Charge below which a pack counts as low at the start (judgement). */
const LOW = 0.7;
/**
 * How near to a whole number of drives the thrust must lie, as a share of one drive, and how many drives can be told
 * apart by it at all (judgement).
 */
const NEAR = 0.2;
const COUNTABLE = 6;

type Asked = Pick<Run, "metrics" | "pack">;

/**
 * What a run's misses say together, the plainest first: a pack that began low or sagged, a meter that reads far too
 * low, a drive that gives nothing, thrust that is missing though the drives turn as they
 * should; and what no input of the model explains. Only then is it worth asking which input is worst known.
 */
export function patternsOf(run: Asked, design: Pick<Design, "units" | "batteries">): Pattern[] {
  const out: Pattern[] = [];
  const ratio = (key: string): number | null => {
    const m = run.metrics.find((x) => x.metric === key);
    return m?.predicted && m.measured && m.predicted.value > 0 ? m.measured.value / m.predicted.value : null;
  };
  const steps = (key: string): number => {
    const m = run.metrics.find((x) => x.metric === key);
    return m?.predicted && m.measured ? (miss(m.predicted, m.measured)?.steps ?? 0) : 0;
  };
  const [battery] = design.batteries;
  if (
    battery &&
    run.pack.restingVoltage !== null &&
    run.pack.restingVoltage / battery.series < openCircuit(battery.chemistry, LOW)
  )
    out.push("pack low");
  if (
    battery &&
    run.pack.loadedVoltage !== null &&
    run.pack.loadedVoltage / battery.series < CHEMISTRY[battery.chemistry].floor
  )
    out.push("pack sags");
  if (!out.includes("pack sags") && steps("packVoltage") < -2 && steps("packCurrent") < 1) out.push("sags more");
  const [thrust, rpm] = [ratio("thrust"), ratio("rpm")];
  const current = ratio("packCurrent") ?? ratio("current") ?? ratio("meanCurrent");
  const drives = design.units.reduce((s, u) => s + u.count, 0);
  const lost =
    thrust !== null && drives > 1 && drives <= COUNTABLE && steps("thrust") < -2
      ? Math.round((1 - thrust) * drives)
      : 0;
  const oneOut = thrust !== null && lost >= 1 && lost < drives && Math.abs(thrust * drives - (drives - lost)) < NEAR;
  if (oneOut) out.push("one drive at nothing");
  if (current !== null && current < HALF && !oneOut && (thrust === null || thrust > 0.8)) out.push("meter too low");
  if (thrust !== null && thrust < 0.8 && steps("thrust") < -2 && rpm !== null && rpm > 0.95 && !oneOut)
    out.push("no lift though it turns");
  if (
    out.length === 0 &&
    run.metrics.some((m) => m.predicted && m.measured && Math.abs(miss(m.predicted, m.measured)?.steps ?? 0) > BEYOND)
  )
    out.push("outside the model");
  return out;
}

export const PATTERN_TEXT: Record<Pattern, string> = {
  "pack low": "The pack was not full at the start: charge it, and run it again before anything else is suspected.",
  "pack sags": "The pack sags below its floor under load: a fresh, warm pack first, then plugs and wires.",
  "sags more":
    "The pack sags more at that current than its resistance says: plugs and wires, its age, or the " +
    "cold. Read its resistance under load.",
  "meter too low":
    "The current read is less than half of what such a thrust takes: check the meter, its range and its " +
    "zero before the drive.",
  "one drive at nothing":
    "The thrust is short by about a whole drive. Does one give nothing: dead, unplugged, turning the " +
    "wrong way? Compare the currents of each; pack out before hands go near.",
  "no lift though it turns":
    "It turns as fast as it should and pushes too little: inlet or outlet, a lid, or the propeller " +
    "(another one, or on backwards).",
  "outside the model":
    "Further off than anything that was entered can explain: something is outside of the model, or the " +
    "meter is. Repeat it with another meter.",
};
