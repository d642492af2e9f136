import { isPlaced } from "../../../../core/subjects/mass/placed";
import { DISPLAY } from "../../../../core/design/units";
import { resultIn } from "../../../../core/evaluate";
import { balance } from "../../../../core/subjects/balance/node";
import type { Item } from "../../../../core/design/schema";
import { gramPrice } from "../../../../core/subjects/balance/gram";
import { plain, showSd } from "../../../../core/wording/format";
import { useCalmDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";

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
  const { design, evaluation } = useCalmDesk("sheet");
  const { habit } = usePreferences();
  const mass = resultIn(evaluation, balance);
  const price = mass?.placed.x ? gramPrice(design, mass.cg.x) : null;
  const whole = { mass: mass?.mass ?? 0, cg: mass?.cg.x ?? 0 };
  const moment = (i: Item) =>
    Math.abs((i.mass?.value ?? 0) * i.quantity * (isPlaced(i, "x") ? i.place.x - whole.cg : 0));
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
      blur: share?.mass && isPlaced(item, "x") ? showSd(share.blurX, "length", habit) : "",
      bar: share?.mass && isPlaced(item, "x") ? String(Math.round((26 * share.blurX) / widest)) : "",
      mass: weight > 0 ? plain(weight, "mass", habit) : "",
      ofMass: hundredths(weight, whole.mass),
      ofMoment: hundredths(moment(item), moments),
      ofDoubt: hundredths((share?.blurX ?? 0) ** 2, doubts),
      costs: counter > 0 ? `${counter.toFixed(2)} ${DISPLAY[habit].mass}` : counter < 0 ? "helps" : "",
      worth: item.mass && price ? `${(1 + counter).toFixed(2)} ${DISPLAY[habit].mass}` : "",
    };
  };
}
