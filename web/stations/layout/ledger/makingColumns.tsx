import { nameItem } from "../../../../core/design/byWords";
import { moneySign } from "../../../../core/design/money";
import { costOfItems, likely, priceOf } from "../../../../core/design/price";
import { type Item, itemSchema } from "../../../../core/design/schema";
import { plain, rangeText } from "../../../../core/wording/format";
import { TextField } from "../../../fields/TextField";

import { type Change, type Column, type Surroundings, numbers } from "./numbers";

export function makingColumns(around: Surroundings, change: Change): Column[] {
  const { habit } = around;
  const all = (item: Item) => {
    const price = priceOf(item);
    return price && { least: price.least * item.quantity, most: price.most * item.quantity };
  };
  const sumOf = (items: Item[]) => {
    const { value, sd } = costOfItems(items);
    const ranged = items.some((i) => i.costMost !== null);
    return rangeText(ranged ? likely({ value, sd }) : { least: value, most: value }, "money", habit, 0);
  };
  const money = (item: Item) => <span className="num">{rangeText(all(item), "money", habit)}</span>;
  const toBuy = (item: Item) => item.source === "buy" && item.cost !== null;
  return [
    {
      id: "group",
      head: "group",
      width: "w-[120px]",
      by: (i) => i.group,
      text: (i) => i.group,
      write: (d, i, text) => {
        if (text.length > 60) return "at most 60 characters";
        nameItem(i, { group: text }, d.items);
        return null;
      },
      cell: (item) => (
        <TextField
          label={`${item.name}, group`}
          value={item.group}
          placeholder="none"
          onCommit={(v) => change(item.id, (p) => nameItem(p, { group: v }, []))}
        />
      ),
    },
    {
      id: "source",
      head: "source",
      width: "w-[130px]",
      by: (i) => i.source,
      text: (i) => SOURCES[i.source],
      write: (_d, i, text) => {
        const found = (Object.keys(SOURCES) as Item["source"][]).find((k) => k === text || SOURCES[k] === text);
        if (!found) return `Accepted: ${Object.values(SOURCES).join(", ")}.`;
        i.source = found;
        return null;
      },
      cell: (item) => (
        <SourceSelect item={item} onChange={(source) => change(item.id, (p) => void (p.source = source))} />
      ),
    },
    numbers(
      {
        id: "price",
        head: `unit price ${moneySign()}`,
        width: "w-[84px]",
        label: "price",
        dimension: "money",
        empty: "–",
        schema: itemSchema.shape.cost.unwrap(),
        get: (i) => i.cost,
        most: (i) => i.costMost,
        range: true,
        set: (i, v, _d, most) => {
          i.cost = v;
          i.costMost = v === null ? null : most;
        },
      },
      around,
    ),
    {
      id: "prices",
      head: `price ${moneySign()}`,
      width: "w-[74px]",
      right: true,
      by: (i) => costOfItems([i]).value,
      cell: money,
      sum: sumOf,
    },
    {
      id: "toBuy",
      head: "still to buy",
      width: "w-[84px]",
      right: true,
      by: (i) => (toBuy(i) ? costOfItems([i]).value : null),
      cell: (item) => (toBuy(item) ? money(item) : null),
      sum: (items) => sumOf(items.filter(toBuy)),
    },
    numbers(
      {
        id: "minutes",
        head: "minutes to make",
        width: "w-[96px]",
        label: "minutes to make",
        dimension: "time",
        empty: "–",
        get: (i) => (i.makeMinutes === null ? null : i.makeMinutes * 60),
        set: (i, v) => void (i.makeMinutes = v === null ? null : v / 60),
        sum: (items) => plain(items.reduce((s, i) => s + (i.makeMinutes ?? 0), 0) * 60, "time", around.habit, 0),
      },
      around,
    ),
  ];
}

/** Where a part comes from, in words. */
const SOURCES: Record<Item["source"], string> = {
  have: "on hand",
  buy: "to buy",
  salvage: "from another craft",
  make: "to make",
};

function SourceSelect({ item, onChange }: { item: Item; onChange: (source: Item["source"]) => void }) {
  return (
    <select
      className="cell"
      aria-label={`${item.name}, comes from`}
      value={item.source}
      onChange={(e) => onChange(e.target.value as Item["source"])}
    >
      {Object.entries(SOURCES).map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
}
