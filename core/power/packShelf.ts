import Papa from "papaparse";
import { freeId } from "../design/ids";
import { CHEMISTRIES, type Design, newItem } from "../design/schema";
import { type PackReading, type ShelfPack, shelfPackSchema } from "../design/shelf";
import { type Dimension, parseQuantity } from "../design/units";
import { weigh } from "../mass/evidence";
import { rollUp } from "../mass/rollup";
import { CHEMISTRY } from "./battery";
import { cellResistanceFrom } from "./loadTest";

/** Age in days at a date (ISO); null when it is not known when the pack was bought. */
export const ageOf = (pack: Pick<ShelfPack, "bought">, today: string): number | null =>
  pack.bought === null ? null : Math.max(0, Math.round((Date.parse(today.slice(0, 10)) - Date.parse(pack.bought)) / 86_400_000));

/** Resistance of a cell at 25 °C (Ω) from the newest reading that holds a load; null without one. The temperature is taken as 20 °C where none was read. */
export function newestResistance(pack: ShelfPack): { value: number; sd: number; date: string } | null {
  for (const r of pack.readings.toSorted((a, b) => (a.date < b.date ? 1 : -1))) {
    if (r.resting === null || r.loaded === null || r.current === null) continue;
    const result = cellResistanceFrom({ resting: r.resting, loaded: r.loaded, current: r.current, temperature: r.temperature ?? 20 }, pack);
    if (result.ok) return { value: result.cellResistance.value, sd: result.cellResistance.sd, date: r.date };
  }
  return null;
}

/** The design with this pack in place of one of its own: numbers, name and mass; where it sits and how far it is discharged stay. The newest load test beats the resistance noted. */
export function fitPack(design: Design, batteryId: string, pack: ShelfPack): Design {
  const next = structuredClone(design);
  const battery = next.batteries.find((b) => b.id === batteryId);
  if (!battery) return next;
  const tested = newestResistance(pack);
  const { name, chemistry, series, capacity, cRating } = pack;
  Object.assign(battery, {
    name,
    chemistry,
    series,
    capacity,
    cRating,
    cellResistance: tested ? { value: tested.value, sd: tested.sd, evidence: "measured", note: `load test, ${tested.date}` } : pack.cellResistance,
  });
  if (!pack.mass) return next;
  const item = next.items.find((i) => i.id === battery.itemId);
  if (item) {
    weigh(item, pack.mass);
    item.quantity = 1;
  } else {
    const free = freeId(next.items, "shelf-pack");
    next.items.push(newItem({ id: free, name, mass: pack.mass, place: { ...(rollUp(design)?.cg ?? { x: 0, y: 0, z: 0 }) }, size: { x: 0.1, y: 0.035, z: 0.03 } }));
    battery.itemId = free;
  }
  return next;
}

type Role = "name" | "chemistry" | "series" | "capacity" | "mass" | "cell" | "cRating" | "bought" | "cycles" | "notes" | keyof PackReading;
interface Column {
  role: Role;
  title: string;
  named: RegExp;
  dimension?: Dimension;
  /** Unit of a bare number when the header names none; also the unit written. */
  unit?: string;
}
const COLUMNS: Column[] = [
  { role: "name", title: "Pack", named: /^(pack|name|battery)$/i },
  { role: "chemistry", title: "Chemistry", named: /^(chemistry|type)$/i },
  { role: "series", title: "Cells", named: /^(cells|cells in series|s)$/i },
  { role: "capacity", title: "Capacity (mAh)", named: /^capacity$/i, dimension: "capacity", unit: "mAh" },
  { role: "mass", title: "Mass (g)", named: /^(mass|weight)$/i, dimension: "mass", unit: "g" },
  { role: "cell", title: "Resistance a cell (mΩ)", named: /^(resistance a cell|cell resistance|ir)$/i, dimension: "resistance", unit: "mΩ" },
  { role: "cRating", title: "C rating", named: /^(c rating|c)$/i },
  { role: "bought", title: "Bought", named: /^bought$/i },
  { role: "cycles", title: "Cycles", named: /^(cycles|charges)$/i },
  { role: "date", title: "Read on", named: /^(read on|date)$/i },
  { role: "resting", title: "Resting (V)", named: /^resting( voltage)?$/i, dimension: "voltage", unit: "V" },
  { role: "loaded", title: "Under load (V)", named: /^(under load|loaded)( voltage)?$/i, dimension: "voltage", unit: "V" },
  { role: "current", title: "Load (A)", named: /^(load|current)$/i, dimension: "current", unit: "A" },
  { role: "temperature", title: "At (°C)", named: /^(at|temperature)$/i },
  { role: "returned", title: "Returned (mAh)", named: /^(returned|charge returned)$/i, dimension: "capacity", unit: "mAh" },
  { role: "notes", title: "Notes", named: /^notes?$/i },
];

const clean = (v: number) => Number(v.toPrecision(9));

