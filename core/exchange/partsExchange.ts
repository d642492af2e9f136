import { nameItem, propose } from "../design/byWords";
import Papa from "papaparse";
import type { Evidence } from "../design/evidence";
import { moneyHere } from "../design/money";
import { AXES, type Design, type Item, newItem } from "../design/schema";
import type { TableReading } from "./partsColumns";
import { type ReadPart, tableSums } from "./partsTable";
import { isPlaced } from "../subjects/mass/placed";
import { isWeighed, weigh } from "../subjects/mass/evidence";
import { rollUp } from "../subjects/mass/rollup";
import { placeItem } from "../subjects/mass/tree";

/** Its heading names the currency too: the one of the workshop, as it is then. */
const PRICE = "Price each";

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
  ["x aft of nose (mm)", (i) => (isPlaced(i, "x") ? mm(i.place.x) : null)],
  [
    "y to starboard (mm)",
    (i) => (!isPlaced(i, "y") ? null : i.mirrored ? `±${mm(Math.abs(i.place.y))}` : mm(i.place.y)),
  ],
  ["z above baseline (mm)", (i) => (isPlaced(i, "z") ? mm(i.place.z) : null)],
  ["long, mm", (i) => (i.unsized ? null : mm(i.size.x))],
  ["wide, mm", (i) => (i.unsized ? null : mm(i.size.y))],
  ["tall, mm", (i) => (i.unsized ? null : mm(i.size.z))],
  [PRICE, (i) => priceText(i)],
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
    {
      fields: COLUMNS.map(([name]) => (name === PRICE ? `${name} (${moneyHere().currency})` : name)),
      data: items.map((i) => COLUMNS.map(([, cell]) => cell(i))),
    },
    { delimiter, newline: "\n", escapeFormulae: /^[=@]/ },
  );
}

/** Price as it stands in a list: one number, or "20-30". */
const priceText = ({ cost, costMost }: Item) =>
  costMost === null || cost === null || costMost <= cost ? cost : `${cost}-${costMost}`;

const priced = ({ price, priceMost }: ReadPart): Pick<Item, "cost" | "costMost"> => ({
  cost: price,
  costMost: priceMost !== null && price !== null && priceMost > price ? priceMost : null,
});

/** What a parts list says about how its masses are known, unless a cell says "~". */
export interface TakeOver {
  evidence: Extract<Evidence, "guess" | "datasheet" | "measured">;
}

/**
 * Ledger entries from a parts list. A part without an x stands at the CG of the others as a guess, so that it adds
 * mass and moves nothing: nobody said where it is, along any axis that the list leaves empty.
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
  const items = parts.map((p) => {
    const mass = p.mass === null ? null : { value: p.mass, evidence: p.rough ? ("guess" as const) : evidence };
    const edge = Math.cbrt(((p.mass ?? 0.02) * (p.pair ? 1 : p.quantity)) / 1200);
    return newItem({
      id: id(),
      name: p.name.slice(0, 120),
      group: p.group.slice(0, 60),
      quantity: p.quantity,
      mass,
      place: { x: p.x ?? middle, y: p.y ?? 0, z: p.z ?? 0 },
      unplaced: AXES.filter((a) => p[a] === null),
      unsized: true,
      placeEvidence: p.x === null ? "guess" : "datasheet",
      size: { x: edge, y: edge, z: edge },
      mirrored: p.pair,
      ...(p.currency === moneyHere().currency ? priced(p) : {}),
      source: p.price === null ? "have" : "buy",
    });
  });
  for (const item of items) propose(item, [...design.items, ...items]);
  return items;
}

/** What a list means for a ledger that has some of its parts already. */
export interface Merge {
  /** Parts of the ledger with the row of the list that has their name. */
  same: { id: string; name: string; part: ReadPart }[];
  /** Rows that no part has the name of. */
  others: ReadPart[];
}

/**
 * The rows of a list by the parts of the ledger that have their names; a name that stands twice in either is no name.
 */
export function mergeOf(parts: readonly ReadPart[], design: Pick<Design, "items">): Merge {
  const key = (name: string) => name.trim().toLowerCase().replace(/\s+/g, " ");
  const count = (names: readonly string[]) => {
    const out = new Map<string, number>();
    for (const n of names) out.set(n, (out.get(n) ?? 0) + 1);
    return out;
  };
  const here = count(design.items.map((i) => key(i.name)));
  const there = count(parts.map((p) => key(p.name)));
  const byName = new Map(design.items.map((i) => [key(i.name), i]));
  const once = (p: ReadPart) => here.get(key(p.name)) === 1 && there.get(key(p.name)) === 1;
  return {
    same: parts.flatMap((part) => {
      const item = byName.get(key(part.name));
      return item && once(part) ? [{ id: item.id, name: item.name, part }] : [];
    }),
    others: parts.filter((p) => !once(p)),
  };
}

/**
 * Writes what the rows of a list say into the parts that have their names: mass, quantity, places, group and price
 * where the list gives them; what it does not give stays. A weighed mass keeps what was predicted beside it.
 */
export function updateFrom(
  design: Design,
  same: Merge["same"],
  { evidence, massIs = "each" }: TakeOver & { massIs?: TableReading["massIs"] },
): void {
  for (const { id, part } of same) {
    const item = design.items.find((i) => i.id === id);
    if (!item) continue;
    // A list without quantities says nothing of them: the ledger's own stands, and shares a row's mass out.
    if (part.counted) item.quantity = part.quantity;
    if (part.mass !== null) {
      const each = massIs === "row" && !part.counted ? part.mass / item.quantity : part.mass;
      const known = { value: each, evidence: part.rough ? ("guess" as const) : evidence };
      if (known.evidence === "measured") weigh(item, known);
      else if (isWeighed(item.mass)) item.predicted = known;
      else item.mass = known;
    }
    if (part.x !== null || part.y !== null || part.z !== null) {
      placeItem(design, id, Object.fromEntries(AXES.flatMap((a) => (part[a] === null ? [] : [[a, part[a]]]))));
      if (part.pair) item.mirrored = true;
      item.placeEvidence = "datasheet";
      item.placeSd = undefined;
    }
    if (part.group) nameItem(item, { group: part.group.slice(0, 60) }, design.items);
    if (part.price !== null && part.currency === moneyHere().currency) Object.assign(item, priced(part));
  }
}
