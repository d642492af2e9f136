import { resultIn } from "../../../../core/evaluate";
import { balance } from "../../../../core/subjects/balance/node";
import { extent } from "../../../../core/subjects/extent/node";
import { useMemo } from "react";
import { positiveOf, rank } from "../../../../core/design/evidence";
import { type Axis, type Design, type Item, itemSchema } from "../../../../core/design/schema";
import { gramPrice } from "../../../../core/subjects/balance/gram";
import { isWeighed, unweigh, weigh } from "../../../../core/subjects/mass/evidence";
import { moveItem } from "../../../../core/subjects/mass/tree";
import type { UnitHabit } from "../../../../core/design/units";
import { plain, showSd } from "../../../../core/wording/format";
import { type DeskActions, useDesk, useDeskActions } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { EvidenceSelect } from "../../../fields/EvidenceSelect";
import { renewed } from "../../../fields/KnownField";
import type { GridColumn } from "../../../grid/column";
import { type NumberSpec, editable, readField } from "../../../fields/readField";
import { QuantityField } from "../../../fields/QuantityField";
import { TextField } from "../../../fields/TextField";

const coordinate = itemSchema.shape.place.shape;

/** Where a part stands between nose and tail, with its slide range and the CG window behind it. */
function Strip({ item, min, max, window }: { item: Item; min: number; max: number; window: [number, number] | null }) {
  const width = 104;
  const x = (v: number) => 4 + ((v - min) / Math.max(max - min, 1e-6)) * (width - 8);
  return (
    <svg width={width} height="14" viewBox={`0 0 ${width} 14`} aria-hidden="true">
      {window && (
        <rect
          x={x(window[0])}
          width={Math.max(x(window[1]) - x(window[0]), 1)}
          y="0"
          height="14"
          fill="var(--tint-clear)"
        />
      )}
      <path d={`M2 7H${width - 2}`} stroke="var(--hair)" />
      {item.slide && (
        <path d={`M${x(item.slide.from)} 4v6m0 -3H${x(item.slide.to)}m0 -3v6`} stroke="var(--ink)" fill="none" />
      )}
      <rect
        x={x(item.place.x) - 2}
        y="2.5"
        width="4"
        height="9"
        fill={isWeighed(item.mass) ? "var(--ink)" : "var(--paper)"}
        stroke="var(--ink)"
      />
    </svg>
  );
}

/** What the columns of the ledger show. */
export const SHEETS = ["mass and place", "making and cost", "shares and leverage"] as const;
export type SheetName = (typeof SHEETS)[number];

export type Column = GridColumn<Item, Derived, Design>;

/**
 * What the rest of the craft makes of an entry, as it is shown: rows are drawn again only when this or the entry
 * itself changes.
 */
export type Derived = Record<
  "sd" | "blur" | "bar" | "mass" | "ofMass" | "ofMoment" | "ofDoubt" | "costs" | "worth",
  string
>;

/** What the rest of the craft makes of one entry, worked out for those that are drawn. */
export function useDerived(): (item: Item) => Derived {
  const { design, evaluation } = useDesk();
  const { habit } = usePreferences();
  const mass = resultIn(evaluation, balance);
  const price = mass && gramPrice(design, mass.cg.x);
  const whole = { mass: mass?.mass ?? 0, cg: mass?.cg.x ?? 0 };
  const moment = (i: Item) => Math.abs((i.mass?.value ?? 0) * i.quantity * (i.place.x - whole.cg));
  const moments = design.items.reduce((s, i) => s + moment(i), 0);
  const shares = new Map(mass?.items.map((s) => [s.id, s]));
  const blurs = mass?.items.map((s) => s.blurX) ?? [];
  const doubts = blurs.reduce((s, b) => s + b ** 2, 0);
  const widest = Math.max(1e-9, ...blurs);
  const hundredths = (part: number, of: number) => (of > 0 && part > 0 ? `${((100 * part) / of).toFixed(1)} %` : "");
  return (item) => {
    const share = shares.get(item.id);
    const weight = (item.mass?.value ?? 0) * item.quantity;
    const counter = price?.at(item.place.x) ?? 0;
    return {
      sd: share?.mass ? showSd(share.massSd / item.quantity, "mass", habit) : "",
      blur: share?.mass ? showSd(share.blurX, "length", habit) : "",
      bar: share?.mass ? String(Math.round((26 * share.blurX) / widest)) : "",
      mass: weight > 0 ? plain(weight, "mass", habit) : "",
      ofMass: hundredths(weight, whole.mass),
      ofMoment: hundredths(moment(item), moments),
      ofDoubt: hundredths((share?.blurX ?? 0) ** 2, doubts),
      costs: counter > 0 ? `${counter.toFixed(2)} g` : counter < 0 ? "helps" : "",
      worth: item.mass ? `${(1 + counter).toFixed(2)} g` : "",
    };
  };
}

const total = (items: Item[], of: (i: Item) => number | null | undefined) =>
  items.reduce((s, i) => s + (of(i) ?? 0) * i.quantity, 0);

