import type { Design, Item } from "../../../../core/design/schema";
import type { UnitHabit } from "../../../../core/design/units";
import type { DeskActions } from "../../../app/desk";
import type { GridColumn } from "../../../grid/column";
import { type NumberSpec, editable, readField } from "../../../fields/readField";
import { QuantityField } from "../../../fields/QuantityField";

import type { Derived } from "./derived";

/** What the columns of the ledger show. */
export const SHEETS = ["mass and place", "making and cost", "shares and leverage"] as const;
export type SheetName = (typeof SHEETS)[number];

export type Column = GridColumn<Item, Derived, Design>;

export interface Surroundings {
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

export type Change = (id: string, mutate: (item: Item) => void) => void;

/** A column of numbers: how they are read, and what becomes of one that is typed or pasted. */
interface Numbers extends NumberSpec {
  id: string;
  head: string;
  width: string;
  /** Name of the field after that of the part. */
  label: string;
  className?: string;
  get: (item: Item) => number | null;
  /** The most of a range. */
  most?: (item: Item) => number | null;
  set: (item: Item, value: number | null, design: Design, most: number | null) => void;
  sum?: Column["sum"];
}

export function numbers(of: Numbers, { edit, habit }: Pick<Surroundings, "edit" | "habit">): Column {
  const { id, head, width, label, className, get, most, set, sum, ...spec } = of;
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
        most={most?.(item) ?? null}
        onCommit={(v, upTo) =>
          (v !== null || spec.empty !== undefined) &&
          edit((d) => {
            const found = d.items.find((i) => i.id === item.id);
            if (found) set(found, v, d, upTo);
          })
        }
      />
    ),
    by: get,
    text: (item) => {
      const value = get(item);
      const upTo = most?.(item) ?? null;
      if (value === null) return "";
      const text = editable(value, spec.dimension, habit);
      return upTo === null ? text : `${text}–${editable(upTo, spec.dimension, habit)}`;
    },
    write: (design, item, text) => {
      const read = readField(text, spec, habit);
      if (!read.ok) return read.message;
      set(item, read.value, design, read.most ?? null);
      return null;
    },
  };
}

export const total = (items: Item[], of: (i: Item) => number | null | undefined) =>
  items.reduce((s, i) => s + (of(i) ?? 0) * i.quantity, 0);
