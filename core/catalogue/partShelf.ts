import { priceEach } from "../design/price";
import { EVIDENCE, type Evidence, type Known, evidenceSchema } from "../design/evidence";
import type { Design, Unit } from "../design/schema";
import { type PlainPart, type ShelfDrive, type ShelfOf, shelfPartSchema } from "../design/shelf";
import type { Dimension } from "../design/units";
import { LAWS } from "./catalogue";
import { putInLedger } from "./ledgerEntry";
import { type ListColumn, PRICE_COLUMN, type Refused, clean, complaint, listText, readList } from "./listTable";

export const PLAIN_KINDS = [
  "motor",
  "controller",
  "propeller",
  "servo",
] as const satisfies readonly PlainPart["kind"][];
export type PlainKind = (typeof PLAIN_KINDS)[number];

/** A figure of a part: how it is called, and whether it is known by evidence with a ± or simply stamped on it. */
export interface PartField {
  key: string;
  title: string;
  /** also understood in a header */
  also?: RegExp;
  dimension: Dimension;
  /** unit in lists, and its size in the stored unit */
  unit: string;
  scale: number;
  how: "known" | "number";
  /** What a list that has no such column means; a column without is needed. */
  otherwise?: (of: Record<string, unknown>) => unknown;
}

const guessed = (value: number): Known => ({ value, evidence: "guess" });
/** By the laws of `catalogue.ts`, from a figure that is there. */
const chordOf = ({ diameter }: Record<string, unknown>) =>
  diameter && guessed(LAWS.chord.value * (diameter as Known).value);
const resistanceOf = ({ maxCurrent }: Record<string, unknown>) =>
  maxCurrent && guessed(LAWS.controllerResistance.value / (maxCurrent as number));

/** The figures of each kind, in the order in which they are listed and asked for. */
export const PART_FIELDS: Record<PlainKind, PartField[]> = {
  motor: [
    { key: "kv", title: "Kv", dimension: "kv", unit: "rpm/V", scale: 1, how: "known" },
    {
      key: "resistance",
      title: "Winding resistance",
      also: /^(rm|resistance)$/i,
      dimension: "resistance",
      unit: "mΩ",
      scale: 1e-3,
      how: "known",
    },
    {
      key: "noLoadCurrent",
      title: "No-load current",
      also: /^(i0|io|no load current)$/i,
      dimension: "current",
      unit: "A",
      scale: 1,
      how: "known",
    },
    {
      key: "maxCurrent",
      title: "Rated current",
      also: /^(max(imum)? current)$/i,
      dimension: "current",
      unit: "A",
      scale: 1,
      how: "number",
    },
  ],
  controller: [
    {
      key: "resistance",
      title: "On-resistance",
      also: /^resistance$/i,
      dimension: "resistance",
      unit: "mΩ",
      scale: 1e-3,
      how: "known",
      otherwise: resistanceOf,
    },
    {
      key: "maxCurrent",
      title: "Rated current",
      also: /^(max(imum)? current)$/i,
      dimension: "current",
      unit: "A",
      scale: 1,
      how: "number",
    },
    {
      key: "maxCells",
      title: "Cells at most",
      also: /^(cells|max(imum)? cells)$/i,
      dimension: "count",
      unit: "",
      scale: 1,
      how: "number",
    },
  ],
  propeller: [
    { key: "diameter", title: "Diameter", dimension: "length", unit: "mm", scale: 1e-3, how: "known" },
    { key: "pitch", title: "Pitch", dimension: "length", unit: "mm", scale: 1e-3, how: "known" },
    { key: "blades", title: "Blades", dimension: "count", unit: "", scale: 1, how: "number", otherwise: () => 2 },
    {
      key: "chord",
      title: "Widest chord",
      also: /^chord$/i,
      dimension: "length",
      unit: "mm",
      scale: 1e-3,
      how: "known",
      otherwise: chordOf,
    },
  ],
  servo: [
    {
      key: "torque",
      title: "Stall torque",
      also: /^torque$/i,
      dimension: "torque",
      unit: "N·m",
      scale: 1,
      how: "known",
    },
    {
      key: "voltage",
      title: "At voltage",
      also: /^voltage$/i,
      dimension: "voltage",
      unit: "V",
      scale: 1,
      how: "number",
      otherwise: () => 6,
    },
    { key: "stallCurrent", title: "Stall current", dimension: "current", unit: "A", scale: 1, how: "known" },
    {
      key: "minVoltage",
      title: "Works from",
      also: /^(least|min(imum)?) voltage$/i,
      dimension: "voltage",
      unit: "V",
      scale: 1,
      how: "number",
      otherwise: () => 4.8,
    },
  ],
};

