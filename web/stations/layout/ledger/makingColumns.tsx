import { nameItem } from "../../../../core/design/byWords";
import { type Item, itemSchema } from "../../../../core/design/schema";
import { plain } from "../../../../core/wording/format";
import { TextField } from "../../../fields/TextField";

import { type Change, type Column, type Surroundings, numbers, total } from "./numbers";

export function makingColumns(around: Surroundings, change: Change): Column[] {
  const { habit } = around;
  const priceOf = (items: Item[]) =>
    plain(
      total(items, (i) => i.cost),
      "money",
      habit,
    );
  const toBuy = (i: Item) => (i.source === "buy" && i.cost !== null ? i.cost * i.quantity : null);
  const money = (value: number | null) => (
    <span className="num">{value === null ? "" : plain(value, "money", habit)}</span>
  );
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
        head: "unit price €",
        width: "w-[84px]",
        label: "price",
        dimension: "money",
        empty: "–",
        schema: itemSchema.shape.cost.unwrap(),
        get: (i) => i.cost,
        set: (i, v) => void (i.cost = v),
      },
      around,
    ),
    {
      id: "prices",
      head: "price €",
      width: "w-[74px]",
      right: true,
      by: (i) => (i.cost ?? 0) * i.quantity,
      cell: (item) => money(item.cost === null ? null : item.cost * item.quantity),
      sum: priceOf,
    },
    {
      id: "toBuy",
      head: "still to buy",
      width: "w-[84px]",
      right: true,
      by: toBuy,
      cell: (item) => money(toBuy(item)),
      sum: (items) => priceOf(items.filter((i) => i.source === "buy")),
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
