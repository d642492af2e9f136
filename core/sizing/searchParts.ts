import { type Known, weakest } from "../design/evidence";
import type { Design, Battery, Unit } from "../design/schema";
import type { ShelfOf, ShelfPack } from "../design/shelf";
import type { Chemistry } from "../subjects/energy/battery";
import {
  LAWS,
  genericController,
  genericMotor,
  genericPack,
  genericPropeller,
  motorMassFor,
  propellerMass,
} from "../catalogue/catalogue";
import { entryOf } from "../catalogue/ledgerEntry";
import { withPack } from "../catalogue/packShelf";
import { controllerOf, motorOf, propellerOf } from "../catalogue/partShelf";
import { ductAround, ductMass, shapedOf, sizedKind } from "./otherSize";

/** What of a drive a search may vary, and of a pack: numbers that are tried one by one. */
export const DRIVE_KEYS = ["diameter", "pitchRatio", "blades", "kv", "motorMass", "ratio", "count"] as const;
export const PACK_KEYS = ["series", "capacity"] as const;
export type DriveKey = (typeof DRIVE_KEYS)[number];
export type PackKey = (typeof PACK_KEYS)[number];

/** What stands around an open propeller. */
export type Shroud = "open" | "in a duct";

/** Parts of one's own that a search is held to, by kind; a kind that is not named is generic. */
export interface OwnParts {
  motor?: ShelfOf<"motor">[];
  propeller?: ShelfOf<"propeller">[];
  pack?: ShelfPack[];
  controller?: ShelfOf<"controller">[];
}
/**
 * What one set of like drives gets. Its diameter is what tells the size of its kind, its pitch ratio what that goes on
 * in a turn over it; what its kind does not have stays as it is. With parts of one's own its numbers are theirs.
 */
export type DriveChoice = Record<DriveKey, number> & {
  own?: { [K in Exclude<keyof OwnParts, "pack">]?: NonNullable<OwnParts[K]>[number] };
  shroud?: Shroud;
};
/** What packs that serve the same drives get. */
export type PackChoice = Record<PackKey, number> & { own?: ShelfPack };
/** One answer of a search: what each set of drives gets, and each set of packs, in the order of the question. */
export interface Choice {
  drives: readonly DriveChoice[];
  packs: readonly PackChoice[];
}

/** Three cells at rest, V: by it the rated current of a motor nobody weighed stands for its rated power (judgement). */
const RATED_VOLTAGE = 11;

/** Numbers of a part of one's own as a choice has them; a mass that nobody weighed is that of a generic part. */
export const motorNumbers = (part: ShelfOf<"motor">): Pick<DriveChoice, "kv" | "motorMass"> => ({
  kv: part.kv.value,
  motorMass: part.mass?.value ?? motorMassFor(part.maxCurrent * RATED_VOLTAGE),
});
export const propellerNumbers = (
  part: ShelfOf<"propeller">,
): Pick<DriveChoice, "diameter" | "pitchRatio" | "blades"> => ({
  diameter: part.diameter.value,
  pitchRatio: part.pitch.value / part.diameter.value,
  blades: part.blades,
});

/**
 * The lightest controller of one's own that carries the motor's rated current on these cells; the strongest when none
 * does.
 */
function controllerFor(
  list: readonly ShelfOf<"controller">[],
  current: number,
  cells: number,
): ShelfOf<"controller"> | undefined {
  const fits = list.filter((c) => c.maxCurrent >= current && c.maxCells >= cells);
  if (fits.length > 0) return fits.toSorted((a, b) => (a.mass?.value ?? 0) - (b.mass?.value ?? 0))[0];
  return list.toSorted((a, b) => b.maxCurrent - a.maxCurrent)[0];
}

/** The choice with the controller of one's own that suits its motor and the cells it is on. */
export function withController(choice: DriveChoice, series: number, list: OwnParts["controller"]): DriveChoice {
  if (!list) return choice;
  const motor = choice.own?.motor ?? genericMotor(choice.kv, choice.motorMass);
  return { ...choice, own: { ...choice.own, controller: controllerFor(list, motor.maxCurrent, series) } };
}

/** A drive that is searched, with the mass of what is on its shaft as the ledger has it; null: it is not listed. */
export interface Searched {
  unit: Unit;
  propulsorMass: Known | null;
  /** which of the choice's drives it gets, and which of its packs it is on */
  set: number;
  pack: number;
  /** whether its set has no other drive: how many units it has is searched too */
  alone: boolean;
}
export function searchedOf(
  design: Pick<Design, "items">,
  unit: Unit,
  at: Pick<Searched, "set" | "pack" | "alone"> = { set: 0, pack: 0, alone: true },
): Searched {
  const item = design.items.find((i) => i.id === unit.propellerItemId);
  return { unit, propulsorMass: item?.mass ?? null, ...at };
}

const guess = (kg: number): Known => ({ value: kg, evidence: "guess" });
/** Mass of another size of what is on the shaft: it grows as propellers do, with its size to 2.5. */
function propulsorPart(
  { unit, propulsorMass }: Searched,
  choice: DriveChoice,
): { mass: Known | null; price: number | null } {
  const { own } = choice;
  const { propulsor } = unit;
  if (unit.measured) return { mass: null, price: 0 };
  if (propulsor) {
    const by = choice.diameter / sizedKind(propulsor).size.of(propulsor);
    const grown = propulsorMass && propulsorMass.value * by ** LAWS.propellerMass.exponent;
    return {
      mass: by === 1 || grown === null ? propulsorMass : { ...guess(grown), sd: LAWS.propellerMass.band * grown },
      // What such a thing costs nobody can tell: it is left out.
      price: 0,
    };
  }
  const blades = own?.propeller?.mass ?? guess(propellerMass(choice.diameter, choice.blades));
  const price = own?.propeller?.price ?? null;
  return choice.shroud === "in a duct"
    ? { mass: guess(blades.value + ductMass(choice.diameter)), price }
    : { mass: blades, price };
}

