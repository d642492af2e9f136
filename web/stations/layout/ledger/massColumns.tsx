import { positiveOf, rank } from "../../../../core/design/evidence";
import type { Item } from "../../../../core/design/schema";
import { isWeighed, unweigh, weigh } from "../../../../core/subjects/mass/evidence";
import { EvidenceSelect } from "../../../fields/EvidenceSelect";
import { renewed } from "../../../fields/KnownField";

import { type Change, type Column, type Surroundings, numbers, total } from "./numbers";

/** Puts a predicted mass into an entry: beside the weighed one where there is one. */
function predict(item: Item, value: number | null): void {
  const before = isWeighed(item.mass) ? item.predicted : item.mass;
  const next = value === null ? null : before ? renewed(before, value) : { value, evidence: "guess" as const };
  if (isWeighed(item.mass)) item.predicted = next;
  else item.mass = next;
}

const predictedOf = (item: Item) => (isWeighed(item.mass) ? item.predicted : item.mass)?.value ?? null;

export function massColumns(around: Surroundings, change: Change, grams: (kg: number) => string): Column[] {
  const unit = around.habit === "metric" ? "g" : "oz";
  const each = (
    of: Pick<Parameters<typeof numbers>[0], "id" | "head" | "label" | "get" | "set" | "sum" | "className"> & {
      empty: string;
    },
  ) => numbers({ ...of, width: "w-[58px]", dimension: "mass", schema: positiveOf("mass") }, around);
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
