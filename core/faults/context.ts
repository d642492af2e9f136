import type { CraftFile, Run } from "../design/craftFile";
import type { Battery } from "../design/schema";
import { difference, kindsOf } from "../lineage/difference";
import { baselineOf } from "../lineage/baseline";
import { reversals } from "../lineage/settle";
import { CHEMISTRY, openCircuit } from "../subjects/energy/battery";
import { likeBy, oddDrives, rowsFor } from "../runs/eachDrive";
import { lineOf } from "../runs/ladder";
import type { Finding } from "../subject";
import type { PackState, RankContext } from "./rank";

/**
 * Share of the full resting voltage below which a pack began low, and of the resting voltage below which it sags when
 * loaded (common practice).
 */
const LOW = 0.93;
const SAG = 0.85;
const COLD = 5;

/**
 * What the volts and the temperature of a run's pack say; null when too little was read. Flat-voltage chemistries
 * tell nothing by rest.
 */
export function packState(pack: Run["pack"], battery: Battery | undefined): PackState | null {
  if (pack.temperature !== null && pack.temperature < COLD) return "cold";
  if (!battery) return null;
  const flat = battery.chemistry === "lifepo4" || battery.chemistry === "nimh";
  const full = openCircuit(battery.chemistry, 1) * battery.series;
  const { restingVoltage: rest, loadedVoltage: loaded, endVoltage: end } = pack;
  if (rest !== null && !flat && rest < LOW * full) return "began low";
  if (rest !== null && loaded !== null && loaded < SAG * rest) return "sagged";
  if (end !== null && end < CHEMISTRY[battery.chemistry].floor * battery.series) return "ended flat";
  return rest !== null && !flat && loaded !== null ? "held" : null;
}

/**
 * Everything on record that may move a suspect of a fault seen in a run: verdicts, changes, unproven repairs and
 * parts, the pack, and what it was before.
 */
export function rankContext(
  file: CraftFile,
  run: Run,
  findings: readonly Finding[],
  symptom: string,
  self: number | null,
): RankContext {
  const version = file.versions.find((v) => v.label === run.version);
  if (!version) return { findings, changed: new Set() };
  const parent = file.versions.find((v) => v.label === version.parent);
  const line = lineOf(file.versions, version.label);
  const when = Date.parse(run.date);
  const dateOf = (n: number | null) => Date.parse(file.runs.find((r) => r.number === n)?.date ?? "");
  const earlier = file.faults.filter(
    (f) =>
      f.number !== self &&
      line.includes(file.runs.find((r) => r.number === f.run)?.version ?? "") &&
      dateOf(f.run) <= when,
  );
  const baseline = baselineOf(file, version.label, when);
  const since =
    baseline && baseline.label !== version.label
      ? reversals(difference(baseline.design, version.design), version.design)
      : [];
  return {
    findings,
    changed: kindsOf(parent ? difference(parent.design, version.design) : []),
    repaired: earlier
      .filter((f) => f.fix !== "" && !(f.proofRun !== null && dateOf(f.proofRun) < when))
      .map((f) => ({
        fault: f.number,
        words: `${version.design.items.find((i) => i.id === f.part)?.name ?? f.part} ${f.fix} ${f.damage}`,
      })),
    unverified: since.map((r) => r.subject),
    pack: packState(run.pack, version.design.batteries[0]),
    odd: oddDrives(run.perDrive, likeBy(rowsFor(version.design.units))),
    before: earlier
      .filter((f) => f.symptom === symptom)
      .flatMap((f) => f.suspects.filter((s) => s.state === "ruled in").map((s) => ({ fault: f.number, cause: s.id }))),
  };
}