const MASS: PartField = {
  key: "mass",
  title: "Mass",
  also: /^weight$/i,
  dimension: "mass",
  unit: "g",
  scale: 1e-3,
  how: "known",
  otherwise: () => null,
};

/** Value, its ± and how it is known: the columns of one figure. */
function columnsOf(field: PartField): ListColumn[] {
  const { key, title, also, dimension, unit } = field;
  const named = (suffix: string) => new RegExp(`^${title.replace(/[-+.]/g, "\\$&")}${suffix}$`, "i");
  const header = (t: string) => (unit === "" ? t : `${t} (${unit})`);
  const own = named("");
  const value: ListColumn = {
    role: key,
    title: header(title),
    named: also ? new RegExp(`${own.source}|${also.source}`, "i") : own,
    dimension,
    unit,
  };
  if (field.how === "number") return [value];
  return [
    value,
    { role: `${key} sd`, title: header(`${title} ±`), named: named("\\s*±"), dimension, unit },
    { role: `${key} by`, title: `${title} known by`, named: named(" (known )?by") },
  ];
}

const columns = (kind: PlainKind): ListColumn[] => [
  { role: "name", title: kind[0]?.toUpperCase() + kind.slice(1), named: new RegExp(`^(${kind}|part|name)$`, "i") },
  ...[MASS, ...PART_FIELDS[kind]].flatMap(columnsOf),
  PRICE_COLUMN,
  { role: "notes", title: "Notes", named: /^notes?$/i },
];

/**
 * Parts of one kind as CSV: each figure with its ± (one standard deviation, empty for the usual one of its evidence)
 * and how it is known.
 */
export function partsText(kind: PlainKind, parts: readonly PlainPart[]): string {
  const fields = [MASS, ...PART_FIELDS[kind]];
  const data = parts.map((p) => {
    const figures = fields.flatMap((f): (string | number | null)[] => {
      const v = (p as unknown as Record<string, number | Known | null>)[f.key];
      if (v === null || v === undefined) return f.how === "known" ? [null, null, null] : [null];
      if (typeof v === "number") return [clean(v / f.scale)];
      return [clean(v.value / f.scale), v.sd === undefined ? null : clean(v.sd / f.scale), v.evidence];
    });
    return [p.name, ...figures, p.price, p.notes];
  });
  return listText(columns(kind), data);
}

/**
 * Parts of one kind from a CSV list (`readList`). A figure whose column says nothing of how it is known counts as
 * read off a data sheet, a mass as measured. What a list may leave
 * out (mass, chord, blades, on-resistance, a servo's voltages) is filled in as a guess. A row that cannot be read is
 * left out and reported.
 */
export function readParts<K extends PlainKind>(kind: K, text: string): { parts: ShelfOf<K>[]; refused: Refused[] } {
  const fields = [MASS, ...PART_FIELDS[kind]];
  const { rows, refused } = readList(text, columns(kind), [
    "name",
    ...PART_FIELDS[kind].filter((f) => !f.otherwise).map((f) => f.key),
  ]);
  const parts = new Map<string, ShelfOf<K>>();
  for (const row of rows) {
    let { wrong } = row;
    const part: Record<string, unknown> = {
      kind,
      name: row.text.name ?? "",
      price: row.number.price ?? null,
      notes: row.text.notes ?? "",
    };
    for (const f of fields) {
      const value = row.number[f.key];
      if (value === undefined) continue;
      const by = evidenceSchema.safeParse(
        row.text[`${f.key} by`]?.toLowerCase() ?? (f.key === "mass" ? "measured" : "datasheet"),
      );
      if (!by.success)
        wrong ??=
          `${f.title} known by: “${row.text[`${f.key} by`]}” is not a way of knowing. Accepted: ` +
          `${EVIDENCE.join(", ")}.`;
      const sd = row.number[`${f.key} sd`];
      part[f.key] =
        f.how === "number" ? value : { value, evidence: by.data as Evidence, ...(sd === undefined ? {} : { sd }) };
    }
    for (const f of fields) {
      if (part[f.key] !== undefined) continue;
      if (f.otherwise) part[f.key] = f.otherwise(part);
      else wrong ??= `${f.title} is missing. Accepted: a number in ${f.unit || "pieces"}.`;
    }
    const parsed = wrong ? null : shelfPartSchema.safeParse(part);
    if (!parsed?.success) refused.push({ line: row.line, reason: wrong ?? complaint(parsed?.error.issues[0]) });
    else if (parts.has(parsed.data.name))
      refused.push({ line: row.line, reason: `“${parsed.data.name}” is in the list already.` });
    else parts.set(parsed.data.name, parsed.data as ShelfOf<K>);
  }
  return { parts: [...parts.values()], refused };
}

