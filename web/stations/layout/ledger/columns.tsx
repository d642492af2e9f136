import { DISPLAY } from "../../../../core/design/units";
import { resultIn } from "../../../../core/evaluate";
import { balance } from "../../../../core/subjects/balance/node";
import { extent } from "../../../../core/subjects/extent/node";
import { useMemo } from "react";
import { type Item, itemSchema } from "../../../../core/design/schema";
import { gramPrice } from "../../../../core/subjects/balance/gram";
import { plain } from "../../../../core/wording/format";
import { useCalmDesk, useDeskActions } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";

import { cgLimits } from "../../../../core/subjects/balance/window";
import { flight } from "../../../../core/subjects/flight/node";
import type { Derived } from "./derived";
import { makingColumns } from "./makingColumns";
import { massColumns } from "./massColumns";
import { placeColumns } from "./placeColumns";
import { type Column, type SheetName, type Surroundings, numbers, total } from "./numbers";

export function useColumns(sheet: SheetName): Column[] {
  const { seen: design, evaluation } = useCalmDesk("sheet");
  const { edit } = useDeskActions();
  const { habit } = usePreferences();
  const window = cgLimits(design, resultIn(evaluation, flight), "x");
  const [low, high] = window && Number.isFinite(window.low) ? [window.low, window.high] : [];
  const at = resultIn(evaluation, balance);
  const cg = at?.placed.x ? at.cg.x : undefined;
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
    share("costs", `1 ${DISPLAY[habit].mass} here costs at the ${spot}`, "w-[116px]"),
    share("worth", `1 ${DISPLAY[habit].mass} saved is worth`, "w-[116px]", undefined, undefined, true),
  ];
}
