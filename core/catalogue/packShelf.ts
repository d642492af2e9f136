import { differenceInCalendarDays, parseISO } from "date-fns";
import { type Battery, CHEMISTRIES, type Design } from "../design/schema";
import { type PackReading, type ShelfPack, shelfPackSchema } from "../design/shelf";
import { CHEMISTRY } from "../subjects/energy/battery";
import { putInLedger } from "./ledgerEntry";
import {
  type ListColumn,
  PRICE_COLUMN,
  type Refused,
  clean,
  complaint,
  listText,
  numberIn,
  readList,
} from "./listTable";
import { cellResistanceFrom } from "../subjects/energy/loadTest";

/** Age in days at a date (ISO); null when it is not known when the pack was bought. */
export const ageOf = (pack: Pick<ShelfPack, "bought">, today: string): number | null =>
  pack.bought === null
    ? null
    : Math.max(0, differenceInCalendarDays(parseISO(today.slice(0, 10)), parseISO(pack.bought)));

/**
 * Resistance of a cell at 25 °C (Ω) from the newest reading that holds a load; null without one. The temperature is
 * taken as 20 °C where none was read.
 */
export function newestResistance(pack: ShelfPack): { value: number; sd: number; date: string } | null {
  for (const r of pack.readings.toSorted((a, b) => (a.date < b.date ? 1 : -1))) {
    if (r.resting === null || r.loaded === null || r.current === null) continue;
    const result = cellResistanceFrom(
      { resting: r.resting, loaded: r.loaded, current: r.current, temperature: r.temperature ?? 20 },
      pack,
    );
    if (result.ok) return { value: result.cellResistance.value, sd: result.cellResistance.sd, date: r.date };
  }
  return null;
}

/**
 * A battery with the numbers and the name of this pack; where it sits and how far it is discharged stay. The newest
 * load test beats the resistance noted.
 */
export function withPack(battery: Battery, pack: ShelfPack): Battery {
  const tested = newestResistance(pack);
  const { name, chemistry, series, capacity, cRating } = pack;
  return {
    ...battery,
    name,
    chemistry,
    series,
    capacity,
    cRating,
    cellResistance: tested
      ? { value: tested.value, sd: tested.sd, evidence: "measured", note: `load test, ${tested.date}` }
      : pack.cellResistance,
  };
}

/** The design with this pack in place of one of its own, its mass in the ledger. */
export function fitPack(design: Design, batteryId: string, pack: ShelfPack): Design {
  const next = structuredClone(design);
  const at = next.batteries.findIndex((b) => b.id === batteryId);
  const battery = next.batteries[at];
  if (!battery) return next;
  next.batteries[at] = withPack(battery, pack);
  if (pack.mass) putInLedger(next, next.units.find((u) => u.batteryId === batteryId) ?? { batteryId }, "pack", pack);
  return next;
}

type Role =
  | "name"
  | "chemistry"
  | "series"
  | "capacity"
  | "mass"
  | "cell"
  | "cRating"
  | "price"
  | "bought"
  | "cycles"
  | "notes"
  | keyof PackReading;
const COLUMNS: ListColumn<Role>[] = [
  { role: "name", title: "Pack", named: /^(pack|name|battery)$/i },
  { role: "chemistry", title: "Chemistry", named: /^(chemistry|type)$/i },
  { role: "series", title: "Cells", named: /^(cells|cells in series|s)$/i },
  { role: "capacity", title: "Capacity (mAh)", named: /^capacity$/i, dimension: "capacity", unit: "mAh" },
  { role: "mass", title: "Mass (g)", named: /^(mass|weight)$/i, dimension: "mass", unit: "g" },
  {
    role: "cell",
    title: "Resistance a cell (mΩ)",
    named: /^(resistance a cell|cell resistance|ir)$/i,
    dimension: "resistance",
    unit: "mΩ",
  },
  { role: "cRating", title: "C rating", named: /^(c rating|c)$/i },
  PRICE_COLUMN,
  { role: "bought", title: "Bought", named: /^bought$/i },
  { role: "cycles", title: "Cycles", named: /^(cycles|charges)$/i },
  { role: "date", title: "Read on", named: /^(read on|date)$/i },
  { role: "resting", title: "Resting (V)", named: /^resting( voltage)?$/i, dimension: "voltage", unit: "V" },
  {
    role: "loaded",
    title: "Under load (V)",
    named: /^(under load|loaded)( voltage)?$/i,
    dimension: "voltage",
    unit: "V",
  },
  { role: "current", title: "Load (A)", named: /^(load|current)$/i, dimension: "current", unit: "A" },
  { role: "temperature", title: "At (°C)", named: /^(at|temperature)$/i },
  {
    role: "returned",
    title: "Returned (mAh)",
    named: /^(returned|charge returned)$/i,
    dimension: "capacity",
    unit: "mAh",
  },
  { role: "notes", title: "Notes", named: /^notes?$/i },
];

