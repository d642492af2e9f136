import type { Design } from "../design/schema";
import { rollUp } from "../subjects/mass/rollup";
import { GRAVITY } from "../subjects/air/air";
import type { Driven } from "../subjects/propulsion/inputs";
import type { EnduranceResult } from "../subjects/energy/endurance";
import { findRoot } from "../numeric/root";
import { drawUnknown } from "../subjects/propulsion/covered";
import { enduranceOf, nominalSetup } from "../subjects/propulsion/nominal";
import { packEnergy } from "../subjects/energy/otherPack";

/** One turn of the sizing loop: what the mass asks for, and what that makes of the mass. */
export interface Turn {
  number: number;
  /** kg, all-up, that the turn began with */
  mass: number;
  /** N to hold the target of thrust to weight at that mass */
  thrust: number;
  /** mean W that the pack gives at the duty, its own losses with it */
  power: number;
  /** A·h that the wanted endurance needs */
  capacity: number;
  /** kg */
  packMass: number;
}

export type LoopResult = {
  /**
   * closes: settles on a mass. runsAway: each turn adds as much as the one before or more. outOfThrust: at the mass
   * of the last turn the drives cannot hold the duty, whatever the pack.
   * packTooLarge: at that mass no pack of forty times the craft lasts as long.
   */
  status: "closes" | "runsAway" | "outOfThrust" | "packTooLarge" | "iterationLimit";
  turns: Turn[];
  /** All-up mass that it settles on, kg; where it does not close, the mass at which it ended. */
  mass: number;
  capacity: number;
  /**
   * What makes the pack so large: the energy, or the current, below which a smaller one sags to its floor before it
   * is empty.
   */
  sizedBy: "energy" | "current";
  /** kg, all-up without the pack that is searched */
  bare: number;
  /** Share of each turn's addition that the next one adds again. */
  gain: number;
  /** Grams of AUW for each gram added anywhere: 1/(1 − gain). */
  growth: number;
};

/** Steps of the discharge while it turns. */
const STEPS = 8;
/** Times the craft's mass beyond which nobody asks any more, and the smallest pack that is tried, A·h. */
const MOST = 40;
const LEAST = 1e-3;
const TURNS = 40;
const SETTLED = 1e-4;

/**
 * The loop that every builder goes round: mass asks for thrust, thrust for power, power and the wanted time for a
 * pack, the pack is mass, and structure grows with it. Starts from the craft
 * without its pack and turns until the mass changes by less than 0.1 g, or runs away. The duty in multiples of the
 * weight follows the mass; a thrust in newtons is taken to grow with it too, as drag does at one lift-to-drag ratio;
 * a throttle stays as it is, and then
 * the loop is short.
 *
 * @param endurance wanted, s
 * @param structure kg of structure and mounts for each kg of pack
 * @returns null without a drive, a pack in the ledger, a duty or a mass
 */
export function sizingLoop(design: Design, endurance: number, structure: number): LoopResult | null {
  const ledger = rollUp(design);
  const item = design.items.find(
    (i) => i.id === design.batteries.find((b) => b.id === design.units[0]?.batteryId)?.itemId,
  );
  return (
    ledger &&
    loopOf(design, { all: ledger.mass, pack: (item?.mass?.value ?? 0) * (item?.quantity ?? 0) }, endurance, structure)
  );
}

