import { supportInAny } from "../design/support";
import type { Aboard, Around } from "../design/hazards";
import type { Design } from "../design/schema";

/** Where a caution is said: each once, at its place. */
export const CAUTION_PLACES = ["workshop", "power", "site", "plan"] as const;
export type CautionPlace = (typeof CAUTION_PLACES)[number];

/** What can hurt someone about this craft, as codes; the words are in core/wording/cautions.ts. */
export type Caution =
  | Exclude<Aboard, "belts or gears">
  | Around
  | "turning"
  | "fast-tips"
  | "gears"
  | "first-plug"
  | "spark"
  | "lithium"
  | "wet-pack"
  | "pack-store"
  | "cold-pack"
  | "takes-off"
  | "surface"
  | "retrieval"
  | "gas"
  | "unstable"
  | "alone"
  | "link"
  | "rules";

/** Tip speed above which a broken blade flies far, m/s (common practice). */
const FAST_TIPS = 150;
/** Cells in series above which a plug sparks (common practice). */
const SPARKS = 6;
/** Below this a lithium pack is not charged, °C (common practice). */
const TOO_COLD = 5;

const PLACE: Record<Aboard, CautionPlace> = {
  "home-made rotor": "power",
  flywheel: "power",
  spring: "power",
  "pressure gas": "power",
  "belts or gears": "power",
  "hand launch": "site",
  "hand catch": "site",
  "cutting dust": "workshop",
  resin: "workshop",
  "hot wire": "workshop",
  laser: "workshop",
};

type About = Pick<Design, "units" | "batteries" | "states" | "gasLift" | "aboard" | "schools"> & {
  brief: Pick<Design["brief"], "environment">;
};

/**
 * The cautions of a craft, each once and at its place: from what is aboard and what it does, whether a drive of it is
 * computed or not. That something turns, that the radio may be lost and that
 * rules differ is said of every craft.
 *
 * @param tipSpeed blade tip speed at full throttle, m/s; 0 when not known
 * @param run what is around the place of a planned run, and whether it is done alone
 */
export function cautionsFor(
  design: About,
  tipSpeed: number,
  run: { around: readonly Around[]; alone: boolean } = { around: [], alone: false },
): { code: Caution; place: CautionPlace }[] {
  const out: { code: Caution; place: CautionPlace }[] = [];
  const add = (place: CautionPlace, code: Caution, applies: boolean) => void (applies && out.push({ code, place }));
  const { environment } = design.brief;
  const lithium = design.batteries.some((b) => b.chemistry !== "nimh" && b.chemistry !== "lead");
  const packs = design.batteries.length > 0;
  const held = supportInAny(design);
  const wet = held.afloat || design.units.some((u) => u.surroundings === "in water");
  for (const hazard of design.aboard)
    if (hazard !== "belts or gears") add(PLACE[hazard], hazard, PLACE[hazard] === "workshop");
  add("power", "turning", true);
  add("power", "fast-tips", tipSpeed > FAST_TIPS);
  add("power", "gears", design.aboard.includes("belts or gears") || design.units.some((u) => u.gear.ratio !== 1));
  for (const hazard of design.aboard) if (hazard !== "belts or gears") add("power", hazard, PLACE[hazard] === "power");
  add("power", "first-plug", packs);
  add(
    "power",
    "spark",
    design.batteries.some((b) => b.series > SPARKS),
  );
  add("power", "lithium", lithium);
  add("power", "wet-pack", packs && wet);
  add("power", "pack-store", lithium);
  add("power", "cold-pack", packs && environment.packTemperature < TOO_COLD);
  add("power", "unstable", design.schools.balance === "unstable on purpose");
  add("power", "link", true);
  add("site", "takes-off", held.leavesGround);
  for (const hazard of design.aboard) if (hazard !== "belts or gears") add("site", hazard, PLACE[hazard] === "site");
  add("site", "surface", wet || environment.airTemperature < 0);
  add("site", "retrieval", wet);
  add("site", "gas", held.gas);
  for (const thing of run.around) add("plan", thing, true);
  add("plan", "alone", run.alone);
  add("plan", "rules", true);
  return out;
}