/**
 * All packs as CSV: one row for each reading, the pack's own figures in each of its rows; a pack without readings has
 * one row.
 */
export function packsText(packs: readonly ShelfPack[]): string {
  const data = packs.flatMap((p) =>
    (p.readings.length > 0 ? p.readings : [null]).map((r) =>
      COLUMNS.map(({ role }): string | number | null => {
        switch (role) {
          case "capacity":
            return clean(p.capacity.value * 1000);
          case "mass":
            return p.mass && clean(p.mass.value * 1000);
          case "cell":
            return clean(p.cellResistance.value * 1000);
          case "chemistry":
            return CHEMISTRY[p.chemistry].label;
          case "returned":
            return r?.returned ? clean(r.returned * 1000) : null;
          case "date":
          case "resting":
          case "loaded":
          case "current":
          case "temperature":
            return r?.[role] ?? null;
          default:
            return p[role];
        }
      }),
    ),
  );
  return listText(COLUMNS, data);
}

const chemistryOf = (text: string) => {
  const bare = (t: string) => t.toLowerCase().replace(/[^a-z0-9]/g, "");
  return CHEMISTRIES.find((c) => bare(c) === bare(text) || bare(CHEMISTRY[c].label) === bare(text));
};

/**
 * Packs from a CSV list (`readList`). Rows of one name are one pack, each with a reading. A row that cannot be read
 * is left out and reported, the others are taken. Capacity counts as
 * read off the label, mass and resistance as measured.
 */
export function readPacks(text: string): { parts: ShelfPack[]; refused: Refused[] } {
  const { rows, refused } = readList(text, COLUMNS, ["name", "series", "capacity"]);
  const packs = new Map<string, ShelfPack>();
  for (const { line, text: cell, number, ...row } of rows) {
    let { wrong } = row;
    const chemistry = cell.chemistry === undefined ? "lipo" : chemistryOf(cell.chemistry);
    if (!chemistry)
      wrong ??=
        `Chemistry “${cell.chemistry}” is not known. Accepted: ` +
        `${CHEMISTRIES.map((c) => CHEMISTRY[c].label).join(", ")}.`;
    const read = {
      resting: number.resting ?? null,
      loaded: number.loaded ?? null,
      current: number.current ?? null,
      temperature: numberIn(cell.temperature),
      returned: number.returned ?? null,
    };
    const readings: PackReading[] = cell.date === undefined ? [] : [{ date: cell.date, ...read }];
    if (cell.date === undefined && Object.values(read).some((r) => r !== null))
      wrong ??= "A reading needs its date in “Read on”, like 2026-03-21.";
    const capacity = number.capacity ?? Number.NaN;
    const held = packs.get(cell.name ?? "");
    const parsed = wrong
      ? null
      : shelfPackSchema.safeParse({
          kind: "pack",
          name: cell.name ?? "",
          chemistry,
          series: numberIn(cell.series) ?? Number.NaN,
          capacity: { value: capacity, evidence: "datasheet" },
          // Without a reading a usual cell of that size stands in, as a guess.
          cellResistance:
            number.cell === undefined
              ? { value: 0.02 / capacity, evidence: "guess" }
              : { value: number.cell, evidence: "measured" },
          cRating: numberIn(cell.cRating) ?? 20,
          mass: number.mass === undefined ? null : { value: number.mass, evidence: "measured" },
          price: number.price ?? null,
          bought: cell.bought ?? null,
          cycles: numberIn(cell.cycles),
          notes: cell.notes ?? "",
          readings,
        });
    if (!parsed?.success) refused.push({ line, reason: wrong ?? complaint(parsed?.error.issues[0]) });
    else if (held) held.readings.push(...parsed.data.readings);
    else packs.set(parsed.data.name, parsed.data);
  }
  return { parts: [...packs.values()], refused };
}