/** What of a shelf part belongs to a drive. */
export const motorOf = ({ kv, resistance, noLoadCurrent, maxCurrent }: ShelfOf<"motor">): Unit["motor"] => ({
  kv,
  resistance,
  noLoadCurrent,
  maxCurrent,
});
export const controllerOf = ({ resistance, maxCurrent, maxCells }: ShelfOf<"controller">): Unit["controller"] => ({
  resistance,
  maxCurrent,
  maxCells,
});
export const propellerOf = ({ diameter, pitch, blades, chord }: ShelfOf<"propeller">): Unit["propeller"] => ({
  diameter,
  pitch,
  blades,
  chord,
});

/**
 * The design with a part of one's own in a drive: its figures in the drive, its mass and price in the ledger entry
 * that it replaces (`putInLedger`). A servo goes into the ledger, and
 * onto the first regulator of the drive's pack, if it has one, with its stall current as the peak.
 *
 * @returns `entry`, the name of the ledger entry that carries it
 */
export function fitPart(design: Design, unitId: string, part: PlainPart): { design: Design; entry: string } {
  const next = structuredClone(design);
  const unit = next.units.find((u) => u.id === unitId);
  if (unit && part.kind === "motor") unit.motor = motorOf(part);
  if (unit && part.kind === "controller") unit.controller = controllerOf(part);
  // A propeller that is fitted is what the drive turns from then on.
  if (unit && part.kind === "propeller") Object.assign(unit, { propeller: propellerOf(part), propulsor: null });
  if (part.kind === "servo") {
    const rail = next.regulators.find((r) => r.batteryId === unit?.batteryId) ?? next.regulators[0];
    const id = `${part.name.replace(/[^A-Za-z0-9]+/g, "-").slice(0, 24)}-${(rail?.loads.length ?? 0) + 1}`;
    // A servo at work draws about a fifth of its stall current (common practice).
    rail?.loads.push({
      id,
      name: part.name,
      current: 0.2 * part.stallCurrent.value,
      peak: part.stallCurrent.value,
      minVoltage: part.minVoltage,
    });
  }
  return { entry: putInLedger(next, unit, part.kind, part), design: next };
}

/**
 * The design with a drive from the shelf in place of one of its own: all its parts, and what the stand taught of
 * them. Masses are those of its parts in the ledger and stay.
 */
export function fitDrive(
  design: Design,
  unitId: string,
  { motor, controller, gear, propeller, learned }: ShelfDrive,
): Design {
  const next = structuredClone(design);
  const unit = next.units.find((u) => u.id === unitId);
  if (unit) Object.assign(unit, { motor, controller, gear, propeller, learned });
  return next;
}

/** What a drive has now, as a part for the shelf, with the mass of its ledger entry where one stands for it alone. */
export function partFrom(
  design: Design,
  unit: Unit,
  kind: "motor" | "controller" | "propeller",
  name: string,
  entry: string | null,
): PlainPart {
  const item = design.items.find((i) => i.id === entry);
  const common = { name, mass: item?.mass ?? null, price: priceEach(item), notes: "" };
  if (kind === "motor") return { kind, ...common, ...unit.motor };
  if (kind === "controller") return { kind, ...common, ...unit.controller };
  return { kind, ...common, ...unit.propeller };
}
