import type { Design } from "../design/schema";
import { rollUp } from "../subjects/mass/rollup";
import { GRAVITY } from "../subjects/air/air";
import type { Driven } from "../subjects/propulsion/inputs";
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
  /** closes: settles on a mass. runsAway: each turn adds as much as the one before or more. */
  status: "closes" | "runsAway" | "iterationLimit";
  turns: Turn[];
  /** All-up mass that it settles on, kg; NaN when it does not. */
  mass: number;
  capacity: number;
  /** Share of each turn's addition that the next one adds again. */
  gain: number;
  /** Grams of AUW for each gram added anywhere: 1/(1 − gain). */
  growth: number;
};

const TURNS = 40;
const SETTLED = 1e-4;

/**
 * The loop that every builder goes round: mass asks for thrust, thrust for power, power and the wanted time for a pack, the pack is mass, and structure grows with it. Starts from the craft
 * without its pack and turns until the mass changes by less than 0.1 g, or runs away. The duty in multiples of the weight follows the mass; a thrust in newtons is taken to grow with it too, as drag does at one lift-to-drag ratio; a throttle stays as it is, and then
 * the loop is short.
 *
 * @param endurance wanted, s
 * @param structure kg of structure and mounts for each kg of pack
 * @returns null without a drive, a pack in the ledger, a duty or a mass
 */
export function sizingLoop(design: Design, endurance: number, structure: number): LoopResult | null {
  const ledger = rollUp(design);
  const item = design.items.find((i) => i.id === design.batteries.find((b) => b.id === design.units[0]?.batteryId)?.itemId);
  return ledger && loopOf(design, { all: ledger.mass, pack: (item?.mass?.value ?? 0) * (item?.quantity ?? 0) }, endurance, structure);
}

/** The same on numbers alone. @param kg all-up mass, and of the ledger's entry for the pack */
export function loopOf(
  design: Driven & Pick<Design, "duty"> & { brief: Partial<Pick<Design["brief"], "targets">> },
  kg: { all: number; pack: number },
  endurance: number,
  structure: number,
): LoopResult | null {
  const battery = design.batteries.find((b) => b.id === design.units[0]?.batteryId);
  if (!battery || !(kg.pack > 0) || design.duty.length === 0) return null;
  const perAh = kg.pack / battery.capacity.value;
  const bare = kg.all - kg.pack;
  const wanted = design.brief.targets?.find((t) => t.metric === "thrustToWeight" && t.comparison === "atLeast")?.value ?? 1;
  const index = design.batteries.indexOf(battery);

  /** Capacity that lasts `endurance` at a mass, by the pack's own discharge: its endurance scales nearly with capacity, so two steps settle it. */
  const needed = (mass: number, start: number): { capacity: number; power: number } | null => {
    let capacity = start;
    let power = Number.NaN;
    for (let k = 0; k < 4; k++) {
      if (!(capacity > 0) || capacity > 1e4) return null;
      const sized = {
        ...design,
        batteries: design.batteries.map((b) =>
          b === battery
            ? { ...b, capacity: { ...b.capacity, value: capacity }, cellResistance: { ...b.cellResistance, value: (b.cellResistance.value * b.capacity.value) / capacity } }
            : b,
        ),
        duty: design.duty.map((p) => (p.by === "thrust" ? { ...p, value: (p.value * mass) / kg.all } : p)),
      };
      const setup = nominalSetup(sized, mass);
      const pack = setup?.packs[index];
      const lasts = setup && pack && enduranceOf(setup, pack, 8)?.seconds;
      if (!lasts || !Number.isFinite(lasts) || lasts <= 0) return null;
      power = packEnergy({ chemistry: battery.chemistry, series: battery.series, capacity }, battery.startCharge, battery.startCharge - battery.usable) / lasts;
      const next = (capacity * endurance) / lasts;
      if (Math.abs(next / capacity - 1) < 1e-4) break;
      capacity = next;
    }
    return { capacity, power };
  };

  const turns: Turn[] = [];
  let mass = bare;
  let capacity = battery.capacity.value;
  let before = Number.NaN;
  let gain = 0;
  for (let n = 1; n <= TURNS; n++) {
    const need = needed(mass, capacity);
    if (!need) return { status: "runsAway", turns, mass: Number.NaN, capacity: Number.NaN, gain: Math.max(gain, 1), growth: Infinity };
    capacity = need.capacity;
    const packMass = perAh * capacity;
    turns.push({ number: n, mass, thrust: wanted * mass * GRAVITY, power: need.power, capacity, packMass });
    const next = bare + packMass * (1 + structure) - structure * kg.pack;
    const step = next - mass;
    if (Number.isFinite(before) && Math.abs(before) > 1e-9) gain = Math.abs(step / before);
    if (Math.abs(step) < SETTLED) return { status: "closes", turns, mass: next, capacity, gain, growth: gain < 1 ? 1 / (1 - gain) : Infinity };
    if (n > 6 && gain >= 1) return { status: "runsAway", turns, mass: Number.NaN, capacity: Number.NaN, gain, growth: Infinity };
    before = step;
    mass = next;
    if (mass > 40 * kg.all) return { status: "runsAway", turns, mass: Number.NaN, capacity: Number.NaN, gain: Math.max(gain, 1), growth: Infinity };
  }
  return { status: "iterationLimit", turns, mass, capacity, gain, growth: gain < 1 ? 1 / (1 - gain) : Infinity };
}
