import { z } from "zod";
import { type RunMetric, type Run, isMetricKey } from "../../core/design/craftFile";
import type { Design } from "../../core/design/schema";
import { rollUp } from "../../core/subjects/mass/rollup";
import { GRAVITY, air } from "../../core/subjects/air/air";
import { type Random, seededRandom } from "../../core/numeric/random";
import { type PowerValues, nominalPower, nominalSetup } from "../../core/subjects/propulsion/nominal";
import { INPUT_KEYS, inputId, powerInputs } from "../../core/subjects/propulsion/inputs";
import { type PowerSetup, setUp } from "../../core/subjects/propulsion/setup";

/** What a demo craft is really like: how its masses, places and coefficients differ from the design. */
export const hiddenSchema = z.object({
  seed: z.number().int(),
  massFactor: z.record(z.string(), z.number().positive()),
  moveX: z.record(z.string(), z.number()),
  drive: z.partialRecord(z.enum([...INPUT_KEYS, "bladeLift", "bladeDrag"]), z.number().positive()),
  liftArea: z.number().positive().describe("area times highest lift coefficient, m²"),
  criticalSpeed: z.record(z.string(), z.number()).describe("speed at which the nose runs away, m/s, by version"),
  startForce: z.record(z.string(), z.number()),
});
export type Hidden = z.infer<typeof hiddenSchema>;

/** Standard uncertainty of the instrument with which each thing is read, SI. */
const INSTRUMENT: Record<string, { sd: number; by: string }> = {
  auw: { sd: 0.002, by: "kitchen scale" },
  cgX: { sd: 0.0015, by: "knife edge" },
  packCurrent: { sd: 0.3, by: "logger" },
  packVoltage: { sd: 0.03, by: "logger" },
  thrust: { sd: 0.12, by: "spring scale" },
  rpm: { sd: 60, by: "optical counter" },
  thrustThrottle: { sd: 0.02, by: "transmitter" },
  endurance: { sd: 10, by: "watch" },
  speed: { sd: 0.25, by: "logger" },
  liftOffSpeed: { sd: 0.3, by: "logger" },
  noseAngle: { sd: 0.009, by: "logger" },
  distance: { sd: 2, by: "pegs on the ice" },
  motorTemperature: { sd: 1, by: "touch probe" },
  energyUsed: { sd: 1500, by: "charger" },
};

/** The real craft behind a design. */
export function realDesign(design: Design, hidden: Hidden): Design {
  const real = structuredClone(design);
  for (const item of real.items) {
    if (item.mass) item.mass.value *= hidden.massFactor[item.id] ?? 1.005;
    item.place.x += hidden.moveX[item.id] ?? 0;
  }
  // The real drive is what it is, whatever a stand taught of it.
  for (const unit of real.units) unit.learned = null;
  return real;
}

/** The real drives and packs behind a design, as the solvers take them. */
export function realSetup(design: Design, hidden: Hidden, mass: number): PowerSetup | null {
  const real = realDesign(design, hidden);
  if (!nominalSetup(real, mass)) return null;
  const inputs = powerInputs(real, { value: mass, sd: 0, evidence: "proven" });
  const values = new Map(
    inputs.map((i) => [
      inputId(i),
      i.value * (i.key === "mass" ? 1 : (hidden.drive[i.key as keyof typeof hidden.drive] ?? 1)),
    ]),
  );
  return setUp(real, values, null, { lift: hidden.drive.bladeLift ?? 1, drag: hidden.drive.bladeDrag ?? 1 });
}

function realPower(design: Design, hidden: Hidden, mass: number): PowerValues | null {
  const setup = realSetup(design, hidden, mass);
  return setup && (nominalPower(setup)?.craft ?? null);
}

/** What the real craft does in a run, without noise, SI; NaN for what it cannot tell. */
function truth(design: Design, hidden: Hidden, run: Run, metric: string): number {
  const real = realDesign(design, hidden);
  const mass = rollUp(real);
  const power = mass ? realPower(design, hidden, mass.mass) : null;
  if (!mass) return Number.NaN;
  const rho = air(design.brief.environment.altitude, run.conditions.airTemperature ?? 15).density;
  const liftOff = Math.sqrt((2 * mass.mass * GRAVITY) / (rho * hidden.liftArea));
  const top = liftOff * (run.stage <= 3 ? 0.93 : run.stage === 4 ? 1.1 : 1.3);
  const critical = hidden.criticalSpeed[run.version] ?? hidden.criticalSpeed.default ?? Number.POSITIVE_INFINITY;
  switch (metric) {
    case "auw":
      return mass.mass;
    case "cgX":
      return mass.cg.x;
    case "liftOffSpeed":
      return liftOff;
    case "speed":
      return design.dragArea ? (power?.speed ?? Number.NaN) : top;
    case "noseAngle":
      // The trimmed nose angle grows without bound towards the speed at which pitch becomes unstable.
      return 0.035 / Math.max(0.1, 1 - (top / critical) ** 2);
    case "distance":
      return 24 + run.stage * 9;
    case "motorTemperature":
      return (run.conditions.airTemperature ?? 15) + (power?.motorLoss ?? Number.NaN) * 1.6;
    case "energyUsed":
      return power ? power.packPower * power.endurance * 0.45 : Number.NaN;
    case "Minutes until it stopped":
      return 342;
    case "Force to start moving":
      return hidden.startForce[run.version] ?? hidden.startForce.default ?? 0;
    default:
      return power && isMetricKey(metric) && metric in power ? power[metric as keyof PowerValues] : Number.NaN;
  }
}

/** Metres of one lap of the demo's course. */
const LAP = 240;

/**
 * Laps of a run off the real craft: time by its speed, energy by what it takes to get round, more against the wind
 * and on a low pack.
 */
export function readLaps(
  design: Design,
  hidden: Hidden,
  run: Run,
  random: Random = seededRandom(hidden.seed + 500 + run.number),
): Run["laps"] {
  const power = rollUp(realDesign(design, hidden));
  const all = power && realPower(design, hidden, power.mass);
  if (!power || !all) return run.laps;
  // Skimming takes a good third of full power; weight and size of the craft enter through it.
  const cruise = 0.36 * all.packPower * Math.sqrt(power.mass / 1.4);
  const speed = 11.5 * Math.sqrt(1.4 / power.mass);
  return run.laps.map((lap) => {
    const low = lap.startVoltage !== null && lap.startVoltage < 11.6;
    const seconds = (LAP / speed) * (1 + 0.012 * random.normal()) * (low ? 1.05 : 1);
    const energy = cruise * seconds * (1 + 0.012 * ((lap.wind ?? 0) - 2) + 0.018 * random.normal()) * (low ? 1.06 : 1);
    return {
      ...lap,
      values: { energyUsed: Math.round(energy), lapTime: Math.round(seconds * 10) / 10, distance: LAP },
    };
  });
}

/** Reads the metrics of a run off the real craft, with the noise of the instrument used. */
export function readRun(
  design: Design,
  hidden: Hidden,
  run: Run,
  random: Random = seededRandom(hidden.seed + run.number),
): RunMetric["measured"][] {
  return run.metrics.map((m) => {
    const value = truth(design, hidden, run, m.metric);
    if (!Number.isFinite(value)) return null;
    const { sd, by } = INSTRUMENT[m.metric] ?? { sd: Math.abs(value) * 0.05, by: "spring scale" };
    return { value: value + sd * random.normal(), sd, by };
  });
}