export function useColumns(sheet: SheetName): Column[] {
  const { design, evaluation } = useDesk();
  const { edit } = useDeskActions();
  const { habit } = usePreferences();
  const window = design.brief.targets.find((t) => t.metric === "cgX" && t.upper !== undefined);
  const [low, high] = [window?.value, window?.upper];
  const cg = resultIn(evaluation, balance)?.cg.x;
  const spot = (cg === undefined ? null : gramPrice(design, cg)?.spot.name) ?? "nose";
  const min = resultIn(evaluation, extent)?.min.x ?? 0;
  const max = resultIn(evaluation, extent)?.max.x ?? 1;
  const mass = resultIn(evaluation, balance)?.mass ?? 0;
  return useMemo(
    () =>
      columnsOf(sheet, {
        edit,
        habit,
        band: low !== undefined && high !== undefined ? [low, high] : null,
        min,
        max,
        mass,
        spot,
      }),
    [sheet, edit, habit, low, high, min, max, mass, spot],
  );
}

interface Surroundings {
  edit: DeskActions["edit"];
  habit: UnitHabit;
  band: [number, number] | null;
  min: number;
  max: number;
  /** AUW, kg */
  mass: number;
  /** where the counterweight sits */
  spot: string;
}

/** A column of numbers: how they are read, and what becomes of one that is typed or pasted. */
interface Numbers extends NumberSpec {
  id: string;
  head: string;
  width: string;
  /** Name of the field after that of the part. */
  label: string;
  className?: string;
  get: (item: Item) => number | null;
  set: (item: Item, value: number | null, design: Design) => void;
  sum?: Column["sum"];
}

function numbers(of: Numbers, { edit, habit }: Pick<Surroundings, "edit" | "habit">): Column {
  const { id, head, width, label, className, get, set, sum, ...spec } = of;
  return {
    id,
    head,
    width,
    right: true,
    sum,
    cell: (item) => (
      <QuantityField
        {...spec}
        className={className}
        label={`${item.name}, ${label}`}
        value={get(item)}
        onCommit={(v) =>
          (v !== null || spec.empty !== undefined) &&
          edit((d) => {
            const found = d.items.find((i) => i.id === item.id);
            if (found) set(found, v, d);
          })
        }
      />
    ),
    by: get,
    text: (item) => {
      const value = get(item);
      return value === null ? "" : editable(value, spec.dimension, habit);
    },
    write: (design, item, text) => {
      const read = readField(text, spec, habit);
      if (!read.ok) return read.message;
      set(item, read.value, design);
      return null;
    },
  };
}

/** Puts a predicted mass into an entry: beside the weighed one where there is one. */
function predict(item: Item, value: number | null): void {
  const before = isWeighed(item.mass) ? item.predicted : item.mass;
  const next = value === null ? null : before ? renewed(before, value) : { value, evidence: "guess" as const };
  if (isWeighed(item.mass)) item.predicted = next;
  else item.mass = next;
}

const predictedOf = (item: Item) => (isWeighed(item.mass) ? item.predicted : item.mass)?.value ?? null;

function columnsOf(sheet: SheetName, around: Surroundings): Column[] {
  const { edit, habit, mass, spot } = around;
  const change = (id: string, mutate: (item: Item) => void) =>
    edit((d) => {
      const item = d.items.find((i) => i.id === id);
      if (item) mutate(item);
    });
  const grams = (kg: number) => (kg > 0 ? plain(kg, "mass", habit) : "");
  const quantity = numbers(
    {
      id: "quantity",
      head: "n",
      width: "w-[32px]",
      label: "quantity",
      dimension: "count",
      schema: itemSchema.shape.quantity,
      get: (i) => i.quantity,
      set: (i, v) => void (i.quantity = v ?? 1),
    },
    around,
  );
  if (sheet === "mass and place")
    return [quantity, ...massColumns(around, change, grams), ...placeColumns(around, change)];
  if (sheet === "making and cost") return [quantity, ...makingColumns(around, change)];
  const share = (
    id: keyof Derived,
    head: string,
    width: string,
    by?: Column["by"],
    sum?: Column["sum"],
    strong = false,
  ): Column => ({
    id,
    head,
    width,
    right: true,
    by,
    cell: (_, derived) => <span className={strong ? "num measured" : "num"}>{derived[id]}</span>,
    sum,
  });
  const weight = (i: Item) => (i.mass?.value ?? 0) * i.quantity;
  return [
    quantity,
    share("mass", "mass", "w-[80px]", weight, (items) => grams(total(items, (i) => i.mass?.value))),
    share("ofMass", "of the mass", "w-[84px]", weight, (items) =>
      mass > 0 ? `${((100 * total(items, (i) => i.mass?.value)) / mass).toFixed(1)} %` : "",
    ),
    share("ofMoment", "of the moment", "w-[96px]"),
    share("ofDoubt", "of the CG doubt", "w-[104px]"),
    share("costs", `1 g here costs at the ${spot}`, "w-[116px]"),
    share("worth", "1 g saved is worth", "w-[116px]", undefined, undefined, true),
  ];
}