export type DriveParts = ReturnType<typeof driveParts>;
export type PackParts = ReturnType<typeof packParts>;

/**
 * Motor, controller and propulsor of a choice for one drive, with mass (kg, each; null: it stays as it is in the
 * ledger) and price (€, each; null: by the generic law).
 *
 * @param series cells in series of the pack that it is on
 */
export function driveParts(choice: DriveChoice, series: number, searched: Searched) {
  const { own } = choice;
  const { measured } = searched.unit;
  const motor = own?.motor ? motorOf(own.motor) : genericMotor(choice.kv, choice.motorMass);
  const generic = genericController(Math.ceil(motor.maxCurrent * 1.2), Math.max(series, 4));
  const asItIs = { mass: null, price: 0 };
  return {
    motor: {
      part: motor,
      ...(measured ? asItIs : { mass: own?.motor?.mass ?? guess(choice.motorMass), price: own?.motor?.price ?? null }),
    },
    controller: {
      part: own?.controller ? controllerOf(own.controller) : generic.controller,
      ...(measured
        ? asItIs
        : { mass: own?.controller?.mass ?? guess(generic.mass), price: own?.controller?.price ?? null }),
    },
    propeller: {
      part: own?.propeller
        ? propellerOf(own.propeller)
        : genericPropeller(choice.diameter, choice.pitchRatio * choice.diameter, choice.blades),
      ...propulsorPart(searched, choice),
    },
  };
}

/** The pack of a choice, with mass (kg, each), price (€, each; null: by the generic law) and energy (Wh). */
export function packParts({ series, capacity, own }: PackChoice, chemistry: Chemistry) {
  const pack = genericPack(own?.chemistry ?? chemistry, series, capacity);
  return {
    fitted: (b: Battery): Battery => (own ? withPack(b, own) : { ...b, ...pack.battery }),
    mass: own?.mass ?? guess(pack.mass),
    price: own?.price ?? null,
    energy: pack.energy,
  };
}

/** Screws for water are wider than propellers of the law: another size keeps the width of the one that is there. */
const withChord = (made: Unit["propeller"], was: Unit["propeller"]): Unit["propeller"] => ({
  ...made,
  chord: { value: (was.chord.value / was.diameter.value) * made.diameter.value, evidence: "guess" },
});

const DIRECT: Unit["gear"] = { ratio: 1, efficiency: { value: 1, evidence: "measured", sd: 0 } };

/**
 * A drive with a choice in it. What is known by its measured curve alone keeps its parts: only its pack is another.
 *
 * @param weight of the craft with it over that of today: what rests on its wheels or drums goes with it
 */
export function driveOf({ unit, alone }: Searched, choice: DriveChoice, parts: DriveParts, weight = 1): Unit {
  if (unit.measured) return unit;
  const made: Unit = {
    ...unit,
    count: alone ? choice.count : unit.count,
    motor: parts.motor.part,
    controller: parts.controller.part,
    gear: choice.ratio === 1 ? DIRECT : { ratio: choice.ratio, efficiency: { value: 0.95, evidence: "guess" } },
  };
  const { propulsor } = unit;
  if (propulsor) {
    const kind = sizedKind(propulsor);
    const { ratio, blades } = shapedOf(unit) ?? {};
    const other = kind.made(
      propulsor,
      choice.diameter / kind.size.of(propulsor),
      ratio ? choice.pitchRatio : 1,
      blades ? choice.blades : 1,
    );
    return { ...made, propulsor: kind.loaded?.(other, weight) ?? other };
  }
  const propeller =
    unit.surroundings === "in water" && !choice.own?.propeller
      ? withChord(parts.propeller.part, unit.propeller)
      : parts.propeller.part;
  return choice.shroud === "in a duct"
    ? { ...made, propeller, propulsor: ductAround(propeller) }
    : { ...made, propeller };
}

/**
 * Ledger entries that are motor, controller, propulsor or pack of these drives now: a search replaces them. An entry
 * that is motor and controller at once counts when there is one drive only. What keeps its mass keeps its entry.
 */
export function replaced(design: Design, searched: readonly Searched[]): Set<string> {
  const ids = new Set<string>();
  for (const { unit, propulsorMass } of searched) {
    const kinds = unit.measured
      ? (["pack"] as const)
      : unit.propulsor && !propulsorMass
        ? (["motor", "controller", "pack"] as const)
        : (["motor", "controller", "propeller", "pack"] as const);
    for (const k of kinds) {
      const id = entryOf(design, unit, k);
      if (id !== null) ids.add(id);
    }
  }
  if (design.units.length === 1 && searched.some((s) => !s.unit.measured))
    for (const i of design.items) if (i.role === "motor" || i.role === "controller") ids.add(i.id);
  return ids;
}

/**
 * The ledger entry of the motors of a drive: its own, else of the only drive the only entry that is a motor; null where
 * none is theirs by itself.
 */
export const motorEntryOf = (design: Design, unit: Unit): string | null =>
  entryOf(design, unit, "motor") ??
  (design.units.length === 1 ? (design.items.find((i) => i.role === "motor")?.id ?? null) : null);

/** Motor and controller share an entry: known as well as the worse of them. */
export const bothOf = ({ motor, controller }: DriveParts, sdOf: (k: Known) => number): Known | null =>
  motor.mass && controller.mass
    ? {
        value: motor.mass.value + controller.mass.value,
        evidence: weakest([motor.mass.evidence, controller.mass.evidence]),
        sd: Math.hypot(sdOf(motor.mass), sdOf(controller.mass)),
      }
    : null;
