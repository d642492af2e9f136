import { type Evidence, computedFrom, magnitudeSd } from "./design/evidence";
import type { MetricKey } from "./design/metrics";
import type { Quantity, Working, WorkingInput } from "./design/quantity";
import type { Design } from "./design/schema";
import { type TargetResult, judgeTargets } from "./design/targets";
import type { Dimension } from "./design/units";
import { ballastMass } from "./subjects/mass/ballast";
import { growthOf } from "./subjects/mass/growth";
import { type Extent, type MassResult, extent, rollUp } from "./subjects/mass/rollup";
import { air } from "./subjects/air/air";
import { type PowerOutcome, type PowerResult, evaluatePower } from "./subjects/propulsion/evaluatePower";
import type { PowerKey } from "./subjects/propulsion/nominal";
import type { InputKey } from "./subjects/propulsion/setup";
import { judge } from "./verdicts/judge";
import type { Finding } from "./verdicts/types";

/** One thing whose measurement would take the most doubt out of a number that decides. */
export interface NextMeasurement {
  metric: MetricKey;
  /** Ledger entry, or input of the drive. */
  of: { kind: "mass" | "place"; item: string } | { kind: "input"; input: InputKey; drive: string };
  sdNow: number;
  sdAfter: number;
}

/** Everything that the application says about one version comes from one of these. */
export interface Evaluation {
  mass: MassResult | null;
  box: Extent | null;
  power: PowerOutcome;
  metrics: Partial<Record<MetricKey, Quantity>>;
  targets: TargetResult[];
  findings: Finding[];
  measureNext: NextMeasurement[];
}

export interface EvaluationContext {
  /** Label and predicted mass (kg) of the version that this one grew from. */
  parentMass?: { label: string; mass: number } | null;
}

const POWER_DIMENSION: Record<PowerKey, Dimension> = {
  thrust: "force",
  current: "current",
  packCurrent: "current",
  packVoltage: "voltage",
  packPower: "power",
  rpm: "rotation",
  torque: "torque",
  motorLoss: "power",
  tipMach: "ratio",
  thrustToWeight: "ratio",
  thrustThrottle: "percent",
  endurance: "time",
  speed: "speed",
};

/** Inputs that a working lists by name; the words are in core/wording. */
function powerWorking(result: PowerResult, key: PowerKey): Working {
  const several = result.units.length > 1;
  const inputs: WorkingInput[] = result.inputs.map((i) => ({
    name: several && i.name !== "" ? `${i.name}: ${i.key}` : i.key,
    value: i.value,
    sd: i.sd,
    dimension: i.dimension,
    evidence: i.evidence,
  }));
  const outside: string[] = [];
  const lead = result.units[result.lead];
  if (!lead) return { method: key, inputs, outside };
  const ratio = lead.unit.propeller.pitch.value / lead.unit.propeller.diameter.value;
  if (ratio < 0.3 || ratio > 1.2) outside.push(`pitch/diameter ${ratio.toFixed(2)} is outside 0.3 to 1.2`);
  if (result.values.tipMach > 0.75) outside.push(`tip Mach ${result.values.tipMach.toFixed(2)} is above 0.75`);
  if (lead.stalled > 0.55) outside.push(`${Math.round(lead.stalled * 100)} % of the blade is stalled standing still: thrust is uncertain`);
  return { method: key, inputs, outside };
}

function massMetrics(design: Design, mass: MassResult, box: Extent | null): Partial<Record<MetricKey, Quantity>> {
  const inputs = design.items.flatMap((i, k) =>
    i.mass ? [{ name: i.name, value: i.mass.value * i.quantity, sd: mass.items[k]?.massSd ?? 0, dimension: "mass" as const, evidence: i.mass.evidence }] : [],
  );
  const outside = mass.withoutMass.length > 0 ? [`${mass.withoutMass.length} parts have no mass and are left out`] : [];
  const q = (method: MetricKey, value: number, sd: number, dimension: Dimension, evidence: Evidence): Quantity => ({
    value,
    sd,
    dimension,
    evidence,
    working: { method, inputs, outside },
  });
  const out: Partial<Record<MetricKey, Quantity>> = {
    auw: q("auw", mass.mass, mass.massSd, "mass", mass.evidence),
    auwExpected: q("auwExpected", mass.mass + growthOf(design).expected, mass.massSd, "mass", mass.evidence),
    cgX: q("cgX", mass.cg.x, mass.cgSd.x, "length", mass.cgEvidence),
    cgY: q("cgY", mass.cg.y, mass.cgSd.y, "length", mass.cgEvidence),
    cgZ: q("cgZ", mass.cg.z, mass.cgSd.z, "length", mass.cgEvidence),
    inertiaRoll: q("inertiaRoll", mass.inertia.roll, mass.inertiaSd.roll, "inertia", mass.cgEvidence),
    inertiaPitch: q("inertiaPitch", mass.inertia.pitch, mass.inertiaSd.pitch, "inertia", mass.cgEvidence),
    inertiaYaw: q("inertiaYaw", mass.inertia.yaw, mass.inertiaSd.yaw, "inertia", mass.cgEvidence),
  };
  if (box) {
    const place = computedFrom(design.items.map((i) => i.placeEvidence));
    for (const [key, axis] of [
      ["length", "x"],
      ["width", "y"],
      ["height", "z"],
    ] as const)
      out[key] = { value: box.max[axis] - box.min[axis], sd: 0.003, dimension: "length", evidence: place };
  }
  if (design.gasLift) {
    const lift = design.gasLift;
    out.netMass = q("netMass", mass.mass - lift.value, Math.hypot(mass.massSd, magnitudeSd(lift)), "mass", computedFrom([mass.evidence, lift.evidence]));
  }
  const dead = ballastMass(design);
  if (dead > 0) out.ballastShare = q("ballastShare", dead / mass.mass, ((dead / mass.mass) * mass.massSd) / mass.mass, "percent", mass.evidence);
  const packs = design.items.filter((i) => design.batteries.some((b) => b.itemId === i.id));
  const packMass = packs.reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity, 0);
  if (packMass > 0)
    out.packShare = { value: packMass / mass.mass, sd: (packMass / mass.mass) * Math.hypot(mass.massSd / mass.mass, 0.01), dimension: "percent", evidence: mass.evidence };
  return out;
}