type Change = (id: string, mutate: (item: Item) => void) => void;

function massColumns(around: Surroundings, change: Change, grams: (kg: number) => string): Column[] {
  const unit = around.habit === "metric" ? "g" : "oz";
  const each = (of: Pick<Numbers, "id" | "head" | "label" | "get" | "set" | "sum" | "className"> & { empty: string }) =>
    numbers({ ...of, width: "w-[58px]", dimension: "mass", schema: positiveOf("mass") }, around);
  return [
    each({
      id: "planned",
      head: `planned ${unit}`,
      label: "planned each",
      className: "predicted",
      empty: "–",
      get: (i) => i.planned,
      set: (i, v) => void (i.planned = v),
      sum: (items) => grams(total(items, (i) => i.planned)),
    }),
    each({
      id: "predicted",
      head: "predicted",
      label: "predicted each",
      className: "predicted",
      empty: "–",
      get: predictedOf,
      set: predict,
      sum: (items) => grams(total(items, (i) => (isWeighed(i.mass) ? (i.predicted ?? i.mass) : i.mass)?.value)),
    }),
    each({
      id: "weighed",
      head: "weighed",
      label: "weighed each",
      className: "measured",
      empty: "weigh",
      get: (i) => (isWeighed(i.mass) ? (i.mass?.value ?? null) : null),
      set: (i, v) => (v === null ? unweigh(i) : weigh(i, { value: v, evidence: "measured" })),
      sum: (items) => {
        const weighed = items.filter((i) => isWeighed(i.mass));
        return <b className="measured">{grams(total(weighed, (i) => i.mass?.value))}</b>;
      },
    }),
    {
      id: "sd",
      head: "±",
      width: "w-[36px]",
      right: true,
      cell: (_, derived) => <span className="num predicted">{derived.sd}</span>,
    },
    {
      id: "massBy",
      head: "",
      width: "w-[26px]",
      by: (i) => (i.mass ? rank(i.mass.evidence) : -1),
      cell: (item) =>
        item.mass && (
          <EvidenceSelect
            inList
            label={`${item.name}, mass known by`}
            value={item.mass.evidence}
            onChange={(evidence) =>
              change(item.id, (p) => {
                if (!p.mass) return;
                const known = { value: p.mass.value, evidence };
                if (evidence === "measured") weigh(p, known);
                else {
                  p.mass = known;
                  p.predicted = null;
                }
              })
            }
          />
        ),
    },
  ];
}

function placeColumns(around: Surroundings, change: Change): Column[] {
  const { habit, min, max, band } = around;
  const place = (axis: Axis): Column =>
    numbers(
      {
        id: axis,
        head: axis === "x" ? `x ${habit === "metric" ? "mm" : "in"}` : axis,
        width: "w-[50px]",
        label: axis,
        dimension: "length",
        schema: coordinate[axis],
        get: (i) => i.place[axis],
        set: (i, v, d) => moveItem(d, i.id, { [axis]: (v ?? 0) - i.place[axis] }),
      },
      around,
    );
  return [
    place("x"),
    place("y"),
    place("z"),
    {
      id: "placeBy",
      head: "",
      width: "w-[26px]",
      by: (i) => rank(i.placeEvidence),
      cell: (item) => (
        <EvidenceSelect
          inList
          drawing
          label={`${item.name}, place known by`}
          value={item.placeEvidence}
          onChange={(evidence) =>
            change(item.id, (p) => {
              p.placeEvidence = evidence;
              delete p.placeSd;
            })
          }
        />
      ),
    },
    {
      id: "strip",
      head: "nose to tail",
      width: "w-[112px]",
      cell: (item) => <Strip item={item} min={min} max={max} window={band} />,
    },
    {
      id: "blur",
      head: "adds to CG error",
      width: "w-[70px]",
      right: true,
      cell: (_, derived) => (
        <span className="num inline-flex items-center justify-end gap-1">
          {derived.bar && (
            <span className="inline-block h-[5px] bg-pencil" style={{ width: `${derived.bar}px` }} aria-hidden="true" />
          )}
          {derived.blur}
        </span>
      ),
    },
  ];
}

function makingColumns(around: Surroundings, change: Change): Column[] {
  const priceOf = (items: Item[]) =>
    plain(
      total(items, (i) => i.cost),
      "money",
    );
  const toBuy = (i: Item) => (i.source === "buy" && i.cost !== null ? i.cost * i.quantity : null);
  const money = (value: number | null) => <span className="num">{value === null ? "" : plain(value, "money")}</span>;
  return [
    {
      id: "group",
      head: "group",
      width: "w-[120px]",
      by: (i) => i.group,
      text: (i) => i.group,
      write: (_d, i, text) => {
        if (text.length > 60) return "at most 60 characters";
        i.group = text;
        return null;
      },
      cell: (item) => (
        <TextField
          label={`${item.name}, group`}
          value={item.group}
          placeholder="none"
          onCommit={(v) => change(item.id, (p) => void (p.group = v))}
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
