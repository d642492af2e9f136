import Papa from "papaparse";
import type { Evidence } from "../design/evidence";
import { type Design, type Item, newItem } from "../design/schema";
import { type ReadPart, tableSums } from "./partsTable";
import { rollUp } from "../subjects/mass/rollup";

/**
 * Columns of the parts list that this application writes: shown name, and the cell of an item. Its own reader
 * understands every one that it needs.
 */
const COLUMNS: [string, (item: Item) => string | number | null][] = [
  ["Part", (i) => i.name],
  ["Group", (i) => i.group],
  ["Quantity", (i) => i.quantity],
  ["Mass each (g)", (i) => gram(i.mass?.value)],
  ["known by", (i) => i.mass?.evidence ?? null],
  ["planned each, g", (i) => gram(i.planned)],
  ["x aft of nose (mm)", (i) => mm(i.place.x)],
  ["y to starboard (mm)", (i) => (i.mirrored ? `±${mm(Math.abs(i.place.y))}` : mm(i.place.y))],
  ["z above baseline (mm)", (i) => mm(i.place.z)],
  ["long, mm", (i) => mm(i.size.x)],
  ["wide, mm", (i) => mm(i.size.y)],
  ["tall, mm", (i) => mm(i.size.z)],
  ["Price each (€)", (i) => i.cost],
  ["Source", (i) => i.source],
];
const clean = (v: number) => Number(v.toPrecision(10));
const gram = (kg: number | null | undefined) => (kg === null || kg === undefined ? null : clean(kg * 1000));
const mm = (m: number) => clean(m * 1000);

/**
 * The ledger as CSV, or with tabs for the clipboard. Text that a spreadsheet would run as a formula is marked as
 * text.
 */
export function partsText(items: readonly Item[], delimiter: "," | "\t"): string {
  return Papa.unparse(
    { fields: COLUMNS.map(([name]) => name), data: items.map((i) => COLUMNS.map(([, cell]) => cell(i))) },
    { delimiter, newline: "\n", escapeFormulae: /^[=@]/ },
  );
}

/** What a parts list says about how its masses are known, unless a cell says "~". */
export interface TakeOver {
  evidence: Extract<Evidence, "guess" | "datasheet" | "measured">;
}

/**
 * Ledger entries from a parts list. A part without an x stands at the CG of the others as a guess, so that it adds
 * mass and moves nothing; empty y and z are 0.
 * Boxes are not in such lists: each gets a cube of its mass at the density of plastic, to be drawn over.
 */
export function toItems(parts: readonly ReadPart[], design: Design, { evidence }: TakeOver): Item[] {
  const taken = new Set(design.items.map((i) => i.id));
  let n = 0;
  const id = () => {
    do n++;
    while (taken.has(`part-${n}`));
    return `part-${n}`;
  };
  const middle = tableSums(parts).cg?.x ?? rollUp(design)?.cg.x ?? 0;
  return parts.map((p) => {
    const mass = p.mass === null ? null : { value: p.mass, evidence: p.rough ? ("guess" as const) : evidence };
    const edge = Math.cbrt(((p.mass ?? 0.02) * (p.pair ? 1 : p.quantity)) / 1200);
    return newItem({
      id: id(),
      name: p.name.slice(0, 120),
      group: p.group.slice(0, 60),
      quantity: p.quantity,
      mass,
      place: { x: p.x ?? middle, y: p.y ?? 0, z: p.z ?? 0 },
      placeEvidence: p.x === null ? "guess" : "datasheet",
      size: { x: edge, y: edge, z: edge },
      mirrored: p.pair,
      cost: p.price !== null && p.currency === "EUR" ? p.price : null,
      source: p.price === null ? "have" : "buy",
    });
  });
}