function costs(design: Design): Partial<Record<MetricKey, Quantity>> {
  const priced = design.items.filter((i) => i.cost !== null);
  if (priced.length === 0) return {};
  const sum = (items: typeof priced) => items.reduce((s, i) => s + (i.cost ?? 0) * i.quantity, 0);
  const evidence: Evidence = priced.length === design.items.length ? "datasheet" : "guess";
  const toBuy = sum(priced.filter((i) => i.source === "buy"));
  return {
    cost: { value: sum(priced), sd: 0.05 * sum(priced), dimension: "money", evidence },
    costToBuy: { value: toBuy, sd: 0.05 * toBuy, dimension: "money", evidence },
  };
}

function powerMetrics(result: PowerResult): Partial<Record<MetricKey, Quantity>> {
  const out: Partial<Record<MetricKey, Quantity>> = {};
  for (const key of Object.keys(POWER_DIMENSION) as PowerKey[]) {
    const value = result.values[key];
    if (!Number.isFinite(value)) continue;
    out[key] = { value, sd: result.sd[key], dimension: POWER_DIMENSION[key], evidence: result.evidence, working: powerWorking(result, key) };
  }
  return out;
}

const NEXT = 4;

/** What to measure next: for the CG, and for thrust to weight when there is a drive. Best first; only what removes a tenth of the doubt. */
function nextMeasurements(design: Design, mass: MassResult | null, power: PowerOutcome): NextMeasurement[] {
  const out: NextMeasurement[] = [];
  const left = (sd: number, without: number) => Math.sqrt(Math.max(0, sd ** 2 - without ** 2));
  if (mass) {
    for (const [k, share] of mass.items.entries()) {
      const item = design.items[k];
      if (!item?.mass || share.mass === null) continue;
      const byMass = (share.massSd * Math.abs(item.place.x - mass.cg.x)) / mass.mass;
      const byPlace = (share.placeSd * share.mass) / mass.mass;
      const kind = byMass >= byPlace ? ("mass" as const) : ("place" as const);
      const measuredAlready = kind === "mass" ? item.mass.evidence === "measured" : item.placeEvidence === "measured";
      if (!measuredAlready) out.push({ metric: "cgX", of: { kind, item: item.name }, sdNow: mass.cgSd.x, sdAfter: left(mass.cgSd.x, Math.max(byMass, byPlace)) });
    }
  }
  if (power.status === "solved" && Number.isFinite(power.result.values.thrustToWeight)) {
    const { sd, shares } = power.result;
    for (const { input, share } of shares("thrustToWeight"))
      if (input.of !== "")
        out.push({
          metric: "thrustToWeight",
          of: { kind: "input", input: input.key, drive: power.result.units.length > 1 ? input.name : "" },
          sdNow: sd.thrustToWeight,
          sdAfter: sd.thrustToWeight * Math.sqrt(Math.max(0, 1 - share)),
        });
  }
  return out
    .filter((n) => n.sdNow > 0 && n.sdAfter < 0.95 * n.sdNow)
    .sort((p, q) => p.sdAfter / p.sdNow - q.sdAfter / q.sdNow)
    .slice(0, NEXT);
}

/**
 * All computed results and verdicts of one design. Returns what can be computed and leaves out what lacks its inputs; never throws on a
 * design that the schema accepts.
 */
export function evaluate(design: Design, context: EvaluationContext = {}): Evaluation {
  const mass = rollUp(design);
  const box = extent(design);
  const power = evaluatePower(design, mass ? { value: mass.mass, sd: mass.massSd, evidence: mass.evidence } : null);
  const { environment } = design.brief;
  const metrics: Partial<Record<MetricKey, Quantity>> = {
    ...(mass ? massMetrics(design, mass, box) : {}),
    ...costs(design),
    airDensity: { value: air(environment.altitude, environment.airTemperature).density, sd: 0, dimension: "density", evidence: "calculated" },
    ...(power.status === "solved" ? powerMetrics(power.result) : {}),
  };
  const lifted = design.heldUpBy === "rotors" || design.heldUpBy === "flapping";
  if (!lifted) delete metrics.thrustThrottle;
  const targets = judgeTargets(design.brief.targets, metrics);
  const findings = judge({ design, mass, box, power, metrics, targets, parentMass: context.parentMass ?? null });
  return { mass, box, power, metrics, targets, findings, measureNext: nextMeasurements(design, mass, power) };
}