/** All packs as CSV: one row for each reading, the pack's own figures in each of its rows; a pack without readings has one row. */
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
  return Papa.unparse({ fields: COLUMNS.map((c) => c.title), data }, { newline: "\n", escapeFormulae: /^[=@]/ });
}

export interface ReadPacks {
  packs: ShelfPack[];
  /** What was left out: the line of the text, and why, with what would be accepted. */
  refused: { line: number; reason: string }[];
}

const chemistryOf = (text: string) => {
  const bare = (t: string) => t.toLowerCase().replace(/[^a-z0-9]/g, "");
  return CHEMISTRIES.find((c) => bare(c) === bare(text) || bare(CHEMISTRY[c].label) === bare(text));
};

/**
 * Packs from a CSV list with a header: comma, semicolon or tab; a unit in the header in brackets, or in the cell. Rows of one name are one pack, each with a reading. A row that cannot be
 * read is left out and reported, the others are taken. Capacity counts as read off the label, mass and resistance as measured.
 */
export function readPacks(text: string): ReadPacks {
  const rows = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { skipEmptyLines: false, delimitersToGuess: [",", ";", "\t"] }).data;
  const start = rows.findIndex((r) => r.some((c) => c.trim() !== ""));
  const header = rows[start] ?? [];
  const roles = header.map((h) => {
    const [, name = "", unit] = /^\s*([^([]*?)\s*(?:[([]([^)\]]*)[)\]])?\s*$/.exec(h) ?? [];
    const column = COLUMNS.find((c) => c.named.test(name));
    return column && { ...column, unit: unit ?? column.unit };
  });
  const refused: ReadPacks["refused"] = [];
  for (const need of ["name", "series", "capacity"] as const)
    if (!roles.some((r) => r?.role === need)) {
      const title = COLUMNS.find((c) => c.role === need)?.title ?? need;
      return { packs: [], refused: [{ line: start + 1, reason: `There is no column “${title}” in the header. A list saved here has all that are read.` }] };
    }
  const packs = new Map<string, ShelfPack>();
  rows.slice(start + 1).forEach((row, k) => {
    const line = start + k + 2;
    if (row.every((c) => c.trim() === "")) return;
    const cell: Partial<Record<Role, string>> = {};
    const number: Partial<Record<Role, number>> = {};
    let wrong: string | null = null;
    roles.forEach((column, i) => {
      const raw = (row[i] ?? "").trim();
      if (!column || raw === "") return;
      cell[column.role] = raw;
      if (!column.dimension) return;
      const bare = /^[\d\s.,+-]+$/.test(raw);
      const read = parseQuantity(bare ? `${raw} ${column.unit ?? ""}` : raw, column.dimension, "metric");
      if (read.ok) number[column.role] = read.value;
      else wrong ??= `${column.title}: ${read.message}`;
    });
    const plainNumber = (role: Role) => (cell[role] === undefined ? null : Number(cell[role]?.replace(",", ".")));
    const chemistry = cell.chemistry === undefined ? "lipo" : chemistryOf(cell.chemistry);
    if (!chemistry) wrong ??= `Chemistry “${cell.chemistry}” is not known. Accepted: ${CHEMISTRIES.map((c) => CHEMISTRY[c].label).join(", ")}.`;
    const readings: PackReading[] =
      cell.date === undefined
        ? []
        : [
            {
              date: cell.date,
              resting: number.resting ?? null,
              loaded: number.loaded ?? null,
              current: number.current ?? null,
              temperature: plainNumber("temperature"),
              returned: number.returned ?? null,
            },
          ];
    if (cell.date === undefined && (["resting", "loaded", "current", "temperature", "returned"] as const).some((r) => cell[r] !== undefined))
      wrong ??= "A reading needs its date in “Read on”, like 2026-03-21.";
    const capacity = number.capacity ?? Number.NaN;
    const held = packs.get(cell.name ?? "");
    const parsed = wrong
      ? null
      : shelfPackSchema.safeParse({
          name: cell.name ?? "",
          chemistry,
          series: plainNumber("series") ?? Number.NaN,
          capacity: { value: capacity, evidence: "datasheet" },
          // Without a reading a usual cell of that size stands in, as a guess.
          cellResistance: number.cell === undefined ? { value: 0.02 / capacity, evidence: "guess" } : { value: number.cell, evidence: "measured" },
          cRating: plainNumber("cRating") ?? 20,
          mass: number.mass === undefined ? null : { value: number.mass, evidence: "measured" },
          bought: cell.bought ?? null,
          cycles: plainNumber("cycles"),
          notes: cell.notes ?? "",
          readings,
        });
    if (!parsed?.success) {
      const issue = parsed?.error.issues[0];
      refused.push({ line, reason: wrong ?? `${String(issue?.path[0] ?? "row")}: ${issue?.message ?? "cannot be read"}` });
    } else if (held) held.readings.push(...parsed.data.readings);
    else packs.set(parsed.data.name, parsed.data);
  });
  return { packs: [...packs.values()], refused };
}