/** The same on numbers alone. @param kg all-up mass, and of the ledger's entry for the pack */
export function loopOf(
  design: Driven & Pick<Design, "duty"> & { brief: Partial<Pick<Design["brief"], "targets">> },
  kg: { all: number; pack: number },
  endurance: number,
  structure: number,
): LoopResult | null {
  const battery = design.batteries.find((b) => b.id === design.units[0]?.batteryId);
  if (drawUnknown(design).length > 0) return null;
  if (!battery || !(kg.pack > 0) || design.duty.length === 0 || !nominalSetup(design, kg.all)) return null;
  const perAh = kg.pack / battery.capacity.value;
  const bare = kg.all - kg.pack;
  const wanted =
    design.brief.targets?.find((t) => t.metric === "thrustToWeight" && t.comparison === "atLeast")?.value ?? 1;
  const index = design.batteries.indexOf(battery);

  /** What a pack of a capacity lasts at a mass. */
  const lasts = (mass: number, capacity: number): EnduranceResult | null => {
    const sized = {
      ...design,
      batteries: design.batteries.map((b) =>
        b === battery
          ? {
              ...b,
              capacity: { ...b.capacity, value: capacity },
              cellResistance: { ...b.cellResistance, value: (b.cellResistance.value * b.capacity.value) / capacity },
            }
          : b,
      ),
      duty: design.duty.map((p) => (p.by === "thrust" ? { ...p, value: (p.value * mass) / kg.all } : p)),
    };
    const setup = nominalSetup(sized, mass);
    const pack = setup?.packs[index];
    return (setup && pack && enduranceOf(setup, pack, STEPS)) ?? null;
  };
  const most = (MOST * kg.all) / perAh;
  /** Capacity that lasts `endurance` at a mass, found between a bracket: a larger pack never lasts less. */
  const needed = (
    mass: number,
    start: number,
  ): { capacity: number; power: number; sizedBy: LoopResult["sizedBy"] } | "outOfThrust" | "packTooLarge" => {
    const time = (capacity: number) => lasts(mass, capacity)?.seconds ?? 0;
    // Time goes nearly with capacity: most often the answer lies within a fiftieth of that.
    const guess = Math.min(most, (start * endurance) / Math.max(time(start), endurance / 100));
    let [low, high] = [guess * 0.98, Math.min(most, guess * 1.02)];
    for (let step = 1.05; high < most && time(high) < endurance; step *= step) high = Math.min(most, high * step);
    if (time(high) < endurance) return lasts(mass, most)?.endedBy === "thrust" ? "outOfThrust" : "packTooLarge";
    for (let step = 1.05; low > LEAST && time(low) >= endurance; step *= step) low /= step;
    const found = findRoot((c) => Math.min(time(c), 2 * endurance) - endurance, low, high, 1e-4 * high);
    const capacity = "x" in found ? found.x : high;
    const run = lasts(mass, capacity);
    const full = packEnergy(
      { chemistry: battery.chemistry, series: battery.series, capacity },
      battery.startCharge,
      battery.startCharge - battery.usable,
    );
    return {
      capacity,
      power: run && run.endedBy !== "charge" ? run.joules / run.seconds : full / endurance,
      sizedBy: run?.endedBy === "charge" ? "energy" : "current",
    };
  };

  const turns: Turn[] = [];
  let mass = bare;
  let capacity = battery.capacity.value;
  let before = Number.NaN;
  let gain = 0;
  let sizedBy: LoopResult["sizedBy"] = "energy";
  const ended = (status: LoopResult["status"], at: number): LoopResult => ({
    status,
    turns,
    mass: at,
    capacity,
    sizedBy,
    bare,
    gain,
    growth: status === "closes" && gain < 1 ? 1 / (1 - gain) : Infinity,
  });
  for (let n = 1; n <= TURNS; n++) {
    const need = needed(mass, capacity);
    if (typeof need === "string") return ended(need, mass);
    capacity = need.capacity;
    sizedBy = need.sizedBy;
    const packMass = perAh * capacity;
    turns.push({ number: n, mass, thrust: wanted * mass * GRAVITY, power: need.power, capacity, packMass });
    const next = bare + packMass * (1 + structure) - structure * kg.pack;
    const step = next - mass;
    if (Number.isFinite(before) && Math.abs(before) > 1e-9) gain = Math.abs(step / before);
    if (Math.abs(step) < SETTLED) return ended("closes", next);
    if ((n > 6 && gain >= 1) || next > MOST * kg.all) return ended("runsAway", next);
    before = step;
    mass = next;
  }
  return ended("iterationLimit", mass);
}
