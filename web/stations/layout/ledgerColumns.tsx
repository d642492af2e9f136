import { resultIn } from "../../../core/evaluate";
import { balance } from "../../../core/subjects/balance/node";
import { extent } from "../../../core/subjects/extent/node";
import { type ReactNode, useMemo } from "react";
import { positiveOf } from "../../../core/design/evidence";
import { type Axis, type Item, itemSchema } from "../../../core/design/schema";
import { gramPrice } from "../../../core/subjects/balance/gram";
import { isWeighed, unweigh, weigh } from "../../../core/subjects/mass/evidence";
import { moveItem } from "../../../core/subjects/mass/tree";
import type { UnitHabit } from "../../../core/design/units";
import { plain, showSd } from "../../../core/wording/format";
import { type DeskActions, useDesk, useDeskActions } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { EvidenceSelect } from "../../fields/EvidenceSelect";
import { renewed } from "../../fields/KnownField";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";

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

export interface Column {
  head: string;
  width?: string;
  right?: boolean;
  cell: (item: Item, derived: Derived) => ReactNode;
  /** Of the rows of one group, or of all. */
  sum?: (items: Item[]) => ReactNode;
}

/**
 * What the rest of the craft makes of an entry, as it is shown: rows are drawn again only when this or the entry
 * itself changes.
 */
export type Derived = Record<
  "sd" | "blur" | "bar" | "mass" | "ofMass" | "ofMoment" | "ofDoubt" | "costs" | "worth",
  string
>;

