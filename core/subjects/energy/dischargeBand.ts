import type { Evidence } from "../../design/evidence";
import type { Design } from "../../design/schema";
import type { EnduranceResult } from "./endurance";
import { enduranceOf, computable } from "../propulsion/nominal";
import { type Driven, inputId, powerInputs } from "../propulsion/inputs";
import type { LevelDrag } from "../propulsion/levelDrag";
import { type PowerSetup, setUp } from "../propulsion/setup";

/**
 * A moment of the discharge under the heaviest phase of the duty, each with its standard uncertainty at that charge;
 * the charge's is the one at that time.
 */
export interface DischargePoint {
  /** s, and its sd */
  seconds: number;
  secondsSd: number;
  /** V of the pack */
  voltage: number;
  voltageSd: number;
  /** W from the pack */
  power: number;
  powerSd: number;
  /** 0 to 1 */
  charge: number;
  chargeSd: number;
}
export interface Discharge {
  batteryId: string;
  seconds: number;
  sd: number;
  endedBy: EnduranceResult["endedBy"];
  points: DischargePoint[];
}

const STEPS = 16;

/**
 * The run of the pack that is spent first, as it is or were it colder or older, with first-order uncertainty over all
 * inputs by one-sided differences at equal charge.
 *
 * @param mass the craft's (kg), with its standard uncertainty
 * @param change pack temperature (°C); factor on the cell resistance (2: common practice for a pack at the end of its
 *   life)
 * @param levelDrag what holds it back on its wings, where the duty asks for a speed
 * @returns null without a drive, a pack or a duty
 */
export function discharge(
  design: Design,
  mass: { value: number; sd: number; evidence: Evidence } | null,
  change: { packTemperature?: number; resistanceFactor?: number } = {},
  levelDrag: LevelDrag | null = null,
): Discharge | null {
  if (!computable(design)) return null;
  const other: Driven = { ...structuredClone(design), levelDrag };
  if (change.packTemperature !== undefined) other.brief.environment.packTemperature = change.packTemperature;
  for (const b of other.batteries) {
    b.cellResistance.value *= change.resistanceFactor ?? 1;
    if (b.cellResistance.sd !== undefined) b.cellResistance.sd *= change.resistanceFactor ?? 1;
  }
  const inputs = powerInputs(other, mass);
  const values = new Map(inputs.map((i) => [inputId(i), i.value]));
  const base = setUp(other, values);
  const all = base.packs.map((p) => enduranceOf(base, p, STEPS)?.seconds ?? Number.NaN);
  const index = all.indexOf(Math.min(...all.filter((s) => !Number.isNaN(s))));
  const run = (setup: PowerSetup) => {
    const pack = setup.packs[index];
    return pack ? enduranceOf(setup, pack, STEPS) : null;
  };
  const here = run(base);
  const battery = base.packs[index]?.battery;
  if (!here || !battery) return null;
  const others = inputs
    .filter((i) => i.sd > 0)
    .flatMap((i) => run(setUp(other, new Map([...values, [inputId(i), i.value + i.sd]]))) ?? []);
  const spread = (of: (e: EnduranceResult) => number | undefined) => {
    const now = of(here) ?? 0;
    return Math.hypot(...others.map((o) => (of(o) ?? now) - now));
  };
  const points = here.trace.map((t, k): DischargePoint => {
    const [before, after] = [
      here.trace[Math.max(0, k - 1)] ?? t,
      here.trace[Math.min(here.trace.length - 1, k + 1)] ?? t,
    ];
    const slope =
      after.seconds > before.seconds ? (before.charge - after.charge) / (after.seconds - before.seconds) : 0;
    const secondsSd = spread((e) => e.trace[k]?.seconds);
    return {
      ...t,
      secondsSd,
      voltageSd: spread((e) => e.trace[k]?.voltage),
      powerSd: spread((e) => e.trace[k]?.power),
      chargeSd: slope * secondsSd,
    };
  });
  return {
    batteryId: battery.id,
    seconds: here.seconds,
    sd: Number.isFinite(here.seconds) ? spread((e) => e.seconds) : 0,
    endedBy: here.endedBy,
    points,
  };
}
