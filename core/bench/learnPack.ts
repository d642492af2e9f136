import type { TestedDrive } from "../design/thrustTest";
import { type Known, rank } from "../design/evidence";
import type { Battery, Design } from "../design/schema";
import { CHEMISTRY, coldFactor } from "../subjects/energy/battery";
import { packChanged } from "../subjects/propulsion/learned";
import type { SweepResult } from "./sweep";

/** Share by which a pack's resistance differs from one charge and warmth to another (common practice). */
const FROM_DAY_TO_DAY = 0.1;
/** A sag below this many of its own standard uncertainties tells nothing. */
const TELLS = 4;
/**
 * How far a resistance may be from what is entered and still be taken for that pack's without being asked for
 * (judgement).
 */
const USUAL = 3;

export interface PackLesson {
  batteryId: string;
  name: string;
  /** Ω a cell at 25 °C, without the leads that are in the design */
  cellResistance: Known;
  /** Whether it is near enough to what is entered to be this pack's, rather than a bench supply's or a tired pack's. */
  usual: boolean;
}

/**
 * Resistance of the craft's own pack from the sag of a sweep that it fed: V = V0 - R·I - k·Q, less the leads that the
 * design names.
 * A test under load outranks it; a sweep on another pack, or one that hardly sags, tells nothing.
 *
 * @param temperature of the air at the stand, which the pack is taken to have, °C
 * @returns null where the sweep tells nothing of this pack
 */
export function packFrom(
  design: Design,
  unitId: string,
  tested: TestedDrive["battery"],
  sag: SweepResult["resistance"],
  temperature: number,
  session: number,
): PackLesson | null {
  const unit = design.units.find((u) => u.id === unitId);
  const battery: Battery | undefined = design.batteries.find((b) => b.id === unit?.batteryId);
  if (
    !battery ||
    !tested ||
    !sag ||
    packChanged(battery, tested) ||
    rank(battery.cellResistance.evidence) >= rank("measured")
  )
    return null;
  if (sag.value < TELLS * sag.sd) return null;
  const leads = design.conductors
    .filter((c) => c.batteryId === battery.id && c.unitId === null)
    .reduce((s, c) => s + c.resistance, 0);
  const each = (ohm: number) => ohm / battery.series / coldFactor(battery.chemistry, temperature);
  const value = each(sag.value - leads);
  if (!(value > 0)) return null;
  // Where the meter sits among the leads is not known: half of them is in doubt.
  const sd = Math.hypot(each(sag.sd), each(leads / 2), FROM_DAY_TO_DAY * value);
  const was = battery.cellResistance.value;
  return {
    batteryId: battery.id,
    name: battery.name || CHEMISTRY[battery.chemistry].label,
    cellResistance: { value, sd, evidence: "measured", note: `sag of sweep B-${session}` },
    usual: value < USUAL * was && value > was / USUAL,
  };
}