export function useDerived(): Map<string, Derived> {
  const { design, evaluation } = useDesk();
  const { habit } = usePreferences();
  const mass = resultIn(evaluation, balance);
  const price = mass && gramPrice(design, mass.cg.x);
  const whole = { mass: mass?.mass ?? 0, cg: mass?.cg.x ?? 0 };
  const moment = (i: Item) => Math.abs((i.mass?.value ?? 0) * i.quantity * (i.place.x - whole.cg));
  const moments = design.items.reduce((s, i) => s + moment(i), 0);
  const blurs = mass?.items.map((s) => s.blurX) ?? [];
  const doubts = blurs.reduce((s, b) => s + b ** 2, 0);
  const widest = Math.max(1e-9, ...blurs);
  const hundredths = (part: number, of: number) => (of > 0 && part > 0 ? `${((100 * part) / of).toFixed(1)} %` : "");
  return new Map(
    design.items.map((item, k) => {
      const share = mass?.items[k];
      const weight = (item.mass?.value ?? 0) * item.quantity;
      const counter = price?.at(item.place.x) ?? 0;
      const derived: Derived = {
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
      return [item.id, derived];
    }),
  );
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

function columnsOf(sheet: SheetName, { edit, habit, band, min, max, mass, spot }: Surroundings): Column[] {
  const unit = habit === "metric" ? { mass: "g", length: "mm" } : { mass: "oz", length: "in" };
  const change = (id: string, mutate: (item: Item) => void) =>
    edit((d) => {
      const item = d.items.find((i) => i.id === id);
      if (item) mutate(item);
    });
  const grams = (kg: number) => (kg > 0 ? plain(kg, "mass", habit) : "");
  const quantity: Column = {
    head: "n",
    width: "w-[32px]",
    right: true,
    cell: (item) => (
      <QuantityField
        label={`${item.name}, quantity`}
        value={item.quantity}
        dimension="count"
        schema={itemSchema.shape.quantity}
        onCommit={(v) => v !== null && change(item.id, (p) => void (p.quantity = v))}
      />
    ),
  };
  if (sheet === "mass and place") {
    const place = (axis: Axis): Column => ({
      head: axis === "x" ? `x ${unit.length}` : axis,
      width: "w-[50px]",
      right: true,
      cell: (item) => (
        <QuantityField
          label={`${item.name}, ${axis}`}
          value={item.place[axis]}
          dimension="length"
          schema={coordinate[axis]}
          onCommit={(v) => v !== null && edit((d) => moveItem(d, item.id, { [axis]: v - item.place[axis] }))}
        />
      ),
    });
    return [
      quantity,
      {
        head: `planned ${unit.mass}`,
        width: "w-[58px]",
        right: true,
        cell: (item) => (
          <QuantityField
            className="predicted"
            label={`${item.name}, planned each`}
            value={item.planned}
            dimension="mass"
            schema={positiveOf("mass")}
            empty="–"
            onCommit={(v) => change(item.id, (p) => void (p.planned = v))}
          />
        ),
        sum: (items) => grams(total(items, (i) => i.planned)),
      },
      {
        head: "predicted",
        width: "w-[58px]",
        right: true,
        cell: (item) => (
          <QuantityField
            className="predicted"
            label={`${item.name}, predicted each`}
            value={(isWeighed(item.mass) ? item.predicted : item.mass)?.value ?? null}
            dimension="mass"
            schema={positiveOf("mass")}
            empty="–"
            onCommit={(v) =>
              change(item.id, (p) => {
                const before = isWeighed(p.mass) ? p.predicted : p.mass;
                const next = v === null ? null : before ? renewed(before, v) : { value: v, evidence: "guess" as const };
                if (isWeighed(p.mass)) p.predicted = next;
                else p.mass = next;
              })
            }
          />
        ),
        sum: (items) => grams(total(items, (i) => (isWeighed(i.mass) ? (i.predicted ?? i.mass) : i.mass)?.value)),
      },
      {
        head: "weighed",
        width: "w-[58px]",
        right: true,
        cell: (item) => (
          <QuantityField
            className="measured"
            label={`${item.name}, weighed each`}
            value={isWeighed(item.mass) ? (item.mass?.value ?? null) : null}
            dimension="mass"
            schema={positiveOf("mass")}
            empty="weigh"
            onCommit={(v) =>
              change(item.id, (p) => (v === null ? unweigh(p) : weigh(p, { value: v, evidence: "measured" })))
            }
          />
        ),
        sum: (items) => (
          <b className="measured">
            {grams(
              total(
                items.filter((i) => isWeighed(i.mass)),
                (i) => i.mass?.value,
              ),
            )}
          </b>
        ),
      },
      {
        head: "±",
        width: "w-[36px]",
        right: true,
        cell: (_, derived) => <span className="num predicted">{derived.sd}</span>,
      },
      {
        head: "",
        width: "w-[26px]",
        cell: (item) =>
          item.mass && (
            <EvidenceSelect
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
      place("x"),
      place("y"),
      place("z"),
      {
        head: "",
        width: "w-[26px]",
        cell: (item) => (
          <EvidenceSelect
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
        head: "nose to tail",
        width: "w-[112px]",
        cell: (item) => <Strip item={item} min={min} max={max} window={band} />,
      },
      {
        head: "blurs CG by",
        width: "w-[70px]",
        right: true,
        cell: (_, derived) => (
          <span className="num inline-flex items-center justify-end gap-1">
            {derived.bar && (
              <span
                className="inline-block h-[5px] bg-pencil"
                style={{ width: `${derived.bar}px` }}
                aria-hidden="true"
              />
            )}
            {derived.blur}
          </span>
        ),
      },
    ];
  }
  if (sheet === "making and cost")
    return [
      quantity,
      {
        head: "group",
        width: "w-[120px]",
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
        head: "comes",
        width: "w-[130px]",
        cell: (item) => (
          <SourceSelect item={item} onChange={(source) => change(item.id, (p) => void (p.source = source))} />
        ),
      },
      {
        head: "price each €",
        width: "w-[84px]",
        right: true,
        cell: (item) => (
          <QuantityField
            label={`${item.name}, price`}
            value={item.cost}
            dimension="money"
            empty="–"
            schema={itemSchema.shape.cost.unwrap()}
            onCommit={(v) => change(item.id, (p) => void (p.cost = v))}
          />
        ),
      },
      {
        head: "price €",
        width: "w-[74px]",
        right: true,
        cell: (item) => (
          <span className="num">{item.cost === null ? "" : plain(item.cost * item.quantity, "money")}</span>
        ),
        sum: (items) =>
          plain(
            total(items, (i) => i.cost),
            "money",
          ),
      },
      {
        head: "still to buy",
        width: "w-[84px]",
        right: true,
        cell: (item) => (
          <span className="num">
            {item.source === "buy" && item.cost !== null ? plain(item.cost * item.quantity, "money") : ""}
          </span>
        ),
        sum: (items) =>
          plain(
            total(
              items.filter((i) => i.source === "buy"),
              (i) => i.cost,
            ),
            "money",
          ),
      },
      {
        head: "minutes to make",
        width: "w-[96px]",
        right: true,
        cell: (item) => (
          <QuantityField
            label={`${item.name}, minutes to make`}
            value={item.makeMinutes === null ? null : item.makeMinutes * 60}
            dimension="time"
            empty="–"
            onCommit={(v) => change(item.id, (p) => void (p.makeMinutes = v === null ? null : v / 60))}
          />
        ),
        sum: (items) => plain(items.reduce((s, i) => s + (i.makeMinutes ?? 0), 0) * 60, "time", habit, 0),
      },
    ];

  const share = (head: string, width: string, key: keyof Derived, sum?: Column["sum"], strong = false): Column => ({
    head,
    width,
    right: true,
    cell: (_, derived) => <span className={strong ? "num measured" : "num"}>{derived[key]}</span>,
    sum,
  });
  return [
    quantity,
    share("mass", "w-[80px]", "mass", (items) => grams(total(items, (i) => i.mass?.value))),
    share("of the mass", "w-[84px]", "ofMass", (items) =>
      mass > 0 ? `${((100 * total(items, (i) => i.mass?.value)) / mass).toFixed(1)} %` : "",
    ),
    share("of the moment", "w-[96px]", "ofMoment"),
    share("of the CG doubt", "w-[104px]", "ofDoubt"),
    share(`1 g here costs at the ${spot}`, "w-[116px]", "costs"),
    share("1 g saved is worth", "w-[116px]", "worth", undefined, true),
  ];
}

export function SourceSelect({ item, onChange }: { item: Item; onChange: (source: Item["source"]) => void }) {
  return (
    <select
      className="cell"
      aria-label={`${item.name}, comes from`}
      value={item.source}
      onChange={(e) => onChange(e.target.value as Item["source"])}
    >
      <option value="have">on hand</option>
      <option value="buy">to buy</option>
      <option value="salvage">from another craft</option>
      <option value="make">to make</option>
    </select>
  );
}
