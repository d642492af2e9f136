import type { Run } from "../design/craftFile";
import type { Load } from "../subjects/energy/load";

/** Share by which a charger's or meter's charge and energy are off (common practice). */
const COUNTED = 0.04;

/**
 * The mean load that a run measured, the most direct first: mean power, mean current, energy over time, charge over
 * time.
 *
 * @returns null when it measured none, or not how long it lasted
 */
export function loadOfRun(run: Pick<Run, "number" | "metrics" | "seconds">): Load | null {
  const measured = (key: string) => run.metrics.find((m) => m.metric === key)?.measured ?? null;
  const note = `run ${run.number}`;
  const seconds = run.seconds ?? measured("endurance")?.value ?? null;
  const lasted = seconds ?? 60;
  const power = measured("meanPower");
  if (power && power.value > 0) return { by: "power", value: power.value, sd: power.sd, seconds: lasted, note };
  const current = measured("meanCurrent");
  if (current && current.value > 0)
    return { by: "current", value: current.value, sd: current.sd, seconds: lasted, note };
  if (seconds === null || !(seconds > 0)) return null;
  const energy = measured("energyUsed");
  if (energy && energy.value > 0)
    return {
      by: "power",
      value: energy.value / seconds,
      sd: Math.hypot(energy.sd, COUNTED * energy.value) / seconds,
      seconds,
      note,
    };
  const charge = measured("charge");
  if (charge && charge.value > 0)
    return {
      by: "current",
      value: (charge.value * 3600) / seconds,
      sd: (Math.hypot(charge.sd, COUNTED * charge.value) * 3600) / seconds,
      seconds,
      note,
    };
  return null;
}
